/** Answers in words, as people read them. */
import { letterOf } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import { richToPlain } from '../item/richText.js';
import type { Response } from './mark.js';

/** What somebody answered, a line each; empty where there is no answer. */
export function answerLines(item: Item, r: Response | undefined): string[] {
  if (!r) return [];
  if ('options' in r && 'options' in item)
    return item.options.flatMap((o, i) => (r.options.includes(o.id) ? [`${letterOf(i)}. ${richToPlain(o.content)}`] : []));
  if ('truth' in r) return [r.truth ? 'true' : 'false'];
  if ('text' in r) return r.text.trim() ? r.text.split('\n') : [];
  if ('gaps' in r && item.kind === 'cloze')
    return item.gaps.flatMap((g) => {
      const typed = r.gaps[g.id] ?? '';
      const text = g.kind === 'choice' ? richToPlain(g.options.find((o) => o.id === typed)?.content ?? '') : typed;
      return text.trim() ? [`${g.id}: ${text}`] : [];
    });
  if ('pairs' in r && item.kind === 'matching')
    return item.pairs.flatMap((p, n) => (r.pairs[n] ? [`${richToPlain(p.left)} – ${richToPlain(r.pairs[n] ?? '')}`] : []));
  if ('order' in r) return r.order.map((o, n) => `${n + 1}. ${richToPlain(o)}`);
  return [];
}
