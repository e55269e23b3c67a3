/** What single lines show of the manners of a draft. Each is told once for a line, however often the draft is read. */
import { plainForms } from '../../language/labels.js';
import { memoised, type Line } from '../surface/lines.js';
import { POINTS } from '../../language/words.js';
import { RING_OR_CROSS, TRUTH_SIGN } from '../../language/truths.js';

const TRUTH_FIRST = new RegExp(`^\\s*(?:\\d{1,3}\\s*[.)–-]\\s*)?${TRUTH_SIGN}\\p{Lu}`, 'iu');
const POINTS_ALONE = new RegExp(`^(?:[[(]\\s*\\d{1,2}\\s*[\\])]|\\d{1,2}(?:[.,]\\d)?\\s*(?:${POINTS}))$`, 'iu');
const PERSON = /^\s*(?:you|me|user|prompt|yo|tú|usuario|ich|du|moi|vous|utilisateur|io|tu|eu|você|ik|jij|ja|ty|я|вы|ви)(?: said)?\s*:?\s*$/iu;
const ASSISTANT = /^\s*(?:assistant|ai|bot|model|answer|reply|response|asistente|assistent|assistant|assistente|ассистент|помощник)(?: said)?\s*:?\s*$/iu;

const TESTS = {
  /** A turn of a talk: "Q: …", "A a herb". */
  turnQ: (t) => /^\s*Q(?:\s?[:.)]\s|\s+\p{L})/u.test(t),
  turnA: (t) => /^\s*A(?:\s?[:.)]\s|\s+\S)/.test(t),
  turnB: (t) => /^\s*B\s?[:.)]\s/.test(t),
  /** Who speaks, in a copied conversation with an assistant. */
  person: (t) => t.length < 60 && PERSON.test(t),
  assistant: (t) => t.length < 60 && ASSISTANT.test(t),
  /** A statement with its truth value in front, numbered or not. */
  truthFirst: (t) => TRUTH_FIRST.test(t.slice(0, 60)),
  /** "[2]", "3 points" */
  pointsAlone: (t) => t.length < 60 && POINTS_ALONE.test(plainForms(t).trim()),
  /** "…      [2]" */
  edgePoints: (t) => /\s{3,}[[(]\d{1,2}[\])]\s*$/.test(t),
  /** "II. True or false (10 points)" */
  scored: (t) => /\([^)]*\d[^)]*\)\s*$/.test(t),
  star: (t) => /\S\s\*\s*$/.test(t),
  starAfterStop: (t) => /[:.]\s\*\s*$/.test(t),
  tailX: (t) => /\S\s+[xX](?:\s{2,}|\s*$)/.test(t),
  /** "The water {evaporates} and forms {clouds}." */
  answersInBraces: (t) => t.includes('{') && (t.match(/(?<=\S\s)\{\p{L}[^{}=~#|]{0,60}\}/gu)?.length ?? 0) >= 2,
  arrow: (t) => /^\s*(?:→|->|=>|➜|➡|⇒)/u.test(t),
  /** "… in the ___. (oven)" */
  wordsInBrackets: (t) => /[.?!]\s*\(\p{L}[^()]{1,40}\)\s*$/u.test(t.slice(-60)),
  ringOrCross: (t) => RING_OR_CROSS.test(t),
} satisfies Record<string, (text: string) => boolean>;
/** Something that a line shows or not. */
export type Feature = keyof typeof TESTS;
const NAMES = Object.keys(TESTS) as Feature[];
const BIT = Object.fromEntries(NAMES.map((name, i) => [name, 1 << i])) as Record<Feature, number>;
const marks = (text: string): number => NAMES.reduce((all, name) => (TESTS[name](text) ? all | BIT[name] : all), 0);

/** Whether a line shows something by its text alone. */
export const shows = (line: Line, what: Feature): boolean => (memoised(line, marks) & BIT[what]) !== 0;
