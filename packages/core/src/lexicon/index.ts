export * from './lexicon.js';
export * from './wordnet.js';
