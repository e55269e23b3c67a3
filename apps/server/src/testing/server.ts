/** A server on a fresh database of the project's own PostgreSQL, for tests. */
import 'reflect-metadata';
import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { MikroORM } from '@mikro-orm/postgresql';
import request, { type Agent } from 'supertest';

const scripts = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../../../scripts/pg.mjs');

export interface TestServer {
  app: NestExpressApplication;
  orm: MikroORM;
  /** A browser of its own, not signed in. */
  agent(): Agent;
  stop(): Promise<void>;
}

/** Address of an empty database. */
export const freshDatabase = (name: string): string =>
  execFileSync(process.execPath, ['-e', `import(${JSON.stringify(scripts)}).then((pg) => console.log(pg.recreate(${JSON.stringify(name)})))`], {
    encoding: 'utf8',
  }).trim();

export async function startServer(database: string): Promise<TestServer> {
  process.env['DATABASE_URL'] = freshDatabase(database);
  return startAnother();
}

/** One more server on the database of the one before, as a second web process would be. */
export async function startAnother(): Promise<TestServer> {
  process.env['LOG_LEVEL'] ??= 'silent';
  process.env['ZAKUSKA_SECRET'] = 'a secret of the tests, long enough';
  process.env['WEB_ROOT'] = '/nowhere';
  const { AppModule, setUp } = await import('../app.js');
  const app = await NestFactory.create<NestExpressApplication>(AppModule, { logger: false, bodyParser: false });
  await setUp(app);
  await app.init();
  return { app, orm: app.get(MikroORM), agent: () => request.agent(app.getHttpServer()), stop: () => app.close() };
}

/** Signs an agent in and makes it send the session's CSRF token. */
export async function signIn(agent: Agent, email: string, password: string): Promise<{ workspaces: { id: string }[]; csrf: string }> {
  const r = await agent.post('/api/v1/session').send({ email, password }).expect(201);
  const body = r.body as { workspaces: { id: string }[]; csrf: string };
  agent.set('x-csrf-token', body.csrf);
  return body;
}
