import type { Item, Operation } from '@zakuska/core';

/** The operation that a digit stands for: which option is the key, or true and false. */
export function keyByDigit(item: Item, digit: number): Operation | null {
  if (item.kind === 'true-false') {
    if (digit > 2) return null;
    const answer = digit === 1;
    return { type: 'change', id: item.id, set: { answer: item.answer === answer ? null : answer } };
  }
  if (item.kind !== 'multiple-choice' && item.kind !== 'multiple-response') return null;
  if (digit > item.options.length) return null;
  const options = item.options.map((o, i) => {
    const picked = i === digit - 1;
    if (item.kind === 'multiple-response') return picked ? { ...o, credit: o.credit > 0 ? 0 : 1 } : o;
    return { ...o, credit: picked ? 1 : Math.min(o.credit, 0) };
  });
  return { type: 'change', id: item.id, set: { options } };
}
