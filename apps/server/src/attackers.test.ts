/** What somebody tries who wants keys, points or other people's accounts. */
import { type Item, type LearnerItem, newId, type Response } from '@zakuska/core';
import { undone } from '@zakuska/core/testing';
import { RateLimit } from './accounts/rateLimit.js';
import { Attempt } from './deliveries/entities.js';
import { startServer, type TestServer } from './testing/server.js';
import { makeWorld, type World } from './testing/world.js';

let server: TestServer;
let world: World;
beforeAll(async () => {
  server = await startServer('zakuska_test_attackers');
  world = await makeWorld(server, 'owner@x.example');
});
afterAll(() => server.stop());

const choice = (id: string): Item => ({
  id,
  kind: 'multiple-choice',
  stem: 'Q',
  points: 1,
  shuffle: true,
  options: ['a', 'b', 'c', 'd'].map((o, i) => ({ id: o, content: `option ${o}`, credit: i ? 0 : 1 })),
});
const ordering = (id: string): Item => ({ id, kind: 'ordering', stem: 'Q', points: 1, sequence: ['Mix', 'Rest', 'Fold', 'Shape', 'Proof', 'Bake'] });
const matching = (id: string): Item => ({
  id,
  kind: 'matching',
  stem: 'Q',
  points: 1,
  pairs: ['a', 'b', 'c', 'd', 'e'].map((x) => ({ left: `left ${x}`, right: `right ${x}` })),
  extraRights: ['right f'],
});

interface State {
  items: LearnerItem[];
  outcome?: { points: number; items?: { state: string }[] };
}
const begin = async (
  code: string,
  name: string,
  more: object = {},
): Promise<{ status: number; id: string; token: string; body: State & { code?: string } }> => {
  const id = newId();
  const token = newId() + newId();
  const r = await server
    .agent()
    .post(`/api/v1/take/${code}/attempts`)
    .send({ id, token, name, ...more });
  return { status: r.status, id, token, body: r.body as State };
};
const submit = (a: { id: string; token: string }, responses: Record<string, Response>): ReturnType<ReturnType<TestServer['agent']>['post']> =>
  server.agent().post(`/api/v1/take/attempts/${a.id}/submit`).set('x-attempt-token', a.token).send({ responses });

describe('keys', () => {
  test('undoing shuffles with everything the browser knows gives no more points than guessing', async () => {
    const items = [choice(newId()), ordering(newId()), matching(newId())];
    const { code } = await world.publish(items, 'score', { rules: { attempts: 0 } });
    let points = 0;
    for (let n = 0; n < 60; n++) {
      const a = await begin(code, `Cheat ${n}`);
      expect(JSON.stringify(a.body)).not.toMatch(/seed|credit|option a.{0,3}"id":"a"/);
      const responses: Record<string, Response> = {};
      for (const i of a.body.items) {
        // as orders were made before: a shuffle whose seed was the attempt's id
        const seed = `${a.id}/${i.id}`;
        if (i.options) responses[i.id] = { options: [undone(i.options, seed)[0]?.id ?? ''] };
        if (i.pieces) responses[i.id] = { order: undone(i.pieces, seed) };
        if (i.rights) responses[i.id] = { pairs: undone(i.rights, seed).slice(0, i.lefts?.length) };
      }
      points += ((await submit(a, responses).expect(200)).body as { points: number }).points;
    }
    // By chance: 1/4, 1/720 and 1/6 of a point, 25 in 60 attempts; the standard deviation is about 3.6. Full marks were 180.
    expect(points).toBeLessThan(45);
    expect(points).toBeGreaterThan(8);
  });
  test('a reload shows the same orders and what was answered, by the names of the page', async () => {
    const item = choice(newId());
    const { code, id: delivery } = await world.publish([item], 'answers');
    const a = await begin(code, 'Ada');
    const right = a.body.items[0]?.options?.find((o) => o.content === 'option a')?.id ?? '';
    await server
      .agent()
      .put(`/api/v1/take/attempts/${a.id}`)
      .set('x-attempt-token', a.token)
      .send({ responses: { [item.id]: { options: [right] } } })
      .expect(200);
    const again = (await server.agent().get(`/api/v1/take/attempts/${a.id}`).set('x-attempt-token', a.token).expect(200)).body as State & {
      responses: Record<string, Response>;
    };
    expect(again.items).toEqual(a.body.items);
    expect(again.responses).toEqual({ [item.id]: { options: [right] } });
    await submit(a, again.responses).expect(200);
    const results = (await world.owner.get(`/api/v1/deliveries/${delivery}/results`).expect(200)).body as { attempts: { responses: object; points: number }[] };
    expect(results.attempts).toMatchObject([{ points: 1, responses: { [item.id]: { options: ['a'] } } }]);
  });
});

describe('attempts', () => {
  test('who has seen the answers begins no second attempt; another person on the same device does, and the teacher sees it', async () => {
    const item = choice(newId());
    const { code, id } = await world.publish([item], 'answers');
    const device = 'the browser of room 12';
    const first = await begin(code, 'Ada Brandt', { device });
    await submit(first, {}).expect(200);
    const second = await begin(code, ' ada   BRANDT ', { device: 'another browser' });
    expect(second).toMatchObject({ status: 403, body: { code: 'attempts-used' } });
    const other = await begin(code, 'Mira Castel', { device });
    expect(other.status).toBe(201);
    await submit(other, {}).expect(200);
    const results = (await world.owner.get(`/api/v1/deliveries/${id}/results`).expect(200)).body as { attempts: { name: string; sameDeviceAs?: string }[] };
    expect(results.attempts.map((a) => [a.name, a.sameDeviceAs])).toEqual([
      ['Ada Brandt', undefined],
      ['Mira Castel', 'Ada Brandt'],
    ]);
  });
  test('attempts that were begun before the first was handed in are taken, and told as repeats', async () => {
    const { code, id } = await world.publish([choice(newId())], 'answers');
    const both = [await begin(code, 'Ada'), await begin(code, 'Ada')];
    for (const a of both) await submit(a, {}).expect(200);
    const results = (await world.owner.get(`/api/v1/deliveries/${id}/results`).expect(200)).body as { attempts: { attempt: number }[] };
    expect(results.attempts.map((a) => a.attempt).sort()).toEqual([1, 2]);
  });
  test('where only the score is shown, or the teacher says so, there are more', async () => {
    const score = await world.publish([choice(newId())], 'score');
    const two = await world.publish([choice(newId())], 'answers', { rules: { attempts: 2 } });
    for (const { code } of [score, two])
      for (let n = 0; n < 2; n++) {
        const a = await begin(code, 'Ada');
        expect(a.status).toBe(201);
        await submit(a, {}).expect(200);
      }
    expect((await begin(two.code, 'Ada')).status).toBe(403);
    expect((await begin(score.code, 'Ada')).status).toBe(201);
  });
  test('what is longer than an answer can be is refused with its question, and kept out', async () => {
    const item: Item = { id: newId(), kind: 'numeric', stem: 'N', points: 1, answers: [{ min: 1, max: 1, credit: 1 }], unit: 'kg' };
    const { code } = await world.publish([item], 'score');
    const a = await begin(code, 'Ada');
    const r = await submit(a, { [item.id]: { text: `${')'.repeat(49_990)} 1` } }).expect(400);
    expect(r.body).toMatchObject({ code: 'answer-too-long', item: item.id });
    expect((await server.orm.em.fork().findOneOrFail(Attempt, { id: a.id })).submittedAt).toBeNull();
    await submit(a, { [item.id]: { text: '1 kg' } }).expect(200, { points: 1, maximum: 1 });
  });
});

describe('guessing', () => {
  const signIn = (email: string, password: string, agent = server.agent()): Promise<{ status: number; body: object }> =>
    agent
      .post('/api/v1/session')
      .send({ email, password })
      .then((r) => ({ status: r.status, body: r.body as object }));

  test('of 60 guesses of a password at once no more than the free ones are looked at; the owner’s own browser is not locked out', async () => {
    await world.join('guessed@x.example');
    const mine = server.agent();
    expect((await signIn('guessed@x.example', 'pass word', mine)).status).toBe(201);
    const began = performance.now();
    const guesses = await Promise.all(Array.from({ length: 60 }, (_, n) => signIn('guessed@x.example', `guess ${n}`)));
    const looked = guesses.filter((g) => g.status === 401).length;
    // each wait that is over on a slow machine lets one more in, and makes the next twice as long
    expect(looked).toBeLessThanOrEqual(6 + Math.floor(Math.log2(1 + (performance.now() - began) / 1000)));
    expect(guesses.filter((g) => g.status === 429)).toHaveLength(60 - looked);
    // the wait has begun; here it is made longer than a slow machine takes to ask once more
    const made = await server.orm.em
      .getConnection()
      .execute<{ key: string }[]>(
        `update limit_count set until = now() + interval '1 minute' where key like '%guessed@x.example%' and until is not null returning key`,
      );
    expect(made.length).toBeGreaterThan(0);
    expect(await signIn('guessed@x.example', 'pass word')).toMatchObject({ status: 429, body: { retryAfter: expect.any(Number) } });
    expect((await signIn('guessed@x.example', 'pass word', mine)).status).toBe(201);
    // nor is anybody else behind the same address
    await world.join('neighbour@x.example');
    expect((await signIn('neighbour@x.example', 'pass word')).status).toBe(201);
  });
  test('waits grow, and end', async () => {
    const limit = server.app.get(RateLimit);
    const tries: number[] = [];
    for (let n = 0; n < 4; n++) await limit.take('a key', { free: 5, longest: 0.2 }).then(() => tries.push(n));
    expect(tries).toEqual([0, 1, 2, 3]);
    await limit.take('a key', { free: 5, longest: 0.2 });
    await expect(limit.take('a key', { free: 5, longest: 0.2 })).rejects.toMatchObject({ status: 429 });
    await new Promise((r) => setTimeout(r, 300));
    await limit.take('a key', { free: 5, longest: 0.2 });
  });
  test('of a thousand wrong codes at once few get through, and a right one among them is served', async () => {
    const limit = server.app.get(RateLimit);
    let looked = 0;
    const look = (right: boolean) => async (): Promise<string | null> => {
      looked++;
      await new Promise((r) => setTimeout(r, 1));
      return right ? 'a quiz' : null;
    };
    const rules = { free: 40, apart: 20, most: 50 };
    const guesses = await Promise.all(Array.from({ length: 1000 }, () => limit.guarded('codes', rules, look(false)).catch(() => 'refused')));
    expect(guesses.filter((x) => x === null)).toHaveLength(looked);
    // the free ones, those under way when the limit was reached, and those that may wait for their turn
    expect(looked).toBeLessThanOrEqual(40 + 8 + 50);
    expect(await limit.guarded('codes', rules, look(true))).toBe('a quiz');
    // a class whose codes are all right is not slowed by its number
    const right = await Promise.all(Array.from({ length: 500 }, () => limit.guarded('class', rules, look(true))));
    expect(right.every((x) => x === 'a quiz')).toBe(true);
  });
});
