/** A blank in a sentence that a person fills in. */
export const BLANK = 'h-8 rounded border-b-2 border-rule bg-sheet px-1.5 align-middle font-semibold text-beet hover:border-beet';
