/** A form service: its questions, options and grids are plain text with a picture at most, marked by itself when a form is a quiz. */
import { allHeld, holding, type Profile, type Step } from '../fit/profile.js';
import { clozeAsText, numberAsText, orderingAsMatching, trueFalseAsChoice } from '../fit/recast.js';
import { wholePoints } from '../fit/steps.js';
import { bytesOf, pictureIn } from '../formats/pictures.js';
import { rightsOf } from '../item/kinds.js';
import { defaultMatch, type Item, type QuizSet } from '../item/model.js';
import { richFromPlain, richToPlain } from '../item/richText.js';
import { counted } from '../language/counted.js';
import type { Response } from '../mark/mark.js';
import { playSet } from '../rehearse/play.js';
import { showsSame } from '../rehearse/shows.js';
import { actOf, responseOf } from '../rehearse/probes.js';
import { allPages, bringOneByOne, type Call, type Container, good, type Job, jsonOf, type Piece, type Pulled, type Service } from './service.js';
import { serviceRows } from './table.js';

interface Asked {
  id: string;
  text: string;
  points?: number;
  feedback?: { right?: string; wrong?: string };
}
interface Shown {
  id: string;
  text: string;
  right?: boolean;
}
/** An entry as the service gives it. */
type Entry =
  | (Asked & { kind: 'one' | 'several'; options: Shown[] })
  | (Asked & { kind: 'words'; accepted?: string[] })
  | (Asked & { kind: 'paragraph' | 'note' })
  | (Asked & { kind: 'grid'; columns: Shown[]; rows: (Shown & { column?: string })[] });
interface Form {
  id: string;
  title: string;
  link: string;
  copyLink?: string;
  answersLink?: string;
  sections: { id: string; title: string }[];
  entries: Entry[];
}

const MOST = { text: 1500, option: 500, feedback: 1000, accepted: 40, word: 200, grid: 20, cell: 200 };

/** Feedback that is longer than the service takes. */
const shortFeedback: Step = (item) => {
  const { feedback } = item;
  const long = (t: string | undefined): boolean => t !== undefined && richToPlain(t).length > MOST.feedback;
  if (!feedback || !(long(feedback.correct) || long(feedback.incorrect))) return null;
  const kept = Object.fromEntries(Object.entries(feedback).filter(([, v]) => !long(v)));
  const { feedback: _f, ...bare } = item;
  return {
    item: (Object.keys(kept).length ? { ...bare, feedback: kept } : bare) as Item,
    fit: 'lost',
    brief: 'no feedback',
    message: `feedback of more than ${MOST.feedback} characters stays here`,
  };
};

function refuses(item: Item): string | null {
  if (!richToPlain(item.stem).trim()) return 'it has no text';
  if ('options' in item && item.options.length < 2) return 'a choice has at least two options there';
  if ('options' in item && item.options.some((o) => !richToPlain(o.content).trim() && !pictureIn(o.content))) return 'an option has no text';
  if (item.kind === 'short-answer') {
    const texts = item.answers.filter((a) => a.credit > 0).map((a) => a.text);
    if (texts.length > MOST.accepted) return `it has ${texts.length} accepted answers; ${MOST.accepted} are possible there`;
    if (texts.some((t) => t.length > MOST.word)) return `an accepted answer has more than ${MOST.word} characters`;
  }
  if (item.kind === 'matching') {
    const columns = rightsOf(item);
    if (columns.length < 2) return 'there is only one right side to choose from';
    if (Math.max(item.pairs.length, columns.length) > MOST.grid) return `a grid has at most ${MOST.grid} rows and columns there`;
    if ([...item.pairs.map((p) => p.left), ...columns].some((t) => !richToPlain(t).trim() || richToPlain(t).length > MOST.cell))
      return `a side has no text, or more than ${MOST.cell} characters`;
  }
  return null;
}

const profile: Profile = {
  kinds: ['multiple-choice', 'multiple-response', 'short-answer', 'matching', 'essay', 'information'],
  recast: { 'true-false': trueFalseAsChoice, numeric: numberAsText, ordering: orderingAsMatching, cloze: clozeAsText },
  holds: holding(
    allHeld.filter((f) => ['points', 'required', 'section.title', 'section.instructions', 'section.passage'].includes(f)),
    {
      shuffle: ['multiple-choice', 'multiple-response'],
      'feedback.correct': ['multiple-choice', 'multiple-response', 'short-answer', 'matching'],
      'feedback.incorrect': ['multiple-choice', 'multiple-response', 'short-answer', 'matching'],
    },
  ),
  ofSet: ['title'],
  scoring: ['all-or-nothing'],
  credits: 'whole',
  match: [],
  rich: false,
  pictures: 'apart',
  most: { options: 30, question: MOST.text, option: MOST.option },
  refuses,
  furtherSteps: [wholePoints(0, 100), shortFeedback],
};

const wordsOf = (rich: string): string => richToPlain(rich.replace(/<img\b[^<>]*>/g, '')).trim();
/** What stands in for an empty text where only a picture is shown. */
const orPicture = (rich: string): string => wordsOf(rich) || richToPlain(rich).trim() || '·';

/** An item as the service takes it. @param picture the id of a picture that the service has, by its hash */
export function entryOf(item: Item, picture: (hash: string) => string | undefined, section?: string): Record<string, unknown> {
  const shown = (rich: string): { text: string; picture?: string } => {
    const hash = pictureIn(rich);
    const id = hash && picture(hash);
    return { text: orPicture(rich), ...(id && { picture: id }) };
  };
  const base = { ...shown(item.stem), ...(section && { section }) };
  if (item.kind === 'information') return { kind: 'note', ...base };
  const { correct, incorrect } = item.feedback ?? {};
  const asked = {
    ...base,
    points: item.points,
    required: item.required ?? false,
    ...((correct || incorrect) && { feedback: { ...(correct && { right: richToPlain(correct) }), ...(incorrect && { wrong: richToPlain(incorrect) }) } }),
  };
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return {
        kind: item.kind === 'multiple-choice' ? 'one' : 'several',
        ...asked,
        options: item.options.map((o) => ({ ...shown(o.content), right: o.credit > 0 })),
        ...(item.shuffle && { shuffle: true }),
      };
    case 'short-answer':
      return { kind: 'words', ...asked, accepted: item.answers.filter((a) => a.credit > 0).map((a) => a.text) };
    case 'matching': {
      const columns = rightsOf(item);
      return {
        kind: 'grid',
        ...asked,
        columns: columns.map(richToPlain),
        rows: item.pairs.map((p) => ({ text: richToPlain(p.left), column: columns.indexOf(p.right) })),
      };
    }
    default:
      return { kind: 'paragraph', ...asked };
  }
}

/** An entry as an item: what it asks, and how the service marks it. */
export function itemOf(entry: Entry, id = entry.id): Item {
  const base = { id, stem: richFromPlain(entry.text), points: entry.points ?? 0 };
  switch (entry.kind) {
    case 'one':
    case 'several': {
      const options = entry.options.map((o) => ({ id: o.id, content: richFromPlain(o.text), credit: o.right ? 1 : 0 }));
      return entry.kind === 'one' ? { ...base, kind: 'multiple-choice', options } : { ...base, kind: 'multiple-response', scoring: 'all-or-nothing', options };
    }
    case 'words':
      return {
        ...base,
        kind: 'short-answer',
        answers: (entry.accepted ?? []).map((text) => ({ text, credit: 1 })),
        match: { ...defaultMatch, numbersAsValues: false, anyOrder: false },
      };
    case 'grid': {
      const right = (id_: string | undefined): string => richFromPlain(entry.columns.find((c) => c.id === id_)?.text ?? '');
      const used = new Set(entry.rows.map((r) => r.column));
      return {
        ...base,
        kind: 'matching',
        pairs: entry.rows.map((r) => ({ left: richFromPlain(r.text), right: right(r.column) })),
        extraRights: entry.columns.filter((c) => !used.has(c.id)).map((c) => richFromPlain(c.text)),
      };
    }
    case 'note':
      return { ...base, points: 0, kind: 'information' };
    default:
      return { ...base, kind: 'essay' };
  }
}

/** What somebody sent, as a response to the entry as an item. */
function responseTo(entry: Entry, answer: unknown): Response | null {
  if (entry.kind === 'one') return typeof answer === 'string' ? { options: [answer] } : null;
  if (entry.kind === 'several') return Array.isArray(answer) ? { options: answer.map(String) } : null;
  if (entry.kind === 'grid') {
    const given = (answer ?? {}) as Record<string, string>;
    const text = (id: string | undefined): string | null => {
      const column = entry.columns.find((c) => c.id === id);
      return column ? richFromPlain(column.text) : null;
    };
    return { pairs: entry.rows.map((r) => text(given[r.id])) };
  }
  return typeof answer === 'string' ? { text: answer } : null;
}

const at = (form: string): string => `/v1/forms/${encodeURIComponent(form)}`;
const fetchForm = async (call: Call, id: string): Promise<Form> => jsonOf<Form>(good(await call('GET', at(id))));

/** Keys of what is no piece. */
const sectionKey = (id: string): string => `section ${id}`;
const pictureKey = (hash: string): string => `picture ${hash}`;

/** The pictures that are not there yet. */
async function sendPictures(call: Call, job: Job, set: QuizSet): Promise<Map<string, string>> {
  const ids = new Map<string, string>();
  const wanted = new Set(job.pieces.flatMap((p) => [...JSON.stringify(p.content).matchAll(/asset:([0-9a-f]{64})/g)].map((m) => m[1] ?? '')));
  for (const hash of wanted) {
    const asset = set.assets?.[hash];
    const before = job.there.get(pictureKey(hash));
    if (before) ids.set(hash, before.remote);
    if (before || !asset) continue;
    const bytes = bytesOf(asset.data);
    const reply = await call('POST', '/v1/pictures', { bytes, type: asset.mediaType, key: `${job.key} ${hash}` });
    const remote = jsonOf<{ id: string }>(good(reply)).id;
    await job.keep(pictureKey(hash), { remote, print: hash }, 'arrived');
    ids.set(hash, remote);
  }
  return ids;
}

/** The parts of the set as sections of the form: those that its items are in. */
async function sendSections(call: Call, job: Job, form: Form): Promise<Map<string, string>> {
  const ids = new Map<string, string>();
  if (job.part) return ids;
  for (const s of job.fitted.sections ?? []) {
    if (!job.pieces.some((p) => p.content.section === s.id)) continue;
    const before = job.there.get(sectionKey(s.id));
    if (before && form.sections.some((x) => x.id === before.remote)) {
      ids.set(s.id, before.remote);
      continue;
    }
    const text = [s.instructions, s.passage].flatMap((t) => (t ? [richToPlain(t)] : [])).join('\n\n');
    const json = { title: s.title ?? '', text };
    const remote = jsonOf<{ id: string }>(good(await call('POST', `${at(form.id)}/sections`, { json, key: `${job.key} section ${s.id}` }))).id;
    await job.keep(sectionKey(s.id), { remote, print: '' }, 'arrived');
    ids.set(s.id, remote);
  }
  return ids;
}

/** The form service. */
export const forms: Service = {
  ...serviceRows.forms,
  scope: 'forms',
  profile,

  async me(call) {
    return jsonOf<{ name: string }>(good(await call('GET', '/v1/me'))).name;
  },

  async containers(call) {
    type Row = Omit<Form, 'entries'> & { entries: number; responses: number };
    const out: Container[] = [];
    for (let path: string | null = '/v1/forms'; path; ) {
      const list: { forms: Row[]; next?: string } = jsonOf(good(await call('GET', path)));
      for (const f of list.forms)
        out.push({
          id: f.id,
          title: f.title,
          link: f.link,
          holds: `${counted(f.entries, 'entry', 'entries')}, ${counted(f.responses, 'response')}`,
          parts: f.sections.map((s) => ({ id: s.id, title: s.title })),
        });
      path = list.next ? `/v1/forms?after=${encodeURIComponent(list.next)}` : null;
    }
    return out;
  },

  async push(call, job) {
    await job.step(job.container ? 'Looking at the form' : 'Making the form');
    const made = { title: job.title, settings: { ...job.settings, quiz: true } };
    const form = job.container
      ? await fetchForm(call, job.container)
      : jsonOf<Form>(good(await call('POST', '/v1/forms', { json: made, key: `${job.key} form` })));
    const { id, title, link, copyLink, answersLink } = form;
    await job.found({
      id,
      title,
      link,
      links: { ...(copyLink && { 'Copy for a colleague': copyLink }), ...(answersLink && { 'Responses there': answersLink }) },
    });
    const pictures = await sendPictures(call, job, job.fitted);
    const sections = await sendSections(call, job, form);
    // behind all that is there: what has no part goes into the last section of the form
    const last = job.part ?? form.sections.at(-1)?.id;
    const json = (piece: Piece): Record<string, unknown> =>
      entryOf(piece.content, (hash) => pictures.get(hash), sections.get(piece.content.section ?? '') ?? last);
    const entries = `${at(id)}/entries`;
    await bringOneByOne(job, {
      add: (p) => call('POST', entries, { json: json(p), key: `${job.key} ${p.key} ${p.print}` }),
      change: (p, remote) => call('PUT', `${entries}/${encodeURIComponent(remote)}`, { json: json(p) }),
      takeOut: (remote) => call('DELETE', `${entries}/${encodeURIComponent(remote)}`),
      isPiece: (key) => !/^(section|picture) /.test(key),
    });
  },

  async fetchBack(call, container) {
    return good(await call('GET', at(container))).bytes;
  },

  play(bytes, pieces) {
    const { entries } = JSON.parse(new TextDecoder().decode(bytes)) as Form;
    const ours = entries.flatMap((e) => {
      const key = pieces.get(e.id);
      return key === undefined ? [] : [itemOf(e, key)];
    });
    // options with pictures read otherwise there; that each can be chosen is asked all the same
    return { played: playSet({ title: '', items: ours }).map(({ options: _drawn, ...p }) => p) };
  },

  async pullResponses(call, container, pieces, after) {
    const form = await fetchForm(call, container);
    const entries = new Map(form.entries.map((e) => [e.id, e]));
    type Row = Pick<Pulled, 'id' | 'at' | 'name' | 'mail'> & { answers: Record<string, unknown>; marks: Record<string, number | null> };
    const { rows, next } = await allPages(after, async (from) => {
      const page: { responses: Row[]; next: string } = jsonOf(good(await call('GET', `${at(container)}/responses?after=${encodeURIComponent(from)}`)));
      return { rows: page.responses, next: page.next };
    });
    const all = rows.map(({ answers, marks, ...who }): Pulled => {
      const responses: Pulled['responses'] = {};
      const points: Pulled['points'] = {};
      for (const { key, remote, content } of pieces) {
        const entry = entries.get(remote);
        if (remote in marks) points[key] = marks[remote] ?? null;
        const given = entry && responseTo(entry, answers[remote]);
        const act = given && actOf(itemOf(entry), given);
        const ours = act && responseOf(content, act, showsSame);
        if (ours) responses[key] = ours;
      }
      return { ...who, responses, points };
    });
    return { responses: all, next };
  },
};
