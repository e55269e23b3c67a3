/** Tables of responses made at random, in the habits of forms and sheets, with scores that are known: what is marked otherwise is a fault. */
import { numbersFrom } from '../item/shuffle.js';
import { mark } from '../mark/mark.js';
import { gradeTable } from './grade.js';
import { keepTable } from './keep.js';

/** A question: its heading, the key's cell, ways to say it right, ways to say it wrong. */
interface Question {
  heading: string;
  key: string;
  right: readonly string[];
  wrong: readonly string[];
}
const QUESTIONS: readonly ((n: number) => Question)[] = [
  (n) => ({ heading: `Which flour suits loaf ${n}?`, key: 'B', right: ['B', 'b', 'b)', 'B. rye', '(B)'], wrong: ['A', 'c)', 'D. oat', ''] }),
  (n) => ({
    heading: `What is dough ${n} made of?`,
    key: 'strong wheat',
    right: ['strong wheat', 'Strong Wheat', 'strong  wheat.', 'B) strong wheat'],
    wrong: ['wheat', 'rye', 'weak wheat', ''],
  }),
  (n) => ({
    heading: `Pick all that feed yeast ${n}`,
    key: 'sugar, flour',
    right: ['sugar, flour', 'flour, sugar', 'Flour,Sugar'],
    wrong: ['sugar', 'sugar, salt', 'flour, sugar, salt', ''],
  }),
  (n) => ({ heading: `Pick all letters ${n}`, key: 'A, C', right: ['A, C', 'C, A', 'AC', 'a and c', 'A;C'], wrong: ['A', 'A, B, C', 'BC', ''] }),
  (n) => ({ heading: `How hot is oven ${n}?`, key: '230', right: ['230', '230 °C', '230.0', '230,0'], wrong: ['23', '2300', 'hot', ''] }),
  (n) => ({ heading: `What does flour ${n} cost?`, key: '€2.50', right: ['2.50', '2,5 €', '€2.5', '2.50€'], wrong: ['25', '2.05', '2.50 kg', ''] }),
  (n) => ({ heading: `Brine ${n} holds salt`, key: 'TRUE', right: ['TRUE', 'true', 'T', 'Wahr', 'vrai'], wrong: ['FALSE', 'F', 'falsch', ''] }),
  (n) => ({ heading: `How is colour ${n} spelt?`, key: 'colour / color', right: ['colour', 'Color', 'color.'], wrong: ['collor', 'couleur', ''] }),
  (n) => ({
    heading: `When does course ${n} begin?`,
    key: '2026-11-28',
    right: ['2026-11-28', '28/11/2026', '28.11.2026', '28 November 2026'],
    wrong: ['2026-11-29', '27/11/2026', ''],
  }),
  (n) => ({ heading: `At what time is bread ${n} out?`, key: '7:30', right: ['7:30', '07:30', '7:30 am', '07:30:00'], wrong: ['19:30', '8:30', ''] }),
];
const FIRST = 'Ada Otto Mia Noor Ivo Lea Zoe Yan Ben Cy Wen Tess'.split(' ');
const LAST = 'Brandt Finch Sole Petrie Lang Moor Quill Marsh Cole Dorn Hale Rowan'.split(' ');
/** What stands beside the questions, and where the name is. */
const HEADS: readonly { columns: (name: string, at: number) => string[]; headings: string[]; key: string[] }[] = [
  { headings: ['Name'], columns: (name) => [name], key: ['Key'] },
  {
    headings: ['Timestamp', 'Email Address', 'Your name', 'Class'],
    columns: (name, i) => [`2026-11-02 09:0${i % 10}:01`, `${name.replace(' ', '.').toLowerCase()}@x.example`, name, '7b'],
    key: ['2026-11-02 08:00:00', 'teacher@x.example', 'ANSWER KEY', ''],
  },
  {
    headings: ['Nr', 'Vorname', 'Nachname', 'Punkte'],
    columns: (name, i) => [String(i + 1), name.split(' ')[0] ?? '', name.split(' ')[1] ?? '', '3'],
    key: ['', 'Muster', 'Lösung', ''],
  },
  { headings: ['Student ID', 'What is your full name?', 'Total score'], columns: (name, i) => [String(1000 + i), name, '1 / 9'], key: ['', 'answer key', ''] },
];
const BEHIND: readonly { headings: string[]; cells: string[] }[] = [
  { headings: [], cells: [] },
  { headings: ['Any comments?'], cells: ['It was fun'] },
  { headings: ['Comments', 'Duration'], cells: ['–', '12 min'] },
];

test.each([1, 2, 3, 4])('200 tables at random, seed %i: every score is what it is', (seed) => {
  const random = numbersFrom(seed * 7919);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  for (let n = 0; n < 200; n++) {
    const questions = Array.from({ length: 2 + Math.floor(random() * 7) }, (_, i) => pick(QUESTIONS)(n * 10 + i));
    const head = pick(HEADS);
    const behind = pick(BEHIND);
    const points = questions.map(() => (random() < 0.2 ? 2 : 1));
    const people = Array.from({ length: 2 + Math.floor(random() * 8) }, (_, i) => {
      const name = `${FIRST[(i + n) % 12] ?? ''} ${LAST[(i * 5 + n) % 12] ?? ''}`;
      const right = questions.map(() => random() < 0.6);
      return { name, right, cells: [...head.columns(name, i), ...questions.map((q, k) => pick(right[k] ? q.right : q.wrong)), ...behind.cells] };
    });
    const key = [...head.key, ...questions.map((q) => q.key), ...behind.headings.map(() => '')];
    const at = random() < 0.5 ? 0 : people.length;
    const rows = [
      ...(random() < 0.2 ? [['Quiz of week two'], []] : []),
      [...head.headings, ...questions.map((q) => q.heading), ...behind.headings],
      ...people.map((p) => p.cells).toSpliced(at, 0, key),
    ];
    const asked = { points: questions.flatMap((q, k) => (points[k] === 2 ? [{ heading: q.heading, points: 2 }] : [])) };
    const graded = gradeTable(rows, asked);
    // kept as items and responses, everybody has the same
    const kept = keepTable(rows, asked);
    const again = kept.people.map((p) => [p.name, kept.items.reduce((sum, i) => sum + mark(i, p.responses[i.id]).points, 0)]);
    const expected = people.map((p) => [p.name, p.right.reduce((sum, r, k) => sum + (r ? (points[k] ?? 1) : 0), 0)]);
    try {
      expect(graded.marked.map((m) => m.heading)).toEqual(questions.map((q) => q.heading));
      expect(graded.people.map((p) => [p.name, p.score])).toEqual(expected);
      expect(again).toEqual(expected);
    } catch (e) {
      throw new Error(`${rows.map((r) => r.join(' | ')).join('\n')}\n${(e as Error).message}`);
    }
    const sum = expected.reduce((s, [, score]) => s + (score as number), 0);
    expect(graded.mean).toBeCloseTo(sum / people.length, 4);
  }
});
