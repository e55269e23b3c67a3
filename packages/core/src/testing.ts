/** What tests of other packages take from the core's own. */
export * from './item/arbitrary.js';
export { undone } from './take/undone.js';
export { runs } from './item/runs.js';
export { numbersFrom } from './item/shuffle.js';
export { anyShot, circlesFor, mark, type Paper, photographed, type Shot, STRAIGHT } from './scan/camera.js';
