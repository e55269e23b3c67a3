/**
 * The habits of people and tools that write drafts, each a row of a table. The generator combines them; a misreading found on paper becomes
 * a row here. Development only: nothing of the product imports it. All content is made up, set in Saltmarsh Cookery School.
 */

/** A question as it is meant. */
export interface Meant {
  kind: 'choice' | 'truth' | 'words';
  stem: string;
  options: readonly string[];
  /** Place of the right option, a truth value, or a word. */
  key: number | boolean | string;
  reason: string;
}

const choice = (stem: string, options: string, key: number, reason: string): Meant => ({ kind: 'choice', stem, options: options.split(' / '), key, reason });
const truth = (stem: string, key: boolean, reason: string): Meant => ({ kind: 'truth', stem, options: [], key, reason });
const words = (stem: string, key: string, reason: string): Meant => ({ kind: 'words', stem, options: [], key, reason });

export const pool: readonly Meant[] = [
  choice('Which sauce starts with a roux?', 'pesto / velouté / salsa verde / aioli', 1, 'Velouté is stock bound with a roux.'),
  choice('What does yeast need to grow?', 'salt and ice / sugar and warmth / oil and air / vinegar', 1, 'Yeast feeds on sugar in the warm.'),
  choice('Raw chicken is stored', 'on the top shelf / in the door / on the bottom shelf / beside the salad', 2, 'Its juice must not drip on other food.'),
  choice('The French word for a mixture of diced vegetables is', 'mirepoix / bisque / coulis / ganache', 0, 'Mirepoix is diced carrot, celery and onion.'),
  choice('How long should an egg boil to be hard?', '1 minute / 3 minutes / 10 minutes / 45 minutes', 2, 'The yolk sets after eight to ten minutes.'),
  choice('Which knife is best for bread?', 'a serrated knife / a paring knife / a cleaver / a boning knife', 0, 'Teeth cut a crust without crushing it.'),
  choice('What makes meringue stiff?', 'butter / beaten egg white / cream / gelatine', 1, 'Air is held by the protein.'),
  choice('Which of these is a legume?', 'leek / beetroot / lentil / fennel', 2, 'Lentils grow in pods.'),
  choice('At sea level water boils at', '60 °C / 80 °C / 100 °C / 120 °C', 2, 'That is one hundred degrees at normal pressure.'),
  choice('Which herb belongs in pesto?', 'dill / mint / thyme / basil', 3, 'Basil gives the colour and the scent.'),
  choice('Blanching is followed by', 'a bath in iced water / slow roasting / a night in the fridge / deep frying', 0, 'The cold stops the cooking.'),
  choice('What should you do first when oil catches fire?', 'pour water on it / put a lid on it / carry it outside / fan it', 1, 'A lid takes the air away.'),
  choice('Which flour has the most gluten?', 'rice flour / bread flour / corn flour / potato flour', 1, 'Strong wheat has the most protein.'),
  choice('Saffron comes from', 'a root / a bark / a flower / a berry', 2, 'It is the stigma of a crocus.'),
  choice('A bain-marie is used for', 'gentle heating / fast freezing / smoking fish / grinding spices', 0, 'Water keeps the heat even.'),
  choice('Which cut is the thinnest?', 'dice / batons / julienne / wedges', 2, 'Julienne are like matchsticks.'),
];
export const truths: readonly Meant[] = [
  truth('Salt draws water out of vegetables.', true, 'That is osmosis.'),
  truth('Rice contains gluten.', false, 'Rice has none.'),
  truth('A fridge should be colder than 5 degrees.', true, 'Germs grow slowly there.'),
  truth('Dough rises faster in the cold.', false, 'Warmth speeds yeast up.'),
];
export const shorts: readonly Meant[] = [
  words('What do we call cooking in a vacuum bag?', 'sous vide', 'French for “under vacuum”.'),
  words('Which gas makes bread rise?', 'carbon dioxide', 'Yeast breathes it out.'),
  words('What is the fifth taste called?', 'umami', 'A Japanese word for savoury.'),
];

/** The words of a language, or of none. */
export interface Words {
  question: string;
  answer: string;
  correct: string;
  list: string;
  why: string;
  points: string;
  true: string;
  false: string;
}
const say = (row: string): Words => {
  const [question = '', answer = '', correct = '', list = '', why = '', points = '', t = '', f = ''] = row.split('|');
  return { question, answer, correct, list, why, points, true: t, false: f };
};
export const languages: Readonly<Record<string, Words>> = {
  en: say('Question|Answer|correct|Answer key|Explanation|points|True|False'),
  de: say('Frage|Antwort|richtig|Lösungen|Erklärung|Punkte|Richtig|Falsch'),
  fr: say('Question|Réponse|correct|Corrigé|Explication|points|Vrai|Faux'),
  es: say('Pregunta|Respuesta|correcta|Respuestas|Explicación|puntos|Verdadero|Falso'),
  it: say('Domanda|Risposta|corretta|Soluzioni|Spiegazione|punti|Vero|Falso'),
  pt: say('Questão|Resposta|correta|Gabarito|Explicação|pontos|Verdadeiro|Falso'),
  nl: say('Vraag|Antwoord|juist|Antwoorden|Uitleg|punten|Waar|Onwaar'),
  pl: say('Pytanie|Odpowiedź|poprawna|Klucz odpowiedzi|Wyjaśnienie|pkt|Prawda|Fałsz'),
  ru: say('Вопрос|Ответ|верно|Ответы|Пояснение|балла|Верно|Неверно'),
  uk: say('Питання|Відповідь|вірно|Відповіді|Пояснення|бали|Правда|Неправда'),
  tr: say('Soru|Cevap|doğru|Cevap anahtarı|Açıklama|puan|Doğru|Yanlış'),
  sv: say('Fråga|Svar|rätt|Facit|Förklaring|poäng|Sant|Falskt'),
  id: say('Soal|Jawaban|benar|Kunci jawaban|Pembahasan|poin|Benar|Salah'),
  fi: say('Kysymys|Vastaus|oikein|Oikeat vastaukset|Selitys|pistettä|Oikein|Väärin'),
  // a language that no list of words knows
  none: say('Zorf|Plimek|mulo|Plimekot|Sharod|points|True|False'),
};

export const questionLabels: Readonly<Record<string, (n: number, w: Words) => string>> = {
  dot: (n) => `${n}. `,
  paren: (n) => `${n}) `,
  round: (n) => `(${n}) `,
  word: (n, w) => `${w.question} ${n}: `,
  'word alone': (n, w) => `${w.question} ${n}\n`,
  q: (n) => `Q${n}. `,
  bold: (n) => `**${n}.** `,
  keycap: (n) => (n < 10 ? `${n}️⃣ ` : `${n}. `),
  dash: (n) => `${n} - `,
  hash: (n) => `#${n} `,
  none: () => '',
};

const LETTERS = 'ABCDEFGH';
export const optionLabels: Readonly<Record<string, (i: number) => string>> = {
  'A)': (i) => `${LETTERS[i] ?? ''}) `,
  'A.': (i) => `${LETTERS[i] ?? ''}. `,
  'a)': (i) => `${(LETTERS[i] ?? '').toLowerCase()}) `,
  '(a)': (i) => `(${(LETTERS[i] ?? '').toLowerCase()}) `,
  '[A]': (i) => `[${LETTERS[i] ?? ''}] `,
  'A -': (i) => `${LETTERS[i] ?? ''} - `,
  '①': (i) => `${String.fromCharCode(0x2460 + i)} `,
  bullet: () => '- ',
  box: () => '[ ] ',
  ring: () => '○ ',
  bare: () => '',
};

/** How the options of a question stand. */
export const layouts: Readonly<Record<string, (options: readonly string[]) => string[]>> = {
  lines: (o) => [...o],
  indented: (o) => o.map((x) => `   ${x}`),
  tabs: (o) => o.map((x) => `\t${x}`),
  row: (o) => [o.join('    ')],
  'indented row': (o) => [`     ${o.join('   ')}`],
  columns: (o) => [0, 2].flatMap((i) => (o[i] === undefined ? [] : [`${`${o[i] ?? ''}   `.padEnd(34)}${o[i + 1] ?? ''}`.trimEnd()])),
};

/** Where the key stands. */
export const keys = [
  'behind',
  'behind, text',
  'behind, both',
  'star behind',
  'tick behind',
  'star in front',
  'bold',
  'arrow',
  'word behind',
  'filled box',
  'in brackets',
  'list, lines',
  'list, row',
  'list, dashes',
  'list, table',
  'list, letters',
  'none',
] as const;

export const reasons = ['none', 'line', 'arrow'] as const;
export const points = ['none', 'behind', 'in front'] as const;

export const heads: Readonly<Record<string, string>> = {
  none: '',
  title: 'Saltmarsh Cookery School – kitchen basics\n\n',
  chat: 'Sure! Here is a short quiz on kitchen basics for your class:\n\n---\n\n',
  test: 'KITCHEN BASICS – TEST 2\nName: ____________________   Class: ______   Date: ____________\n\n',
  mail: 'Hi Tom,\n\nhere is the quiz for Friday as promised.\n\n',
  instruction: 'Choose the best answer for each question.\n\n',
};
export const betweens: Readonly<Record<string, (n: number) => string>> = {
  blank: () => '\n',
  tight: () => '',
  rule: () => '\n---\n\n',
  pages: (n) => (n % 3 === 0 ? `\nSaltmarsh Cookery School                    Page ${n / 3}\n\n` : '\n'),
};
export const tails: Readonly<Record<string, string>> = {
  none: '',
  offer: '\nWould you like me to add more questions?\n',
  wish: '\nGood luck!\n',
  regards: '\nBest wishes,\nMaro\n',
};

/** Slips of the hand, each done to some lines of a finished draft. */
export const slips: Readonly<Record<string, (line: string, chance: () => number) => string>> = {
  none: (l) => l,
  'blanks at ends': (l, c) => (c() < 0.4 ? `${l}  ` : l),
  'double blanks': (l, c) => (c() < 0.3 ? l.replace(/(?<=\p{L}) (?=\p{L})/u, '  ') : l),
  'lost blank behind labels': (l, c) => (c() < 0.25 ? l.replace(/^(\s*\(?[A-Ha-h][).]) (?=\p{L})/u, '$1') : l),
  'no-break blanks': (l, c) => (c() < 0.3 ? l.replace(/(?<=\S) (?=\S)/, '\u00a0') : l),
  'small letters': (l, c) => (c() < 0.15 ? l.replace(/^(\s*)([A-H])(?=[).])/, (_, s: string, x: string) => s + x.toLowerCase()) : l),
};
