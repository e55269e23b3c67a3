/** This server as a tool: its keys, the messages that it checks and those that it signs, tokens for the services of a platform. */
import { Injectable } from '@nestjs/common';
import { EntityManager } from '@mikro-orm/postgresql';
import * as jose from 'jose';
import { LRUCache } from 'lru-cache';
import { outside, type OutsideAnswer, OutsideError } from '../platform/outside.js';
import { Problem } from '../platform/problem.js';
import { decrypt, encrypt, newToken } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { sql } from '../platform/sql.js';
import { LtiKey, type LtiPlatform } from './entities.js';
import { refusedLaunch } from './messages.js';

const ALGORITHM = 'RS256';
/** Seconds that clocks may differ. */
const SKEW = 60;
/** Seconds that a message may be old, whatever it says of its own end. */
const MOST_AGE = 600;

export const at = (path: string): string => `${settings().publicUrl}/api/v1/lti/${path}`;
export const platformAway = (p: Pick<LtiPlatform, 'name'>): Problem =>
  new Problem(502, 'platform-away', `${p.name} does not answer as it should. Check that it runs and that its addresses are right, and try again.`);

/** A request to a platform; what does not come back is told as a platform that is away. */
export async function askPlatform(
  p: Pick<LtiPlatform, 'name'>,
  url: string,
  more: Omit<Parameters<typeof outside>[1], 'allowed'> = {},
): Promise<OutsideAnswer> {
  try {
    return await outside(new URL(url), { ...more, allowed: settings().platformHosts });
  } catch (e) {
    if (e instanceof OutsideError || (e as NodeJS.ErrnoException).code) throw platformAway(p);
    throw e;
  }
}
/** What a platform answered. @throws Problem where it is no JSON */
export function json<T>(a: OutsideAnswer, p: Pick<LtiPlatform, 'name'>): T {
  try {
    return JSON.parse(a.body.toString('utf8')) as T;
  } catch {
    throw platformAway(p);
  }
}

@Injectable()
export class Tool {
  private readonly keySets = new LRUCache<string, { keys: ReturnType<typeof jose.createLocalJWKSet>; at: number }>({ max: 200 });
  private readonly tokens = new LRUCache<string, { value: string; until: number }>({ max: 500 });
  constructor(private readonly em: EntityManager) {}

  /** The key pair; the first process that needs it makes it. */
  private async key(): Promise<LtiKey> {
    const em = this.em.fork();
    const [there] = await em.find(LtiKey, {}, { orderBy: { createdAt: 'asc' }, limit: 1 });
    if (there) return there;
    const { privateKey, publicKey } = await jose.generateKeyPair(ALGORITHM, { extractable: true });
    const id = newToken(12);
    const jwk = { ...(await jose.exportJWK(publicKey)), kid: id, alg: ALGORITHM, use: 'sig' };
    await sql(em, 'insert into lti_key (id, private_sealed, public) select ?, ?, ?::jsonb where not exists (select 1 from lti_key)', [
      id,
      encrypt(await jose.exportPKCS8(privateKey)),
      JSON.stringify(jwk),
    ]);
    return (await em.find(LtiKey, {}, { orderBy: { createdAt: 'asc' }, limit: 1 }))[0] as LtiKey;
  }
  /** What platforms check our signatures with (RFC 7517). */
  async publicKeys(): Promise<{ keys: jose.JWK[] }> {
    return { keys: [(await this.key()).public] };
  }

  /** Signs claims as this tool. @param seconds how long they are good for */
  async sign(payload: jose.JWTPayload, { issuer, audience, seconds }: { issuer: string; audience: string; seconds: number }): Promise<string> {
    const { id, privateSealed } = await this.key();
    return new jose.SignJWT(payload)
      .setProtectedHeader({ alg: ALGORITHM, kid: id, typ: 'JWT' })
      .setIssuer(issuer)
      .setAudience(audience)
      .setIssuedAt()
      .setExpirationTime(`${seconds} s`)
      .setJti(newToken(16))
      .sign(await jose.importPKCS8(decrypt(privateSealed), ALGORITHM));
  }

  /**
   * The claims of a platform's ID token (OpenID Connect Core 3.1.3.7, with the rules of the 1EdTech Security Framework).
   * @throws Problem 403 where it was not signed by the platform, is for somebody else, of another launch, too old, or from the future
   */
  async verified(token: string, p: LtiPlatform, nonce: string): Promise<jose.JWTPayload> {
    const check = async (anew: boolean): Promise<jose.JWTPayload> =>
      (
        await jose.jwtVerify(token, await this.keysOf(p, anew), {
          issuer: p.issuer,
          audience: p.clientId,
          algorithms: [ALGORITHM],
          clockTolerance: SKEW,
          maxTokenAge: MOST_AGE,
          requiredClaims: ['exp', 'iat', 'sub', 'nonce'],
        })
      ).payload;
    let payload: jose.JWTPayload;
    try {
      payload = await check(false).catch((e: unknown) => {
        // a key that is not known yet: the platform may have made a new one
        if (e instanceof jose.errors.JWKSNoMatchingKey) return check(true);
        throw e;
      });
    } catch (e) {
      if (e instanceof Problem) throw e;
      throw refusedLaunch(whyNot(e));
    }
    if (Array.isArray(payload.aud) && payload.aud.length > 1 && payload['azp'] !== p.clientId) throw refusedLaunch('it was made for another tool');
    if (payload['azp'] !== undefined && payload['azp'] !== p.clientId) throw refusedLaunch('it was made for another tool');
    if (payload['nonce'] !== nonce) throw refusedLaunch('it belongs to another launch');
    return payload;
  }

  /** The platform's keys, kept for ten minutes, and fetched anew at most every five seconds where one is missing. */
  private async keysOf(p: LtiPlatform, anew: boolean): Promise<ReturnType<typeof jose.createLocalJWKSet>> {
    const there = this.keySets.get(p.jwksUrl);
    if (there && Date.now() - there.at < (anew ? 5000 : 600_000)) return there.keys;
    const answer = await askPlatform(p, p.jwksUrl, { headers: { accept: 'application/json' } });
    if (answer.status !== 200) throw platformAway(p);
    try {
      const keys = jose.createLocalJWKSet(json<jose.JSONWebKeySet>(answer, p));
      this.keySets.set(p.jwksUrl, { keys, at: Date.now() });
      return keys;
    } catch {
      throw platformAway(p);
    }
  }

  /**
   * An access token for services of the platform: client credentials (RFC 6749, 4.4) with an assertion that this tool signs (RFC 7523).
   * @param fresh where the one that is kept was refused
   */
  async accessToken(p: LtiPlatform, wanted: readonly string[], fresh = false): Promise<string> {
    const scope = [...wanted].sort().join(' ');
    const key = `${p.id} ${scope}`;
    const there = this.tokens.get(key);
    if (there && !fresh && there.until > Date.now()) return there.value;
    const assertion = await this.sign({ sub: p.clientId }, { issuer: p.clientId, audience: p.tokenUrl, seconds: 60 });
    const answer = await askPlatform(p, p.tokenUrl, {
      method: 'POST',
      headers: { 'content-type': 'application/x-www-form-urlencoded', accept: 'application/json' },
      body: new URLSearchParams({
        grant_type: 'client_credentials',
        client_assertion_type: 'urn:ietf:params:oauth:client-assertion-type:jwt-bearer',
        client_assertion: assertion,
        scope,
      }).toString(),
    });
    if (answer.status >= 500) throw platformAway(p);
    const said = answer.status === 200 ? json<{ access_token?: string; expires_in?: number }>(answer, p) : {};
    if (!said.access_token)
      throw new Problem(422, 'platform-refused', `${p.name} gives this tool no access to its scores or names. Register the tool there again.`);
    this.tokens.set(key, { value: said.access_token, until: Date.now() + Math.max(0, (said.expires_in ?? 300) - 30) * 1000 });
    return said.access_token;
  }

  /** A request to a service of the platform, with a token; one that has run out is renewed once. */
  async call(
    p: LtiPlatform,
    wanted: readonly string[],
    url: string,
    { method = 'GET', type, accept, body }: { method?: 'GET' | 'POST'; type?: string; accept?: string; body?: unknown } = {},
  ): Promise<OutsideAnswer> {
    for (let fresh = false; ; fresh = true) {
      const token = await this.accessToken(p, wanted, fresh);
      const answer = await askPlatform(p, url, {
        method,
        headers: { authorization: `Bearer ${token}`, ...(accept && { accept }), ...(type && { 'content-type': type }) },
        ...(body !== undefined && { body: JSON.stringify(body) }),
      });
      if (answer.status !== 401 || fresh) return answer;
    }
  }
}

function whyNot(e: unknown): string {
  if (e instanceof jose.errors.JWTExpired) return 'it is too old';
  if (e instanceof jose.errors.JWTClaimValidationFailed) {
    if (e.claim === 'aud') return 'it was made for another tool';
    if (e.claim === 'iss') return 'it comes from another platform';
    if (e.claim === 'iat' || e.claim === 'nbf') return 'the clock of the platform differs from the clock here';
    return `its claim “${e.claim}” is not as it should be`;
  }
  if (e instanceof jose.errors.JWSSignatureVerificationFailed || e instanceof jose.errors.JWKSNoMatchingKey) return 'the platform did not sign it';
  if (e instanceof jose.errors.JOSEAlgNotAllowed) return 'it is signed in a way that is not taken';
  return 'it cannot be read';
}
