/** What handing in late costs: once or for each day that was begun, by the arranged time of a person, never more than all. */
import fc from 'fast-check';
import { keptOf } from '../mark/mark.js';
import { keptShare } from './late.js';
import { rulesProblem, usualRules } from './rules.js';

const due = '2026-11-30T18:00:00.000Z';
const after = (hours: number): number => Date.parse(due) + hours * 3_600_000;
const rule = (percent: number, per: 'once' | 'day') => ({ late: { due, percent, per } });

test.each([
  ['in time', rule(10, 'once'), -1, 1],
  ['on its way when it was due', rule(10, 'once'), 29 / 3600, 1],
  ['an hour later, once', rule(10, 'once'), 1, 0.9],
  ['three days later, once', rule(10, 'once'), 72, 0.9],
  ['an hour later, for each day', rule(10, 'day'), 1, 0.9],
  ['a day and an hour later', rule(10, 'day'), 25, 0.8],
  ['after eleven days nothing is left', rule(10, 'day'), 11 * 24, 0],
  ['late but for nothing', rule(0, 'day'), 50, 1],
  ['no such rule', {}, 1000, 1],
])('%s', (_, rules, hours, kept) => {
  expect(keptShare(rules, after(hours))).toBe(kept);
});

test('who may take longer is late only after that', () => {
  expect(keptShare(rule(10, 'day'), after(25), { until: '2026-12-01T18:00:00.000Z' })).toBe(0.9);
  expect(keptShare(rule(10, 'day'), after(23), { until: '2026-12-01T18:00:00.000Z' })).toBe(1);
  // an arrangement that is over before it is due takes nothing away
  expect(keptShare(rule(10, 'day'), after(-1), { until: '2026-11-01T18:00:00.000Z' })).toBe(1);
  // and the time that a pause took is nobody's fault
  expect(keptShare(rule(10, 'once'), after(1), { minutes: 60 })).toBe(1);
  expect(keptShare(rule(10, 'once'), after(1.1), { minutes: 60 })).toBe(0.9);
});

test('later never keeps more, and points stay between nothing and what they were', () => {
  const percent = fc.integer({ min: 0, max: 100 });
  const hours = fc.double({ min: -50, max: 2000, noNaN: true });
  fc.assert(
    fc.property(
      percent,
      fc.constantFrom('once' as const, 'day' as const),
      hours,
      hours,
      fc.double({ min: 0, max: 500, noNaN: true }),
      (p, per, a, b, points) => {
        const [early, late] = [Math.min(a, b), Math.max(a, b)].map((h) => keptShare(rule(p, per), after(h))) as [number, number];
        expect(late).toBeLessThanOrEqual(early);
        expect(keptOf(points, late)).toBeGreaterThanOrEqual(0);
        expect(keptOf(points, late)).toBeLessThanOrEqual(points + 1e-4);
      },
    ),
  );
});

test('rules that nobody could be late by are told', () => {
  const rules = usualRules();
  expect(rulesProblem({ ...rules, ...rule(10, 'once'), closesAt: due })).toMatch(/closes/);
  expect(rulesProblem({ ...rules, ...rule(10, 'once'), opensAt: due })).toMatch(/opens/);
  expect(rulesProblem({ ...rules, ...rule(10, 'once'), closesAt: '2026-12-02T18:00:00.000Z' })).toBeNull();
});
