/** Answers that two people marked by hand, each by themselves. */
import type { Decision } from './decisions.js';

/** An answer with what each gave. */
export interface DoubleMark {
  attempt: string;
  item: string;
  /** The last of each, in the order in which they first marked it. */
  marks: { by: string; points: number }[];
}
/** Two markers with all answers that both marked. */
export interface TwoMarkers {
  first: string;
  second: string;
  /** Points of the first and of the second. */
  answers: { attempt: string; item: string; points: [number, number] }[];
}

/** Answers that more than one person marked. @param kept decisions that hold, in order, with who made them */
export function doubleMarks(kept: readonly { by: string; decision: Decision }[]): DoubleMark[] {
  const found = new Map<string, DoubleMark>();
  for (const { by, decision: d } of kept) {
    if (d.type !== 'hand' || !by) continue;
    const key = `${d.attempt}\u0000${d.item}`;
    const known = found.get(key) ?? { attempt: d.attempt, item: d.item, marks: [] };
    found.set(key, known);
    const own = known.marks.find((m) => m.by === by);
    if (own) own.points = d.points;
    else known.marks.push({ by, points: d.points });
  }
  return [...found.values()].filter((f) => f.marks.length > 1);
}

/** The same by pairs of markers, who share most answers first. */
export function markerPairs(marks: readonly DoubleMark[]): TwoMarkers[] {
  const pairs = new Map<string, TwoMarkers>();
  for (const { attempt, item, marks: given } of marks)
    given.forEach((a, n) => {
      for (const b of given.slice(n + 1)) {
        const turned = b.by < a.by;
        const [first, second] = turned ? [b, a] : [a, b];
        const key = `${first.by}\u0000${second.by}`;
        const known = pairs.get(key) ?? { first: first.by, second: second.by, answers: [] };
        pairs.set(key, known);
        known.answers.push({ attempt, item, points: [first.points, second.points] });
      }
    });
  return [...pairs.values()].sort((a, b) => b.answers.length - a.answers.length);
}
