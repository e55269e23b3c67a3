/** Services without a network: a service in memory stands behind `Call`. */
import fc from 'fast-check';
import { fitSet } from '../fit/fit.js';
import { anyGraded } from '../item/arbitrary.js';
import type { Item, ItemOf, QuizSet } from '../item/model.js';
import { mark } from '../mark/mark.js';
import { rightResponse, wrongResponse } from '../mark/answers.js';
import { rehearse } from '../rehearse/rehearse.js';
import { type Destination, destinations } from '../destinations/destinations.js';
import { profileOf } from '../destinations/profileOf.js';
import { csvText, rowsOf } from '../formats/table/csv.js';
import { utf8 } from '../formats/encoding.js';
import { entryOf, forms, itemOf } from './forms.js';
import { services } from './index.js';
import { lms } from './lms.js';
import { serviceRows } from './table.js';
import {
  bringOneByOne,
  type Became,
  type Call,
  type Job,
  jsonOf,
  type Means,
  type Piece,
  piecesOf,
  type Reply,
  reasonOf,
  type Sent,
  ServiceRefusal,
} from './service.js';

/** Workbooks as text: what is told of cells is the same. */
const means: Means = {
  workbook: { write: async (rows) => utf8(csvText(rows)), read: (bytes) => rowsOf(bytes) },
  pictureAddress: (hash) => `https://pictures.example/${hash}`,
};
const reply = (status: number, body: unknown): Reply => ({ status, ok: status < 300, bytes: new TextEncoder().encode(JSON.stringify(body)) });

type Stored = Record<string, unknown> & { id: string };
/** A form in memory, as the form service keeps it: with ids for all that can be chosen. */
class Forms {
  entries: Stored[] = [];
  sections: Stored[] = [];
  requests: string[] = [];
  /** So many requests are answered, then the line breaks. */
  left = Infinity;
  private n = 0;
  private readonly once = new Map<string, Reply>();
  readonly call: Call = async (method, path, sending = {}) => {
    this.requests.push(`${method} ${path}`);
    const known = sending.key === undefined ? undefined : this.once.get(sending.key);
    const out = known ?? this.answer(method, path, sending.json as Stored);
    if (sending.key !== undefined) this.once.set(sending.key, out);
    // done, and then no answer: what is hardest for a client
    if (this.left-- <= 0) throw new Error('the line broke');
    return out;
  };
  private answer(method: string, path: string, body: Stored): Reply {
    const id = `r${++this.n}`;
    const [, entry] = /\/entries\/(\w+)$/.exec(path) ?? [];
    if (entry !== undefined) {
      const at = this.entries.findIndex((e) => e.id === entry);
      if (at < 0) return reply(404, { detail: 'gone' });
      if (method === 'DELETE') this.entries.splice(at, 1);
      else this.entries[at] = withIds(entry, body);
      return reply(200, { id: entry });
    }
    if (path.endsWith('/entries')) {
      if (body['text'] === 'refuse me') return reply(422, { detail: 'not this one' });
      this.entries.push(withIds(id, body));
      return reply(201, { id });
    }
    if (path.endsWith('/sections')) {
      this.sections.push({ ...body, id });
      return reply(201, { id });
    }
    if (path.endsWith('/pictures')) return reply(201, { id });
    return reply(200, { id: 'f', title: 'F', link: 'l', sections: this.sections, entries: this.entries });
  }
}
function withIds(id: string, body: Stored): Stored {
  const list = (name: string): Stored[] =>
    ((body[name] ?? []) as (Stored | string)[]).map((o, i) => ({ ...(typeof o === 'string' ? { text: o } : o), id: `${id}-${name}-${i}` }));
  const columns = list('columns');
  return {
    ...body,
    id,
    ...(body['options'] !== undefined && { options: list('options') }),
    ...(body['rows'] !== undefined && { columns, rows: list('rows').map((r) => ({ ...r, column: columns[Number(r['column'])]?.id })) }),
  };
}

const job = (set: QuizSet, more: Partial<Job> = {}): Job & { log: string[]; there: Map<string, Sent> } => {
  const there = (more.there as Map<string, Sent> | undefined) ?? new Map<string, Sent>();
  const log: string[] = [];
  return {
    key: 'push',
    title: 'T',
    settings: {},
    set,
    ...piecesOf(set, forms),
    takeOut: false,
    async keep(key: string, sent: Sent, became: Became) {
      if (became === 'taken out') there.delete(key);
      else there.set(key, sent);
      log.push(`${key} ${became}`);
    },
    refused: async (key: string, reason: string) => void log.push(`${key} refused: ${reason}`),
    found: async () => undefined,
    step: async () => undefined,
    ...more,
    there,
    log,
  };
};
const trueFalse = (id: string, stem = `Is ${id} salty?`): ItemOf<'true-false'> => ({ id, kind: 'true-false', stem, points: 1, answer: true });
const ABC: QuizSet = { title: 'T', items: ['a', 'b', 'c'].map((id) => trueFalse(id)) };

/** Brings a set into a form in memory and rehearses it there. */
async function arrived(set: QuizSet): Promise<{ there: Forms; rehearsal: ReturnType<typeof rehearse> }> {
  const there = new Forms();
  const j = job(set);
  await forms.push(there.call, j);
  const bytes = await forms.fetchBack(there.call, 'f');
  const { played } = await forms.play(bytes, new Map([...j.there].map(([key, s]) => [s.remote, key])), means);
  return { there, rehearsal: rehearse(played, set, forms.profile) };
}

describe('the form service', () => {
  // a single pixel
  const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAQAAAC1HAwCAAAAC0lEQVR42mNk+A8AAQUBAScY42YAAAAASUVORK5CYII=';
  test('a picture that stands inside a text, as in sets of the application, goes along; what is no picture stays where it is', async () => {
    const img = (data: string): string => `<p>Which?</p><img src="data:image/png;base64,${data}" alt="a bowl"/>`;
    const { there, rehearsal } = await arrived({ title: 'T', items: [trueFalse('a', img(PIXEL)), trueFalse('b', img(PIXEL)), trueFalse('c', img('AAAA'))] });
    expect(there.requests.filter((r) => r.endsWith('/pictures'))).toHaveLength(1);
    expect(there.entries.map((e) => Boolean(e['picture']))).toEqual([true, true, false]);
    expect(rehearsal.ok).toBe(true);
  });
  test('whatever goes there marks there as it was said to become, for items of every kind', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(anyGraded, { minLength: 1, maxLength: 3 }), async (items) => {
        const set: QuizSet = { title: 'T', items: items.map((i, n) => ({ ...i, id: `i${n}`, stem: `${n} ${i.stem}` })) };
        const { rehearsal } = await arrived(set);
        expect(rehearsal.items.filter((i) => i.verdict === 'differs' || i.verdict === 'missing')).toEqual([]);
      }),
      { numRuns: 200 },
    );
  });
  test('a response to the form is the response to the item that it was made from', async () => {
    await fc.assert(
      fc.asyncProperty(anyGraded, fc.boolean(), async (item, right) => {
        const set: QuizSet = { title: 'T', items: [item] };
        const there = new Forms();
        const j = job(set);
        await forms.push(there.call, j);
        const pieces = j.pieces.map((p) => ({ key: p.key, content: p.content, remote: j.there.get(p.key)?.remote ?? '' }));
        const given = new Map(pieces.map((p) => [p.key, right ? rightResponse(p.content) : wrongResponse(p.content)]));
        const answers = Object.fromEntries(
          pieces.flatMap((p) => {
            const entry = there.entries.find((e) => e.id === p.remote);
            const r = given.get(p.key);
            return entry && r ? [[p.remote, answerTo(entry, p.content, r as unknown as Record<string, unknown>)]] : [];
          }),
        );
        const call: Call = async (m, path, s) =>
          path.includes('/responses')
            ? reply(200, path.endsWith('=') ? { responses: [{ id: 'x', at: 't', name: 'Ada', answers, marks: {} }], next: '1' } : { responses: [], next: '1' })
            : there.call(m, path, s);
        const pulled = await forms.pullResponses?.(call, 'f', pieces, null, means);
        expect(pulled).toMatchObject({ next: '1', responses: [{ id: 'x', name: 'Ada' }] });
        for (const p of pieces) {
          const r = given.get(p.key);
          if (!r) continue;
          expect(mark(p.content, pulled?.responses[0]?.responses[p.key] ?? null).points).toBeCloseTo(mark(p.content, r).points);
        }
      }),
      { numRuns: 200 },
    );
  });
  test('a line that breaks after any request, and is taken up again, doubles and loses nothing', async () => {
    const set: QuizSet = { ...ABC, sections: [{ id: 's', title: 'Part' }], items: ABC.items.map((i) => ({ ...i, section: 's' })) };
    const whole = new Forms();
    await forms.push(whole.call, job(set));
    for (let n = 0; n < whole.requests.length; n++) {
      const there = new Forms();
      const j = job(set);
      there.left = n;
      await expect(forms.push(there.call, j)).rejects.toThrow('the line broke');
      there.left = Infinity;
      await forms.push(there.call, j);
      expect(there.entries.map((e) => e['text'])).toEqual(whole.entries.map((e) => e['text']));
      expect(there.sections).toHaveLength(1);
    }
  });
  test('again: the same is left, what changed is changed, what is new is added, what went is taken out only where that is wanted', async () => {
    const there = new Forms();
    const first = job(ABC);
    await forms.push(there.call, first);
    const next: QuizSet = { title: 'T', items: [trueFalse('a'), trueFalse('b', 'Is b sweet?'), trueFalse('d')] };
    const second = job(next, { there: first.there, container: 'f', key: 'push 2' });
    await forms.push(there.call, second);
    expect(second.log).toEqual(['a same', 'b changed', 'd arrived']);
    expect(there.entries).toHaveLength(4);
    const third = job(next, { there: first.there, container: 'f', key: 'push 3', takeOut: true });
    await forms.push(there.call, third);
    expect(third.log).toEqual(['a same', 'b same', 'd same', 'c taken out']);
    expect(there.entries.map((e) => e['text'])).toEqual(['Is a salty?', 'Is b sweet?', 'Is d salty?']);
    // what somebody took out by hand there comes back
    there.entries.splice(1, 1);
    const fourth = job({ title: 'T', items: [trueFalse('b', 'Is b sour?')] }, { there: first.there, container: 'f', key: 'push 4' });
    await forms.push(there.call, fourth);
    expect(fourth.log).toEqual(['b arrived']);
  });
  test('what stands in a form already stays; new entries go into the part that was chosen, else behind all', async () => {
    const there = new Forms();
    there.entries = [{ id: 'own', kind: 'note', text: 'Mine' }];
    there.sections = [
      { id: 's1', title: 'One' },
      { id: 's2', title: 'Two' },
    ];
    await forms.push(there.call, job(ABC, { container: 'f' }));
    await forms.push(there.call, job({ title: 'T', items: [trueFalse('d')] }, { container: 'f', part: 's1', key: 'other' }));
    expect(there.entries.map((e) => e['section'])).toEqual([undefined, 's2', 's2', 's2', 's1']);
    expect(there.entries[0]).toEqual({ id: 'own', kind: 'note', text: 'Mine' });
  });
  test('one that is refused is told, and the others arrive', async () => {
    const j = job({ title: 'T', items: [trueFalse('a'), trueFalse('b', 'refuse me'), trueFalse('c')] });
    await forms.push(new Forms().call, j);
    expect(j.log).toEqual(['a arrived', 'b refused: not this one', 'c arrived']);
  });
  test('pictures go once, and stand at the question and at options', async () => {
    const hash = 'ab'.repeat(32);
    const img = `<img src="asset:${hash}" alt="a loaf"/>`;
    const item: Item = {
      id: 'p',
      kind: 'multiple-choice',
      points: 1,
      stem: `<p>Which <strong>loaf</strong>?</p>${img}`,
      options: [
        { id: '1', content: img, credit: 1 },
        { id: '2', content: 'none', credit: 0 },
      ],
    };
    const set: QuizSet = { title: 'T', items: [item], assets: { [hash]: { mediaType: 'image/png', name: 'l.png', data: 'AAAA' } } };
    const { there, rehearsal } = await arrived(set);
    expect(there.requests.filter((r) => r.includes('pictures'))).toHaveLength(1);
    const [entry] = there.entries;
    const picture = entry?.['picture'];
    expect(picture).toBeTruthy();
    expect(entry).toMatchObject({ text: 'Which loaf?', options: [{ picture, text: 'a loaf', right: true }, { text: 'none' }] });
    expect(rehearsal.ok).toBe(true);
  });
  test.each<[string, Item, string]>([
    ['no text', trueFalse('x', ' '), 'it has no text'],
    [
      '31 options',
      {
        ...trueFalse('x'),
        kind: 'multiple-choice',
        options: Array.from({ length: 31 }, (_, i) => ({ id: `${i}`, content: `${i}`, credit: i ? 0 : 1 })),
      } as Item,
      '31 options',
    ],
    [
      'a long cell',
      {
        ...trueFalse('x'),
        kind: 'matching',
        pairs: [
          { left: 'l'.repeat(201), right: 'a' },
          { left: 'b', right: 'c' },
        ],
        extraRights: [],
      } as Item,
      '200 characters',
    ],
    ['a range', { ...trueFalse('x'), kind: 'numeric', answers: [{ min: 1, max: 2, credit: 1 }] } as Item, 'range'],
  ])('%s stays here with its reason', (_, item, words) => {
    const { fits } = fitSet({ title: 'T', items: [item] }, forms.profile);
    expect(fits[0]).toMatchObject({ items: [], notes: [{ fit: 'impossible', message: expect.stringContaining(words) }] });
  });
  test('what it cannot carry is told beforehand: half points, long feedback', () => {
    const item: Item = { ...trueFalse('x'), points: 1.5, feedback: { correct: 'f'.repeat(1001) } };
    const [piece] = piecesOf({ title: 'T', items: [item] }, forms).pieces;
    expect(piece?.content).toMatchObject({ points: 2 });
    expect(piece?.content.feedback).toBeUndefined();
    expect(entryOf(piece?.content as Item, () => undefined)).toMatchObject({ kind: 'one', points: 2, options: [{ right: true }, { right: false }] });
  });
  test('an entry without a key is read as one that a person marks or that marks nobody', () => {
    expect(itemOf({ id: 'e', kind: 'paragraph', text: 'Tell.' })).toMatchObject({ kind: 'essay', points: 0 });
    expect(itemOf({ id: 'e', kind: 'note', text: 'Read.', points: 3 })).toMatchObject({ kind: 'information', points: 0 });
  });
});

/** How the form service would keep a response that was given to an item. */
function answerTo(entry: Stored, item: Item, r: Record<string, unknown>): unknown {
  if ('options' in item && Array.isArray(r['options'])) {
    const ids = (r['options'] as string[]).map((id) => `${entry.id}-options-${item.options.findIndex((o) => o.id === id)}`);
    return entry['kind'] === 'one' ? ids[0] : ids;
  }
  if (item.kind === 'matching' && Array.isArray(r['pairs'])) {
    const columns = [...new Set([...item.pairs.map((p) => p.right), ...item.extraRights])];
    return Object.fromEntries(
      (r['pairs'] as (string | null)[]).flatMap((p, i) => (p === null ? [] : [[`${entry.id}-rows-${i}`, `${entry.id}-columns-${columns.indexOf(p)}`]])),
    );
  }
  return r['text'];
}

describe('the course LMS', () => {
  type Request = { method: string; path: string; key?: string | undefined; json?: unknown };
  /** An LMS in memory that answers every import as it is told to. */
  const lmsLine = (status: string): { call: Call; requests: Request[] } => {
    const requests: Request[] = [];
    const call: Call = async (method, path, sending = {}) => {
      requests.push({ method, path, key: sending.key, json: sending.json });
      if (path === '/api/courses')
        return reply(200, {
          courses: [{ id: 'c1', name: 'One', link: 'l', collections: [{ id: 'z', kind: 'quiz', title: 'Z', items: 1, results: 2, link: 'zl' }] }],
        });
      if (path.endsWith('/people')) return reply(200, { people: [{ id: 'p', name: 'Ada' }] });
      if (path.endsWith('/columns') && method === 'GET') return reply(200, { columns: [{ id: 'old' }] });
      if (path.includes('/grades/nobody')) return reply(404, { detail: 'not here' });
      if (method === 'PUT' || method === 'DELETE') return reply(204, {});
      if (path.endsWith('/columns')) return reply(201, { id: 'new' });
      const items = ['a', 'b'].map((id) => ({ identifier: `item-${id}`, title: id, status, message: 'why' }));
      return reply(201, { id: 'q', title: 'T', link: 'l', items: [...items, { title: 'c.xml', status: 'refused', message: 'broken' }] });
    };
    return { call, requests };
  };
  const lmsJob = async (more: Partial<Job> = {}): Promise<ReturnType<typeof job>> => {
    const j = job(ABC, more);
    return Object.assign(j, piecesOf(ABC, lms), { prepared: await lms.prepare?.(ABC, means) });
  };
  test('what was refused of a package is told piece by piece, the rest as the report says', async () => {
    const j = await lmsJob();
    await lms.push(lmsLine('arrived').call, j);
    expect(j.log).toEqual(['a arrived', 'b arrived', 'c refused: broken']);
    expect(j.there.get('a')?.remote).toBe('item-a');
  });
  // a service takes a key for one request only
  test.each<[string, string | undefined, string, string]>([
    ['without a choice, a quiz in the first course', undefined, '/api/courses/c1/imports?as=quiz&title=T', 'push'],
    ['a bank of a course', 'new bank c9', '/api/courses/c9/imports?as=bank&title=T', 'push new%20bank%20c9'],
    ['something that is there', 'q7', '/api/collections/q7/imports', 'push q7'],
  ])('%s', async (_, container, path, key) => {
    const { call, requests } = lmsLine('same');
    await lms.push(call, await lmsJob(container === undefined ? {} : { container }));
    expect(requests.find((r) => r.method === 'POST')).toMatchObject({ path, key });
  });
  test('courses are offered as places for something new, with what stands in them', async () => {
    expect((await lms.containers?.(lmsLine('same').call))?.map((c) => [c.id, c.title, c.holds, c.fresh])).toEqual([
      ['new quiz c1', 'A new quiz in One', '', true],
      ['new bank c1', 'A new bank in One', '', true],
      ['z', 'Z, quiz in One', '1 item, 2 responses', undefined],
    ]);
    expect(await lms.gradebooks?.(lmsLine('same').call)).toEqual([{ id: 'c1', title: 'One', link: 'l', people: [{ id: 'p', name: 'Ada' }] }]);
  });
  test('scores go into the column that is there, else into a new one; who is refused is told', async () => {
    const scores = new Map([
      ['p', 3],
      ['nobody', 1],
    ]);
    const grades = { key: 'k', title: 'T', maximum: 5, scores };
    const known = lmsLine('same');
    expect(await lms.sendScores?.(known.call, 'c1', { ...grades, column: 'old' })).toEqual({ column: 'old', refused: new Map([['nobody', 'not here']]) });
    expect(known.requests.filter((r) => r.method === 'POST')).toEqual([]);
    const gone = lmsLine('same');
    expect((await lms.sendScores?.(gone.call, 'c1', { ...grades, column: 'taken out' }))?.column).toBe('new');
    expect(gone.requests.find((r) => r.method === 'POST')).toMatchObject({ key: 'k', json: { title: 'T', maximum: 5 } });
  });
});

test('every service has its words, and says what it can hold', () => {
  expect(services.map((s) => s.id)).toEqual(Object.keys(serviceRows));
  for (const s of services) expect(profileOf(destinations.find((d) => d.id === s.id) as Destination)).toBe(s.profile);
});

describe('pieces', () => {
  test('a print changes with what goes, and with nothing else', () => {
    const print = (item: Item): string | undefined => piecesOf({ title: 'T', items: [item] }, forms).pieces[0]?.print;
    const item = trueFalse('a');
    expect(print(item)).toBe(print({ ...item, tags: ['not sent'] }));
    expect(print(item)).not.toBe(print({ ...item, answer: false }));
    const { id, kind, ...rest } = item;
    expect(print(item)).toBe(print({ ...rest, kind, id, source: { from: 3, to: 9 } }));
  });
  test('an item that becomes several is as many pieces, all of it', () => {
    const cloze: Item = {
      ...trueFalse('c'),
      kind: 'cloze',
      stem: 'Salt [[1]] and [[2]].',
      gaps: ['1', '2'].map((id) => ({ id, kind: 'text', points: 1, answers: [{ text: 'x', credit: 1 }] })),
    } as Item;
    const { pieces } = piecesOf({ title: 'T', items: [cloze] }, forms);
    expect(pieces.map((p) => p.item)).toEqual(['c', 'c']);
    expect(new Set(pieces.map((p) => p.key)).size).toBe(2);
  });
  test('a refusal is said in the service’s words, or by its status', () => {
    expect(reasonOf(reply(422, { detail: 'too long' }))).toBe('too long');
    expect(reasonOf({ status: 418, ok: false, bytes: new TextEncoder().encode('<html>') })).toBe('the service answered with status 418');
    expect(jsonOf<number[]>(reply(200, [1]))).toEqual([1]);
  });
  test('the smallest service brings pieces with three requests', async () => {
    const kept: string[] = [];
    const add = async (p: Piece): Promise<Reply> => (kept.push(p.name), reply(201, { id: p.key }));
    const j = job(ABC);
    await bringOneByOne(j, { add, change: add, takeOut: async () => reply(204, {}), isPiece: () => true });
    expect(kept).toEqual(['Is a salty?', 'Is b salty?', 'Is c salty?']);
    await expect(forms.push(async () => reply(403, { detail: 'not yours' }), job(ABC, { container: 'x' }))).rejects.toThrow(ServiceRefusal);
  });
});
