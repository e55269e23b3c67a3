/** Items said as another kind, where a destination has not their own. Each gives one or several items, or the reason why it cannot be. */
import { writtenNumber } from '../language/decimal.js';
import { stableId } from '../item/ids.js';
import { gapMarks, rightsOf } from '../item/kinds.js';
import { truthWords } from '../language/truthWords.js';
import { defaultMatch, type Gap, type Item, type ItemOf, type Kind, type NumberAnswer, type Option, type QuizSet, type TextAnswer } from '../item/model.js';
import { isMarkup, richToXhtml } from '../item/richText.js';

/** A way to say an item as another kind. */
export interface Recast {
  brief: string;
  message: string;
  /** Several items where one has to be split; a text says why it cannot go. */
  make(item: Item, set: QuizSet): Item[] | string;
}

const common = (item: Item): Omit<ItemOf<'information'>, 'kind'> => {
  const { id, section, label, title, stem, points, feedback, hints, tags, outcomes, level, bonus, required, shuffle, timeLimit, language } = item;
  return Object.fromEntries(
    Object.entries({ id, section, label, title, stem, points, feedback, hints, tags, outcomes, level, bonus, required, shuffle, timeLimit, language }).filter(
      ([, v]) => v !== undefined,
    ),
  ) as Omit<ItemOf<'information'>, 'kind'>;
};
const typed =
  <K extends Kind>(kind: K, make: (item: ItemOf<K>, set: QuizSet) => Item[] | string): Recast['make'] =>
  (item, set) =>
    item.kind === kind ? make(item as ItemOf<K>, set) : 'it is of another kind';
const roundPoints = (n: number): number => Math.round(n * 1e4) / 1e4;

/** A rich text with another behind it, on a line of its own. */
const under = (rich: string, below: string): string =>
  isMarkup(rich) || isMarkup(below)
    ? `${/^<(p|ul|ol|table|pre|blockquote)\b/.test(rich) ? rich : `<p>${richToXhtml(rich)}</p>`}${/^<(p|ul|ol|table|pre|blockquote)\b/.test(below) ? below : `<p>${richToXhtml(below)}</p>`}`
    : `${rich}\n${below}`;

/** Steps matched to their places. */
export const orderingAsMatching: Recast = {
  brief: 'as matching',
  message: 'becomes a matching of places and steps',
  make: typed('ordering', (i) => [{ ...common(i), kind: 'matching', pairs: i.sequence.map((right, n) => ({ left: String(n + 1), right })), extraRights: [] }]),
};

/** A choice between true and false. */
export const trueFalseAsChoice: Recast = {
  brief: 'as choice',
  message: 'becomes a choice between true and false',
  make: typed('true-false', (i, set) => {
    const words = truthWords(set.language);
    const option = (t: boolean): Option => ({
      id: String(t),
      content: t ? words.true : words.false,
      credit: i.answer === t ? 1 : 0,
      ...(i.optionFeedback?.[t ? 'true' : 'false'] && { feedback: i.optionFeedback[t ? 'true' : 'false'] }),
    });
    return [{ ...common(i), kind: 'multiple-choice', options: [option(true), option(false)] }];
  }),
};

/** A number's text, where one number is meant; null for a range, which no text says. */
const exactly = (a: NumberAnswer): TextAnswer | null =>
  a.min === a.max ? { text: writtenNumber(a.min), credit: a.credit, ...(a.feedback && { feedback: a.feedback }) } : null;
const asTexts = (answers: readonly NumberAnswer[]): TextAnswer[] | null => {
  const out = answers.map(exactly);
  return out.every((a): a is TextAnswer => a !== null) ? out : null;
};
const RANGE = 'a range of numbers cannot be marked there';

/** A number typed as text, where its value is exact. */
export const numberAsText: Recast = {
  brief: 'as text',
  message: 'becomes a short answer; the number counts only as it is written here',
  make: typed('numeric', (i) => {
    const answers = asTexts(i.answers);
    return answers ? [{ ...common(i), kind: 'short-answer', answers, match: { ...defaultMatch, numbersAsValues: false, anyOrder: false } }] : RANGE;
  }),
};

/** One item for each gap; the other gaps are blanks in its text. A gap with a list of choices becomes a choice. */
function gapItems(i: ItemOf<'cloze'>): Item[] | string {
  const marks = gapMarks(i.stem);
  const gaps = marks.flatMap((m) => i.gaps.find((g) => g.id === m) ?? []);
  const total = gaps.reduce((s, g) => s + g.points, 0) || 1;
  return gaps.map((g, n): Item => {
    const id = gaps.length > 1 ? stableId(`${i.id}/gap ${n + 1}`) : i.id;
    const stem = i.stem.replace(/\[\[([^\][]+)\]\]/g, (_, m: string) => (m === g.id && g.kind !== 'choice' ? '[[1]]' : '____'));
    const label = gaps.length > 1 && i.label ? `${i.label}.${n + 1}` : i.label;
    const base = { ...common(i), id, stem, ...(label && { label }), points: roundPoints((i.points * g.points) / total) };
    if (g.kind === 'choice') return { ...base, kind: 'multiple-choice', options: g.options };
    return { ...base, kind: 'cloze', gaps: [{ ...g, id: '1', points: 1 }], ...(i.wordBank && { wordBank: i.wordBank }) };
  });
}
/** An item for each gap. */
export const gapsApart: Recast = {
  brief: 'one each gap',
  message: 'becomes one question for each gap',
  make: typed('cloze', (i) => (gapMarks(i.stem).length === 1 && i.gaps.length === 1 && i.gaps[0]?.kind !== 'choice' ? [i] : gapItems(i))),
};

/** As `gapsApart`, for destinations that have choices alone. */
export const choiceGapsApart: Recast = {
  ...gapsApart,
  make: typed('cloze', (i) => (i.gaps.every((g) => g.kind === 'choice') ? gapItems(i) : 'nothing can be typed there')),
};

const isOneTextGap = (i: ItemOf<'cloze'>): boolean => gapMarks(i.stem).length === 1 && i.gaps.length === 1 && i.gaps[0]?.kind === 'text';
/** As `gapsApart`, for destinations whose gaps are words alone. */
export const wordGapsApart: Recast = {
  brief: 'one each gap',
  message: 'becomes one question for each gap, to be answered with a word or a choice',
  make: typed('cloze', (i) => {
    if (isOneTextGap(i)) return [i];
    const out: Item[] = [];
    const items = gapItems(i);
    if (typeof items === 'string') return items;
    for (const item of items) {
      const gap: Gap | undefined = item.kind === 'cloze' ? item.gaps[0] : undefined;
      if (item.kind !== 'cloze' || gap?.kind !== 'number') {
        out.push(item);
        continue;
      }
      const answers = asTexts(gap.answers);
      if (!answers) return RANGE;
      out.push({ ...item, gaps: [{ id: '1', kind: 'text', points: 1, answers, match: { ...defaultMatch, numbersAsValues: false, anyOrder: false } }] });
    }
    return out;
  }),
};

/** A choice for each pair. */
export const matchingAsChoices: Recast = {
  brief: 'one each pair',
  message: 'becomes one choice for each left side',
  make: typed('matching', (i) => {
    const rights = rightsOf(i).filter(Boolean);
    const asked = i.pairs.filter((p) => p.left && p.right);
    if (rights.length < 2) return 'there is only one right side to choose from';
    return asked.map((p, n) => ({
      ...common(i),
      id: stableId(`${i.id}/pair ${n + 1}`),
      ...(i.label && { label: `${i.label}.${n + 1}` }),
      stem: under(i.stem, p.left),
      points: roundPoints(i.points / asked.length),
      kind: 'multiple-choice' as const,
      options: rights.map((r, k) => ({ id: stableId(`${i.id}/${n}/${k}`), content: r, credit: r === p.right ? 1 : 0 })),
    }));
  }),
};

/** One gap as a short answer. */
export const clozeAsText: Recast = {
  brief: 'as short answer',
  message: 'becomes a short answer; the gap is a blank in the question',
  make: typed('cloze', (i) => {
    const items = gapItems(i);
    if (typeof items === 'string') return items;
    const out: Item[] = [];
    for (const item of items) {
      const gap = item.kind === 'cloze' ? item.gaps[0] : undefined;
      if (item.kind !== 'cloze' || !gap) out.push(item);
      else if (gap.kind === 'text')
        out.push({ ...common(item), stem: item.stem.replace('[[1]]', '____'), kind: 'short-answer', answers: gap.answers, match: gap.match ?? defaultMatch });
      else if (gap.kind === 'number') out.push({ ...common(item), stem: item.stem.replace('[[1]]', '____'), kind: 'numeric', answers: gap.answers });
    }
    return out;
  }),
};
