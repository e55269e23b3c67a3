/** The filters of the bank, in the order of the screen. */
export const filterNames = ['folder', 'set', 'kind', 'outcome', 'tag', 'level', 'difficulty', 'points', 'use', 'finding', 'author', 'state'] as const;
/** A filter of the bank. */
export type FilterName = (typeof filterNames)[number];
/** The values chosen of each filter; of several, any will do. */
export type BankFilters = Record<FilterName, string[]>;
