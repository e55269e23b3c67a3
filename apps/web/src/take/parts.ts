/** Parts of learners' pages that are fetched when a question needs them. */

/** What drags. */
export const dragging = () => import('./Dragged.js');
/** A field for formulas. */
export const formulaField = () => import('./FormulaField.js');
