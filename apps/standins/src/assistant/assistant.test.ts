/** The simulated assistant: what it answers, its habits, and what goes wrong on demand. */
import request from 'supertest';
import { assistantApp, SECRET } from './app.js';
import { inSpanish } from './knowledge.js';
import { replyTo } from './talk.js';

const DRAFT = `Write items for a quiz on: Salt in bread

What to write:
- 2 multiple choice items with 4 options each, exactly one of them right
- 2 true or false items, about as many true as false
- 1 gaps item

- A line "Feedback:" under each item says in one sentence why the key is right.`;
const plain = { plain: true, wrongKeys: 0, oneSided: false, duplicate: false, lostNumber: false };

test('it drafts what was asked for; the same seed gives the same, another one other habits', () => {
  const reply = replyTo(DRAFT, '1', plain);
  expect(reply.match(/^\d\. /gm)).toHaveLength(5);
  expect(reply.match(/ \*$/gm)).toHaveLength(2);
  expect(reply).toMatch(/Answer: true[^]*Answer: false/);
  expect(reply).toMatch(/\{\w+\}/);
  expect(reply.match(/^Feedback: /gm)).toHaveLength(5);
  expect(replyTo(DRAFT, '1')).toBe(replyTo(DRAFT, '1'));
  expect(new Set(['1', '2', '3', '4', '5', '6'].map((s) => replyTo(DRAFT, s))).size).toBeGreaterThan(2);
});

test('mistakes on order', () => {
  const right = replyTo(DRAFT, '1', plain);
  const wrong = replyTo(DRAFT, '1', { ...plain, wrongKeys: 1 });
  expect(wrong.replace(/ \*$/gm, '')).toBe(right.replace(/ \*$/gm, ''));
  expect(wrong).not.toBe(right);
  expect(replyTo(DRAFT, '1', { ...plain, oneSided: true })).not.toContain('Answer: false');
  expect(replyTo(DRAFT, '1', { ...plain, duplicate: true }).match(/^\d\. /gm)).toHaveLength(6);
  expect(replyTo(DRAFT, '1', { ...plain, lostNumber: true }).match(/^\d\. /gm)).toHaveLength(4);
});

test('from a text it asks for words of that text', () => {
  const reply = replyTo(
    `${DRAFT}\n\nThe text (Notes):\n"""\nA poolish is mixed with equal weights of flour and water. It ferments overnight in a cool room.\n"""\n`,
    '1',
    plain,
  );
  expect(reply).toContain('____');
  expect(reply).toMatch(/poolish|overnight|ferments/);
});

const ITEMS = `Below are 2 items of a quiz. Put the items into Spanish, as a teacher of the subject would write them.

The items:

1. (ab12cd) What feeds the yeast in a starter?
A) salt
B) sugars from the flour *

2. (ef34ab) Salt speeds up fermentation.
Answer: false
`;
test('it gives items back with their signs, put into Spanish as far as it knows the words', () => {
  expect(replyTo(ITEMS, '1', plain)).toBe(
    '1. (ab12cd) ¿Qué alimenta la levadura de una masa madre?\nA) sal\nB) los azúcares de la harina *\n\n2. (ef34ab) Sal acelera la fermentación.\nAnswer: false',
  );
  expect(replyTo(ITEMS, '1', { ...plain, dropped: true })).not.toContain('ef34ab');
  expect(inSpanish('Saltmarsh')).toBe('Saltmarsh');
});
test.each([
  ['Add a line "Feedback:" to each item', /B\) sugars from the flour \*\nFeedback: /],
  ['Add two lines "Hint:" to each item', /Hint: .+\nHint: /],
  ['Add 2 further wrong options; Write 2', /C\) .+\nD\) /],
  ['Write 2 further items like these', /^1\. .+\nA\) /],
  ['Write 2 open questions', /Model answer: /],
  ['Write one text of about 150 words', /Kind: information$/],
])('reworks: %s', (wish, expected) => expect(replyTo(ITEMS.replace('Put the items into Spanish', wish), '1', plain)).toMatch(expected));

test('it answers questions without keys by what it knows', () => {
  const reply = replyTo(
    'Answer these 2 questions as well as you can.\n- "3. true | because …"\n\n1. What feeds the yeast in a starter?\nA) salt\nB) sugars from the flour\nC) butter\n\n2. Salt speeds up fermentation of the yeast in a dough.\nKind: true-false\n',
    '1',
  );
  expect(reply).toMatch(/^1\. B \| .+\n2\. false \| /);
});

test('it writes a draft in the form that was asked for, word for word', () => {
  const draft = 'Q1) Which flour?\n (a) rye\n (b) oat ✓\n\nQ2) Why?';
  expect(replyTo(`Below is a draft of quiz items in a form of its own.\n\nThe draft:\n"""\n${draft}\n"""\n`, '1')).toBe(
    '1. Which flour?\na) rye\nb) oat *\n\n2. Why?',
  );
});

const ask = (app: ReturnType<typeof assistantApp>, body: object = {}, secret = SECRET) =>
  request(app)
    .post('/v1/chat')
    .set('authorization', `Bearer ${secret}`)
    .send({ model: 'galley-small', messages: [{ role: 'user', content: DRAFT }], stream: true, ...body });
const app = assistantApp();
beforeEach(() => request(app).put('/control').send({ speed: 0, mistakes: plain }).expect(200));

test('a stream of pieces, the count of tokens at its end; what it heard stands on its page', async () => {
  const r = await ask(app).expect(200);
  const pieces = r.text
    .split('\n\n')
    .filter(Boolean)
    .map((p) => JSON.parse(p.replace(/^data: /, '')) as { text?: string; end?: string; tokens?: object });
  expect(pieces.map((p) => p.text ?? '').join('')).toBe(replyTo(DRAFT, '1', plain));
  expect(pieces.at(-1)).toMatchObject({ end: 'whole', tokens: { in: expect.any(Number), out: expect.any(Number) } });
  expect((await request(app).get('/')).text).toContain('Salt in bread');
  expect((await ask(app, { max_tokens: 20 })).text).toContain('"end":"cut"');
});
test.each([
  ['a wrong secret', () => ask(app, {}, 'x'), 401],
  ['an unknown model', () => ask(app, { model: 'x' }), 404],
  ['no message', () => ask(app, { messages: [] }), 400],
])('%s is refused', async (_, sent, status) => void (await sent().expect(status)));
test('trouble on demand, so often as it was ordered', async () => {
  await request(app)
    .put('/control')
    .send({ speed: 0, trouble: [{ kind: 'error' }, { kind: 'limit', times: 2 }, { kind: 'empty' }, { kind: 'page' }] });
  const seen = [];
  for (let i = 0; i < 6; i++) seen.push((await ask(app)).status);
  expect(seen).toEqual([500, 429, 429, 200, 200, 200]);
  await request(app)
    .put('/control')
    .send({ trouble: [{ kind: 'nonsense' }] })
    .expect(400);
  await request(app)
    .put('/control')
    .send({ speed: 0, trouble: [{ kind: 'half' }] });
  await expect(ask(app).then((r) => r.text)).rejects.toThrow();
});
