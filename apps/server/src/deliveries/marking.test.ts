/** What is decided once answers are in: everything is marked anew, for all who answered and whoever answers later, and can be taken back. */
import { type Decision, type Item, newId } from '@zakuska/core';
import { signIn, startServer, type TestServer } from '../testing/server.js';
import { handIn, makeWorld, type World } from '../testing/world.js';

const colour = { id: 'colour', kind: 'short-answer', stem: 'What fades?', points: 2, answers: [{ text: 'colour', credit: 1 }] };
const choice = {
  id: 'choice',
  kind: 'multiple-choice',
  stem: 'Which is a grain?',
  points: 1,
  options: [
    { id: 'a', content: 'rye', credit: 1 },
    { id: 'b', content: 'cod', credit: 0 },
  ],
};
const essay = { id: 'essay', kind: 'essay', stem: 'Why rest the dough?', points: 5 };
const COLOR: Decision = { type: 'answer', item: 'colour', text: 'color', credit: 1 };

let server: TestServer;
let world: World;
beforeAll(async () => {
  server = await startServer('zakuska_test_marking');
  world = await makeWorld(server, 'marking@saltmarsh.example');
});
afterAll(() => server.stop());

interface Results {
  attempts: { id: string; name: string; points: number; marks: Record<string, { points: number; state: string; comment?: string }> }[];
  decisions: { id: string; by: string; decision: Decision; takenBack?: { by: string } }[];
}
const results = async (delivery: string): Promise<Results> => (await world.owner.get(`/api/v1/deliveries/${delivery}/results`).expect(200)).body as Results;
const pointsOf = async (delivery: string): Promise<Record<string, number>> =>
  Object.fromEntries((await results(delivery)).attempts.map((a) => [a.name, a.points]));
const decide = async (delivery: string, decisions: unknown[], status = 200): Promise<{ id: string; detail?: string }[]> =>
  (await world.owner.post(`/api/v1/deliveries/${delivery}/decisions`).send({ decisions }).expect(status)).body as never;
const takeBack = (delivery: string, ids: string[]) => world.owner.post(`/api/v1/deliveries/${delivery}/decisions/back`).send({ ids }).expect(204);
/** Somebody hands in; gives what they see afterwards. */
async function answer(code: string, name: string, responses: object): Promise<() => Promise<{ outcome?: Record<string, unknown> }>> {
  const { id, token } = await handIn(server, code, name, responses);
  return async () => (await server.agent().get(`/api/v1/take/attempts/${id}`).set('x-attempt-token', token).expect(200)).body as never;
}
const given = (text: string) => ({ colour: { text }, choice: { options: ['~2'] }, essay: { text: 'It relaxes.' } });
const quiz = (): Promise<{ id: string; code: string; set: string }> => world.publish([colour, choice, essay] as unknown as Item[], 'answers');

test('an answer that is accepted counts for all who wrote it, for whoever hands in afterwards, and no more once it was taken back', async () => {
  const { id, code } = await quiz();
  const ada = await answer(code, 'Ada', given('Color'));
  await answer(code, 'Ben', given('colour'));
  expect(await pointsOf(id)).toEqual({ Ada: 0, Ben: 2 });
  const [made] = await decide(id, [COLOR]);
  expect(await pointsOf(id)).toEqual({ Ada: 2, Ben: 2 });
  await answer(code, 'Cy', given('COLOR'));
  expect(await pointsOf(id)).toEqual({ Ada: 2, Ben: 2, Cy: 2 });
  expect((await ada()).outcome).toMatchObject({ points: 2, maximum: 3, byHand: 5 });
  await takeBack(id, [made?.id ?? '']);
  await takeBack(id, [made?.id ?? '']);
  expect(await pointsOf(id)).toEqual({ Ada: 0, Ben: 2, Cy: 0 });
  const { decisions } = await results(id);
  expect(decisions).toMatchObject([{ by: 'marking@saltmarsh.example', decision: COLOR, takenBack: { by: 'marking@saltmarsh.example' } }]);
});

test('a mark by hand is one answer’s; its comment is told to its learner; the points that wait grow less', async () => {
  const { id, code } = await quiz();
  const ada = await answer(code, 'Ada', given('colour'));
  const ben = await answer(code, 'Ben', given('colour'));
  const attempt = (await results(id)).attempts.find((a) => a.name === 'Ada')?.id ?? '';
  await decide(id, [{ type: 'hand', item: 'essay', attempt, points: 3.5, comment: 'Say <b>why</b>.' }]);
  expect(await pointsOf(id)).toEqual({ Ada: 5.5, Ben: 2 });
  const seen = (await ada()).outcome as { points: number; maximum: number; byHand?: number; items: { id: string; feedback?: string[] }[] };
  expect(seen).toMatchObject({ points: 5.5, maximum: 8 });
  expect(seen.byHand).toBeUndefined();
  expect((await ben()).outcome).toMatchObject({ points: 2, maximum: 3, byHand: 5 });
  // a decision over all leaves it as it is, and another mark takes its place
  await decide(id, [{ type: 'full-points', item: 'choice' }]);
  expect(await pointsOf(id)).toEqual({ Ada: 6.5, Ben: 3 });
  await decide(id, [{ type: 'hand', item: 'essay', attempt, points: 5 }]);
  expect(await pointsOf(id)).toEqual({ Ada: 8, Ben: 3 });
});

test('a key that was wrong, and an item that nobody could answer: learners see what counts now', async () => {
  const { id, code, set } = await quiz();
  const ada = await answer(code, 'Ada', given('colour'));
  const flipped = choice.options.map((o) => ({ ...o, credit: 1 - o.credit }));
  await decide(id, [{ type: 'key', item: 'choice', set: { options: flipped }, said: 'B is the key' }]);
  expect(await pointsOf(id)).toEqual({ Ada: 3 });
  await decide(id, [{ type: 'leave-out', item: 'colour' }]);
  expect(await pointsOf(id)).toEqual({ Ada: 1 });
  const { outcome } = (await ada()) as { outcome: { maximum: number; items: { id: string; state?: string }[] } };
  expect(outcome).toMatchObject({ points: 1, maximum: 1 });
  expect(outcome.items.map((i) => [i.id, i.state])).toEqual([
    ['choice', 'right'],
    ['essay', 'by-hand'],
  ]);
  // the set itself stays as it is
  const { body } = await world.owner.get(`/api/v1/sets/${set}`).expect(200);
  expect((body as { document: { set: { items: unknown[] } } }).document.set.items).toHaveLength(3);
});

test('two who decide at once: both decisions are kept, and all answers are marked by both', async () => {
  const { id, code } = await quiz();
  for (let i = 0; i < 12; i++) await answer(code, `P${i}`, given(i % 2 ? 'color' : 'hue'));
  await Promise.all([
    decide(id, [COLOR]),
    decide(id, [{ type: 'answer', item: 'colour', text: 'hue', credit: 0.5 }]),
    decide(id, [{ type: 'full-points', item: 'choice' }]),
    answer(code, 'Late', given('color')),
  ]);
  const { attempts, decisions } = await results(id);
  expect(decisions).toHaveLength(3);
  expect(Object.fromEntries(attempts.map((a) => [a.name, a.points]))).toEqual({
    Late: 3,
    ...Object.fromEntries(Array.from({ length: 12 }, (_, i) => [`P${i}`, i % 2 ? 3 : 2])),
  });
});

test('what does not fit is refused, and nothing of it is kept; readers decide nothing', async () => {
  const { id, code } = await quiz();
  await answer(code, 'Ada', given('color'));
  const refused: [unknown, number, string][] = [
    [{ type: 'answer', item: 'choice', text: 'rye', credit: 1 }, 422, 'The item has no such option.'],
    [{ type: 'answer', item: 'essay', text: 'So.', credit: 1 }, 422, 'Answers to this item are not typed. Change its key.'],
    [{ type: 'hand', item: 'essay', attempt: newId(), points: 1 }, 422, 'One of these answers is not there any more. Reload the page.'],
    [{ type: 'hand', item: 'essay', attempt: newId(), points: 6 }, 422, 'The item has 5 points at most.'],
    [{ type: 'answer', item: 'colour', text: 'color', credit: 2 }, 400, 'A decision has a shape that is not known here. Reload the page.'],
    [{ type: 'wish', item: 'colour' }, 400, 'A decision has a shape that is not known here. Reload the page.'],
  ];
  for (const [wrong, status, said] of refused) expect(await decide(id, [COLOR, wrong], status)).toMatchObject({ detail: said });
  await decide(id, [], 400);
  expect((await results(id)).decisions).toEqual([]);
  expect(await pointsOf(id)).toEqual({ Ada: 0 });
  await world.join('reader@saltmarsh.example', 'reader');
  const reader = server.agent();
  await signIn(reader, 'reader@saltmarsh.example', 'pass word');
  await reader
    .post(`/api/v1/deliveries/${id}/decisions`)
    .send({ decisions: [COLOR] })
    .expect(403);
});
