/** What a learner gets of an item: all that is needed to answer it, nothing that gives the key away. */
import { type Chance, shuffled } from '../item/shuffle.js';
import type { Gap, Item, ItemOf, Option, QuizSet } from '../item/model.js';
import type { Response } from '../mark/mark.js';
import { asksFormula } from '../item/typedFormula.js';
import { gapMarks, rightsOf } from '../item/kinds.js';
import { truthWords } from '../language/truthWords.js';

/** An item as a learner's browser gets it: nothing of it tells the key. */
export interface LearnerItem {
  id: string;
  kind: Item['kind'];
  stem: string;
  points: number;
  required?: boolean;
  /** BCP 47, where it is not the set's. */
  language?: string;
  /** The words for true and false in the set's language. */
  truth?: { true: string; false: string };
  options?: { id: string; content: string }[];
  /** The answer is a formula. */
  formula?: boolean;
  gaps?: { id: string; kind: 'text' | 'number' | 'choice'; formula?: boolean; options?: { id: string; content: string }[] }[];
  wordBank?: string[];
  lefts?: string[];
  rights?: string[];
  /** Pieces to put in order, shuffled. */
  pieces?: string[];
  unit?: string;
  lines?: number;
  passage?: string;
  instructions?: string;
}

const bySigns = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
/** An order that says nothing of how the author wrote the list: numbers by value, words as a dictionary has them. */
const byWords = (a: string, b: string): number => a.localeCompare(b, 'en', { numeric: true }) || bySigns(a, b);

/** Options as a learner sees them: shuffled from an order that says nothing, the pinned in their places; as written where nothing is shuffled. */
function shownOptions(item: ItemOf<'multiple-choice' | 'multiple-response'>, chance: Chance): Option[] {
  if (!item.shuffle) return item.options;
  const loose = shuffled(
    item.options.filter((o) => !o.pinned).sort((a, b) => bySigns(a.content, b.content) || bySigns(a.id, b.id)),
    chance,
    item.id,
  );
  return item.options.map((o) => (o.pinned ? o : (loose.shift() as Option)));
}
const gapOptions = (gap: Extract<Gap, { kind: 'choice' }>): Option[] => gap.options.slice().sort((a, b) => byWords(a.content, b.content));

/** Learners know options by their places: an id may tell in which order they were written. */
const nameAt = (place: number): string => `~${place + 1}`;
const named = (options: readonly Option[]): { id: string; content: string }[] => options.map(({ content }, i) => ({ id: nameAt(i), content }));
/** The id behind a learner's name of an option; other ids stay as they are. */
const idOf = (options: readonly Option[], name: string): string => options.find((_, i) => nameAt(i) === name)?.id ?? name;
const nameOf = (options: readonly Option[], id: string): string => {
  const place = options.findIndex((o) => o.id === id);
  return place < 0 ? id : nameAt(place);
};

function renamed(item: Item, given: Response, chance: Chance, rename: (options: readonly Option[], name: string) => string): Response {
  if ('options' in given && 'options' in item) {
    const shown = shownOptions(item, chance);
    return { options: given.options.map((name) => rename(shown, name)) };
  }
  if ('gaps' in given && item.kind === 'cloze') {
    const out: Record<string, string> = {};
    for (const gap of item.gaps) {
      const value = Object.hasOwn(given.gaps, gap.id) ? given.gaps[gap.id] : undefined;
      if (value !== undefined) out[gap.id] = gap.kind === 'choice' ? rename(gapOptions(gap), value) : value;
    }
    return { gaps: out };
  }
  return given;
}
/** A learner's response with the item's own ids in place of the names that `learnerView` gave with the same chance. */
export const asGiven = (item: Item, given: Response, chance: Chance): Response => renamed(item, given, chance, idOf);
/** A response as the learner who is shown the item with this chance gave it: the other way round. */
export const asShown = (item: Item, given: Response, chance: Chance): Response => renamed(item, given, chance, nameOf);

/**
 * What a learner gets of an item. All orders come from one that says nothing of the key.
 * @param chance the same for the same attempt, so that a reload shows the same order; secret, where keys are
 */
export function learnerView(item: Item, set: QuizSet, chance: Chance): LearnerItem {
  const section = set.sections?.find((s) => s.id === item.section);
  const view: LearnerItem = {
    id: item.id,
    kind: item.kind,
    stem: item.stem,
    points: item.points,
    ...(item.required && { required: true }),
    ...(item.language && { language: item.language }),
    ...(section?.passage && { passage: section.passage }),
    ...(section?.instructions && { instructions: section.instructions }),
  };
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response': {
      return { ...view, options: named(shownOptions(item, chance)) };
    }
    case 'true-false':
      return { ...view, truth: truthWords(item.language ?? set.language) };
    case 'short-answer':
      return { ...view, ...(asksFormula(item) && { formula: true }) };
    case 'numeric':
      return { ...view, ...(item.unit && { unit: item.unit }) };
    case 'cloze':
      return {
        ...view,
        gaps: gapMarks(item.stem).flatMap((id) => {
          const g = item.gaps.find((x) => x.id === id);
          if (!g) return [];
          return [{ id, kind: g.kind, ...(asksFormula(g) && { formula: true }), ...(g.kind === 'choice' && { options: named(gapOptions(g)) }) }];
        }),
        ...(item.wordBank && { wordBank: item.wordBank.slice().sort(byWords) }),
      };
    case 'matching': {
      const rights = rightsOf(item).filter(Boolean);
      return { ...view, lefts: item.pairs.map((p) => p.left), rights: shuffled(rights.sort(bySigns), chance, item.id) };
    }
    case 'ordering': {
      // also the order that is the key comes by chance: left out, two pieces would tell theirs
      return { ...view, pieces: shuffled(item.sequence.slice().sort(bySigns), chance, item.id) };
    }
    case 'essay':
      return { ...view, ...(item.lines && { lines: item.lines }) };
    case 'information':
      return view;
  }
}
