export { type Drafted, type DraftedItems, Drafter, type DraftWish } from './draft.js';
export { type DraftedKind, draftedKinds } from './makers.js';
export {
  type Asking,
  askings,
  meaningsOf,
  vocabularyItems,
  type VocabularyItems,
  type VocabularyWish,
  type VocabularyWord,
  withMeanings,
} from './vocabulary.js';
export { type ListedWord, readWordList, type WordList } from './wordList.js';
