export * from './mark.js';
export * from './numbers.js';
export { letterDistance, matchesText, matchText } from './text.js';
export { type Offer, offersFor } from './offers.js';
export * from './answers.js';
