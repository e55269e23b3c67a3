/** Responses that name sides and steps by their words, said in another language of the set. */
import { rightsOf } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import type { Response } from '../mark/mark.js';

/**
 * A response to an item as a response to the same item in another language. What is typed stays as it was typed.
 * @param from the item as the response was given to it
 * @param to the same item in the other language
 */
export function responseIn(from: Item, to: Item, given: Response): Response {
  const said = (theirs: readonly string[], mine: readonly string[], text: string): string => mine[theirs.indexOf(text)] ?? text;
  if ('pairs' in given && from.kind === 'matching' && to.kind === 'matching') {
    const [a, b] = [rightsOf(from), rightsOf(to)];
    return { pairs: given.pairs.map((p) => (p === null ? null : said(a, b, p))) };
  }
  if ('order' in given && from.kind === 'ordering' && to.kind === 'ordering') return { order: given.order.map((s) => said(from.sequence, to.sequence, s)) };
  return given;
}
