/** The ways of scoring a multiple response, and which of them say the same about an item. */
import { markChosen } from './chosenOptions.js';
import type { ItemOf, Option, Scoring } from './model.js';

type Response = ItemOf<'multiple-response'>;
type Settled = Pick<Response, 'options' | 'scoring'>;

/** Sets of options to try a scoring with: all of them up to eight options, else single ones, pairs, and the keys with one more or less. */
export function trials(options: readonly Option[], keys: readonly boolean[]): number[][] {
  const n = options.length;
  if (n <= 8) return Array.from({ length: 2 ** n - 1 }, (_, i) => Array.from({ length: n }, (__, k) => k).filter((k) => (i + 1) & (1 << k)));
  const all = Array.from({ length: n }, (_, k) => k);
  const key = all.filter((k) => keys[k]);
  const with_ = all.filter((k) => !keys[k]).map((k) => [...key, k].sort((a, b) => a - b));
  const without = key.map((k) => key.filter((x) => x !== k)).filter((s) => s.length);
  const pairs = all.slice(0, 12).flatMap((a) => all.slice(a + 1, 12).map((b) => [a, b]));
  return [all, key, all.filter((k) => !keys[k]), ...all.map((k) => [k]), ...with_, ...without, ...pairs].filter((s) => s.length);
}

const plain = (options: readonly Option[]): Option[] => options.map((o) => ({ ...o, credit: o.credit > 0 ? 1 : 0 }));
const SIMPLE: readonly Scoring[] = ['all-or-nothing', 'right-minus-wrong', 'per-option'];

/** Every way that scores each trial as `credit` says; the first is the plainest. `weights` are tried as they are given. */
export function scoringFor(options: readonly Option[], credit: (chosen: number[]) => number, slack = 1e-6): Settled | null {
  const sets = trials(
    options,
    options.map((o) => o.credit > 0),
  );
  const tries: Settled[] = [...SIMPLE.map((scoring) => ({ scoring, options: plain(options) })), { scoring: 'weights', options: [...options] }];
  const want = sets.map(credit);
  return (
    tries.find((t) =>
      sets.every((s, i) => {
        const chosen = new Set(s.map((k) => t.options[k]?.id ?? ''));
        return Math.abs(markChosen(t, chosen) - (want[i] ?? 0)) < slack;
      }),
    ) ?? null
  );
}

const closeTo = (a: number, b: number): boolean => Math.abs(a - b) < 1e-4;
/** Shares of the points (`credit`, 1 = all of them) that say "each key its share, each wrong option takes its share" are that rule and not single weights. */
export function byShares(options: readonly Option[]): Settled {
  const keys = options.filter((o) => o.credit > 0).length;
  const others = options.length - keys;
  if (options.every((o) => (o.credit > 0 ? closeTo(o.credit, 1 / keys) : closeTo(o.credit, -1 / others))))
    return { scoring: 'right-minus-wrong', options: plain(options) };
  return { scoring: 'weights', options: [...options] };
}

/**
 * The plainest scoring that gives every response the same marks: an item with one key and one distractor scores alike in several ways,
 * and weights may say no more than "right minus wrong".
 */
export function settledScoring(item: Settled): Settled {
  if (!item.options.some((o) => o.credit > 0)) return { scoring: item.scoring, options: item.options };
  return scoringFor(item.options, (chosen) => markChosen(item, new Set(chosen.map((k) => item.options[k]?.id ?? '')))) ?? item;
}
