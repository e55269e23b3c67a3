/** A set as papers: the questions to write on, and the key with what the person needs who marks. */
import { isQuestion, letterOf, maximumOf } from '../../item/kinds.js';
import type { Item, ItemOf, QuizSet } from '../../item/model.js';
import { plainOf, richToPlain } from '../../item/richText.js';
import { writtenRange } from '../../language/decimal.js';
import { truthWords } from '../../language/truthWords.js';
import { displayOrder } from '../displayOrder.js';
import { blocksOf, plainOfBlocks } from './blocks.js';
import { keyInWords, rightsOnPaper } from './key.js';
import type { PaperAnswer, PaperBlock, PaperKeyRow, Paper, PaperItem, PaperPiece, PaperRun } from './pieces.js';
import { languageOf, paperWords, pointsIn } from './words.js';

/** Options of at most so many letters stand four on a line, or two. */
const FOUR_IN_A_LINE = 14;
const TWO_IN_A_LINE = 34;
/** Letters of an answer that a line of writing holds. */
const LETTERS_OF_A_LINE = 45;
const LEAST_BLANK = 8;
const MOST_BLANK = 40;
const LINES_OF_AN_ESSAY = 6;
const MOST_LINES = 40;

/** A blank that the longest answer fits in, written by hand; it does not tell answers of a few letters apart. */
const blankFor = (answers: readonly string[]): number => {
  const longest = Math.max(0, ...answers.map((a) => a.length));
  return Math.min(MOST_BLANK, Math.max(LEAST_BLANK, Math.ceil((longest * 1.5) / 4) * 4));
};

function columnsFor(options: readonly PaperBlock[][]): 1 | 2 | 4 {
  const simple = options.every((o) => o.length <= 1 && o.every((b) => b.is === 'paragraph' && !b.runs.some((r) => r.is === 'picture' || r.is === 'break')));
  const longest = Math.max(0, ...options.map((o) => plainOfBlocks(o).length));
  if (!simple || options.length < 3) return 1;
  return longest <= FOUR_IN_A_LINE && options.length === 4 ? 4 : longest <= TWO_IN_A_LINE ? 2 : 1;
}

/** What stands in a gap: a blank, with its number where the key counts them, and its words where they are chosen from. */
function gapRuns(item: ItemOf<'cloze'>): (id: string) => PaperRun[] {
  const widest = blankFor(
    item.gaps.flatMap((g) =>
      g.kind === 'choice' ? g.options.map((o) => plainOf(o.content)) : g.kind === 'number' ? g.answers.map(writtenRange) : g.answers.map((a) => a.text),
    ),
  );
  let n = 0;
  return (id) => {
    const g = item.gaps.find((x) => x.id === id);
    n++;
    const counted: PaperRun[] = item.gaps.length > 1 ? [{ is: 'text', text: `(${n})\u00a0` }] : [];
    // all as long as the longest: their length tells nothing
    const runs: PaperRun[] = [...counted, { is: 'blank', width: widest }];
    // lettered, as they are on an answer sheet
    if (g?.kind === 'choice')
      runs.push({ is: 'text', text: ` (${g.options.map((o, i) => `${letterOf(i).toLowerCase()}\u00a0${plainOf(o.content)}`).join(' / ')})` });
    return runs;
  };
}

/** Where learners answer an item. */
function answersOf(item: Item, language: string): PaperAnswer[] {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response': {
      const options = item.options.map((o, i) => ({ letter: letterOf(i).toLowerCase(), blocks: blocksOf(o.content), right: o.credit > 0 }));
      return [{ is: 'options', options, columns: columnsFor(options.map((o) => o.blocks)) }];
    }
    case 'true-false': {
      const words = truthWords(item.language ?? language);
      return [
        {
          is: 'boxes',
          words: [
            { text: words.true, right: item.answer === true },
            { text: words.false, right: item.answer === false },
          ],
        },
      ];
    }
    case 'short-answer': {
      const longest = Math.max(0, ...item.answers.map((a) => a.text.length));
      return [{ is: 'lines', lines: Math.max(1, Math.ceil(longest / LETTERS_OF_A_LINE)) }];
    }
    case 'numeric':
      return [{ is: 'blank', width: blankFor(item.answers.map(writtenRange)), ...(item.unit && { unit: item.unit }) }];
    case 'cloze':
      return item.wordBank?.length ? [{ is: 'bank', words: item.wordBank }] : [];
    case 'matching':
      return [
        {
          is: 'pairs',
          lefts: item.pairs.flatMap((p) => (p.left ? [blocksOf(p.left)] : [])),
          rights: rightsOnPaper(item).map((r, i) => ({ letter: letterOf(i), blocks: blocksOf(r) })),
        },
      ];
    case 'ordering':
      return [{ is: 'steps', steps: displayOrder(item.sequence.length).map((i) => blocksOf(item.sequence[i] ?? '')) }];
    case 'essay': {
      const model = item.modelAnswer ? richToPlain(item.modelAnswer).length : 0;
      return [{ is: 'lines', lines: Math.min(MOST_LINES, item.lines ?? Math.max(LINES_OF_AN_ESSAY, Math.ceil((model * 1.3) / LETTERS_OF_A_LINE))) }];
    }
    case 'information':
      return [];
  }
}

/** The numbers of the questions as they stand on paper, by the items' ids: their labels, else counted. */
export function numbersOnPaper(set: QuizSet): Map<string, string> {
  let n = 0;
  return new Map(set.items.filter(isQuestion).map((i) => [i.id, i.label ?? String(++n)]));
}

/** The question paper. */
export function questionPaper(set: QuizSet): Paper {
  const language = languageOf(set);
  const words = paperWords(language);
  const numbers = numbersOnPaper(set);
  const pieces: PaperPiece[] = [{ is: 'title', text: set.title }];
  const sum = maximumOf(set.items);
  pieces.push({ is: 'head', name: words.name, group: words.group, date: words.date, points: sum ? `${words.points}: ____ / ${sum}` : '' });
  if (set.description) pieces.push({ is: 'text', blocks: blocksOf(set.description) });
  let section: string | undefined;
  for (const item of set.items) {
    if (item.section !== section) {
      section = item.section;
      const s = set.sections?.find((x) => x.id === section);
      if (s?.title) pieces.push({ is: 'heading', text: s.title });
      if (s?.instructions) pieces.push({ is: 'text', blocks: blocksOf(s.instructions) });
      if (s?.passage) pieces.push({ is: 'passage', blocks: blocksOf(s.passage) });
    }
    if (item.kind === 'information') {
      pieces.push({ is: 'text', blocks: blocksOf(item.stem) });
      continue;
    }
    pieces.push(paperItem(item, language, numbers.get(item.id) ?? ''));
  }
  return { title: set.title, language, pieces };
}

/** A question as it stands on paper. @param language of the set, BCP 47 */
export function paperItem(item: Item, language: string, number: string): PaperItem {
  const words = paperWords(language);
  const points = item.points !== 1 && isQuestion(item) ? pointsIn(words, item.points, language) : '';
  return {
    is: 'item',
    id: item.id,
    number,
    points: item.bonus ? `${points || pointsIn(words, item.points, language)} +` : points,
    blocks: blocksOf(item.stem, item.kind === 'cloze' ? gapRuns(item) : undefined),
    answers: answersOf(item, language),
  };
}

/** What is said to one answer. */
interface AnswerNote {
  answer: string;
  credit: number;
  feedback?: string | undefined;
}
/** What is said to single answers, each with the answer and what it earns where that is neither all nor nothing. */
function answerNotes(item: Item, language: string): AnswerNote[] {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return item.options.map((o, i) => ({ ...o, answer: letterOf(i).toLowerCase() }));
    case 'true-false': {
      const words = truthWords(item.language ?? language);
      return [true, false].map((t) => ({ answer: words[t ? 'true' : 'false'], credit: 0, feedback: item.optionFeedback?.[t ? 'true' : 'false'] }));
    }
    case 'short-answer':
      return item.answers.map((a) => ({ ...a, answer: a.text }));
    case 'numeric':
      return item.answers.map((a) => ({ ...a, answer: writtenRange(a) }));
    case 'cloze':
      return item.gaps.flatMap((g): AnswerNote[] =>
        g.kind === 'choice'
          ? g.options.map((o) => ({ ...o, answer: plainOf(o.content) }))
          : g.kind === 'number'
            ? g.answers.map((a) => ({ ...a, answer: writtenRange(a) }))
            : g.answers.map((a) => ({ ...a, answer: a.text })),
      );
    default:
      return [];
  }
}

/** What is said under a label: "If right: …"; nothing where nothing is. */
function saying(label: string, rich: string | undefined): PaperBlock[][] {
  if (rich === undefined) return [];
  const blocks = blocksOf(rich);
  const [first] = blocks;
  const name: PaperRun = { is: 'text', text: rich ? `${label}: ` : label, italic: true };
  return [first?.is === 'paragraph' ? [{ is: 'paragraph', runs: [name, ...first.runs] }, ...blocks.slice(1)] : [{ is: 'paragraph', runs: [name] }, ...blocks]];
}

/** The key with what the person needs who marks: points, what earns a part of them, feedback, model answer and rubric. */
export function keyPaper(set: QuizSet): Paper {
  const language = languageOf(set);
  const words = paperWords(language);
  const numbers = numbersOnPaper(set);
  const rows: PaperKeyRow[] = set.items.filter(isQuestion).map((item) => ({
    id: item.id,
    number: numbers.get(item.id) ?? '',
    key: blocksOf(`<p>${keyInWords(item, language)}</p>`),
    points: String(item.points) + (item.bonus ? ' +' : ''),
    notes: [
      ...answerNotes(item, language).flatMap(({ answer, credit, feedback }) => {
        const share = credit !== 0 && credit !== 1 ? `${Math.round(credit * 100)} %` : '';
        return share || feedback ? saying([answer, share].filter(Boolean).join(', '), feedback ?? '') : [];
      }),
      ...(item.kind === 'essay' && item.rubric ? [blocksOf(item.rubric)] : []),
      ...(item.feedback?.general ? [blocksOf(item.feedback.general)] : []),
      ...saying(words.right, item.feedback?.correct),
      ...saying(words.wrong, item.feedback?.incorrect),
    ],
  }));
  return {
    title: `${set.title}: ${words.key}`,
    language,
    pieces: [
      { is: 'title', text: `${set.title}: ${words.key}` },
      { is: 'key', headings: { number: words.number, key: words.key, points: words.points }, rows },
    ],
  };
}

/** The questions, then the key on a page of its own. */
export function bothPapers(set: QuizSet): Paper {
  const [questions, key] = [questionPaper(set), keyPaper(set)];
  return { ...questions, pieces: [...questions.pieces, { is: 'page' }, ...key.pieces] };
}

/** What a person marks, with the model answer, what counts and the points: the guide for who marks. */
export function guidePaper(set: QuizSet): Paper {
  const language = languageOf(set);
  const words = paperWords(language);
  const numbers = numbersOnPaper(set);
  const title = `${set.title}: ${words.guide}`;
  const pieces: PaperPiece[] = [{ is: 'title', text: title }];
  for (const item of set.items)
    if (item.kind === 'essay') {
      const asked = paperItem(item, language, numbers.get(item.id) ?? '');
      pieces.push({ ...asked, answers: [], points: asked.points || pointsIn(words, item.points, language) });
      const said = [
        ...saying(words.model, item.modelAnswer),
        ...(item.rubric ? [blocksOf(item.rubric)] : []),
        ...(item.feedback?.general ? [blocksOf(item.feedback.general)] : []),
      ];
      for (const blocks of said) pieces.push({ is: 'passage', blocks });
    }
  return { title, language, pieces };
}
