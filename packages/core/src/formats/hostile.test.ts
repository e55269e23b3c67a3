/** Input is hostile: whatever a file holds, reading it ends soon, with items or a clear error. */
import { readdirSync, readFileSync } from 'node:fs';
import { strToU8, zipSync } from 'fflate';
import { ReadError } from '../item/readError.js';
import { openArchive } from './archive.js';
import { coreFormats } from './index.js';
import { brokenCopy, random } from './fuzz.js';
import type { QuizSet } from '../item/model.js';

const RUNS = Number(process.env['ZAKUSKA_FUZZ'] ?? 300);
const FOLDER = new URL('../../corpus/files/', import.meta.url);
const read = async (bytes: Uint8Array, name: string): Promise<number | string> => {
  try {
    return (await coreFormats.read(bytes, name)).set.items.length;
  } catch (e) {
    if (e instanceof ReadError) return e.message;
    throw e;
  }
};

const set: QuizSet = {
  title: 'Bread',
  items: [
    {
      id: 'a',
      kind: 'multiple-choice',
      stem: 'What feeds it?',
      points: 1,
      options: [
        { id: 'x', content: 'flour', credit: 1 },
        { id: 'y', content: '<em>salt</em>', credit: 0 },
      ],
    },
    {
      id: 'b',
      kind: 'cloze',
      stem: 'A [[1]] and [[2]].',
      points: 2,
      gaps: [
        { id: '1', kind: 'text', points: 1, answers: [{ text: 'starter', credit: 1 }] },
        { id: '2', kind: 'number', points: 1, answers: [{ min: 4, max: 5, credit: 1 }] },
      ],
    },
    {
      id: 'c',
      kind: 'matching',
      stem: 'Match.',
      points: 1,
      pairs: [
        { left: 'one', right: 'eins' },
        { left: 'two', right: 'zwei' },
      ],
      extraRights: ['drei'],
    },
    { id: 'd', kind: 'ordering', stem: 'Order.', points: 1, sequence: ['mix', 'rest', 'bake'] },
    { id: 'e', kind: 'numeric', stem: 'How many?', points: 1, answers: [{ min: 1, max: 2, credit: 1 }] },
  ],
};

test(
  `${RUNS} broken copies of good files in every format: items or a clear error, never anything else`,
  async () => {
    const good: { name: string; bytes: Uint8Array }[] = [
      ...readdirSync(FOLDER)
        .filter((f) => !f.endsWith('.json'))
        .map((name) => ({ name, bytes: new Uint8Array(readFileSync(new URL(name, FOLDER))) })),
      ...(await Promise.all(coreFormats.writable.map((f) => f.write(set)))),
    ];
    const rnd = random(20261125);
    for (let n = 0; n < RUNS; n++) {
      const { name, bytes } = good[n % good.length] as { name: string; bytes: Uint8Array };
      const told = await read(brokenCopy(bytes, rnd), name);
      expect(told === '' ? 'an empty message' : told).not.toBe('an empty message');
    }
  },
  Math.max(600_000, RUNS * 60),
);

const xml = (body: string): Uint8Array => strToU8(body);
const item = (inside: string): string =>
  `<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="i" title="t" adaptive="false" timeDependent="false"><itemBody>${inside}</itemBody></assessmentItem>`;

test('entities that unfold to gigabytes are not read', async () => {
  const bomb = `<?xml version="1.0"?><!DOCTYPE a [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;">]>${item('<p>&c;</p>')}`;
  expect(await read(xml(bomb), 'a.xml')).toMatch(/entities/);
});
test('an external entity is not fetched', async () => {
  expect(await read(xml(`<?xml version="1.0"?><!DOCTYPE a [<!ENTITY f SYSTEM "file:///etc/passwd">]>${item('<p>&f;</p>')}`), 'a.xml')).toMatch(/entities/);
});
test('an entity that nobody declared stays as it is written', async () => {
  const { set: back } = await coreFormats.read(xml(item('<p>50&nbsp;g, caf&eacute;, &nosuch;</p>')), 'a.xml');
  expect(back.items[0]?.stem).toContain('café');
});
test('elements nested a hundred thousand deep give an error', async () => {
  expect(await read(xml(item('<div>'.repeat(100_000))), 'a.xml')).toMatch(/nested/);
});
test('HTML nested deep in a 1.2 text ends too', async () => {
  const deep = '&lt;b&gt;'.repeat(50_000);
  expect(
    typeof (await read(
      xml(
        `<questestinterop><item ident="a"><presentation><material><mattext texttype="text/html">${deep}x</mattext></material></presentation></item></questestinterop>`,
      ),
      'a.xml',
    )),
  ).toBe('number');
});
test('a script in a text does not come in', async () => {
  const { set: back } = await coreFormats.read(xml(item('<p onclick="x()">Q<script>alert(1)</script><img src="javascript:x" onerror="y"/></p>')), 'a.xml');
  expect(JSON.stringify(back.items)).not.toMatch(/script|onclick|onerror/);
});

const zipOf = (files: Record<string, Uint8Array>): Uint8Array => zipSync(files, { level: 9 });
test('an archive that unpacks to a thousand times its size is refused', async () => {
  expect(await read(zipOf({ 'a.xml': new Uint8Array(60e6) }), 'a.zip')).toMatch(/unpack/);
});
test('an archive that says it is small and is not is stopped', () => {
  const z = zipOf({ 'a.xml': new Uint8Array(60e6) });
  const view = new DataView(z.buffer, z.byteOffset);
  for (let i = 0; i + 4 < z.length; i++) if (view.getUint32(i, true) === 0x02014b50) view.setUint32(i + 24, 100, true);
  expect(() => openArchive(z)).toThrow(/broken/);
});
test('entries that lie over one another are refused', () => {
  // the directory names one stretch a hundred times
  const z = zipOf({ 'a.xml': strToU8(Array.from({ length: 3000 }, (_, i) => String(i * 7919)).join()) });
  const view = new DataView(z.buffer, z.byteOffset);
  let at = 0;
  while (view.getUint32(at, true) !== 0x02014b50) at++;
  const end = z.length - 22;
  const entry = z.slice(at, end);
  const tail = z.slice(end);
  const many = new Uint8Array(at + entry.length * 100 + 22);
  many.set(z.slice(0, at));
  for (let i = 0; i < 100; i++) many.set(entry, at + i * entry.length);
  many.set(tail, at + entry.length * 100);
  const out = new DataView(many.buffer);
  out.setUint16(many.length - 22 + 10, 100, true);
  expect(() => openArchive(many)).toThrow(/broken/);
});
test('paths that lead out of the archive are not taken', () => {
  const files = openArchive(
    zipOf({ '../evil.xml': strToU8('x'), '/abs.xml': strToU8('x'), 'C:\\w.xml': strToU8('x'), 'a/../../b.xml': strToU8('x'), 'ok/c.xml': strToU8('x') }),
  );
  expect([...files.keys()]).toEqual(['ok/c.xml']);
});
test('an archive cut off anywhere gives an error', async () => {
  const z = zipOf({ 'imsmanifest.xml': strToU8('<manifest/>'), 'i.xml': strToU8(item('<p>Q</p>')) });
  for (let n = 0; n < z.length; n += 7) expect(typeof (await read(z.slice(0, n), 'a.zip'))).toBe('string');
});
test('XML cut off anywhere: what could be read comes in, or an error says so', async () => {
  const whole = readFileSync(new URL('qti-05-workshop-numeric.xml', FOLDER));
  for (let n = 300; n < whole.length; n += 401) await read(new Uint8Array(whole.subarray(0, n)), 'a.xml');
});
test('a hundred megabytes of nothing are refused by their size', async () => {
  for (const name of ['a.xml', 'a.gift', 'a.csv', 'a.zip', 'a.txt']) expect(await read(new Uint8Array(100e6).fill(32), name)).toMatch(/MB/);
});

// The same item in the encodings that exporters use.
test.each<[string, (s: string) => Uint8Array]>([
  ['utf-8', (s) => strToU8(s)],
  ['utf-16', (s) => new Uint8Array([0xff, 0xfe, ...Buffer.from(s, 'utf16le')])],
  ['iso-8859-1', (s) => new Uint8Array(Buffer.from(s, 'latin1'))],
  ['UTF-8', (s) => new Uint8Array(Buffer.from(s, 'latin1'))], // says one thing and is another
])('the encoding %s', async (declared, encode) => {
  const text = `<?xml version="1.0" encoding="${declared}"?>${item('<p>Où est le café ?</p>')}`;
  expect((await coreFormats.read(encode(text), 'a.xml')).set.items[0]?.stem).toBe('Où est le café ?');
});

test('a cell that a spreadsheet would run is kept from it, and comes back as it was', async () => {
  const evil: QuizSet = { title: 'T', items: [{ id: 'a', kind: 'true-false', stem: '=HYPERLINK("x")', points: 1, answer: true, tags: ['@cmd', '-1', "'=a"] }] };
  for (const id of ['csv', 'tsv']) {
    const w = (await coreFormats.byId(id)?.write?.(evil)) as { bytes: Uint8Array; name: string };
    const text = new TextDecoder().decode(w.bytes);
    expect(text).not.toMatch(/(^|[,\t"\n])[=@]/m);
    expect((await coreFormats.read(w.bytes, w.name)).set.items[0]).toMatchObject({ stem: '=HYPERLINK("x")', tags: ['@cmd', '-1', "'=a"] });
  }
});
