/** Words that turn a sentence round, in the languages of the reader; from memory. */
export const NEGATIVE =
  /(?<![\p{L}'’])(not|never|except|isn['’]t|aren['’]t|doesn['’]t|nicht|kein\p{Ll}*|außer|no|excepto|salvo|pas|sauf|não|exceto|non|tranne|niet|geen|behalve|nie|oprócz|не|кроме|крім|değil(?:dir)?|hariç)(?![\p{L}])/u;
