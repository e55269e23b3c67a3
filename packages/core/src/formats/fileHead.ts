/** What formats are recognised by: a file's name, its first bytes and, for text, its first characters. */
import { decodeText, looksBinary } from './encoding.js';

/** What is seen of a file before it is read. */
export interface FileHead {
  bytes: Uint8Array;
  name: string;
  /** The first characters of a text, byte-order mark and all; '' for what is no text. */
  text: string;
  /** Whether these bytes, given as the characters of Latin 1, stand at a place. */
  startsWith(signs: string, at?: number): boolean;
  /** Whether the last 64 kB hold these signs: an archive names its parts at its end. */
  endHolds(signs: string): boolean;
}

/** Characters of a text that are looked at. */
export const HEAD = 20_000;
const END = 65_536;
const latin = (bytes: Uint8Array): string => new TextDecoder('latin1').decode(bytes);

/** The head of a file. What costs time is computed when it is asked for. */
export function headOf(bytes: Uint8Array, name: string): FileHead {
  let text: string | undefined;
  let end: string | undefined;
  return {
    bytes,
    name,
    get text() {
      text ??= looksBinary(bytes) ? '' : decodeText(bytes.subarray(0, HEAD));
      return text;
    },
    startsWith: (signs, at = 0) => [...signs].every((c, i) => bytes[at + i] === c.charCodeAt(0)),
    endHolds: (signs) => {
      end ??= latin(bytes.subarray(Math.max(0, bytes.length - END)));
      return end.includes(signs);
    },
  };
}
