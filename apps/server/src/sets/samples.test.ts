/** The sample sets: each reads without a doubt, has keys, outcomes, levels and difficulties throughout, and is taken as a set of one's own. */
import { findingsOf, type Item, keyProblem, readDraft } from '@zakuska/core';
import { startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';
import { samples } from './samples.js';

test.each(samples().map((s) => [s.view.id, s] as const))('%s', (_, { view, text, set }) => {
  expect(readDraft(text, { language: 'en' }).diagnostics).toEqual([]);
  expect(set.items.length).toBeGreaterThanOrEqual(8);
  for (const i of set.items) {
    expect([i.stem, keyProblem(i)]).toEqual([i.stem, null]);
    expect([i.stem, i.outcomes?.length, i.level?.bloom !== undefined, i.level?.difficulty !== undefined]).toEqual([i.stem, 1, true, true]);
  }
  expect(view.outcomes.length).toBeGreaterThanOrEqual(2);
  expect(view.levels.length).toBeGreaterThanOrEqual(2);
  expect(findingsOf(set).filter((f) => f.severity === 'error')).toEqual([]);
});
test('they are of different levels', () => {
  const all = samples().map((s) => s.view.difficulty);
  expect(Math.max(...all) - Math.min(...all)).toBeGreaterThan(0.2);
});

describe('taken', () => {
  let server: TestServer;
  let world: World;
  beforeAll(async () => {
    server = await startServer('zakuska_test_samples');
    world = await makeWorld(server, 'samples@x.test');
  });
  afterAll(() => server.stop());

  test('twice gives two sets with items of their own', async () => {
    const api = '/api/v1';
    const list = (await world.owner.get(`${api}/samples`).expect(200)).body as { id: string; items: number }[];
    expect(list.map((s) => s.id)).toEqual(samples().map((s) => s.view.id));
    const take = async (): Promise<Item[]> => {
      const { id } = (
        await world.owner
          .post(`${api}/workspaces/${world.workspace}/samples/${list[0]?.id ?? ''}`)
          .send({})
          .expect(201)
      ).body as { id: string };
      const view = (await world.owner.get(`${api}/sets/${id}`).expect(200)).body as {
        role: string;
        draft: { text: string };
        document: { set: { items: Item[] } };
      };
      expect([view.role, view.draft.text.startsWith('#')]).toEqual(['owner', true]);
      return view.document.set.items;
    };
    const [a, b] = [await take(), await take()];
    expect(a.map((i) => i.stem)).toEqual(b.map((i) => i.stem));
    expect(new Set([...a, ...b].map((i) => i.id)).size).toBe(a.length + b.length);
    await world.owner.post(`${api}/workspaces/${world.workspace}/samples/none`).send({}).expect(404);
  });
});
