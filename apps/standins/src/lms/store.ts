/** What the LMS keeps, in a database schema of its own. */
import { type Database, newId } from '../database.js';
import { ServiceStore } from '../serviceStore.js';
import type { StoredQuiz } from './qti.js';

export interface Course {
  id: string;
  name: string;
}
export interface Person {
  id: string;
  name: string;
  mail: string;
  role: 'learner' | 'teacher';
  /** The group of the course that somebody is in; null where a course has none. */
  crowd?: string | null;
}
/** Items in a course: as a quiz that learners take, or kept in a bank. */
export interface Collection {
  id: string;
  course: string;
  kind: 'quiz' | 'bank';
  title: string;
  content: StoredQuiz;
  /** The group that a quiz is for; null for everybody. */
  crowd?: string | null;
}
/** What a learner gave to an item, and what it earned; null where a person marks. */
export interface MarkedItem {
  identifier: string;
  responses: Record<string, string[]>;
  score: number | null;
  maximum: number;
}
export interface ResultRow {
  id: string;
  quiz: string;
  learner: string;
  score: number;
  maximum: number;
  detail: MarkedItem[];
  at: Date;
  place: number;
}
export interface Column {
  id: string;
  course: string;
  title: string;
  maximum: number;
  grades: { person: string; score: number }[];
}
type Rows = Database['rows'];

/** Courses that are there from the start, with made-up people. */
const COURSES: [Course, Person[]][] = [
  [
    { id: 'bread', name: 'Bread and Dough' },
    [
      'Ada Brandt',
      'Mira Castel',
      'Jonas Ferrow',
      'Wen Lindqvist',
      'Thomas Hale',
      'Noor Petrie',
      'Ivy Sandoval',
      'Rafe Dunmore',
      'Sami Orrin',
      'Zoë Halloran',
      'Edda Quill',
      'Luka Marsh',
      'Pia Kessler',
      'Otto Finch',
      'Lena Brook',
      'Amir Vance',
      'Nell Ashby',
      'Hugo Marlow',
      'Tess Rowan',
      'Yara Linden',
      'Finn Calder',
      'Ines Varga',
      'Cole Redfern',
      'Maja Strand',
      'Ravi Thorne',
      'Elsa Winter',
      'Bram Oakes',
      'Lio Farrant',
      'Greta Solis',
    ].map((name, n) => ({ ...person(`b${n}`, name), crowd: n % 2 ? 'Evening group' : 'Morning group' })),
  ],
  [{ id: 'safety', name: 'Kitchen Safety' }, ['Ada Brandt', 'Ida Moor', 'Jonas Reed'].map((name, n) => person(`s${n}`, name))],
];
function person(id: string, name: string): Person {
  return { id, name, mail: `${name.toLowerCase().replace(' ', '.')}@saltmarsh.example`, role: 'learner' };
}

const TABLES = `
      create table if not exists standin_lms.course (id text primary key, name text not null);
      create table if not exists standin_lms.person (id text primary key, course text not null references standin_lms.course on delete cascade, name text not null, mail text not null, role text not null);
      alter table standin_lms.person add column if not exists crowd text;
      create table if not exists standin_lms.collection (id text primary key, course text not null references standin_lms.course on delete cascade, kind text not null, title text not null, content jsonb not null, at timestamptz not null default now());
      alter table standin_lms.collection add column if not exists crowd text;
      create table if not exists standin_lms.handed_in (id text primary key, quiz text not null references standin_lms.collection on delete cascade, learner text not null, score double precision not null, maximum double precision not null, detail jsonb not null, at timestamptz not null default now(), place bigserial);
      create table if not exists standin_lms.grade_column (id text primary key, course text not null references standin_lms.course on delete cascade, title text not null, maximum double precision not null, at timestamptz not null default now());
      create table if not exists standin_lms.grade (grade_column text not null references standin_lms.grade_column on delete cascade, person text not null references standin_lms.person on delete cascade, score double precision not null, at timestamptz not null default now(), primary key (grade_column, person));
    `;

export class Store extends ServiceStore {
  constructor(url: string) {
    super(url, 'LMS', 'standin_lms', TABLES);
  }
  override async open(): Promise<void> {
    await super.open();
    for (const [course, people] of COURSES) {
      await this.db.rows('insert into standin_lms.course values ($1, $2) on conflict do nothing', [course.id, course.name]);
      for (const p of [...people, { ...person(`${course.id}-t`, 'Mary Okafor'), role: 'teacher' as const }])
        await this.db.rows(
          'insert into standin_lms.person (id, course, name, mail, role, crowd) values ($1, $2, $3, $4, $5, $6) on conflict (id) do update set crowd = $6',
          [p.id, course.id, p.name, p.mail, p.role, p.crowd ?? null],
        );
    }
  }
  courses(): Promise<Course[]> {
    return this.rows('select id, name from standin_lms.course order by name');
  }
  /** Who learns there. */
  people(course: string): Promise<Person[]> {
    return this.rows(`select id, name, mail, role, crowd from standin_lms.person where course = $1 and role = 'learner' order by name`, [course]);
  }
  /** The groups that the people of a course are in. */
  async crowds(course: string): Promise<string[]> {
    return [...new Set((await this.people(course)).flatMap((p) => p.crowd ?? []))].sort();
  }
  async teacher(course: string): Promise<Person | undefined> {
    return (await this.rows<Person>(`select id, name, mail, role from standin_lms.person where course = $1 and role = 'teacher' limit 1`, [course]))[0];
  }
  async person(course: string, id: string): Promise<Person | undefined> {
    return (await this.rows<Person>('select id, name, mail, role from standin_lms.person where course = $1 and id = $2', [course, id]))[0];
  }
  /** Of all courses where none is named, newest first. */
  collections(course?: string): Promise<(Omit<Collection, 'content'> & { items: number; results: number })[]> {
    return this.rows(
      `select id, course, kind, title, crowd, jsonb_array_length(content->'items') items, (select count(*)::int from standin_lms.handed_in h where h.quiz = c.id) results
       from standin_lms.collection c where $1::text is null or course = $1 order by at desc, id`,
      [course ?? null],
    );
  }
  async collection(id: string, rows: Rows = this.rows): Promise<Collection | undefined> {
    return (await rows<Collection>('select id, course, kind, title, content, crowd from standin_lms.collection where id = $1', [id]))[0];
  }
  async keep(rows: Rows, c: Collection): Promise<void> {
    await rows(
      'insert into standin_lms.collection (id, course, kind, title, content, crowd) values ($1, $2, $3, $4, $5, $6) on conflict (id) do update set title = $4, content = $5',
      [c.id, c.course, c.kind, c.title, JSON.stringify(c.content), c.crowd ?? null],
    );
  }
  async keepResult(r: Omit<ResultRow, 'at' | 'place'>): Promise<void> {
    await this.rows('insert into standin_lms.handed_in (id, quiz, learner, score, maximum, detail) values ($1, $2, $3, $4, $5, $6)', [
      r.id,
      r.quiz,
      r.learner,
      r.score,
      r.maximum,
      JSON.stringify(r.detail),
    ]);
  }
  /** Behind a place in the order of handing in. */
  results(quiz: string, after = 0, most = 1000): Promise<ResultRow[]> {
    return this.rows(
      `select id, quiz, learner, score, maximum, detail, at, place::int from standin_lms.handed_in h where quiz = $1 and h.place > $2 order by h.place limit ${most}`,
      [quiz, after],
    );
  }
  async columns(course: string): Promise<Column[]> {
    return this.rows(
      `select id, course, title, maximum, coalesce((select json_agg(json_build_object('person', person, 'score', score)) from standin_lms.grade g where g.grade_column = c.id), '[]') grades
       from standin_lms.grade_column c where course = $1 order by at, id`,
      [course],
    );
  }
  async addColumn(rows: Rows, course: string, title: string, maximum: number): Promise<string> {
    const id = newId();
    await rows('insert into standin_lms.grade_column (id, course, title, maximum) values ($1, $2, $3, $4)', [id, course, title, maximum]);
    return id;
  }
  /** Gives a grade; says whether the column and the person are of one course. */
  async grade(column: string, personId: string, score: number): Promise<boolean> {
    const done = await this.rows(
      `insert into standin_lms.grade (grade_column, person, score) select c.id, p.id, $3 from standin_lms.grade_column c join standin_lms.person p on p.course = c.course where c.id = $1 and p.id = $2
       on conflict (grade_column, person) do update set score = $3, at = now() returning person`,
      [column, personId, score],
    );
    return done.length > 0;
  }
}
