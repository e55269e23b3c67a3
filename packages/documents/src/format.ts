/** A format whose library is heavy or slow to load: reading and writing take their time. */
import type { DocumentText, Progress } from './document.js';
import type { Format, ReadOptions, ReadResult, TableSheet, Written, QuizSet, Profile, Playable } from '@zakuska/core';

export interface FileFormat extends Pick<Format, 'id' | 'name' | 'extension' | 'mediaType' | 'profile'> {
  /** Throws ReadError where the input is nothing of this format. */
  read?(bytes: Uint8Array, name: string, options?: ReadOptions): ReadResult | Promise<ReadResult>;
  /** Its words as draft text, for formats that are read by way of one. */
  draft?(bytes: Uint8Array, progress?: Progress): DocumentText | Promise<DocumentText>;
  /** Its tables, for formats that are read by a mapping of columns. */
  sheets?(bytes: Uint8Array): TableSheet[] | Promise<TableSheet[]>;
  write?(set: QuizSet): Written | Promise<Written>;
  play?(bytes: Uint8Array, name: string): { played: Playable[]; profile?: Profile } | Promise<{ played: Playable[]; profile?: Profile }>;
}
