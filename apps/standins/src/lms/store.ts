/** What the LMS keeps, in a database schema of its own. */
import pg from 'pg';
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
  private readonly pool: pg.Pool;
  constructor(url: string) {
    this.pool = new pg.Pool({ connectionString: url, max: 5 });
    // a lost connection is made anew with the next statement
    this.pool.on('error', (e) => console.error(`LMS: the database was away (${e.message})`));
  }
  async open(): Promise<void> {
    await this.pool.query(`
      create schema if not exists standin_lms;
      create table if not exists standin_lms.grant_code (code text primary key, account text not null, redirect_uri text not null, challenge text not null, expires_at timestamptz not null);
      create table if not exists standin_lms.token (token text primary key, kind text not null, account text not null, expires_at timestamptz not null);
      create table if not exists standin_lms.quiz (id text primary key, account text not null, idempotency_key text not null, title text not null, content jsonb not null, at timestamptz not null default now(), unique (account, idempotency_key));
      create table if not exists standin_lms.result (id text primary key, quiz text not null references standin_lms.quiz on delete cascade, learner text not null, score double precision not null, maximum double precision not null, detail jsonb not null, at timestamptz not null default now());
    `);
  }
  private async rows<T extends pg.QueryResultRow>(sql: string, values: unknown[]): Promise<T[]> {
    return (await this.pool.query<T>(sql, values)).rows;
  }
  async keepCode(code: string, account: string, redirectUri: string, challenge: string): Promise<void> {
    await this.rows("insert into standin_lms.grant_code values ($1, $2, $3, $4, now() + interval '2 minutes')", [code, account, redirectUri, challenge]);
  }
  /** A code works once. */
  async takeCode(code: string): Promise<{ account: string; redirect_uri: string; challenge: string } | undefined> {
    return (
      await this.rows<{ account: string; redirect_uri: string; challenge: string }>(
        'delete from standin_lms.grant_code where code = $1 and expires_at > now() returning account, redirect_uri, challenge',
        [code],
      )
    )[0];
  }
  async keepToken(token: string, kind: 'access' | 'refresh', account: string, seconds: number): Promise<void> {
    await this.rows("insert into standin_lms.token values ($1, $2, $3, now() + ($4 * interval '1 second'))", [token, kind, account, seconds]);
  }
  async accountOf(token: string, kind: 'access' | 'refresh'): Promise<string | undefined> {
    return (
      await this.rows<{ account: string }>('select account from standin_lms.token where token = $1 and kind = $2 and expires_at > now()', [token, kind])
    )[0]?.account;
  }
  /** Keeps a quiz; the same key of the same account gives the one that is there. */
  async keepQuiz(id: string, account: string, key: string, content: StoredQuiz): Promise<QuizRow> {
    await this.rows(
      'insert into standin_lms.quiz (id, account, idempotency_key, title, content) values ($1, $2, $3, $4, $5) on conflict (account, idempotency_key) do nothing',
      [id, account, key, content.title, JSON.stringify(content)],
    );
    return (await this.rows<QuizRow>('select * from standin_lms.quiz where account = $1 and idempotency_key = $2', [account, key]))[0] as QuizRow;
  }
  async quiz(id: string): Promise<QuizRow | undefined> {
    return (await this.rows<QuizRow>('select * from standin_lms.quiz where id = $1', [id]))[0];
  }
  quizzes(): Promise<QuizRow[]> {
    return this.rows<QuizRow>('select * from standin_lms.quiz order by at desc', []);
  }
  async keepResult(r: Omit<ResultRow, 'at'>): Promise<void> {
    await this.rows('insert into standin_lms.result (id, quiz, learner, score, maximum, detail) values ($1, $2, $3, $4, $5, $6)', [
      r.id,
      r.quiz,
      r.learner,
      r.score,
      r.maximum,
      JSON.stringify(r.detail),
    ]);
  }
  results(quiz: string): Promise<ResultRow[]> {
    return this.rows<ResultRow>('select * from standin_lms.result where quiz = $1 order by at desc', [quiz]);
  }
  close(): Promise<void> {
    return this.pool.end();
  }
}
