/**
 * The line to a service over one connection: brings the token and renews it, waits where the service asks for it, tries again where
 * that is safe. What the services themselves are is in the core.
 */
import type { EntityManager } from '@mikro-orm/postgresql';
import { LockMode } from '@mikro-orm/core';
import type { Call, Reply, Service } from '@zakuska/core';
import { setTimeout as sleep } from 'node:timers/promises';
import { Problem } from '../platform/problem.js';
import { decrypt, encrypt } from '../platform/secrets.js';
import { serviceUrl } from '../platform/settings.js';
import { Connection } from './entities.js';
import { away, ended, renew, type Tokens } from './oauth.js';

/** Waits between tries of one request, in milliseconds. */
const AGAIN = [300, 1000];
/** Seconds that one request may be kept waiting by a service that limits its rate. */
const MOST_WAIT = 300;
/** Milliseconds within which a request is answered. */
const answerWithin = (): number => Number(process.env['SERVICE_TIMEOUT_MS'] ?? 30_000);

const tokensIn = (c: Connection): Tokens => {
  try {
    return JSON.parse(decrypt(c.sealed)) as Tokens;
  } catch {
    throw new Problem(422, 'connection-ended', 'What is kept of the connection cannot be read with the key of this server. Connect the service again.');
  }
};

/**
 * @param told hears what is waited for
 * @param over ends waiting
 */
export function lineOf(em: EntityManager, service: Service, connection: Connection, told: (text: string) => void = () => undefined, over?: AbortSignal): Call {
  let tokens = tokensIn(connection);
  /** Renews under a lock: of two that find a token run out at once, the second takes what the first got. */
  const renewed = async (): Promise<void> => {
    const worn = tokens.accessToken;
    tokens = await em.fork().transactional(async (inside) => {
      const c = await inside.findOne(Connection, { id: connection.id }, { lockMode: LockMode.PESSIMISTIC_WRITE });
      if (!c) throw ended(service);
      const now = tokensIn(c);
      if (now.accessToken !== worn) return now;
      const fresh = await renew(service, now);
      c.sealed = encrypt(JSON.stringify(fresh));
      return fresh;
    });
  };
  return async (method, path, sending = {}): Promise<Reply> => {
    const safe = method !== 'POST' || sending.key !== undefined;
    const body = sending.bytes ? Buffer.from(sending.bytes) : sending.json === undefined ? undefined : JSON.stringify(sending.json);
    let waited = 0;
    let renewals = 0;
    let failures = 0;
    if (tokens.expiresAt < Date.now() + 30_000 && tokens.refreshToken) await renewed();
    for (;;) {
      over?.throwIfAborted();
      let reply: Reply | undefined;
      let retryAfter = NaN;
      try {
        const timeout = AbortSignal.timeout(answerWithin());
        const res = await fetch(serviceUrl(service.id) + path, {
          method,
          redirect: 'error',
          headers: {
            ...sending.headers,
            authorization: `Bearer ${tokens.accessToken}`,
            ...(body !== undefined && { 'content-type': sending.type ?? 'application/json' }),
            ...(sending.key !== undefined && { 'idempotency-key': sending.key }),
          },
          ...(body !== undefined && { body }),
          signal: over ? AbortSignal.any([over, timeout]) : timeout,
        });
        // an answer counts when all of it is here
        reply = { status: res.status, ok: res.ok, bytes: new Uint8Array(await res.arrayBuffer()) };
        retryAfter = Number(res.headers.get('retry-after') ?? NaN);
      } catch {
        over?.throwIfAborted();
      }
      if (reply?.status === 401) {
        if (renewals++) throw ended(service);
        await renewed();
      } else if (reply?.status === 429 || (reply?.status === 503 && retryAfter > 0)) {
        const seconds = Math.max(1, Number.isFinite(retryAfter) ? retryAfter : 5);
        waited += seconds;
        if (waited > MOST_WAIT) throw away(service);
        told(`The service asks to wait ${seconds} s`);
        await sleep(seconds * 1000, undefined, { ...(over && { signal: over }) });
      } else if (!reply || reply.status >= 500) {
        const wait = AGAIN[failures++];
        if (!safe || wait === undefined) throw away(service);
        await sleep(wait, undefined, { ...(over && { signal: over }) });
      } else return reply;
    }
  };
}
