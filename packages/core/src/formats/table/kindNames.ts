/** The kind of item that a cell names. */
import { KIND_NAME, KIND_NAME_ORDER } from '../../language/words.js';
import type { Kind } from '../../item/model.js';
import { partsOf } from '../../item/strip.js';
import { KIND_WORDS } from './grid.js';

/** Words and codes for kinds as columns of tables give them, each whole. From memory; common practice, no source. */
const NAMES: readonly [Kind, string][] = [
  [
    'multiple-choice',
    'mc|mcq|sc|choice|one of|pick one|single|radio|multiple|auswahl|einfachauswahl|einzelauswahl|eine antwort|auswahlfrage|ankreuzen|elección|opción|test|opciones|opción única|una respuesta|choix|choix simple|une réponse|escolha|opção|escolha simples|scelta|risposta singola|crocette|keuze|één antwoord|wybór|wybór jednokrotny|jednokrotny|test wyboru|выбор|одиночный выбор|тест|вибір|одиночний вибір|seçmeli|tek seçim|test sorusu',
  ],
  [
    'multiple-response',
    'ma|mr|multi|pick several|several of|mehrfach|mehrfachauswahl|mehrere antworten|varias|varias respuestas|respuesta múltiple|plusieurs réponses|choix multiples|várias|múltiplas respostas|più risposte|risposta multipla|meerdere|meervoudig|wielokrotny|wybór wielokrotny|множественный выбор|несколько|множинний вибір|кілька|çoklu seçim|çok yanıtlı',
  ],
  [
    'true-false',
    'tf|r/f|w/f|v/f|p/f|d/y|j/n|ja/nein|yes/no|statement|aussage|afirmación|affirmation|affermazione|stelling|stwierdzenie|утверждение|твердження|ifade',
  ],
  [
    'short-answer',
    'sa|typed|type in|one word|word|kurz|eingabe|wort|texteingabe|ein wort|corta|breve|palabra|courte|mot|réponse courte|curta|palavra|parola|kort|woord|krótka|słowo|короткий|слово|коротка|kısa|kelime',
  ],
  [
    'numeric',
    'num|calc|maths|sum|zahl|zahlenfrage|rechnung|rechnen|zahleneingabe|número|numero|cálculo|nombre|calcul|calcolo|getal|rekenen|liczba|obliczenia|число|расчёт|обчислення|sayı|hesap',
  ],
  [
    'cloze',
    'fib|gap|gaps|blank|blanks|lücke|lücken|lückensatz|hueco|huecos|completar|trou|trous|lacuna|lacunas|spazio|gat|gaten|luka|luki|пропуск|пропуски|boşluk',
  ],
  ['matching', 'mat|pairs|zuordnen|paare|parejas|unir|paires|relier|pares|ligar|coppie|abbina|paren|pary|łączenie|пары|пари|eşleme'],
  [
    'ordering',
    'ord|order|sort|sequence|sortieren|ordnen|reihung|orden|secuencia|ordre|ordem|sequência|ordine|sequenza|volgorde|kolejność|порядок|последовательность|послідовність|sıra',
  ],
  [
    'essay',
    'ess|open|free text|freetext|text|long|paragraph|frei|freitext|offen|langtext|aufsatz|abierta|libre|texto libre|redacción|ouverte|libre|texte libre|rédaction|aberta|texto livre|redação|aperta|testo libero|tema|vrij|vrije tekst|otwarte|otwarta|tekst|свободный|развёрнутый|відкрите|açık',
  ],
  ['information', 'info|information|note|hinweis|text only|información|informação|informazione'],
];
const CODES = new Map(NAMES.flatMap(([kind, words]) => words.split('|').map((w) => [w, kind] as const)));
/** The kind that a whole cell names, with or without the word for question. */
function nameOf(t: string): Kind | null {
  const bare = t.replace(/[-\s]?(?:questions?|items?|fragen?|aufgaben?|preguntas?|perguntas?|domand[ae]|vra(?:ag|gen))$/u, '').trim();
  for (const word of [t, bare]) {
    if (/^(?:checkbox(?:es)?)$/.test(word)) return 'multiple-response';
    const kind = CODES.get(word);
    if (kind) return kind;
  }
  return null;
}
/** The kind that a cell names, in words or by a code; null where it names none. */
export function kindNamed(cell: string): Kind | null {
  const t = cell.trim().toLowerCase().replace(/\s+/g, ' ');
  if (!t) return null;
  const own = (Object.entries(KIND_WORDS) as [Kind, string][]).find(([k, w]) => w === t || k === t)?.[0];
  if (own) return own;
  const code = nameOf(t);
  if (code) return code;
  const named =
    KIND_NAME.exec(
      partsOf(t, /[/-]/)
        .join('/')
        .replace(/^(.*?)s?$/, '$1'),
    ) ?? KIND_NAME.exec(t);
  const at = named ? named.slice(1).findIndex(Boolean) : -1;
  if (at >= 0) return KIND_NAME_ORDER[at] ?? null;
  if (/true|false|wahr|richtig|verdadeir|verdader|vrai|vero|prawda|правда|верно|doğru/.test(t)) return 'true-false';
  if (/open|essay|offen|abiert|ouvert/.test(t)) return 'essay';
  if (/several|multiple (?:answer|response|select)|mehrfach/.test(t)) return 'multiple-response';
  if (/number|numer|calcul/.test(t)) return 'numeric';
  if (/short|text|word/.test(t)) return 'short-answer';
  if (/choice|single/.test(t)) return 'multiple-choice';
  return null;
}
