/** Reads drafts away from the page, so that typing never waits. */
import { readDraft, type DraftResult, type Role } from '@zakuska/core';
import { expose } from 'comlink';

const reader = {
  read: (text: string, overrides: [number, Role][], language?: string): DraftResult =>
    readDraft(text, { overrides: new Map(overrides), ...(language && { language }) }),
};
export type Reader = typeof reader;
expose(reader);
