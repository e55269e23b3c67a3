/**
 * What the fonts of papers may not draw: scripts that they do not have. Where the machine has another font for them it steps in, so that
 * only what is missing in a PDF that was read again is told.
 */
import type { QuizSet, ReadBack } from '@zakuska/core';

/** Scripts (Unicode, UAX #24) of the fonts that papers are set in; what is common to scripts they have as well, but for pictographs. */
const DRAWN =
  /[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\p{Script=Arabic}\p{Script=Hebrew}\p{Script=Devanagari}\p{Script=Common}\p{Script=Inherited}]/u;
const PICTOGRAPH = /[\u{1f000}-\u{1faff}]/u;
/** Names of scripts as people know them. */
const NAMES: readonly [RegExp, string][] = [
  [/[\p{Script=Hiragana}\p{Script=Katakana}]/u, 'Japanese'],
  [/\p{Script=Hangul}/u, 'Korean'],
  [/\p{Script=Han}/u, 'Chinese or Japanese'],
  [/\p{Script=Thai}/u, 'Thai'],
  [/\p{Script=Bengali}/u, 'Bengali'],
  [/\p{Script=Tamil}/u, 'Tamil'],
  [/\p{Script=Armenian}/u, 'Armenian'],
  [/\p{Script=Georgian}/u, 'Georgian'],
  [PICTOGRAPH, 'pictograph'],
];

/** The signs of a text that stay empty; in their order, each once. */
export const undrawn = (text: string): string[] => [...new Set(text)].filter((c) => PICTOGRAPH.test(c) || (/[\p{L}\p{M}\p{N}]/u.test(c) && !DRAWN.test(c)));

/** Why signs are missing; '' where there are none. */
const said = (signs: readonly string[]): string => {
  if (!signs.length) return '';
  const names = [...new Set(signs.map((c) => NAMES.find(([is]) => is.test(c))?.[1] ?? 'other'))];
  return `the fonts of the PDF have no ${names.join(' and no ')} signs (${signs.slice(0, 6).join(' ')}): they stand as empty boxes; take DOCX, which is set in the fonts of whoever opens it`;
};

/** What is missing in a paper, with the reason where it is a script that no font has. */
export function withUndrawn(differences: ReadBack['differences'], { items }: Pick<QuizSet, 'items'>): ReadBack['differences'] {
  return differences.map((d) => {
    const item = items.find((i) => i.id === d.item);
    const reason = item && said(undrawn(JSON.stringify(item)));
    return reason ? { ...d, message: `${d.message}: ${reason}` } : d;
  });
}
