import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import request from 'supertest';
import { authorize, CALLBACK, freshDatabase, tokensFor, VERIFIER } from '../testing.js';
import { lmsApp } from './app.js';
import { exportPackage, PackageError, readPackage, responsesOf, score } from './qti.js';
import { Store } from './store.js';

let store: Store;
let app: Awaited<ReturnType<typeof lmsApp>>;

beforeAll(async () => {
  store = new Store(freshDatabase('zakuska_test_lms'));
  await store.open();
  app = await lmsApp(store, 'http://lms.test');
});
afterAll(() => store.close());

// An item as the QTI 2.1 Implementation Guide shows a single choice, in our own words.
const ITEM = (
  id: string,
  processing = '<responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/match_correct"/>',
): string => `<?xml version="1.0"?>
<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="${id}" title="Item ${id}" adaptive="false" timeDependent="false">
<responseDeclaration identifier="RESPONSE" cardinality="single" baseType="identifier"><correctResponse><value>B</value></correctResponse></responseDeclaration>
<outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float"><defaultValue><value>0</value></defaultValue></outcomeDeclaration>
<itemBody><choiceInteraction responseIdentifier="RESPONSE" shuffle="false" maxChoices="1"><prompt>Which?</prompt><simpleChoice identifier="A">one</simpleChoice><simpleChoice identifier="B">two &lt;b&gt;</simpleChoice></choiceInteraction></itemBody>
${processing}</assessmentItem>`;
const MANIFEST = (hrefs: string[]): string =>
  `<manifest xmlns="http://www.imsglobal.org/xsd/imscp_v1p1" identifier="m"><resources>${hrefs.map((h) => `<resource identifier="${h}" type="imsqti_item_xmlv2p1" href="${h}"/>`).join('')}</resources></manifest>`;
// at a fixed time: the same files are the same bytes, whenever they are packed
const pack = (files: Record<string, string>): Buffer =>
  Buffer.from(zipSync(Object.fromEntries(Object.entries(files).map(([k, v]) => [k, strToU8(v)])), { mtime: new Date(2026, 0, 1) }));

describe('packages', () => {
  test('items are read in the manifest’s order and marked from the file alone', () => {
    const quiz = readPackage(pack({ 'imsmanifest.xml': MANIFEST(['b.xml', 'a.xml']), 'a.xml': ITEM('a'), 'b.xml': ITEM('b') }));
    expect(quiz.items.map((i) => i.identifier)).toEqual(['b', 'a']);
    const [item] = quiz.items;
    if (!item) throw new Error('no item');
    const of = (answer: string): number => score(item, responsesOf(item, 'q', { qRESPONSE: answer })).score;
    expect([of('B'), of('A'), of('')]).toEqual([1, 0, 0]);
  });
  test('a test’s weights multiply, and what is exported is what is kept', () => {
    const refs =
      '<assessmentItemRef identifier="a" href="a.xml"><weight identifier="W" value="3"/></assessmentItemRef><assessmentItemRef identifier="b" href="b.xml"/>';
    const test_ = `<assessmentTest identifier="t" title="Weighted"><testPart identifier="p"><assessmentSection identifier="s" title="">${refs}</assessmentSection></testPart></assessmentTest>`;
    const manifest = MANIFEST(['a.xml', 'b.xml']).replace('</resources>', '<resource identifier="t" type="imsqti_test_xmlv2p1" href="t.xml"/></resources>');
    const quiz = readPackage(pack({ 'imsmanifest.xml': manifest, 't.xml': test_, 'a.xml': ITEM('a'), 'b.xml': ITEM('b') }));
    const marked = quiz.items.map((i) => score(i, responsesOf(i, 'q', { qRESPONSE: 'B' })));
    expect(marked.map((m) => [m.score, m.maximum])).toEqual([
      [3, 3],
      [1, 1],
    ]);
    const files = unzipSync(exportPackage(quiz));
    expect(Object.keys(files).sort()).toEqual(['item-0001.xml', 'item-0002.xml', 'test.xml']);
    expect(strFromU8(files['test.xml'] as Uint8Array)).toContain('title="Weighted"');
    expect(strFromU8(files['item-0001.xml'] as Uint8Array)).toBe(ITEM('a'));
  });
  test('one bad item is refused with its reason, the others arrive', () => {
    const quiz = readPackage(
      pack({ 'imsmanifest.xml': MANIFEST(['a.xml', 'broken.xml', 'gone.xml']), 'a.xml': ITEM('a'), 'broken.xml': '<assessmentItem><itemBody>' }),
    );
    expect(quiz.items).toHaveLength(1);
    expect(quiz.refused.map((r) => r.title)).toEqual(['broken.xml', 'gone.xml']);
  });
  test.each([
    ['no zip', Buffer.from('hello'), 'no zip file'],
    ['no manifest', pack({ 'a.xml': ITEM('a') }), 'imsmanifest.xml is missing'],
    ['no items', pack({ 'imsmanifest.xml': MANIFEST([]) }), 'no QTI 2.1 item'],
    ['an entity bomb', pack({ 'imsmanifest.xml': `<!DOCTYPE x [<!ENTITY a "aaaa">]>${MANIFEST(['a.xml'])}` }), 'document types are not accepted'],
  ])('%s is refused', (_, bytes, words) => {
    expect(() => readPackage(bytes)).toThrow(PackageError);
    expect(() => readPackage(bytes)).toThrow(words);
  });
  test('a rule that it does not know is an error and no silent score', () => {
    const quiz = readPackage(
      pack({ 'imsmanifest.xml': MANIFEST(['a.xml']), 'a.xml': ITEM('a', '<responseProcessing><lookupOutcomeValue identifier="SCORE"/></responseProcessing>') }),
    );
    expect(() => score(quiz.items[0] as never, { RESPONSE: ['B'] })).toThrow('lookupOutcomeValue');
  });
});

describe('OAuth 2.0', () => {
  const code = async (): Promise<string> => {
    const r = await request(app)
      .post('/authorize')
      .type('form')
      .send({ ...authorize, user: 'm.okafor', password: 'harbour', decision: 'allow' })
      .expect(303);
    const to = new URL(r.headers['location'] ?? '');
    expect(to.searchParams.get('state')).toBe('S');
    return to.searchParams.get('code') ?? '';
  };
  const exchange = (body: object): request.Test =>
    request(app)
      .post('/token')
      .type('form')
      .send({ grant_type: 'authorization_code', redirect_uri: CALLBACK, code_verifier: VERIFIER, client_id: 'zakuska', ...body });
  const token = (): ReturnType<typeof tokensFor> => tokensFor(app, 'm.okafor', 'harbour');

  test('a code works once, with the verifier of its challenge only (RFC 7636)', async () => {
    const c = await code();
    await exchange({ code: c, code_verifier: 'another one' }).expect(400, { error: 'invalid_grant' });
    await exchange({ code: c }).expect(400, { error: 'invalid_grant' }); // the failed try used it up
    expect((await token()).access_token).toBeTruthy();
  });
  test('foreign clients, redirect addresses, plain challenges and wrong passwords get no code', async () => {
    await request(app)
      .get('/authorize')
      .query({ ...authorize, client_id: 'x' })
      .expect(400);
    await request(app)
      .get('/authorize')
      .query({ ...authorize, redirect_uri: 'https://evil.example/api/v1/connections/callback' })
      .expect(400);
    await request(app)
      .get('/authorize')
      .query({ ...authorize, code_challenge_method: 'plain' })
      .expect(400);
    await request(app)
      .post('/authorize')
      .type('form')
      .send({ ...authorize, user: 'm.okafor', password: 'x', decision: 'allow' })
      .expect(401);
    await request(app)
      .post('/authorize')
      .type('form')
      .send({ ...authorize, user: 'constructor', password: '', decision: 'allow' })
      .expect(401);
    const denied = await request(app)
      .post('/authorize')
      .type('form')
      .send({ ...authorize, decision: 'deny' })
      .expect(303);
    expect(denied.headers['location']).toContain('error=access_denied');
  });
  test('a refresh token gives new tokens; nothing works without one', async () => {
    const t = await token();
    const again = await request(app).post('/token').type('form').send({ grant_type: 'refresh_token', refresh_token: t.refresh_token }).expect(200);
    await request(app)
      .get('/api/me')
      .set('authorization', `Bearer ${(again.body as { access_token: string }).access_token}`)
      .expect(200);
    await request(app).get('/api/me').expect(401);
    await request(app).get('/api/me').set('authorization', `Bearer ${t.refresh_token}`).expect(401);
  });
  test('the same key twice is one quiz; a learner answers it and stands in the gradebook', async () => {
    const { access_token } = await token();
    const push = (key: string): request.Test =>
      request(app)
        .post('/api/courses/bread/imports')
        .set('authorization', `Bearer ${access_token}`)
        .set('content-type', 'application/zip')
        .set('idempotency-key', key)
        .send(pack({ 'imsmanifest.xml': MANIFEST(['a.xml']), 'a.xml': ITEM('a') }));
    const first = (await push('k1').expect(201)).body as { id: string };
    expect(((await push('k1').expect(201)).body as { id: string }).id).toBe(first.id);
    expect(((await push('k2').expect(201)).body as { id: string }).id).not.toBe(first.id);
    const page = await request(app).get(`/quiz/${first.id}`).expect(200);
    expect(page.text).toContain('two &lt;b&gt;');
    const done = await request(app).post(`/quiz/${first.id}`).type('form').send({ learner: '<i>Ada</i>', 'q0.RESPONSE': 'B' }).expect(200);
    expect(done.text).toContain('1 of 1 points (100 %)');
    const book = await request(app).get(`/gradebook/${first.id}`).expect(200);
    expect(book.text).toContain('&lt;i&gt;Ada&lt;/i&gt;');
    await request(app).get('/quiz/none').expect(404);
    const bad = await request(app)
      .post('/api/courses/bread/imports')
      .set('authorization', `Bearer ${access_token}`)
      .set('content-type', 'application/zip')
      .set('idempotency-key', 'k3')
      .send(Buffer.from('x'))
      .expect(422);
    expect((bad.body as { detail: string }).detail).toContain('no zip file');
  });
});

describe('courses, banks and the gradebook', () => {
  let token = '';
  beforeAll(async () => {
    token = (await tokensFor(app, 'm.okafor', 'harbour')).access_token;
  });
  const as = (r: request.Test): request.Test => r.set('authorization', `Bearer ${token}`);
  const pack_ = (ids: string[]): Buffer =>
    pack({ 'imsmanifest.xml': MANIFEST(ids.map((i) => `${i}.xml`)), ...Object.fromEntries(ids.map((i) => [`${i}.xml`, ITEM(i)])) });
  const send = (path: string, ids: string[], key: string): request.Test =>
    as(request(app).post(path)).set('content-type', 'application/zip').set('idempotency-key', key).send(pack_(ids));
  interface Report {
    id: string;
    title: string;
    link: string;
    items: { identifier: string; status: string }[];
  }

  test('a package becomes a bank under a title of its own, and is listed in its course', async () => {
    const made = (await send('/api/courses/safety/imports?as=bank&title=Knives', ['x', 'y'], 'bank').expect(201)).body as Report;
    expect(made).toMatchObject({
      title: 'Knives',
      link: `http://lms.test/bank/${made.id}`,
      items: [{ identifier: 'x', status: 'arrived' }, { status: 'arrived' }],
    });
    const { courses } = (await as(request(app).get('/api/courses')).expect(200)).body as { courses: { id: string; collections: object[] }[] };
    expect(courses.find((c) => c.id === 'safety')?.collections).toContainEqual({
      id: made.id,
      kind: 'bank',
      title: 'Knives',
      items: 2,
      results: 0,
      link: made.link,
      group: null,
    });
    expect((await request(app).get(`/bank/${made.id}`).expect(200)).text).toContain('2 items in the bank');
  });
  test('a package into what is there: the same is the same, another content takes its place, what is new comes last', async () => {
    const { id } = (await send('/api/courses/safety/imports', ['p', 'q'], 'into-1').expect(201)).body as Report;
    const changed = pack({ 'imsmanifest.xml': MANIFEST(['q.xml', 'r.xml']), 'q.xml': ITEM('q').replace('Which?', 'Which one?'), 'r.xml': ITEM('r') });
    const into = (key: string): request.Test =>
      as(request(app).post(`/api/collections/${id}/imports`))
        .set('content-type', 'application/zip')
        .set('idempotency-key', key)
        .send(changed);
    expect(((await into('into-2').expect(200)).body as Report).items.map((i) => i.status)).toEqual(['changed', 'arrived']);
    // the same key gives the first answer again, a new one finds nothing to do
    expect(((await into('into-2').expect(200)).body as Report).items.map((i) => i.status)).toEqual(['changed', 'arrived']);
    expect(((await into('into-3').expect(200)).body as Report).items.map((i) => i.status)).toEqual(['same', 'same']);
    expect((await store.collection(id))?.content.items.map((i) => i.identifier)).toEqual(['p', 'q', 'r']);
    await as(request(app).delete(`/api/collections/${id}/items/q`)).expect(204);
    expect((await store.collection(id))?.content.items.map((i) => i.identifier)).toEqual(['p', 'r']);
    await send('/api/collections/nothere/imports', ['p'], 'into-4').expect(404);
    await send('/api/courses/nothere/imports', ['p'], 'into-5').expect(404);
    await as(request(app).post('/api/courses/safety/imports'))
      .set('content-type', 'application/zip')
      .send(pack_(['p']))
      .expect(400);
  });
  test('results come in the order of handing in, behind a place, with what was answered', async () => {
    const { id } = (await send('/api/courses/bread/imports', ['a'], 'results').expect(201)).body as Report;
    for (const answer of ['A', 'B', ''])
      await request(app)
        .post(`/quiz/${id}`)
        .type('form')
        .send({ learner: `L${answer}`, 'q0.RESPONSE': answer })
        .expect(200);
    const from = async (after: string): Promise<{ results: { learner: string; items: object[] }[]; next: string }> =>
      (await as(request(app).get(`/api/collections/${id}/results?after=${after}`)).expect(200)).body as {
        results: { learner: string; items: object[] }[];
        next: string;
      };
    const all = await from('');
    expect(all.results.map((r) => r.learner)).toEqual(['LA', 'LB', 'L']);
    expect(all.results[1]?.items).toEqual([{ identifier: 'a', responses: { RESPONSE: ['B'] }, score: 1, maximum: 1 }]);
    expect((await from(all.next)).results).toEqual([]);
  });
  test('grades stand in the gradebook of their course, and of no other', async () => {
    const columns = '/api/courses/safety/columns';
    const make = (body: object, key = 'column'): request.Test => as(request(app).post(columns)).set('idempotency-key', key).send(body);
    const { id } = (await make({ title: 'Week one', maximum: 5 }).expect(201)).body as { id: string };
    expect((await make({ title: 'Week one', maximum: 5 }).expect(201)).body).toEqual({ id });
    await make({ title: '', maximum: 5 }, 'other').expect(422);
    await make({ title: 'T', maximum: -1 }, 'other').expect(422);
    const grade = (person: string, score: unknown): request.Test => as(request(app).put(`/api/columns/${id}/grades/${person}`)).send({ score });
    await grade('s0', 4.5).expect(204);
    await grade('s0', 5).expect(204);
    await grade('b0', 1).expect(404);
    await grade('s1', 'much').expect(422);
    expect(((await as(request(app).get(columns)).expect(200)).body as { columns: object[] }).columns).toEqual([
      { id, course: 'safety', title: 'Week one', maximum: 5, grades: [{ person: 's0', score: 5 }] },
    ]);
    expect((await request(app).get('/course/safety').expect(200)).text).toContain('<td>Ada Brandt</td><td>5</td>');
    await request(app).get('/course/nothere').expect(404);
  });
});
