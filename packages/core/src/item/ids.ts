// Random bytes are fetched many at a time: a draft of ten thousand questions needs sixty thousand ids.
const POOL = new Uint8Array(16 * 256);
let used = POOL.length;

/** A new random UUID (RFC 9562, version 4). Works on plain-HTTP pages too, where `crypto.randomUUID` is missing. */
export function newId(): string {
  if (used === POOL.length) {
    crypto.getRandomValues(POOL);
    used = 0;
  }
  const b = POOL.subarray(used, (used += 16));
  b[6] = ((b[6] ?? 0) & 0x0f) | 0x40;
  b[8] = ((b[8] ?? 0) & 0x3f) | 0x80;
  return uuidOf(b);
}

const DIGITS = Array.from('0123456789abcdef', (c) => c.charCodeAt(0));
const FROM = [0, 4, 6, 8, 10];
/** The 36 characters of an id. Put together at once: a text that grows piece by piece keeps all its pieces, ten times the memory. */
const CODES = Array.from({ length: 36 }, () => 45);
function uuidOf(b: Uint8Array): string {
  let at = 0;
  for (let part = 0; part < 5; part++) {
    if (part) CODES[at++] = 45;
    for (let i = FROM[part] as number; i < (FROM[part + 1] ?? 16); i++) {
      const byte = b[i] as number;
      CODES[at++] = DIGITS[byte >> 4] as number;
      CODES[at++] = DIGITS[byte & 15] as number;
    }
  }
  return String.fromCharCode.apply(null, CODES);
}

/** A 32-bit hash of a text (FNV-1a), for seeds and for ids that must come out the same each time. */
export function hash32(text: string, seed = 0x811c9dc5): number {
  let h = seed >>> 0;
  for (let i = 0; i < text.length; i++) {
    h ^= text.charCodeAt(i);
    h = Math.imul(h, 0x01000193) >>> 0;
  }
  return h;
}

/** A UUID-shaped id that depends on nothing but `name` (version 8, RFC 9562: custom). Same name, same id. */
export function stableId(name: string): string {
  const b = new Uint8Array(16);
  for (let i = 0; i < 4; i++) {
    const h = hash32(name, 0x811c9dc5 ^ Math.imul(i + 1, 0x9e3779b1));
    for (let j = 0; j < 4; j++) b[i * 4 + j] = (h >>> (j * 8)) & 0xff;
  }
  b[6] = ((b[6] ?? 0) & 0x0f) | 0x80;
  b[8] = ((b[8] ?? 0) & 0x3f) | 0x80;
  return uuidOf(b);
}
