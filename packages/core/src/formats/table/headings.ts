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
  'key',
  'tolerance',
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
import { stripEnd } from '../../item/strip.js';
/** What a column is used for. */
export type ColumnUse = (typeof columnUses)[number];

const any = (words: string): RegExp => new RegExp(`^(?:${words})$`, 'iu');
const RIGHT =
  'correct|right|true|richtig|correct[oa]|correcte?|juste|bonne|cert[oa]|corrett[oa]|giust[oa]|juist|goed|poprawn\\p{L}+|правильн\\p{L}*|верн\\p{L}*|doğru';
const WRONG =
  'incorrect|wrong|false|falsch|incorrect[oa]|fausse|faux|mauvaise|incorrecte|errad[oa]|incorret[oa]|sbagliat[oa]|errat[oa]|fout|onjuist|błędn\\p{L}+|niepoprawn\\p{L}+|неправильн\\p{L}*|неверн\\p{L}*|хибн\\p{L}*|yanlış';
const OPTION_WORD =
  'options?|choices?|answers?|alternatives?|distractors?|response|opci[oó]n(?:es)?|respuestas?|alternativas?|choix|r[ée]ponses?|propositions?|antwort(?:en)?|auswahl|möglichkeit|op[cç][aãoõ]+(?:es)?|respostas?|opzion[ei]|rispost[ae]|antwoord(?:en)?|opties?|keuzes?|odpowied[źz]i?|opcj[aei]|wariant|вариант\\p{L}*(?: ответа)?|ответы?|варіант\\p{L}*(?: відповіді)?|відповід[ьі]|seçenek(?:ler)?|şık(?:lar)?|cevap(?:lar)?|yanıt(?:lar)?';
const QUESTION_WORD =
  'questions?|definitions?|clues?|question text|question stem|stems?|prompts?|statements?|items?|tasks?|problem|preguntas?|enunciados?|afirmaci[oó]n(?:es)?|questions?|énoncés?|affirmations?|frage(?:n|text)?|aufgaben?(?:text)?|aussagen?|perguntas?|quest(?:ão|ões)|afirmaç(?:ão|ões)|domand[ae]|quesit[oi]|affermazion[ei]|vra(?:ag|gen)|stelling(?:en)?|opgave|pytani[ae]|treść(?: pytania)?|stwierdzeni[ae]|polecenie|вопросы?|текст вопроса|задани[ея]|утверждени[ея]|(?:за)?питання|текст питання|завдання|твердження|sorular?|soru metni|ifade|önerme';
const FEEDBACK_WORD =
  'feedback|explanations?|rationale|reasons?|comments?|justification|solution notes?|why|explicaci[oó]n|retroalimentaci[oó]n|comentario|justificaci[oó]n|motivo|explications?|commentaires?|rétroaction|erklärung|erläuterung|begründung|rückmeldung|kommentar|explicaç[aã]o|justificaç[aã]o|coment[aá]rio|spiegazion[ei]|commento|motivazione|riscontro|uitleg|toelichting|terugkoppeling|wyjaśnieni[ea]|komentarz|uzasadnienie|informacja zwrotna|пояснени[ея]|объяснени[ея]|комментари[ий]|пояснення|коментар|обґрунтування|açıklama|geri bildirim|gerekçe';

/** Whole headings and what they mean; the first row that fits counts. */
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
      'time|time (?:limit|allowed)|(?:time )?(?:limit )?(?:in )?(?:seconds?|secs?|minutes?)|duration|time ?s|time limit s|tiempo(?: límite)?|segundos|temps|durée|secondes|zeit(?:limit)?|sekunden|dauer|tempo(?: limite)?|duração|secondi|durata|tijd|seconden|duur|czas|sekundy|время|секунды|час|süre|saniye',
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
      `(?:${WRONG}) ?(?:(?:${OPTION_WORD}))? ?(?:[A-H]|\\d{1,2})?|(?:${OPTION_WORD}) (?:${WRONG}) ?(?:[A-H]|\\d{1,2})?|distractors? ?(?:[A-H]|\\d{1,2})?|distra[ck]tor\\p{L}* ?\\d?`,
    ),
  ],
  [
    'options',
    any(
      `(?:all |answer |possible |response |mögliche )?(?:options|choices|alternatives|opciones|alternativas|antwortmöglichkeiten|auswahl(?:möglichkeiten)?|choix(?: possibles)?|propositions|opç[oõ]es|alternativas|opzioni|alternative|opties|keuzes|antwoordmogelijkheden|opcje|варианты(?: ответов?)?|варіанти(?: відповідей)?|seçenekler|şıklar)`,
    ),
  ],
  ['option', any(`(?:${OPTION_WORD}|opt) ?[(]?(?:[A-HА-Д]|\\d{1,2})[)]?|[A-H]|[А-Д]|(?:[A-H]|\\d) ?(?:${OPTION_WORD})|option text|option`)],
  [
    'key',
    any(
      `keys?|terms?|words?|answer key|solutions?|solution letter|(?:the )?(?:${RIGHT})(?:s|e|n|es)? ?(?:${OPTION_WORD}|letters?|no|nr|number|index|key|buchstabe|letra|lettre|lettera|litera|буква|harf)?(?: ?\\(s\\))?|(?:${OPTION_WORD}) (?:${RIGHT})(?:s|e|n|es)?(?: no)?|(?:accepted|model|expected|sample) answers?|answers?|ans|clave|soluci[oó]n|respuestas?|corrig[ée]|r[ée]ponses?|lösung(?:en)?|lösungsbuchstabe|antwort(?:en)?|schlüssel|musterlösung|gabarito|chave|solução|respostas?|soluzion[ei]|chiave|rispost[ae]|sleutel|antwoord(?:en)?|oplossing|klucz|odpowied[źz]i?|rozwiązanie|ключ|ответы?|відповід[ьі]|cevap(?:lar)?(?: anahtarı)?|yanıt|anahtar|[TVRWJP]\\s?/\\s?[FNЛ]|true\\s?(?:/|or)\\s?false|richtig\\s?/\\s?falsch|vrai\\s?/\\s?faux|verdadero\\s?/\\s?falso|verdadeiro\\s?/\\s?falso|vero\\s?/\\s?falso|waar\\s?/\\s?onwaar|prawda\\s?/\\s?fałsz|верно\\s?/\\s?неверно|doğru\\s?/\\s?yanlış|is correct|richtige? antwort(?:en)?`,
    ),
  ],
  ['question', any(QUESTION_WORD)],
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

/** What a heading says; null where it says nothing known. */
export function useOf(heading: string): ColumnUse | null {
  const whole = bare(heading);
  if (!whole || whole.length > 80) return null;
  const without = whole
    .replace(/[([][^()[\]]*[)\]]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  const said = [
    whole
      .replace(/[([\])]/g, '')
      .replace(/\s+/g, ' ')
      .trim(),
    without,
  ].filter(Boolean);
  for (const text of said) for (const [use, find] of HEADINGS) if (find.test(text)) return use;
  return without.length < 60 && QUESTION_WITH_NOTE.test(without) ? 'question' : null;
}

/** Headings of a column beside each option that says whether it is right. */
export const MARK_HEADING = any(
  `(?:(?:${OPTION_WORD})? ?(?:[A-H]|\\d{1,2}) )?(?:x|✓|✔|ok|\\+|%|${RIGHT}|(?:is )?correct\\??|right\\?|key|score|value|percent|credit|fraction|weight|share)(?: ?(?:[A-H]|\\d{1,2}))?`,
);
