/** An item as another kind, keeping what can be kept; what cannot is told. */
import { middleOf, writtenNumber } from '../language/decimal.js';
import { plainOf } from '../item/richText.js';
import { newId } from '../item/ids.js';
import { gapMarks, kinds, letterOf } from '../item/kinds.js';
import { defaultMatch, type Gap, type Item, type ItemOf, type Kind, type NumberAnswer, type Option, type TextAnswer } from '../item/model.js';
import { truthWords } from '../language/truthWords.js';
import { parseNumber, writesDecimalComma } from '../language/numbers.js';

/** An item as another kind, with what that lost. */
export interface Converted {
  item: Item;
  /** What the new kind has no place for, each as a noun: "the options B and C". Empty where all is kept. */
  lost: string[];
  /** What a person has to add: "wrong options". */
  needed: string[];
}

/** What an item holds, whatever its kind. */
interface Gist {
  options: Option[];
  answers: TextAnswer[];
  numbers: NumberAnswer[];
  unit?: string | undefined;
}

const numberText = (a: NumberAnswer): string => a.text ?? writtenNumber(middleOf(a));
const options = (texts: readonly string[], right: number): Option[] => texts.map((content, i) => ({ id: newId(), content, credit: i === right ? 1 : 0 }));
const fromOptions = (list: readonly Option[]): TextAnswer[] =>
  list.filter((o) => o.credit > 0).map((o) => ({ text: plainOf(o.content), credit: o.credit, ...(o.feedback && { feedback: o.feedback }) }));

function gistOf(item: Item, language: string | undefined): Gist {
  const numbersIn = (answers: readonly TextAnswer[]): NumberAnswer[] =>
    answers.flatMap((a) => {
      const n = parseNumber(a.text, writesDecimalComma(language));
      return n === null ? [] : [{ min: n, max: n, credit: a.credit, ...(a.feedback && { feedback: a.feedback }) }];
    });
  const ofGap = (g: Gap): Gist =>
    g.kind === 'choice'
      ? { options: g.options, answers: fromOptions(g.options), numbers: numbersIn(fromOptions(g.options)) }
      : g.kind === 'text'
        ? { options: [], answers: g.answers, numbers: numbersIn(g.answers) }
        : { options: [], answers: g.answers.map((a) => ({ text: numberText(a), credit: a.credit })), numbers: g.answers };
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return { options: item.options, answers: fromOptions(item.options), numbers: numbersIn(fromOptions(item.options)) };
    case 'true-false': {
      const words = truthWords(item.language ?? language);
      const list = options([words.true, words.false], item.answer === null ? -1 : item.answer ? 0 : 1).map((o, i) => {
        const feedback = item.optionFeedback?.[i ? 'false' : 'true'];
        return { ...o, ...(feedback && { feedback }) };
      });
      return { options: list, answers: fromOptions(list), numbers: [] };
    }
    case 'short-answer':
      return { options: [], answers: item.answers, numbers: numbersIn(item.answers) };
    case 'numeric':
      return { options: [], answers: item.answers.map((a) => ({ text: numberText(a), credit: a.credit })), numbers: item.answers, unit: item.unit };
    case 'cloze':
      return item.gaps.length === 1 && item.gaps[0] ? ofGap(item.gaps[0]) : { options: [], answers: [], numbers: [] };
    case 'matching':
      return { options: [], answers: [], numbers: [] };
    case 'ordering':
      return { options: options(item.sequence, -1), answers: [], numbers: [] };
    case 'essay':
      return { options: [], answers: item.modelAnswer ? [{ text: plainOf(item.modelAnswer), credit: 1 }] : [], numbers: [] };
    case 'information':
      return { options: [], answers: [], numbers: [] };
  }
}

const letters = (list: readonly Option[], of: readonly Option[]): string => list.map((o) => letterOf(of.indexOf(o))).join(', ');
const BLANK = '____';
const GAP = /\[\[[^\][]+\]\]/g;

/** An item of the kind, of the same id and with all that kinds have in common. */
export function convert(item: Item, to: Kind, language?: string): Converted {
  if (item.kind === to) return { item, lost: [], needed: [] };
  const lost: string[] = [];
  const needed: string[] = [];
  const gist = gistOf(item, language);
  // what only the old kind has is left behind
  const { kind: _kind, ...all } = item;
  const common = Object.fromEntries(Object.entries(all).filter(([k]) => k in COMMON)) as Omit<ItemOf<'information'>, 'kind'>;
  // a text to read earns nothing; a question earns a point until somebody says otherwise
  if (item.kind === 'information' && common.points === 0) common.points = 1;
  const multiple = item.kind === 'cloze' && item.gaps.length > 1;
  // blanks in place of gap markers: the words are kept
  if (item.kind === 'cloze') common.stem = item.stem.replace(GAP, BLANK);
  if (multiple) lost.push(`the answers of ${item.gaps.length} gaps`);
  if (item.kind === 'matching' && to !== 'ordering') lost.push(`${item.pairs.length} pairs`);
  if (item.kind === 'cloze' && item.wordBank) lost.push('the list of words');
  if (item.kind === 'essay' && item.rubric) lost.push('the rubric');
  const noOptions = (kept: readonly Option[]): void => {
    const gone = gist.options.filter((o) => !kept.includes(o));
    if (gone.length && item.kind !== 'true-false')
      lost.push(gone.length === 1 ? `option ${letters(gone, gist.options)}` : `the options ${letters(gone, gist.options)}`);
    if (kept.some((o) => o.feedback)) lost.push('feedback of single options');
  };
  const keyed = gist.options.filter((o) => o.credit > 0);
  const noUnit = (): void => void (gist.unit && lost.push(`the unit ${gist.unit}`));
  const noRange = (): void => void (gist.numbers.some((n) => n.min !== n.max) && lost.push('the tolerance'));

  switch (to) {
    case 'multiple-choice':
    case 'multiple-response': {
      const answer = gist.answers.find((a) => a.credit >= 1) ?? gist.answers[0];
      const [first, ...others] = gist.answers;
      const made: Option[] = gist.options.length
        ? gist.options
        : answer
          ? [...options([answer.text], 0), ...options(['', '', ''], -1)]
          : (kinds[to].blank() as ItemOf<'multiple-choice'>).options;
      if (!gist.options.length) {
        if (first && others.length) lost.push(`${others.length} further accepted ${others.length === 1 ? 'answer' : 'answers'}`);
        noUnit();
        noRange();
        needed.push(first ? 'wrong options' : 'options and the key');
      } else if (!keyed.length) needed.push('the key');
      if (to === 'multiple-response')
        return { item: { ...common, kind: to, scoring: keyed.some((o) => o.credit !== 1) ? 'weights' : 'all-or-nothing', options: made }, lost, needed };
      const key = made.findIndex((o) => o.credit === Math.max(...made.map((x) => x.credit), 1e-9));
      const several = made.filter((o) => o.credit > 0).length > 1;
      if (several)
        lost.push(
          `that ${letters(
            made.filter((o, i) => o.credit > 0 && i !== key),
            made,
          )} ${made.filter((o) => o.credit > 0).length > 2 ? 'are keys' : 'is a key'} too`,
        );
      return {
        item: { ...common, kind: to, options: made.map((o, i) => ({ ...o, credit: i === key ? 1 : several ? 0 : Math.min(o.credit, 0) })) },
        lost,
        needed,
      };
    }
    case 'true-false': {
      const words = truthWords(item.language ?? language);
      const said = gist.options.length === 2 && keyed.length === 1 ? plainOf(keyed[0]?.content ?? '').toLowerCase() : '';
      const answer = [words.true.toLowerCase(), 'true', 'yes', 'right'].includes(said)
        ? true
        : [words.false.toLowerCase(), 'false', 'no', 'wrong'].includes(said)
          ? false
          : null;
      if (answer === null) {
        noOptions([]);
        if (gist.answers.length) lost.push('the key');
        noUnit();
        needed.push('whether the statement is true');
      } else if (gist.options.some((o) => o.feedback)) {
        const of = (truth: boolean): string | undefined => gist.options.find((o) => (o === keyed[0]) === (truth === answer))?.feedback;
        return {
          item: { ...common, kind: to, answer, optionFeedback: { ...(of(true) && { true: of(true) }), ...(of(false) && { false: of(false) }) } },
          lost,
          needed,
        };
      }
      return { item: { ...common, kind: to, answer }, lost, needed };
    }
    case 'short-answer':
      noOptions(keyed);
      noUnit();
      noRange();
      if (!gist.answers.length) needed.push('an accepted answer');
      return {
        item: { ...common, kind: to, answers: gist.answers, match: defaultMatch },
        lost: lost.filter((l) => l !== 'feedback of single options'),
        needed,
      };
    case 'numeric': {
      noOptions(keyed);
      const words = gist.answers.length - gist.numbers.length;
      if (words > 0) lost.push(words === 1 ? 'an answer that is no number' : `${words} answers that are no numbers`);
      if (!gist.numbers.length) needed.push('the number');
      return { item: { ...common, kind: to, answers: gist.numbers, ...(gist.unit && { unit: gist.unit }) }, lost, needed };
    }
    case 'cloze': {
      const marked = gapMarks(common.stem).length > 0;
      const stem = marked ? common.stem : /_{2,}/.test(common.stem) ? common.stem.replace(/_{2,}/, '[[1]]') : `${common.stem} [[1]]`;
      const gap: Gap = gist.options.length
        ? { id: '1', points: 1, kind: 'choice', options: gist.options }
        : item.kind === 'numeric'
          ? { id: '1', points: 1, kind: 'number', answers: gist.numbers }
          : { id: '1', points: 1, kind: 'text', answers: gist.answers, ...(item.kind === 'short-answer' && { match: item.match }) };
      noUnit();
      if (keyed.length > 1) lost.push('that several options are keys');
      if (!gist.answers.length) needed.push('the answer of the gap');
      return { item: { ...common, stem, kind: to, gaps: [gap] }, lost, needed };
    }
    case 'matching': {
      const pairs = item.kind === 'ordering' ? item.sequence.map((right, i) => ({ left: String(i + 1), right })) : [];
      if (!pairs.length) {
        noOptions([]);
        if (gist.answers.length && !gist.options.length) lost.push('the key');
        needed.push('the pairs');
      }
      return { item: { ...common, kind: to, pairs, extraRights: [] }, lost, needed };
    }
    case 'ordering': {
      const sequence = item.kind === 'matching' ? item.pairs.map((p) => p.right) : gist.options.map((o) => o.content);
      if (item.kind === 'matching') lost.push('the left sides');
      if (gist.answers.length) lost.push('the key');
      if (gist.options.some((o) => o.feedback)) lost.push('feedback of single options');
      needed.push('the right order');
      return { item: { ...common, kind: to, sequence }, lost, needed };
    }
    case 'essay': {
      noOptions(keyed);
      const modelAnswer = gist.answers.map((a) => a.text).join(' / ');
      return {
        item: { ...common, kind: to, ...(modelAnswer && { modelAnswer }) },
        lost: [...lost, 'that it marks itself'].filter((l, i, a) => a.indexOf(l) === i && (l !== 'that it marks itself' || item.kind !== 'information')),
        needed,
      };
    }
    case 'information': {
      noOptions([]);
      if (gist.answers.length) lost.push('the key');
      return { item: { ...common, points: 0, kind: to }, lost, needed };
    }
  }
}

/** Fields that all kinds have. */
const COMMON: Record<Exclude<keyof ItemOf<'information'>, 'kind'>, true> = {
  id: true,
  section: true,
  label: true,
  title: true,
  stem: true,
  points: true,
  feedback: true,
  hints: true,
  tags: true,
  outcomes: true,
  level: true,
  bonus: true,
  required: true,
  shuffle: true,
  language: true,
  timeLimit: true,
  source: true,
  takenFrom: true,
};
