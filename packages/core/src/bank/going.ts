/** What goes out of a set: all of it, or one of its versions. */
import { guessLanguage } from '../language/guess.js';
import type { QuizSet } from '../item/model.js';
import type { Translations } from '../item/translations.js';
import { includedItems, includedSet, type SetDocument } from '../item/operations.js';
import { acceptingAll, inBoth, inLanguage, textsIn, translationsFrom } from '../translate/index.js';
import type { PoolItem } from './blueprint.js';
import { versionSet } from './versionSet.js';

/** The items that versions of a set are drawn from: all that are not left out. */
export const poolOfDocument = (document: SetDocument): PoolItem[] => includedItems(document).map((item) => ({ item, set: document.set }));

/**
 * The set that goes out: the whole of it without what was left out, or a version by its name.
 * @param language one of the set's further languages, or that with a "+" in front: both, each text with its translation beside it
 * @returns null where there is no version of that name, or nothing in that language
 */
export function goingSet(document: SetDocument, version?: string, language?: string): QuizSet | null {
  if (!language) return going(document, version);
  const further = language.replace(/^\+/, '');
  if (!document.set.translations?.[further]) return null;
  // texts first: versions put them in another order, and units are known by their places
  return going({ ...document, set: (language === further ? inLanguage : inBoth)(document.set, further) }, version);
}

/**
 * The set that goes out to learners who choose their language: its own texts, and those of the languages beside them, whatever the version
 * put in another order; what a learner types in one of them is accepted.
 * @returns null as `goingSet`
 */
export function goingToChoose(document: SetDocument, version: string | undefined, languages: readonly string[]): QuizSet | null {
  const set = going({ ...document, set: acceptingAll(document.set, languages) }, version);
  if (!set) return null;
  const { translations: _, ...rest } = set;
  // who chooses a language wants to know which the other one is
  const language = rest.language ?? guessLanguage(rest.items.map((i) => i.stem).join(' '));
  const plain: QuizSet = { ...rest, ...(language !== undefined && { language }) };
  const translations: Translations = {};
  for (const language of languages) {
    const other = goingSet(document, version, language);
    if (!other) return null;
    translations[language] = translationsFrom(plain, textsIn(plain, other), '');
  }
  return { ...plain, translations };
}

function going(document: SetDocument, version: string | undefined): QuizSet | null {
  if (!version) return includedSet(document);
  const at = document.drawn?.versions.findIndex((v) => v.name === version) ?? -1;
  if (!document.drawn || at < 0) return null;
  const { items: _, sections: __, ...head } = document.set;
  return { ...head, ...versionSet(poolOfDocument(document), document.drawn, at, `${document.set.title}, version ${version}`) };
}
