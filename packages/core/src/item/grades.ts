/** Grades: steps of a share of the points, each with its name. */
import { z } from 'zod';

/** The schema of the grades of a set: from which share of the points on each is given, 0 to 1. */
export const grades = z.array(z.object({ from: z.number().min(0).max(1), name: z.string().min(1).max(30) })).max(40);
/** From a share of the points on, this grade. */
export type GradeStep = z.infer<typeof grades>[number];

/** How the points of a person are rounded, once they are added up. */
export const roundings = ['half', 'whole', 'up'] as const;
/** To half points, to whole ones, or up to the next whole one. */
export type Rounding = (typeof roundings)[number];
/** Points as they count: of halves between two steps the higher one. @param rounding as they are where it is not said */
export function roundTotal(points: number, rounding: Rounding | undefined): number {
  // as much as sums of points may be off
  if (rounding === 'up') return Math.ceil(points - 1e-6);
  if (rounding === 'whole') return Math.floor(points + 0.5 + 1e-6);
  return rounding === 'half' ? Math.floor(points * 2 + 0.5 + 1e-6) / 2 : points;
}

/** The grade of a share of the points: that of the highest step that is reached; empty where none is. */
export function gradeOf(share: number, steps: readonly GradeStep[]): string {
  let best: GradeStep | undefined;
  // as much as sums of points may be off
  for (const s of steps) if (share >= s.from - 1e-9 && (!best || s.from > best.from)) best = s;
  return best?.name ?? '';
}

/** Who stands so near to where a grade begins that chance may have decided. */
export interface GradeEdge {
  step: GradeStep;
  /** Places of those who have reached it, and of those who have not. */
  over: number[];
  under: number[];
}
/**
 * Who lies within the standard error of a score from where a grade begins; of grades that everybody has, nobody.
 * @param shares of the points, one for each person
 * @param error standard error of a score, as a share of the points
 */
export function gradeEdges(shares: readonly number[], steps: readonly GradeStep[], error: number): GradeEdge[] {
  const near = (from: number, wanted: (off: number) => boolean): number[] =>
    shares.flatMap((s, n) => (Math.abs(s - from) <= error + 1e-9 && wanted(s - from) ? [n] : []));
  return steps
    .filter((s) => s.from > 0)
    .map((step) => ({ step, over: near(step.from, (off) => off >= -1e-9), under: near(step.from, (off) => off < -1e-9) }))
    .filter((e) => e.over.length + e.under.length > 0);
}

const LONGEST_LINE = 80;
const PER_CENT = /(?<![\d.,])(\d{1,3}(?:[.,]\d{1,2})?) ?%?$/;
/** Steps as they are typed, one a line or apart by semicolons: "A 90", "passed: 50 %". The best first. */
export function readGrades(text: string): { steps: GradeStep[] } | { problem: string } {
  const steps: GradeStep[] = [];
  for (const line of text.split(/[\n;]/).map((l) => l.trim())) {
    if (!line) continue;
    const m = PER_CENT.exec(line.slice(0, LONGEST_LINE));
    // "passed: 50", "passed = 50", "passed from 50"
    const name = m
      ? line
          .slice(0, m.index)
          .trim()
          .replace(/ from$/, '')
          .replace(/[:=]$/, '')
          .trim()
      : '';
    if (!m || !name || line[m.index - 1] !== ' ') return { problem: `“${line.slice(0, 40)}” is no grade with a per cent behind it. Write it like “A 90”.` };
    // in hundredths of a per cent, so that what is written is what is read
    const from = Math.round(Number((m[1] ?? '').replace(',', '.')) * 100) / 100;
    if (from > 100) return { problem: `“${line.slice(0, 40)}”: more than 100 per cent cannot be had.` };
    if (name.length > 30) return { problem: `“${name.slice(0, 30)}…” is too long for a grade.` };
    if (steps.some((s) => s.name === name)) return { problem: `“${name}” stands there twice.` };
    const share = Math.round(from * 100) / 1e4;
    if (steps.some((s) => s.from === share)) return { problem: `Two grades begin at ${from} per cent.` };
    steps.push({ name, from: share });
  }
  return { steps: steps.sort((a, b) => b.from - a.from) };
}
/** The same the other way round, one a line. */
export const writeGrades = (steps: readonly GradeStep[]): string =>
  [...steps]
    .sort((a, b) => b.from - a.from)
    .map((s) => `${s.name} ${Math.round(s.from * 1e4) / 100}`)
    .join('\n');
