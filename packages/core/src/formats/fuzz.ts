/** Development only: good files broken in every way that a disk, a mail or an enemy breaks them. */
import { unzipSync, type Zippable, zipSync } from 'fflate';

export { numbersFrom as random } from '../item/shuffle.js';

const ODD = [
  '<',
  '>',
  '</',
  '"',
  "'",
  '&',
  '&#0;',
  '&nosuch;',
  ']]>',
  '<![CDATA[',
  '<!--',
  '{',
  '}',
  '=',
  '~',
  '#',
  '\\',
  '::',
  '\u0000',
  '\ufeff',
  '\ud800',
  '\r',
  '\n\n',
  '%',
  '->',
  '[[1]]',
  '|',
  ',',
  '9'.repeat(400),
  '-1e999',
  'ÿ',
].map((s) => new TextEncoder().encode(s));

/** A copy with some bytes changed, taken out, doubled, moved or put in; sometimes cut off. */
export function mutate(bytes: Uint8Array, rnd: () => number): Uint8Array {
  let out = bytes;
  const at = (): number => Math.floor(rnd() * (out.length + 1));
  const splice = (from: number, to: number, put: Uint8Array): void => {
    const next = new Uint8Array(from + put.length + (out.length - to));
    next.set(out.subarray(0, from));
    next.set(put, from);
    next.set(out.subarray(to), from + put.length);
    out = next;
  };
  for (let n = 1 + Math.floor(rnd() * 4); n > 0; n--) {
    const from = at();
    const to = Math.min(out.length, from + Math.floor(rnd() ** 3 * 200));
    switch (Math.floor(rnd() * 7)) {
      case 0: {
        const copy = out.slice();
        if (copy.length) copy[Math.min(from, copy.length - 1)] = Math.floor(rnd() * 256);
        out = copy;
        break;
      }
      case 1:
        splice(from, to, new Uint8Array());
        break;
      case 2:
        splice(from, from, out.slice(from, to));
        break;
      case 3:
        splice(from, from, ODD[Math.floor(rnd() * ODD.length)] ?? new Uint8Array());
        break;
      case 4: {
        const piece = out.slice(from, to);
        splice(from, to, new Uint8Array());
        const put = at();
        splice(put, put, piece);
        break;
      }
      case 5:
        splice(from, to, ODD[Math.floor(rnd() * ODD.length)] ?? new Uint8Array());
        break;
      default:
        if (rnd() < 0.3) out = out.slice(0, from);
    }
  }
  return out;
}

/** A broken copy of a file; of an archive mostly one file in it, so that what is broken is not only the archive. */
export function brokenCopy(bytes: Uint8Array, rnd: () => number): Uint8Array {
  const archive = bytes[0] === 0x50 && bytes[1] === 0x4b;
  if (!archive || rnd() >= 0.7) return mutate(bytes, rnd);
  const files: Zippable = unzipSync(bytes);
  const names = Object.keys(files);
  const one = names[Math.floor(rnd() * names.length)] ?? '';
  files[one] = mutate(files[one] as Uint8Array, rnd);
  return zipSync(files, { level: 0 });
}
