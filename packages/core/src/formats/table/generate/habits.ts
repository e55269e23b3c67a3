/**
 * The habits of people and tools that keep questions in sheets, each a row of a table. The generator combines them; a misreading found
 * on a sheet becomes a row here. Development only: nothing of the product imports it. All content is made up, set in Saltmarsh Cookery School.
 */
import { type Meant, pool, shorts, truths } from '../../../draft/generate/habits.js';

export { pool, shorts, truths, type Meant };

/** The headings of a writer: words of a language, abbreviations, words that say nothing. */
export interface Heads {
  no: string;
  question: string;
  /** A word in front of the letter or number of an option; '' for the bare letter. */
  option: string;
  key: string;
  right: string;
  wrong: string;
  points: string;
  why: string;
  time: string;
  tag: string;
  accepted: string;
  truth: string;
  true: string;
  false: string;
  step: string;
  gap: string;
  from: string;
  to: string;
  tolerance: string;
  left: string;
  partner: string;
  options: string;
}
const heads = (words: string): Heads => {
  const [
    no,
    question,
    option,
    key,
    right,
    wrong,
    points,
    why,
    time,
    tag,
    accepted,
    truth,
    yes,
    false_,
    step,
    gap,
    from,
    to,
    tolerance,
    left,
    partner,
    options,
  ] = words.split(' | ') as string[];
  return {
    no,
    question,
    option: option === '-' ? '' : option,
    key,
    right,
    wrong,
    points,
    why,
    time,
    tag,
    accepted,
    truth,
    true: yes,
    false: false_,
    step,
    gap,
    from,
    to,
    tolerance,
    left,
    partner,
    options,
  } as Heads;
};

export const languages: Readonly<Record<string, Heads>> = {
  English: heads(
    'No. | Question | Option | Correct answer | Right answer | Wrong answer | Points | Explanation | Time (s) | Topic | Also accept | True or false? | True | False | Step | Gap | Min | Max | Tolerance | Left side | Right side | Options',
  ),
  'English, short': heads(
    '# | Q | - | Ans | Correct | Distractor | Pts | Why | Secs | Unit | Alternative answer | T/F | T | F | Step | Blank | From | To | +/- | Term | Definition | Choices',
  ),
  'English, other words': heads(
    'Item | Stem | Choice | Key | Answer | Foil | Marks | Rationale | Seconds | Category | Accepted too | Truth | T | F | Stage | Space | Lowest | Highest | Margin | Left | Match | Answers',
  ),
  German: heads(
    'Nr. | Frage | Antwort | Richtige Antwort | Richtig | Falsch | Punkte | Begründung | Zeit | Thema | Auch richtig | Richtig oder falsch? | richtig | falsch | Schritt | Lücke | von | bis | Toleranz | Links | Rechts | Antworten',
  ),
  Spanish: heads(
    'N.º | Pregunta | Opción | Respuesta correcta | Correcta | Incorrecta | Puntos | Explicación | Segundos | Tema | También vale | Verdadero o falso | V | F | Paso | Hueco | Mínimo | Máximo | Tolerancia | Izquierda | Derecha | Opciones',
  ),
  French: heads(
    'N° | Énoncé | Réponse | Bonne réponse | Juste | Fausse | Barème | Commentaire | Durée | Thème | Aussi accepté | Vrai ou faux | V | F | Étape | Trou | Minimum | Maximum | Tolérance | Gauche | Droite | Propositions',
  ),
  Italian: heads(
    'N. | Domanda | Risposta | Risposta corretta | Corretta | Sbagliata | Punti | Spiegazione | Secondi | Argomento | Anche | Vero o falso | V | F | Passo | Spazio | Minimo | Massimo | Tolleranza | Sinistra | Destra | Opzioni',
  ),
  Turkish: heads(
    'No | Soru | Seçenek | Doğru cevap | Doğru | Yanlış | Puan | Açıklama | Süre | Konu | Kabul edilen | Doğru mu yanlış mı? | D | Y | Adım | Boşluk | En az | En çok | Tolerans | Sol | Sağ | Seçenekler',
  ),
  // words that no list here knows
  Estonian: heads(
    'Jrk | Küsimus | Vastus | Õige vastus | Õige | Vale | Punktid | Selgitus | Aeg | Teema | Ka sobib | Õige või vale | Õ | V | Samm | Lünk | Alates | Kuni | Täpsus | Vasak | Parem | Vastused',
  ),
};

/** How a key names an option of its row. */
export const keyWords: Readonly<Record<string, (place: number, options: readonly string[]) => string>> = {
  letter: (i) => 'ABCDEF'[i] ?? '',
  'small letter': (i) => `${'abcdef'[i] ?? ''})`,
  number: (i) => String(i + 1),
  'number from 0': (i) => String(i),
  words: (i, o) => o[i] ?? '',
  'words in capitals': (i, o) => (o[i] ?? '').toUpperCase(),
  'letter with words': (i, o) => `${'ABCDEF'[i] ?? ''}) ${o[i] ?? ''}`,
  'letter, dash, words': (i, o) => `${'ABCDEF'[i] ?? ''} – ${o[i] ?? ''}`,
  'no. 3': (i) => `no. ${i + 1}`,
  'option B': (i) => `Option ${'ABCDEF'[i] ?? ''}`,
  '(b)': (i) => `(${'abcdef'[i] ?? ''})`,
};

/** Signs of what is right and what is not, beside options and statements. */
export const signs: Readonly<Record<string, readonly [right: string, wrong: string]>> = {
  x: ['x', ''],
  'X and dash': ['X', '-'],
  '1 and 0': ['1', '0'],
  '✓ and ✗': ['✓', '✗'],
  '✓': ['✓', ''],
  'TRUE and FALSE': ['TRUE', 'FALSE'],
  'yes and no': ['yes', 'no'],
  shares: ['100', '0'],
  'shares in %': ['100%', '0%'],
};

/** What says true and false in a column of statements. */
export const truthWords: Readonly<Record<string, (h: Heads) => readonly [string, string]>> = {
  words: (h) => [h.true.length > 1 ? h.true : 'true', h.false.length > 1 ? h.false : 'false'],
  letters: (h) => [h.true.charAt(0).toUpperCase(), h.false.charAt(0).toUpperCase()],
  'T and F': () => ['T', 'F'],
  '✓ and ✗': () => ['✓', '✗'],
  '1 and 0': () => ['1', '0'],
  '+ and -': () => ['+', '-'],
};

/** What stands above the table. */
export const titles: Readonly<Record<string, readonly (readonly string[])[]>> = {
  none: [],
  title: [['Kitchen basics, week 3'], []],
  'title and notes': [['Question bank of the bakery course'], ['Prepared by the office of Saltmarsh Cookery School', '', '2026'], []],
  'empty rows': [[], []],
};
/** What stands below it. */
export const tails: Readonly<Record<string, readonly (readonly string[])[]>> = {
  none: [],
  total: [['Total', '', '', '', '']],
  sum: [],
  note: [[], ['Please do not change the columns.']],
};
/** How cells lie: where the table starts. */
export const starts: Readonly<Record<string, number>> = { 'column A': 0, 'column B': 1, 'column C': 2 };
