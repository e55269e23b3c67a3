/** What the LMS signs people and tools in with: npm oidc-provider, over tables of the LMS. */
import { generateKeyPair, exportJWK, type JWK } from 'jose';
import Provider, { type AccountClaims, type Adapter, type AdapterPayload, interactionPolicy, type KoaContextWithOIDC } from 'oidc-provider';
import type { Database } from '../database.js';

type Rows = Database['rows'];
/** The adapter that oidc-provider asks for: payloads by model and id. */
export class Kept implements Adapter {
  constructor(
    private readonly rows: Rows,
    private readonly model: string,
  ) {}
  async upsert(id: string, payload: AdapterPayload, expiresIn?: number): Promise<void> {
    await this.rows(
      `insert into standin_lms.oidc values ($1, $2, $3, $4, $5, now() + $6 * interval '1 second')
       on conflict (model, id) do update set payload = $3, uid = $4, grant_id = $5, expires_at = now() + $6 * interval '1 second'`,
      [this.model, id, payload, payload.uid ?? null, payload.grantId ?? null, expiresIn ?? 100 * 365 * 86_400],
    );
  }
  private async one(where: string, value: string): Promise<AdapterPayload | undefined> {
    const [row] = await this.rows<{ payload: AdapterPayload }>(
      `select payload from standin_lms.oidc where model = $1 and ${where} = $2 and expires_at > now()`,
      [this.model, value],
    );
    return row?.payload;
  }
  find(id: string): Promise<AdapterPayload | undefined> {
    return this.one('id', id);
  }
  findByUid(uid: string): Promise<AdapterPayload | undefined> {
    return this.one('uid', uid);
  }
  async findByUserCode(): Promise<undefined> {
    return undefined;
  }
  async consume(id: string): Promise<void> {
    await this.rows(
      `update standin_lms.oidc set payload = payload || jsonb_build_object('consumed', extract(epoch from now())::int) where model = $1 and id = $2`,
      [this.model, id],
    );
  }
  async destroy(id: string): Promise<void> {
    await this.rows('delete from standin_lms.oidc where model = $1 and id = $2', [this.model, id]);
  }
  async revokeByGrantId(grantId: string): Promise<void> {
    await this.rows('delete from standin_lms.oidc where grant_id = $1', [grantId]);
  }
}

/** What an ID token says beyond who it is about, by the hint of the launch. */
export type ClaimsOf = (person: string, hint: string) => Promise<AccountClaims>;

/** All claims that a message may have. */
export const MESSAGE_CLAIMS = [
  ...['message_type', 'version', 'deployment_id', 'target_link_uri', 'resource_link', 'roles', 'context', 'custom', 'tool_platform'].map(
    (c) => `https://purl.imsglobal.org/spec/lti/claim/${c}`,
  ),
  'https://purl.imsglobal.org/spec/lti-dl/claim/deep_linking_settings',
  'https://purl.imsglobal.org/spec/lti-ags/claim/endpoint',
  'https://purl.imsglobal.org/spec/lti-nrps/claim/namesroleservice',
  'name',
  'given_name',
  'family_name',
  'email',
];
/** Scopes that tools may ask for. */
export const TOOL_SCOPES = [
  'https://purl.imsglobal.org/spec/lti-ags/scope/lineitem',
  'https://purl.imsglobal.org/spec/lti-ags/scope/score',
  'https://purl.imsglobal.org/spec/lti-nrps/scope/contextmembership.readonly',
];

/** The key with which messages are signed; made once. */
async function keyOf(rows: Rows): Promise<JWK> {
  const there = async (): Promise<JWK | undefined> => (await rows<{ payload: JWK }>(`select payload from standin_lms.oidc where model = 'key'`))[0]?.payload;
  const known = await there();
  if (known) return known;
  const { privateKey } = await generateKeyPair('RS256', { extractable: true });
  const jwk = { ...(await exportJWK(privateKey)), alg: 'RS256', use: 'sig', kid: 'harbour-1' };
  await rows(`insert into standin_lms.oidc values ('key', 'key', $1, null, null, now() + interval '100 years') on conflict do nothing`, [jwk]);
  return (await there()) ?? jwk;
}

/** @param issuer its address, under which it is mounted */
export async function oidcOf(rows: Rows, issuer: string, claimsOf: ClaimsOf): Promise<Provider> {
  await rows(
    `create table if not exists standin_lms.oidc (model text not null, id text not null, payload jsonb not null, uid text, grant_id text, expires_at timestamptz not null, primary key (model, id))`,
  );
  const policy = interactionPolicy.base();
  // whoever is signed in at the LMS is not asked once more for a tool that the LMS has registered
  policy.get('consent')?.checks.clear();
  const key = await keyOf(rows);
  return new Provider(issuer, {
    adapter: class extends Kept {
      constructor(model: string) {
        super(rows, model);
      }
    },
    // tools of a simulated LMS are on loopback, where the library would not look for their keys
    fetch: (url, { signal, headers, method, body } = {}) =>
      fetch(url, { ...(signal && { signal }), ...(headers && { headers }), ...(method && { method }), ...(body !== undefined && { body }) }),
    jwks: { keys: [key as never] },
    // cookies that only this service has to know again
    cookies: { keys: [String(key['d']).slice(0, 32)], short: { path: '/' } },
    clients: [],
    clientAuthMethods: ['private_key_jwt', 'none'],
    responseTypes: ['id_token'],
    scopes: ['openid', ...TOOL_SCOPES],
    claims: { openid: ['sub', ...MESSAGE_CLAIMS] },
    conformIdTokenClaims: false,
    extraParams: ['lti_message_hint'],
    features: { devInteractions: { enabled: false }, clientCredentials: { enabled: true }, userinfo: { enabled: false } },
    interactions: { policy, url: (_ctx, interaction) => `/lti/sign-in/${interaction.uid}` },
    ttl: { ClientCredentials: 600, Session: 86_400, Interaction: 600, Grant: 86_400, IdToken: 300 },
    findAccount: (ctx: KoaContextWithOIDC, id: string) => ({
      accountId: id,
      claims: () => claimsOf(id, String(ctx.oidc.params?.['lti_message_hint'] ?? '')),
    }),
    async loadExistingGrant(ctx) {
      const { client, session } = ctx.oidc;
      if (!client || !session?.accountId) return undefined;
      const grant = new ctx.oidc.provider.Grant({ clientId: client.clientId, accountId: session.accountId });
      grant.addOIDCScope('openid');
      await grant.save();
      return grant;
    },
  });
}
