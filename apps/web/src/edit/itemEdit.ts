/** How parts of the editor change the item: always the item as it is now, so that changes made at the same moment do not undo each other. */
import type { Editor } from '@tiptap/core';
import type { ItemOf, Kind } from '@zakuska/core';
import { createContext, useContext } from 'react';

export interface ItemEdit {
  /** Puts new values of fields, made from the item as it is; a field whose value is undefined goes. */
  edit: <K extends Kind>(kind: K | null, make: (item: ItemOf<K>) => Record<string, unknown>) => void;
  /** The text that has the caret. */
  focus: (editor: Editor) => void;
  language: string | undefined;
}
export const ItemEditContext = createContext<ItemEdit>({ edit: () => undefined, focus: () => undefined, language: undefined });
export const useItemEdit = (): ItemEdit => useContext(ItemEditContext);

/** An entry of a list with some of its fields changed; a field that is undefined goes. */
export const withPart = <T extends object>(entry: T, part: { [K in keyof T]?: T[K] | undefined }): T =>
  Object.fromEntries(Object.entries({ ...entry, ...part }).filter(([, v]) => v !== undefined)) as T;
export const replaced = <T extends object>(list: readonly T[], at: number, part: { [K in keyof T]?: T[K] | undefined }): T[] =>
  list.map((x, i) => (i === at ? withPart(x, part) : x));
