/** GIFT as a format. */
import type { Format } from '../format.js';
import { textOf } from '../plainText.js';
import { giftProfile } from './profile.js';
import { readGift } from './read.js';
import { writeGift } from './write.js';

const NUMBERED = /^[ \t]{0,20}\d{1,3}[.)]\s/m;
const LETTERED = /^[ \t]{0,20}\*?[A-Ha-h][.)] /m;

/** Marks of GIFT: categories, titles, answers in braces. A numbered draft may have `{=12}` for a gap, which alone makes no GIFT. */
function looksLikeGift(text: string): boolean {
  if (/^\s*(?:\/\/.*\n\s*)*(?:\$CATEGORY:|::[^:\n]+::)/.test(text)) return true;
  // numbered questions over lettered options are a draft, whatever stands in braces
  if (NUMBERED.test(text) && LETTERED.test(text)) return false;
  const braces = Array.from(text.replace(/\\[{}~]/g, '').matchAll(/\{([^{}]*)\}/g), (m) => (m[1] ?? '').trim());
  if (braces.some((b) => b.startsWith('#') || b.includes('~') || b.includes('->') || /^(T|F|TRUE|FALSE)$/.test(b))) return true;
  return braces.some((b) => b.startsWith('=')) && !NUMBERED.test(text);
}

/** Texts of a table may hold braces of another format: what is named a table is one. */
export const giftFormat: Format = {
  id: 'gift',
  name: 'GIFT',
  extension: '.gift.txt',
  mediaType: 'text/plain',
  recognises: ({ name, text }) => (/\.gift(\.txt)?$/i.test(name) ? 0.9 : looksLikeGift(text) ? (/\.(csv|tsv|tab)$/i.test(name) ? 0.5 : 0.7) : 0),
  read: (bytes) => readGift(textOf(bytes)),
  write: writeGift,
  profile: giftProfile,
};
