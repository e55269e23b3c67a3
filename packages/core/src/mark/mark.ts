/** The marking engine: an item and a response give points, and the reason for them. */
import { counted } from '../language/counted.js';
import { z } from 'zod';
import type { ChoiceItem, Gap, Item, ItemOf, Kind, NumberAnswer, TextAnswer } from '../item/model.js';
import { defaultMatch } from '../item/model.js';
import { type KeyProblem, keyProblem, letterOf } from '../item/kinds.js';
import { markChosen } from '../item/chosenOptions.js';
import { parseNumber, writesDecimalComma } from '../language/numbers.js';
import { matchText } from '../item/typedText.js';
import { stripEnd } from '../item/strip.js';

/** A longer answer is no number with a unit; patterns that look back and forth see no more than this. */
const LONGEST_NUMBER = 200;

/** What a learner answered; which of the shapes fits depends on the item's kind. */
export const response = z.union([
  z.object({ options: z.array(z.string().max(200)).max(200) }).strict(),
  z.object({ truth: z.boolean() }).strict(),
  z.object({ text: z.string().max(50_000) }).strict(),
  /** Gap id → typed text, or the id of the chosen option. */
  z.object({ gaps: z.record(z.string().max(200), z.string().max(2000)).refine((g) => Object.keys(g).length <= 500) }).strict(),
  /** For each left side in the item's order the text of the right side chosen. */
  z.object({ pairs: z.array(z.string().max(20_000).nullable()).max(200) }).strict(),
  /** The sequence as the learner put it. */
  z.object({ order: z.array(z.string().max(20_000)).max(200) }).strict(),
]);
/** What a learner answered, by the kind of the item. */
export type Response = z.infer<typeof response>;

/** The most signs that an answer of a kind may have; what is typed longer is none. Gaps have the limit of a short answer each. */
export const longestAnswer: Readonly<Partial<Record<Kind, number>>> = { 'short-answer': 2000, cloze: 2000, numeric: LONGEST_NUMBER, essay: 50_000 };
const longerThan = (item: Item, given: Response): number | null => {
  const most = longestAnswer[item.kind];
  const typed = 'text' in given ? [given.text] : 'gaps' in given ? Object.values(given.gaps) : [];
  return most !== undefined && typed.some((t) => t.length > most) ? most : null;
};
/** Why an answer cannot be kept as one of the item, in a sentence for the learner; null where it can. */
export function answerProblem(item: Item, given: Response): string | null {
  const most = longerThan(item, given);
  return most === null ? null : `An answer here has at most ${most.toLocaleString('en')} signs. Shorten it.`;
}

/** The points of a response, and how they came about. */
export interface Mark {
  /** Share of the item's points, 0 to 1: what negative credits would take below nothing is nothing. */
  credit: number;
  /** `credit` × the item's points, at most 4 decimals. */
  points: number;
  state: 'right' | 'partly' | 'wrong' | 'unanswered' | 'by-hand';
  /** In one sentence, for the person who tries the item. */
  reason: string;
  /** What the person who marked it by hand says to the learner. */
  comment?: string;
}

interface Judged {
  credit: number;
  reason: string;
  answered?: boolean;
}

const unanswered: Judged = { credit: 0, reason: 'No answer.', answered: false };

function markOptions(item: ChoiceItem, ids: readonly string[]): Judged {
  const chosen = new Set(ids.filter((id) => item.options.some((o) => o.id === id)));
  if (!chosen.size) return unanswered;
  const named = item.options.flatMap((o, i) => (chosen.has(o.id) ? [letterOf(i)] : [])).join(', ');
  if (item.kind === 'multiple-choice') {
    if (chosen.size > 1) return { credit: 0, reason: `${named}: more than one option was chosen.` };
    const o = item.options.find((x) => chosen.has(x.id));
    return { credit: o?.credit ?? 0, reason: `${named} earns ${percent(o?.credit ?? 0)}.` };
  }
  const keys = item.options.filter((o) => o.credit > 0);
  const right = keys.filter((o) => chosen.has(o.id)).length;
  const wrong = chosen.size - right;
  return { credit: markChosen(item, chosen), reason: `${right} of ${keys.length} keys chosen, ${wrong} wrong.` };
}

const percent = (credit: number): string => `${Math.round(credit * 1000) / 10} %`;

const HOW = {
  same: () => '',
  value: (given: string) => `“${given}” has the value of `,
  formula: () => 'The formula is the same as ',
  list: () => 'The parts are those of ',
  spelling: (_: string, letters: number) => `${counted(letters, 'letter differs', 'letters differ')} from `,
} as const;

function markText(given: string, answers: readonly TextAnswer[], rule: ItemOf<'short-answer'>['match'], language?: string): Judged {
  if (!given.trim()) return unanswered;
  const [found] = answers
    .flatMap((a) => {
      const m = matchText(given, a.text, rule, language);
      return m ? [{ a, m }] : [];
    })
    .sort((x, y) => y.a.credit - x.a.credit || x.m.letters - y.m.letters);
  if (found) {
    const how = HOW[found.m.by](given.trim(), found.m.letters);
    return {
      credit: found.a.credit,
      reason: how ? `Accepted: ${how.charAt(0).toLowerCase()}${how.slice(1)}“${found.a.text}”.` : `Accepted as “${found.a.text}”.`,
    };
  }
  const near = answers.find((a) => a.credit > 0 && matchText(given, a.text, { ...rule, spelling: rule.spelling + 1 }, language));
  return {
    credit: 0,
    reason: near ? `${rule.spelling ? `${rule.spelling + 1} letters differ` : 'One letter differs'} from “${near.text}”.` : 'Not among the accepted answers.',
  };
}

/** A unit where the case of its first letter changes what it means: milli and mega, pico and peta. */
const CASE_MATTERS = /^[mp]\p{L}/iu;
const unitText = (unit: string): string => unit.normalize('NFKC').replace(/\s+/g, ' ').trim();

/** Whether what stands beside the number is the unit, however its case. */
function sameUnit(given: string, unit: string): boolean {
  const [g, u] = [unitText(given), unitText(unit)];
  return g === u || (g.toLowerCase() === u.toLowerCase() && (!CASE_MATTERS.test(u) || g.charAt(0) === u.charAt(0)));
}

/** A typed number, also with its unit behind or in front ("€ 5", "5 kg"); null where it is no number, or one of another unit. */
export function typedNumber(given: string, unit: string | undefined, decimalComma: boolean): number | null {
  let bare = given.trim();
  if (bare.length > LONGEST_NUMBER) return null;
  if (unit) {
    // bounded: LONGEST_NUMBER
    const behind = /^(.*?[\d½⅓⅔¼¾⅛⅜⅝⅞.,)])\s*([^\d\s.,][^\d]*|[^\d\s.,]\S*)$/u.exec(bare);
    // bounded: LONGEST_NUMBER
    const before = /^([^\d\s.,+−-][^\d+−-]*?)\s*([+−-]?\d.*)$/u.exec(bare);
    if (behind?.[1] && sameUnit(behind[2] ?? '', unit)) bare = behind[1];
    else if (before?.[2] && sameUnit(before[1] ?? '', unit)) bare = before[2];
  }
  // Where the unit is per cent, "75 %" means 75.
  return parseNumber(unit === '%' ? bare.replace(/%\s*$/, '') : bare, decimalComma);
}

function markNumber(given: string, answers: readonly NumberAnswer[], unit: string | undefined, language?: string): Judged {
  if (!given.trim()) return unanswered;
  const comma = writesDecimalComma(language);
  // "1.125" where a comma parts decimals: a thousand and more, or a point out of habit. Whichever reading is in the key counts.
  const readings = [typedNumber(given, unit, comma), ...(comma && !given.includes(',') ? [typedNumber(given, unit, false)] : [])].filter((v) => v !== null);
  const [first] = readings;
  if (first === undefined) {
    const other = unit && given.length < LONGEST_NUMBER && parseNumber(stripEnd(given.trim(), /[^\d\s.,]/), comma) !== null;
    return { credit: 0, reason: other ? `“${given.trim()}” does not have the unit ${unit}.` : `“${given.trim()}” is not a number.` };
  }
  const within = (v: number, a: NumberAnswer): boolean => {
    // as much as a calculator may be off in its last binary place (0.1 + 0.2), never a whole number
    const slack = Number.isInteger(v) ? 0 : 2 ** -52 * Math.abs(v);
    return v >= a.min - slack && v <= a.max + slack;
  };
  const [found] = readings
    .flatMap((value) => answers.filter((a) => within(value, a)).map((a) => ({ value, credit: a.credit })))
    .sort((x, y) => y.credit - x.credit);
  const value = found?.value ?? first;
  const message = found ? 'Within the key.' : 'Outside the key.';
  const asWritten = String(value) === given.trim();
  return { credit: found?.credit ?? 0, reason: asWritten ? message : `“${given.trim()}” is read as ${value}. ${message}` };
}

function markGap(gap: Gap, given: string, language?: string): Judged {
  if (gap.kind === 'choice') {
    const o = gap.options.find((x) => x.id === given);
    return o ? { credit: o.credit, reason: '' } : unanswered;
  }
  return gap.kind === 'number' ? markNumber(given, gap.answers, undefined, language) : markText(given, gap.answers, gap.match ?? defaultMatch, language);
}

type Marker<K extends Kind> = (item: ItemOf<K>, r: Response, language?: string) => Judged;

const markers: { readonly [K in Kind]: Marker<K> } = {
  'multiple-choice': (i, r) => ('options' in r ? markOptions(i, r.options) : unanswered),
  'multiple-response': (i, r) => ('options' in r ? markOptions(i, r.options) : unanswered),
  'true-false': (i, r) => ('truth' in r ? { credit: r.truth === i.answer ? 1 : 0, reason: `The statement is ${i.answer ? 'true' : 'false'}.` } : unanswered),
  'short-answer': (i, r, language) => ('text' in r ? markText(r.text, i.answers, i.match, language) : unanswered),
  numeric: (i, r, language) => ('text' in r ? markNumber(r.text, i.answers, i.unit, language) : unanswered),
  cloze: (i, r, language) => {
    if (!('gaps' in r) || !Object.values(r.gaps).some((g) => g.trim())) return unanswered;
    const total = i.gaps.reduce((sum, g) => sum + g.points, 0) || 1;
    const judged = i.gaps.map((g) => ({ g, j: markGap(g, r.gaps[g.id] ?? '', language) }));
    const right = judged.filter(({ j }) => j.credit >= 1).length;
    return { credit: judged.reduce((sum, { g, j }) => sum + g.points * j.credit, 0) / total, reason: `${right} of ${i.gaps.length} gaps right.` };
  },
  matching: (i, r) => {
    if (!('pairs' in r) || r.pairs.every((p) => p === null)) return unanswered;
    const asked = i.pairs.filter((p) => p.left && p.right);
    const right = i.pairs.filter((p, n) => p.left && p.right && r.pairs[n] === p.right).length;
    return { credit: right / (asked.length || 1), reason: `${right} of ${asked.length} pairs right.` };
  },
  ordering: (i, r) => {
    if (!('order' in r) || !r.order.length) return unanswered;
    const right = i.sequence.length === r.order.length && i.sequence.every((s, n) => s === r.order[n]);
    return { credit: right ? 1 : 0, reason: right ? 'The sequence is right.' : 'The sequence differs from the key.' };
  },
  // a person marks these: mark() answers before it looks here
  essay: () => unanswered,
  information: () => unanswered,
};

/** Points with at most 4 decimals, as the model holds them; a half of the last one is rounded up (rounding half up, as of points on paper). */
export const roundPoints = (points: number): number => Math.round(Number((points * 1e4).toPrecision(12))) / 1e4;
/** Points as far as they are kept, at most 4 decimals. @param kept share of them, 0 to 1 */
export const keptOf = (points: number, kept: number): number => (kept === 1 ? points : roundPoints(points * kept));

/**
 * Marks a response.
 * @param language the set's, for decimal commas and letter case, where the item has none of its own
 */
export function mark(item: Item, given: Response | null | undefined, language?: string): Mark {
  if (item.kind === 'essay') {
    const answered = !!given && 'text' in given && given.text.trim() !== '';
    return { credit: 0, points: 0, state: answered ? 'by-hand' : 'unanswered', reason: 'Marked by a person.' };
  }
  return markAnyhow(item, given, language, keyProblem(item));
}

/**
 * The same, whatever is wrong with the key: where a person decided that more counts than an item may say.
 * @param none what makes every answer wrong
 */
export function markAnyhow(item: Item, given: Response | null | undefined, language?: string, none: KeyProblem | null = null): Mark {
  const most = given && longerThan(item, given);
  const judged = !given
    ? unanswered
    : none
      ? { credit: 0, reason: `The item has ${none.message}.` }
      : most
        ? { credit: 0, reason: `The answer is longer than ${most} signs.` }
        : (markers[item.kind] as Marker<Kind>)(item as never, given, item.language ?? language);
  const made = markOf(item, judged.credit, judged.reason);
  return judged.answered === false ? { ...made, state: 'unanswered' } : made;
}

/** The mark of an answer that earns a share of its item's points, 0 to 1; less than nothing is nothing. */
export function markOf(item: Item, share: number, reason: string): Mark {
  const credit = Math.min(1, Math.max(0, share));
  return { credit, points: roundPoints(credit * item.points), state: credit >= 1 - 1e-9 ? 'right' : credit > 0 ? 'partly' : 'wrong', reason };
}

/** The mark of one gap by itself, as if the item had no other. @param typed what was typed, or the id of the chosen option */
export const gapMark = (item: ItemOf<'cloze'>, gap: Gap, typed: string, language?: string): Mark =>
  mark({ ...item, stem: `[[${gap.id}]]`, gaps: [gap] }, { gaps: { [gap.id]: typed } }, language);
