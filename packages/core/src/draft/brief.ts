/** An item's kind, key and notes in one line, for cases. Development only: nothing of the product imports it. */
import { keyPlaces, letterOf } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import { richToPlain } from '../item/richText.js';

const words = (rich: string): string => richToPlain(rich).replace(/\s+/g, ' ').trim();

function key(i: Item): string {
  switch (i.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return `${i.kind === 'multiple-choice' ? 'one' : 'several'} of ${i.options.length}: ${keyPlaces(i).map(letterOf).join('')}`;
    case 'true-false':
      return `truth: ${String(i.answer)}`;
    case 'short-answer':
      return `words: ${i.answers.map((a) => a.text).join(' / ')}`;
    case 'numeric':
      return `number: ${i.answers.map((a) => (a.min === a.max ? a.min : `${a.min}..${a.max}`)).join(' / ')}${i.unit ? ` ${i.unit}` : ''}`;
    case 'cloze':
      return `gaps: ${i.gaps.map((g) => (g.kind === 'choice' ? g.options.map((o) => (o.credit > 0 ? '*' : '') + words(o.content)).join('|') : g.kind === 'number' ? g.answers.map((a) => a.text).join('/') : g.answers.map((a) => a.text).join('/'))).join('; ')}`;
    case 'matching':
      return `pairs: ${i.pairs.map((p) => `${words(p.left)}=${words(p.right)}`).join(', ')}${i.extraRights.length ? ` + ${i.extraRights.join(', ')}` : ''}`;
    case 'ordering':
      return `order: ${i.sequence.map(words).join(' > ')}`;
    default:
      return i.kind;
  }
}

/** "one of 3: B", with the label, points and feedback where the draft gives them. */
export function brief(i: Item): string {
  const first = words(i.stem).split(' ').slice(0, 4).join(' ');
  const notes = [
    i.points !== 1 && i.kind !== 'information' ? `${i.points} points` : '',
    i.feedback?.general ? `because ${words(i.feedback.general)}` : '',
    i.bonus ? 'bonus' : '',
    i.hints ? `hint ${i.hints.map(words).join(' ')}` : '',
  ].filter(Boolean);
  return `${i.label ?? '-'} “${first}” ${key(i)}${notes.length ? ` (${notes.join('; ')})` : ''}`;
}
