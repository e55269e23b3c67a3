/** What `npm run reader` works with: the reader, its weights and the generator. Development only. */
export { readDraft } from '../read.js';
export { W } from '../model/weights.js';
export { numbersFrom as chances } from '../../item/shuffle.js';
export { pairwise, put, someHabits } from './generate.js';
