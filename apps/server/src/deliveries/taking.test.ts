/** How a quiz is taken: a class with codes of its own, times by the server's clock, what is shown when, practice, and the live view. */
import { jest } from '@jest/globals';
import { type Item, newId, type QuizRules, type RulesChange } from '@zakuska/core';
import { startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';
import { Watching } from './live.js';

const choice = (id: string, more: object = {}): Item =>
  ({
    id,
    kind: 'multiple-choice',
    stem: `Which is a grain? ${id}`,
    points: 1,
    shuffle: false,
    options: [
      { id: 'a', content: 'rye', credit: 1 },
      { id: 'b', content: 'cod', credit: 0, feedback: 'A fish.' },
    ],
    ...more,
  }) as Item;
const RIGHT = { options: ['~1'] };
const WRONG = { options: ['~2'] };
const MINUTE = 60_000;

let server: TestServer;
let world: World;
beforeAll(async () => {
  server = await startServer('zakuska_test_taking');
  world = await makeWorld(server, 'taking@saltmarsh.example');
});
afterAll(() => server.stop());
afterAll(() => jest.restoreAllMocks());

/** The server's clock so many minutes on. */
const later = (minutes: number): void => {
  const at = Date.now() + minutes * MINUTE;
  jest.spyOn(Date, 'now').mockImplementation(() => at);
};
const onTime = (): void => void jest.restoreAllMocks();

interface Published {
  id: string;
  code: string;
  rules: QuizRules;
}
const publish = async (items: Item[], rules: RulesChange, more: object = {}, status = 201): Promise<Published> => {
  const set = await world.makeSet(items);
  return (
    await world.owner
      .post(`/api/v1/sets/${set}/deliveries`)
      .send({ rules, ...more })
      .expect(status)
  ).body as Published;
};
const change = (id: string, body: object, status = 200) => world.owner.patch(`/api/v1/deliveries/${id}`).send(body).expect(status);
const makeClass = async (members: object[]): Promise<{ id: string; members: { id: string; name: string }[] }> =>
  (await world.owner.post(`/api/v1/workspaces/${world.workspace}/classes`).send({ name: 'Bread, Monday', members }).expect(201)).body as never;
interface Invited {
  id: string;
  name: string;
  code: string;
  link: string;
  begun: number;
  handedIn: number;
}
const peopleOf = async (id: string): Promise<Invited[]> =>
  ((await world.owner.post(`/api/v1/deliveries/${id}/people`).expect(200)).body as { people: Invited[] }).people;

interface State {
  id: string;
  name: string;
  due?: string;
  itemDue?: string;
  items: { id: string }[];
  outcome?: object;
  practice?: Record<string, { done: boolean; answer?: string }>;
}
class Learner {
  readonly id = newId();
  readonly token = `a token of ${newId()}`;
  state?: State;
  at = '';
  async begin(code: string, who: object = { name: `Ada ${newId()}` }, status = 201): Promise<{ code?: string; detail?: string }> {
    const r = await server
      .agent()
      .post(`/api/v1/take/${code}/attempts`)
      .send({ id: this.id, token: this.token, ...who })
      .expect(status);
    if (status === 201) this.state = r.body as State;
    this.at = this.state?.id ?? this.id;
    return r.body as { code?: string };
  }
  private send(method: 'post' | 'put' | 'get', path: string, body?: object, status = 200) {
    return server.agent()[method](`/api/v1/take/attempts/${this.at}${path}`).set('x-attempt-token', this.token).send(body).expect(status);
  }
  keep = async (responses: object, more: object = {}, status = 200) =>
    (await this.send('put', '', { responses, ...more }, status)).body as { code?: string; itemDue?: string };
  submit = async (responses: object, more: object = {}, status = 200) => (await this.send('post', '/submit', { responses, ...more }, status)).body as object;
  step = async (body: object, status = 200) => (await this.send('post', '/step', body, status)).body as Record<string, unknown>;
  here = async (place = 0) => (await this.send('post', '/here', { place })).body as { due?: string; phase: string; paused?: boolean };
  look = async () => (await this.send('get', '')).body as State;
}
const begun = async (code: string, who?: object): Promise<Learner> => {
  const l = new Learner();
  await l.begin(code, who);
  return l;
};
interface ResultRow {
  name: string;
  points: number;
  counts?: number;
  kept?: number;
  times?: object;
  notReached?: string[];
  late?: boolean;
  byClock?: boolean;
  practice?: object;
}
const results = async (id: string): Promise<ResultRow[]> =>
  ((await world.owner.get(`/api/v1/deliveries/${id}/results`).expect(200)).body as { attempts: ResultRow[] }).attempts;

describe('a class', () => {
  test('each of the class has a code of their own, one attempt, and goes on with it on another device; nobody else comes in', async () => {
    const { id, members } = await makeClass([
      { name: 'Ada Brandt', mail: 'ada@saltmarsh.example' },
      { name: 'Béla Çelik', extra: 50 },
    ]);
    const d = await publish([choice('q')], { enter: 'personal', attempts: 1, minutes: 10 }, { classList: id });
    const [ada, bela] = await peopleOf(d.id);
    expect([ada?.name, bela?.name]).toEqual(['Ada Brandt', 'Béla Çelik']);
    expect(ada?.code).toMatch(/^[A-Z0-9]{8}$/);
    expect(ada?.link).toContain(`/t/${ada?.code}`);
    expect((await server.agent().get(`/api/v1/take/${d.code}`).expect(403)).body).toMatchObject({ code: 'own-code-needed' });
    expect(await new Learner().begin(d.code, { name: 'Ada Brandt', member: members[0]?.id }, 403)).toMatchObject({ code: 'own-code-needed' });

    expect((await server.agent().get(`/api/v1/take/${ada?.code.toLowerCase()}`).expect(200)).body).toMatchObject({
      learner: { name: 'Ada Brandt', underWay: false, handedIn: 0 },
    });
    const phone = await begun(ada?.code ?? '');
    await phone.keep({ q: WRONG });
    const laptop = await begun(ada?.code ?? '');
    expect(laptop.state).toMatchObject({ id: phone.id, name: 'Ada Brandt', responses: { q: WRONG } });
    await phone.keep({ q: RIGHT }, {}, 404);
    expect(await laptop.submit({ q: RIGHT })).toMatchObject({ points: 1 });
    expect(await new Learner().begin(ada?.code ?? '', {}, 403)).toMatchObject({ code: 'attempts-used' });

    const other = await begun(bela?.code ?? '');
    const minutes = (l: Learner): number => Math.round((Date.parse(l.state?.due ?? '') - Date.now()) / MINUTE);
    expect([minutes(laptop), minutes(other)]).toEqual([10, 15]);
    expect((await peopleOf(d.id)).map((p) => [p.name, p.begun, p.handedIn])).toEqual([
      ['Ada Brandt', 0, 1],
      ['Béla Çelik', 1, 0],
    ]);

    // who joins the class later has a code too; who is there keeps theirs
    await world.owner
      .put(`/api/v1/classes/${id}`)
      .send({ name: 'Bread', members: [...members, { name: 'Chi Doan' }] })
      .expect(200);
    const three = await peopleOf(d.id);
    expect(three.map((p) => p.name)).toEqual(['Ada Brandt', 'Béla Çelik', 'Chi Doan']);
    expect(three[0]?.code).toBe(ada?.code);
  });

  test('names chosen from a list: one that is taken stays taken until the teacher lets it go on elsewhere', async () => {
    const { id, members } = await makeClass([{ name: 'Ada Brandt' }, { name: 'Béla Çelik' }]);
    const d = await publish([choice('q')], { enter: 'list', attempts: 1 }, { classList: id });
    const welcome = (await server.agent().get(`/api/v1/take/${d.code}`).expect(200)).body as { people: object[] };
    expect(welcome.people).toEqual(members.map(({ id: member, name }) => ({ id: member, name })));
    expect(await new Learner().begin(d.code, { name: 'Eve' }, 400)).toMatchObject({ code: 'name-missing' });
    const first = await begun(d.code, { member: members[0]?.id });
    const second = new Learner();
    expect(await second.begin(d.code, { member: members[0]?.id }, 403)).toMatchObject({ code: 'begun-elsewhere' });
    await world.owner.post(`/api/v1/deliveries/${d.id}/free`).send({ attempt: first.id }).expect(204);
    await second.begin(d.code, { member: members[0]?.id });
    expect(second.state?.id).toBe(first.id);
    await first.keep({}, {}, 404);
  });

  test('a class of another workspace is not there; without a class it is not published', async () => {
    const other = await makeWorld(server, 'elsewhere@saltmarsh.example');
    const theirs = (
      await other.owner
        .post(`/api/v1/workspaces/${other.workspace}/classes`)
        .send({ name: 'X', members: [{ name: 'Eve' }] })
        .expect(201)
    ).body as { id: string };
    expect(await publish([choice('q')], { enter: 'personal' }, { classList: theirs.id }, 422)).toMatchObject({ code: 'class-missing' });
    expect(await publish([choice('q')], { enter: 'list' }, {}, 422)).toMatchObject({ code: 'class-missing' });
    await world.owner.get(`/api/v1/classes/${theirs.id}`).expect(404);
    await world.owner.delete(`/api/v1/classes/${theirs.id}`).expect(404);
  });

  test('without names: one attempt a device, and learners are told apart', async () => {
    const d = await publish([choice('q')], { enter: 'nameless', attempts: 1 });
    const one = await begun(d.code, { device: 'the phone of somebody' });
    await one.submit({ q: RIGHT });
    expect(one.state?.name).toMatch(/^Learner [0-9A-F]{4}$/);
    expect(await new Learner().begin(d.code, { device: 'the phone of somebody' }, 403)).toMatchObject({ code: 'attempts-used' });
    await begun(d.code, { device: 'another telephone' });
  });
});

test('how long items were looked at is kept as whole seconds of items that are there; what was not reached follows the order of the person', async () => {
  const d = await publish([choice('q'), choice('r'), choice('s')], {});
  const l = await begun(d.code);
  await l.keep({ q: RIGHT }, { times: { q: 4.4, nobody: 9, r: -1, s: 'long', __proto__: 1 } });
  expect((await l.look()) as object).toMatchObject({ times: { q: 4 } });
  await l.submit({ q: RIGHT }, { times: { q: 6, r: 1e12 } });
  expect((await results(d.id))[0]).toMatchObject({ times: { q: 6, r: 604_800 }, notReached: ['r', 's'] });
  await l.keep({}, { times: 'none' }, 400);
  // mixed: behind is what came later to this person
  const mixed = await publish([choice('q'), choice('r'), choice('s')], { shuffle: { items: true, options: false } });
  const m = await begun(mixed.code);
  const order = m.state?.items.map((i) => i.id) ?? [];
  await m.submit({ [order[1] as string]: RIGHT });
  expect((await results(mixed.id))[0]?.notReached).toEqual([order[2]]);
});

test('slips to print: one for each, what a name holds is words; learners’ pages may stand in a frame, others not', async () => {
  const { id } = await makeClass([{ name: '<b onclick=x>Eve</b>' }, { name: 'Ada Brandt' }]);
  const d = await publish([choice('q')], { enter: 'personal' }, { classList: id });
  const page = await world.owner.get(`/api/v1/deliveries/${d.id}/slips`).expect(200);
  expect(page.headers['content-type']).toContain('text/html');
  expect(page.headers['content-security-policy']).toContain("default-src 'none'");
  expect(page.text).toContain('&lt;b onclick=x&gt;Eve');
  expect(page.text).not.toContain('<b onclick');
  expect(page.text.match(/<svg/g)).toHaveLength(2);
  for (const p of await peopleOf(d.id)) expect(page.text).toContain(`${p.code.slice(0, 4)} ${p.code.slice(4)}`);
  const headers = async (path: string) => (await server.agent().get(path)).headers;
  expect((await headers('/t/ABCDEF'))['content-security-policy']).toContain('frame-ancestors *');
  expect((await headers('/t/ABCDEF'))['x-frame-options']).toBeUndefined();
  expect((await headers('/sets'))['content-security-policy']).toContain("frame-ancestors 'self'");
  expect((await headers('/tables'))['content-security-policy']).toContain("frame-ancestors 'self'");
});

describe('times', () => {
  afterEach(onTime);
  const iso = (minutes: number): string => new Date(Date.now() + minutes * MINUTE).toISOString();

  test('it opens and closes by the clock of the server', async () => {
    const d = await publish([choice('q')], { opensAt: iso(10), closesAt: iso(30) });
    expect((await server.agent().get(`/api/v1/take/${d.code}`).expect(200)).body).toMatchObject({ phase: 'before' });
    expect(await new Learner().begin(d.code, undefined, 403)).toMatchObject({ code: 'not-open' });
    later(11);
    const l = await begun(d.code);
    later(31);
    expect(await new Learner().begin(d.code, undefined, 403)).toMatchObject({ code: 'closed' });
    expect(await l.keep({ q: RIGHT }, {}, 403)).toMatchObject({ code: 'time-over' });
    expect(await publish([choice('q')], { opensAt: iso(30), closesAt: iso(10) }, {}, 422)).toMatchObject({ code: 'rules' });
  });

  test('after the limit what had arrived counts; what was given before and arrives late counts as well, and is told', async () => {
    const d = await publish([choice('q'), choice('r')], { minutes: 10 });
    const [late, cheat, gone, graceful] = [await begun(d.code), await begun(d.code), await begun(d.code), await begun(d.code)];
    for (const l of [late, cheat, gone]) await l.keep({ q: RIGHT });
    const before = iso(9);
    later(10.2);
    expect(await graceful.submit({ q: RIGHT, r: RIGHT })).toMatchObject({ points: 2 });
    later(20);
    expect(await cheat.submit({ q: RIGHT, r: RIGHT })).toMatchObject({ points: 1, byClock: true });
    expect(await cheat.submit({ q: RIGHT, r: RIGHT })).toMatchObject({ points: 1, byClock: true });
    const rows = await results(d.id);
    expect(rows.filter((r) => r.byClock).map((r) => r.points)).toEqual([1, 1, 1]);
    // the clock has handed it in already; answers given in time replace what had arrived
    expect(await late.submit({ q: RIGHT, r: RIGHT }, { answeredAt: before })).toEqual({ points: 2, maximum: 2 });
    expect((await results(d.id)).filter((r) => r.late).map((r) => r.points)).toEqual([2]);
  });

  test('handed in after it was due: a part of the points is taken off, by when the answers were given, and the rule can be changed', async () => {
    const due = iso(10);
    const d = await publish([choice('q'), choice('r')], { late: { due, percent: 20, per: 'day' }, closesAt: iso(5 * 24 * 60) });
    const all = { q: RIGHT, r: RIGHT };
    const [inTime, hour, days, offline] = [await begun(d.code), await begun(d.code), await begun(d.code), await begun(d.code)];
    expect(await inTime.submit(all)).toEqual({ points: 2, maximum: 2 });
    const before = iso(9);
    later(70);
    expect(await hour.submit(all)).toEqual({ points: 1.6, maximum: 2, late: 20 });
    // there was no line: what counts is when it was answered
    expect(await offline.submit(all, { answeredAt: before })).toEqual({ points: 2, maximum: 2 });
    later(2 * 24 * 60 + 20);
    expect(await days.submit({ q: RIGHT, r: WRONG })).toEqual({ points: 0.4, maximum: 2, late: 60 });
    // and that is told
    expect((await results(d.id)).filter((r) => r.late).map((r) => [r.name, r.points])).toEqual([[offline.state?.name, 2]]);
    const seen = async (): Promise<unknown[]> => (await results(d.id)).map((r) => [r.points, r.counts, r.kept]).sort();
    expect(await seen()).toEqual([
      [0.4, 0.4, 0.4],
      [1.6, 1.6, 0.8],
      [2, 2, undefined],
      [2, 2, undefined],
    ]);
    await change(d.id, { rules: { late: { due, percent: 50, per: 'once' } } });
    expect((await seen())[0]).toEqual([0.5, 0.5, 0.5]);
    expect((await hour.look()).outcome).toEqual({ points: 1, maximum: 2, late: 50 });
    await change(d.id, { rules: { late: null } });
    expect((await seen())[0]).toEqual([1, 1, undefined]);
    expect(await publish([choice('q')], { late: { due, percent: 20, per: 'day' }, closesAt: due }, {}, 422)).toMatchObject({ code: 'rules' });
  });

  test('of several attempts the late one may count less than the first', async () => {
    const d = await publish([choice('q'), choice('r')], { late: { due: iso(10), percent: 60, per: 'once' } });
    const name = `Ada ${newId()}`;
    await (await begun(d.code, { name })).submit({ q: RIGHT, r: WRONG });
    later(20);
    await (await begun(d.code, { name })).submit({ q: RIGHT, r: RIGHT });
    expect((await results(d.id)).map((r) => [r.points, r.counts]).sort()).toEqual([
      [0.8, undefined],
      [1, 1],
    ]);
  });

  test('closed by hand, nothing is taken, and it goes on when it is opened again; answers given before are taken', async () => {
    const d = await publish([choice('q')], {});
    const [one, two] = [await begun(d.code), await begun(d.code)];
    await change(d.id, { open: false });
    const before = iso(-1);
    later(2);
    await one.submit({ q: RIGHT }, {}, 403);
    expect(await two.submit({ q: RIGHT }, { answeredAt: before })).toMatchObject({ points: 1 });
    await change(d.id, { open: true });
    expect(await one.submit({ q: RIGHT })).toMatchObject({ points: 1 });
    expect((await results(d.id)).map((r) => r.late ?? false).sort()).toEqual([false, true]);
  });

  test('more time, for one and for all', async () => {
    const d = await publish([choice('q')], { minutes: 10 });
    const [one, two] = [await begun(d.code), await begun(d.code)];
    const due = async (l: Learner): Promise<number> => Math.round((Date.parse((await l.here()).due ?? '') - Date.now()) / MINUTE);
    await world.owner.post(`/api/v1/deliveries/${d.id}/time`).send({ minutes: 5, attempt: one.id }).expect(204);
    expect([await due(one), await due(two)]).toEqual([15, 10]);
    await world.owner.post(`/api/v1/deliveries/${d.id}/time`).send({ minutes: 2 }).expect(204);
    expect([await due(one), await due(two)]).toEqual([17, 12]);
    await world.owner.post(`/api/v1/deliveries/${d.id}/time`).send({ minutes: 2, attempt: newId() }).expect(404);
  });
});

describe('what is shown', () => {
  test('each part from when the teacher says: points at once, right and wrong after closing, keys when released', async () => {
    const d = await publish([choice('q')], { shows: { score: 'handed-in', marks: 'closed', keys: 'released', feedback: 'never' } });
    const l = await begun(d.code);
    expect(await l.submit({ q: WRONG })).toEqual({ points: 0, maximum: 1, later: 'closed' });
    await change(d.id, { open: false });
    expect((await l.look()).outcome).toEqual({ points: 0, maximum: 1, later: 'released', items: [{ id: 'q', state: 'wrong', points: 0 }] });
    await change(d.id, { released: true });
    expect((await l.look()).outcome).toEqual({ points: 0, maximum: 1, items: [{ id: 'q', state: 'wrong', points: 0, answer: 'rye' }] });
  });

  test('rules change while it runs; who comes in, orders and practice stay; a value that is none is refused', async () => {
    const d = await publish([choice('q')], { minutes: 5 });
    expect(((await change(d.id, { rules: { minutes: null, attempts: 2 } })).body as Published).rules).toEqual({ ...d.rules, minutes: undefined, attempts: 2 });
    for (const rules of [{ enter: 'nameless' }, { shuffle: { items: true, options: true } }, { practice: { tries: 1, hints: true } }])
      await change(d.id, { rules }, 422);
    await change(d.id, { rules: { minutes: 0 } }, 400);
    await change(d.id, { rules: { colour: 'red' } }, 400);
    await publish([choice('q')], { attempts: -1 }, {}, 400);
  });

  test('the best of two attempts counts', async () => {
    const d = await publish([choice('q')], { attempts: 2, counts: 'best' });
    for (const given of [RIGHT, WRONG]) await (await begun(d.code, { name: 'Ada' })).submit({ q: given });
    expect((await results(d.id)).map((r) => [r.points, r.counts])).toEqual([
      [1, 1],
      [0, undefined],
    ]);
    await change(d.id, { rules: { counts: 'mean' } });
    expect((await results(d.id)).map((r) => r.counts)).toEqual([undefined, 0.5]);
  });
});

describe('order', () => {
  const items = Array.from({ length: 6 }, (_, i) => choice(`q${i}`));
  test('a new order for each, the same for the same attempt; what was passed cannot be changed where nobody goes back', async () => {
    const d = await publish(items, { shuffle: { items: true, options: true }, back: false });
    const l = await begun(d.code);
    const order = l.state?.items.map((i) => i.id) ?? [];
    expect((await l.look()).items.map((i) => i.id)).toEqual(order);
    expect(order.slice().sort()).toEqual(items.map((i) => i.id));
    const others = await Promise.all(Array.from({ length: 5 }, async () => (await begun(d.code)).state?.items.map((i) => i.id).join()));
    expect(new Set([...others, order.join()]).size).toBeGreaterThan(1);
    const [first = '', second = ''] = order;
    const shown = l.state?.items as unknown as { id: string; options: { id: string; content: string }[] }[] | undefined;
    const options = shown?.find((i) => i.id === first)?.options ?? [];
    const named = (content: string) => ({ options: [options.find((o) => o.content === content)?.id ?? ''] });
    await l.keep({ [first]: named('cod') }, { place: 1 });
    await l.keep({ [first]: named('rye'), [second]: RIGHT }, { place: 1 });
    const kept = (await l.look()) as unknown as { responses: Record<string, object>; place: number };
    expect(kept.responses[first]).toEqual(named('cod'));
    expect(kept.responses[second]).toEqual(RIGHT);
    expect(kept.place).toBe(1);
    // also not by handing in, and not what was left out
    await l.keep({ [second]: RIGHT }, { place: 3 });
    const third = order[2] ?? '';
    expect(await l.submit({ [first]: named('rye'), [third]: RIGHT })).toMatchObject({ maximum: 6 });
    const [row] = await results(d.id);
    expect(Object.keys((row as unknown as { responses: object }).responses).sort()).toEqual([first, second].sort());
  });
});

describe('practice', () => {
  const hinted = choice('q', { hints: ['It grows in a field.', 'Bread is made of it.'], feedback: { correct: 'Well done.' } });
  test('a wrong answer brings a hint; the key comes when the item is through, and no reload brings it before', async () => {
    const d = await publish([hinted, choice('r')], { practice: { tries: 3, hints: true } });
    const l = await begun(d.code);
    expect(JSON.stringify(l.state)).not.toContain('grows in a field');
    expect(await l.step({ item: 'q', response: WRONG })).toEqual({
      tries: 1,
      left: 2,
      hints: ['It grows in a field.'],
      moreHints: true,
      done: false,
      state: 'wrong',
    });
    expect((await l.look()).practice?.['q']).toMatchObject({ tries: 1, done: false });
    expect(JSON.stringify(await l.look())).not.toContain('"answer"');
    expect(await l.step({ item: 'q', response: RIGHT })).toMatchObject({ tries: 2, done: true, state: 'right', feedback: ['Well done.'] });
    // through is through
    expect(await l.step({ item: 'q', response: WRONG })).toMatchObject({ tries: 2, state: 'right' });
    expect(await l.step({ item: 'r', giveUp: true })).toMatchObject({ done: true, answer: 'rye' });
    // what was tried counts, whatever is handed in
    expect(await l.submit({ q: WRONG, r: RIGHT })).toMatchObject({ points: 1, maximum: 2 });
    expect((await results(d.id))[0]?.practice).toEqual({ q: { tries: 2, hints: 1, first: 'wrong' }, r: { tries: 0, hints: 0 } });
    await l.step({ item: 'nothing', giveUp: true }, 404);
  });

  test('two presses at once are one try', async () => {
    const d = await publish([hinted], { practice: { tries: 2, hints: true } });
    const l = await begun(d.code);
    const both = await Promise.all([l.step({ item: 'q', response: WRONG }), l.step({ item: 'q', response: WRONG })]);
    for (const told of both) expect(told['tries']).toBeLessThanOrEqual(2);
    expect((await l.look()).practice?.['q']).toMatchObject({ tries: Math.max(...both.map((b) => b['tries'] as number)) });
  });

  test('where it is no practice there is nothing to practise', async () => {
    const d = await publish([hinted], {});
    const l = await begun(d.code);
    expect(l.state?.practice).toBeUndefined();
    await l.step({ item: 'q', giveUp: true }, 404);
    await l.step({ item: 'q', hint: true }, 404);
  });
});

test('the teacher sees who is where, what is right so far, and who has handed in', async () => {
  const d = await publish([choice('q'), choice('r')], { minutes: 10 });
  const [ada, bela] = [await begun(d.code, { name: 'Ada' }), await begun(d.code, { name: 'Béla' })];
  await ada.keep({ q: WRONG }, { place: 1 });
  await bela.submit({ q: RIGHT, r: RIGHT });
  const now = await server.app.get(Watching).now(d.id);
  expect(now?.open).toBe(true);
  const [first, second] = now?.attempts ?? [];
  expect(first).toMatchObject({ name: 'Ada', place: 1, at: 'r', lost: false, states: { q: 'wrong' } });
  expect(first?.due).toBeDefined();
  expect(second).toMatchObject({ name: 'Béla', points: 2, states: { q: 'right', r: 'right' } });
  expect(second?.at).toBeUndefined();
  later(2);
  expect((await server.app.get(Watching).now(d.id))?.attempts.map((a) => a.lost)).toEqual([true, false]);
  onTime();
});

describe('paused', () => {
  afterEach(onTime);
  const pause = (id: string, paused: boolean) => change(id, { paused });
  const minutesLeft = async (l: Learner): Promise<number> => (Date.parse((await l.here()).due ?? '') - Date.now()) / MINUTE;

  test('the time stands still; who was at work has as much as before, however long it was', async () => {
    const d = await publish([choice('q')], { minutes: 10 });
    const ada = await begun(d.code);
    later(5);
    await pause(d.id, true);
    later(25);
    // pressed again, it is the same pause
    await pause(d.id, true);
    expect(await ada.here()).toMatchObject({ paused: true, phase: 'open' });
    expect((await ada.here()).due).toBeUndefined();
    await ada.keep({ q: RIGHT });
    expect(await results(d.id)).toEqual([]);
    expect((await server.app.get(Watching).now(d.id))?.paused).toBe(true);
    expect((await new Learner().begin(d.code, { name: 'Late' }, 403)).code).toBe('paused');
    await Promise.all([pause(d.id, false), pause(d.id, false)]);
    expect(await minutesLeft(ada)).toBeCloseTo(5, 0);
    later(4.5);
    await ada.keep({ q: WRONG });
    later(2);
    await ada.keep({ q: RIGHT }, {}, 403);
    await ada.submit({ q: RIGHT });
    // what had arrived counts
    expect(await results(d.id)).toMatchObject([{ points: 0, byClock: true }]);
  });

  test('what closes at a set time: who was at work goes on, nobody else comes in', async () => {
    const d = await publish([choice('q')], { closesAt: new Date(Date.now() + 10 * MINUTE).toISOString() });
    const ada = await begun(d.code);
    later(5);
    await pause(d.id, true);
    later(15);
    expect((await new Learner().begin(d.code, { name: 'Late' }, 403)).code).toBe('paused');
    await pause(d.id, false);
    expect((await new Learner().begin(d.code, { name: 'Late' }, 403)).code).toBe('closed');
    expect(await minutesLeft(ada)).toBeCloseTo(5, 0);
    await ada.submit({ q: RIGHT });
    expect(await results(d.id)).toMatchObject([{ points: 1 }]);
  });

  test('going on without a pause gives nobody anything; learners may hand in meanwhile', async () => {
    const d = await publish([choice('q')], { minutes: 10 });
    const ada = await begun(d.code);
    await pause(d.id, false);
    expect(await minutesLeft(ada)).toBeCloseTo(10, 0);
    await pause(d.id, true);
    await ada.submit({ q: RIGHT });
    expect(await results(d.id)).toMatchObject([{ points: 1 }]);
  });
});

describe('items that must be answered', () => {
  afterEach(onTime);
  const two = [choice('q', { required: true }), choice('r')];

  test('where the teacher says so nobody hands in without them; by the clock it goes as it is', async () => {
    const d = await publish(two, { holdsRequired: true, minutes: 10 });
    const ada = await begun(d.code);
    expect(await ada.look()).toMatchObject({ holdsRequired: true, items: [{ required: true }, {}] });
    expect(await ada.submit({ r: RIGHT }, {}, 422)).toMatchObject({ code: 'required-missing', item: 'q', open: 1 });
    await ada.submit({ q: WRONG });
    const bela = await begun(d.code);
    // the page hands in by itself at the end, a moment before by the clock of the server
    later(9.99);
    await bela.submit({ r: RIGHT });
    expect(await results(d.id)).toHaveLength(2);
  });

  test('where nothing is said they may be left out; it cannot be asked for where nobody goes back', async () => {
    const d = await publish(two, {});
    const ada = await begun(d.code);
    expect(await ada.look()).not.toHaveProperty('holdsRequired');
    await ada.submit({ r: RIGHT });
    await publish(two, { holdsRequired: true, back: false }, {}, 422);
  });

  test('an answer in practice is one', async () => {
    const d = await publish(two, { holdsRequired: true, practice: { tries: 1, hints: true } });
    const ada = await begun(d.code);
    await ada.step({ item: 'q', response: WRONG });
    await ada.submit({});
    expect(await results(d.id)).toHaveLength(1);
  });
});

describe('a time for each item', () => {
  afterEach(onTime);
  const items = [choice('q'), choice('r', { timeLimit: 120 }), choice('s')];
  const timed = { back: false, itemSeconds: 60 };
  const points = async (d: Published): Promise<number> => (await results(d.id))[0]?.points ?? NaN;

  test('what was answered after its time does not count; the clock of the next begins when it is reached', async () => {
    const d = await publish(items, timed);
    const l = await begun(d.code);
    expect(l.state).toMatchObject({ place: 0, itemTimes: { q: 60, r: 120, s: 60 } });
    const ends = (x: { itemDue?: string }): number => Math.round((Date.parse(x.itemDue ?? '') - Date.now()) / 1000);
    expect(ends(l.state as object)).toBeGreaterThan(55);
    later(0.5);
    await l.keep({ q: RIGHT }, { place: 0 });
    // half a minute and the grace past the end: too late to change it
    later(1.6);
    await l.keep({ q: WRONG }, { place: 0 });
    expect(ends(await l.keep({ q: WRONG }, { place: 1 }))).toBe(120);
    later(1.9);
    expect(await l.keep({ q: WRONG, r: RIGHT }, { place: 2 })).toMatchObject({ place: 2 });
    later(1.3);
    await l.submit({ q: WRONG, r: RIGHT, s: RIGHT }, { place: 3 });
    expect(await points(d)).toBe(3);
  });
  test('a line that was lost costs nothing: the page goes on by itself, and all is taken', async () => {
    const d = await publish(items, timed);
    const l = await begun(d.code);
    later(4);
    await l.submit({ q: RIGHT, r: RIGHT, s: RIGHT }, { place: 3 });
    expect(await points(d)).toBe(3);
    const late = await begun(d.code);
    later(6);
    await late.submit({ q: RIGHT, r: RIGHT, s: RIGHT }, { place: 3 });
    expect((await results(d.id)).map((r) => r.points)).toEqual([3, 0]);
  });
  test('who has extra time has it for each item; a pause stops the clock', async () => {
    const { id } = await makeClass([{ name: 'Béla Çelik', extra: 100 }]);
    const d = await publish(items, { ...timed, enter: 'personal' }, { classList: id });
    const [bela] = await peopleOf(d.id);
    const l = await begun(bela?.code ?? '', {});
    expect(l.state).toMatchObject({ itemTimes: { q: 120, r: 240, s: 120 } });
    await change(d.id, { paused: true });
    expect(await l.here()).not.toHaveProperty('itemDue');
    later(60);
    await change(d.id, { paused: false });
    later(2);
    await l.submit({ q: RIGHT }, { place: 1 });
    expect(await points(d)).toBe(1);
  });
  test('it cannot be had with a way back', async () => {
    expect(await publish(items, { itemSeconds: 60 }, {}, 422)).toMatchObject({ detail: expect.stringMatching(/one by one/) as string });
  });
});

describe('what is arranged with one person', () => {
  afterEach(onTime);
  const arrange = (id: string, body: object, status = 200) => world.owner.post(`/api/v1/deliveries/${id}/arrange`).send(body).expect(status);
  const classOfTwo = () => makeClass([{ name: 'Ada Brandt' }, { name: 'Béla Çelik' }]);
  const inMinutes = (n: number): string => new Date(Date.now() + n * MINUTE).toISOString().replace(/\.\d+Z/, 'Z');

  test('later than the others: who was away may begin after it was closed, and nobody else', async () => {
    const { id } = await classOfTwo();
    const d = await publish([choice('q')], { enter: 'personal', closesAt: inMinutes(10) }, { classList: id });
    const [ada, bela] = await peopleOf(d.id);
    const until = inMinutes(100);
    const { people } = (await arrange(d.id, { members: [ada?.id], until })).body as { people: { name: string; until?: string; attempts: number }[] };
    expect(people).toMatchObject([
      { name: 'Ada Brandt', until, attempts: 0 },
      { name: 'Béla Çelik', attempts: 0 },
    ]);
    expect(people[1]?.until).toBeUndefined();
    later(50);
    expect((await new Learner().begin(bela?.code ?? '', {}, 403)).code).toBe('closed');
    const l = await begun(ada?.code ?? '', {});
    expect(l.state?.due).toBe(`${until.slice(0, -1)}.000Z`);
    expect(await l.here()).toMatchObject({ phase: 'open' });
    await l.keep({ q: RIGHT });
    // less again, while they are at work
    await arrange(d.id, { members: [ada?.id], until: inMinutes(10) });
    expect(Date.parse((await l.here()).due ?? '') - Date.now()).toBeLessThanOrEqual(10 * MINUTE);
    later(12);
    await l.keep({ q: WRONG }, {}, 403);
    expect(await results(d.id)).toMatchObject([{ name: 'Ada Brandt', points: 1, byClock: true }]);
  });

  test('once more: of one attempt each one has two; chosen by name from the list as well', async () => {
    const { id } = await classOfTwo();
    const d = await publish([choice('q')], { enter: 'list', attempts: 1 }, { classList: id });
    const [ada, bela] = await peopleOf(d.id);
    await arrange(d.id, { members: [ada?.id], attempts: 1 });
    for (const who of [ada, bela]) await (await begun(d.code, { member: who?.id })).submit({ q: WRONG });
    await (await begun(d.code, { member: ada?.id })).submit({ q: RIGHT });
    for (const who of [ada, bela]) expect((await new Learner().begin(d.code, { member: who?.id }, 403)).code).toBe('attempts-used');
    expect((await results(d.id)).filter((r) => r.counts !== undefined).map((r) => [r.name, r.counts])).toEqual([
      ['Ada Brandt', 1],
      ['Béla Çelik', 0],
    ]);
  });

  test('closed by hand it is closed for everybody; what cannot be arranged is refused', async () => {
    const { id } = await classOfTwo();
    const d = await publish([choice('q')], { enter: 'personal' }, { classList: id });
    const [ada] = await peopleOf(d.id);
    await arrange(d.id, { members: [ada?.id], until: inMinutes(100) });
    await change(d.id, { open: false });
    expect((await new Learner().begin(ada?.code ?? '', {}, 403)).code).toBe('closed');
    await arrange(d.id, { members: [ada?.id], until: 'on Friday' }, 400);
    await arrange(d.id, { members: [ada?.id], attempts: 21 }, 400);
  });
});
