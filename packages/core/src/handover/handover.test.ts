import { unzipSync } from 'fflate';
import Papa from 'papaparse';
import { item as itemSchema, type QuizSet } from '../item/model.js';
import { readXml, descendants, childrenOf, textOf } from '../formats/xmlTree.js';
import { writeQtiPackage } from '../formats/qti/v2/package.js';
import { marksOf, pointsOf } from '../take/outcome.js';
import type { Response } from '../mark/mark.js';
import { fillSheetOf, oneRosterZip, pseudonymous, qtiResultsZip, resultSheets, type Results, type Sitting, textRows } from './index.js';

const items = [
  {
    id: 'mc',
    label: '1',
    kind: 'multiple-choice',
    stem: 'Which flour?',
    options: [
      { id: 'x', content: 'rye', credit: 1 },
      { id: 'y', content: 'oat' },
    ],
  },
  { id: 'num', label: '2', kind: 'numeric', stem: 'How hot?', points: 2, answers: [{ min: 220, max: 220 }], unit: '°C' },
  {
    id: 'match',
    label: '3',
    kind: 'matching',
    stem: 'Match',
    points: 2,
    pairs: [
      { left: 'a', right: 'b' },
      { left: 'c', right: 'd' },
    ],
  },
  {
    id: 'gaps',
    label: '4',
    kind: 'cloze',
    stem: '[[1]] and [[2]]',
    points: 2,
    gaps: [
      { id: '1', kind: 'text', answers: [{ text: 'salt' }] },
      {
        id: '2',
        kind: 'choice',
        options: [
          { id: 'p', content: 'wet', credit: 1 },
          { id: 'q', content: 'dry' },
        ],
      },
    ],
  },
  { id: 'order', label: '5', kind: 'ordering', stem: 'Order', sequence: ['mix', 'rest'] },
  { id: 'tf', label: '6', kind: 'true-false', stem: 'So?', answer: true },
].map((i) => itemSchema.parse(i));
const set: QuizSet = { title: 'Dough, week two', items };
const RIGHT: Record<string, Response> = {
  mc: { options: ['x'] },
  num: { text: '220' },
  match: { pairs: ['b', 'd'] },
  gaps: { gaps: { '1': 'salt', '2': 'p' } },
  order: { order: ['mix', 'rest'] },
  tf: { truth: true },
};
const sitting = (id: string, name: string, responses: Record<string, Response>, more: object = {}): Sitting => {
  const marks = marksOf(set, responses);
  return { id, name, startedAt: '2026-11-02T09:00:00.000Z', submittedAt: '2026-11-02T09:20:00.000Z', marks, points: pointsOf(marks), responses, ...more };
};
const results: Results = {
  set,
  sittings: [
    sitting('s2', 'Ada Brandt', RIGHT, { mail: 'ada@saltmarsh.example', number: '0017' }),
    sitting('s1', 'Otto Finch', { mc: { options: ['y'] }, num: { text: '220' }, gaps: { gaps: { '1': 'ash', '2': 'p' } } }),
  ],
};

test('sheets: scores, answers, items and the key, as counted by hand', () => {
  const [scores, answers, figures, key] = resultSheets(results).map(textRows);
  expect(scores).toEqual([
    ['Name', 'Mail', 'Number', 'Points', 'Of', 'Share', 'Begun', 'Handed in', 'Item 1', 'Item 2', 'Item 3', 'Item 4', 'Item 5', 'Item 6'],
    ['Ada Brandt', 'ada@saltmarsh.example', '0017', '9', '9', '1', '2026-11-02T09:00:00.000Z', '2026-11-02T09:20:00.000Z', '1', '2', '2', '2', '1', '1'],
    ['Otto Finch', '', '', '3', '9', '0.333', '2026-11-02T09:00:00.000Z', '2026-11-02T09:20:00.000Z', '0', '2', '0', '1', '0', '0'],
  ]);
  expect(answers?.[2]?.slice(1)).toEqual(['B. oat', '220', '', '1: ash; 2: wet', '', '']);
  expect(figures?.find((r) => r[0] === '4')).toEqual(['4', '____ and ____', 'Gaps', '2', '2', '0', '0.75', expect.any(String)]);
  expect(key?.slice(1).map((r) => r[2])).toEqual(['rye', '220 °C', 'a → b; c → d', 'salt; wet', 'mix → rest', 'True']);
});

test('a grade beside the share, where the set has grades', () => {
  const [scores] = resultSheets({ ...results, grades: [{ name: 'passed', from: 0.5 }] }).map(textRows);
  expect(scores?.map((r) => r[6])).toEqual(['Grade', 'passed', '']);
});

test('without names nobody is told, and the order of scores is not', () => {
  const hidden = pseudonymous(results);
  expect(hidden.sittings.map((s) => [s.name, s.points])).toEqual([
    ['Person 1', 3],
    ['Person 2', 9],
  ]);
  expect(JSON.stringify(resultSheets(hidden))).not.toMatch(/Ada|Otto|saltmarsh|0017/);
});

// OneRoster 1.1 CSV, tables 1 and 3: headings in this order, from memory of the specification
test('OneRoster: the manifest says which files are there; a result for each person, of the one line item', () => {
  const files = unzipSync(oneRosterZip(results, 'd1', '2026-11-03T10:00:00.000Z'));
  const table = (name: string): string[][] =>
    Papa.parse<string[]>(new TextDecoder('utf-8', { ignoreBOM: true }).decode(files[name]), { skipEmptyLines: true }).data;
  const manifest = new Map(table('manifest.csv').map(([k, v]) => [k, v]));
  expect(manifest.get('oneroster.version')).toBe('1.1');
  const bulk = [...manifest].filter(([, v]) => v === 'bulk').map(([k]) => `${k?.slice('file.'.length)}.csv`);
  expect([...bulk, 'manifest.csv'].sort()).toEqual(Object.keys(files).sort());
  const [heads, line] = table('lineItems.csv');
  expect(heads?.slice(0, 4)).toEqual(['sourcedId', 'status', 'dateLastModified', 'title']);
  expect([line?.[3], line?.[10], line?.[11]]).toEqual(['Dough, week two', '0', '9']);
  const rows = table('results.csv').slice(1);
  expect(rows.map((r) => [r[3], r[4], r[5], r[6], r[7]])).toEqual([
    [line?.[0], '0017', 'fully graded', '9', '2026-11-02'],
    [line?.[0], 'Otto Finch', 'fully graded', '3', '2026-11-02'],
  ]);
  // handed over again, it is the same line item and the same results
  expect(unzipSync(oneRosterZip(results, 'd1', '2026-11-03T10:00:00.000Z'))).toEqual(files);
});

test('QTI results name items and choices as the package of the set does', () => {
  const files = Object.values(unzipSync(qtiResultsZip(results))).map((b) => readXml(new TextDecoder().decode(b)).root);
  const wrote = Object.entries(unzipSync(writeQtiPackage(set, '2.1').bytes));
  const written = new Set(wrote.flatMap(([, b]) => [...new TextDecoder().decode(b).matchAll(/ identifier="([^"]+)"/g)].map((m) => m[1])));
  expect(files).toHaveLength(2);
  for (const root of files) {
    expect(root.name).toBe('assessmentResult');
    expect(childrenOf(root, 'context')).toHaveLength(1);
    expect(descendants(root, 'itemResult').map((i) => i.attributes['sessionStatus'])).toEqual(items.map(() => 'final'));
    for (const i of descendants(root, 'itemResult')) expect(written).toContain(i.attributes['identifier']);
    for (const v of descendants(root, 'responseVariable'))
      if (v.attributes['baseType'] === 'identifier') for (const x of descendants(v, 'value')) expect(written).toContain(textOf(x));
  }
  const [ada] = files;
  const score = childrenOf(childrenOf(ada as never, 'testResult')[0] as never, 'outcomeVariable').map((o) => [
    o.attributes['identifier'],
    textOf(descendants(o, 'value')[0] as never),
  ]);
  expect(score).toEqual([
    ['SCORE', '9'],
    ['MAXSCORE', '9'],
  ]);
  const pairs = descendants(ada as never, 'responseVariable').find((v) => v.attributes['baseType'] === 'directedPair');
  expect(descendants(pairs as never, 'value').map(textOf)).toEqual(['L1 R1', 'L2 R2']);
});

describe('a sheet that somebody has is filled', () => {
  test('rows by person, columns by name; what stood there stays', () => {
    const filled = fillSheetOf(
      results,
      'No.\tSurname\tFirst name\tWeek one\tDough, week two\tOut of\tQ2\n1\tFinch\tOtto\t7\t\t\t\n2\tSand\tMilo\t5\t\t\t\n3\tBrandt\tAda\t\t\t\t\n',
    );
    expect(filled.rows).toEqual([
      ['1', 'Finch', 'Otto', '7', '3', '9', '2'],
      ['2', 'Sand', 'Milo', '5', '', '', ''],
      ['3', 'Brandt', 'Ada', '', '9', '9', '2'],
    ]);
    expect([filled.filled, filled.missing, filled.unsure]).toEqual([6, [], []]);
  });
  test('headings alone: everybody gets a row', () => {
    expect(fillSheetOf(results, 'Name,E-mail,Score,%').rows).toEqual([
      ['Ada Brandt', 'ada@saltmarsh.example', '9', '100 %'],
      ['Otto Finch', '', '3', '33.3 %'],
    ]);
  });
  test('the only empty column takes the score; who may be two people is left, and told; who has no row, too', () => {
    const filled = fillSheetOf(results, 'Name;Group;Quiz of Monday\nAda Brant;red;\n');
    expect(filled.rows).toEqual([['Ada Brant', 'red', '']]);
    expect([filled.unsure, filled.missing]).toEqual([['Ada Brant'], ['Ada Brandt', 'Otto Finch']]);
    expect(fillSheetOf(results, 'Name;Group;Quiz of Monday\nAda Brandt;red;\n').rows).toEqual([['Ada Brandt', 'red', '9']]);
  });
});
