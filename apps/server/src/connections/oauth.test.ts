/** What a service says when a token is renewed: RFC 6749, 5.1 and 5.2, from memory. */
import { serviceOf, type Service } from '@zakuska/core';
import express from 'express';
import { outside } from '../testing/pushes.js';
import { renew } from './oauth.js';

const lms = serviceOf('lms') as Service;
let answer: { status: number; body: object };
let there: Awaited<ReturnType<typeof outside>>;

beforeAll(async () => {
  there = await outside((issuer) => {
    const app = express();
    app.get('/.well-known/oauth-authorization-server', (_q, r) => void r.json({ issuer, token_endpoint: `${issuer}/token` }));
    app.post('/token', (_q, r) => void r.status(answer.status).json(answer.body));
    return app;
  });
  process.env['LMS_URL'] = there.url;
});
afterAll(() => there.close());

const renewed = (status: number, body: object): Promise<object> => {
  answer = { status, body };
  return renew(lms, { accessToken: 'worn', refreshToken: 'kept', expiresAt: 0 });
};

test('a new token is taken, and the old refresh token kept where no new one comes', async () => {
  expect(await renewed(200, { access_token: 'new', token_type: 'Bearer', expires_in: 60 })).toMatchObject({ accessToken: 'new', refreshToken: 'kept' });
  expect(await renewed(200, { access_token: 'new', token_type: 'Bearer', refresh_token: 'next' })).toMatchObject({ refreshToken: 'next' });
});

test.each([
  [400, { error: 'invalid_grant' }, 'connection-ended'],
  [401, { error: 'invalid_client' }, 'connection-ended'],
  [503, { error: 'temporarily_unavailable' }, 'service-away'],
  [500, { error: 'server_error' }, 'service-away'],
  [500, { detail: 'Something went wrong here.' }, 'service-away'],
])('%i %j is told as %s', async (status, body, code) => {
  await expect(renewed(status, body)).rejects.toMatchObject({ response: { code } });
});

test('without a refresh token there is nothing to ask', async () => {
  await expect(renew(lms, { accessToken: 'worn', expiresAt: 0 })).rejects.toMatchObject({ response: { code: 'connection-ended' } });
});
