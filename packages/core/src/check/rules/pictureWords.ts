/** Pictures that say nothing to who cannot see them. */
import type { Rule } from '../finding.js';

export const pictureWords: Rule = {
  code: 'picture-without-words',
  name: 'A picture without words',
  why: 'Who cannot see the picture hears nothing in its place, and where it cannot be loaded nothing is told.',
  source: 'W3C WCAG 2.2, success criterion 1.1.1',
  examples: { found: [], fine: [] },
  ofItem(item) {
    const all = [item.stem, ...('options' in item ? item.options.map((o) => o.content) : [])].flatMap((t) => t.match(/<img\b[^<>]*>/g) ?? []);
    const without = all.filter((m) => !/\salt="\s*[^"\s]/.test(m)).length;
    return without ? [{ severity: 'note', place: 'stem', message: without === 1 ? 'A picture has no words.' : `${without} pictures have no words.` }] : [];
  },
};
