/** `zakuska grade`: what is said of a table that was marked. */
import type { GradedTable } from '@zakuska/core';

/** What is printed for `--json`. */
export const gradedJson = (g: GradedTable): unknown => ({
  marked: g.marked.map((m) => m.heading),
  people: g.people.map(({ name, score, max }) => ({ name, score, max })),
  mean: g.mean,
  mostMissed: g.mostMissed[0] ?? null,
  lowScorers: g.lowScorers,
});

const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** What is printed without `--json`. */
export function gradedReport(file: string, g: GradedTable): string {
  const max = g.people[0]?.max ?? 0;
  return [
    `${file}: ${g.people.length} people, ${g.marked.length} questions, ${max} points; mean ${g.mean}`,
    ...g.people.map((p) => `  ${String(p.score).padStart(6)} of ${p.max}  ${p.name}`),
    'Most missed first:',
    ...g.mostMissed.map((h) => `  ${percent(g.marked.find((m) => m.heading === h)?.earned ?? 0).padStart(5)}  ${h}`),
    ...(g.lowScorers.length ? [`Under half: ${g.lowScorers.join(', ')}`] : []),
  ].join('\n');
}
