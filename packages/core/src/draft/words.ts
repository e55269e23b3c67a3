/** The words that say what a line is, in English, Spanish, French, German, Portuguese, Italian, Dutch, Polish, Russian, Ukrainian and Turkish. */

const any = (words: string): string =>
  words
    .trim()
    .split(/\s*\|\s*|\n\s*/)
    .filter(Boolean)
    .join('|');

export const ANSWER =
  any(`r(?=\\s*:)|correct answers?|right answers?|model answers?|sample answers?|accepted answers?|acceptable answers?|answers?|ans\\.?|correct options?|(?:correct |right )?order|(?:correct |right )?sequence|correct|key|solution
  respuestas? correctas?|respuestas?|soluci[oó]n|clave|bonnes? r[ée]ponses?|r[ée]ponses? correctes?|r[ée]ponses? attendues?|r[ée]ponses?|richtige antworten|richtige antwort|antworten|antwort|l[öo]sung|richtig
  respostas? corretas?|respostas? certas?|respostas?|gabarito|risposte corrette|risposta corretta|risposta esatta|risposte|risposta|soluzione|juiste antwoord(?:en)?|correcte? antwoord(?:en)?|goede antwoord(?:en)?|antwoord(?:en)?
  poprawn[ea] odpowied[zź](?:i)?|prawid[lł]ow[ea] odpowied[zź](?:i)?|odpowied[zź](?:i)?|odp\\.?|klucz|правильные ответы|правильный ответ|верный ответ|ответы|ответ|правильна відповідь|правильні відповіді|відповіді|відповідь
  do[ğg]ru cevap|do[ğg]ru yan[ıi]t|cevaplar|cevap|yan[ıi]t`);

export const KEY_HEADING =
  any(`(?:teacher'?s?'? |marking )?answer keys?|answers?(?: and explanations)?|(?:teacher'?s?'? )?keys?|marking keys?|solutions?|correct answers|answer sheet|answer list
  respuestas(?: correctas)?|soluciones|clave(?: de respuestas)?|solucionario|corrig[ée](?:s)?|r[ée]ponses|solutions|l[öo]sungen|l[öo]sungsschl[üu]ssel|antworten|respostas|gabarito|chave(?: de respostas)?|risposte|soluzioni|chiave|chiave delle risposte
  antwoorden|antwoordmodel|sleutel|odpowiedzi|klucz(?: odpowiedzi)?|ответы|ключ(?:и)?(?: ответов)?|правильные ответы|відповіді|ключ(?:і)?(?: відповідей)?|правильні відповіді|cevaplar|cevap anahtar[ıi]|yan[ıi]t anahtar[ıi]`);

export const QUESTION = any(
  'question|q|item|pregunta|question|frage|aufgabe|pergunta|quest[aã]o|domanda|vraag|pytanie|zadanie|вопрос|задание|питання|запитання|soru',
);

export const TRUE = any('true|verdadero|cierto|correcto|vrai|wahr|richtig|verdadeiro|certo|vero|waar|juist|prawda|верно|правда|вірно|правильно|doğru');
export const FALSE = any('false|falso|incorrecto|faux|falsch|errado|onwaar|niet waar|onjuist|fałsz|неверно|ложь|неправда|невірно|неправильно|yanlış');
export const TRUE_SHORT = new Set(['t', 'v', 'r', 'w', 'p', 'd', 'в', 'п']);
export const FALSE_SHORT = new Set(['f', 'o', 'n', 'y', 'н', 'х']);

export const FEEDBACK =
  any(`feedback|explanation|rationale|reason(?:ing)?|why|because|note|comment|explicaci[oó]n|retroalimentaci[oó]n|justificaci[oó]n|comentario|explication|justification|commentaire|pourquoi
  erkl[äa]rung|begr[üu]ndung|r[üu]ckmeldung|hinweis zur l[öo]sung|warum|explica[çc][aã]o|coment[aá]rio|justificativa|porqu[eê]|spiegazione|motivazione|commento|perch[ée]|uitleg|toelichting|waarom|feedback
  wyja[sś]nienie|uzasadnienie|komentarz|пояснение|объяснение|комментарий|почему|пояснення|обґрунтування|коментар|чому|a[çc][ıi]klama|neden`);
export const HINT = any('hints?|tip|clue|pista|indice|tipp|hinweis|dica|suggerimento|indizio|aanwijzing|wskaz[oó]wka|podpowied[zź]|подсказка|підказка|ipucu');
export const POINTS = any(
  'points?|pts?\\.?|marks?|score|worth|puntos?|pts|punkte?|pontos?|punti|punto|punten|punt|pkt\\.?|punkt(?:y|[oó]w)|балл(?:ы|ов|а)?|бал(?:и|ів|а)?|puan',
);
export const TAGS = any('tags?|topics?|category|etiquetas?|tema|mots-cl[ée]s|schlagworte?|thema|etichette|trefwoorden|tagi|теги|теги|etiketler|konu');
export const OUTCOME = any(
  'outcomes?|objectives?|learning objectives?|skills?|standard|objetivos?|objectifs?|lernziele?|obiettiv[oi]|leerdoel(?:en)?|cele?|цель|мета|kazan[ıi]m',
);
export const DIFFICULTY = any(
  'difficulty|level|dificultad|nivel|difficult[ée]|niveau|schwierigkeit|dificuldade|n[íi]vel|difficolt[àa]|livello|moeilijkheid|trudno[sś][cć]|сложность|складність|zorluk',
);
export const BLOOM = any("bloom(?:'s)?(?: level| taxonomy)?|cognitive level");
export const DEPTH = any('dok|depth of knowledge|depth');
export const TIME = any('time(?: limit)?|tiempo|temps|zeit|tempo|tijd|czas|время|час|s[üu]re');

export const PART = any(
  'part|section|exercise|exercice|ejercicio|exerc[ií]cio|esercizio|[üu]bung|oefening|ćwiczenie|упражнение|вправа|alıştırma|grupo|groupe|gruppe|secci[oó]n|parte|partie|teil|abschnitt|sec[çc][aã]o|sezione|deel|onderdeel|cz[eę][sś][cć]|часть|раздел|частина|розділ|b[öo]l[üu]m',
);

/** Words of a part heading or of an item that say its kind. */
export const KIND_WORDS: readonly [
  RegExp,
  'multiple-choice' | 'multiple-response' | 'true-false' | 'short-answer' | 'numeric' | 'cloze' | 'matching' | 'ordering' | 'essay',
][] = [
  [
    /true\s*(?:\/|or|and|-)\s*false|\bT\s*(?:\/|or)\s*F\b|\bV\s*(?:\/|o|ou)\s*F\b|\bR\s*(?:\/|oder)\s*F\b|verdadero\s*(?:\/|o|y)\s*falso|vrai\s*(?:\/|ou|et)\s*faux|(?:richtig|wahr)\s*(?:\/|oder)\s*falsch|verdadeiro\s*(?:\/|ou|e)\s*falso|vero\s*(?:\/|o|e)\s*falso|waar\s*(?:\/|of)\s*(?:onwaar|niet waar)|juist\s*(?:\/|of)\s*onjuist|prawda\s*(?:\/|czy|lub|i)\s*fałsz|верно\s*(?:\/|или)\s*неверно|правда\s*(?:\/|чи|або)\s*неправда|doğru\s*(?:\/|ya da|mu)?\s*yanlış/i,
    'true-false',
  ],
  [
    /multiple[- ]response|select all|choose all|mark all|tick all|all that apply|more than one answer|selección múltiple|mehrfachauswahl|várias respostas/i,
    'multiple-response',
  ],
  [
    /multiple[- ]choice|opción múltiple|choix multiple|\bQCM\b|multiple choice|múltipla escolha|scelta multipla|meerkeuze|wielokrotn\w+ wybor|jednokrotn\w+ wybor|выбор\w* ответ|вибір|çoktan seçmeli/i,
    'multiple-choice',
  ],
  [
    /fill[- ]in|fill the|gap[- ]?fill|\bblanks?\b|cloze|complete the|rellena|completa|complét|lückentext|preencha|complete as|riempi|completare|vul in|invul|uzupełnij|заполните|заповніть|boşluk/i,
    'cloze',
  ],
  [
    /match(?:ing)?\b|relaciona|emparej|associe|reliez|zuordn|ordne .* zu|relacione|abbina|collega|verbind|koppel|dopasuj|соотнесите|сопоставьте|установіть відповідність|eşleştir/i,
    'matching',
  ],
  [
    /put (?:.* )?in(?:to)? (?:the )?(?:right |correct )?order|in the (?:right|correct) order|arrange|sequenc|order(?:ing)? (?:the|these)|ordena|classez|remettez|reihenfolge|ordene|coloque .* ordem|metti in ordine|ordina|volgorde|uporządkuj|kolejno|расположите|упорядочите|порядк|розташуйте|sırala/i,
    'ordering',
  ],
  [
    /short[- ]answer|respuesta corta|réponse courte|kurzantwort|resposta curta|risposta breve|kort antwoord|krótka odpowied|краткий ответ|коротка відповідь|kısa cevap/i,
    'short-answer',
  ],
  [/numeric|calculat|numérica|numérique|rechenaufgabe|numerica/i, 'numeric'],
  [
    /essay|open[- ]ended|open questions?|discussion|extended response|long answer|free response|ensayo|dissertation|rédaction|aufsatz|offene frage|redação|dissertativa|tema aperto|domande aperte|open vragen|opisow|esej|otwarte|эссе|развернут|открыт\w+ вопрос|есе|розгорнут|açık uçlu/i,
    'essay',
  ],
];

/** A question that asks for more than a phrase. */
export const ESSAY_STEM =
  /^(?:in your own words|discuss|explain|describe|compare|analy[sz]e|evaluate|justify|write (?:a|an|about)|reflect|outline|argue|assess|summari[sz]e|explica|describe|compara|analiza|justifica|discute|expliquez|décrivez|comparez|analysez|justifiez|erkläre|erläutere|beschreibe|vergleiche|begründe|explique|descreva|compare|justifique|spiega|descrivi|confronta|leg uit|beschrijf|vergelijk|wyjaśnij|opisz|porównaj|объясните|опишите|сравните|поясніть|опишіть|порівняйте|açıklayın|açıklayınız|tartışın|karşılaştırın)(?![\p{L}])/iu;
export const ESSAY_WORDS = /in your own words|\(half a page\)|at least \d+ words|\d+\s*[-–]\s*\d+ words|in \d+ sentences|in a (?:short )?paragraph/i;

export const ALL_THAT_APPLY =
  /(?:select|choose|tick|mark|check|pick)\s+(?:all|two|three|four|2|3|4|every)|all that apply|more than one|\(choose (?:two|three)\)|mehrere antworten|selecciona todas|plusieurs réponses/i;

/** What assistants and mails say around a quiz. */
export const CHAT =
  /^(?:sure|of course|certainly|absolutely|here(?:'s| is| are)|below (?:is|are)|let me know|feel free|i hope|hope this|would you like|good luck|great|okay|ok[,!.]|thanks|thank you|hi\b|hello|dear|best(?: wishes| regards)|kind regards|cheers|regards|copy code|happy (?:teaching|baking)|do you want|i can also|if you(?:'d| would) like|claro|por supuesto|aquí tien|espero|bien sûr|voici|n'hésitez|gerne|natürlich|hier (?:sind|ist|zijn)|com certeza|aqui est|certo[,!]|ecco|natuurlijk|oczywiście|oto\b|конечно|вот\b|звичайно|ось\b|tabii|elbette|işte)/iu;
export const PAGE =
  /^(?:page|p\.|pág(?:ina)?\.?|seite|pagina|strona|страница|сторінка|sayfa)\s*\d+(?:\s*(?:of|\/|de|von|di|van|z|из)\s*\d+)?$|^-\s*\d+\s*-$|^please turn over$|^\d+\s*\/\s*\d+$/i;
