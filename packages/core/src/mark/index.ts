export * from './mark.js';
export * from '../language/numbers.js';
export { letterDistance, matchesText, matchText } from '../item/typedText.js';
export { type Offer, offersFor } from './offers.js';
export * from './answers.js';
