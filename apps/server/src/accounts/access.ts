/**
 * Who may call what. Every route says its access; the guard finds the workspace through the thing that the route
 * names and lets in who has the role there. What somebody may not see is "not here" to them.
 */
import { applyDecorators, type CanActivate, createParamDecorator, type ExecutionContext, Injectable, SetMetadata, type Type } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { ApiExtension, ApiResponse } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import type { Request } from 'express';
import { Problem, gone } from '../platform/problem.js';
import { tokenHash } from '../platform/secrets.js';
import { type Account, mayAs, Membership, type Role, Session } from './entities.js';

/** public: anybody; session: who is signed in; a role: who has it, or a higher one, in the workspace concerned. */
export type Needs = 'public' | 'session' | Role;

const KEY = 'zakuska:access';
export const Access = (needs: Needs): MethodDecorator & ClassDecorator =>
  applyDecorators(SetMetadata(KEY, needs), ApiExtension('x-access', needs)) as MethodDecorator & ClassDecorator;

/** What a route answers with, for the OpenAPI document: the return type of a method is lost at run time. */
export const Gives = (type: Type | [Type]): MethodDecorator =>
  ApiResponse(Array.isArray(type) ? { status: '2XX', type: type[0], isArray: true } : { status: '2XX', type });

export interface Signed {
  account: Account;
  session: Session;
}
export type ZakuskaRequest = Request & { signed?: Signed; workspaceId?: string; role?: Role };

export const COOKIE = 'zakuska_session';
export const Me = createParamDecorator((_: unknown, ctx: ExecutionContext): Signed => ctx.switchToHttp().getRequest<ZakuskaRequest>().signed as Signed);
export const WorkspaceId = createParamDecorator(
  (_: unknown, ctx: ExecutionContext): string => ctx.switchToHttp().getRequest<ZakuskaRequest>().workspaceId as string,
);
export const MyRole = createParamDecorator((_: unknown, ctx: ExecutionContext): Role => ctx.switchToHttp().getRequest<ZakuskaRequest>().role as Role);

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

const ofRow =
  (sql: string) =>
  async (em: EntityManager, id: string): Promise<string | undefined> =>
    (await em.getConnection().execute<{ workspace: string }[]>(sql, [id]))[0]?.workspace;
const ofSet = (table: string): ReturnType<typeof ofRow> =>
  ofRow(`select s.workspace_id as workspace from ${table} t join quiz_set s on s.id = t.set_id where t.id = ? and s.deleted_at is null`);

/** How the workspace of a route's parameter is found, without reading more. A new thing with an id of its own gets a row. */
const workspaceOf = new Map<string, (em: EntityManager, id: string) => Promise<string | undefined>>([
  ['workspace', (_, id) => Promise.resolve(id)],
  ['set', ofRow('select workspace_id as workspace from quiz_set where id = ? and deleted_at is null')],
  ['binned', ofRow('select workspace_id as workspace from quiz_set where id = ? and deleted_at is not null')],
  ['delivery', ofSet('delivery')],
  ['push', ofSet('push')],
  ['source', ofSet('source')],
  ['connection', ofRow('select workspace_id as workspace from connection where id = ?')],
]);

@Injectable()
export class AccessGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly em: EntityManager,
  ) {}

  async canActivate(ctx: ExecutionContext): Promise<boolean> {
    const needs = this.reflector.getAllAndOverride<Needs | undefined>(KEY, [ctx.getHandler(), ctx.getClass()]);
    if (!needs) throw new Problem(403, 'no-access-rule', 'This route has no access rule.');
    if (needs === 'public') return true;
    const req = ctx.switchToHttp().getRequest<ZakuskaRequest>();
    const em = this.em.fork();
    const token = (req.cookies as Record<string, string> | undefined)?.[COOKIE];
    const session = token ? await em.findOne(Session, { id: tokenHash(token), expiresAt: { $gt: new Date() } }, { populate: ['account'] }) : null;
    if (!session) throw new Problem(401, 'signed-out', 'You are not signed in, or were signed out. Sign in again; what you typed is kept.');
    req.signed = { session, account: session.account };
    if (!/^(GET|HEAD)$/.test(req.method) && req.headers['x-csrf-token'] !== session.csrf)
      throw new Problem(403, 'csrf', 'The page is older than your session. Reload it.');
    if (needs === 'session') return true;
    const [name, id] = Object.entries(req.params).find(([k]) => workspaceOf.has(k)) ?? [];
    const find = name === undefined ? undefined : workspaceOf.get(name);
    if (!find || typeof id !== 'string') throw new Problem(403, 'no-access-rule', 'This route names nothing that an access rule knows.');
    const workspaceId = UUID.test(id) ? await find(em, id) : undefined;
    const member = workspaceId ? await em.findOne(Membership, { account: session.account.id, workspace: workspaceId }) : null;
    if (!workspaceId || !member) throw gone(name ?? 'thing');
    if (!mayAs(member.role, needs)) throw new Problem(403, 'role', `This needs the role ${needs}; you are ${member.role} here.`);
    req.workspaceId = workspaceId;
    req.role = member.role;
    return true;
  }
}
