/** Words looked up through the API. */
import type { Sense } from '@zakuska/core/lexicon';
import { startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';

let server: TestServer;
let world: World;
beforeAll(async () => {
  server = await startServer('zakuska_test_lexicon');
  world = await makeWorld(server, 'owner@x.example');
});
afterAll(() => server.stop());

const look = (words: unknown) => world.owner.post('/api/v1/lexicon').send({ words });

test('words give their meanings, unknown ones are absent', async () => {
  const { senses } = (await look(['yeast', 'zzxqj', 'yeast', 'constructor', '__proto__']).expect(200)).body as { senses: Record<string, Sense[]> };
  expect(Object.keys(senses).sort()).toEqual(['constructor', 'yeast']);
  expect(senses['yeast']?.[0]?.gloss).toContain('leavening');
  expect(senses['yeast']?.every((s) => s.siblings.length <= 20 && s.below.length <= 20)).toBe(true);
});

test('who is not signed in gets nothing; too many words, and what are none, are refused', async () => {
  await server
    .agent()
    .post('/api/v1/lexicon')
    .send({ words: ['yeast'] })
    .expect(401);
  await look(Array.from({ length: 3001 }, () => 'a')).expect(400);
  await look(['x'.repeat(101)]).expect(400);
  await look('yeast').expect(400);
  expect((await look([]).expect(200)).body).toEqual({ senses: {} });
});
