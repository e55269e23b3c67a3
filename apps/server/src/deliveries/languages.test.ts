/** A quiz in two languages: learners choose, change over in the middle, and are marked alike; it also goes out in one, or in both. */
import { type Item, newId, type Response, sideBySide, typedTranslation, type QuizSet } from '@zakuska/core';
import { startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';

const ITEMS: Item[] = [
  {
    id: 'choice',
    kind: 'multiple-choice',
    stem: 'What feeds a starter?',
    points: 1,
    options: [
      { id: 'a', content: 'salt', credit: 0 },
      { id: 'b', content: 'flour', credit: 1 },
    ],
  },
  {
    id: 'pairs',
    kind: 'matching',
    stem: 'Match.',
    points: 2,
    pairs: [
      { left: 'poolish', right: 'wet' },
      { left: 'biga', right: 'stiff' },
    ],
    extraRights: ['dry'],
  },
  { id: 'steps', kind: 'ordering', stem: 'Put in order.', points: 1, sequence: ['mix', 'rest', 'bake'] },
  {
    id: 'typed',
    kind: 'short-answer',
    stem: 'What leavens bread?',
    points: 1,
    answers: [{ text: 'yeast', credit: 1 }],
    match: { case: 'ignore', accents: 'ignore', punctuation: 'ignore', spaces: 'collapse', spelling: 0 },
  } as unknown as Item,
];
const WORDS: Record<string, string> = {
  salt: 'sal',
  flour: 'harina',
  wet: 'húmeda',
  stiff: 'firme',
  dry: 'seca',
  poolish: 'poolish',
  biga: 'biga',
  mix: 'mezclar',
  rest: 'reposar',
  bake: 'hornear',
  yeast: 'levadura',
  'Match.': 'Une.',
  'Put in order.': 'Ordena.',
  'What feeds a starter?': '¿Qué alimenta la masa madre?',
  'What leavens bread?': '¿Qué leuda el pan?',
  T: 'Masa',
};
interface State {
  title: string;
  language?: string;
  languages?: string[];
  items: { id: string; stem: string; options?: { id: string; content: string }[]; rights?: string[]; pieces?: string[] }[];
  responses: Record<string, Response>;
}

let server: TestServer;
let world: World;
let set: string;
beforeAll(async () => {
  server = await startServer('zakuska_test_languages');
  world = await makeWorld(server, 'languages@x.test');
  set = await world.makeSet(ITEMS);
  const { body } = await world.owner.get(`/api/v1/sets/${set}`).expect(200);
  const document = (body as { document: { set: QuizSet } }).document;
  const rows = sideBySide(document.set, 'es');
  const made = Object.fromEntries(rows.map((r) => [r.unit.id, typedTranslation(r, WORDS[r.original] ?? '?', 'Ada')]));
  const send = (operation: object) => world.owner.post(`/api/v1/sets/${set}/operations`).send({ base: 1, operations: [{ id: newId(), operation }] });
  await send({ type: 'translate', language: 'es', set: { x: { text: 1 } } }).expect(400);
  await send({ type: 'translate', language: 'es', set: made }).expect(200);
});
afterAll(() => server.stop());

const publish = async (more: object, status = 201): Promise<{ id: string; code: string; language: string; choice: string[] }> =>
  (
    await world.owner
      .post(`/api/v1/sets/${set}/deliveries`)
      .send({ shows: 'answers', ...more })
      .expect(status)
  ).body as never;
const begin = async (code: string, language?: string) => {
  const a = { id: newId(), token: 'a token that only I know', name: `Ada ${newId()}` };
  const r = await server
    .agent()
    .post(`/api/v1/take/${code}/attempts`)
    .send({ ...a, ...(language && { language }) })
    .expect(201);
  return { ...a, state: r.body as State };
};
/** Right answers as somebody gives them who reads the page. */
const answers = ({ items }: State, words: (en: string) => string): Record<string, Response> => {
  const flour = items[0]?.options?.find((o) => o.content === words('flour'));
  return {
    choice: { options: [flour?.id ?? ''] },
    pairs: { pairs: [words('wet'), words('stiff')] },
    steps: { order: ['mix', 'rest', 'bake'].map(words) },
    typed: { text: words('yeast') },
  };
};
const es = (en: string): string => WORDS[en] ?? en;

test('translations are kept with the set, and come back with it', async () => {
  const { body } = await world.owner.get(`/api/v1/sets/${set}`).expect(200);
  expect(Object.keys((body as { document: { set: QuizSet } }).document.set.translations?.['es'] ?? {}).length).toBe(16);
});

test('learners choose, change over in the middle, and are marked alike', async () => {
  const { id, code, choice } = await publish({ choice: ['es'] });
  expect(choice).toEqual(['es']);
  expect((await server.agent().get(`/api/v1/take/${code}`).expect(200)).body).toMatchObject({ languages: ['en', 'es'] });
  const a = await begin(code, 'es');
  expect(a.state).toMatchObject({ title: 'Masa', language: 'es', languages: ['en', 'es'] });
  expect(a.state.items.map((i) => i.stem)).toEqual(['¿Qué alimenta la masa madre?', 'Une.', 'Ordena.', '¿Qué leuda el pan?']);
  expect(new Set(a.state.items[1]?.rights)).toEqual(new Set(['húmeda', 'firme', 'seca']));
  const given = answers(a.state, es);
  const at = `/api/v1/take/attempts/${a.id}`;
  await server.agent().put(at).set('x-attempt-token', a.token).send({ responses: given, language: 'es' }).expect(200);
  // the same attempt in the other language says the same in its words
  const english = (await server.agent().get(at).set('x-attempt-token', a.token).expect(200)).body as State;
  expect(english.responses['pairs']).toEqual({ pairs: ['wet', 'stiff'] });
  expect(english.responses['steps']).toEqual({ order: ['mix', 'rest', 'bake'] });
  const spanish = (await server.agent().get(`${at}?language=es`).set('x-attempt-token', a.token).expect(200)).body as State;
  expect(spanish.responses).toEqual(given);
  // what is typed stays as it was typed, and is right in both
  const done = await server.agent().post(`${at}/submit`).set('x-attempt-token', a.token).send({ responses: given, language: 'es' }).expect(200);
  expect(done.body).toMatchObject({ points: 5, maximum: 5 });
  const c = await begin(code, 'es');
  const empty = await server.agent().post(`/api/v1/take/attempts/${c.id}/submit`).set('x-attempt-token', c.token).send({ responses: {}, language: 'es' });
  expect((empty.body as { items: { answer: string }[] }).items.map((i) => i.answer)).toEqual([
    'harina',
    expect.stringContaining('húmeda'),
    expect.stringContaining('reposar'),
    expect.stringContaining('levadura'),
  ]);
  const b = await begin(code);
  const plain = await server
    .agent()
    .post(`/api/v1/take/attempts/${b.id}/submit`)
    .set('x-attempt-token', b.token)
    .send({ responses: answers(b.state, (w) => w) })
    .expect(200);
  expect(plain.body).toMatchObject({ points: 5 });
  // teachers see the answers of both in the language of the set
  const results = (await world.owner.get(`/api/v1/deliveries/${id}/results`).expect(200)).body as { attempts: { responses: Record<string, Response> }[] };
  for (const r of results.attempts.filter((x) => x.responses['pairs'])) expect(r.responses['pairs']).toEqual({ pairs: ['wet', 'stiff'] });
});

test('a language that the quiz does not have is its own; one that the set does not have is refused', async () => {
  const { code } = await publish({ choice: ['es'] });
  expect((await begin(code, 'de')).state.items[0]?.stem).toBe('What feeds a starter?');
  await publish({ choice: ['es', 'de'] }, 404);
  await publish({ language: 'de' }, 404);
});

test('in one language, or in both beside one another', async () => {
  const one = await publish({ language: 'es' });
  expect(one).toMatchObject({ language: 'es', choice: [] });
  const a = await begin(one.code);
  expect(a.state).toMatchObject({ language: 'es' });
  expect(a.state.languages).toBeUndefined();
  const both = await publish({ language: '+es' });
  const b = await begin(both.code);
  expect(b.state.items[0]?.options?.map((o) => o.content)).toEqual(expect.arrayContaining(['flour / harina', 'salt / sal']));
  const typed = await server
    .agent()
    .post(`/api/v1/take/attempts/${b.id}/submit`)
    .set('x-attempt-token', b.token)
    .send({ responses: { typed: { text: 'levadura' } } })
    .expect(200);
  expect(typed.body).toMatchObject({ points: 1 });
});
