/** A cell of words: what would be taken for a formula is made text, and nothing in it ends the cell. */
const cell = (value: string | number): string =>
  typeof value === 'number' ? String(value) : (/^[=+\-@]/.test(value) ? `'${value}` : value).replace(/[\t\n]/g, ' ');

/** Rows as text that spreadsheets take from the clipboard: cells apart by tabs. Numbers stay numbers. */
export const tabbed = (rows: readonly (readonly (string | number)[])[]): string => rows.map((row) => row.map(cell).join('\t')).join('\n');
