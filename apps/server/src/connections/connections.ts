import { Body, Controller, Delete, Get, HttpCode, type MessageEvent, Param, Post, Query, Redirect, Req, Sse } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiTags } from '@nestjs/swagger';
import { EntityManager, LockMode } from '@mikro-orm/postgresql';
import { newId } from '@zakuska/core';
import { IsString, IsUUID, Matches, MaxLength } from 'class-validator';
import { concatMap, distinctUntilChanged, from, map, type Observable, takeWhile } from 'rxjs';
import { Access, Me, type Signed, WorkspaceId, type ZakuskaRequest, Gives } from '../accounts/access.js';
import { Workspace } from '../accounts/entities.js';
import { gone, Problem } from '../platform/problem.js';
import { encrypt, newToken } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { Documents } from '../sets/documents.js';
import { SetRecord } from '../sets/entities.js';
import { adapterOf, adapters } from './adapters.js';
import { Changes } from './changes.js';
import { Authorization, Connection, Push, type PushReport } from './entities.js';
import { Jobs, deliverableSet } from './jobs.js';

class ServiceView {
  @ApiProperty() service!: string;
  @ApiProperty() name!: string;
  @ApiProperty() what!: string;
  @ApiProperty({ required: false }) connectionId?: string;
  @ApiProperty({ required: false }) accountName?: string;
}
class ConnectBody {
  @ApiProperty() @IsString() @MaxLength(40) service!: string;
  @ApiProperty({ description: 'Path in the application to come back to.' }) @IsString() @MaxLength(300) @Matches(/^\/(?!\/)[^\\]*$/) back!: string;
}
class ConnectView {
  @ApiProperty() url!: string;
}
class PushBody {
  @ApiProperty() @IsUUID() id!: string;
  @ApiProperty() @IsUUID() connectionId!: string;
}
class PushView {
  @ApiProperty() id!: string;
  @ApiProperty() service!: string;
  @ApiProperty({ enum: ['waiting', 'running', 'done', 'failed'] }) state!: Push['state'];
  @ApiProperty() step!: string;
  @ApiProperty() done!: number;
  @ApiProperty() total!: number;
  @ApiProperty() createdAt!: string;
  @ApiProperty({ type: 'object', additionalProperties: true }) report!: PushReport;
}

const redirectUri = (): string => `${settings().publicUrl}/api/v1/connections/callback`;

@ApiTags('connections')
@Controller()
export class ConnectionsController {
  constructor(
    private readonly em: EntityManager,
    private readonly jobs: Jobs,
    private readonly changes: Changes,
    private readonly documents: Documents,
  ) {}

  @Get('workspaces/:workspace/services')
  @Gives([ServiceView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async services(@WorkspaceId() workspaceId: string): Promise<ServiceView[]> {
    const known = await this.em.fork().find(Connection, { workspace: workspaceId });
    return adapters.map((a) => {
      const c = known.find((k) => k.service === a.id);
      return { service: a.id, name: a.name, what: a.what, ...(c && { connectionId: c.id, accountName: c.accountName }) };
    });
  }

  @Post('workspaces/:workspace/connections')
  @Gives(ConnectView)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async connect(@WorkspaceId() workspaceId: string, @Body() body: ConnectBody, @Me() me: Signed): Promise<ConnectView> {
    const adapter = adapterOf(body.service);
    if (!adapter) throw new Problem(404, 'unknown-service', 'There is no such service.');
    const state = newToken();
    const { url, verifier } = await adapter.begin(redirectUri(), state);
    const em = this.em.fork();
    await em.persistAndFlush(
      em.create(Authorization, {
        state,
        workspace: em.getReference(Workspace, workspaceId),
        service: adapter.id,
        verifier,
        accountId: me.account.id,
        back: body.back,
      }),
    );
    return { url };
  }

  /** Where the service sends the person back to, with a code to exchange for tokens. */
  @Get('connections/callback')
  @Redirect()
  @Access('session')
  async callback(@Req() req: ZakuskaRequest, @Me() me: Signed, @Query('state') state: string = '', @Query('error') refused?: string): Promise<{ url: string }> {
    const em = this.em.fork();
    const begun = await em.findOne(Authorization, { state, accountId: me.account.id, createdAt: { $gt: new Date(Date.now() - 15 * 60_000) } });
    if (!begun)
      throw new Problem(400, 'authorization-unknown', 'This connection was not begun here, or took longer than 15 minutes. Begin it again on Deliver.');
    await em.nativeDelete(Authorization, { state });
    const back = (said: string): { url: string } => ({ url: `${settings().publicUrl}${begun.back}${begun.back.includes('?') ? '&' : '?'}connection=${said}` });
    const adapter = adapterOf(begun.service);
    if (refused || !adapter) return back('refused');
    const { tokens, accountName } = await adapter.finish(new URL(req.originalUrl, settings().publicUrl), state, begun.verifier);
    const sealed = encrypt(JSON.stringify(tokens));
    const there = await em.findOne(Connection, { workspace: begun.workspace.id, service: adapter.id });
    if (there) Object.assign(there, { sealed, accountName });
    else
      em.persist(em.create(Connection, { id: newId(), workspace: em.getReference(Workspace, begun.workspace.id), service: adapter.id, accountName, sealed }));
    await em.flush();
    return back('made');
  }

  @Delete('connections/:connection')
  @HttpCode(204)
  @Access('editor')
  async disconnect(@Param('connection') id: string): Promise<void> {
    await this.em.fork().nativeDelete(Connection, { id });
  }

  @Get('sets/:set/pushes')
  @Gives([PushView])
  @Access('reader')
  async list(@Param('set') setId: string): Promise<PushView[]> {
    const all = await this.em.fork().find(Push, { set: setId }, { orderBy: { createdAt: 'desc' }, limit: 50 });
    return all.map(view);
  }

  /** Starts a push. The same id again is the same push. */
  @Post('sets/:set/pushes')
  @Gives(PushView)
  @Access('editor')
  async push(@Param('set') setId: string, @Body() body: PushBody, @WorkspaceId() workspaceId: string): Promise<PushView> {
    const em = this.em.fork();
    const there = await em.findOne(Push, { id: body.id, set: setId });
    if (there) {
      // asked again, it is queued again: a job that is there already finds nothing to do
      if (there.state === 'waiting') await this.jobs.enqueue(em, there.id);
      return view(there);
    }
    const connection = await em.findOne(Connection, { id: body.connectionId, workspace: workspaceId });
    if (!connection) throw gone('connection');
    const { document } = await this.documents.read(em, setId);
    if (!deliverableSet(document).items.length) throw new Problem(422, 'nothing-to-deliver', 'There is no item with a key to send.');
    return em.transactional(async (inside) => {
      const p = inside.create(Push, { id: body.id, set: inside.getReference(SetRecord, setId), connection, service: connection.service });
      await inside.persistAndFlush(p);
      await this.jobs.enqueue(inside, p.id);
      return view(p);
    });
  }

  /** Tries a push again that has failed. */
  @Post('pushes/:push/again')
  @HttpCode(200)
  @Gives(PushView)
  @Access('editor')
  async again(@Param('push') id: string): Promise<PushView> {
    return this.em.fork().transactional(async (em) => {
      const p = await em.findOne(Push, { id }, { populate: ['set'], lockMode: LockMode.PESSIMISTIC_WRITE, lockTableAliases: ['p0'] });
      if (!p) throw gone('push');
      if (p.state !== 'failed') return view(p);
      const service = await em.findOne(Connection, { workspace: p.set.workspace.id, service: p.service });
      if (!service) throw new Problem(422, 'connection-ended', 'The service is not connected. Connect it, then try again.');
      Object.assign(p, {
        state: 'waiting',
        step: 'Waiting for a free worker',
        tries: 0,
        nextAt: null,
        beat: null,
        finishedAt: null,
        report: {},
        connection: service,
      });
      await em.flush();
      await this.jobs.enqueue(em, p.id);
      return view(p);
    });
  }

  @Get('pushes/:push')
  @Gives(PushView)
  @Access('reader')
  async one(@Param('push') id: string): Promise<PushView> {
    const p = await this.em.fork().findOne(Push, { id });
    if (!p) throw gone('push');
    return view(p);
  }

  /** Progress as server-sent events, from whichever process works on it. */
  @Sse('pushes/:push/events')
  @Access('reader')
  events(@Param('push') id: string, @Me() me: Signed): Observable<MessageEvent> {
    return this.changes.of(id, me.account.id).pipe(
      concatMap(() => from(this.one(id))),
      distinctUntilChanged((x, y) => JSON.stringify(x) === JSON.stringify(y)),
      takeWhile((p) => p.state === 'waiting' || p.state === 'running', true),
      map((data) => ({ data })),
    );
  }
}

const view = (p: Push): PushView => ({
  id: p.id,
  service: p.service,
  state: p.state,
  step: p.step,
  done: p.done,
  total: p.total,
  createdAt: p.createdAt.toISOString(),
  report: p.report,
});
