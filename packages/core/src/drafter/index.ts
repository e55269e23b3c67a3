export { type Drafted, type DraftedItems, Drafter, type DraftWish } from './draft.js';
export * from './names.js';
export { meaningsOf, vocabularyItems, type VocabularyItems, type VocabularyWish, type VocabularyWord, withMeanings } from './vocabulary.js';
export { type ListedWord, readWordList, type WordList } from './wordList.js';
