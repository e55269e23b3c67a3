/** What can be drafted and how words are asked for, by name: apart from the makers, which are heavy. */
import type { Kind } from '../item/model.js';

/** The kinds that can be drafted from a source. */
export const draftedKinds = ['multiple-choice', 'true-false', 'short-answer', 'numeric', 'cloze', 'matching'] as const satisfies readonly Kind[];
/** A kind that can be drafted. */
export type DraftedKind = (typeof draftedKinds)[number];

/** Ways to ask for a word. */
export const askings = ['definition', 'example', 'synonym', 'meaning', 'mix'] as const;
/** A way to ask for a word. */
export type Asking = (typeof askings)[number];
