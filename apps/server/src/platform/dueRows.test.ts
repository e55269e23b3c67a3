/** Rows that are sent: once each, again after a failure, and again when they became due once more while they were on their way. */
import { MikroORM } from '@mikro-orm/postgresql';
import { entities } from '../app.js';
import { freshDatabase } from '../testing/server.js';
import { DueRows } from './dueRows.js';
import { sql } from './sql.js';

process.env['ZAKUSKA_SECRET'] ??= 'a secret of the tests, long enough';
let orm: MikroORM;
let due: DueRows<{ id: number }>;
const rows = (): Promise<{ id: number; sent: boolean; tries: number; problem: string | null }[]> =>
  sql(orm.em.fork(), 'select id, sent_at is not null as sent, tries, problem from parcel order by id');
const make = (id: number): Promise<unknown> => sql(orm.em.fork(), 'insert into parcel (id) values (?)', [id]);
const again = (id: number): Promise<unknown> => sql(orm.em.fork(), 'update parcel set tries = 0, next_at = now(), sent_at = null where id = ?', [id]);
const failed = (e: unknown): { final: boolean; said: string } => ({ final: (e as Error).message === 'refused', said: (e as Error).message });

beforeAll(async () => {
  orm = await MikroORM.init({ clientUrl: freshDatabase('zakuska_test_due'), entities, connect: false });
  await sql(
    orm.em.fork(),
    'create table parcel (id int primary key, tries int not null default 0, next_at timestamptz not null default now(), sent_at timestamptz, problem text)',
  );
  due = new DueRows(orm.em, { table: 'parcel', key: 'id', columns: 'id', lease: 60, atOnce: 2 });
});
afterAll(() => orm.close());
beforeEach(() => sql(orm.em.fork(), 'delete from parcel'));

test('two workers share what is due: each row is sent once', async () => {
  for (const id of [1, 2, 3, 4, 5]) await make(id);
  const sent: number[] = [];
  const work = (): Promise<void> => due.workOff(({ id }) => Promise.resolve(void sent.push(id)), failed);
  await Promise.all([work(), work()]);
  expect(sent.sort()).toEqual([1, 2, 3, 4, 5]);
  expect((await rows()).every((r) => r.sent && r.tries === 1)).toBe(true);
});

test('a failure is tried again later, one that is final is told', async () => {
  await make(1);
  await make(2);
  await due.workOff(({ id }) => Promise.reject(new Error(id === 1 ? 'away' : 'refused')), failed);
  expect(await rows()).toEqual([
    { id: 1, sent: false, tries: 1, problem: null },
    { id: 2, sent: false, tries: 1, problem: 'refused' },
  ]);
  const sent: number[] = [];
  await due.workOff(({ id }) => Promise.resolve(void sent.push(id)), failed);
  expect(sent).toEqual([]);
});

test.each(['sent', 'away', 'refused'])('a row that becomes due again while it is on its way is sent again (the first time: %s)', async (how) => {
  await make(1);
  let times = 0;
  await due.workOff(async ({ id }) => {
    if (times++) return;
    await again(id);
    if (how !== 'sent') throw new Error(how);
  }, failed);
  expect(times).toBe(2);
  expect(await rows()).toEqual([{ id: 1, sent: true, tries: 1, problem: null }]);
});
