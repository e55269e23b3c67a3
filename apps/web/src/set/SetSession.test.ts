import 'fake-indexeddb/auto';
import { apply, emptyDocument, type Item, newId, type Operation, OperationError, rebase, type SetDocument } from '@zakuska/core';
import fc from 'fast-check';
import { runs } from '@zakuska/core/testing';
import { DraftSession } from './DraftSession.js';
import { local } from './local.js';
import { SetSession } from './SetSession.js';

type View = Parameters<typeof SetSession.open>[0];
const item = (id: string): Item => ({ id, kind: 'true-false', stem: `S ${id}`, points: 1, answer: true });

/** A server in memory that keeps to the same rules: batches with a base, ids known again, stale ones refused. */
class FakeServer {
  version = 0;
  document: SetDocument = { ...emptyDocument('T'), set: { title: 'T', items: [item('a'), item('b')] } };
  draft = { text: '', overrides: [] as unknown[] };
  draftVersion = 0;
  log: { id: string; version: number; operation: Operation; by?: string }[] = [];
  /** Puts operations on top of what others did, where it is asked to. */
  merges = true;
  /** What happens to the next requests: away before or after they arrive. */
  away: ('before' | 'after')[] = [];

  install(): void {
    globalThis.fetch = async (input) => {
      const q = input as Request;
      const trouble = this.away.shift();
      if (trouble === 'before') throw new TypeError('network');
      const path = new URL(q.url).pathname;
      const body = q.method === 'GET' ? null : ((await q.json()) as never);
      const r = path.endsWith('/draft')
        ? this.putDraft(body as never)
        : path.endsWith('/operations')
          ? q.method === 'GET'
            ? this.since(q)
            : this.operate(body as never)
          : this.json(200, this.view());
      if (trouble === 'after') throw new TypeError('network');
      return r;
    };
  }
  json(status: number, body: unknown): Response {
    return new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
  }
  view(): View {
    return { id: 'set', version: this.version, document: this.document, draft: this.draft, draftVersion: this.draftVersion } as unknown as View;
  }
  since(q: Request): Response {
    const from = Number(new URL(q.url).searchParams.get('since'));
    return this.json(
      200,
      this.log.filter((o) => o.version > from),
    );
  }
  operate(body: { base: number; operations: { id: string; operation: Operation }[]; merge?: boolean }): Response {
    const fresh = body.operations.filter((o) => !this.log.some((l) => l.id === o.id));
    const theirs = this.log.filter((l) => l.version > body.base && !body.operations.some((o) => o.id === l.id)).map((l) => l.operation);
    if (fresh.length && theirs.length && !(body.merge && this.merges && !rebase(this.document, fresh, theirs).conflicts.length))
      return this.json(409, { code: 'stale', detail: 'stale' });
    let doc = this.document;
    for (const o of fresh) {
      // a rule that only the server knows
      if (o.operation.type === 'change' && o.operation.set['stem'] === 'mine refused')
        return this.json(422, { code: 'no', detail: 'The server will not have this.', id: o.id });
      try {
        doc = apply(doc, o.operation).document;
      } catch (e) {
        return this.json(422, { code: (e as OperationError).code, detail: (e as Error).message, id: o.id });
      }
    }
    for (const o of fresh) this.log.push({ ...o, version: ++this.version });
    this.document = doc;
    return this.json(200, { version: this.version, ...(theirs.length && { merged: true }) });
  }
  /** Somebody else's edit. */
  other(operation: Operation): void {
    this.document = apply(this.document, operation).document;
    this.log.push({ id: `other ${this.version}`, operation, version: ++this.version, by: 'L. Brandt' });
  }
  putDraft(body: { base: number; text: string }): Response {
    if (body.base !== this.draftVersion) return this.json(409, { code: 'stale-draft', version: this.draftVersion, draft: this.draft });
    this.draft = { text: body.text, overrides: [] };
    return this.json(200, { version: ++this.draftVersion });
  }
}

const change = (id: string, stem: string): Operation => ({ type: 'change', id, set: { stem } });
let server: FakeServer;
let session: SetSession;
const stems = (): string[] => server.document.set.items.map((i) => i.stem);
/** Waits until nothing is being sent. */
const settled = async (): Promise<void> => {
  for (let i = 0; i < 50; i++) await new Promise((r) => setImmediate(r));
};

/** The page is closed and opened again: what was not sent is in the browser's store. */
async function reload(): Promise<void> {
  await settled();
  clearTimeout(session['retry']);
  session = await SetSession.open(server.view());
}

beforeEach(async () => {
  await local.keepPending('set', 0, []);
  server = new FakeServer();
  server.install();
  session = await SetSession.open(server.view());
});

test('an edit shows at once, is saved by itself, and can be undone and done again', async () => {
  session.perform(change('a', 'new'));
  expect(session.get()).toMatchObject({ save: 'saving', canUndo: true, document: { set: { items: [{ stem: 'new' }, {}] } } });
  await settled();
  expect(session.get().save).toBe('saved');
  session.undo();
  session.redo();
  session.undo();
  await settled();
  expect(stems()).toEqual(['S a', 'S b']);
  expect(session.get()).toMatchObject({ canUndo: false, canRedo: true });
});

test('edits made while the server is away are kept in order and sent once', async () => {
  server.away = ['before'];
  session.perform(change('a', 'one'));
  session.perform(change('a', 'two'));
  await settled();
  expect(session.get().save).toBe('offline');
  expect(stems()[0]).toBe('S a');
  await session.flush();
  expect(session.get().save).toBe('saved');
  expect(stems()[0]).toBe('two');
  expect(server.log).toHaveLength(2);
});

test('an answer that got lost on the way back does not double the edit', async () => {
  server.away = ['after'];
  session.perform({ type: 'insert', at: 0, items: [item('c')] });
  await settled();
  await session.flush();
  expect(stems()).toEqual(['S c', 'S a', 'S b']);
  expect(server.log).toHaveLength(1);
});

test.each([true, false])('what others did meanwhile comes in, and mine goes on top (the server merges: %s)', async (merges) => {
  server.merges = merges;
  server.other(change('b', 'theirs'));
  session.perform(change('a', 'mine'));
  await settled();
  expect(stems()).toEqual(['mine', 'theirs']);
  expect(session.get().document.set.items.map((i) => i.stem)).toEqual(['mine', 'theirs']);
  expect(session.get().conflicts).toEqual([]);
});

test('a line that is lost between “somebody else was here” and fetching what they did is tried again', async () => {
  server.merges = false;
  server.other(change('b', 'theirs'));
  const operate = server.operate.bind(server);
  server.operate = (body) => {
    server.operate = operate;
    server.away = ['before'];
    return operate(body);
  };
  session.perform(change('a', 'mine'));
  await settled();
  expect(session.get().save).toBe('offline');
  await session.flush();
  expect(session.get().save).toBe('saved');
  expect(stems()).toEqual(['mine', 'theirs']);
});

test('the same thing changed by both waits for a person, who may take mine', async () => {
  server.other(change('a', 'theirs'));
  session.perform(change('a', 'mine'));
  await settled();
  expect(stems()[0]).toBe('theirs');
  const [conflict] = session.get().conflicts;
  if (!conflict) throw new Error('no conflict told');
  expect(conflict.by).toEqual(['L. Brandt']);
  session.settle(conflict, true);
  await settled();
  expect(stems()[0]).toBe('mine');
  expect(session.get().conflicts).toEqual([]);
});

test('whatever comes between, page and server say the same in the end, and each edit is there once', async () => {
  const step = fc.oneof(
    fc.record({ what: fc.constantFrom('change' as const, 'other' as const), id: fc.constantFrom('a', 'b'), stem: fc.constantFrom('x', 'y', 'z', 'refused') }),
    fc.record({
      what: fc.constantFrom(
        'insert' as const,
        'other-insert' as const,
        'undo' as const,
        'flush' as const,
        'refresh' as const,
        'wait' as const,
        'start' as const,
        'tick' as const,
        'look' as const,
        'told' as const,
      ),
    }),
    fc.record({ what: fc.constantFrom('before' as const, 'after' as const, 'reload' as const) }),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(step, { maxLength: 14 }), async (steps) => {
      await local.keepPending('set', 0, []);
      server = new FakeServer();
      server.install();
      session = await SetSession.open(server.view());
      for (const s of steps) {
        if (s.what === 'change') session.perform(change(s.id, `mine ${s.stem}`));
        else if (s.what === 'other') server.other(change(s.id, `theirs ${s.stem}`));
        else if (s.what === 'insert') session.perform({ type: 'insert', at: 1, items: [item(newId())] });
        else if (s.what === 'other-insert') server.other({ type: 'insert', at: 0, items: [item(newId())] });
        else if (s.what === 'undo') session.undo();
        else if (s.what === 'flush') await session.flush();
        else if (s.what === 'refresh') await session.refresh();
        else if (s.what === 'wait') await settled();
        else if (s.what === 'reload') await reload();
        // begun and not waited for: what comes next falls in between
        else if (s.what === 'start') void session.flush();
        else if (s.what === 'look') void session.refresh();
        else if (s.what === 'told') session.heard(server.version);
        else if (s.what === 'tick') await new Promise((r) => setImmediate(r));
        else server.away.push(s.what);
      }
      server.away = [];
      await settled();
      await session.flush();
      await settled();
      await session.refresh();
      expect(session.get().save).toBe('saved');
      expect(session.get().document).toEqual(server.document);
      expect(new Set(server.log.map((o) => o.id)).size).toBe(server.log.length);
      // and nothing is left to be sent
      expect(await local.pending('set')).toBeUndefined();
    }),
    { numRuns: runs(300) },
  );
});

test('an edit that the server will not take goes from the page too, and is kept to be looked at', async () => {
  session.perform(change('a', 'mine refused'));
  session.perform(change('b', 'mine'));
  await settled();
  expect(stems()).toEqual(['S a', 'mine']);
  expect(session.get().document).toEqual(server.document);
  expect(session.get().conflicts.map((c) => c.operation)).toEqual([change('a', 'mine refused')]);
  expect(session.get()).toMatchObject({ save: 'saved', problem: 'The server will not have this.' });
  // what is undone now is the edit that was taken
  session.undo();
  await settled();
  expect(stems()).toEqual(['S a', 'S b']);
  expect(session.get().canUndo).toBe(false);
});

test('an undo that would undo somebody else is no longer offered', async () => {
  session.perform(change('a', 'mine'));
  await settled();
  server.other(change('a', 'theirs'));
  await session.refresh();
  expect(session.get().document.set.items[0]?.stem).toBe('theirs');
  expect(session.undo()).toBe(false);
});

test('an edit that does not fit changes nothing and says why', () => {
  expect(session.perform({ type: 'remove', ids: ['gone'] })).toBe(false);
  expect(session.get().problem).toContain('no longer in the set');
});

describe('drafts', () => {
  test('text is saved when typing rests; another person’s text is not overwritten', async () => {
    const draft = await DraftSession.open(server.view());
    draft.change('mine', []);
    await draft.save();
    expect(server.draft.text).toBe('mine');
    server.draft = { text: 'theirs', overrides: [] };
    server.draftVersion++;
    draft.change('mine again', []);
    await draft.save();
    expect(draft.get().theirs?.text).toBe('theirs');
    expect(server.draft.text).toBe('theirs');
    draft.settle(true);
    await draft.save();
    expect(server.draft.text).toBe('mine again');
  });
  test('taking theirs replaces the text in the editor', async () => {
    const draft = await DraftSession.open(server.view());
    server.draft = { text: 'theirs', overrides: [] };
    server.draftVersion++;
    draft.change('mine', []);
    await draft.save();
    draft.settle(false);
    expect(draft.get()).toMatchObject({ text: 'theirs', theirs: null, replaced: 1, save: 'saved' });
  });
});

test('what the server tells of is taken in at once, or when mine has arrived', async () => {
  server.other(change('b', 'theirs'));
  session.heard(server.version);
  await settled();
  expect(session.get().document).toEqual(server.document);
  // mine is on its way
  session.perform(change('a', 'mine'));
  server.other(change('b', 'theirs again'));
  session.heard(server.version);
  await settled();
  expect(session.get().document).toEqual(server.document);
  expect(stems()).toEqual(['mine', 'theirs again']);
});

test('the draft that somebody else saved comes in where nothing of mine waits', async () => {
  const draft = await DraftSession.open(server.view());
  server.draft = { text: 'theirs', overrides: [] };
  server.draftVersion = 4;
  await draft.heard(4);
  expect(draft.get()).toMatchObject({ text: 'theirs', replaced: 1, theirs: null });
  draft.change('theirs and mine', []);
  server.draft = { text: 'theirs again', overrides: [] };
  server.draftVersion = 5;
  await draft.heard(5);
  expect(draft.get().text).toBe('theirs and mine');
  await draft.save();
  expect(draft.get()).toMatchObject({ text: 'theirs and mine', theirs: { text: 'theirs again' } });
});
