/**
 * Rehearsal: a written file is answered, from the file alone, and what it gives is compared with the core's marks. A key that would
 * mark wrongly is found before a learner meets it.
 */
import { fitSet } from '../fit/fit.js';
import { everything, type Profile } from '../fit/profile.js';
import { isGraded, keyProblem, nameOf } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { richToPlain } from '../item/richText.js';
import { mark, type Response } from '../mark/mark.js';
import { type Act, actOf, probesFor } from './probes.js';
import { showsSame } from './shows.js';

/** One item of a file that can be answered. */
export interface Playable {
  id: string;
  /** The question as it stands in the file, to find an item whose id the file could not carry. */
  stem: string;
  maximum: number;
  /** What the file compares typed answers with, for each place where something is typed, in their order. */
  typed: readonly (readonly string[])[];
  /** What is shown to choose from, where that is asked. */
  options?: readonly string[];
  /** How many pictures its question shows, where they stand in it. */
  pictures?: number;
  /** How many times the file's test asks it; undefined where there is no test. */
  delivered?: number;
  /** Points for the answer that the file calls correct; null or undefined where it says none. */
  declared?(): number | null;
  /** Points for what is done; null where the file shows nothing that it could be done with, "refused" where it takes fewer choices. */
  score(act: Act): number | 'refused' | null;
}

/** One item as the file marked it and as the core does. */
export interface Rehearsed {
  item: string;
  name: string;
  /** Points that the file gives. `half` is null where the item knows no half. */
  right: number | null;
  wrong: number | null;
  half: number | null;
  /** Points that the core gives for the same half-right response. */
  halfDue: number | null;
  maximum: number;
  /** ok: every response tried earns what it should; by-hand: a person marks it; stays: it was not written, as was said beforehand. */
  verdict: 'ok' | 'by-hand' | 'differs' | 'missing' | 'stays';
  /** What differs, in a sentence. */
  reason?: string;
  /** How many responses were tried. */
  tried: number;
}

/** All items of a file, with sums and whether everything is as it should be. */
export interface Rehearsal {
  items: Rehearsed[];
  /** Points of all rehearsed items together. */
  right: number;
  wrong: number;
  half: number;
  halfDue: number;
  maximum: number;
  ok: boolean;
}

const SLACK = 1e-3;
const round = (n: number): number => Math.round(n * 1e4) / 1e4;
const plain = (rich: string): string =>
  richToPlain(rich)
    .replace(/\[\[[^\][]*\]\]|_{3,}/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .toLowerCase();

/** The words of a question without those of its pictures, which may stand beside it. */
const asked = (rich: string): string => plain(rich.replace(/<img\b[^<>]*>/g, ' ')).replace(NUMBERED, '');
/** A number in front of a question, which readers take for its label. */
const NUMBERED = /^(?:\p{L}{1,12}\s)?\d{1,3}\s?[.:)]\s/u;
/** How many pictures a rich text shows. */
export const picturesIn = (rich: string): number => rich.split('<img').length - 1;

/** A response in a few words, for the sentence that says what went wrong. */
function inWords(item: Item, r: Response): string {
  const cut = (s: string): string => (s.length > 40 ? `${s.slice(0, 39)}…` : s);
  if ('truth' in r) return r.truth ? 'true' : 'false';
  if ('options' in r && 'options' in item)
    return item.options.flatMap((o) => (r.options.includes(o.id) ? [`“${cut(richToPlain(o.content))}”`] : [])).join(' and ') || 'nothing';
  if ('text' in r) return `“${cut(r.text)}”`;
  if ('gaps' in r && item.kind === 'cloze')
    return item.gaps
      .map((g) => `“${cut(g.kind === 'choice' ? richToPlain(g.options.find((o) => o.id === r.gaps[g.id])?.content ?? '') : (r.gaps[g.id] ?? ''))}”`)
      .join(', ');
  if ('pairs' in r && item.kind === 'matching')
    return item.pairs.flatMap((p, i) => (r.pairs[i] ? [`${cut(richToPlain(p.left))} with ${cut(richToPlain(r.pairs[i] ?? ''))}`] : [])).join(', ') || 'nothing';
  if ('order' in r) return r.order.map((s) => `“${cut(richToPlain(s))}”`).join(', ');
  return 'an answer';
}

/** Rehearses one item as it was written. */
function one(item: Item, play: Playable, set: QuizSet): Rehearsed {
  const base = { item: item.id, name: nameOf(item), maximum: round(play.maximum), right: null, wrong: null, half: null, halfDue: null, tried: 0 };
  if (!isGraded(item)) return { ...base, maximum: 0, verdict: 'by-hand' };
  if (keyProblem(item)) return { ...base, verdict: 'by-hand', reason: 'it has no key' };
  const probes = probesFor(item, play.typed);
  const difference: string[] = [];
  const tried = new Set<string>();
  const given = (r: Response | null): number | null => {
    if (!r) return null;
    const act = actOf(item, r);
    const answered = act ? play.score(act) : null;
    // what cannot be given there is marked nowhere, but for the key itself
    if (answered === 'refused' && r !== probes.right) return null;
    const points = answered === 'refused' ? null : answered;
    const due = mark(item, r, set.language).points;
    const key = JSON.stringify(r);
    if (!tried.has(key)) {
      tried.add(key);
      const what = inWords(item, r);
      if (points === null && answered !== 'refused') difference.push(`${what} cannot be answered there`);
      else if (points === null)
        difference.push('options' in r && r.options.length > 1 ? `${what} cannot be chosen together there` : `${what} cannot be chosen there`);
      else if (Math.abs(points - due) > SLACK) difference.push(`${what} earns ${round(points)} of ${round(play.maximum)} there and ${due} here`);
    }
    return points === null ? null : round(points);
  };
  const right = given(probes.right);
  const wrong = given(probes.wrong);
  const half = given(probes.half);
  for (const r of probes.more) given(r);
  const declared = play.declared?.() ?? null;
  if (declared !== null && declared < Math.min(right ?? 0, play.maximum) - SLACK)
    difference.push(`what the file calls correct earns ${round(declared)} of ${round(play.maximum)}`);
  const extra = play.options?.find((o) => 'options' in item && !item.options.some((x) => showsSame(x.content, o)));
  if (extra !== undefined && 'options' in item) difference.push(`“${richToPlain(extra).slice(0, 40)}” can be chosen there and is none of its options`);
  if (asked(play.stem) !== asked(item.stem)) difference.push(`it asks otherwise there: “${richToPlain(play.stem).replace(/\s+/g, ' ').trim().slice(0, 60)}”`);
  else if (play.pictures !== undefined && play.pictures !== picturesIn(item.stem))
    difference.push(
      play.pictures === 1
        ? `it shows 1 picture there and ${picturesIn(item.stem)} here`
        : `it shows ${play.pictures} pictures there and ${picturesIn(item.stem)} here`,
    );
  if (play.delivered === 0) difference.unshift('it is in the file, but its test does not ask it');
  if ((play.delivered ?? 1) > 1) difference.unshift(`its test asks it ${play.delivered} times`);
  if (Math.abs(play.maximum - item.points) > SLACK) difference.unshift(`it is worth ${round(play.maximum)} there and ${item.points} here`);
  const halfDue = probes.half ? mark(item, probes.half, set.language).points : null;
  return {
    ...base,
    right,
    wrong,
    half,
    halfDue,
    tried: tried.size,
    verdict: difference.length ? 'differs' : 'ok',
    ...(difference[0] && { reason: difference[0] }),
  };
}

/**
 * Answers every item of a file and compares with a set.
 * @param played what is in the file
 * @param set what it was made from
 * @param profile what the destination holds: marks are compared with the item as it was said to become there
 */
export function rehearse(played: readonly Playable[], set: QuizSet, profile: Profile = everything): Rehearsal {
  const { fits } = fitSet(set, profile);
  const byId = new Map(played.map((p) => [p.id, p]));
  const free = new Set(played);
  const find = (item: Item, place: number): Playable | undefined => {
    const own = byId.get(item.id);
    if (own) return own;
    const text = plain(item.stem);
    return [...free].find((p) => plain(p.stem) === text) ?? (played.length === fits.flatMap((f) => f.items).length ? played[place] : undefined);
  };
  const items: Rehearsed[] = [];
  let place = 0;
  fits.forEach((f, i) => {
    const whole = set.items[i] as Item;
    if (!f.items.length)
      items.push({
        item: whole.id,
        name: nameOf(whole),
        right: null,
        wrong: null,
        half: null,
        halfDue: null,
        maximum: 0,
        verdict: 'stays',
        tried: 0,
        ...(f.notes[0] && { reason: f.notes[0].message }),
      });
    for (const due of f.items) {
      const play = find(due, place++);
      if (!play) {
        items.push({
          item: whole.id,
          name: nameOf(due),
          right: null,
          wrong: null,
          half: null,
          halfDue: null,
          maximum: due.points,
          verdict: 'missing',
          reason: 'it is not in the file',
          tried: 0,
        });
        continue;
      }
      free.delete(play);
      items.push({ ...one(due, play, set), item: whole.id });
    }
  });
  for (const p of free)
    items.push({
      item: p.id,
      name: richToPlain(p.stem).slice(0, 60),
      right: null,
      wrong: null,
      half: null,
      halfDue: null,
      maximum: p.maximum,
      verdict: 'differs',
      reason: 'it is in the file and not in the set',
      tried: 0,
    });
  const sum = (f: (r: Rehearsed) => number | null): number =>
    round(items.reduce((s, r) => s + (r.verdict === 'ok' || r.verdict === 'differs' ? (f(r) ?? 0) : 0), 0));
  return {
    items,
    right: sum((r) => r.right),
    wrong: sum((r) => r.wrong),
    half: sum((r) => r.half),
    halfDue: sum((r) => r.halfDue),
    maximum: sum((r) => r.maximum),
    ok: items.every((r) => r.verdict !== 'differs' && r.verdict !== 'missing'),
  };
}
