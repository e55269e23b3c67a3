import { jest } from '@jest/globals';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import request from 'supertest';
import { authorize, CALLBACK, freshDatabase, tokensFor, VERIFIER } from '../testing.js';
import { lmsApp } from './app.js';
import { exportPackage, PackageError, readPackage, responsesOf, score } from './qti.js';
import { Store } from './store.js';

jest.setTimeout(30_000);
let store: Store;
let app: ReturnType<typeof lmsApp>;

beforeAll(async () => {
  store = new Store(freshDatabase('zakuska_test_lms'));
  await store.open();
  app = lmsApp(store, 'http://lms.test');
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
const pack = (files: Record<string, string>): Buffer => Buffer.from(zipSync(Object.fromEntries(Object.entries(files).map(([k, v]) => [k, strToU8(v)]))));

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
