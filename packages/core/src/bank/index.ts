/** The bank: items that ask the same, and versions drawn from a pool. */
export * from './blueprint.js';
export * from './draw.js';
export { drawDifference, type Exchange, exchanged, exchangesFor } from './exchange.js';
export { goingSet, goingToChoose, poolOfDocument } from './going.js';
export { fingerprint, jaccard, nearGroups, nearKeys, nearlySame } from './likeness.js';
export { loadSolver, type Solver } from './solver.js';
export { solveLimits, type SolveLimits } from './solve.js';
export { mayShuffle, versionSet } from './versionSet.js';
export { ENOUGH_ANSWERS, type ItemUse, withUse } from './use.js';
