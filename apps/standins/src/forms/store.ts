/** What the form service keeps, in a database schema of its own. */
import { type Database, newId } from '../database.js';
import { ServiceStore } from '../serviceStore.js';
import { Refused } from '../once.js';
import type { Answer, Entry } from './marking.js';
import { MOST_ENTRIES } from './openapi.js';

export interface Settings {
  quiz: boolean;
  shows: 'nothing' | 'score' | 'answers';
  asks: 'nobody' | 'name' | 'mail';
  shuffle: boolean;
  once: boolean;
  open: boolean;
}
const USUAL: Settings = { quiz: false, shows: 'score', asks: 'name', shuffle: false, once: false, open: true };
export interface Section {
  id: string;
  title: string;
  text: string;
}
export interface Form {
  id: string;
  account: string;
  title: string;
  description: string;
  settings: Settings;
  sections: Section[];
  entries: Entry[];
}
export interface FormResponse {
  id: string;
  at: Date;
  name: string | null;
  mail: string | null;
  answers: Record<string, Answer>;
  marks: Record<string, number | null>;
  score: number;
  maximum: number;
}
type Rows = Database['rows'];
const PAGE = 25;

/** An entry with ids for all that can be chosen; what stays the same keeps the id that it had. */
function withIds(id: string, body: Record<string, unknown>, before?: Entry): Entry {
  const list = (name: 'options' | 'rows' | 'columns'): { id: string; text: string }[] => {
    const old = new Map(((before as Record<string, unknown> | undefined)?.[name] as { id: string; text: string }[] | undefined)?.map((o) => [o.text, o.id]));
    return ((body[name] ?? []) as ({ text: string } | string)[]).map((o) => {
      const piece = typeof o === 'string' ? { text: o } : o;
      return { ...piece, id: old.get(piece.text) ?? newId() };
    });
  };
  const entry: Record<string, unknown> = { ...body, id };
  if (body['options']) entry['options'] = list('options');
  if (body['rows']) {
    const columns = list('columns');
    entry['columns'] = columns;
    entry['rows'] = (list('rows') as unknown as { column?: number }[]).map(({ column, ...r }) => {
      if (column === undefined) return r;
      if (!columns[column]) throw new Refused(422, `There is no column ${column}.`);
      return { ...r, column: columns[column].id };
    });
  }
  return entry as unknown as Entry;
}

const TABLES = `
      create table if not exists standin_forms.form (id text primary key, account text not null, title text not null, description text not null, settings jsonb not null, at timestamptz not null default now());
      create table if not exists standin_forms.section (id text primary key, form text not null references standin_forms.form on delete cascade, title text not null, text text not null, place bigserial);
      create table if not exists standin_forms.entry (id text primary key, form text not null references standin_forms.form on delete cascade, section text references standin_forms.section, content jsonb not null, place bigserial);
      create table if not exists standin_forms.picture (id text primary key, account text not null, media_type text not null, bytes bytea not null);
      create table if not exists standin_forms.response (id text primary key, form text not null references standin_forms.form on delete cascade, at timestamptz not null default now(), name text, mail text, person text, answers jsonb not null, marks jsonb not null, score double precision not null, maximum double precision not null, place bigserial);
    `;

export class Store extends ServiceStore {
  constructor(url: string) {
    super(url, 'forms', 'standin_forms', TABLES);
  }

  async makeForm(rows: Rows, account: string, body: { title: string; description?: string; settings?: Partial<Settings> }): Promise<string> {
    const id = newId();
    await rows('insert into standin_forms.form (id, account, title, description, settings) values ($1, $2, $3, $4, $5)', [
      id,
      account,
      body.title,
      body.description ?? '',
      { ...USUAL, ...body.settings },
    ]);
    return id;
  }
  async changeForm(form: Form, body: { title?: string; description?: string; settings?: Partial<Settings> }): Promise<void> {
    await this.db.rows('update standin_forms.form set title = $2, description = $3, settings = $4 where id = $1', [
      form.id,
      body.title ?? form.title,
      body.description ?? form.description,
      { ...form.settings, ...body.settings },
    ]);
  }
  async addSection(rows: Rows, form: string, body: { title?: string; text?: string }): Promise<Section> {
    const section = { id: newId(), title: body.title ?? '', text: body.text ?? '' };
    await rows('insert into standin_forms.section (id, form, title, text) values ($1, $2, $3, $4)', [section.id, form, section.title, section.text]);
    return section;
  }
  async addEntry(rows: Rows, account: string, form: string, body: Record<string, unknown>): Promise<Entry> {
    // one after the other, so that the number of entries is right
    await rows('select 1 from standin_forms.form where id = $1 for update', [form]);
    const [count] = await rows<{ n: number }>('select count(*)::int n from standin_forms.entry where form = $1', [form]);
    if ((count?.n ?? 0) >= MOST_ENTRIES) throw new Refused(422, `A form has at most ${MOST_ENTRIES} entries.`);
    await this.known(rows, account, form, body);
    const entry = withIds(newId(), body);
    await rows('insert into standin_forms.entry (id, form, section, content) values ($1, $2, $3, $4)', [entry.id, form, body['section'] ?? null, entry]);
    return entry;
  }
  async changeEntry(account: string, form: string, before: Entry, body: Record<string, unknown>): Promise<Entry> {
    await this.known(this.rows, account, form, body);
    const entry = withIds(before.id, body, before);
    await this.db.rows('update standin_forms.entry set content = $3, section = $4 where id = $1 and form = $2', [
      entry.id,
      form,
      entry,
      body['section'] ?? null,
    ]);
    return entry;
  }
  async removeEntry(form: string, id: string): Promise<void> {
    await this.db.rows('delete from standin_forms.entry where form = $1 and id = $2', [form, id]);
  }
  /** Sections and pictures that an entry names are there. */
  private async known(rows: Rows, account: string, form: string, body: Record<string, unknown>): Promise<void> {
    const pictures = [body, ...((body['options'] as Record<string, unknown>[] | undefined) ?? [])].flatMap((x) => (x['picture'] ? [String(x['picture'])] : []));
    if (body['section'] && !(await rows('select 1 from standin_forms.section where id = $1 and form = $2', [body['section'], form])).length)
      throw new Refused(422, 'There is no such section in this form.');
    for (const p of pictures)
      if (!(await rows('select 1 from standin_forms.picture where id = $1 and account = $2', [p, account])).length)
        throw new Refused(422, 'There is no such picture.');
  }
  async copy(rows: Rows, form: Form): Promise<string> {
    const id = await this.makeForm(rows, form.account, { ...form, title: `${form.title} (copy)`.slice(0, 200) });
    const ids = new Map<string, string>();
    for (const s of form.sections) ids.set(s.id, (await this.addSection(rows, id, s)).id);
    for (const e of form.entries) {
      const section = e.section === undefined ? null : (ids.get(e.section) ?? null);
      const entry = { ...e, id: newId(), ...(section && { section }) };
      await rows('insert into standin_forms.entry (id, form, section, content) values ($1, $2, $3, $4)', [entry.id, id, section, entry]);
    }
    return id;
  }
  async form(id: string, rows: Rows = this.rows): Promise<Form | undefined> {
    const [form] = await rows<Omit<Form, 'sections' | 'entries'>>('select id, account, title, description, settings from standin_forms.form where id = $1', [
      id,
    ]);
    if (!form) return undefined;
    const sections = await rows<Section>('select id, title, text from standin_forms.section where form = $1 order by place', [id]);
    const entries = await rows<{ content: Entry }>(
      `select e.content from standin_forms.entry e left join standin_forms.section s on s.id = e.section where e.form = $1 order by s.place nulls first, e.place`,
      [id],
    );
    return { ...form, sections, entries: entries.map((e) => e.content) };
  }
  forms(account: string, skip: number): Promise<{ id: string; title: string; entries: number; responses: number; sections: Section[] }[]> {
    return this.db.rows(
      `select f.id, f.title, (select count(*)::int from standin_forms.entry e where e.form = f.id) entries,
         (select count(*)::int from standin_forms.response r where r.form = f.id) responses,
         coalesce((select json_agg(json_build_object('id', s.id, 'title', s.title, 'text', s.text) order by s.place) from standin_forms.section s where s.form = f.id), '[]') sections
       from standin_forms.form f where f.account = $1 order by f.at desc, f.id offset $2 limit ${PAGE + 1}`,
      [account, skip],
    );
  }
  async keepPicture(rows: Rows, account: string, mediaType: string, bytes: Buffer): Promise<string> {
    const id = newId();
    await rows('insert into standin_forms.picture values ($1, $2, $3, $4)', [id, account, mediaType, bytes]);
    return id;
  }
  async picture(id: string): Promise<{ media_type: string; bytes: Buffer } | undefined> {
    return (await this.db.rows<{ media_type: string; bytes: Buffer }>('select media_type, bytes from standin_forms.picture where id = $1', [id]))[0];
  }
  /** Keeps what somebody sent; whoever has sent before, in a form that takes one from each, is refused. */
  async keepResponse(form: Form, r: Omit<FormResponse, 'id' | 'at'>): Promise<string> {
    const person = form.settings.once ? (r.mail ?? r.name)?.trim().toLowerCase() : undefined;
    return this.db.together(async (rows) => {
      await rows('select 1 from standin_forms.form where id = $1 for update', [form.id]);
      if (person && (await rows('select 1 from standin_forms.response where form = $1 and person = $2', [form.id, person])).length)
        throw new Refused(409, 'You have answered this form already.');
      const id = newId();
      await rows(
        'insert into standin_forms.response (id, form, name, mail, person, answers, marks, score, maximum) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)',
        [id, form.id, r.name, r.mail, person ?? null, r.answers, r.marks, r.score, r.maximum],
      );
      return id;
    });
  }
  /** Answers behind a place in the order of coming in. */
  responses(form: string, after: number, most = PAGE): Promise<(FormResponse & { place: number })[]> {
    return this.db.rows(
      `select id, at, name, mail, answers, marks, score, maximum, place::int from standin_forms.response r where form = $1 and r.place > $2 order by r.place limit ${most}`,
      [form, after],
    );
  }
}
export const PAGE_SIZE = PAGE;
