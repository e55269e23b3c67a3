/** Papers set by the server. */
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { classReport, marksOf, pointsOf, type QuizSet, type Report, reportPaper, type Results } from '@zakuska/core';
import { startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';

let server: TestServer;
let world: World;
beforeAll(async () => {
  server = await startServer('zakuska_test_print');
  world = await makeWorld(server, 'owner@x.example');
});
afterAll(() => server.stop());

const set: QuizSet = {
  title: 'Salt',
  items: [
    { id: 'a', kind: 'true-false', stem: 'Salt slows down <em>yeast</em>.<script>alert(1)</script>', points: 1, answer: true },
    { id: 'b', kind: 'essay', stem: 'Is \\(x^2\\) a square?', points: 1 },
  ],
};
const print = (body: object) => world.owner.post('/api/v1/print').send(body);

test('a set comes back as PDF, read again', async () => {
  const { name, data, readBack } = (await print({ form: 'pdf-paper', set }).expect(200)).body as { name: string; data: string; readBack: unknown };
  expect(name).toBe('salt.pdf');
  expect(Buffer.from(data, 'base64').subarray(0, 5).toString()).toBe('%PDF-');
  expect(readBack).toEqual({ items: 2, keys: 2, differences: [] });
});

test('answer sheets for people of a class: as PDF, and as DOCX, which takes longer', async () => {
  const people = Array.from({ length: 7 }, (_, n) => ({ code: `0000A1B2C3D${n}`, name: `Learner ${n}`, group: 'Monday' }));
  const readBack = { items: 1, keys: 0, differences: [{ item: 'b', name: '2', message: expect.any(String) as string }] };
  const pdf = (await print({ form: 'pdf-sheet', set, people }).expect(200)).body as { data: string };
  expect(pdf).toMatchObject({ name: 'salt-answer-sheet.pdf', mediaType: 'application/pdf', readBack });
  const docx = (await print({ form: 'docx-sheet', set, people: people.slice(0, 2) }).expect(200)).body as { data: string };
  expect(docx).toMatchObject({ name: 'salt-answer-sheet.docx', readBack });
  expect(Buffer.from(docx.data, 'base64').subarray(0, 2).toString()).toBe('PK');
  await print({ form: 'pdf-sheet', set, people: [{ code: 'no/code', name: 'x' }] }).expect(400);
});

test('what is no set, no form, too long, or not signed in is refused', async () => {
  await server.agent().post('/api/v1/print').send({ form: 'pdf-key', set }).expect(401);
  await print({ form: 'pdf-poster', set }).expect(400);
  await print({ form: 'pdf-key', set: 'salt' }).expect(400);
  const broken = await print({ form: 'pdf-key', set: { title: 'x', items: [{ id: 'a', kind: 'riddle' }] } }).expect(400);
  expect(JSON.stringify(broken.body)).toContain('This is no set: items.0');
  const many = Array.from({ length: 501 }, (_, i) => ({ id: `i${i}`, kind: 'essay', stem: 'Why?', points: 1 }));
  expect(JSON.stringify((await print({ form: 'pdf-key', set: { title: 'x', items: many } }).expect(400)).body)).toContain('501 items');
});

const results = (people: number): Results => ({
  set,
  grades: [
    { name: 'passed', from: 0.5 },
    { name: 'not passed', from: 0 },
  ],
  sittings: Array.from({ length: people }, (_, n) => {
    const responses = { a: { truth: n % 2 === 0 }, b: { text: 'It is.' } };
    const marks = marksOf(set, responses);
    return { id: `p${n}`, name: `Learner ${n + 1} Ωmega "#quote"`, startedAt: '', submittedAt: '', responses, marks, points: pointsOf(marks) };
  }),
});
/** The words of each page, by poppler. */
async function pagesOf(report: Report): Promise<string[]> {
  const { body } = await world.owner.post('/api/v1/print/report').send({ report, set }).expect(200);
  const file = path.join(os.tmpdir(), `report-${process.pid}.pdf`);
  writeFileSync(file, Buffer.from((body as { data: string }).data, 'base64'));
  return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }).split('\f').slice(0, -1);
}
test('reports: each person from a page of their own, with answers, points and keys; many in a thread of their own', async () => {
  for (const people of [2, 8]) {
    const pages = await pagesOf(reportPaper(results(people)));
    expect(pages).toHaveLength(people);
    expect(pages[1]).toContain('Learner 2 Ωmega "#quote"');
    expect(pages[0]).toContain('Points: 1 of 1, 100%, passed');
    expect(pages[1]).toContain('Points: 0 of 1, 0%, not passed');
    expect(pages[1]).toMatch(/Salt slows down yeast\..*0\s*\/\s*1/);
    expect(pages[1]).toMatch(/Right: true/i);
    expect(pages[0]).not.toMatch(/Right: true/i);
    expect(pages[0]).toMatch(/–\s*\/\s*1/);
  }
  const [page] = await pagesOf(classReport(results(4)));
  expect(page).toContain('People: 4');
  expect(page).toMatch(/Learner 3 .*1 of 1, 100%, passed/);
  expect(page).toMatch(/Salt slows down yeast\..*50% \(1\)/);
});
test('what is no report, or not signed in, is refused', async () => {
  const report = reportPaper(results(1));
  await server.agent().post('/api/v1/print/report').send({ report, set }).expect(401);
  const post = (body: object) => world.owner.post('/api/v1/print/report').send(body);
  expect(JSON.stringify((await post({ report: { ...report, pieces: [{ is: 'item' }] }, set }).expect(400)).body)).toContain('This is no report: pieces.0');
  await post({ report: 'x', set }).expect(400);
  await post({ report, set: {} }).expect(400);
});
