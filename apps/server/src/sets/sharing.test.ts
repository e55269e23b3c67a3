/** Folders, what is shared with whom, and copies: through the server, as each of four people. */
import { type Item, newId } from '@zakuska/core';
import type { Agent } from 'supertest';
import { signIn, startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';

let server: TestServer;
let world: World;
/** Owner of the workspace, an editor who makes things, another editor, a reader. */
let owner: Agent;
let maker: Agent;
let colleague: Agent;
let reader: Agent;
const ids: Record<string, string> = {};
const api = '/api/v1';

beforeAll(async () => {
  server = await startServer('zakuska_test_sharing');
  world = await makeWorld(server, 'owner@x.test');
  owner = world.owner;
  const as = async (name: string, role: 'editor' | 'reader'): Promise<Agent> => {
    ids[name] = await world.join(`${name}@x.test`, role);
    const agent = server.agent();
    await signIn(agent, `${name}@x.test`, 'pass word');
    return agent;
  };
  maker = await as('maker', 'editor');
  colleague = await as('colleague', 'editor');
  reader = await as('reader', 'reader');
}, 120_000);
afterAll(() => server.stop());

const at = (path: string): string => `${api}/workspaces/${world.workspace}${path}`;
const item = (stem: string): Item => ({ id: newId(), kind: 'true-false', stem, points: 1, answer: true });
const makeFolder = async (who: Agent, name: string, parent?: string): Promise<string> =>
  (
    (
      await who
        .post(at('/folders'))
        .send({ name, ...(parent && { parent }) })
        .expect(201)
    ).body as { id: string }
  ).id;
const makeSet = async (who: Agent, title: string, more: object = {}, items: Item[] = []): Promise<string> => {
  const { id } = (
    await who
      .post(at('/sets'))
      .send({ title, ...more })
      .expect(201)
  ).body as { id: string };
  if (items.length) await operate(who, id, 0, { type: 'insert', at: 0, items }, 200);
  return id;
};
const operate = (who: Agent, set: string, base: number, operation: object, status: number) =>
  who
    .post(`${api}/sets/${set}/operations`)
    .send({ base, merge: true, operations: [{ id: newId(), operation }] })
    .expect(status);
const folders = async (who: Agent) =>
  (await who.get(at('/folders')).expect(200)).body as { id: string; name: string; parent?: string; sets: number; role?: string; closed: boolean }[];
const titles = async (who: Agent, query = ''): Promise<string[]> =>
  ((await who.get(at(`/sets${query}`)).expect(200)).body as { title: string }[]).map((s) => s.title);
const detail = (r: { body: unknown }): string => (r.body as { detail: string }).detail;

describe('folders', () => {
  let course: string;
  let unit: string;
  let set: string;
  beforeAll(async () => {
    course = await makeFolder(owner, 'Bread');
    unit = await makeFolder(owner, 'Unit one', course);
    set = await makeSet(owner, 'Starters', { folder: unit });
  });

  test('names of all folders stand at a set; a rename and a move reach all below', async () => {
    const path = async (): Promise<string[]> => ((await owner.get(`${api}/sets/${set}`).expect(200)).body as { path: string[] }).path;
    expect(await path()).toEqual(['Bread', 'Unit one']);
    await owner.patch(`${api}/folders/${course}`).send({ name: 'Bread and dough' }).expect(204);
    expect(await path()).toEqual(['Bread and dough', 'Unit one']);
    const other = await makeFolder(owner, 'Archive');
    await owner.patch(`${api}/folders/${course}`).send({ parent: other }).expect(204);
    expect(await path()).toEqual(['Archive', 'Bread and dough', 'Unit one']);
    await owner.patch(`${api}/folders/${course}`).send({ parent: null }).expect(204);
    expect(await path()).toEqual(['Bread and dough', 'Unit one']);
  });

  test('not into itself, not twice of one name, not of another workspace', async () => {
    expect(detail(await owner.patch(`${api}/folders/${course}`).send({ parent: unit }).expect(422))).toMatch(/cannot go into itself/);
    expect(detail(await owner.patch(`${api}/folders/${course}`).send({ parent: course }).expect(422))).toMatch(/cannot go into itself/);
    expect(detail(await owner.post(at('/folders')).send({ name: 'unit ONE', parent: course }).expect(422))).toMatch(/already/);
    const elsewhere = await makeWorld(server, 'else@x.test');
    const foreign = ((await elsewhere.owner.post(`${api}/workspaces/${elsewhere.workspace}/folders`).send({ name: 'F' }).expect(201)).body as { id: string })
      .id;
    await owner.post(at('/folders')).send({ name: 'x', parent: foreign }).expect(404);
    await owner.put(`${api}/sets/${set}/folder`).send({ folder: foreign }).expect(404);
    await elsewhere.owner.patch(`${api}/folders/${course}`).send({ name: 'mine' }).expect(404);
    await owner.put(`${api}/sets/${set}/folder`).send({}).expect(400);
  });

  test('two moves at once that together would make a circle: one is refused', async () => {
    const [a, b] = [await makeFolder(owner, 'A'), await makeFolder(owner, 'B')];
    const answers = await Promise.all([owner.patch(`${api}/folders/${a}`).send({ parent: b }), owner.patch(`${api}/folders/${b}`).send({ parent: a })]);
    expect(answers.map((r) => r.status).sort()).toEqual([204, 422]);
    const all = await folders(owner);
    expect(all.filter((f) => f.id === a || f.id === b).filter((f) => f.parent === undefined)).toHaveLength(1);
  });

  test('deep enough is deep enough, also for what is moved with all below', async () => {
    let parent = await makeFolder(owner, 'Deep 1');
    const top = parent;
    for (let n = 2; n <= 12; n++) parent = await makeFolder(owner, `Deep ${n}`, parent);
    await owner.post(at('/folders')).send({ name: 'Deep 13', parent }).expect(422);
    const box = await makeFolder(owner, 'Box');
    await owner.patch(`${api}/folders/${top}`).send({ parent: box }).expect(422);
  });

  test('what lies in a folder that is deleted moves up; of one name, a number tells them apart', async () => {
    const up = await makeFolder(owner, 'Up');
    await makeFolder(owner, 'Week', up);
    const mid = await makeFolder(owner, 'Mid', up);
    await makeFolder(owner, 'week', mid);
    const inside = await makeSet(owner, 'Inside', { folder: mid });
    await owner.delete(`${api}/folders/${mid}`).expect(204);
    expect((await folders(owner)).filter((f) => f.parent === up).map((f) => f.name)).toEqual(['Week', 'week (2)']);
    expect((await owner.get(`${api}/sets/${inside}`).expect(200)).body).toMatchObject({ path: ['Up'], folder: up });
  });

  test('the list: words of title and folders, what lies below a folder, orders, pages', async () => {
    expect(await titles(owner, '?q=dough+start')).toEqual(['Starters']);
    expect(await titles(owner, '?q=100%25')).toEqual([]);
    expect(await titles(owner, `?folder=${course}`)).toEqual(['Starters']);
    await makeSet(owner, 'aardvark');
    expect(await titles(owner, '?folder=none')).toEqual(['aardvark']);
    expect((await titles(owner, '?sort=title'))[0]).toBe('aardvark');
    await owner.get(`${api}/sets/${set}`).expect(200);
    expect((await titles(owner, '?sort=opened'))[0]).toBe('Starters');
    for (const sort of ['changed', 'title', 'opened']) {
      const all = (await owner.get(at(`/sets?sort=${sort}`)).expect(200)).body as { id: string }[];
      const rest = (await owner.get(at(`/sets?sort=${sort}&after=${all[0]?.id ?? ''}`)).expect(200)).body as { id: string }[];
      expect(rest.map((s) => s.id)).toEqual(all.slice(1).map((s) => s.id));
    }
    await owner.get(at('/sets?folder=nowhere')).expect(400);
  });

  test('a reader looks and changes nothing', async () => {
    expect((await folders(reader)).length).toBeGreaterThan(3);
    await reader.post(at('/folders')).send({ name: 'x' }).expect(403);
    await reader.patch(`${api}/folders/${course}`).send({ name: 'x' }).expect(403);
    await reader.delete(`${api}/folders/${course}`).expect(403);
    await reader.put(`${api}/sets/${set}/folder`).send({ folder: null }).expect(403);
  });

  test('a name at the top is found again however it is written', async () => {
    const a = await makeSet(owner, 'one', { course: 'Menu French' });
    const b = await makeSet(owner, 'two', { course: 'menu french' });
    const of = async (id: string): Promise<unknown> => ((await owner.get(`${api}/sets/${id}`).expect(200)).body as { folder: string }).folder;
    expect(await of(a)).toBe(await of(b));
  });
});

describe('sharing', () => {
  const share = (who: Agent, what: string, body: object, status = 200) => who.put(`${api}/${what}/sharing`).send(body).expect(status);
  let set: string;
  beforeEach(async () => {
    set = await makeSet(maker, 'Secret recipe', {}, [item('Is the saffron threads or powder?')]);
  });

  test('closed, it is there for nobody but its maker and owners of the workspace: not in lists, the bank, or by its address', async () => {
    await share(maker, `sets/${set}`, { restricted: true, shares: [] });
    for (const who of [colleague, reader]) {
      await who.get(`${api}/sets/${set}`).expect(404);
      expect(await titles(who, '?q=secret')).toEqual([]);
      expect(((await who.get(at('/bank?q=saffron')).expect(200)).body as { total: number }).total).toBe(0);
      expect(((await who.get(at('/bank/counts?q=saffron')).expect(200)).body as { kind: unknown[] }).kind).toEqual([]);
      await who.get(`${api}/sets/${set}/sharing`).expect(404);
      await who.get(`${api}/sets/${set}/pushes`).expect(404);
      await who.post(`${api}/sets/${set}/copy`).send({}).expect(404);
    }
    for (const who of [maker, owner]) {
      expect((await who.get(`${api}/sets/${set}`).expect(200)).body).toMatchObject({ role: 'owner', closed: true });
      expect(((await who.get(at('/bank?q=saffron')).expect(200)).body as { total: number }).total).toBeGreaterThan(0);
    }
  });

  test.each([
    ['read', 'reader', 403, 403],
    ['copy', 'reader', 403, 201],
    ['edit', 'editor', 200, 201],
  ] as const)('to %s: role, edit and copy as the server lets them', async (may, role, edit, copy) => {
    await share(maker, `sets/${set}`, { restricted: true, shares: [{ account: ids['colleague'], may }] });
    expect((await colleague.get(`${api}/sets/${set}`).expect(200)).body).toMatchObject({ role });
    await operate(colleague, set, 1, { type: 'describe', set: { title: 'Theirs' } }, edit);
    await colleague.post(`${api}/sets/${set}/copy`).send({}).expect(copy);
    await colleague.delete(`${api}/sets/${set}`).expect(403);
    await share(colleague, `sets/${set}`, { restricted: false, shares: [] }, 403);
    await reader.get(`${api}/sets/${set}`).expect(404);
  });

  test('a copy of what only some see is seen by who copied it, not by all', async () => {
    await share(maker, `sets/${set}`, { restricted: true, shares: [{ account: ids['colleague'], may: 'copy' }] });
    const { id } = (await colleague.post(`${api}/sets/${set}/copy`).send({}).expect(201)).body as { id: string };
    expect((await colleague.get(`${api}/sets/${id}`).expect(200)).body).toMatchObject({ role: 'owner', title: 'Secret recipe, copy' });
    await reader.get(`${api}/sets/${id}`).expect(404);
    await maker.get(`${api}/sets/${id}`).expect(404);
  });

  test('an open set can be opened further: a reader of the workspace may edit one', async () => {
    await operate(reader, set, 1, { type: 'describe', set: { title: 'x' } }, 403);
    await share(maker, `sets/${set}`, { restricted: false, shares: [{ account: ids['reader'], may: 'edit' }] });
    await operate(reader, set, 1, { type: 'describe', set: { title: 'Read and written' } }, 200);
  });

  test('a group: who is in it sees it, who leaves it does not', async () => {
    const group = newId();
    await maker
      .put(at(`/groups/${group}`))
      .send({ name: 'Fish', members: [] })
      .expect(403);
    await owner
      .put(at(`/groups/${group}`))
      .send({ name: 'Fish', members: [ids['reader'], newId()] })
      .expect(200);
    await owner
      .put(at(`/groups/${newId()}`))
      .send({ name: 'fish', members: [] })
      .expect(422);
    await owner.put(at('/groups/fish')).send({ name: 'Whales', members: [] }).expect(400);
    await share(maker, `sets/${set}`, { restricted: true, shares: [{ group, may: 'read' }] });
    await reader.get(`${api}/sets/${set}`).expect(200);
    expect((await reader.get(at('/groups')).expect(200)).body).toEqual([{ id: group, name: 'Fish', members: [ids['reader']] }]);
    await owner
      .put(at(`/groups/${group}`))
      .send({ name: 'Fish', members: [ids['colleague']] })
      .expect(200);
    await reader.get(`${api}/sets/${set}`).expect(404);
    await owner.delete(at(`/groups/${group}`)).expect(204);
    await colleague.get(`${api}/sets/${set}`).expect(404);
  });

  test('a folder closes all that is in it, below it and put into it later; only its maker moves things out', async () => {
    const top = await makeFolder(maker, `Staff ${newId()}`);
    const below = await makeFolder(maker, 'Exams', top);
    await share(maker, `folders/${top}`, { restricted: true, shares: [{ account: ids['colleague'], may: 'edit' }] });
    await maker.put(`${api}/sets/${set}/folder`).send({ folder: below }).expect(204);
    await reader.get(`${api}/sets/${set}`).expect(404);
    expect((await folders(reader)).some((f) => f.id === top)).toBe(false);
    expect((await folders(colleague)).find((f) => f.id === below)).toMatchObject({ role: 'editor', closed: true, sets: 1 });
    expect((await colleague.get(`${api}/sets/${set}/sharing`).expect(200)).body).toMatchObject({
      restricted: false,
      closedBy: expect.stringMatching(/^Staff/),
    });
    // a colleague who may edit does not open it to all in passing
    expect(detail(await colleague.put(`${api}/sets/${set}/folder`).send({ folder: null }).expect(403))).toMatch(/everybody would see it/);
    expect(detail(await colleague.patch(`${api}/folders/${below}`).send({ parent: null }).expect(403))).toMatch(/everybody would see it/);
    expect(detail(await colleague.delete(`${api}/folders/${top}`).expect(403))).toMatch(/everybody would see it/);
    await maker.put(`${api}/sets/${set}/folder`).send({ folder: null }).expect(204);
    await reader.get(`${api}/sets/${set}`).expect(200);
  });

  test('a set alone shared out of a closed folder: the folders above lead to it and show nothing else', async () => {
    const top = await makeFolder(maker, `Only way ${newId()}`);
    await share(maker, `folders/${top}`, { restricted: true, shares: [] });
    await maker.put(`${api}/sets/${set}/folder`).send({ folder: top }).expect(204);
    await makeSet(maker, 'Stays hidden', { folder: top });
    await share(maker, `sets/${set}`, { restricted: false, shares: [{ account: ids['reader'], may: 'read' }] });
    expect((await folders(reader)).find((f) => f.id === top)).toEqual({ id: top, name: expect.any(String), closed: true, sets: 1 });
    expect(await titles(reader, `?folder=${top}`)).toEqual(['Secret recipe']);
  });

  test('what cannot be said is refused, and what was said stays', async () => {
    await share(maker, `sets/${set}`, { restricted: true, shares: [{ account: ids['reader'], may: 'read' }] });
    await share(maker, `sets/${set}`, { restricted: true, shares: [{ may: 'read' }] }, 422);
    await share(maker, `sets/${set}`, { restricted: true, shares: [{ account: newId(), may: 'read' }] }, 422);
    await share(maker, `sets/${set}`, { restricted: true, shares: [1, 2].map(() => ({ account: ids['reader'], may: 'read' })) }, 422);
    await share(maker, `sets/${set}`, { restricted: true, shares: [{ account: ids['reader'], may: 'own' }] }, 400);
    expect((await maker.get(`${api}/sets/${set}/sharing`).expect(200)).body).toMatchObject({
      restricted: true,
      shares: [{ name: 'reader@x.test', may: 'read' }],
    });
  });
});

describe('the bin', () => {
  test('who made a set puts it there and takes it back; others see it as far as they saw the set', async () => {
    const set = await makeSet(maker, 'Thrown away');
    await colleague.delete(`${api}/sets/${set}`).expect(403);
    await maker.delete(`${api}/sets/${set}`).expect(204);
    const binned = async (who: Agent): Promise<unknown> => ((await who.get(at('/bin')).expect(200)).body as { id: string }[]).find((b) => b.id === set);
    expect(await binned(maker)).toMatchObject({ role: 'owner' });
    expect(await binned(colleague)).toMatchObject({ role: 'editor' });
    await colleague.post(`${api}/bin/${set}/back`).expect(403);
    await maker.post(`${api}/bin/${set}/back`).expect(204);
    await maker.put(`${api}/sets/${set}/sharing`).send({ restricted: true, shares: [] }).expect(200);
    await maker.delete(`${api}/sets/${set}`).expect(204);
    expect(await binned(colleague)).toBeUndefined();
    await colleague.post(`${api}/bin/${set}/back`).expect(404);
  });
});

describe('copies', () => {
  test('a duplicate has ids of its own, and keeps checks, versions and where it lies', async () => {
    const folder = await makeFolder(maker, 'Originals');
    const items = [item('one'), item('two')];
    const set = await makeSet(maker, 'Original', { folder }, items);
    await operate(maker, set, 1, { type: 'review', id: items[0]?.id, review: { state: 'checked', by: 'x', at: '2026-01-01T00:00:00Z' } }, 200);
    const copy = (await maker.post(`${api}/sets/${set}/copy`).send({}).expect(201)).body as { id: string };
    const view = (await maker.get(`${api}/sets/${copy.id}`).expect(200)).body as {
      folder: string;
      checked: number;
      document: { set: { items: Item[] } };
    };
    expect([view.folder, view.checked]).toEqual([folder, 1]);
    expect(view.document.set.items.map((i) => i.stem)).toEqual(['one', 'two']);
    for (const [n, i] of view.document.set.items.entries()) {
      expect(i.id).not.toBe(items[n]?.id);
      expect(i.takenFrom).toMatchObject({ set, item: items[n]?.id });
    }
    const newer = async (): Promise<{ item: string; there: Item }[]> => (await maker.get(`${api}/sets/${copy.id}/newer`).expect(200)).body as never;
    expect(await newer()).toEqual([]);
    await operate(maker, set, 2, { type: 'change', id: items[1]?.id, set: { stem: 'two, better' } }, 200);
    expect(await newer()).toMatchObject([{ item: view.document.set.items[1]?.id, there: { stem: 'two, better' } }]);
    // what one may not see is not told
    await maker.put(`${api}/sets/${set}/sharing`).send({ restricted: true, shares: [] }).expect(200);
    expect((await colleague.get(`${api}/sets/${copy.id}/newer`).expect(200)).body).toEqual([]);
  });

  test('a link gives a copy to anybody signed in, who learns nothing of where it lies; taken back, it leads nowhere', async () => {
    const set = await makeSet(maker, 'For all', {}, [item('one')]);
    await colleague.post(`${api}/sets/${set}/copy-link`).expect(403);
    const { token } = (await maker.post(`${api}/sets/${set}/copy-link`).expect(201)).body as { token: string };
    expect(((await owner.post(`${api}/sets/${set}/copy-link`).expect(201)).body as { token: string }).token).toBe(token);
    const away = await makeWorld(server, 'away@x.test');
    expect((await away.owner.get(`${api}/copies/${token}`).expect(200)).body).toEqual({ title: 'For all', items: 1, by: 'maker@x.test' });
    await server.agent().get(`${api}/copies/${token}`).expect(401);
    await away.owner.post(`${api}/copies/${token}`).send({ workspace: world.workspace }).expect(404);
    await reader.post(`${api}/copies/${token}`).send({ workspace: world.workspace }).expect(403);
    const copy = (await away.owner.post(`${api}/copies/${token}`).send({ workspace: away.workspace }).expect(201)).body as { id: string };
    const view = (await away.owner.get(`${api}/sets/${copy.id}`).expect(200)).body as { document: { set: { items: Item[] } }; checked: number };
    expect(view.document.set.items.map((i) => [i.stem, i.takenFrom])).toEqual([['one', undefined]]);
    await maker.delete(`${api}/sets/${set}/copy-link`).expect(204);
    await away.owner.get(`${api}/copies/${token}`).expect(404);
  });
});
