/** Documents are hostile: whatever a file holds, reading it ends soon, with a reading or a clear error. */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { ReadError } from '@zakuska/core';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { brokenCopy, random } from '../../core/src/formats/fuzz.js';
import { allFormats } from './index.js';
import { runs } from '../../core/src/item/runs.js';

const RUNS = Number(process.env['ZAKUSKA_FUZZ'] ?? runs(40) + 9);
const corpus = path.join(import.meta.dirname, '../corpus');
const bytesOf = (...at: string[]): Uint8Array => new Uint8Array(readFileSync(path.join(corpus, ...at)));
const outcome = async (bytes: Uint8Array, name: string): Promise<string> => {
  try {
    return `${(await allFormats.read(bytes, name)).set.items.length} items`;
  } catch (e) {
    if (e instanceof ReadError) return e.message;
    throw e;
  }
};

test('files broken in every way: never anything but a reading or a clear error', async () => {
  const folder = path.join(corpus, 'given');
  const files = readdirSync(folder)
    .filter((f) => /\.(docx|odt|pdf|html|xlsx)$/.test(f) && !/bank-120/.test(f))
    .map((f) => ({ name: f, bytes: bytesOf('given', f) }));
  const rnd = random(20261125);
  for (let n = 0; n < RUNS; n++) {
    const { name, bytes } = files[n % files.length] as (typeof files)[number];
    await outcome(brokenCopy(bytes, rnd), name);
  }
}, 600_000);

const withPart = (file: string, part: string, change: (xml: string) => string): Uint8Array => {
  const parts = unzipSync(bytesOf('habits', file));
  parts[part] = strToU8(change(strFromU8(parts[part] as Uint8Array)));
  return zipSync(parts);
};
test('entities of its own, a bomb, and a file that is another are refused', async () => {
  const laughs = '<!DOCTYPE x [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;">]>';
  expect(
    await outcome(
      withPart('bold-auto.docx', 'word/document.xml', (x) => x.replace(/\?>/, `?>${laughs}`)),
      'a.docx',
    ),
  ).toMatch(/defines entities/);
  const bomb = zipSync({ '[Content_Types].xml': strToU8('<Types/>'), 'word/document.xml': new Uint8Array(90_000_000) }, { level: 1 });
  expect(await outcome(bomb, 'a.docx')).toMatch(/would unpack to/);
  expect(await outcome(strToU8('{\\rtf1 hello}'), 'a.docx')).toMatch(/RTF/);
  expect(await outcome(Uint8Array.of(0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1, ...new Uint8Array(600)), 'a.doc')).toMatch(/old office program/);
  expect(await outcome(strToU8('%PDF-1.7\nnothing'), 'a.pdf')).toMatch(/broken or cut off/);
  expect(await outcome(new Uint8Array(), 'a.docx')).toMatch(/./);
});

test('styles that are based on themselves, lists without end and deep nesting end', async () => {
  const cyclic = withPart('styled-keys.docx', 'word/styles.xml', (x) => x.replace(/(<w:style [^>]*w:styleId="Normal"[^>]*>)/, '$1<w:basedOn w:val="Normal"/>'));
  expect(await outcome(cyclic, 'a.docx')).toBe('6 items');
  const deep = withPart('bold-auto.docx', 'word/document.xml', (x) => x.replace('<w:body>', `<w:body>${'<w:sdt><w:sdtContent>'.repeat(5000)}`));
  expect(await outcome(deep, 'a.docx')).toMatch(/nested/);
});

// found by `npm run fuzz`: it took minutes
test('letters that a broken PDF puts miles away are read', async () => {
  expect(await outcome(bytesOf('broken', 'letters-miles-away.pdf'), 'a.pdf')).toBe('11 items');
});
