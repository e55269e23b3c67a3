export { type Drafted, type DraftedItems, Drafter, type DraftWish } from './draft.js';
export { type DraftedKind, draftedKinds } from './makers.js';
