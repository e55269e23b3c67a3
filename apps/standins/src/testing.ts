/** What the tests of the stand-ins share: an empty database, and a person who allows the client. */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Express } from 'express';
import request from 'supertest';

const pg = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../../scripts/pg.mjs');
/** Address of an empty database. */
export const freshDatabase = (name: string): string =>
  execFileSync(process.execPath, ['-e', `import(${JSON.stringify(pg)}).then((pg) => console.log(pg.recreate(${JSON.stringify(name)})))`], {
    encoding: 'utf8',
  }).trim();

export const CALLBACK = 'http://127.0.0.1:3000/api/v1/connections/callback';
export const VERIFIER = 'a-verifier-that-is-long-enough-for-the-standard-0123456789';
export const authorize = {
  response_type: 'code',
  client_id: 'zakuska',
  redirect_uri: CALLBACK,
  state: 'S',
  code_challenge: createHash('sha256').update(VERIFIER).digest('base64url'),
  code_challenge_method: 'S256',
};

/** Tokens of a person who signed in and allowed. */
export async function tokensFor(app: Express, user: string, password: string): Promise<{ access_token: string; refresh_token: string }> {
  const allowed = await request(app)
    .post('/authorize')
    .type('form')
    .send({ ...authorize, user, password, decision: 'allow' })
    .expect(303);
  const code = new URL(allowed.headers['location'] ?? '').searchParams.get('code') ?? '';
  const body = { grant_type: 'authorization_code', redirect_uri: CALLBACK, code_verifier: VERIFIER, client_id: 'zakuska', code };
  return (await request(app).post('/token').type('form').send(body).expect(200)).body as { access_token: string; refresh_token: string };
}
