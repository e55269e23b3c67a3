/** The course LMS: takes QTI 2.1 packages into quizzes and banks of its courses, gives back what learners did. */
import { coreFormats } from '../formats/index.js';
import { courseLmsProfile } from '../formats/qti/profile.js';
import { itemIdentifier } from '../formats/qti/v2/build.js';
import { writeQtiPackage } from '../formats/qti/v2/package.js';
import { atLetter, gapMarks, letterOf, rightsOf } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import { counted } from '../language/counted.js';
import type { Response } from '../mark/mark.js';
import type { Listed } from '../people/match.js';
import { allPages, type Call, type Container, good, jsonOf, type Pulled, reasonOf, type Service, takeOutRest, wholeKey } from './service.js';
import { serviceRows } from './table.js';

interface Imported {
  id: string;
  title: string;
  link: string;
  items: { identifier?: string; title: string; status: 'arrived' | 'changed' | 'same' | 'refused'; message?: string }[];
}
interface Course {
  id: string;
  name: string;
  link: string;
  /** Absent where the service has no groups. */
  groups?: string[];
  collections: { id: string; kind: 'quiz' | 'bank'; title: string; items: number; results: number; link: string; group?: string | null }[];
}
interface Result {
  id: string;
  at: string;
  learner: string;
  items: { identifier: string; responses: Record<string, string[]>; score: number | null; maximum: number }[];
}

/** What stands for something that is yet to be made: as what, and in which course. */
const NEW = /^new (quiz|bank) (.+)$/;
const at = (collection: string): string => `/api/collections/${encodeURIComponent(collection)}`;
const coursesOf = async (call: Call): Promise<Course[]> => jsonOf<{ courses: Course[] }>(good(await call('GET', '/api/courses'))).courses;

/**
 * A response by the identifiers that the package gave (formats/qti/v2/build.ts): choices by letter, sides as L1 and R1, steps as S1,
 * gaps as RESPONSE_1.
 */
function responseTo(item: Item, given: Record<string, string[]>): Response | null {
  const said = given['RESPONSE'] ?? [];
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return { options: item.options.filter((_, i) => said.includes(letterOf(i))).map((o) => o.id) };
    case 'true-false':
      return said[0] === undefined ? null : { truth: said[0] === 'true' };
    case 'cloze': {
      const gaps = gapMarks(item.stem).map((m, n): [string, string] => {
        const value = given[`RESPONSE_${n + 1}`]?.[0] ?? '';
        const gap = item.gaps.find((g) => g.id === m);
        return [m, gap?.kind === 'choice' ? (atLetter(gap.options, value)?.id ?? '') : value];
      });
      return { gaps: Object.fromEntries(gaps) };
    }
    case 'matching': {
      const rights = rightsOf(item);
      const chosen = new Map(said.map((s): [string, string] => [s.split(' ')[0] ?? '', s.split(' ')[1] ?? '']));
      return { pairs: item.pairs.map((_, i) => rights[Number((chosen.get(`L${i + 1}`) ?? '').slice(1)) - 1] ?? null) };
    }
    case 'ordering':
      return said.length ? { order: said.map((s) => item.sequence[Number(s.slice(1)) - 1] ?? '') } : null;
    case 'information':
      return null;
    default:
      return said[0] === undefined ? null : { text: said[0] };
  }
}

/** The learning management system. */
export const lms: Service = {
  ...serviceRows.lms,
  scope: 'quizzes',
  profile: courseLmsProfile,

  async me(call) {
    return jsonOf<{ name: string }>(good(await call('GET', '/api/me'))).name;
  },

  async containers(call) {
    return (await coursesOf(call)).flatMap((c): Container[] => [
      ...(['quiz', 'bank'] as const).map((kind) => ({
        id: `new ${kind} ${c.id}`,
        title: `A new ${kind} in ${c.name}`,
        holds: '',
        link: '',
        parts: kind === 'quiz' ? (c.groups ?? []).map((g) => ({ id: g, title: g })) : [],
        fresh: true,
      })),
      ...c.collections.map((x) => ({
        id: x.id,
        title: `${x.title}, ${x.kind} in ${c.name}${!x.group ? '' : ` for the ${x.group}`}`,
        holds: x.kind === 'bank' ? counted(x.items, 'item') : `${counted(x.items, 'item')}, ${counted(x.results, 'response')}`,
        link: x.link,
        parts: [],
      })),
    ]);
  },

  prepare: (set) => writeQtiPackage(set, '2.1', courseLmsProfile).bytes,

  async push(call, job) {
    const bytes = job.prepared ?? new Uint8Array();
    await job.step(`Sending ${Math.ceil(bytes.length / 1024)} kB`);
    const [, kind, said] = NEW.exec(job.container ?? '') ?? [];
    // without a choice it is a quiz in the first course
    const course = job.container === undefined ? (await coursesOf(call))[0]?.id : said;
    const path =
      course !== undefined
        ? `/api/courses/${encodeURIComponent(course)}/imports?as=${kind ?? 'quiz'}&title=${encodeURIComponent(job.title)}${kind === 'quiz' && job.part ? `&group=${encodeURIComponent(job.part)}` : ''}`
        : `${at(job.container ?? '')}/imports`;
    const reply = good(await call('POST', path, { bytes, type: 'application/zip', key: wholeKey(job) }));
    await job.step('Reading the import report');
    const { id, title, link, items } = jsonOf<Imported>(reply);
    await job.found({ id, title, link });
    const told = new Map(items.map((i) => [i.identifier, i]));
    for (const piece of job.pieces) {
      const row = told.get(itemIdentifier(piece.content));
      if (row && row.status !== 'refused') await job.keep(piece.key, { remote: itemIdentifier(piece.content), print: piece.print }, row.status);
      else await job.refused(piece.key, row?.message ?? items.find((i) => i.status === 'refused')?.message ?? 'the import report does not name it');
    }
    await takeOutRest(job, (remote) => call('DELETE', `${at(id)}/items/${encodeURIComponent(remote)}`));
  },

  async fetchBack(call, container) {
    return good(await call('GET', `${at(container)}/package`)).bytes;
  },
  play: (bytes) => coreFormats.play(bytes, 'arrived.zip'),

  async pullResponses(call, container, pieces, after) {
    const byIdentifier = new Map(pieces.map((p) => [p.remote, p]));
    const { rows, next } = await allPages(after, async (from) => {
      const page: { results: Result[]; next: string } = jsonOf(good(await call('GET', `${at(container)}/results?after=${encodeURIComponent(from)}`)));
      return { rows: page.results, next: page.next };
    });
    const responses = rows.map(({ id, at: when, learner, items }) => {
      const r: Pulled = { id, at: when, name: learner, responses: {}, points: {} };
      for (const i of items) {
        const piece = byIdentifier.get(i.identifier);
        if (!piece) continue;
        const given = responseTo(piece.content, i.responses);
        if (given) r.responses[piece.key] = given;
        r.points[piece.key] = i.score;
      }
      return r;
    });
    return { responses, next };
  },

  async gradebooks(call) {
    const courses = await coursesOf(call);
    return Promise.all(
      courses.map(async ({ id, name, link }) => {
        const { people } = jsonOf<{ people: Listed[] }>(good(await call('GET', `/api/courses/${encodeURIComponent(id)}/people`)));
        return { id, title: name, link, people };
      }),
    );
  },

  async sendScores(call, gradebook, { column: known, key, title, maximum, scores }) {
    const course = `/api/courses/${encodeURIComponent(gradebook)}`;
    const { columns } = jsonOf<{ columns: { id: string }[] }>(good(await call('GET', `${course}/columns`)));
    // a column that somebody has taken out there is made again
    const there = columns.find((c) => c.id === known)?.id;
    const column = there ?? jsonOf<{ id: string }>(good(await call('POST', `${course}/columns`, { json: { title, maximum }, key }))).id;
    const refused = new Map<string, string>();
    for (const [person, score] of scores) {
      const reply = await call('PUT', `/api/columns/${encodeURIComponent(column)}/grades/${encodeURIComponent(person)}`, { json: { score } });
      if (!reply.ok) refused.set(person, reasonOf(reply));
    }
    return { column, refused };
  },
};
