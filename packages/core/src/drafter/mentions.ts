const bare = (text: string): string =>
  ` ${text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()} `;
/** Whether a text has these words. */
export const mentions = (text: string, words: string): boolean => bare(text).includes(bare(words));
