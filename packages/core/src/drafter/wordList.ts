/** Lists of words, with or without what they mean, however they are laid out. */
import { partsOf, stripEnd } from '../item/strip.js';

/** A word of a list. */
export interface ListedWord {
  word: string;
  /** What the list says that it means. */
  gloss?: string;
}
/** What was read of a list. */
export interface WordList {
  words: ListedWord[];
  /** Lines that are no words, as they stand: for the person. */
  unread: string[];
}

const MOST_WORD = 60;
// What stands between a word and its gloss; a hyphen counts with blanks around it only.
const BETWEEN = /\t|\||→|->|=>|[:=]|(?<=\s)(?:[–—-]|--)(?=\s)| {3,}/;
const NUMBER = /^(?:\(?\d{1,3}[.)]\s*|[-*•–]\s+)/;
const CLASS = / ?\((?:n|v|adj|adv|noun|verb|adjective|adverb)\.?\) ?$| (?:n|v|adj|adv)\.$/i;

const tidy = (text: string): string => stripEnd(text.replace(/\*\*|__|`/g, '').replace(/^["“”«»\s]+/, ''), /["“”«»\s,;]/);

/**
 * Reads a list: a word a line, or all on one line with commas or semicolons between; with glosses behind a dash, a colon, an equals
 * sign, an arrow, a tab, a bar, or in the line below, indented. A word that comes twice is taken once.
 */
export function readWordList(text: string): WordList {
  const lines = text.split(/\r\n?|\n/);
  const words: ListedWord[] = [];
  const unread: string[] = [];
  const seen = new Set<string>();
  const add = (word: string, gloss?: string): boolean => {
    const w = tidy(word.replace(NUMBER, '').replace(CLASS, ''));
    const g = gloss === undefined ? undefined : tidy(gloss);
    if (!w || w.length > MOST_WORD || !/\p{L}/u.test(w) || w.split(/\s+/).length > 5) return false;
    if (!seen.has(w.toLowerCase())) {
      seen.add(w.toLowerCase());
      words.push({ word: w, ...(g && { gloss: g }) });
    }
    return true;
  };
  for (const line of lines) {
    const whole = stripEnd(line.trim().replace(/^\|+/, ''), /\|/).trim();
    if (!whole || /^[|\s:=-]+$/.test(whole)) continue;
    const last = words.at(-1);
    if (last && !last.gloss && /^(?:\s{2,}|\t)/.test(line) && !NUMBER.test(whole) && whole.split(/\s+/).length > 2) {
      last.gloss = tidy(whole);
      continue;
    }
    const numbered = whole.replace(NUMBER, '');
    const between = BETWEEN.exec(numbered);
    if (between && between.index > 0) {
      if (!add(numbered.slice(0, between.index), numbered.slice(between.index + between[0].length).split('|', 1)[0])) unread.push(whole);
      continue;
    }
    // several on a line; a sentence with commas has longer pieces
    const pieces = partsOf(numbered, /[,;]/).filter(Boolean);
    if (pieces.length > 1 && pieces.every((p) => p.split(/\s+/).length <= 3)) {
      for (const p of pieces) if (!add(p)) unread.push(p);
    } else if (!add(numbered)) unread.push(whole);
  }
  // the heading of a table is no word
  const [first] = words;
  if (first?.gloss && words.length > 2 && /^(?:word|term|vocabulary|wort|begriff|mot|palabra|parola)s?$/i.test(first.word)) words.shift();
  return { words, unread };
}
