/** Tables that hold the same questions in several languages, side by side: each language is a table of its own. */
import { cellsOf, type TableSheet } from './mapping.js';

/** Names and codes of languages in headings, by code. */
const LANGUAGES: readonly [code: string, words: string][] = [
  ['en', 'en|eng|english|englisch|inglés|anglais|inglese|inglês|engels|ingilizce|английский|англійська'],
  ['de', 'de|deu|ger|german|deutsch|alemán|allemand|tedesco|alemão|duits|almanca|немецкий|німецька'],
  ['fr', 'fr|fra|fre|french|français|französisch|francés|francese|francês|frans|fransızca|французский|французька'],
  ['es', 'es|esp|spa|spanish|español|castellano|spanisch|espagnol|spagnolo|espanhol|spaans|ispanyolca|испанский|іспанська'],
  ['it', 'it|ita|italian|italiano|italienisch|italien|italiaans|italyanca|итальянский'],
  ['pt', 'pt|por|portuguese|português|portugiesisch|portugais|portoghese|portugués'],
  ['nl', 'nl|nld|dutch|nederlands|niederländisch|néerlandais|olandese'],
  ['pl', 'pl|pol|polish|polski|polnisch|polonais|polacco'],
  ['ru', 'ru|rus|russian|русский|russisch|russe|russo'],
  ['uk', 'uk|ua|ukr|ukrainian|українська|ukrainisch|украинский'],
  ['tr', 'tr|tur|turkish|türkçe|türkisch|turc|turco'],
];
const NAMED = LANGUAGES.map(([code, words]) => ({
  code,
  find: new RegExp(`(?:[([/–-]\\s*|\\s|_|^)(?:${words})\\s*[)\\]]?$|^(?:${words})(?:\\s|_|[:–-])`, 'iu'),
}));

/** The language that a heading names at its end or its start; null for none. */
const languageIn = (heading: string): string | null => (/[\p{L}]{2}/u.test(heading) ? (NAMED.find((l) => l.find.test(heading))?.code ?? null) : null);
/** A heading without the language that it names. */
const withoutLanguage = (heading: string): string =>
  NAMED.reduce((h, l) => h.replace(l.find, ' '), heading)
    .replace(/\s+/g, ' ')
    .trim();

/**
 * The tables of each language, in the order of their first columns; the table itself where it holds one. Columns of other languages
 * are emptied, so that the places of the others stay.
 */
export function languageVersions(sheet: TableSheet): TableSheet[] {
  for (let r = 0; r < Math.min(sheet.rows.length, 10); r++) {
    const heads = cellsOf(sheet.rows[r]);
    const languages = heads.map(languageIn);
    const codes = [...new Set(languages.filter((l): l is string => l !== null))];
    if (codes.length < 2) continue;
    // each language has the same columns, and more than one
    const columns = codes.map((code) => heads.flatMap((h, c) => (languages[c] === code ? [withoutLanguage(h)] : [])).sort());
    if (columns.some((c) => c.length < 2 || c.join('\u001f') !== columns[0]?.join('\u001f'))) continue;
    return codes.map((code) => {
      const others = new Set(languages.flatMap((l, c) => (l !== null && l !== code ? [c] : [])));
      const rows = sheet.rows.map((row, i) =>
        row.map((cell, c) => (i >= r && others.has(c) ? '' : i === r && languages[c] === code ? withoutLanguage(cell) : cell)),
      );
      return { ...sheet, name: [sheet.name, code.toUpperCase()].filter(Boolean).join(' '), rows };
    });
  }
  return [sheet];
}
