/** What a learner gets of an item: all that is needed to answer it, nothing that gives the key away. */
import { hash32 } from '../item/ids.js';
import type { Item, QuizSet } from '../item/model.js';
import { gapMarks } from '../item/kinds.js';
import { truthWords } from '../item/truthWords.js';

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
  gaps?: { id: string; kind: 'text' | 'number' | 'choice'; options?: { id: string; content: string }[] }[];
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

/** Puts a list in an order that depends on nothing but the seed (Fisher–Yates with a 32-bit hash as its source). */
export function shuffled<T>(list: readonly T[], seed: string): T[] {
  const out = list.slice();
  for (let i = out.length - 1; i > 0; i--) {
    const j = hash32(`${seed}/${i}`) % (i + 1);
    [out[i], out[j]] = [out[j] as T, out[i] as T];
  }
  return out;
}

/** Shuffles all but the pinned, which keep their places. */
function shuffleOptions<T extends { pinned?: boolean | undefined }>(options: readonly T[], seed: string): T[] {
  const loose = shuffled(
    options.filter((o) => !o.pinned),
    seed,
  );
  return options.map((o) => (o.pinned ? o : (loose.shift() as T)));
}

/** @param seed the same for the same learner, so that a reload shows the same order */
export function learnerView(item: Item, set: QuizSet, seed: string): LearnerItem {
  const section = set.sections?.find((s) => s.id === item.section);
  const mine = `${seed}/${item.id}`;
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
      const options = item.shuffle ? shuffleOptions(item.options, mine) : item.options;
      return { ...view, options: options.map(({ id, content }) => ({ id, content })) };
    }
    case 'true-false':
      return { ...view, truth: truthWords(item.language ?? set.language) };
    case 'numeric':
      return { ...view, ...(item.unit && { unit: item.unit }) };
    case 'cloze':
      return {
        ...view,
        gaps: gapMarks(item.stem).flatMap((id) => {
          const g = item.gaps.find((x) => x.id === id);
          if (!g) return [];
          return [{ id, kind: g.kind, ...(g.kind === 'choice' && { options: g.options.map((o) => ({ id: o.id, content: o.content })) }) }];
        }),
        ...(item.wordBank && { wordBank: shuffled(item.wordBank, mine) }),
      };
    case 'matching': {
      const rights = [...new Set([...item.pairs.map((p) => p.right), ...item.extraRights])].filter(Boolean);
      return { ...view, lefts: item.pairs.map((p) => p.left), rights: shuffled(rights, mine) };
    }
    case 'ordering': {
      const pieces = shuffled(item.sequence, mine);
      // An order that happens to be the key would give it away.
      return { ...view, pieces: pieces.every((p, i) => p === item.sequence[i]) ? [...pieces.slice(1), pieces[0] ?? ''] : pieces };
    }
    case 'essay':
      return { ...view, ...(item.lines && { lines: item.lines }) };
    default:
      return view;
  }
}
