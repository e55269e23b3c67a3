import fc from 'fast-check';
import { fitSet } from '../fit/fit.js';
import { runs, sampled } from '../item/runs.js';
import { anyRichSet } from '../testing.js';
import { doChore } from './chores.js';
import { type Chore, type Helper, helpersOf } from './helpers.js';
import { coreFormats } from './index.js';

const double: Chore<number, number> = { id: 'double', run: (n) => n * 2 };
/** Helpers that take a moment, and what was seen of them. */
function watched(count: number, broken: (input: unknown) => boolean = () => false) {
  const seen = { started: 0, ended: 0, busy: 0, most: 0, order: [] as unknown[] };
  const start = (): Helper => {
    seen.started++;
    return {
      async do(_, input) {
        seen.most = Math.max(seen.most, ++seen.busy);
        seen.order.push(input);
        await new Promise((done) => setTimeout(done, 1));
        seen.busy--;
        if (broken(input)) throw new Error(`not ${input}`);
        return double.run(input as number);
      },
      end: () => void seen.ended++,
    };
  };
  return { seen, helpers: helpersOf(count, start) };
}

test('nobody is there before there is something to do; no more than so many; each has its own answer, in the order of asking', async () => {
  const { seen, helpers } = watched(3);
  expect(seen.started).toBe(0);
  const numbers = Array.from({ length: 20 }, (_, i) => i);
  expect(await Promise.all(numbers.map((n) => helpers.do(double, n)))).toEqual(numbers.map((n) => n * 2));
  expect(seen).toMatchObject({ started: 3, most: 3, order: numbers, ended: 0 });
  await helpers.do(double, 1);
  expect(seen.started).toBe(3);
  helpers.end();
  expect(seen.ended).toBe(3);
  // and may be asked again
  expect(await helpers.do(double, 4)).toBe(8);
});

test('one that fails makes way for another: the rest is done whatever fails', () =>
  fc.assert(
    fc.asyncProperty(fc.integer({ min: 1, max: 4 }), fc.array(fc.boolean(), { maxLength: 12 }), async (count, fails) => {
      const { seen, helpers } = watched(count, (i) => fails[i as number] ?? false);
      const results = await Promise.allSettled(fails.map((_, i) => helpers.do(double, i)));
      expect(results.map((r) => (r.status === 'fulfilled' ? r.value : (r.reason as Error).message))).toEqual(fails.map((f, i) => (f ? `not ${i}` : i * 2)));
      expect(seen.most).toBeLessThanOrEqual(count);
      expect(seen.ended).toBe(fails.filter(Boolean).length);
    }),
    { numRuns: runs(100) },
  ));

test('a file that is shared out is the file that one makes, to the byte', async () => {
  const base = fc.sample(anyRichSet, { numRuns: 10, seed: 7 }).filter((s) => s.items.length > 2);
  // items enough for several parts, with all that items can hold
  const set = base.reduce((a, b) => ({
    ...a,
    assets: { ...a.assets, ...b.assets },
    sections: [...(a.sections ?? []), ...(b.sections ?? [])],
    items: [...a.items, ...b.items],
  }));
  const items = Array.from({ length: 520 }, (_, i) => ({ ...(set.items[i % set.items.length] as (typeof set.items)[0]), id: `item-${i}` }));
  const whole = { ...set, items };
  const shared = coreFormats.writable.filter((f) => f.share);
  expect(shared.length).toBeGreaterThan(5);
  for (const format of sampled(shared, 0.15)) {
    let parts = 0;
    const start = (): Helper => ({
      // as another thread has it: what is sent is a copy
      do: async (id, input) => {
        parts++;
        return structuredClone(doChore(id, structuredClone(input)));
      },
      end() {},
    });
    const { bytes, name } = await format.write(whole);
    expect(await format.share?.(whole, helpersOf(3, start))).toEqual({ bytes, name });
    const left = fitSet(whole, format.profile).set.items.length;
    expect(parts).toBe(left > 500 ? Math.ceil(left / 500) : 0);
  }
});

test('a chore that nobody knows', () => expect(() => doChore('sweep', 1)).toThrow('there is no chore called sweep'));
