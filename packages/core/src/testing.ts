/** What tests of other packages take from the core's own. */
export * from './item/arbitrary.js';
export { undone } from './take/undone.js';
export { runs } from './item/runs.js';
