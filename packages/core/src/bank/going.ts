/** What goes out of a set: all of it, or one of its versions. */
import type { QuizSet } from '../item/model.js';
import { includedItems, includedSet, type SetDocument } from '../item/operations.js';
import type { PoolItem } from './blueprint.js';
import { versionSet } from './versionSet.js';

/** The items that versions of a set are drawn from: all that are not left out. */
export const poolOfDocument = (document: SetDocument): PoolItem[] => includedItems(document).map((item) => ({ item, set: document.set }));

/**
 * The set that goes out: the whole of it without what was left out, or a version by its name.
 * @returns null where there is no version of that name
 */
export function goingSet(document: SetDocument, version?: string): QuizSet | null {
  if (!version) return includedSet(document);
  const at = document.drawn?.versions.findIndex((v) => v.name === version) ?? -1;
  if (!document.drawn || at < 0) return null;
  const { items: _, sections: __, ...head } = document.set;
  return { ...head, ...versionSet(poolOfDocument(document), document.drawn, at, `${document.set.title}, version ${version}`) };
}
