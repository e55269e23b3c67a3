/** Which circles are filled in, by limits that are measured on the page itself. */
import type { Bubble } from '../formats/paper/sheet.js';
import { quantile } from '../stats/scores.js';
import type { Measured } from './circles.js';

/** Why somebody has to look at a field. */
export type SheetDoubt =
  /** A circle that is neither filled in nor empty: a light mark, or one that was rubbed out. */
  | 'faint'
  /** More than one circle where one answers. */
  | 'several'
  /** A circle with strokes across and beyond it: crossed out, or meant. */
  | 'crossed'
  /** A number with an empty column inside of it, or of signs that make none. */
  | 'number'
  /** Something is written in the box. */
  | 'written'
  /** The field could not be found in the picture: covered, cut off or folded. */
  | 'lost';

/** The most ink that a printed sign has, and how far above those of other signs it may be. */
const SIGN = { most: 0.16, above: 0.04 };
/** From how much ink on a circle is filled in, up to how much it is empty, and how much right outside of its line is more than a pen slips. */
export interface Limits {
  filled: number;
  empty: number;
  outside: number;
}
/** People press a pen in their own way, and pictures have their own noise: limits are measured on the page, between these. */
const FILLED = { share: 0.5, usual: 0.6, least: 0.12, most: 0.42, overNoise: 3 };
const EMPTY = { least: 0.05, most: 0.1, overNoise: 2 };
/** From so much ink on the darkest of a row is a mark, of which the page's usual one is the median. */
const MARKED = 0.1;
const STROKES = 0.12;
/** Where several may be filled in, no second mark shows that one was rubbed out or crossed out: limits are tighter. */
const SEVERAL = { times: 1.25, less: 0.06 };
/** Where the edge of a stain may run, so much more ink than usual is a mark. */
const STAIN = { uneven: 0.13, times: 1.6 };
/** Of fewer marks than these nothing is learnt. */
const FEW = 5;
/** What a circle looks like. */
export type Seen = 'filled' | 'empty' | 'faint' | 'crossed';

/** What was measured of a circle, without the sign that is printed in it. */
export interface Inked extends Pick<Measured, 'outside' | 'uneven'> {
  ink: number;
}
/** What marks and empty circles are like on a page, by rows of which one circle at most is filled in. */
export function limitsOf(rows: readonly (readonly Inked[])[]): Limits {
  const marks: Inked[] = [];
  const rest: number[] = [];
  for (const row of rows) {
    const [top, ...others] = [...row].sort((a, b) => b.ink - a.ink);
    if (top && top.ink > MARKED) marks.push(top);
    rest.push(...others.map((o) => o.ink));
  }
  const noise = Math.max(quantile(rest, 0.95), 0);
  const usually = (of: (m: Inked) => number, unknown: number): number => (marks.length < FEW ? unknown : quantile(marks.map(of), 0.5));
  const usual = usually((m) => m.ink, FILLED.usual);
  const empty = Math.min(Math.max(EMPTY.overNoise * noise, EMPTY.least), EMPTY.most);
  return {
    empty,
    filled: Math.max(Math.min(Math.max(FILLED.share * usual, FILLED.least), FILLED.most), FILLED.overNoise * noise, empty),
    outside: STROKES + usually((m) => m.outside, 0),
  };
}

/** What a circle is. */
export function seenOf({ ink, outside, uneven }: Inked, limits: Limits): Seen {
  if (ink >= limits.filled && uneven > STAIN.uneven && ink < limits.filled * STAIN.times) return 'faint';
  if (ink >= limits.filled) return outside > limits.outside ? 'crossed' : 'filled';
  return ink <= limits.empty ? 'empty' : 'faint';
}

/** What circles say together, and why somebody has to look. */
export interface Given {
  given: string[];
  doubt?: SheetDoubt;
}

/** What a row of circles says. */
export function rowRead(bubbles: readonly Bubble[], seen: readonly Seen[], several: boolean): Given {
  const having = (...of: Seen[]): string[] => bubbles.flatMap((b, i) => (of.includes(seen[i] as Seen) ? [b.value] : []));
  const given = having('filled', 'crossed');
  if (!several && given.length > 1) return { given, doubt: seen.includes('crossed') ? 'crossed' : 'several' };
  if (seen.includes('crossed')) return { given, doubt: 'crossed' };
  if (seen.includes('faint')) return { given: given.length ? given : having('faint'), doubt: 'faint' };
  return { given };
}

/** What the columns of a number say together. */
export function gridRead(columns: readonly Given[]): Given {
  const doubt = columns.find((c) => c.doubt)?.doubt;
  const signs = columns.map((c) => c.given[0] ?? ' ').join('');
  const text = signs.trim();
  if (!text) return { given: [], ...(doubt && { doubt }) };
  const number = /^-?(?:\d+(?:\.\d*)?|\.\d+)$/.test(text);
  return { given: [text.replaceAll(' ', '')], ...(doubt ? { doubt } : !number && { doubt: 'number' as const }) };
}

/**
 * The ink of circles without the sign that is printed in them: what the lower fifth of all with the same sign have, and little more than
 * those of other signs.
 */
export function withoutSigns(all: ReadonlyMap<Bubble, Measured>): (b: Bubble) => Inked {
  const bySign = new Map<string, number[]>();
  for (const [b, m] of all) bySign.set(b.sign, [...(bySign.get(b.sign) ?? []), m.dark]);
  const low = new Map([...bySign].map(([sign, darks]) => [sign, quantile(darks, 0.2)]));
  const most = Math.min(quantile([...low.values()], 0.5) + SIGN.above, SIGN.most);
  return (b) => {
    const m = all.get(b);
    return m ? { ...m, ink: m.dark - Math.min(low.get(b.sign) ?? 0, most) } : { ink: 0, outside: 0, uneven: 0 };
  };
}

/** Limits for rows where several may be filled in. */
export const strictly = (limits: Limits): Limits => ({ ...limits, filled: limits.filled * SEVERAL.times, outside: limits.outside - SEVERAL.less });
