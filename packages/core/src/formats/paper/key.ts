/** The key of an item in words, as rich text: letters, accepted answers, the pairs by their places. */
import { gapMarks, keyProblem, letterOf, rightsOf } from '../../item/kinds.js';
import type { Item, ItemOf } from '../../item/model.js';
import { escapeXml, richToXhtml } from '../../item/richText.js';
import { writtenRange } from '../../language/decimal.js';
import { truthWords } from '../../language/truthWords.js';
import { displayOrder } from '../displayOrder.js';
import { paperWords } from './words.js';

/** The right sides of a matching as they stand on paper: each once, in an order that does not tell the pairs. */
export function rightsOnPaper(item: ItemOf<'matching'>): string[] {
  const rights = rightsOf(item).filter(Boolean);
  return displayOrder(rights.length).map((i) => rights[i] ?? '');
}

/** The key in words, as XHTML to stand within a paragraph; a dash where the item has none. @param language the set's, BCP 47 */
export function keyInWords(item: Item, language: string | undefined): string {
  if (keyProblem(item)) return '–';
  switch (item.kind) {
    case 'multiple-choice':
      return item.options.flatMap((o, i) => (o.credit >= 1 ? [letterOf(i).toLowerCase()] : [])).join(', ');
    case 'multiple-response':
      return item.options.flatMap((o, i) => (o.credit > 0 ? [letterOf(i).toLowerCase()] : [])).join(', ');
    case 'true-false':
      return escapeXml(truthWords(item.language ?? language)[item.answer ? 'true' : 'false']);
    case 'short-answer':
      return item.answers.flatMap((a) => (a.credit >= 1 ? [escapeXml(a.text)] : [])).join(' / ');
    case 'numeric':
      return item.answers.flatMap((a) => (a.credit >= 1 ? [writtenRange(a)] : [])).join(' / ') + (item.unit ? ` ${escapeXml(item.unit)}` : '');
    case 'cloze':
      return gapMarks(item.stem)
        .map((id, i) => {
          const g = item.gaps.find((x) => x.id === id);
          const right = !g
            ? []
            : g.kind === 'choice'
              ? g.options.flatMap((o) => (o.credit >= 1 ? [richToXhtml(o.content)] : []))
              : g.kind === 'number'
                ? g.answers.flatMap((a) => (a.credit >= 1 ? [writtenRange(a)] : []))
                : g.answers.flatMap((a) => (a.credit >= 1 ? [escapeXml(a.text)] : []));
          return `(${i + 1}) ${right.join(' / ')}`;
        })
        .join(' ');
    case 'matching': {
      const shown = rightsOnPaper(item);
      return item.pairs.flatMap((p, i) => (p.left && p.right ? [`${i + 1}–${letterOf(shown.indexOf(p.right))}`] : [])).join(', ');
    }
    case 'ordering':
      return item.sequence.map(richToXhtml).join(' → ');
    case 'essay':
      return item.modelAnswer ? richToXhtml(item.modelAnswer) : paperWords(language).byPerson;
    case 'information':
      return '';
  }
}
