/** What the LMS keeps, in a database schema of its own. */
import { Database } from '../database.js';
import { Tokens } from '../oauth.js';
import type { StoredQuiz } from './qti.js';

export interface QuizRow {
  id: string;
  account: string;
  title: string;
  content: StoredQuiz;
}
export interface ResultRow {
  id: string;
  quiz: string;
  learner: string;
  score: number;
  maximum: number;
  detail: { identifier: string; score: number; maximum: number }[];
  at: Date;
}

export class Store {
  readonly tokens: Tokens;
  private readonly db: Database;
  constructor(url: string) {
    this.db = new Database(url, 'LMS');
    this.tokens = new Tokens(this.db, 'standin_lms');
  }
  async open(): Promise<void> {
    await this.tokens.open();
    await this.db.rows(`
      create table if not exists standin_lms.quiz (id text primary key, account text not null, idempotency_key text not null, title text not null, content jsonb not null, at timestamptz not null default now(), unique (account, idempotency_key));
      create table if not exists standin_lms.result (id text primary key, quiz text not null references standin_lms.quiz on delete cascade, learner text not null, score double precision not null, maximum double precision not null, detail jsonb not null, at timestamptz not null default now());
    `);
  }
  /** Keeps a quiz; the same key of the same account gives the one that is there. */
  async keepQuiz(id: string, account: string, key: string, content: StoredQuiz): Promise<QuizRow> {
    await this.db.rows(
      'insert into standin_lms.quiz (id, account, idempotency_key, title, content) values ($1, $2, $3, $4, $5) on conflict (account, idempotency_key) do nothing',
      [id, account, key, content.title, JSON.stringify(content)],
    );
    return (await this.db.rows<QuizRow>('select * from standin_lms.quiz where account = $1 and idempotency_key = $2', [account, key]))[0] as QuizRow;
  }
  async quiz(id: string): Promise<QuizRow | undefined> {
    return (await this.db.rows<QuizRow>('select * from standin_lms.quiz where id = $1', [id]))[0];
  }
  quizzes(): Promise<QuizRow[]> {
    return this.db.rows<QuizRow>('select * from standin_lms.quiz order by at desc', []);
  }
  async keepResult(r: Omit<ResultRow, 'at'>): Promise<void> {
    await this.db.rows('insert into standin_lms.result (id, quiz, learner, score, maximum, detail) values ($1, $2, $3, $4, $5, $6)', [
      r.id,
      r.quiz,
      r.learner,
      r.score,
      r.maximum,
      JSON.stringify(r.detail),
    ]);
  }
  results(quiz: string): Promise<ResultRow[]> {
    return this.db.rows<ResultRow>('select * from standin_lms.result where quiz = $1 order by at desc', [quiz]);
  }
  close(): Promise<void> {
    return this.db.close();
  }
}
