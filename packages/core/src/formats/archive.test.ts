/** Archives that are written here, unpacked by others: fflate of the registry, and Info-ZIP's `unzip -t` where Debian's is there. */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import { unzipSync } from 'fflate';
import { runs } from '../item/runs.js';
import { numbersFrom } from '../item/shuffle.js';
import { openArchive, packArchive } from './archive.js';
import { utf8 } from './encoding.js';

const random = numbersFrom(7);
const FILES: Record<string, Uint8Array> = {
  'imsmanifest.xml': utf8('<manifest/>'.repeat(200)),
  'items/Brötchen – 1.xml': utf8('<p>Wie lange?</p>'),
  'media/noise.png': Uint8Array.from({ length: 5000 }, () => Math.floor(random() * 256)),
  'empty.txt': new Uint8Array(),
};

test('another library finds the same files, in their order, by their names in any script', () => {
  const back = unzipSync(packArchive(FILES));
  expect(Object.keys(back)).toEqual(Object.keys(FILES));
  for (const [name, bytes] of Object.entries(FILES)) expect(Buffer.compare(Buffer.from(back[name] ?? []), Buffer.from(bytes))).toBe(0);
});

test('any files come back by our own reader, and the same files give the same bytes', () => {
  const name = fc.string({ unit: fc.constantFrom('a', 'b', 'é', '雪', '-', '.'), minLength: 1, maxLength: 8 }).filter((n) => !/^\.+/.test(n));
  fc.assert(
    fc.property(fc.dictionary(name, fc.uint8Array({ maxLength: 400, max: 9 }), { maxKeys: 12, noNullPrototype: true }), (files) => {
      const packed = packArchive(files);
      expect(packArchive(files)).toEqual(packed);
      const back = openArchive(packed);
      expect([...back.keys()]).toEqual(Object.keys(files));
      for (const [n, bytes] of Object.entries(files)) expect([...(back.get(n) ?? [])]).toEqual([...bytes]);
    }),
    { numRuns: runs(100) },
  );
});

test('what packing makes no smaller is stored, and nothing grows but by its name and headers', () => {
  const noise = FILES['media/noise.png'] as Uint8Array;
  const packed = packArchive({ 'a.png': noise });
  expect(packed.length).toBe(noise.length + 30 + 46 + 22 + 2 * 'a.png'.length);
});

(existsSync('/usr/bin/unzip') ? test : test.skip)('Info-ZIP finds no error', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'zakuska-zip-'));
  try {
    writeFileSync(path.join(folder, 'a.zip'), packArchive(FILES));
    expect(execFileSync('/usr/bin/unzip', ['-t', path.join(folder, 'a.zip')], { encoding: 'utf8' })).toContain('No errors detected');
  } finally {
    rmSync(folder, { recursive: true });
  }
});
