/** Words of texts as the checks compare them. */

// Words that carry no content, in the languages of the reader; from memory.
const EMPTY = new Set(
  'a an the of to in on at by for with from and or but is are was were be been being it its this that these those which what who whom whose when where why how do does did has have had can could may might must shall should will would not no as than then there their they he she his her you your we our i if into about over under between after before during most more many much some any all each every other one two following statement correct answer option true false best right wrong der die das den dem des ein eine einen einem einer und oder ist sind war waren wird werden nicht kein keine von zu im am bei mit aus auf für als wie was wer welche welcher welches el la los las un una unos unas de del y o es son en con por para que qué cuál cuáles no se su al le les du et ou est sont dans avec pour quel quelle quels quelles ne pas il elle o os as um uma e é são em com qual quais não i gli lo uno è sono di da che non het een en of is zijn van op met voor niet welke wat'.split(
    ' ',
  ),
);
/** Whether a word, in small letters, carries no content. */
export const isEmptyWord = (word: string): boolean => EMPTY.has(word);
/** The content words of a text, in small letters, without endings of number. */
export const contentWords = (text: string): string[] =>
  (text.toLowerCase().match(/[\p{L}\p{N}][\p{L}\p{N}'’-]*/gu) ?? [])
    .filter((w) => w.length > 2 && !EMPTY.has(w))
    .map((w) => (w.length > 4 ? w.replace(/(?:es|s|e|n|en)$/u, '') : w));
