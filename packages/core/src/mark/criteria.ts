/** The rubric of an essay as criteria that points are given for, one by one. */
import { pointsNote, pointsTotal } from '../language/points.js';
import { richToPlain } from '../item/richText.js';

/** One thing to look for, and the most points that it earns. */
export interface Criterion {
  text: string;
  points: number;
}

/** "Names two risks: 2 points" */
const BEHIND_COLON = /[:–—-][^:–—-]*$/u;

/** What parts one criterion from the next. */
const BETWEEN = /^[\s;,.•*–-]+/u;

/** The criteria of one line: each ends with its points. */
function criteriaIn(line: string): Criterion[] {
  const out: Criterion[] = [];
  let rest = line.replace(BETWEEN, '');
  for (let note = pointsNote(rest); note; note = pointsNote(rest)) {
    const text = rest.slice(0, note.from).trim();
    if (text && note.points > 0) out.push({ text, points: note.points });
    rest = rest.slice(note.to).replace(BETWEEN, '');
  }
  const points = out.length ? null : pointsTotal(rest);
  return points ? [{ text: rest.replace(BEHIND_COLON, '').trim(), points }] : out;
}

/** What a rubric asks for, where at least two things in it say their points; otherwise nothing: points are given for the whole then. */
export function criteriaOf(rubric: string | undefined): Criterion[] {
  const found = rubric ? richToPlain(rubric).split('\n').flatMap(criteriaIn) : [];
  return found.length >= 2 ? found : [];
}
