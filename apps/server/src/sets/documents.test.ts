/** Sets as rows: what was written comes back, whatever was done to a set, and older databases come along. */
import { Migrator } from '@mikro-orm/migrations';
import { MikroORM } from '@mikro-orm/postgresql';
import { apply, emptyDocument, type Item, newId, type Operation, OperationError, type SetDocument } from '@zakuska/core';
import { anyItem } from '@zakuska/core/testing';
import fc from 'fast-check';
import { entities } from '../app.js';
import { migrationsList } from '../migrations/index.js';
import { migrate } from '../platform/migrate.js';
import { sql } from '../platform/sql.js';
import { freshDatabase } from '../testing/server.js';
import { Documents, summaryOf } from './documents.js';

let orm: MikroORM;
let workspace: string;
beforeAll(async () => {
  orm = await MikroORM.init({
    clientUrl: freshDatabase('zakuska_test_documents'),
    entities,
    extensions: [Migrator],
    migrations: { migrationsList, snapshot: false, silent: true },
    connect: false,
  });
});
afterAll(() => orm.close());

const plain = <T>(v: T): T => JSON.parse(JSON.stringify(v)) as T;

test('a set from before items were rows comes along with its order, its reviews and the numbers that lists tell', async () => {
  await orm.migrator.up({ to: 'Migration20261128' });
  const em = orm.em.fork();
  workspace = newId();
  await sql(em, "insert into workspace (id, name) values (?, 'W')", [workspace]);
  const item = (id: string): Item => ({ id, kind: 'true-false', stem: `S ${id}`, points: 2, answer: id === 'b' ? null : true }) as Item;
  const old = {
    set: { title: 'Old', language: 'en', items: ['c', 'a', 'b'].map(item) },
    reviews: { a: { state: 'checked', by: 'M', at: '2026-11-01T00:00:00Z' }, c: { state: 'left-out' } },
    dismissed: { x: 'no' },
    aim: { year: 8 },
  } as SetDocument;
  const id = newId();
  await sql(em, "insert into quiz_set (id, workspace_id, title, document, draft) values (?, ?, 'Old', ?::jsonb, ?::jsonb)", [
    id,
    workspace,
    JSON.stringify(old),
    JSON.stringify({ text: 'twelve signs', overrides: [] }),
  ]);
  await sql(
    em,
    `insert into quiz_set (id, workspace_id, title, document, draft) values (?, ?, 'Empty', '{"set":{"title":"Empty","items":[]},"reviews":{}}', '{"text":""}')`,
    [newId(), workspace],
  );
  expect(await migrate(orm)).toBeGreaterThan(0);
  expect((await new Documents().read(em, id)).document).toEqual(old);
  expect(summaryOf(old)).toEqual({ items: 3, checked: 1, leftOut: 1, withoutKey: 1, points: 4 });
  const [row] = await sql<{ draft_length: number; summary: unknown }>(em, 'select draft_length, summary from quiz_set where id = ?', [id]);
  expect(row).toEqual({ draft_length: 12, summary: null });
});

test('after any run of operations the rows say what the operations made, and so does what is kept in memory', async () => {
  const review = fc.constantFrom(null, { state: 'left-out' as const }, { state: 'checked' as const, by: 'M', at: '2026-11-01T00:00:00Z' });
  /** Made when the set is known: places are shares of its length. */
  const step = fc.record({
    what: fc.constantFrom('insert', 'remove', 'move', 'change', 'replace', 'review', 'describe', 'dismiss', 'all'),
    at: fc.double({ min: 0, max: 0.999, noNaN: true }),
    to: fc.nat(9),
    item: anyItem,
    review,
  });
  type Step = typeof step extends fc.Arbitrary<infer T> ? T : never;
  const operationOf = (d: SetDocument, s: Step): Operation => {
    const there = d.set.items[Math.floor(s.at * d.set.items.length)];
    const item = { ...s.item, id: newId() };
    if (!there || s.what === 'insert') return { type: 'insert', at: s.to, items: [item], ...(s.review && { reviews: { [item.id]: s.review } }) };
    switch (s.what) {
      case 'remove':
        return { type: 'remove', ids: [there.id] };
      case 'move':
        return { type: 'move', id: there.id, to: s.to };
      case 'change':
        return { type: 'change', id: there.id, set: { stem: s.item.stem, points: 3 }, unset: ['title'] };
      case 'replace':
        return { type: 'replace', item: { ...s.item, id: there.id } };
      case 'review':
        return { type: 'review', id: there.id, review: s.review };
      case 'dismiss':
        return { type: 'dismiss', finding: `f ${there.id}`, reason: 'no' };
      case 'describe':
        return { type: 'describe', set: { title: `T ${s.to}`, description: s.item.stem.slice(0, 50) } };
      default:
        return {
          type: 'all',
          operations: [
            { type: 'move', id: there.id, to: 0 },
            { type: 'insert', at: 1, items: [item] },
            { type: 'review', id: item.id, review: s.review },
          ],
        };
    }
  };
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 12 }), async (steps) => {
      const documents = new Documents();
      const em = orm.em.fork();
      const id = await documents.create(em, { workspace, document: emptyDocument('T') });
      let document = emptyDocument('T');
      let version = 0;
      for (const s of steps) {
        const operation = plain(operationOf(document, s));
        await em.transactional(async (inside) => {
          const before = await documents.lock(inside, id);
          try {
            document = apply(before.document, operation).document;
          } catch (e) {
            if (e instanceof OperationError) return;
            throw e;
          }
          await documents.write(inside, id, before.document, { version: ++version, document });
        });
        documents.keep(id, { version, document });
      }
      const [row] = await sql<{ summary: object; title: string }>(em, 'select summary, title from quiz_set where id = ?', [id]);
      expect(row).toEqual({ summary: summaryOf(document), title: document.set.title });
      expect(await documents.read(em, id)).toEqual({ version, document });
      expect(await new Documents().read(em, id)).toEqual(plain({ version, document }));
    }),
    { numRuns: 60 },
  );
});

test('an edit of one item writes one row', async () => {
  const documents = new Documents();
  const em = orm.em.fork();
  const items = Array.from({ length: 50 }, (_, n): Item => ({ id: `i${n}`, kind: 'true-false', stem: `S ${n}`, points: 1, answer: true }) as Item);
  const document: SetDocument = { set: { title: 'T', items }, reviews: {} };
  const id = await documents.create(em, { workspace, document });
  const at = async (): Promise<Map<string, string>> =>
    new Map((await sql<{ id: string; x: string }>(em, 'select id, xmin::text as x from set_item where set_id = ?', [id])).map((r) => [r.id, r.x]));
  const before = await at();
  const after = apply(document, { type: 'change', id: 'i7', set: { points: 4 } }).document;
  await em.transactional((inside) => documents.write(inside, id, document, { version: 1, document: after }));
  const now = await at();
  expect([...now].filter(([item, x]) => before.get(item) !== x).map(([item]) => item)).toEqual(['i7']);
});
