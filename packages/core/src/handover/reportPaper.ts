/** Reports to print: what each person answered and earned, a page or more each; and the class on one. In the language of the set. */
import { gradeOf } from '../item/grades.js';
import type { Item } from '../item/model.js';
import { blocksOf } from '../formats/paper/blocks.js';
import type { PaperBlock, PaperKeyRow, PaperPiece, Report } from '../formats/paper/pieces.js';
import { languageOf, paperWords, type PaperWords } from '../formats/paper/words.js';
import { finalItems } from '../mark/answerGroups.js';
import { analyse } from '../analysis/analysis.js';
import { paperOf } from './report.js';
import { labelsOf, type Results, type Sitting } from './results.js';

const plain = (text: string): PaperBlock[] =>
  text
    ? [{ is: 'paragraph', runs: text.split('\n').flatMap((line, n) => [...(n ? [{ is: 'break' as const }] : []), { is: 'text' as const, text: line }]) }]
    : [];

/** The question, with its gaps numbered as the answers to them are. */
function asked(item: Item): PaperBlock[] {
  if (item.kind !== 'cloze') return blocksOf(item.stem);
  let n = 0;
  return blocksOf(item.stem, () => [...(item.gaps.length > 1 ? [{ is: 'text' as const, text: `(${++n})\u00a0` }] : []), { is: 'blank', width: GAP }]);
}
/** Letters that a gap is wide. */
const GAP = 8;

/** How numbers and shares are written in a language. */
function writing(language: string): { number: (n: number) => string; percent: (share: number) => string } {
  const [number, percent] = [
    new Intl.NumberFormat(language, { maximumFractionDigits: 2 }),
    new Intl.NumberFormat(language, { style: 'percent', maximumFractionDigits: 0 }),
  ];
  return { number: (n) => number.format(n), percent: (share) => percent.format(share) };
}
/** "12 of 20, 60 %, B" */
function earned({ grades }: Results, words: PaperWords, language: string, points: number, maximum: number): string {
  const { number, percent } = writing(language);
  const grade = maximum ? gradeOf(points / maximum, grades ?? []) : '';
  return [words.outOf.replace(/\b[nm]\b/g, (x) => number(x === 'n' ? points : maximum)), maximum ? percent(points / maximum) : '', grade]
    .filter(Boolean)
    .join(', ');
}
/**
 * A report for each of some people, each from a page of its own.
 * @param who of the results; all where it is not said
 * @param labelOf numbers of items as people met them
 */
export function reportPaper(results: Results, who: readonly Sitting[] = results.sittings, labelOf = labelsOf(results)): Report {
  const { set } = results;
  const language = languageOf(set);
  const words = paperWords(language);
  const { number } = writing(language);
  const counting = finalItems(set.items, results.sittings);
  const pieces = who.flatMap((s, n): Report['pieces'] => {
    const { lines, points, maximum } = paperOf(results, s, counting);
    const rows = lines.map(({ item, mark, answer, key }): PaperKeyRow => {
      const waits = mark?.state === 'by-hand';
      return {
        id: item.id,
        number: labelOf(item),
        key: asked(item),
        points: waits ? `– / ${number(item.points)}` : `${number(mark?.points ?? 0)} / ${number(item.points)}`,
        notes: [
          plain(answer.length ? answer.join('\n') : words.noAnswer),
          ...(key ? [plain(words.rightIs.replace(/\bn$/, () => key))] : []),
          ...(waits ? [plain(words.notMarked)] : []),
          ...(mark?.comment ? [plain(mark.comment)] : []),
        ],
      };
    });
    return [
      ...(n ? [{ is: 'page' as const }] : []),
      { is: 'title', text: set.title },
      { is: 'heading', text: s.name },
      { is: 'text', blocks: plain(`${words.points}: ${earned(results, words, language, points, maximum)}`) },
      ...(s.kept === undefined ? [] : [{ is: 'text' as const, blocks: plain(words.late.replace(/\bn\b/, number((1 - s.kept) * 100))) }]),
      { is: 'key', headings: { number: words.number, key: words.asked, points: words.points }, rows },
    ];
  });
  const one = who.length === 1 ? who[0]?.name : undefined;
  return { title: `${set.title}: ${one ?? words.report}`, language, pieces };
}

/** The class on one report: everybody with their points, and each item with the share of its points that was reached, the most missed first. */
export function classReport(results: Results, labelOf = labelsOf(results)): Report {
  const { set, sittings } = results;
  const language = languageOf(set);
  const words = paperWords(language);
  const { number, percent } = writing(language);
  const { items, figures, maximum } = analyse(set, sittings);
  const counting = items.map((i) => i.item);
  const people = [...sittings].sort((a, b) => a.name.localeCompare(b.name, language, { numeric: true }));
  const pieces: PaperPiece[] = [
    { is: 'title', text: set.title },
    {
      is: 'text',
      blocks: plain(`${words.people}: ${figures.n}\n${words.mean}: ${earned({ ...results, grades: [] }, words, language, figures.mean, maximum)}`),
    },
    {
      is: 'key',
      headings: { number: words.number, key: words.name, points: words.points },
      rows: people.map((s, n) => ({
        id: s.id,
        number: String(n + 1),
        key: plain(s.name),
        points: earned(results, words, language, paperOf(results, s, counting).points, maximum),
        notes: [],
      })),
    },
    { is: 'heading', text: words.items },
    {
      is: 'key',
      headings: { number: words.number, key: words.items, points: words.reached },
      rows: items
        .toSorted((a, b) => a.figures.difficulty - b.figures.difficulty)
        .map(({ item, figures: f }) => ({
          id: item.id,
          number: labelOf(item),
          key: asked(item),
          points: `${percent(f.difficulty)} (${number(item.points)})`,
          notes: [],
        })),
    },
  ];
  return { title: `${set.title}: ${words.report}`, language, pieces: pieces as Report['pieces'] };
}
