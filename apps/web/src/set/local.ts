/** What is kept in this browser until the server has it: operations not yet sent, and draft text not yet saved. */
import type { Operation } from '@zakuska/core';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

export interface Pending {
  id: string;
  operation: Operation;
}
export interface LocalDraft {
  base: number;
  text: string;
  overrides: { line: number; role: string }[];
  keysFrom?: string;
}
interface Schema extends DBSchema {
  pending: { key: string; value: { base: number; operations: Pending[] } };
  draft: { key: string; value: LocalDraft };
}

let db: Promise<IDBPDatabase<Schema>> | undefined;
const open = (): Promise<IDBPDatabase<Schema>> =>
  (db ??= openDB<Schema>('zakuska', 1, {
    upgrade(d) {
      d.createObjectStore('pending');
      d.createObjectStore('draft');
    },
  }));

/** A browser that refuses to store (private windows) works on without. */
const quietly = async <T>(f: () => Promise<T>): Promise<T | undefined> => {
  try {
    return await f();
  } catch {
    return undefined;
  }
};

export const local = {
  pending: (set: string) => quietly(async () => (await open()).get('pending', set)),
  keepPending: (set: string, base: number, operations: Pending[]) =>
    quietly(async () => (operations.length ? (await open()).put('pending', { base, operations }, set) : (await open()).delete('pending', set))),
  draft: (set: string) => quietly(async () => (await open()).get('draft', set)),
  keepDraft: (set: string, draft: LocalDraft | null) =>
    quietly(async () => (draft ? (await open()).put('draft', draft, set) : (await open()).delete('draft', set))),
};
