/**
 * Who may call what. Every route says its access; the guard finds the workspace through the thing that the route
 * names and lets in who has the role there. What somebody may not see is "not here" to them.
 */
import { mayAs, type MemberRole, memberRoles } from '@zakuska/core';
import { applyDecorators, type CanActivate, createParamDecorator, type ExecutionContext, Injectable, SetMetadata, type Type } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { ApiExtension, ApiResponse } from '@nestjs/swagger';
import type { Request } from 'express';
import { Db } from '../platform/db.js';
import { Problem, gone } from '../platform/problem.js';
import { tokenHash } from '../platform/secrets.js';
import type { Account, Session } from './entities.js';

/** public: anybody; session: who is signed in; a role: who has it, or a higher one, in the workspace concerned. */
export type Needs = 'public' | 'session' | MemberRole;

const KEY = 'zakuska:access';
export const Access = (needs: Needs): MethodDecorator & ClassDecorator =>
  applyDecorators(SetMetadata(KEY, needs), ApiExtension('x-access', needs)) as MethodDecorator & ClassDecorator;

/** What a route answers with, for the OpenAPI document: the return type of a method is lost at run time. */
export const Gives = (type: Type | [Type]): MethodDecorator =>
  ApiResponse(Array.isArray(type) ? { status: '2XX', type: type[0], isArray: true } : { status: '2XX', type });

export interface Signed {
  account: Pick<Account, 'id' | 'name' | 'email' | 'searchAddress'>;
  session: Pick<Session, 'id' | 'csrf'>;
}
export type ZakuskaRequest = Request & { signed?: Signed; workspaceId?: string; role?: MemberRole };

export const COOKIE = 'zakuska_session';
export const Me = createParamDecorator((_: unknown, ctx: ExecutionContext): Signed => ctx.switchToHttp().getRequest<ZakuskaRequest>().signed as Signed);
export const WorkspaceId = createParamDecorator(
  (_: unknown, ctx: ExecutionContext): string => ctx.switchToHttp().getRequest<ZakuskaRequest>().workspaceId as string,
);
export const MyRole = createParamDecorator(
  (_: unknown, ctx: ExecutionContext): MemberRole => ctx.switchToHttp().getRequest<ZakuskaRequest>().role as MemberRole,
);

/** What ids of the database look like: others are not looked for. */
export const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

const thing = (table: string): string => `select s.* from ${table} t join quiz_set s on s.id = t.set_id where t.id = $1 and s.deleted_at is null`;
/** How the set of a route's parameter is found. A new thing of a set with an id of its own gets a row. */
const setOf = new Map<string, string>([
  ['set', 'select * from quiz_set where id = $1 and deleted_at is null'],
  ['binned', 'select * from quiz_set where id = $1 and deleted_at is not null'],
  ['delivery', thing('delivery')],
  ['push', thing('push')],
  ['placement', thing('placement')],
  ['source', thing('source')],
  ['ask', thing('ask')],
]);
/** How the workspace of a route's parameter is found, without reading more. */
const workspaceOf = new Map<string, string>([
  ['workspace', 'select $1::uuid as workspace_id'],
  ['platform', 'select workspace_id from lti_platform where id = $1'],
  ['launch', 'select p.workspace_id from lti_launch l join lti_platform p on p.id = l.platform_id where l.id = $1'],
  ['connection', 'select workspace_id from connection where id = $1'],
  ['class', 'select workspace_id from class_list where id = $1'],
]);

/**
 * Sets as `s` with their folder `f`, as a member `m` of their workspace meets them: what `roleOnSet` and `seesSet` speak of.
 * @param me how the statement names the account
 * @param sets a table or statement of sets
 */
export const setsOf = (me: string, sets = 'quiz_set'): string =>
  `${sets} s join membership m on m.workspace_id = s.workspace_id and m.account_id = ${me} left join folder f on f.id = s.folder_id`;
const closed = 's.restricted or coalesce(f.closed, false)';
/**
 * The role of a person on a set, in SQL; null where they may not see it.
 * @param member their role in the workspace
 */
export const roleOnSet = (me: string, member = 'm.role'): string => `role_on(${me}, ${member}, s.owner_id, ${closed}, s.id, f.trail)`;
/** Whether a person may do on a set what a role is needed for, in SQL. */
export const mayOnSet = (me: string, needs: MemberRole): string =>
  `${roleOnSet(me)} in (${memberRoles
    .filter((r) => mayAs(r, needs))
    .map((r) => `'${r}'`)
    .join(', ')})`;
/** Whether a person sees a set; most are open, and the rule is asked of the others only. */
export const seesSet = (me: string, member?: string): string => `(not (${closed}) or ${roleOnSet(me, member)} is not null)`;
/** The role of a person on a folder `f`, or in the workspace where there is none. */
export const roleOnFolder = (me: string): string => `role_on(${me}, m.role, f.owner_id, coalesce(f.closed, false), null, f.trail)`;

/** For each parameter, the statement for the workspace of what it names ($1) and the role of an account ($2) on it. */
const memberOf = new Map<string, string>([
  ...[...setOf].map(([param, set]): [string, string] => [param, `select s.workspace_id, ${roleOnSet('$2')} as role from ${setsOf('$2', `(${set})`)}`]),
  [
    'folder',
    `select f.workspace_id, ${roleOnFolder('$2')} as role from folder f
      join membership m on m.workspace_id = f.workspace_id and m.account_id = $2 where f.id = $1`,
  ],
  ...[...workspaceOf].map(([param, workspace]): [string, string] => [
    param,
    `select m.workspace_id, m.role from membership m where m.account_id = $2 and m.workspace_id = (${workspace})`,
  ]),
]);
/** Who is signed in with a session. */
const SIGNED = `select s.id as session, s.csrf, a.id, a.name, a.email, a.search_address, s.seen_at < now() - interval '5 minutes' as stale from session s join account a on a.id = s.account_id
  where s.id = $1 and s.expires_at > now()`;

@Injectable()
export class AccessGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly db: Db,
  ) {}

  async canActivate(ctx: ExecutionContext): Promise<boolean> {
    const needs = this.reflector.getAllAndOverride<Needs | undefined>(KEY, [ctx.getHandler(), ctx.getClass()]);
    if (!needs) throw new Problem(403, 'no-access-rule', 'This route has no access rule.');
    if (needs === 'public') return true;
    const req = ctx.switchToHttp().getRequest<ZakuskaRequest>();
    const token = (req.cookies as Record<string, string> | undefined)?.[COOKIE];
    const [row] = token
      ? await this.db.rows<{ session: string; csrf: string; id: string; name: string; email: string; search_address: string; stale: boolean }>(SIGNED, [
          tokenHash(token),
        ])
      : [];
    if (!row) throw new Problem(401, 'signed-out', 'You are not signed in, or were signed out. Sign in again; what you typed is kept.');
    const { session, csrf, search_address: searchAddress, stale, ...account } = row;
    if (stale) await this.db.rows('update session set seen_at = now() where id = $1', [session]);
    req.signed = { session: { id: session, csrf }, account: { ...account, searchAddress } };
    if (!/^(GET|HEAD)$/.test(req.method) && req.headers['x-csrf-token'] !== csrf)
      throw new Problem(403, 'csrf', 'The page is older than your session. Reload it.');
    if (needs === 'session') return true;
    const [name, id] = Object.entries(req.params).find(([k]) => memberOf.has(k)) ?? [];
    const find = name === undefined ? undefined : memberOf.get(name);
    if (!find || typeof id !== 'string') throw new Problem(403, 'no-access-rule', 'This route names nothing that an access rule knows.');
    const [member] = UUID.test(id) ? await this.db.rows<{ workspace_id: string; role: MemberRole | null }>(find, [id, account.id]) : [];
    if (!member?.role) throw gone(name ?? 'thing');
    if (!mayAs(member.role, needs)) throw new Problem(403, 'role', `This needs the role ${needs}; you are ${member.role} here.`);
    const workspaceId = member.workspace_id;
    req.workspaceId = workspaceId;
    req.role = member.role;
    return true;
  }
}
