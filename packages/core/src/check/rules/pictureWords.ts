import type { Item } from '../../item/model.js';
import type { Rule } from '../finding.js';

/** How many pictures of an item's question and options have no words for who cannot see them. */
export function picturesWithoutWords(item: Item): number {
  const all = [item.stem, ...('options' in item ? item.options.map((o) => o.content) : [])].flatMap((t) => t.match(/<img\b[^<>]*>/g) ?? []);
  return all.filter((m) => !/\salt="\s*[^"\s]/.test(m)).length;
}

/** Pictures that say nothing to who cannot see them. */
export const pictureWords: Rule = {
  code: 'picture-without-words',
  name: 'A picture without words',
  why: 'Who cannot see the picture hears nothing in its place, and where it cannot be loaded nothing is told.',
  source: 'W3C WCAG 2.2, success criterion 1.1.1',
  examples: { found: [], fine: [] },
  ofItem(item) {
    const without = picturesWithoutWords(item);
    return without ? [{ severity: 'note', place: 'stem', message: without === 1 ? 'A picture has no words.' : `${without} pictures have no words.` }] : [];
  },
};
