/** Responses made from the key: the all-right and the all-wrong ones, for rehearsals and tests. */
import { middleOf, writtenNumber } from '../language/decimal.js';
import { rightsOf } from '../item/kinds.js';
import type { Gap, Item } from '../item/model.js';
import type { Response } from './mark.js';

const outside = (answers: readonly { min: number; max: number }[]): number => Math.max(...answers.map((a) => a.max), 0) * 2 + 1017;

/** A response that earns all points; null where the item has no key or needs a person. */
export function rightResponse(item: Item): Response | null {
  switch (item.kind) {
    case 'multiple-choice':
      return { options: item.options.filter((o) => o.credit >= 1).map((o) => o.id) };
    case 'multiple-response':
      return { options: item.options.filter((o) => o.credit > 0).map((o) => o.id) };
    case 'true-false':
      return item.answer === null ? null : { truth: item.answer };
    case 'short-answer':
      return { text: item.answers.find((a) => a.credit >= 1)?.text ?? '' };
    case 'numeric': {
      const a = item.answers.find((x) => x.credit >= 1);
      return { text: a ? writtenNumber(middleOf(a)) : '' };
    }
    case 'cloze':
      return { gaps: Object.fromEntries(item.gaps.map((g) => [g.id, rightGap(g)])) };
    case 'matching':
      return { pairs: item.pairs.map((p) => p.right || null) };
    case 'ordering':
      return { order: item.sequence };
    default:
      return null;
  }
}

const rightGap = (g: Gap): string => {
  if (g.kind === 'choice') return g.options.find((o) => o.credit >= 1)?.id ?? '';
  if (g.kind === 'text') return g.answers.find((a) => a.credit >= 1)?.text ?? '';
  const a = g.answers.find((x) => x.credit >= 1);
  return a ? writtenNumber(middleOf(a)) : '';
};

/** A response that earns nothing although everything is answered; null where there is none. */
export function wrongResponse(item: Item): Response | null {
  switch (item.kind) {
    case 'multiple-choice': {
      const o = item.options.find((x) => x.credit <= 0);
      return o ? { options: [o.id] } : null;
    }
    case 'multiple-response':
      return { options: item.options.filter((o) => o.credit <= 0).map((o) => o.id) };
    case 'true-false':
      return item.answer === null ? null : { truth: !item.answer };
    case 'short-answer':
      return { text: 'zzz not this' };
    case 'numeric':
      return { text: String(outside(item.answers)) };
    case 'cloze':
      return { gaps: Object.fromEntries(item.gaps.map((g) => [g.id, wrongGap(g)])) };
    case 'matching': {
      const rights = rightsOf(item).filter(Boolean);
      return { pairs: item.pairs.map((p) => rights.find((r) => r !== p.right) ?? null) };
    }
    case 'ordering':
      return { order: [...item.sequence].reverse() };
    default:
      return null;
  }
}

const wrongGap = (g: Gap): string =>
  g.kind === 'choice' ? (g.options.find((o) => o.credit <= 0)?.id ?? '') : g.kind === 'number' ? String(outside(g.answers)) : 'zzz not this';
