/** Packed by our own DEFLATE, unpacked by zlib, the reference implementation of RFC 1950 to 1952 (as Node.js ships it). */
import { readdirSync, readFileSync } from 'node:fs';
import { deflateRawSync, inflateRawSync } from 'node:zlib';
import fc from 'fast-check';
import { runs } from '../item/runs.js';
import { Codes, crc32, deflate } from './deflate.js';
import { numbersFrom } from '../item/shuffle.js';

const comesBack = (data: Uint8Array): void => {
  expect(Buffer.compare(inflateRawSync(deflate(data)), Buffer.from(data))).toBe(0);
};
const bytesOf = (n: number, one: (i: number) => number): Uint8Array => Uint8Array.from({ length: n }, (_, i) => one(i));

test.each([
  ['nothing', new Uint8Array()],
  ['one byte', Uint8Array.of(7)],
  ['two bytes', Uint8Array.of(7, 7)],
  ['one byte a million times', new Uint8Array(1_000_000).fill(65)],
  ['all bytes', bytesOf(256, (i) => i)],
  ['a stretch that stands again just within reach', bytesOf(32_768 * 2, (i) => ((i % 32_768) * 2_654_435_761) >>> 24)],
  ['and just out of it', bytesOf(32_769 * 2, (i) => ((i % 32_769) * 2_654_435_761) >>> 24)],
  ['noise', ((rnd) => bytesOf(300_000, () => Math.floor(rnd() * 256)))(numbersFrom(1))],
  // weights that grow as Fibonacci's numbers make the longest codes: 24 would take 23 bits, 15 are allowed
  ['codes that would be too long', Uint8Array.from(Array.from({ length: 24 }, (_, s) => Array.from({ length: Math.round(1.618 ** s) }, () => s)).flat())],
])('%s comes back', (_, data) => comesBack(data));

test('bytes of few values, with stretches that stand again, come back', () => {
  const stretches = fc.array(fc.record({ values: fc.uint8Array({ minLength: 1, maxLength: 40, max: 5 }), again: fc.integer({ min: 1, max: 30 }) }), {
    maxLength: 40,
  });
  fc.assert(
    fc.property(stretches, (all) => comesBack(Uint8Array.from(all.flatMap(({ values, again }) => Array.from({ length: again }, () => [...values]).flat())))),
    { numRuns: runs(150) },
  );
});

test('every given file comes back, packed as well as zlib packs it, but for a fiftieth', () => {
  const folder = new URL('../../corpus/files/', import.meta.url);
  let ours = 0;
  let theirs = 0;
  for (const name of readdirSync(folder)) {
    const data = new Uint8Array(readFileSync(new URL(name, folder)));
    comesBack(data);
    ours += deflate(data).length;
    theirs += deflateRawSync(data).length;
  }
  expect(ours / theirs).toBeLessThan(1.02);
});

// the check value of CRC-32: "123456789" gives cbf43926 (catalogue of parametrised CRC algorithms, from memory)
test('checksums are those of zip', () => expect(crc32(new TextEncoder().encode('123456789'))).toBe(0xcbf43926));

test('what was packed before changes nothing', () => {
  const data = new TextEncoder().encode('Which of these feeds a starter? Which of these feeds a yeast?'.repeat(20));
  const first = deflate(data);
  deflate(bytesOf(70_000, (i) => (i * i) & 255));
  expect(deflate(data)).toEqual(first);
});

test('files that share their codes come back each, whatever came before; alike ones are hardly larger for it', () => {
  const file = fc.oneof(
    fc.uint8Array({ maxLength: 400 }),
    fc.uint8Array({ minLength: 20, maxLength: 400, max: 9 }),
    fc.lorem({ maxCount: 60 }).map((text) => new TextEncoder().encode(text)),
  );
  fc.assert(
    fc.property(fc.array(file, { maxLength: 30 }), (files) => {
      const codes = new Codes();
      for (const data of files) expect(Buffer.compare(inflateRawSync(deflate(data, codes)), Buffer.from(data))).toBe(0);
    }),
    { numRuns: runs(150) },
  );
  const alike = Array.from({ length: 300 }, (_, i) =>
    new TextEncoder().encode(`<item id="loaf-${i}"><prompt>Which flour has loaf ${i * 7}?</prompt></item>`.repeat(9)),
  );
  const codes = new Codes();
  const shared = alike.reduce((sum, data) => sum + deflate(data, codes).length, 0);
  expect(shared / alike.reduce((sum, data) => sum + deflate(data).length, 0)).toBeLessThan(1.05);
});
