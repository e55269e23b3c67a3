import { strFromU8, unzipSync } from 'fflate';
import { runs } from '../../item/runs.js';
import fc from 'fast-check';
import { SaxesParser } from 'saxes';
import { anyItem } from '../../item/arbitrary.js';
import type { Item, QuizSet } from '../../item/model.js';
import { coreFormats } from '../index.js';
import { qtiItemXml, writeQtiPackage } from './v2/package.js';

/** Element names in document order; throws where the text is not well-formed XML with namespaces. */
function elementsOf(xml: string): { name: string; attributes: Record<string, string>; depth: number }[] {
  const out: { name: string; attributes: Record<string, string>; depth: number }[] = [];
  let depth = 0;
  const p = new SaxesParser({ xmlns: true });
  p.on('error', (e) => {
    throw e;
  });
  p.on('opentag', (t) => {
    out.push({ name: t.name, attributes: Object.fromEntries(Object.entries(t.attributes).map(([k, v]) => [k, v.value])), depth: depth++ });
  });
  p.on('closetag', () => depth--);
  p.write(xml).close();
  return out;
}

// The order of an assessmentItem's children: 1EdTech QTI 2.1 Information Model, ItemType (from memory).
const ORDER = [
  'responseDeclaration',
  'outcomeDeclaration',
  'templateDeclaration',
  'templateProcessing',
  'stylesheet',
  'itemBody',
  'responseProcessing',
  'modalFeedback',
];

test('every item is well-formed, its parts stand in the order of the standard, and interactions name declared responses', () => {
  fc.assert(
    fc.property(anyItem, fc.constantFrom<('2.1' | '2.2' | '3.0')[]>('2.1', '2.2', '3.0'), (item, version) => {
      const all = elementsOf(qtiItemXml(item, { title: 'T', items: [item] }, version));
      const camel = (n: string): string => n.replace(/^qti-/, '').replace(/-([a-z])/g, (_, c: string) => c.toUpperCase());
      const top = all.filter((e) => e.depth === 1).map((e) => ORDER.indexOf(camel(e.name)));
      expect(top).not.toContain(-1);
      expect(top).toEqual([...top].sort((a, b) => a - b));
      if (version === '3.0') expect(all.every((e) => /^qti-|^(p|div|span|br)$/.test(e.name))).toBe(true);
      const attr = version === '3.0' ? 'response-identifier' : 'responseIdentifier';
      const declared = all.filter((e) => camel(e.name) === 'responseDeclaration').map((e) => e.attributes['identifier']);
      const used = all.flatMap((e) => (e.attributes[attr] ? [e.attributes[attr]] : []));
      expect([...used].sort()).toEqual([...declared].sort());
    }),
    { numRuns: runs(300) },
  );
});

const items: Item[] = [
  { id: 'a1', kind: 'true-false', stem: 'S', points: 1, answer: true },
  { id: 'b2', kind: 'true-false', stem: 'no key', points: 1, answer: null },
  {
    id: 'c3',
    kind: 'multiple-choice',
    stem: `<p>See <img src="asset:${'a'.repeat(64)}" alt="x"/></p>`,
    points: 2,
    options: [
      { id: 'x', content: 'A & B', credit: 1 },
      { id: 'y', content: '<em>C</em>', credit: 0 },
    ],
  },
];
const set = { title: 'Brot & Teig', language: 'de', items, assets: { ['a'.repeat(64)]: { mediaType: 'image/png', name: 'x.png', data: 'iVBORw0KGgo=' } } };

test('a package lists what it holds: test, items with keys, pictures', () => {
  const w = writeQtiPackage(set, '2.1');
  expect(w.name).toBe('brot-teig-qti21.zip');
  const files = unzipSync(w.bytes);
  expect(Object.keys(files).sort()).toEqual(['imsmanifest.xml', 'items/item-a1.xml', 'items/item-c3.xml', 'media/aaaaaaaaaaaaaaaa.png', 'test.xml']);
  const manifest = elementsOf(strFromU8(files['imsmanifest.xml'] as Uint8Array));
  const hrefs = manifest.filter((e) => e.name === 'resource').map((e) => e.attributes['href']);
  expect(hrefs.sort()).toEqual(['items/item-a1.xml', 'items/item-c3.xml', 'media/aaaaaaaaaaaaaaaa.png', 'test.xml']);
  const ids = manifest.filter((e) => e.name === 'resource').map((e) => e.attributes['identifier']);
  for (const d of manifest.filter((e) => e.name === 'dependency')) expect(ids).toContain(d.attributes['identifierref']);
  expect(strFromU8(files['items/item-c3.xml'] as Uint8Array)).toContain('src="../media/aaaaaaaaaaaaaaaa.png"');
});

test('the same set gives the same bytes', () => {
  for (const v of ['2.1', '2.2', '3.0'] as const) expect(writeQtiPackage(set, v).bytes).toEqual(writeQtiPackage(set, v).bytes);
});

test('items in another language than the set keep it, and what most items have is the set’s', async () => {
  const statement = (id: string, language?: string): Item => ({
    id,
    kind: 'true-false',
    stem: `Statement ${id}.`,
    points: 1,
    answer: true,
    ...(language && { language }),
  });
  for (const id of ['qti12', 'qti21', 'qti22', 'qti30']) {
    const format = coreFormats.byId(id);
    if (!format?.write) throw new Error(`no writer ${id}`);
    const back = async (quiz: QuizSet): Promise<unknown> => {
      const { set } = await coreFormats.read((await format.write?.(quiz))?.bytes ?? new Uint8Array(), `a${format.extension}`);
      return [set.language, ...set.items.map((i) => i.language)];
    };
    expect(await back({ title: 'T', language: 'en', items: [statement('a'), statement('b', 'es'), statement('c')] })).toEqual([
      'en',
      undefined,
      'es',
      undefined,
    ]);
    expect(await back({ title: 'T', language: 'en', items: [statement('a', 'es')] })).toEqual(['en', 'es']);
    expect(await back({ title: 'T', items: [statement('a', 'es')] })).toEqual([undefined, 'es']);
    expect(await back({ title: 'T', language: 'es', items: [statement('a')] })).toEqual(['es', undefined]);
  }
});
