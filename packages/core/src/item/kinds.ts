/** The table of kinds: what each kind is called, whether it marks itself, what makes its key complete and how the key is shown. */
import { newId } from './ids.js';
import { defaultMatch, type ChoiceItem, type Item, type ItemOf, type Kind } from './model.js';
import { richToPlain } from './richText.js';

/** Why an item cannot be marked yet. */
export interface KeyProblem {
  code: 'key-missing' | 'key-unknown-option' | 'key-conflict' | 'gap-without-answer';
  message: string;
}

interface KindRow<K extends Kind> {
  name: string;
  /** False where there is nothing to mark by machine. */
  graded: boolean;
  /** An item of this kind with nothing in it yet. */
  blank(): ItemOf<K>;
  keyProblem(item: ItemOf<K>): KeyProblem | null;
  /** The key in a few characters, for the key strip. '?' where there is none. */
  sign(item: ItemOf<K>): string;
}

const base = () => ({ id: newId(), stem: '', points: 1 });
const noKey: KeyProblem = { code: 'key-missing', message: 'no key' };
const unless = (ok: boolean): KeyProblem | null => (ok ? null : noKey);

/** The letter of the option at a place, 0-based: A … Z, then AA, AB … */
export const letterOf = (index: number): string => (index < 26 ? String.fromCharCode(65 + index) : letterOf(Math.floor(index / 26) - 1) + letterOf(index % 26));

/** The places of the options that earn full credit (choice) or any credit (response), 0-based. */
export const keyPlaces = (item: ChoiceItem): number[] =>
  item.options.flatMap((o, i) => ((item.kind === 'multiple-choice' ? o.credit >= 1 : o.credit > 0) ? [i] : []));

const lettersOf = (item: ChoiceItem): string => keyPlaces(item).map(letterOf).join(' ') || '?';
const short = (text: string): string => (text.length > 4 ? 'ab' : text);

/** The table of kinds: the name, what it asks for, and a blank item of each. */
export const kinds: { readonly [K in Kind]: KindRow<K> } = {
  'multiple-choice': {
    name: 'Multiple choice',
    graded: true,
    blank: () => ({
      ...base(),
      kind: 'multiple-choice',
      options: [0, 1, 2, 3].map(() => ({ id: newId(), content: '', credit: 0 })),
    }),
    keyProblem: (i) => {
      const keys = i.options.filter((o) => o.credit === 1).length;
      return keys > 1 ? { code: 'key-conflict', message: 'more than one key' } : unless(keys === 1);
    },
    sign: lettersOf,
  },
  'multiple-response': {
    name: 'Multiple response',
    graded: true,
    blank: () => ({
      ...base(),
      kind: 'multiple-response',
      scoring: 'all-or-nothing',
      options: [0, 1, 2, 3].map(() => ({ id: newId(), content: '', credit: 0 })),
    }),
    keyProblem: (i) => unless(i.options.some((o) => o.credit > 0)),
    sign: lettersOf,
  },
  'true-false': {
    name: 'True or false',
    graded: true,
    blank: () => ({ ...base(), kind: 'true-false', answer: null }),
    keyProblem: (i) => unless(i.answer !== null),
    sign: (i) => (i.answer === null ? '?' : i.answer ? 'T' : 'F'),
  },
  'short-answer': {
    name: 'Short answer',
    graded: true,
    blank: () => ({ ...base(), kind: 'short-answer', answers: [], match: defaultMatch }),
    keyProblem: (i) => unless(i.answers.some((a) => a.credit === 1 && a.text.trim() !== '')),
    sign: (i) => (i.answers.length ? short(i.answers[0]?.text ?? '') : '?'),
  },
  numeric: {
    name: 'Number',
    graded: true,
    blank: () => ({ ...base(), kind: 'numeric', answers: [] }),
    keyProblem: (i) => unless(i.answers.some((a) => a.credit === 1)),
    sign: (i) => {
      const a = i.answers[0];
      return a ? short(String(Math.round(((a.min + a.max) / 2) * 1e6) / 1e6)).replace('ab', '12') : '?';
    },
  },
  cloze: {
    name: 'Gaps',
    graded: true,
    blank: () => ({ ...base(), kind: 'cloze', gaps: [] }),
    keyProblem: (i) => {
      const marks = gapMarks(i.stem);
      const keyed = new Set(i.gaps.filter(gapHasKey).map((g) => g.id));
      const open = marks.filter((id) => !keyed.has(id));
      if (!marks.length) return { code: 'gap-without-answer', message: 'no gap in the text' };
      if (!open.length) return null;
      return marks.length === open.length
        ? { code: 'gap-without-answer', message: 'no answer for any gap' }
        : { code: 'gap-without-answer', message: `no answer for gap ${open.join(', ')}` };
    },
    sign: (i) => (i.gaps.length > 1 ? `${i.gaps.length}__` : '__'),
  },
  matching: {
    name: 'Matching',
    graded: true,
    blank: () => ({
      ...base(),
      kind: 'matching',
      pairs: [
        { left: '', right: '' },
        { left: '', right: '' },
      ],
      extraRights: [],
    }),
    keyProblem: (i) => unless(i.pairs.filter((p) => p.left && p.right).length >= 2),
    sign: () => '⇄',
  },
  ordering: {
    name: 'Ordering',
    graded: true,
    blank: () => ({ ...base(), kind: 'ordering', sequence: ['', ''] }),
    keyProblem: (i) => unless(i.sequence.length >= 2),
    sign: () => '1·2',
  },
  essay: {
    name: 'Open question',
    graded: false,
    blank: () => ({ ...base(), kind: 'essay' }),
    keyProblem: () => null,
    sign: () => '¶',
  },
  information: {
    name: 'Text to read',
    graded: false,
    blank: () => ({ ...base(), kind: 'information', points: 0 }),
    keyProblem: () => null,
    sign: () => 'i',
  },
};

const gapHasKey = (g: ItemOf<'cloze'>['gaps'][number]): boolean =>
  g.kind === 'choice' ? g.options.some((o) => o.credit === 1) : g.answers.some((a) => a.credit === 1);

/** What stands at a letter of a list; undefined where nothing does. */
export const atLetter = <T>(list: readonly T[], letter: string | undefined): T | undefined => list.find((_, i) => letterOf(i) === letter);

/** The right sides to choose from, each once: of the pairs, then those that belong to none. */
export const rightsOf = (item: ItemOf<'matching'>): string[] => [...new Set([...item.pairs.map((p) => p.right), ...item.extraRights])];

/** The ids of the gap markers `[[id]]` of a stem, in order. */
export const gapMarks = (stem: string): string[] => Array.from(stem.matchAll(/\[\[([^\][]+)\]\]/g), (m) => m[1] ?? '');

/** The gaps of a text in the order in which they stand in it. */
export function gapsInOrder(item: ItemOf<'cloze'>): ItemOf<'cloze'>['gaps'] {
  const order = gapMarks(item.stem);
  return [...item.gaps].sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id));
}

// The table is typed row by row; looking a row up by an item's own kind is sound, which TypeScript cannot see.
const row = (item: Item): KindRow<Kind> => kinds[item.kind] as unknown as KindRow<Kind>;

/** What is wrong with an item's key, or null where it can be marked (or needs no key). */
export const keyProblem = (item: Item): KeyProblem | null => row(item).keyProblem(item);
/** An item's key in a few characters; '?' where it has none. */
export const keySign = (item: Item): string => (keyProblem(item) ? '?' : row(item).sign(item));
/** Whether a machine can mark the item. */
export const isGraded = (item: Item): boolean => row(item).graded;
/** Whether it asks for an answer at all. */
export const isQuestion = (item: Item): boolean => item.kind !== 'information';
/** Points that count into the maximum of a set. */
export const maximumOf = (items: readonly Item[]): number => items.reduce((sum, i) => sum + (i.bonus || !isQuestion(i) ? 0 : i.points), 0);
/** First words of an item, plain, for lists and messages. */
export const nameOf = (item: Item, length = 80): string => {
  const text =
    (item.title ?? richToPlain(item.stem))
      .replace(/\[\[[^\][]*\]\]/g, '____')
      .replace(/\s+/g, ' ')
      .trim() || 'No question text';
  return text.length > length ? `${text.slice(0, length - 1).trimEnd()}…` : text;
};
