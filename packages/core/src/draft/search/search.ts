/** The search for the best reading of the whole draft: a beam over its lines with text. */
import type { Sign } from '../signs/sign.js';
import { closing, step, type Terrain } from './step.js';
import { State } from './state.js';

/** Scores count in thousandths of a weight, so that their sums are exact, whatever comes before a line. */
const FINE = 1000;
/** So many states are kept at a line, and only those that are so near to the best. */
const WIDTH = 12;
const NEAR = 6 * FINE;
/** So many ways into one state are remembered, for the doubt. */
const WAYS = 6;
/** What is farther from the best than this leads to no state that is kept, and to no doubt. */
const FAR = NEAR + FINE;

/** The best path over the ground: for every line with text one sign, and the state behind it. */
export interface Reading {
  /** The signs of the best reading, in order, each with the state that it led to. */
  path: { place: number; sign: Sign; state: State }[];
  /** In thousandths of a weight. */
  score: number;
  /** The states kept at each line with text; the last are those behind the draft. */
  layers: State[][];
  /** Whether no state waits for a line farther on. */
  clear: boolean[];
}

/** What of an earlier search holds still. */
export interface Again {
  before: Reading;
  /** Steps up to here see nothing that differs. */
  from: number;
  /** From here on the lines could be what they could be before, at places less by the shift. */
  tail: number;
  shift: number;
}
/** Steps look at so many lines above, at most: those of the options that a key could name. */
const STEPS_BEHIND = 26;
const counted = (worth: number): number => Math.round(worth * FINE);

/**
 * Finds the best reading.
 * @param signsAt what the line with text at a place could be; never empty
 * @param certainAt whether a person has said what the line is
 * @param again an earlier search over nearly the same lines, which is not to be used any more: its states become those of this one
 */
export function search(ground: Terrain, signsAt: (place: number) => readonly Sign[], certainAt: (place: number) => boolean, again?: Again): Reading {
  const count = ground.units.length;
  let layers: State[][] = [[new State()]];
  let clear = [true];
  if (again) {
    let from = again.from;
    while (from > 0 && !again.before.clear[from]) from--;
    layers = again.before.layers.slice(0, from + 1);
    clear = again.before.clear.slice(0, from + 1);
  }
  // states that a table or a block of code leads to wait for their line
  const waiting = new Map<number, State[]>();
  // most steps lead nowhere new, so that one state is tried on again and again
  let spare = new State();
  const into = (place: number): State[] => {
    const known = waiting.get(place);
    if (known) return known;
    const made: State[] = [];
    waiting.set(place, made);
    return made;
  };
  let alike = 0;
  for (let place = layers.length - 1; place < count; place++) {
    const unit = ground.units[place];
    const beam = layers[place] as State[];
    if (!unit) continue;
    const signs = beam.length ? signsAt(place) : [];
    const certain = certainAt(place);
    let best = Number.NEGATIVE_INFINITY;
    for (const s of waiting.get(place + 1) ?? []) if (s.score > best) best = s.score;
    for (const s of beam)
      for (const sign of signs) {
        const n = spare;
        const gain = counted(step(s, n, unit, ground, sign, certain));
        if (!Number.isFinite(gain)) continue;
        n.score = s.score + gain;
        const at = Math.min(count, n.place);
        if (at === place + 1) {
          if (n.score < best - FAR) continue;
          if (n.score > best) best = n.score;
        }
        const next = into(at);
        const old = next.find((x) => x.like(n));
        const edge = { from: s, sign, gain };
        if (!old) {
          n.edges = [edge];
          next.push(n);
          spare = new State();
        } else if (old.score < n.score) {
          old.score = n.score;
          old.edges.unshift(edge);
          if (old.edges.length > WAYS) old.edges.length = WAYS;
        } else if (old.edges.length < WAYS) old.edges.push(edge);
      }
    const all = into(place + 1);
    waiting.delete(place + 1);
    const near = all.filter((s) => s.score >= best - NEAR);
    if (near.length > WIDTH) {
      near.sort((a, b) => b.score - a.score);
      near.length = WIDTH;
    }
    layers.push(near);
    clear.push(waiting.size === 0);
    if (!again || place < again.tail || waiting.size > 0) continue;
    // behind the edit the states are soon those of before; then all that follows is, too
    alike = goesOnAs(near, again, place + 1) ? alike + 1 : 0;
    if (alike === STEPS_BEHIND && count - place - 1 === again.before.layers.length - 1 - (place + 1 - again.shift)) {
      layers.pop();
      layers.push(...takenOver(near, again, place + 1));
      clear.push(...again.before.clear.slice(place + 2 - again.shift));
      break;
    }
  }
  const ends = layers[count] as State[];
  let last: State | undefined;
  for (const s of ends) {
    s.ahead = counted(closing(s, ground));
    if (!last || s.score + s.ahead > last.score + last.ahead) last = s;
  }
  const path: Reading['path'] = [];
  for (let s = last; s && s.edges[0]; s = s.edges[0].from) path.push({ place: s.edges[0].from.place, sign: s.edges[0].sign, state: s });
  path.reverse();
  return { path, score: last ? last.score + last.ahead : 0, layers, clear };
}

/** Whether states are those of an earlier search, but for one difference of all scores. */
function goesOnAs(states: readonly State[], again: Again, place: number): boolean {
  const there = place - again.shift;
  const old = again.before.clear[there] ? again.before.layers[there] : undefined;
  if (!old || old.length !== states.length) return false;
  const more = (states[0]?.score ?? 0) - (old[0]?.score ?? 0);
  return states.every((s, i) => {
    const o = old[i] as State;
    return s.score - o.score === more && s.same(o) && s.edges[0]?.sign === o.edges[0]?.sign;
  });
}
/** The states of an earlier search from a place on, now those of this one. */
function takenOver(states: readonly State[], again: Again, place: number): State[][] {
  const layers = again.before.layers.slice(place - again.shift);
  const more = (states[0]?.score ?? 0) - (layers[0]?.[0]?.score ?? 0);
  for (const layer of layers)
    for (const s of layer) {
      s.score += more;
      s.place += again.shift;
    }
  layers[0]?.forEach((s, i) => {
    s.edges = states[i]?.edges ?? [];
  });
  return layers;
}

/** Fills in, from the end, what the best way on from each state is worth. */
function lookAhead(r: Reading): void {
  for (let place = r.layers.length - 2; place >= 0; place--) for (const s of r.layers[place] as State[]) s.ahead = Number.NEGATIVE_INFINITY;
  for (let place = r.layers.length - 1; place > 0; place--)
    for (const s of r.layers[place] as State[]) for (const e of s.edges) e.from.ahead = Math.max(e.from.ahead, e.gain + s.ahead);
}

/** Another way to read a line that is nearly as good. */
export interface Doubt {
  place: number;
  /** By how much the best reading of the whole draft is better than the best one that reads this line otherwise. */
  margin: number;
  other: Sign;
}

/** Readings of a line that come to the same for a person count as one. */
const SENSE: Readonly<Partial<Record<Sign['role'], string>>> = {
  sub: 'question',
  code: 'stem',
  part: 'aside',
  instruction: 'aside',
  passage: 'aside',
  bank: 'aside',
  'write-on': 'aside',
  'set-field': 'aside',
  'list-head': 'list',
  'list-entry': 'list',
  'list-more': 'list',
  field: 'more',
  note: 'more',
};
const senseOf = (sign: Sign): string => SENSE[sign.role] ?? sign.role;

/** The lines that could nearly as well be something else, with what they could be; `near` is the margin up to which they are told. */
export function doubtsOf(r: Reading, near: number): Doubt[] {
  lookAhead(r);
  const floor = r.score - near * FINE;
  const best = new Map<number, Map<string, { total: number; sign: Sign }>>();
  for (const layer of r.layers)
    for (const s of layer)
      for (const e of s.edges) {
        const total = e.from.score + e.gain + s.ahead;
        if (total < floor) continue;
        const at = best.get(e.from.place) ?? new Map<string, { total: number; sign: Sign }>();
        best.set(e.from.place, at);
        const sense = senseOf(e.sign);
        const known = at.get(sense);
        if (!known || known.total < total) at.set(sense, { total, sign: e.sign });
      }
  const out: Doubt[] = [];
  for (const { place, sign } of r.path) {
    let other: { total: number; sign: Sign } | undefined;
    for (const [sense, x] of best.get(place) ?? []) if (sense !== senseOf(sign) && (!other || x.total > other.total)) other = x;
    if (other) out.push({ place, margin: (r.score - other.total) / FINE, other: other.sign });
  }
  return out;
}
