import { readDraft } from '../draft/read.js';
import { mark } from '../mark/mark.js';
import { keepTable } from './keep.js';

const rows = (text: string): string[][] =>
  text
    .trim()
    .split('\n')
    .map((l) => l.split('|').map((c) => c.trim()));
const told = (kept: ReturnType<typeof keepTable>) =>
  kept.items.map((i) =>
    i.kind === 'multiple-choice' ? `${i.stem} ${i.options.map((o) => `${o.content}${o.credit ? '*' : ''}`).join(' / ')}` : `${i.kind}: ${i.stem}`,
  );

const TABLE = rows(`
  Timestamp | Email | Name | Which flour? | What is it called?
  2026-11-02 09:00 | t@x.example | ANSWER KEY | B | autolyse
  2026-11-02 09:05 | ada@x.example | Ada | b) rye | Autolyse
  2026-11-02 09:06 | otto@x.example | Otto | A | rest
  2026-11-02 09:07 | mia@x.example | Mia | B. | autolysis
  2026-11-02 09:08 | noor@x.example | Noor | A | nap
`);

test('by a key row: few answers again and again are a choice, others are typed; it is said', () => {
  const kept = keepTable(TABLE, {});
  expect(told(kept)).toEqual(['Which flour? A / B*', 'short-answer: What is it called?']);
  expect(kept.notes.slice(-2)).toEqual([
    'Column “Which flour?” became a choice of 2, B its key.',
    'Column “What is it called?” became a question with a typed answer.',
  ]);
  expect(kept.people.map((p) => [p.name, p.mail, p.at?.slice(0, 10), kept.items.map((i) => mark(i, p.responses[i.id]).points)])).toEqual([
    ['Ada', 'ada@x.example', '2026-11-02', [1, 1]],
    ['Otto', 'otto@x.example', '2026-11-02', [0, 0]],
    ['Mia', 'mia@x.example', '2026-11-02', [1, 0]],
    ['Noor', 'noor@x.example', '2026-11-02', [0, 0]],
  ]);
});

test('by a set: its items with their ids, with the points that were said', () => {
  const { set } = readDraft('1. Which flour?\na) wheat\nb) rye *\n\n2. What is it called?\nAnswer: autolyse\n');
  const kept = keepTable(
    TABLE.filter((r) => r[2] !== 'ANSWER KEY'),
    { set, points: [{ heading: 'What is it called?', points: 3 }] },
  );
  expect(kept.items.map((i) => [i.id, i.points])).toEqual(set.items.map((i, n) => [i.id, n ? 3 : 1]));
  expect(kept.people.map((p) => kept.items.map((i) => mark(i, p.responses[i.id]).points))).toEqual([
    [1, 3],
    [0, 0],
    [1, 0],
    [0, 0],
  ]);
});

test('what looks like markup is kept as text', () => {
  const kept = keepTable(rows('Name | Which <b>tag</b>?\nKey | <p>\nAda | <p>\nOtto | <b>\nMia | <b>\nNoor | <p>'), {});
  expect(kept.items[0]?.stem).toBe('<p>Which &lt;b&gt;tag&lt;/b&gt;?</p>');
  expect(kept.people.map((p) => mark(kept.items[0] as never, Object.values(p.responses)[0]).points)).toEqual([1, 0, 0, 1]);
});
