/** The bank: items that ask the same, and versions drawn from a pool. */
export * from './blueprint.js';
export * from './draw.js';
export { fingerprint, jaccard, nearGroups, nearlySame } from './likeness.js';
export { type DrawAsked, drawn, type Drawn, drawPlan, type DrawPlan, versionName } from './plan.js';
export { loadSolver, type Solver } from './solver.js';
export { solveLimits, type SolveLimits } from './solve.js';
export { mayShuffle, versionSet } from './versionSet.js';
