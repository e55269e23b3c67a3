/** What a table has under a word of a text. Words that every object knows (`constructor`, `toString`) are found only where the table has them. */
export const lookUp = <T>(table: Readonly<Record<string, T>>, word: string): T | undefined => (Object.hasOwn(table, word) ? table[word] : undefined);
