/** The game service by itself: its sheets, its interface, a play of several people. */
import ExcelJS from 'exceljs';
import type { Express } from 'express';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import request from 'supertest';
import { freshDatabase, tokensFor } from '../testing.js';
import { gamesApp } from './app.js';
import { readSheet, type Round, writeSheet } from './sheet.js';
import { Store } from './store.js';

let store: Store;
let app: Express;
let server: http.Server;
let token: string;
beforeAll(async () => {
  store = new Store(freshDatabase('zakuska_test_games'));
  await store.open();
  app = gamesApp(store, 'http://games.test');
  server = app.listen(0, '127.0.0.1');
  ({ access_token: token } = await tokensFor(app, 'm.okafor', 'ladle'));
});
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await store.close();
});

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
const round = (ref: string, more: Partial<Round> = {}): Round => ({
  ref,
  question: `What is in bowl ${ref}?`,
  choices: ['flour', 'water', 'salt'],
  right: [2],
  seconds: 20,
  picture: '',
  ...more,
});
interface Taken {
  id: string;
  hostLink: string;
  rows: { ref: string; status: string; message?: string }[];
}
async function send(path: string, rounds: Round[], key?: string): Promise<Taken> {
  const call = request(server).post(path).set('authorization', `Bearer ${token}`).set('content-type', XLSX);
  if (key) void call.set('idempotency-key', key);
  const r = await call.send(await writeSheet(rounds));
  expect(r.status).toBeLessThan(300);
  return r.body as Taken;
}
const get = (path: string): request.Test => request(server).get(path).set('authorization', `Bearer ${token}`);
const statuses = (t: Taken): string => t.rows.map((r) => `${r.ref} ${r.status}`).join(', ');

describe('sheets', () => {
  const read = async (r: Round): Promise<string> => {
    const [row] = await readSheet(await writeSheet([r]));
    return row && 'message' in row ? row.message : 'taken';
  };
  test.each<[string, Partial<Round>, string]>([
    ['no question', { question: '' }, 'There is no question.'],
    ['a long question', { question: 'x'.repeat(161) }, 'A question has at most 160 characters; this one has 161.'],
    ['one choice', { choices: ['a'], right: [1] }, 'A round has at least two choices.'],
    ['an empty choice', { choices: ['a', '', 'c'], right: [1] }, 'A choice is empty.'],
    ['a long choice', { choices: ['a', 'y'.repeat(61)], right: [1] }, `A choice has at most 60 characters: “${'y'.repeat(61)}”.`],
    ['no right choice', { right: [] }, 'Right names no choice by its number.'],
    ['a right choice that is not there', { right: [4] }, 'Right names no choice by its number.'],
    ['another time', { seconds: 25 }, 'Seconds are one of 10, 20, 30, 45, 60, 90, 120, 180.'],
    ['a picture that is no address', { picture: 'bowl.png' }, 'A picture is given by its address.'],
    ['all as it should be', { right: [1, 3], picture: 'https://a.example/b.png' }, 'taken'],
  ])('%s', async (_, more, said) => expect(await read(round('a', more))).toBe(said));

  test('what is no workbook, has no column of its own, or is not signed in is refused', async () => {
    const post = (bytes: Buffer, type = XLSX): request.Test =>
      request(server).post('/v1/games?title=T').set('authorization', `Bearer ${token}`).set('content-type', type).send(bytes);
    expect((await post(Buffer.from('no')).expect(422)).body).toEqual({ detail: 'This is no workbook (XLSX).' });
    const book = new ExcelJS.Workbook();
    book.addWorksheet('A').addRow(['Ref', 'Question', 'Choice 1']);
    expect((await post(Buffer.from(await book.xlsx.writeBuffer())).expect(422)).body).toEqual({ detail: 'The sheet has no column “Choice 2”.' });
    await post(Buffer.from('{}'), 'application/json').expect(415);
    await request(server).get('/v1/games').expect(401);
  });
});

test('a sheet again changes what has changed, adds what is new and leaves the rest; the same key is the same game', async () => {
  const made = await send('/v1/games?title=Bowls', [round('a'), round('b')], 'k1');
  expect(statuses(made)).toBe('a arrived, b arrived');
  expect((await send('/v1/games?title=Bowls', [round('a'), round('b')]).then((t) => t.id)) === made.id).toBe(false);
  const again = await send(`/v1/games/${made.id}/sheet`, [round('b', { seconds: 30 }), round('a'), round('c'), round('d', { right: [] })]);
  expect(statuses(again)).toBe('b changed, a same, c arrived, d refused');
  const back = await readSheet(Buffer.from((await get(`/v1/games/${made.id}/sheet`).buffer(true).parse(binary).expect(200)).body as Uint8Array));
  expect(back.map((r) => r.ref)).toEqual(['a', 'b', 'c']);
  await request(server).delete(`/v1/games/${made.id}/rounds/c`).set('authorization', `Bearer ${token}`).expect(204);
  await request(server).delete(`/v1/games/${made.id}/rounds/c`).set('authorization', `Bearer ${token}`).expect(404);
});
function binary(res: unknown, done: (e: Error | null, body: Buffer) => void): void {
  const parts: Buffer[] = [];
  const stream = res as http.IncomingMessage;
  stream.on('data', (c: Buffer) => void parts.push(c));
  stream.on('end', () => done(null, Buffer.concat(parts)));
}

interface View {
  state: string;
  code: string;
  round: number;
  question?: string;
  several?: boolean;
  seconds?: number;
  choices?: { n: number; text: string; right?: boolean }[];
  players: { name: string; points: number }[];
  mine?: { chosen: number[]; right?: boolean; points?: number };
}
/** What a stream of events says first. */
async function first(path: string): Promise<View> {
  const { port } = server.address() as AddressInfo;
  const over = new AbortController();
  const res = await fetch(`http://127.0.0.1:${port}${path}`, { signal: over.signal });
  const reader = (res.body as ReadableStream<Uint8Array>).getReader();
  let text = '';
  while (!text.includes('\n\n')) text += new TextDecoder().decode((await reader.read()).value);
  over.abort();
  return JSON.parse(text.slice(6)) as View;
}
const post = (path: string, body: object = {}): request.Test => request(server).post(path).send(body);

test('two play together: both see the question, who answers right gets points, the report says who got what', async () => {
  const made = await send('/v1/games?title=Two', [round('a'), round('b', { right: [1, 3] })]);
  const host = new URL(made.hostLink).searchParams.get('host') ?? '';
  await post(`/g/${made.id}/plays?host=wrong`).expect(403);
  const lead = (await post(`/g/${made.id}/plays?host=${host}`).expect(303)).headers['location'] ?? '';
  const play = /^\/play\/(\w+)\/lead/.exec(lead)?.[1] ?? '';
  const events = `/play/${play}/lead/events?host=${host}`;
  const { code, state } = await first(events);
  expect(state).toBe('waiting');
  await request(server).post('/join').type('form').send({ code: '00000', name: 'Ada' }).expect(422);
  const join = async (name: string): Promise<string> =>
    (await request(server).post('/join').type('form').send({ code, name }).expect(303)).headers['location'] ?? '';
  const [ada, wen] = [await join('Ada'), await join('Wen')];
  const next = async (): Promise<void> => {
    const { round: n, state: now } = await first(events);
    await post(`/play/${play}/next?host=${host}`, { round: n, state: now }).expect(204);
  };
  await post(`${ada}/answer`, { round: 1, chosen: [1] }).expect(409);
  await next();
  const seen = await first(`${ada}/events`);
  expect(seen).toMatchObject({ state: 'asking', round: 1, question: 'What is in bowl a?', several: false });
  // what is right is not told before the question is over
  expect(JSON.stringify(seen)).not.toContain('right');
  await post(`${ada}/answer`, { round: 1, chosen: [1, 2] }).expect(422);
  await post(`${ada}/answer`, { round: 1, chosen: [2] }).expect(204);
  // the first answer counts
  await post(`${ada}/answer`, { round: 1, chosen: [1] });
  expect((await first(`${wen}/events`)).state).toBe('asking');
  await post(`${wen}/answer`, { round: 1, chosen: [3] }).expect(204);
  // all have answered, so it is over
  expect((await first(`${ada}/events`)).mine).toMatchObject({ chosen: [2], right: true });
  expect((await first(`${wen}/events`)).mine).toMatchObject({ chosen: [3], right: false, points: 0 });
  // a step that was pressed twice is one
  await post(`/play/${play}/next?host=${host}`, { round: 1, state: 'asking' }).expect(204);
  expect((await first(events)).state).toBe('solved');
  await next();
  await post(`${ada}/answer`, { round: 2, chosen: [3, 1] }).expect(204);
  await next();
  await next();
  expect((await first(events)).state).toBe('over');
  const { plays } = (await get(`/v1/games/${made.id}/plays`).expect(200)).body as { plays: { id: string; players: number }[] };
  expect(plays).toMatchObject([{ id: play, players: 2 }]);
  const report = await get(`/v1/plays/${play}/report`).buffer(true).parse(binary).expect(200);
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(report.body as ArrayBuffer);
  const rows = (book.worksheets[0] as ExcelJS.Worksheet).getSheetValues().slice(2) as unknown[][];
  expect(rows.map((r) => r.slice(1, 8))).toEqual([
    [1, 'Ada', 'a', 'What is in bowl a?', 'water', 'yes', expect.any(Number)],
    [1, 'Ada', 'b', 'What is in bowl b?', 'flour\nsalt', 'yes', expect.any(Number)],
    [2, 'Wen', 'a', 'What is in bowl a?', 'salt', 'no', 0],
    [2, 'Wen', 'b', 'What is in bowl b?', '', 'no', 0],
  ]);
  expect((await get(`/v1/games/${made.id}/plays?after=99999`).expect(200)).body).toMatchObject({ plays: [] });
});
