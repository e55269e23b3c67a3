export * from './mark.js';
export * from './numbers.js';
export { matchesText } from './text.js';
export * from './answers.js';
