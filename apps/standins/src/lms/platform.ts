/**
 * The LMS as a platform of LTI 1.3 Advantage: tools register themselves, are put into courses by choosing there what they show, are
 * launched with name and role, and send scores back. Names from the specifications (1EdTech LTI Core 1.3, Deep Linking 2.0, AGS 2.0,
 * NRPS 2.0, Dynamic Registration 1.0), from memory.
 */
import express, { type NextFunction, type Request, type Response } from 'express';
import { createRemoteJWKSet, jwtVerify } from 'jose';
import type Provider from 'oidc-provider';
import { newId } from '../database.js';
import { Refused } from '../once.js';
import { escape, one, type Page } from '../pages.js';
import { Kept, oidcOf, TOOL_SCOPES } from './oidc.js';
import type { Person, Store } from './store.js';

const CLAIM = 'https://purl.imsglobal.org/spec/lti/claim/';
const DL = 'https://purl.imsglobal.org/spec/lti-dl/claim/';
const TOOL = 'https://purl.imsglobal.org/spec/lti-tool-configuration';
const [LINEITEM = '', SCORE = '', MEMBERS = ''] = TOOL_SCOPES;
const ROLE = {
  learner: 'http://purl.imsglobal.org/vocab/lis/v2/membership#Learner',
  teacher: 'http://purl.imsglobal.org/vocab/lis/v2/membership#Instructor',
};
const SELF = 'harbour';
const MEMBERS_PER_PAGE = 20;

interface ToolRow {
  id: string;
  name: string;
  login_url: string;
  target_url: string;
  jwks_url: string;
  deployment: string;
}
interface LinkRow {
  id: string;
  course: string;
  tool: string;
  title: string;
  url: string;
  custom: Record<string, string>;
  grade_column: string | null;
}
interface Hint {
  id: string;
  course: string;
  tool: string;
  link: string | null;
}

export interface Platform {
  /** Links of a course to tools, as HTML, for who teaches there. */
  linksOf(course: string): Promise<string>;
}

export async function platform(app: express.Express, store: Store, publicUrl: string, page: Page): Promise<Platform> {
  const { rows } = store;
  await rows(`
    create table if not exists standin_lms.tool (id text primary key, name text not null, login_url text not null, target_url text not null, jwks_url text not null, deployment text not null, at timestamptz not null default now());
    create table if not exists standin_lms.tool_token (token text primary key, at timestamptz not null default now());
    create table if not exists standin_lms.tool_link (id text primary key, course text not null references standin_lms.course on delete cascade, tool text not null references standin_lms.tool on delete cascade, title text not null, url text not null, custom jsonb not null, grade_column text references standin_lms.grade_column on delete set null, at timestamptz not null default now());
    create table if not exists standin_lms.launch_hint (id text primary key, course text not null, tool text not null, link text, at timestamptz not null default now());
    create table if not exists standin_lms.scored_at (grade_column text not null, person text not null, at timestamptz not null, primary key (grade_column, person));
  `);
  const issuer = `${publicUrl}/oidc`;
  const toolOf = async (id: string): Promise<ToolRow | undefined> => (await rows<ToolRow>('select * from standin_lms.tool where id = $1', [id]))[0];
  const linkOf = async (id: string): Promise<LinkRow | undefined> => (await rows<LinkRow>('select * from standin_lms.tool_link where id = $1', [id]))[0];

  // --- what a message says ---
  const claimsOf = async (id: string, hintId: string) => {
    const [hint] = await rows<Hint>('select * from standin_lms.launch_hint where id = $1', [hintId]);
    const person = hint && (await store.person(hint.course, id));
    const tool = hint && (await toolOf(hint.tool));
    const course = hint && (await store.courses()).find((c) => c.id === hint.course);
    if (!hint || !person || !tool || !course) return { sub: id };
    const link = hint.link === null ? undefined : await linkOf(hint.link);
    const [given = '', ...family] = person.name.split(' ');
    return {
      sub: id,
      name: person.name,
      given_name: given,
      family_name: family.join(' '),
      email: person.mail,
      [`${CLAIM}message_type`]: link ? 'LtiResourceLinkRequest' : 'LtiDeepLinkingRequest',
      [`${CLAIM}version`]: '1.3.0',
      [`${CLAIM}deployment_id`]: tool.deployment,
      [`${CLAIM}target_link_uri`]: link?.url ?? tool.target_url,
      [`${CLAIM}roles`]: [ROLE[person.role]],
      [`${CLAIM}context`]: { id: course.id, title: course.name, label: course.id, type: ['http://purl.imsglobal.org/vocab/lis/v2/course#CourseSection'] },
      [`${CLAIM}tool_platform`]: { guid: 'harbour', name: 'Harbour LMS' },
      'https://purl.imsglobal.org/spec/lti-nrps/claim/namesroleservice': {
        context_memberships_url: `${publicUrl}/lti/courses/${course.id}/members`,
        service_versions: ['2.0'],
      },
      'https://purl.imsglobal.org/spec/lti-ags/claim/endpoint': {
        scope: [LINEITEM, SCORE],
        lineitems: `${publicUrl}/lti/courses/${course.id}/columns`,
        ...(link?.grade_column && { lineitem: `${publicUrl}/lti/columns/${link.grade_column}` }),
      },
      ...(link
        ? { [`${CLAIM}resource_link`]: { id: link.id, title: link.title }, [`${CLAIM}custom`]: link.custom }
        : {
            [`${DL}deep_linking_settings`]: {
              deep_link_return_url: `${publicUrl}/lti/return`,
              accept_types: ['ltiResourceLink'],
              accept_presentation_document_targets: ['window'],
              accept_multiple: true,
              data: hint.id,
            },
          }),
    };
  };
  const provider: Provider = await oidcOf(rows, issuer, claimsOf);
  provider.on('server_error', (_ctx, e) => console.error(e));
  await new Kept(rows, 'Client').upsert(SELF, {
    client_id: SELF,
    application_type: 'native',
    redirect_uris: [`${publicUrl}/lti/signed-in`],
    grant_types: ['implicit'],
    response_types: ['id_token'],
    token_endpoint_auth_method: 'none',
  });
  app.use('/oidc', provider.callback());

  const form = express.urlencoded({ extended: false, limit: '1mb' });

  // --- registration of tools ---
  app.get('/tools', async (q, r) => {
    const all = await rows<ToolRow>('select * from standin_lms.tool order by at');
    r.send(
      page(
        'Tools',
        `${all.length ? `<ul>${all.map((t) => `<li>${escape(t.name)} <small>client ${t.id}, deployment ${t.deployment}</small></li>`).join('')}</ul>` : '<p>No tool is registered yet.</p>'}
        <form method="post" action="/tools"><section><label>Registration address of a tool <input name="address" type="url" size="40" required value="${escape(one(q.query['address']))}"></label></section><button>Register a tool</button></form>`,
      ),
    );
  });
  app.post('/tools', form, async (q, r) => {
    const address = one((q.body as Record<string, unknown>)['address']);
    if (!/^https?:\/\//.test(address)) throw new Refused(422, 'This is no address.');
    const token = newId();
    await rows('insert into standin_lms.tool_token (token) values ($1)', [token]);
    const url = new URL(address);
    url.searchParams.set('openid_configuration', `${publicUrl}/lti/configuration`);
    url.searchParams.set('registration_token', token);
    r.redirect(303, url.href);
  });
  app.get(
    '/lti/configuration',
    (_q, r) =>
      void r.json({
        issuer,
        authorization_endpoint: `${issuer}/auth`,
        token_endpoint: `${issuer}/token`,
        jwks_uri: `${issuer}/jwks`,
        registration_endpoint: `${publicUrl}/lti/registration`,
        scopes_supported: ['openid', ...TOOL_SCOPES],
        response_types_supported: ['id_token'],
        subject_types_supported: ['public'],
        id_token_signing_alg_values_supported: ['RS256'],
        claims_supported: ['sub', 'iss', 'name', 'given_name', 'family_name', 'email'],
        'https://purl.imsglobal.org/spec/lti-platform-configuration': {
          product_family_code: 'Harbour LMS',
          version: '1',
          messages_supported: [{ type: 'LtiResourceLinkRequest' }, { type: 'LtiDeepLinkingRequest' }],
        },
      }),
  );
  app.post('/lti/registration', async (q, r) => {
    const token = /^Bearer (.+)$/.exec(q.headers.authorization ?? '')?.[1] ?? '';
    const known = await rows(`delete from standin_lms.tool_token where token = $1 and at > now() - interval '1 hour' returning token`, [token]);
    if (!known.length) throw new Refused(401, 'This registration was not begun here, or was used already.');
    const b = q.body as Record<string, unknown>;
    const tool = (b[TOOL] ?? {}) as Record<string, unknown>;
    const redirects = Array.isArray(b['redirect_uris']) ? b['redirect_uris'].filter((u): u is string => typeof u === 'string') : [];
    if (!redirects.length || !one(b['initiate_login_uri']) || !one(b['jwks_uri']))
      throw new Refused(400, 'A tool has addresses to begin a launch, for messages, and for its keys.');
    const [id, deployment] = [newId(), newId()];
    const scope = one(b['scope'])
      .split(' ')
      .filter((s) => TOOL_SCOPES.includes(s));
    const client = {
      client_id: id,
      client_name: one(b['client_name']).slice(0, 100) || 'A tool',
      // oidc-provider takes addresses of loopback for native clients only
      application_type: redirects.every((u) => u.startsWith('https:')) ? ('web' as const) : ('native' as const),
      redirect_uris: redirects,
      jwks_uri: one(b['jwks_uri']),
      grant_types: ['implicit', 'client_credentials'],
      response_types: ['id_token' as const],
      token_endpoint_auth_method: 'private_key_jwt' as const,
      scope: ['openid', ...scope].join(' '),
    };
    await new Kept(rows, 'Client').upsert(id, client);
    await rows('insert into standin_lms.tool (id, name, login_url, target_url, jwks_url, deployment) values ($1, $2, $3, $4, $5, $6)', [
      id,
      client.client_name,
      one(b['initiate_login_uri']),
      one(tool['target_link_uri']) || redirects[0],
      client.jwks_uri,
      deployment,
    ]);
    r.json({ ...b, ...client, [TOOL]: { ...tool, deployment_id: deployment } });
  });

  // --- launches: the person signs in at the LMS, then the tool is asked to begin ---
  const begin = async (r: Response, hint: Omit<Hint, 'id'>, person: string): Promise<void> => {
    const id = newId();
    await rows('insert into standin_lms.launch_hint (id, course, tool, link) values ($1, $2, $3, $4)', [id, hint.course, hint.tool, hint.link]);
    // whoever was signed in before in this browser is not any more
    for (const name of ['_session', '_session.legacy']) for (const end of ['', '.sig']) r.clearCookie(name + end, { path: '/' });
    const url = new URL(`${issuer}/auth`);
    const params = { client_id: SELF, response_type: 'id_token', response_mode: 'form_post', scope: 'openid', prompt: 'login' };
    for (const [k, v] of Object.entries({ ...params, redirect_uri: `${publicUrl}/lti/signed-in`, nonce: newId(), state: id, login_hint: person }))
      url.searchParams.set(k, v);
    r.redirect(303, url.href);
  };
  app.get('/lti/sign-in/:uid', async (q, r) => {
    // a simulated LMS believes whoever says who they are
    const { params } = await provider.interactionDetails(q, r);
    await provider.interactionFinished(q, r, { login: { accountId: String(params['login_hint']) } });
  });
  app.post('/lti/signed-in', form, async (q, r) => {
    const b = q.body as Record<string, unknown>;
    const [hint] = await rows<Hint>('select * from standin_lms.launch_hint where id = $1', [one(b['state'])]);
    const tool = hint && (await toolOf(hint.tool));
    if (!hint || !tool) throw new Refused(404, 'This launch is not known.');
    const { payload } = await jwtVerify(one(b['id_token']), createRemoteJWKSet(new URL(`${issuer}/jwks`)), { issuer, audience: SELF });
    const link = hint.link === null ? undefined : await linkOf(hint.link);
    const url = new URL(tool.login_url);
    const message = { iss: issuer, login_hint: String(payload.sub), target_link_uri: link?.url ?? tool.target_url, lti_message_hint: hint.id };
    for (const [k, v] of Object.entries({ ...message, client_id: tool.id, lti_deployment_id: tool.deployment })) url.searchParams.set(k, v);
    r.redirect(303, url.href);
  });
  app.post('/course/:course/add/:tool', form, async (q, r) => {
    const course = one(q.params['course']);
    const teacher = await store.teacher(course);
    if (!teacher || !(await toolOf(one(q.params['tool'])))) throw new Refused(404, 'There is no such course or tool.');
    await begin(r, { course, tool: one(q.params['tool']), link: null }, teacher.id);
  });
  app.get('/link/:link', async (q, r) => {
    const link = await linkOf(one(q.params['link']));
    if (!link) throw new Refused(404, 'There is no such link.');
    const people: Person[] = [...(await store.people(link.course)), ...[await store.teacher(link.course)].filter((p) => p !== undefined)];
    const who = people.map((p) => `<option value="${p.id}">${escape(p.name)}${p.role === 'teacher' ? ' (teaches)' : ''}</option>`).join('');
    r.send(
      page(link.title, `<form method="post"><section><label>Who are you? <select name="person">${who}</select></label></section><button>Open</button></form>`),
    );
  });
  app.post('/link/:link', form, async (q, r) => {
    const link = await linkOf(one(q.params['link']));
    const person = link && (await store.person(link.course, one((q.body as Record<string, unknown>)['person'])));
    if (!link || !person) throw new Refused(404, 'There is no such link or person.');
    await begin(r, { course: link.course, tool: link.tool, link: link.id }, person.id);
  });

  // --- what a person chose in the tool ---
  app.post('/lti/return', form, async (q, r) => {
    const jwt = one((q.body as Record<string, unknown>)['JWT']);
    const claimed = JSON.parse(Buffer.from(jwt.split('.')[1] ?? '', 'base64url').toString('utf8') || '{}') as { iss?: string };
    const tool = await toolOf(String(claimed.iss));
    if (!tool) throw new Refused(401, 'This tool is not registered here.');
    const { payload } = await jwtVerify(jwt, createRemoteJWKSet(new URL(tool.jwks_url)), {
      issuer: tool.id,
      audience: issuer,
      algorithms: ['RS256'],
      requiredClaims: ['nonce', 'exp'],
    });
    const [hint] = await rows<Hint>('select * from standin_lms.launch_hint where id = $1 and tool = $2', [String(payload[`${DL}data`]), tool.id]);
    if (!hint || payload[`${CLAIM}message_type`] !== 'LtiDeepLinkingResponse' || payload[`${CLAIM}deployment_id`] !== tool.deployment)
      throw new Refused(400, 'This is no answer to a choice that was asked for.');
    for (const item of (payload[`${DL}content_items`] ?? []) as Record<string, unknown>[]) {
      if (item['type'] !== 'ltiResourceLink') continue;
      const column = item['lineItem'] as { scoreMaximum?: number; label?: string } | undefined;
      const title = one(item['title']) || tool.name;
      const columnId = column ? await store.addColumn(rows, hint.course, column.label ?? title, Number(column.scoreMaximum ?? 100)) : null;
      await rows('insert into standin_lms.tool_link (id, course, tool, title, url, custom, grade_column) values ($1, $2, $3, $4, $5, $6, $7)', [
        newId(),
        hint.course,
        tool.id,
        title,
        one(item['url']) || tool.target_url,
        item['custom'] ?? {},
        columnId,
      ]);
    }
    r.redirect(303, `/course/${hint.course}`);
  });

  // --- services for tools ---
  const withScope =
    (scope: string) =>
    async (q: Request, r: Response, next: NextFunction): Promise<void> => {
      const token = await provider.ClientCredentials.find(/^Bearer (.+)$/.exec(q.headers.authorization ?? '')?.[1] ?? '');
      if (!token) return void r.status(401).setHeader('www-authenticate', 'Bearer').json({ detail: 'The access token is not known or has run out.' });
      if (!token.scope?.split(' ').includes(scope)) return void r.status(403).json({ detail: 'The token is not good for this.' });
      next();
    };
  const body = express.json({ type: (q) => /json/.test(q.headers['content-type'] ?? ''), limit: '100kb' });
  const columnView = (c: { id: string; title: string; maximum: number }, more: object = {}): object => ({
    id: `${publicUrl}/lti/columns/${c.id}`,
    label: c.title,
    scoreMaximum: c.maximum,
    ...more,
  });
  app.get('/lti/courses/:course/columns', withScope(LINEITEM), async (q, r) => {
    const links = await rows<LinkRow>('select * from standin_lms.tool_link where course = $1', [one(q.params['course'])]);
    const wanted = one(q.query['resource_link_id']);
    const all = (await store.columns(one(q.params['course']))).flatMap((c) => {
      const link = links.find((l) => l.grade_column === c.id);
      return wanted && link?.id !== wanted ? [] : [columnView(c, link && { resourceLinkId: link.id })];
    });
    r.type('application/vnd.ims.lis.v2.lineitemcontainer+json').send(JSON.stringify(all));
  });
  app.post('/lti/courses/:course/columns', withScope(LINEITEM), body, async (q, r) => {
    const { label, scoreMaximum, resourceLinkId, resourceId } = q.body as {
      label?: unknown;
      scoreMaximum?: unknown;
      resourceLinkId?: unknown;
      resourceId?: unknown;
    };
    if (typeof label !== 'string' || !label || typeof scoreMaximum !== 'number' || !(scoreMaximum > 0))
      throw new Refused(400, 'A column has a label and a maximum above 0.');
    const id = await store.addColumn(rows, one(q.params['course']), label.slice(0, 200), scoreMaximum);
    if (typeof resourceLinkId === 'string') await rows('update standin_lms.tool_link set grade_column = $1 where id = $2', [id, resourceLinkId]);
    r.status(201)
      .type('application/vnd.ims.lis.v2.lineitem+json')
      .send(JSON.stringify(columnView({ id, title: label, maximum: scoreMaximum }, { resourceLinkId, resourceId })));
  });
  app.post('/lti/columns/:column/scores', withScope(SCORE), body, async (q, r) => {
    const s = q.body as Record<string, unknown>;
    const [given, maximum] = [Number(s['scoreGiven']), Number(s['scoreMaximum'])];
    const time = new Date(one(s['timestamp']));
    if (!(given >= 0) || !(maximum > 0) || Number.isNaN(time.getTime()) || !one(s['activityProgress']) || !one(s['gradingProgress']))
      throw new Refused(400, 'A score has a timestamp, scoreGiven, scoreMaximum, activityProgress and gradingProgress.');
    const [column, person] = [one(q.params['column']), one(s['userId'])];
    const [of] = await rows<{ maximum: number }>('select maximum from standin_lms.grade_column where id = $1', [column]);
    if (!of) throw new Refused(404, 'There is no such column.');
    const newer = await rows(
      `insert into standin_lms.scored_at values ($1, $2, $3) on conflict (grade_column, person) do update set at = $3 where scored_at.at < $3 returning at`,
      [column, person, time],
    );
    if (!newer.length) throw new Refused(409, 'There is a score that is as new.');
    if (!(await store.grade(column, person, Math.round(((given * of.maximum) / maximum) * 1e4) / 1e4)))
      throw new Refused(422, 'This person is not in the course.');
    r.status(204).end();
  });
  app.get('/lti/courses/:course/members', withScope(MEMBERS), async (q, r) => {
    const course = (await store.courses()).find((c) => c.id === q.params['course']);
    if (!course) throw new Refused(404, 'There is no such course.');
    const all: Person[] = [...(await store.people(course.id)), ...[await store.teacher(course.id)].filter((p) => p !== undefined)];
    const from = Number(one(q.query['from'])) || 0;
    if (from + MEMBERS_PER_PAGE < all.length)
      r.setHeader('link', `<${publicUrl}/lti/courses/${course.id}/members?from=${from + MEMBERS_PER_PAGE}>; rel="next"`);
    const members = all
      .slice(from, from + MEMBERS_PER_PAGE)
      .map((p) => ({ user_id: p.id, name: p.name, email: p.mail, roles: [ROLE[p.role]], status: 'Active' }));
    r.type('application/vnd.ims.lti-nrps.v2.membershipcontainer+json').send(
      JSON.stringify({ id: `${publicUrl}/lti/courses/${course.id}/members`, context: { id: course.id, title: course.name }, members }),
    );
  });

  return {
    async linksOf(course) {
      const links = await rows<LinkRow>('select * from standin_lms.tool_link where course = $1 order by at', [course]);
      const tools = await rows<ToolRow>('select * from standin_lms.tool order by at');
      return `<h2>Activities</h2>${links.length ? `<ul>${links.map((l) => `<li><a href="/link/${l.id}">${escape(l.title)}</a></li>`).join('')}</ul>` : '<p>There is none yet.</p>'}
        ${tools.map((t) => `<form method="post" action="/course/${course}/add/${t.id}"><button>Add from ${escape(t.name)}</button></form>`).join('')}
        <p><a href="/tools">Tools</a></p>`;
    },
  };
}
