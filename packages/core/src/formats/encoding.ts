/** Bytes as text and text as bytes. */
import { guessEncoding } from './guessEncoding.js';

const encoder = new TextEncoder();
/** A text as bytes in UTF-8. */
export const utf8 = (text: string): Uint8Array => encoder.encode(text);

// WHATWG encoding standard, index windows-1252, 0x80 to 0x9F. Node 20's own decoder takes these for control characters.
const WINDOWS_1252 = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';
const windows1252 = (bytes: Uint8Array): string =>
  new TextDecoder('latin1').decode(bytes).replace(/[\u0080-\u009f]/g, (c) => WINDOWS_1252[c.charCodeAt(0) - 0x80] ?? c);

/**
 * Bytes as text: by byte-order mark, else UTF-8, else the declared encoding, else the likeliest one by the letters.
 * @param declared a label of the WHATWG encoding standard, as an XML declaration or a mail names it
 */
export function decodeText(bytes: Uint8Array, declared?: string): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  if (bytes[0] === 0x3c && bytes[1] === 0 && bytes[3] === 0) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0 && bytes[1] === 0x3c && bytes[2] === 0) return new TextDecoder('utf-16be').decode(bytes);
  const wide = bareUtf16(bytes);
  if (wide) return new TextDecoder(wide).decode(bytes);
  const western = /^(windows-1252|iso-8859-1|latin-?1|us-ascii|cp1252)$/;
  try {
    // a declared single-byte encoding is believed; "utf-8" and nothing at all are tried
    if (declared && !/^utf-?8$/.test(declared) && !/^utf-?16/.test(declared))
      return western.test(declared) ? windows1252(bytes) : new TextDecoder(declared).decode(bytes);
  } catch {
    // an encoding that is not known here: go on by looking at the bytes
  }
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: false }).decode(bytes);
  } catch {
    const label = guessEncoding(bytes);
    return label === 'windows-1252' ? windows1252(bytes) : new TextDecoder(label).decode(bytes);
  }
}

/** A web page's text: by the encoding that came with it, else by the one that it names in its head. */
export function decodePage(bytes: Uint8Array, declared?: string): string {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 2048));
  return decodeText(bytes, declared ?? /<meta[^<>]+charset\s*=\s*["']?([\w-]+)/i.exec(head)?.[1]?.toLowerCase());
}

/** UTF-16 without a mark: nearly every second byte of Western text is zero, always on the same side. Null where it is none. */
function bareUtf16(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  const head = bytes.subarray(0, 4096);
  let even = 0;
  let odd = 0;
  for (let i = head.indexOf(0); i >= 0; i = head.indexOf(0, i + 1)) {
    if (i % 2) odd++;
    else even++;
  }
  const half = head.length / 2;
  if (head.length < 8) return null;
  return odd > half * 0.4 && even === 0 ? 'utf-16le' : even > half * 0.4 && odd === 0 ? 'utf-16be' : null;
}

/** Whether bytes are no text of any sort: NUL bytes without being UTF-16, or mostly control characters. */
export function looksBinary(bytes: Uint8Array): boolean {
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff)) return false;
  if (bareUtf16(bytes)) return false;
  const head = bytes.subarray(0, 8192);
  let odd = 0;
  for (const b of head) {
    if (b === 0) return true;
    if (b < 9 || (b > 13 && b < 32 && b !== 27)) odd++;
  }
  return head.length > 0 && odd / head.length > 0.02;
}
