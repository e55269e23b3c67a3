/**
 * What the workbench says, in the language of the person: the English text is the name of a message, and is said where a language has no words for it.
 * A message is written as ICU MessageFormat has it ("{n, plural, one {# item} other {# items}}"). The language is there before anything is drawn,
 * and another one starts the page anew, so that tables of texts may be made once.
 */
import { IntlMessageFormat } from 'intl-messageformat';
import { Fragment, type ReactNode } from 'react';
import { firstSpoken } from './spoken.js';

/** Texts by their English. */
export type Catalogue = ReadonlyMap<string, string>;
/** The languages of the workbench (BCP 47), each by its own name. */
export const LANGUAGES = { en: 'English', de: 'Deutsch', fr: 'Français', es: 'Español' } as const;
export type Language = keyof typeof LANGUAGES;

const others: Readonly<Record<Exclude<Language, 'en'>, () => Promise<{ default: Readonly<Record<string, string>> }>>> = {
  de: () => import('./de.json', { with: { type: 'json' } }),
  fr: () => import('./fr.json', { with: { type: 'json' } }),
  es: () => import('./es.json', { with: { type: 'json' } }),
};
let spoken: Language = 'en';
let catalogue: Catalogue = new Map();
/** Messages that were read, those in which tags stand for elements apart. */
const made = { plain: new Map<string, IntlMessageFormat>(), tagged: new Map<string, IntlMessageFormat>() };

/** The language that is spoken now (BCP 47). */
export const language = (): Language => spoken;
/** The texts of the language that is spoken now; none where it is English. */
export const catalogueNow = (): Catalogue => catalogue;
/** How numbers and dates are written: in the variety of the language that the browser asks for (en-GB, de-CH), else as the language has it (BCP 47). */
export const locale = (): string => navigator.languages.find((l) => l.split('-')[0] === spoken) ?? spoken;
/** Several things as a sentence lists them: "a, b and c". */
export const listed = (things: readonly string[]): string => new Intl.ListFormat(locale(), { type: 'conjunction' }).format(things);

/** From here on says things in a language. @throws where its words cannot be fetched: the language stays as it was */
export async function speak(wanted: Language): Promise<void> {
  catalogue = new Map(wanted === 'en' ? [] : Object.entries((await others[wanted]()).default));
  spoken = wanted;
  made.plain.clear();
  made.tagged.clear();
}

/** The first of some languages that the workbench speaks. @param wanted BCP 47, the best first */
export const languageOf = (wanted: readonly (string | null | undefined)[]): Language => firstSpoken(wanted, Object.keys(LANGUAGES) as Language[]) ?? 'en';

/** What is said in English; what stands behind a bar tells apart what other languages say in other words ("Number¦in a list"). */
const english = (message: string): string => message.split('¦', 1)[0] ?? message;

/** @param tags "plain" where "<u>" stands for itself */
function format(message: string, tags: keyof typeof made): IntlMessageFormat {
  const known = made[tags].get(message);
  if (known) return known;
  const f = new IntlMessageFormat(catalogue.get(message) ?? english(message), spoken, undefined, { ignoreTag: tags === 'plain' });
  made[tags].set(message, f);
  return f;
}

/** What is put in for a value: nothing where it is false or missing. */
const putIn = <V,>(v: V): Exclude<V, false | null | undefined> | '' =>
  v === false || v === null || v === undefined ? '' : (v as Exclude<V, false | null | undefined>);

/** What stands in a message; nothing where it is false or missing. */
type Value = string | number | false | null | undefined;

/** A text in the language of the person. @param message in English, as ICU MessageFormat */
export function say(message: string, values?: Readonly<Record<string, Value>>): string {
  if (!values && !message.includes('{')) return catalogue.get(message) ?? english(message);
  const given = Object.fromEntries(Object.entries(values ?? {}).map(([k, v]) => [k, putIn(v)]));
  return String(format(message, 'plain').format(given));
}

/** A text that a table of the core holds, in the language of the person. */
export const known = <T extends string | undefined>(text: T): T => (text === undefined ? text : ((catalogue.get(text) ?? text) as T));
/** A name where it stands within a sentence: small, but for German, which writes its nouns large. */
export const inSentence = (name: string): string => (spoken === 'de' ? name : name.charAt(0).toLowerCase() + name.slice(1));

type Shown = ReactNode | ((words: ReactNode) => ReactNode);

/** A text with elements in it: a value is put in where its name stands in braces, a function draws what stands between tags of its name. */
export function Say({ text, values }: { text: string; values: Readonly<Record<string, Shown>> }) {
  const given = Object.fromEntries(
    Object.entries(values).map(([k, v]) => [k, typeof v === 'function' ? (words: ReactNode[]) => v(<>{...words}</>) : putIn(v)]),
  );
  const parts = format(text, 'tagged').format<ReactNode>(given as never);
  return Array.isArray(parts) ? <>{...parts.map((p, i) => <Fragment key={i}>{p}</Fragment>)}</> : <>{parts}</>;
}
