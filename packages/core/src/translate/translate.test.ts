/**
 * Translations out and back. Held against the schemas of OASIS (corpus/xliff, see its README) and against the npm package `xliff`, a
 * reader and writer of others.
 */
import { runs } from '../item/runs.js';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
// @ts-expect-error: the package ships no types
import peer from 'xliff';
import { readDraft } from '../draft/read.js';
import { anyRichSet } from '../item/arbitrary.js';
import { keyProblem, keySign } from '../item/kinds.js';
import type { QuizSet } from '../item/model.js';
import { readSetFile, writeSetFile } from '../item/setFile.js';

import { mark } from '../mark/index.js';
import { rightResponse } from '../mark/answers.js';
import { inCell, fromCell, piecesOf, type Returned, richOf } from './inline.js';
import {
  inLanguage,
  progressOf,
  readTranslationSheet,
  readXliff,
  type ReturnedFile,
  stateOf,
  takeTranslations,
  unitsOf,
  withTranslations,
  writeTranslationSheet,
  writeXliff,
} from './index.js';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const SET: QuizSet = {
  ...readDraft(`# Bread

1. Which flour takes up **most** water?
A) wheat
B) rye *
   -> Its pentosans bind water.
C) 50 %

2. A starter is fed with {flour | rye flour} and {*water | milk} at {=24} °C.
Feedback: The area is \\(a^2\\).

3. Salt speeds up fermentation.
Answer: false

4. Match.
poolish -> a wet pre-ferment
biga -> a stiff pre-ferment
`).set,
  language: 'en',
};
/** A translation of every word, made by a machine that leaves the codes alone. */
const shout = (list: readonly Returned[]): Returned[] =>
  list.map((r) => (typeof r === 'string' ? r.toUpperCase() : { ...r, ...(r.children && { children: shout(r.children) }) }));
const translated = (file: ReturnedFile, checked = false): ReturnedFile => ({
  ...file,
  units: file.units.map((u) => ({ ...u, target: shout(u.source ?? []), checked })),
});
const taken = (set: QuizSet, file: ReturnedFile): QuizSet => withTranslations(set, 'fr', takeTranslations(set, file, 'fr', 'Test').taken);

const WAYS: readonly (readonly [string, (s: QuizSet) => ReturnedFile])[] = [
  ['XLIFF 1.2', (s) => readXliff(bytes(writeXliff(s, 'fr', '1.2')))],
  ['XLIFF 2.1', (s) => readXliff(bytes(writeXliff(s, 'fr', '2.1')))],
  ['a sheet', (s) => readTranslationSheet(bytes(writeTranslationSheet(s, 'fr')))],
];

describe.each(WAYS)('%s', (_, way) => {
  test('all texts go out and come back; keys and structure stay', () => {
    const back = way(SET);
    expect(back.language).toBe('fr');
    expect(back.units.map((u) => u.id)).toEqual(unitsOf(SET).map((u) => u.id));
    const set = taken(SET, translated(back));
    expect(progressOf(set, 'fr')).toEqual({ missing: 0, made: unitsOf(SET).length, checked: 0, stale: 0 });
    const french = inLanguage(set, 'fr');
    expect(french).toMatchObject({ title: 'BREAD', language: 'fr' });
    expect(french.items[0]).toMatchObject({
      stem: 'WHICH FLOUR TAKES UP <strong>MOST</strong> WATER?',
      options: [{ content: 'WHEAT' }, { content: 'RYE', credit: 1 }, { content: '50 %' }],
    });
    expect(french.items.map(keySign)).toEqual(SET.items.map(keySign));
    // what went out translated comes back the same
    const again = takeTranslations(set, way(set), 'fr', 'Test');
    expect(again).toMatchObject({ taken: {}, told: [], untranslated: 0, same: unitsOf(SET).length });
  });

  test('any set: every unit comes back, and the set in the language marks as the set does', () => {
    fc.assert(
      fc.property(anyRichSet, (made) => {
        const set = readSetFile(writeSetFile(made)).set;
        const { told, taken: own } = takeTranslations(set, translated(way(set)), 'fr', 'Test');
        expect(told).toEqual([]);
        const french = inLanguage(withTranslations(set, 'fr', own), 'fr');
        expect(french.items.map((i) => i.id)).toEqual(set.items.map((i) => i.id));
        for (const [n, item] of french.items.entries()) {
          const was = set.items[n] as (typeof set.items)[number];
          expect(keyProblem(item)?.code).toBe(keyProblem(was)?.code);
          const right = rightResponse(item);
          if (right) expect(mark(item, right).credit).toBe(mark(was, rightResponse(was) ?? right).credit);
        }
      }),
      { numRuns: runs(25) },
    );
  });

  test('a checked translation is checked, one whose original changed is stale, and says so when it goes out again', () => {
    const set = taken(SET, translated(way(SET), true));
    expect(progressOf(way(set).units.every((u) => u.checked) ? set : SET, 'fr')['checked']).toBe(unitsOf(SET).length);
    const edited: QuizSet = { ...set, items: set.items.map((i, n) => (n === 2 ? { ...i, stem: 'Salt slows fermentation.' } : i)) };
    const stale = unitsOf(edited).filter((u) => stateOf(u, edited.translations?.['fr']?.[u.id]) === 'stale');
    expect(stale.map((u) => u.text)).toEqual(['Salt slows fermentation.']);
    expect(
      way(edited)
        .units.filter((u) => !u.checked)
        .map((u) => u.id),
    ).toEqual(stale.map((u) => u.id));
    // what the translator had before the edit comes back: it is kept, as stale
    const late = takeTranslations({ ...edited, translations: {} }, translated(way(SET)), 'fr', 'Test');
    expect(late.told).toEqual([expect.objectContaining({ unit: stale[0]?.id, taken: true, why: 'its original has changed since it went out' })]);
    expect(progressOf(withTranslations(edited, 'fr', late.taken), 'fr')['stale']).toBe(1);
  });

  test('what is broken is told unit by unit, and the rest is taken', () => {
    const file = translated(way(SET));
    const stem = file.units.findIndex((u) => u.id.endsWith('.stem'));
    const gaps = file.units.findIndex((u) => u.id.endsWith('.stem') && u.target.some((t) => typeof t !== 'string' && !t.children));
    const units = file.units.map((u, i) => (i === stem ? { ...u, target: ['SANS CODE'] } : i === gaps ? { ...u, target: [...u.target, { id: '1' }] } : u));
    const r = takeTranslations(
      SET,
      { ...file, units: [...units, { id: 'item.other.stem', line: 99, target: ['X'], checked: false }, ...units.slice(0, 1)] },
      'fr',
      'Test',
    );
    expect(r.told.map((t) => [t.taken, t.why])).toEqual([
      [false, 'code 1 (<strong>) is missing'],
      [false, 'code 1 (the gap [[1]]) stands there twice'],
      [false, 'no text of this set has its id'],
      [false, r.told[3]?.why],
    ]);
    expect(Object.keys(r.taken)).toHaveLength(unitsOf(SET).length - 2);
  });
});

const schema = (name: string): string => new URL(`../../corpus/xliff/${name}`, import.meta.url).pathname;
const xmllint = spawnSync('xmllint', ['--version']).status === 0;
(xmllint ? test : test.skip).each([
  ['1.2', 'xliff-core-1.2-strict.xsd'],
  ['2.1', 'xliff-core-2.0.xsd'],
] as const)('XLIFF %s is valid by the schema of OASIS, with and without translations, for any set', (version, xsd) => {
  const dir = mkdtempSync(path.join(tmpdir(), 'zakuska-xliff-'));
  const sets = [SET, taken(SET, translated(readXliff(bytes(writeXliff(SET, 'fr', '1.2')))))];
  sets.push({ ...(sets[1] as QuizSet), items: SET.items.map((i) => ({ ...i, stem: `${i.stem} Changed.` })) });
  for (const made of fc.sample(anyRichSet, { numRuns: 20, seed: 7 })) sets.push(readSetFile(writeSetFile(made)).set);
  const files = sets.map((s, n) => {
    const file = path.join(dir, `${n}.xlf`);
    writeFileSync(file, writeXliff(s, 'fr', version));
    return file;
  });
  const r = spawnSync('xmllint', ['--nonet', '--noout', '--schema', schema(xsd), ...files], {
    encoding: 'utf8',
    env: { ...process.env, XML_CATALOG_FILES: schema('catalog.xml') },
  });
  expect(r.stderr.split('\n').filter((l) => l && !l.endsWith(' validates'))).toEqual([]);
  expect(r.status).toBe(0);
});

test.each([
  ['1.2', peer.xliff12ToJs, peer.jsToXliff12],
  ['2.1', peer.xliff2js, peer.js2xliff],
] as const)('through the library of others, %s: every unit with its codes', async (version, toJs, toXliff) => {
  const set = taken(SET, translated(readXliff(bytes(writeXliff(SET, 'fr', version)))));
  const js = (await toJs(writeXliff(set, 'fr', version))) as { resources: Record<string, Record<string, unknown>> };
  const ids = Object.values(js.resources).flatMap((r) => Object.keys(r));
  expect(new Set(ids)).toEqual(new Set(unitsOf(SET).map((u) => u.id)));
  const back = readXliff(bytes((await toXliff(js)) as string));
  const r = takeTranslations({ ...set, translations: {} }, back, 'fr', 'Test');
  expect(r.told).toEqual([]);
  expect(Object.fromEntries(Object.entries(r.taken).map(([id, t]) => [id, t.text]))).toEqual(
    Object.fromEntries(Object.entries(set.translations?.['fr'] ?? {}).map(([id, t]) => [id, t.text])),
  );
});

test('files of translators’ tools: segments, marks, halves of pairs, sources copied into targets', () => {
  const stem = unitsOf(SET).find((u) => u.id.endsWith('.stem'));
  const one = (body: string): ReturnedFile =>
    readXliff(
      bytes(
        `<xliff version="1.2"><file source-language="en" target-language="fr"><body><group><trans-unit id="${stem?.id}">${body}</trans-unit></group></body></file></xliff>`,
      ),
    );
  const says = (f: ReturnedFile): string | undefined => takeTranslations(SET, f, '', 'Test').taken[stem?.id ?? '']?.text;
  expect(says(one('<target>Quelle farine prend <bpt id="1">&lt;b&gt;</bpt>le plus<ept id="1">&lt;/b&gt;</ept> d’eau ?</target>'))).toBe(
    'Quelle farine prend <strong>le plus</strong> d’eau ?',
  );
  expect(says(one('<target><mrk mtype="seg" mid="0">Quelle <g id="1">farine</g> ?</mrk></target>'))).toBe('Quelle <strong>farine</strong> ?');
  expect(says(one('<target state="needs-translation">Which <g id="1">flour</g></target>'))).toBeUndefined();
  const two = readXliff(
    bytes(
      `<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.0" srcLang="en" trgLang="fr"><file id="f"><unit id="${stem?.id}"><segment state="final"><source>Which</source><target>Quelle <sc id="1"/>farine<ec startRef="1"/></target></segment><ignorable><source> </source></ignorable><segment state="final"><source>?</source><target>?</target></segment></unit></file></xliff>`,
    ),
  );
  expect(two.units[0]?.checked).toBe(true);
  expect(says(two)).toBe('Quelle <strong>farine</strong> ?');
});

test('sheets as people make them: two columns, with or without heading; in what is no sheet nothing is taken', () => {
  const two = readTranslationSheet(bytes('wheat,blé\nrye,seigle\nnowhere,nulle part\nSalt speeds up fermentation.,\n'));
  const r = takeTranslations(SET, two, 'fr', 'Test');
  expect(Object.values(r.taken).map((t) => t.text)).toEqual(['blé', 'seigle']);
  expect(r.untranslated).toBe(1);
  expect(r.told).toEqual([{ line: 3, name: '“nowhere”', taken: false, why: 'no text of this set reads so' }]);
  expect(readTranslationSheet(bytes('en;fr\nwheat;blé\n')).language).toBe('fr');
  expect(() => readTranslationSheet(bytes('just words'))).toThrow('no two columns');
  expect(() => readXliff(bytes('<html/>'))).toThrow('not an XLIFF file');
  for (const odd of ['', '<xliff', '<xliff version="1.2"/>', `<xliff>${'<g>'.repeat(500)}`])
    expect(() => {
      try {
        readXliff(bytes(odd));
      } catch (e) {
        if ((e as Error).name !== 'ReadError') throw e;
      }
    }).not.toThrow();
});

test('codes in a cell come back as they went; words with "<" stay words', () => {
  for (const rich of ['a <strong>b <em>c</em></strong><br/>d', 'x << 3 <1> y', '2 < 3 and </4>', 'fill [[g1]] and \\(a<b\\)', '<p>one</p><p>two</p>'])
    expect(richOf(fromCell(inCell(piecesOf(rich))), rich)).toBe(rich);
  expect(() => fromCell('<1>open')).toThrow('<1> is not closed');
  expect(() => fromCell('</2>')).toThrow('closes what is not open');
});

test('translations live in the set file; what is none is told and left out', () => {
  const set = taken(SET, translated(readXliff(bytes(writeXliff(SET, 'fr', '1.2')))));
  expect(readSetFile(writeSetFile(set)).set.translations).toEqual(set.translations);
  const broken = readSetFile(writeSetFile({ ...set, translations: { ...set.translations, de: { x: { text: 1 } } } } as unknown as QuizSet));
  expect(Object.keys(broken.set.translations ?? {})).toEqual(['fr']);
  expect(broken.diagnostics[0]?.message).toContain('into “de”');
});
