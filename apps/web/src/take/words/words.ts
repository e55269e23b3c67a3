/** What learners' pages say, in the language of the page. English is there at once; others are fetched when they are chosen. */
import { createContext, useContext } from 'react';
import { firstSpoken } from '../../words/spoken.js';
import { en, type Message, type Words } from './en.js';

const others: Readonly<Record<string, () => Promise<Words>>> = {
  de: async () => (await import('./de.js')).de,
  es: async () => (await import('./es.js')).es,
  fr: async () => (await import('./fr.js')).fr,
  it: async () => (await import('./it.js')).it,
  nl: async () => (await import('./nl.js')).nl,
  pl: async () => (await import('./pl.js')).pl,
  pt: async () => (await import('./pt.js')).pt,
  ru: async () => (await import('./ru.js')).ru,
  tr: async () => (await import('./tr.js')).tr,
  uk: async () => (await import('./uk.js')).uk,
};
/** The languages of learners' pages (BCP 47). */
export const pageLanguages: readonly string[] = ['en', ...Object.keys(others)];

/** The first of some languages that pages speak; English where there is none. @param wanted BCP 47, the best first */
export const pageLanguage = (wanted: readonly (string | undefined)[]): string => firstSpoken(wanted, pageLanguages) ?? 'en';
/** @throws where the words cannot be fetched (no connection) */
export const wordsIn = (language: string): Promise<Words> => others[language]?.() ?? Promise.resolve(en);

type Values = Readonly<Record<string, string | number>>;
/**
 * A message with its values put in; `n` chooses the plural, and stands as the language writes numbers.
 * @param language BCP 47
 */
export function said(message: Message, values: Values, language: string): string {
  const n = values['n'];
  const text = typeof message === 'string' ? message : (typeof n === 'number' && message[new Intl.PluralRules(language).select(n)]) || message.other;
  return text.replace(/\{(\w+)\}/g, (whole, name: string) => {
    const value = values[name];
    return value === undefined ? whole : typeof value === 'number' ? value.toLocaleString(language, { maximumFractionDigits: 2 }) : value;
  });
}

/** The words of the page, and its language. */
export interface Page {
  language: string;
  words: Words;
}
export const PageContext = createContext<Page>({ language: 'en', words: en });
/** How the page says something: by the name of the message, with its values. */
export type Say = (name: keyof Words, values?: Values) => string;
export const sayIn =
  ({ language, words }: Page): Say =>
  (name, values = {}) =>
    said(words[name], values, language);
export const useSay = (): Say => sayIn(useContext(PageContext));
