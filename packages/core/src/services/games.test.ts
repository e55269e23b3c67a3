/** The game service's adapter without a network: the sheet that goes, what comes back. */
import fc from 'fast-check';
import { anyGraded } from '../item/arbitrary.js';
import type { Item, ItemOf, QuizSet } from '../item/model.js';
import { mark } from '../mark/mark.js';
import { rightResponse, wrongResponse } from '../mark/answers.js';
import { rehearse } from '../rehearse/rehearse.js';
import { utf8 } from '../formats/encoding.js';
import { csvText, rowsOf } from '../formats/table/csv.js';
import type { Row } from '../formats/table/grid.js';
import { GAME_COLUMNS, games, timeByLength } from './games.js';
import { type Call, type Means, piecesOf, type Reply } from './service.js';
import { GAME_TIMES } from './table.js';

/** Workbooks as text: what is told of cells is the same. */
const means: Means = {
  workbook: { write: async (rows) => utf8(csvText(rows)), read: (bytes) => rowsOf(bytes) },
  pictureAddress: (hash) => `https://pictures.example/${hash}`,
};
const choice = (id: string, more: Partial<ItemOf<'multiple-choice'>> = {}): ItemOf<'multiple-choice'> => ({
  id,
  kind: 'multiple-choice',
  stem: `What goes into bowl ${id}?`,
  points: 1,
  options: ['flour', 'water', 'salt'].map((content, i) => ({ id: `${id}${i}`, content, credit: i === 1 ? 1 : 0 })),
  ...more,
});
const setOf = (items: Item[]): QuizSet => ({ title: 'T', items });
const sheet = async (set: QuizSet, settings = {}): Promise<Row[]> =>
  means.workbook.read((await games.prepare?.(games.withSettings?.(set, settings) ?? set, means)) ?? new Uint8Array());
const column = (rows: Row[], heading: string): string[] => rows.slice(1).map((r) => r[GAME_COLUMNS.indexOf(heading)] ?? '');

test('a round is a row: choices, numbers of the right ones, seconds, the address of a picture', async () => {
  const hash = 'a'.repeat(64);
  const several: Item = {
    id: 'b',
    kind: 'multiple-response',
    scoring: 'all-or-nothing',
    stem: 'Which are <b>dry</b>?',
    points: 3,
    options: ['flour', 'milk', 'salt'].map((content, i) => ({ id: `b${i}`, content, credit: i === 1 ? 0 : 1 })),
  };
  const set = {
    ...setOf([
      choice('a', { stem: `<p>Bowl?</p><img src="asset:${hash}" alt="a bowl">` }),
      several,
      { id: 'c', kind: 'true-false', stem: 'Salt is dry.', points: 1, answer: true },
    ]),
    assets: { [hash]: { mediaType: 'image/png', name: 'bowl.png', data: '' } },
  };
  const rows = await sheet(set, { time: '20' });
  expect(rows).toEqual([
    [...GAME_COLUMNS],
    ['a', 'Bowl?', 'flour', 'water', 'salt', '', '', '2', '20', `https://pictures.example/${hash}`],
    ['b', 'Which are dry?', 'flour', 'milk', 'salt', '', '', '1, 3', '20', ''],
    ['c', 'Salt is dry.', 'True', 'False', '', '', '', '1', '20', ''],
  ]);
});

test('time: its own, by its length, or the same for all; always one that may be given', async () => {
  const set = setOf([choice('a', { timeLimit: 50 }), choice('b'), choice('c', { stem: 'Long '.repeat(30).trim() })]);
  const seconds = async (time: string): Promise<string[]> => column(await sheet(set, { time }), 'Seconds');
  expect(await seconds('own')).toEqual(['60', '20', '30']);
  expect(await seconds('length')).toEqual(['20', '20', '30']);
  expect(await seconds('120')).toEqual(['120', '120', '120']);
  for (const item of set.items) expect(GAME_TIMES).toContain(timeByLength(item));
  expect(timeByLength(choice('d', { stem: 'x'.repeat(9000) }))).toBe(180);
});

test('another time is another print, so what is there is changed', () => {
  const set = setOf([choice('a')]);
  const print = (time: string): string | undefined => piecesOf(set, games, { time }).pieces[0]?.print;
  expect(print('20')).not.toBe(print('30'));
  expect(print('20')).toBe(print('20'));
});

test('what is too long or too much stays behind, and says by how much', () => {
  const texts = piecesOf(
    setOf([
      choice('a', { stem: 'y'.repeat(161) }),
      choice('b', { options: [1, 2, 3, 4, 5, 6].map((n) => ({ id: `${n}`, content: `${n} g`, credit: n === 1 ? 1 : 0 })) }),
    ]),
    games,
  );
  expect(texts.pieces).toEqual([]);
  expect(texts.notes.map((n) => n.message)).toEqual(['its question has 161 characters; 160 are possible there', 'it has 6 options; 5 are possible there']);
});

test('whatever goes is marked there as it was said to become, for items of every kind', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(anyGraded, { minLength: 1, maxLength: 4 }), async (items) => {
      const set = setOf(items.map((i, n) => ({ ...i, id: `i${n}` })));
      const asked = games.withSettings?.(set, {}) ?? set;
      const bytes = (await games.prepare?.(asked, means)) ?? new Uint8Array();
      const { pieces } = piecesOf(set, games);
      const { played } = await games.play(bytes, new Map(pieces.map((p) => [p.key, p.key])), means);
      const { items: told } = rehearse(played, asked, games.profile);
      expect(told.filter((i) => i.verdict === 'differs' || i.verdict === 'missing')).toEqual([]);
    }),
    { numRuns: 300 },
  );
});

test('what players chose comes back as responses that earn the same', async () => {
  await fc.assert(
    fc.asyncProperty(anyGraded, fc.boolean(), async (item, right) => {
      const { pieces } = piecesOf(setOf([item]), games);
      const given = new Map(pieces.map((p) => [p.key, right ? rightResponse(p.content) : wrongResponse(p.content)]));
      const report: Row[] = [['Player', 'Name', 'Ref', 'Question', 'Chosen', 'Right', 'Points', 'After']];
      const rows = await sheet(setOf([item]));
      for (const p of pieces) {
        const r = given.get(p.key);
        const row = rows.find((x) => x[0] === p.key) ?? [];
        if (!r || !('options' in r) || !('options' in p.content)) continue;
        const places = p.content.options.flatMap((o, i) => (r.options.includes(o.id) ? [i] : []));
        report.push(['1', 'Ada', p.key, '', places.map((i) => row[2 + i]).join('\n'), '', '', '']);
      }
      report.push(['2', 'Wen', 'taken out since', '', 'x', '', '', '']);
      const json = (body: unknown): Reply => ({ status: 200, ok: true, bytes: utf8(JSON.stringify(body)) });
      const call: Call = async (_m, path) => {
        if (path.endsWith('/report')) return { status: 200, ok: true, bytes: utf8(csvText(report)) };
        return json(path.endsWith('after=') ? { plays: [{ id: 'p', at: '2026-01-01T00:00:00Z' }], next: '1' } : { plays: [], next: '1' });
      };
      const pulled = await games.pullResponses?.(
        call,
        'g',
        pieces.map((p) => ({ ...p, remote: p.key })),
        null,
        means,
      );
      expect(pulled?.next).toBe('1');
      const ada = pulled?.responses.find((r) => r.name === 'Ada');
      for (const p of pieces) expect(mark(p.content, ada?.responses[p.key] ?? null).points).toBe(mark(p.content, given.get(p.key) ?? null).points);
      expect(pulled?.responses.find((r) => r.name === 'Wen')).toMatchObject({ id: 'p 2', responses: {} });
    }),
    { numRuns: 300 },
  );
});
