/**
 * Trouble on demand: makes a stand-in fail as services do, so that clients can be tried. Its control is no part of the service:
 * `PUT /trouble` takes the list of what is to go wrong, in place of the one before.
 */
import express, { type RequestHandler } from 'express';
import type { Tokens } from './oauth.js';

export const troubles = ['error', 'limit', 'silence', 'half', 'lost', 'twice', 'expired', 'revoked'] as const;
export interface Trouble {
  /**
   * error: 500, nothing done; limit: 429 with Retry-After; silence: no answer ever, nothing done; half: done, half of the answer, then
   * the line is cut; lost: done, no answer; twice: delivered twice; expired: access tokens run out; revoked: the person has ended the access.
   */
  kind: (typeof troubles)[number];
  /** So many matching requests go well first. */
  after?: number;
  /** So often it happens; once where it is not said. */
  times?: number;
  method?: string;
  /** Beginning of the path. */
  path?: string;
}

/**
 * The control and what makes the trouble. Stands behind the parsers of bodies and before the routes.
 * @param bodyOf the body of a request as it came in
 */
export function trouble(tokens: Tokens, bodyOf: (q: express.Request) => Buffer | undefined): express.Router {
  const routes = express.Router();
  let list: Required<Trouble>[] = [];
  routes.put('/trouble', (q, r) => {
    const wanted = q.body as Trouble[];
    if (!Array.isArray(wanted) || !wanted.every((t) => troubles.includes(t.kind)))
      return void r.status(400).json({ detail: `A list of ${troubles.join(', ')}.` });
    list = wanted.map((t) => ({ after: 0, times: 1, method: '', path: '/', ...t }));
    r.json(list);
  });
  routes.get('/trouble', (_q, r) => void r.json(list));

  const PASSED = 'x-trouble-passed';
  const make: Record<Trouble['kind'], RequestHandler> = {
    error: (_q, r) => void r.status(500).json({ detail: 'Something went wrong here.' }),
    limit: (_q, r) => void r.status(429).setHeader('retry-after', '1').json({ detail: 'Too many requests.' }),
    silence: () => undefined,
    half: (_q, r, next) => {
      r.end = ((chunk: unknown) => {
        const whole = Buffer.from(chunk as string | Buffer);
        r.write(whole.subarray(0, whole.length >> 1), () => setTimeout(() => r.socket?.destroy(), 20));
        return r;
      }) as typeof r.end;
      next();
    },
    lost: (_q, r, next) => {
      r.end = (() => (r.socket?.destroy(), r)) as typeof r.end;
      next();
    },
    twice: async (q, _r, next) => {
      const headers = Object.fromEntries(Object.entries(q.headers).filter(([k, v]) => typeof v === 'string' && !/^(host|content-length|connection)$/.test(k)));
      const body = bodyOf(q);
      await fetch(`http://127.0.0.1:${q.socket.localPort}${q.originalUrl}`, {
        method: q.method,
        headers: { ...(headers as Record<string, string>), [PASSED]: '1' },
        ...(body && { body: new Uint8Array(body) }),
      });
      next();
    },
    expired: (_q, _r, next) => void tokens.runOut('access').then(() => next(), next),
    revoked: (_q, _r, next) => void Promise.all([tokens.runOut('access'), tokens.runOut('refresh')]).then(() => next(), next),
  };
  routes.use((q, r, next) => {
    const due = q.headers[PASSED] ? undefined : list.find((t) => (!t.method || t.method === q.method) && q.path.startsWith(t.path) && t.times > 0);
    if (!due) return next();
    if (due.after-- > 0) return next();
    due.times--;
    return make[due.kind](q, r, next);
  });
  return routes;
}
