import { stripEnd } from '../../item/strip.js';
import { remembered } from '../../language/remembered.js';

/**
 * What the heading of a column says that the column holds, in English, Spanish, French, German, Portuguese, Italian, Dutch,
 * Polish, Russian, Ukrainian and Turkish. Words from memory; common practice, no source.
 */

export const columnUses = [
  'ignore',
  'number',
  'question',
  'kind',
  'option',
  'options',
  'right option',
  'wrong option',
  'mark',
  'true mark',
  'false mark',
  'key',
  'accepted',
  'from',
  'to',
  'tolerance',
  'gap',
  'left',
  'partner',
  'step',
  'unit',
  'points',
  'feedback',
  'feedback right',
  'feedback wrong',
  'option feedback',
  'hint',
  'tags',
  'outcome',
  'difficulty',
  'time',
  'picture',
  'passage',
  'part',
] as const;
/** What a column is used for. */
export type ColumnUse = (typeof columnUses)[number];

const any = (words: string): RegExp => new RegExp(`^(?:${words})$`, 'iu');
const RIGHT =
  'correct|right|true|richtig|correct[oa]|correcte?|juste|bonne|cert[oa]|corrett[oa]|giust[oa]|juist|goed|poprawn\\p{L}+|правильн\\p{L}*|верн\\p{L}*|doğru';
const WRONG =
  'incorrect|wrong|false|falsch|incorrect[oa]|fausse|faux|mauvaise|incorrecte|errad[oa]|incorret[oa]|sbagliat[oa]|errat[oa]|fout|onjuist|błędn\\p{L}+|niepoprawn\\p{L}+|неправильн\\p{L}*|неверн\\p{L}*|хибн\\p{L}*|yanlış';
const OPTION_WORD =
  'options?|choices?|answers?|ans|alternatives?|distractors?|response|opci[oó]n(?:es)?|respuestas?|alternativas?|choix|r[ée]ponses?|propositions?|antwort(?:en)?|auswahl|möglichkeit|op[cç][aãoõ]+(?:es)?|respostas?|opzion[ei]|rispost[ae]|antwoord(?:en)?|opties?|keuzes?|odpowied[źz]i?|opcj[aei]|wariant|вариант\\p{L}*(?: ответа)?|ответы?|варіант\\p{L}*(?: відповіді)?|відповід[ьі]|seçenek(?:ler|leri)?|seçeneği|şık(?:lar|kı)?|cevap(?:lar)?|yanıt(?:lar)?';
const QUESTION_WORD =
  'q|questions?|definitions?|clues?|question text|question stem|stems?|prompts?|statements?|items?|tasks?|problem|preguntas?|enunciados?|afirmaci[oó]n(?:es)?|questions?|énoncés?|affirmations?|frage(?:n|text)?|aufgaben?(?:text)?|aussagen?|perguntas?|quest(?:ão|ões)|afirmaç(?:ão|ões)|domand[ae]|quesit[oi]|affermazion[ei]|vra(?:ag|gen)|stelling(?:en)?|opgave|pytani[ae]|treść(?: pytania)?|stwierdzeni[ae]|polecenie|zadani[ae]|вопросы?|текст вопроса|задани[ея]|утверждени[ея]|(?:за)?питання|текст питання|завдання|твердження|soru(?:lar)?|soru metni|ifade|önerme';
const FEEDBACK_WORD =
  'feedback|remarks?|bemerkung(?:en)?|anmerkung(?:en)?|observaciones|remarques?|observações|opmerking(?:en)?|uwagi|примечани[ея]|примітки|notlar|worked solutions?|working(?: out)?|lösungsweg|rechenweg|desarrollo|procedimiento|démarche|svolgimento|uitwerking|explanations?|rationale|reasons?|comments?|justification|solution notes?|why(?: so)?|warum|perch[ée]|por qu[ée]|porque|pourquoi|waarom|dlaczego|почему|чому|neden|niçin|explicaci[oó]n|retroalimentaci[oó]n|comentario|justificaci[oó]n|motivo|explications?|commentaires?|rétroaction|erklärung|erläuterung|begründung|rückmeldung|kommentar|explicaç[aã]o|justificaç[aã]o|coment[aá]rio|spiegazion[ei]|commento|motivazione|riscontro|uitleg|toelichting|terugkoppeling|wyjaśnieni[ea]|komentarz|uzasadnienie|informacja zwrotna|пояснени[ея]|объяснени[ея]|комментари[ий]|пояснення|коментар|обґрунтування|açıklama|geri bildirim|gerekçe';

/** A letter or a number behind the name of a column that comes several times: "Step 2", "Gap (b)". */
const NTH = ' ?[(]?(?:[A-HА-Д]|\\d{1,2})?[)]?';

/** Whole headings and what they mean; the first row that fits is meant most often, later ones may be. */
const HEADINGS: readonly [ColumnUse, RegExp][] = [
  [
    'number',
    any('#|no|nr|n[º°]|num|number|q|q(?:uestion)? ?(?:no|nr|#|number)|№|lp|nummer|número|numéro|numero|sıra(?: no)?|номер|п/п|№ ?п/п|frage ?nr|item ?no'),
  ],
  [
    'kind',
    any(
      'kinds?|types?|(?:question|item) ?(?:type|kind|format)|tipos?(?: de pregunta)?|type de question|art|frage(?:n)?typ|fragetyp|typ(?: pytania)?|tipo di domanda|tipo de questão|vraagtype|soort|тип(?: вопроса| питання)?|вид|soru türü|tür|tip',
    ),
  ],
  [
    'tolerance',
    any(
      'tolerances?|margin|error|\\+/-|±|tolerancia|tolérance|toleranz|tolerância|tolleranza|tolerantie|tolerancja|допуск|похибка|погрешность|tolerans|hata payı',
    ),
  ],
  ['unit', any('units?|unidad(?:es)?|unité|einheit|unidade|unità|eenheid|jednostka|единиц[аы](?: измерения)?|одиниц[яі]|birim')],
  [
    'points',
    any(
      'points?|pts|marks?|scores?|weight|max(?:imum)?(?: (?:points|marks|score))?|credits?|puntos|puntaje|puntuaci[oó]n|valor|note|barème|punkte?|punktzahl|pontos|pontuação|cotação|punt[io]|punteggio|punten|punkty|liczba punktów|pkt|балл[ыи]?|бали?|очки|puan(?:lar)?|puanı',
    ),
  ],
  [
    'hint',
    any(
      'hints?|tips?|clues?|help|pistas?|ayuda|indices?|aide|hinweise?|tipps?|hilfe|dicas?|suggeriment[oi]|indizi?|aiuto|aanwijzing(?:en)?|wskazówk[ai]|podpowiedź|подсказк[аи]|підказк[аи]|ipucu|ipuçları',
    ),
  ],
  [
    'tags',
    any(
      "tags?|keywords?|topics?|lessons?|leccion(?:es)?|leçons?|lektion(?:en)?|lição|lezion[ei]|lekcja|урок|categor(?:y|ies)|themes?|subjects?|areas?|chapters?|units? of study|etiquetas?|temas?|categor[ií]as?|mots?-clés?|thèmes?|catégories?|sujets?|schlagw(?:ort|örter)|stichw(?:ort|orte|örter)|themen?|themengebiet|kategorien?|kapitel|tópicos?|assuntos?|palavras-chave|argoment[oi]|tem[ai]|etichett[ae]|onderwerp(?:en)?|thema'?s?|trefwoorden|tematy?|kategori[ae]|tagi|słowa kluczowe|тем[аы]|категори[яи]|метк[аи]|категорі[яї]|мітк[аи]|теги|konu(?:lar)?|etiket(?:ler)?|kategori",
    ),
  ],
  [
    'outcome',
    any(
      'outcomes?|objectives?|learning (?:outcomes?|objectives?)|standards?|skills?|competenc(?:y|e|ies)|resultados? de aprendizaje|objetivos?|competencias?|objectifs?|compétences?|lernziele?|kompetenz(?:en)?|objetivos? de aprendizagem|competências?|obiettiv[oi]|competenz[ae]|leerdoel(?:en)?|vaardigheid|cele?|cel kształcenia|umiejętnoś(?:ć|ci)|цел[ьи]|умени[ея]|компетенци[яи]|ціл[ьі]|компетентн\\p{L}+|kazanım(?:lar)?|beceri',
    ),
  ],
  [
    'difficulty',
    any(
      'difficult(?:y|ies)|level|difficulty level|dificultad|nivel|difficulté|niveau|schwierigkeit(?:sgrad)?|niveau|dificuldade|nível|difficoltà|livello|moeilijkheid(?:sgraad)?|trudność|poziom|сложность|уровень|складність|рівень|zorluk|seviye',
    ),
  ],
  [
    'time',
    any(
      'time|time (?:limit|allowed)|(?:time )?(?:limit )?(?:in )?(?:seconds?|secs?|minutes?)|duration|timer|clock|time ?s|time limit s|tiempo(?: límite)?|segundos|temps|durée|secondes|zeit(?:limit)?|sekunden|dauer|tempo(?: limite)?|duração|secondi|durata|tijd|seconden|duur|czas|sekundy|время|секунды|час|süre|saniye',
    ),
  ],
  [
    'picture',
    any(
      'pictures?|images?|photos?|figures?|media|(?:picture|image)(?: file)?(?: name)?|im[aá]gen(?:es)?|foto|bild(?:er)?|bilddatei|imagem|immagin[ei]|figura|afbeelding(?:en)?|plaatje|obraz(?:ek)?|zdjęcie|рисунок|картинка|изображение|зображення|малюнок|resim|görsel',
    ),
  ],
  [
    'passage',
    any('passages?|texts?|reading(?: text)?|source text|stimulus|texto|texte|textgrundlage|lesetext|testo|brano|leestekst|tekst źródłowy|текст|metin|paragraf'),
  ],
  ['part', any('parts?|sections?|exercise|parte|partie|teil|abschnitt|seção|sezione|deel|część|sekcja|часть|раздел|частина|розділ|bölüm|kısım')],
  [
    'feedback right',
    any(
      `(?:${FEEDBACK_WORD}) ?(?:(?:if|when|for|on|bei|si|se|als|jeśli|при|eğer)? ?(?:${RIGHT})\\p{L}*(?: (?:answers?|response|antwort|respuesta|réponse|resposta|risposta))?)|(?:${RIGHT})\\p{L}* (?:answer )?(?:${FEEDBACK_WORD})|if (?:right|correct)|praise`,
    ),
  ],
  [
    'feedback wrong',
    any(
      `(?:${FEEDBACK_WORD}) ?(?:(?:if|when|for|on|bei|si|se|als|jeśli|при|eğer)? ?(?:${WRONG})\\p{L}*(?: (?:answers?|response|antwort|respuesta|réponse|resposta|risposta))?)|(?:${WRONG})\\p{L}* (?:answer )?(?:${FEEDBACK_WORD})|if (?:wrong|incorrect)`,
    ),
  ],
  ['option feedback', any(`(?:${FEEDBACK_WORD}) (?:(?:for |to |on )?(?:${OPTION_WORD}) ?)?(?:[A-H]|\\d)|option feedback`)],
  [
    'feedback',
    any(
      `(?:(?:general|overall|allgemein\\p{L}*|générale?|general|geral|generale|algemene|ogólny|общ\\p{L}+|загальн\\p{L}+|genel) )?(?:${FEEDBACK_WORD})(?: ?(?:general|always|immer|siempre|toujours|sempre|altijd|zawsze|всегда|завжди|her zaman|overall))?`,
    ),
  ],
  [
    'wrong option',
    any(
      `(?:${WRONG}) ?(?:(?:${OPTION_WORD}))? ?(?:[A-H]|\\d{1,2})?|(?:${OPTION_WORD}) (?:${WRONG}) ?(?:[A-H]|\\d{1,2})?|(?:distractors?|foils?|decoys?) ?(?:[A-H]|\\d{1,2})?|distra[ck]tor\\p{L}* ?\\d?`,
    ),
  ],
  [
    'options',
    any(
      `(?:all |answer |possible |response |mögliche )?(?:options|choices|alternatives|opciones|alternativas|antwortmöglichkeiten|auswahl(?:möglichkeiten)?|choix(?: possibles)?|propositions|opç[oõ]es|alternativas|opzioni|alternative|opties|keuzes|antwoordmogelijkheden|opcje|варианты(?: ответов?)?|варіанти(?: відповідей)?|seçenekler|şıklar)`,
    ),
  ],
  ['option', any(`(?:${OPTION_WORD}|opt) ?[(]?(?:[A-HА-Д]|\\d{1,2}|[ivx]{1,4})[)]?|[A-H]|[А-Д]|(?:[A-H]|\\d) ?(?:${OPTION_WORD})|option text|option`)],
  [
    'key',
    any(
      `keys?|terms?|words?|answer key|solutions?|solution letter|(?:the )?(?:${RIGHT})(?:s|e|n|es)? ?(?:${OPTION_WORD}|letters?|no|nr|number|index|key|buchstabe|letra|lettre|lettera|litera|буква|harf)?(?: ?\\(s\\))?|(?:${OPTION_WORD}) (?:${RIGHT})(?:s|e|n|es)?(?: no)?|(?:accepted|model|expected|sample) answers?|answers?|ans|clave|soluci[oó]n|respuestas?|corrig[ée]|r[ée]ponses?|lösung(?:en)?|lösungsbuchstabe|antwort(?:en)?|schlüssel|musterlösung|gabarito|chave|solução|respostas?|soluzion[ei]|chiave|rispost[ae]|sleutel|antwoord(?:en)?|oplossing|klucz|odpowied[źz]i?|rozwiązanie|ключ|ответы?|відповід[ьі]|cevap(?:lar)?(?: anahtarı)?|yanıt|anahtar|[TVRWJP]\\s?/\\s?[FNЛ]|true\\s?(?:/|or)\\s?false|richtig\\s?/\\s?falsch|vrai\\s?/\\s?faux|verdadero\\s?/\\s?falso|verdadeiro\\s?/\\s?falso|vero\\s?/\\s?falso|waar\\s?/\\s?onwaar|prawda\\s?/\\s?fałsz|верно\\s?/\\s?неверно|doğru\\s?/\\s?yanlış|is correct|richtige? antwort(?:en)?`,
    ),
  ],
  ['question', any(QUESTION_WORD)],
  [
    'ignore',
    any(
      "(?:item |question |internal |unique )?(?:id|uid|uuid|guid|ref(?:erence)?|code|checksum|hash)|authors?|auteur|autore|autora?|verfasser(?:in)?|ersteller|auteurs|автор|yazar|(?:date|created|creat(?:ed|ion) (?:on|at|date)|modified|last (?:edited|modified|used|changed|update)|updated|datum|erstellt(?: am)?|geändert(?: am)?|fecha(?: de creación)?|data(?: di creazione| de criação)?|дата|tarih)(?: .*)?|status|state|reviewed(?: by)?|checked(?: by)?|approved(?: by)?|geprüft(?: von)?|revisado(?: por)?|version|used in|times used|use count|source|quelle|fuente|fonte|bron|źródło|источник|джерело|kaynak|page|seite|página|pagina|strona|страница|sayfa|licen[cs]e|(?:internal|private|teacher(?:'s)?|editor(?:'s)?) (?:remarks?|notes?|comments?)|memo|note interne|len(?:gth)?|chars?|zeichen|net|rate|facility|discrimination|p-?value",
    ),
  ],
  [
    'accepted',
    any(
      `(?:also|other|further|alternat(?:e|ive)|additional|more|second(?:ary)?) ?(?:accept(?:ed|able)?|correct|right)? ?(?:answers?|spellings?|wordings?|responses?|solutions?)?${NTH}|accept(?:ed|able)?(?: too| also)|accept(?:ed)? ?[(]?(?:\\d|[A-H])[)]?|accept(?:ed|able)? (?:answer|wording|response|spelling)s?[(]? ?(?:[2-9]|[B-H])[)]?|synonyms?${NTH}|variants?${NTH}|(?:auch|ebenfalls|weitere) ?(?:richtige?|zulässige?|akzeptiert|möglich)?\\p{L}* ?(?:antwort(?:en)?|lösung(?:en)?|schreibweisen?)?${NTH}|alternative (?:antwort|lösung|schreibweise)${NTH}|también (?:vale|válid[oa]|se acepta|correct[oa])?${NTH}|otras? respuestas?(?: válidas?| aceptadas?)?${NTH}|sinónimos?${NTH}|(?:aussi|autres?) (?:accepté|réponses?|juste|possible)\\p{L}*(?: acceptées?)?${NTH}|synonymes?${NTH}|também (?:aceito?|certo|válido)${NTH}|outras? respostas?(?: aceitas?)?${NTH}|(?:anche|altre risposte)(?: (?:accettat[ae]|giust[ae]|valid[ae]))?${NTH}|sinonim[oi]${NTH}|ook (?:goed|juist)${NTH}|andere (?:goede )?antwoorden${NTH}|(?:również|też) (?:poprawn\\p{L}+|dobrze)${NTH}|synonim\\p{L}*${NTH}|также (?:верно|принимается|правильно)${NTH}|синоним\\p{L}*${NTH}|також (?:правильно|приймається)${NTH}|kabul edilen(?: diğer)?${NTH}`,
    ),
  ],
  [
    'key',
    any(
      '(?:right |correct )?(?:order|position|place|sequence)|reihenfolge|rang|platz|posición|orden|ordre|ordem|posição|ordine|posizione|volgorde|plaats|kolejność|pozycja|порядок|позиция|позиція|sıra',
    ),
  ],
  [
    'gap',
    any(
      `(?:gap|blank|lücke|hueco|espacio|lacuna|trou|blanc|buco|spazio|gat|luka|пропуск|прогалина|boşluk)${NTH}(?: ?(?:answer|word|solution|lösung|respuesta|réponse))?`,
    ),
  ],
  ['step', any(`(?:step|stage|event|schritt|etappe|ereignis|paso|étape|passo|fase|stap|krok|шаг|этап|крок|етап|adım)${NTH}`)],
  [
    'from',
    any(
      '(?:min(?:imum)?|lower|lowest|smallest|least)(?: ?(?:value|limit|bound|answer|accepted))?|(?:accept(?:ed)? |range )?from|(?:accept(?:ed)? |range )?low|von|ab|unterer? (?:wert|grenze)|untere grenze|mín(?:imo)?|desde|mini(?:mum)?|de|da|minimo|mínimo|van|ondergrens|od|от|мин(?:имум)?|від|мін(?:імум)?|en az|alt sınır',
    ),
  ],
  [
    'to',
    any(
      '(?:max(?:imum)?|upper|highest|largest|most)(?: ?(?:value|limit|bound|answer|accepted))?|(?:accept(?:ed)? |range )?to|up to|until|(?:accept(?:ed)? |range )?high|bis|oberer? (?:wert|grenze)|obere grenze|máx(?:imo)?|hasta|maxi(?:mum)?|à|a|até|massimo|máximo|tot|bovengrens|do|до|макс(?:имум)?|en çok|üst sınır',
    ),
  ],
  [
    'left',
    any(
      `left(?: side| column| hand(?: side)?)?${NTH}|column (?:a|1)|linke? (?:seite|spalte)${NTH}|links|spalte (?:a|1)|izquierda|columna (?:a|1)|gauche|colonne (?:a|1)|esquerda|coluna (?:a|1)|sinistra|colonna (?:a|1)|linkerkant|kolom (?:a|1)|lewa(?: strona)?|kolumna (?:a|1)|левая (?:часть|сторона|колонка)|слева|ліва частина|ліворуч|sol(?: taraf)?|premise${NTH}|prompt${NTH}|(?:item|term|word|begriff|término|terme|termo|termine|begrip|pojęcie|термин|термін|terim)${NTH}`,
    ),
  ],
  [
    'partner',
    any(
      `right(?: side| column| hand(?: side)?)${NTH}|column (?:b|2)|rechte? (?:seite|spalte)${NTH}|rechts|spalte (?:b|2)|derecha|columna (?:b|2)|droite|colonne (?:b|2)|direita|coluna (?:b|2)|destra|colonna (?:b|2)|rechterkant|kolom (?:b|2)|prawa(?: strona)?|kolumna (?:b|2)|правая (?:часть|сторона|колонка)|справа|права частина|праворуч|sağ(?: taraf)?|match(?:es)?(?: with)?${NTH}|partner${NTH}|pairs? with|goes with|gehört zu|passt zu|zuordnung${NTH}|corresponde a|pareja${NTH}|correspond(?:ance)?(?: à)?${NTH}|va avec|par${NTH}|abbinamento${NTH}|corrisponde a|hoort bij|para${NTH}|пара${NTH}|соответствие${NTH}|відповідність|eşi${NTH}|definition|definición|définition|definição|definizione|definitie|definicja|определение|визначення|tanım`,
    ),
  ],
];
const QUESTION_WITH_NOTE = new RegExp(`^(?:${QUESTION_WORD})(?![\\p{L}])`, 'iu');

/** A heading without what stands in brackets, marks and line breaks. */
const bare = (heading: string): string =>
  stripEnd(
    heading
      .replace(/[\s\u00a0]+/g, ' ')
      .replace(/_/g, ' ')
      .trim(),
    /[:.*?]/,
  )
    .replace(/^\*+/, '')
    .replace(/\.(?=\s|$)/g, '')
    .trim();

/** How strongly a heading says a use: its first meaning 3, a further one 2, a word of it among others 1. */
export type HeadingSays = ReadonlyMap<ColumnUse, number>;

/** Each row of the table again, to be found among other words. */
const WITHIN: readonly [ColumnUse, RegExp][] = HEADINGS.map(([use, find]) => [
  use,
  new RegExp(`(?<![\\p{L}\\p{N}])${find.source.slice(1, -1)}(?![\\p{L}\\p{N}])`, 'giu'),
]);
/** Words that are too short or too common to say anything within others. */
const LEAST_WITHIN = 4;

/** Umlauts as they are typed where there are no keys for them. */
const UMLAUTS: Readonly<Record<string, string>> = { ae: 'ä', oe: 'ö', ue: 'ü', ss: 'ß' };

/** What a heading may say that its column holds, with how strongly; empty where it says nothing known. */
export const saysOf = remembered((heading: string): HeadingSays => {
  const says = said(heading);
  if (says.size) return says;
  const typed = heading.replace(/[aou]e|ss/gi, (m) => UMLAUTS[m.toLowerCase()] ?? m);
  return typed === heading ? says : said(typed);
});
function said(heading: string): HeadingSays {
  const says = new Map<ColumnUse, number>();
  // as programs name things: "CorrectAnswer"
  const whole = bare(heading.replace(/(\p{Ll})(?=\p{Lu}\p{Ll})/gu, '$1 '));
  if (!whole || whole.length > 160) return says;
  const without = whole
    .replace(/[([][^()[\]]*[)\]]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  const forms = new Set(
    [
      whole
        .replace(/[([\])]/g, '')
        .replace(/\s+/g, ' ')
        .trim(),
      without,
      // what stands behind a dash or a colon explains: "Answer – letter only"
      without.split(/\s[-–—]\s|:\s|,\s/)[0]?.trim() ?? '',
    ].filter(Boolean),
  );
  for (const text of forms) for (const [use, find] of HEADINGS) if (!says.has(use) && find.test(text)) says.set(use, says.size ? 2 : 3);
  if (!says.size && without.length < 60 && QUESTION_WITH_NOTE.test(without)) says.set('question', 3);
  if (!says.size && whole.length < 60)
    for (const [use, find] of WITHIN) {
      const found = [...whole.matchAll(find)].some((m) => m[0].length >= LEAST_WITHIN);
      if (found) says.set(use, 1);
    }
  return says;
}

/** Whether a heading is a known one as a whole, which is quick to tell. */
export const isKnownHeading = remembered((heading: string): boolean => {
  const whole = bare(heading);
  return whole.length > 0 && whole.length <= 40 && HEADINGS.some(([, find]) => find.test(whole));
});

/** What a heading says first; null where it says nothing known. */
export function useOf(heading: string): ColumnUse | null {
  const [first] = saysOf(heading);
  return first && first[1] > 1 ? first[0] : null;
}

/** A heading that says that its option is the right one: "Choice 1 (correct)". */
export const SAYS_RIGHT = new RegExp(`(?<!\\p{L})(?:${RIGHT})(?!\\p{L})`, 'iu');

/** Headings of a column beside each option that says whether it is right. */
export const MARK_HEADING = any(
  `(?:(?:${OPTION_WORD})? ?(?:[A-H]|\\d{1,2}) )?(?:x|✓|✔|ok|\\+|%|${RIGHT}|(?:is )?correct\\??|right\\?|key|(?:score|value|percent|credit|fraction|weight|share|anteil|gewicht|porcentaje|pourcentage|percentuale|доля|вес)(?: ?(?:of (?:the )?points|percent|in %|%))?)(?: ?(?:[A-H]|\\d{1,2}))?`,
);
