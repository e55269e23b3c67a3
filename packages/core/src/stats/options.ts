/** How the options of an item worked: who chose them, and how able those were. */
import { correlation } from './scores.js';

/** What one person did with an item. */
export interface Choice {
  /** Ids of the options that were chosen; none where the item was left out. */
  chosen: readonly string[];
  /** Points on all other items. */
  rest: number;
}
/** How an option worked. */
export interface OptionFigures {
  id: string;
  n: number;
  /** Share of all people who chose it. */
  share: number;
  /** Correlation of choosing it with the points on all other items (point-biserial); null where nothing varies. */
  discrimination: number | null;
  /** Share of those who chose it in each fifth of people by ability, the least able first; empty for fewer than ten people. */
  fifths: number[];
}
/** What is worth a look. */
export type ItemRemark =
  /** A wrong option that the able choose more than the key: the key may be wrong. */
  | { kind: 'likely-key'; option: string }
  /** A wrong option that next to nobody takes. */
  | { kind: 'idle'; option: string }
  /** People with more points on the rest do worse here. */
  | { kind: 'against' }
  /** Nearly nobody earned anything, or nearly everybody everything: it tells people hardly apart. */
  | { kind: 'too-hard' }
  | { kind: 'too-easy' }
  /** Many gave no answer. */
  | { kind: 'left-out'; share: number }
  | { kind: 'not-reached'; share: number };

const FIFTHS = 5;
const FEWEST = 10;

/** The options of an item, in their order. @param choices one for each person */
export function optionFigures(options: readonly string[], choices: readonly Choice[]): OptionFigures[] {
  const order = choices.map((_, i) => i).sort((a, b) => (choices[a]?.rest ?? 0) - (choices[b]?.rest ?? 0));
  const fifthOf = new Map(order.map((i, rank) => [i, Math.min(FIFTHS - 1, Math.floor((rank * FIFTHS) / order.length))]));
  const rest = choices.map((c) => c.rest);
  return options.map((id) => {
    const took = choices.map((c) => (c.chosen.includes(id) ? 1 : 0));
    const n = took.reduce<number>((s, t) => s + t, 0);
    const fifths = Array.from({ length: FIFTHS }, (_, f) => {
      const own = took.filter((_t, i) => fifthOf.get(i) === f);
      return own.reduce<number>((s, t) => s + t, 0) / (own.length || 1);
    });
    return { id, n, share: choices.length ? n / choices.length : 0, discrimination: correlation(took, rest), fifths: choices.length < FEWEST ? [] : fifths };
  });
}

/** A distractor that fewer take does nothing (Haladyna and Downing 1993: 5 %, from memory). */
const IDLE = 0.05;
/** Below so many people nothing is said of options. Common practice, no source. */
const ENOUGH = 20;
/** So much better than the key has an option to sort people before the key is doubted. Common practice, no source. */
const CLEARLY = 0.1;
const HARD = 0.1;
const EASY = 0.95;
const MANY = 0.2;

/**
 * What is worth a look at an item; nothing where there are too few people to say.
 * @param keys ids of the options that are right; none of an item without options
 * @param omitted share of people who left it out
 * @param notReached share of people who did not come so far
 */
export function remarksOn(
  item: { difficulty: number; discrimination: number | null },
  people: number,
  options: readonly OptionFigures[],
  keys: ReadonlySet<string>,
  omitted: number,
  notReached = 0,
): ItemRemark[] {
  if (people < ENOUGH) return [];
  const out: ItemRemark[] = [];
  const best = Math.max(-1, ...options.filter((o) => keys.has(o.id)).map((o) => o.discrimination ?? 0));
  const wrong = options.filter((o) => !keys.has(o.id));
  const able = wrong.filter((o) => (o.discrimination ?? 0) > Math.max(0, best) + CLEARLY).sort((a, b) => (b.discrimination ?? 0) - (a.discrimination ?? 0))[0];
  if (keys.size && able && able.share >= IDLE) out.push({ kind: 'likely-key', option: able.id });
  else if ((item.discrimination ?? 0) < 0) out.push({ kind: 'against' });
  if (item.difficulty < HARD) out.push({ kind: 'too-hard' });
  if (item.difficulty > EASY) out.push({ kind: 'too-easy' });
  if (omitted >= MANY) out.push({ kind: 'left-out', share: omitted });
  if (notReached >= MANY) out.push({ kind: 'not-reached', share: notReached });
  // of an item that all get right no wrong option is taken, which says nothing
  if (keys.size && item.difficulty <= EASY) for (const o of wrong) if (o.share < IDLE) out.push({ kind: 'idle', option: o.id });
  return out;
}

/** Bars of a histogram: how many people have points from `from` to below `to`, in the last one up to and with it. */
export interface Bar {
  from: number;
  to: number;
  n: number;
}
const WIDTHS = [0.25, 0.5, 1, 2, 5, 10, 20, 25, 50, 100, 200, 500, 1000];
const MOST_BARS = 20;
/** Totals in bars of a round width, at most twenty, from nothing to the maximum (or the best, where that is more). */
export function histogram(totals: readonly number[], maximum: number): Bar[] {
  const most = Math.max(maximum, ...totals, 0);
  if (most <= 0) return [];
  const width = WIDTHS.find((w) => most / w <= MOST_BARS) ?? most / MOST_BARS;
  const bars = Array.from({ length: Math.ceil(most / width - 1e-9) }, (_, i): Bar => ({ from: i * width, to: (i + 1) * width, n: 0 }));
  for (const t of totals) {
    const bar = bars[Math.min(bars.length - 1, Math.max(0, Math.floor(t / width + 1e-9)))];
    if (bar) bar.n++;
  }
  return bars;
}

/** Dots that stand over one another. */
export interface DotStack {
  /** Points where it stands: the middle between its least and its greatest. */
  at: number;
  /** Places of the people, from the lowest dot. */
  people: number[];
}
/**
 * A dot for each person: from the least, those less than a dot's width behind the first of a stack stand on it.
 * Source: L. Wilkinson, “Dot plots”, The American Statistician 53 (1999), 276–281; from memory.
 * @param totals the points of each
 * @param width of a dot, in points
 */
export function dotStacks(totals: readonly number[], width: number): DotStack[] {
  const out: { least: number; most: number; people: number[] }[] = [];
  const order = totals.map((t, i) => [t, i] as const).sort(([a], [b]) => a - b);
  for (const [t, i] of order) {
    const stack = out.at(-1);
    if (stack && t - stack.least < width) {
      stack.most = t;
      stack.people.push(i);
    } else out.push({ least: t, most: t, people: [i] });
  }
  return out.map(({ least, most, people }) => ({ at: (least + most) / 2, people }));
}
