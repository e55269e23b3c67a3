/** Responses to answer an item with: all right, all wrong, half right, and every way in which a key could be broken unseen by these. */
import { middleOf, minus, plus, writtenNumber } from '../language/decimal.js';
import { parseNumber } from '../language/numbers.js';
import type { Gap, Item, ItemOf, NumberAnswer, TextAnswer } from '../item/model.js';

import { gapMarks, rightsOf } from '../item/kinds.js';
import { trials } from '../item/scoring.js';
import { rightResponse, wrongResponse } from '../mark/answers.js';
import type { Response } from '../mark/mark.js';

/** Responses to try on an item, with what is done in each. */
export interface Probes {
  right: Response | null;
  wrong: Response | null;
  /** A response that is partly right where the item has such, else another wrong one; null where there is none. */
  half: Response | null;
  /** All other responses that tell one key from another. */
  more: Response[];
}

/** Most of `more` that one item is asked, so that a long matching does not take minutes. */
const MOST = 600;

const JUNK = 'zzz not this';
const swapCase = (t: string): string => (t === t.toLowerCase() ? t.toUpperCase() : t.toLowerCase());
const typedProbes = (answers: readonly TextAnswer[]): string[] => answers.flatMap((a) => [a.text, swapCase(a.text), `${a.text} ${JUNK}`, `${JUNK} ${a.text}`]);
/** The ends of every range, its middle, and a little outside. */
const numberProbes = (answers: readonly NumberAnswer[]): string[] =>
  answers.flatMap(({ min, max }) => {
    // of a range a hundredth, of one number a millionth of it: near enough that a bound a little off is seen
    const largest = Math.max(Math.abs(min), Math.abs(max));
    const step = Math.max(largest * 2 ** -50, max > min ? minus(max, min) / 100 : largest * 1e-6 || 1e-6);
    return [min, max, middleOf({ min, max }), minus(min, step), plus(max, step)].map(writtenNumber);
  });

/** Numbers that a file names: themselves, what lies between two of them, and a little outside of each. */
function figureProbes(named: readonly string[]): string[] {
  const figures = [...new Set(named.map((t) => parseNumber(t)).filter((n) => n !== null))].sort((a, b) => a - b);
  return figures.slice(0, MOST_NAMED).flatMap((f, i) => {
    const next = figures[i + 1];
    const step = Math.abs(f) * 1e-6 || 1e-6;
    return [f, minus(f, step), plus(f, step), ...(next === undefined ? [] : [middleOf({ min: f, max: next })])].map(writtenNumber);
  });
}
/** Most literals of a file that one place is asked. */
const MOST_NAMED = 100;

const gapProbes = (g: Gap): string[] =>
  g.kind === 'choice'
    ? g.options.map((o) => o.id)
    : [...(g.kind === 'text' ? typedProbes(g.answers) : numberProbes(g.answers)), g.kind === 'number' ? '98765432.1' : JUNK];

function* others(item: Item, right: Response | null, wrong: Response | null): Generator<Response> {
  switch (item.kind) {
    case 'multiple-choice':
      for (const o of item.options) yield { options: [o.id] };
      return;
    case 'multiple-response':
      for (const set of trials(
        item.options,
        item.options.map((o) => o.credit > 0),
      ))
        yield { options: set.flatMap((k) => item.options[k]?.id ?? []) };
      return;
    case 'short-answer':
      for (const text of [...typedProbes(item.answers), JUNK]) yield { text };
      return;
    case 'numeric':
      for (const text of numberProbes(item.answers)) yield { text };
      return;
    case 'cloze': {
      const base = right && 'gaps' in right ? right.gaps : {};
      const none = wrong && 'gaps' in wrong ? wrong.gaps : {};
      for (const g of item.gaps)
        for (const value of gapProbes(g)) {
          yield { gaps: { ...base, [g.id]: value } };
          yield { gaps: { ...none, [g.id]: value } };
        }
      return;
    }
    case 'matching': {
      const rights = rightsOf(item);
      for (let i = 0; i < item.pairs.length; i++) {
        for (const r of rights) {
          yield { pairs: item.pairs.map((p, k) => (k === i ? r : p.right)) };
          yield { pairs: item.pairs.map((_, k) => (k === i ? r : null)) };
        }
      }
      return;
    }
    case 'ordering': {
      for (let i = 0; i + 1 < item.sequence.length; i++) {
        const order = [...item.sequence];
        [order[i], order[i + 1]] = [order[i + 1] ?? '', order[i] ?? ''];
        yield { order };
      }
      yield { order: [...item.sequence.slice(1), item.sequence[0] ?? ''] };
      return;
    }
    default:
  }
}

/** Handing in without an answer. */
function* nothing(item: Item): Generator<Response> {
  if ('options' in item) yield { options: [] };
  else if (item.kind === 'short-answer' || item.kind === 'numeric') yield { text: '' };
  else if (item.kind === 'cloze') yield { gaps: Object.fromEntries(item.gaps.map((g) => [g.id, ''])) };
  else if (item.kind === 'matching') yield { pairs: item.pairs.map(() => null) };
  else if (item.kind === 'ordering') yield { order: [] };
}

function half(item: Item, right: Response | null, wrong: Response | null): Response | null {
  switch (item.kind) {
    case 'multiple-choice': {
      const o = item.options.find((x) => x.credit > 0 && x.credit < 1) ?? item.options.filter((x) => x.credit <= 0)[1];
      return o ? { options: [o.id] } : null;
    }
    case 'multiple-response': {
      const keys = item.options.filter((o) => o.credit > 0);
      return { options: keys.slice(0, Math.max(1, keys.length >> 1)).map((o) => o.id) };
    }
    case 'short-answer': {
      const a = item.answers.find((x) => x.credit > 0 && x.credit < 1);
      return a ? { text: a.text } : null;
    }
    case 'numeric': {
      const a = item.answers.find((x) => x.credit > 0 && x.credit < 1);
      return a ? { text: writtenNumber(middleOf(a)) } : null;
    }
    case 'cloze':
      if (!right || !wrong || !('gaps' in right) || !('gaps' in wrong) || item.gaps.length < 2) return null;
      return { gaps: Object.fromEntries(item.gaps.map((g, i) => [g.id, (i < item.gaps.length >> 1 ? right.gaps[g.id] : wrong.gaps[g.id]) ?? ''])) };
    case 'matching':
      return { pairs: item.pairs.map((p, i) => (i < item.pairs.length >> 1 ? p.right : null)) };
    default:
      return null;
  }
}

/**
 * The responses for one item, as its own key has them.
 * @param typed what a file compares typed answers with, for each place where something is typed
 */
export function probesFor(item: Item, typed: readonly (readonly string[])[] = []): Probes {
  const right = rightResponse(item);
  const wrong = wrongResponse(item);
  const more: Response[] = [];
  for (const r of others(item, right, wrong)) {
    if (more.length >= MOST) break;
    more.push(r);
  }
  // what the file itself names may be right there and nowhere here
  const named = (place: number, number: boolean): readonly string[] =>
    number ? figureProbes(typed[place] ?? []) : (typed[place] ?? []).slice(0, MOST_NAMED).map((t) => t.slice(0, 400));
  if (item.kind === 'short-answer' || item.kind === 'numeric') for (const text of named(0, item.kind === 'numeric')) more.push({ text });
  if (item.kind === 'cloze' && wrong && 'gaps' in wrong)
    for (const [i, g] of item.gaps.entries())
      if (g.kind !== 'choice') for (const text of named(i, g.kind === 'number')) more.push({ gaps: { ...wrong.gaps, [g.id]: text } });
  // last, so that of several differences it is not the one that is told
  more.push(...nothing(item));
  return { right, wrong, half: half(item, right, wrong), more };
}

/** What a person does who answers, in words of what is shown: so it can be done in a file that names things otherwise. */
export type Act =
  | { type: 'truth'; value: boolean }
  | { type: 'choose'; options: ShownPiece[] }
  | { type: 'type'; text: string }
  /** In the order of the gaps in the text; a text is typed, a shown choice is chosen. */
  | { type: 'fill'; gaps: (string | ShownPiece)[] }
  | { type: 'pair'; pairs: { left: ShownPiece; right: string | null }[] }
  | { type: 'order'; pieces: ShownPiece[] };

/** A text that is shown, and which one it is where several say the same (0-based). */
export interface ShownPiece {
  content: string;
  nth: number;
}

const shownAt = (list: readonly string[], at: number): ShownPiece => ({ content: list[at] ?? '', nth: list.slice(0, at).filter((x) => x === list[at]).length });

/** A response as what is done with what is shown. */
export function actOf(item: Item, r: Response): Act | null {
  if ('truth' in r) return { type: 'truth', value: r.truth };
  if ('options' in r && 'options' in item) {
    const contents = item.options.map((o) => o.content);
    return { type: 'choose', options: item.options.flatMap((o, i) => (r.options.includes(o.id) ? [shownAt(contents, i)] : [])) };
  }
  if ('text' in r) return { type: 'type', text: r.text };
  if ('gaps' in r && item.kind === 'cloze') return { type: 'fill', gaps: gapMarks(item.stem).map((id) => filled(item, id, r.gaps[id] ?? '')) };
  if ('pairs' in r && item.kind === 'matching') {
    const lefts = item.pairs.map((p) => p.left);
    return { type: 'pair', pairs: item.pairs.map((_, i) => ({ left: shownAt(lefts, i), right: r.pairs[i] ?? null })) };
  }
  if ('order' in r && item.kind === 'ordering') {
    const left = item.sequence.map((content, i) => ({ content, i }));
    return {
      type: 'order',
      pieces: r.order.map((content) => {
        const k = left.findIndex((x) => x.content === content);
        const [x] = left.splice(Math.max(0, k), 1);
        return shownAt(item.sequence, x?.i ?? 0);
      }),
    };
  }
  return null;
}
function filled(item: ItemOf<'cloze'>, id: string, value: string): string | ShownPiece {
  const g = item.gaps.find((x) => x.id === id);
  if (g?.kind !== 'choice') return value;
  const at = g.options.findIndex((o) => o.id === value);
  return at < 0
    ? ''
    : shownAt(
        g.options.map((o) => o.content),
        at,
      );
}

/** The response of another item in which the same is done; null where it shows nothing of the kind. */
export function responseOf(item: Item, act: Act, same: (a: string, b: string) => boolean): Response | null {
  const find = (list: readonly string[], s: ShownPiece): number => {
    const at = list.flatMap((x, i) => (same(x, s.content) ? [i] : []));
    return at[s.nth] ?? at[0] ?? -1;
  };
  switch (act.type) {
    case 'truth':
      return item.kind === 'true-false' ? { truth: act.value } : null;
    case 'choose': {
      if (!('options' in item)) return null;
      const contents = item.options.map((o) => o.content);
      const at = act.options.map((o) => find(contents, o));
      return at.includes(-1) ? null : { options: at.flatMap((i) => item.options[i]?.id ?? []) };
    }
    case 'type':
      return item.kind === 'short-answer' || item.kind === 'numeric' || item.kind === 'essay' ? { text: act.text } : null;
    case 'fill': {
      if (item.kind !== 'cloze') return null;
      const gaps = gapMarks(item.stem).map((id) => item.gaps.find((g) => g.id === id));
      return {
        gaps: Object.fromEntries(
          gaps.flatMap((g, i): [string, string][] => {
            const value = act.gaps[i];
            if (!g || value === undefined) return [];
            if (typeof value === 'string') return [[g.id, value]];
            if (g.kind !== 'choice') return [];
            const k = find(
              g.options.map((o) => o.content),
              value,
            );
            return [[g.id, g.options[k]?.id ?? '']];
          }),
        ),
      };
    }
    case 'pair': {
      if (item.kind !== 'matching') return null;
      const lefts = item.pairs.map((p) => p.left);
      const rights = [...item.pairs.map((p) => p.right), ...item.extraRights];
      const out: (string | null)[] = item.pairs.map(() => null);
      for (const p of act.pairs) {
        const at = find(lefts, p.left);
        if (at < 0) return null;
        const { right } = p;
        out[at] = right === null ? null : (rights.find((r) => same(r, right)) ?? null);
      }
      return { pairs: out };
    }
    case 'order': {
      if (item.kind !== 'ordering') return null;
      const at = act.pieces.map((p) => find(item.sequence, p));
      return at.includes(-1) ? null : { order: at.map((i) => item.sequence[i] ?? '') };
    }
  }
}
