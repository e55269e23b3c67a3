/** What of a set goes out: which version of it, in which language. */
import { languageName } from '@zakuska/core';
import { locale, say } from '../words/say.js';

export interface Goes {
  /** Name of the version; absent for the whole set. */
  version?: string;
  /** As `goingSet` of the core takes it; absent for the language of the set. */
  language?: string;
}

/** A language that goes out, in words. */
export const languageWords = (language: string): string =>
  language.startsWith('+')
    ? say('both languages, {language} beside', { language: languageName(language.slice(1), locale()) })
    : say('in {language}', { language: languageName(language, locale()) });
/** What went out, in words; empty for the whole set in its own language. */
export const goesWords = ({ version, language }: Goes): string =>
  [version && say('version {version}', { version }), language && languageWords(language)].filter(Boolean).join(', ');
