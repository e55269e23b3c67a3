/** Pushes of a set over HTTP: begun, followed, stopped, taken up again. */
import { Body, Controller, Get, HttpCode, type MessageEvent, Param, Post, Sse } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager, LockMode } from '@mikro-orm/postgresql';
import { serviceOf, storable, UNTITLED } from '@zakuska/core';
import { ArrayMaxSize, IsArray, IsBoolean, IsObject, IsOptional, IsString, IsUUID, Length, MaxLength } from 'class-validator';
import { concatMap, distinctUntilChanged, from, map, type Observable, takeWhile } from 'rxjs';
import { Access, Gives, Me, type Signed, WorkspaceId } from '../accounts/access.js';
import { wasDoneWithSet } from '../accounts/audit.js';
import { gone, Problem } from '../platform/problem.js';
import { Documents } from '../sets/documents.js';
import { SetRecord } from '../sets/entities.js';
import { Changes } from '../platform/changes.js';
import { Connection, Placement, Push, type PushAim, type PushReport } from './entities.js';
import { Jobs } from './jobs.js';
import { deliverableSet } from './pushing.js';

class PushBody {
  @ApiProperty() @IsUUID() id!: string;
  @ApiProperty() @IsUUID() connectionId!: string;
  @ApiPropertyOptional({ description: 'A container of the service to add to; something new where it is not said.' })
  @IsOptional()
  @IsString()
  @Length(1, 200)
  container?: string;
  @ApiPropertyOptional({ description: 'The part of the container that new items go into.' }) @IsOptional() @IsString() @Length(1, 200) part?: string;
  @ApiPropertyOptional({ description: 'What something new is called; the title of the set where it is not said.' })
  @IsOptional()
  @IsString()
  @Length(1, 200)
  title?: string;
  @ApiPropertyOptional({ type: 'object', additionalProperties: true, description: 'Settings of something new, by the ids of the service’s.' })
  @IsOptional()
  @IsObject()
  settings?: Record<string, unknown>;
  @ApiPropertyOptional({ type: [String], description: 'Items to send; all where it is not said.' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20_000)
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  items?: string[];
  @ApiPropertyOptional({ description: 'A version of the set by its name; the whole set where it is not said.' })
  @IsOptional()
  @IsString()
  @Length(1, 60)
  version?: string;
  @ApiPropertyOptional({ description: 'One of the further languages of the set (BCP 47), or that with a "+" in front: both, beside one another.' })
  @IsOptional()
  @IsString()
  @Length(2, 36)
  language?: string;
  @ApiPropertyOptional({ description: 'Take out there what was sent before and is not among the items.' }) @IsOptional() @IsBoolean() takeOut?: boolean;
}
export class PushView {
  @ApiProperty() id!: string;
  @ApiProperty() service!: string;
  @ApiPropertyOptional() placementId?: string;
  @ApiProperty({ enum: ['waiting', 'running', 'done', 'failed', 'stopped'] }) state!: Push['state'];
  @ApiProperty() step!: string;
  @ApiProperty() done!: number;
  @ApiProperty() total!: number;
  @ApiProperty() createdAt!: string;
  @ApiProperty({ type: 'object', additionalProperties: true }) report!: PushReport;
}

const view = (p: Push): PushView => ({
  id: p.id,
  service: p.service,
  ...(p.placement && { placementId: p.placement.id }),
  state: p.state,
  step: p.step,
  done: p.done,
  total: p.total,
  createdAt: p.createdAt.toISOString(),
  report: p.report,
});

/** Settings as the service knows them: what is not one of its choices is the usual. */
function settingsOf(service: string, said: Record<string, unknown>): PushAim['settings'] {
  return Object.fromEntries(
    (serviceOf(service)?.settings ?? []).map(({ id, choices, usual }) => {
      const value = said[id];
      const known = choices.length ? choices.some((c) => c.value === value) : typeof value === 'boolean';
      return [id, known ? (value as string | boolean) : usual];
    }),
  );
}

@ApiTags('connections')
@Controller()
export class PushesController {
  constructor(
    private readonly em: EntityManager,
    private readonly jobs: Jobs,
    private readonly changes: Changes,
    private readonly documents: Documents,
  ) {}

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
  async push(@Param('set') setId: string, @Body() body: PushBody, @WorkspaceId() workspaceId: string, @Me() me: Signed): Promise<PushView> {
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
    const snapshot = deliverableSet(document, { chosen: body.items, version: body.version, language: body.language });
    if (!snapshot.items.length) throw new Problem(422, 'nothing-to-deliver', 'There is no item with a key to send.');
    return em.transactional(async (inside) => {
      const { service } = connection;
      // of two that go to one place at once, the second would not see what the first brings
      const placement = body.container
        ? await inside.findOne(Placement, { set: setId, service, container: body.container }, { lockMode: LockMode.PESSIMISTIC_WRITE })
        : null;
      if (placement && (await inside.count(Push, { placement: placement.id, state: { $in: ['waiting', 'running'] } })))
        throw new Problem(409, 'push-under-way', 'Something of this set is on its way there just now. Wait until it has arrived, or stop it.');
      await wasDoneWithSet(inside, setId, { account: me.account.id, what: 'sent to a service', about: { service, title: body.title ?? snapshot.title } });
      const p = inside.create(Push, {
        id: body.id,
        set: inside.getReference(SetRecord, setId),
        connection: inside.getReference(Connection, connection.id),
        service,
        placement,
        snapshot,
        aim: {
          ...(body.container && { container: body.container }),
          ...(body.part && { part: body.part }),
          title: storable(body.title ?? snapshot.title) || UNTITLED,
          settings: settingsOf(service, body.settings ?? {}),
          takeOut: body.takeOut ?? false,
          ...(body.version && { version: body.version }),
          ...(body.language && { language: body.language }),
        },
      });
      await inside.persistAndFlush(p);
      await this.jobs.enqueue(inside, p.id);
      return view(p);
    });
  }

  /** Stops a push where it is. What has arrived stays; it can be taken up again. */
  @Post('pushes/:push/stop')
  @HttpCode(200)
  @Gives(PushView)
  @Access('editor')
  async stop(@Param('push') id: string): Promise<PushView> {
    const em = this.em.fork();
    await em.getConnection().execute(
      `update push set stopping = true,
         state = case when state = 'waiting' then 'stopped' else state end, step = case when state = 'waiting' then 'Stopped' else 'Stopping' end,
         finished_at = case when state = 'waiting' then now() else finished_at end
       where id = ? and state in ('waiting', 'running')`,
      [id],
    );
    return this.one(id);
  }

  /** Takes a push up again that has failed or was stopped: what has arrived is not sent again. */
  @Post('pushes/:push/again')
  @HttpCode(200)
  @Gives(PushView)
  @Access('editor')
  async again(@Param('push') id: string): Promise<PushView> {
    return this.em.fork().transactional(async (em) => {
      const p = await em.findOne(Push, { id }, { populate: ['set'], lockMode: LockMode.PESSIMISTIC_WRITE, lockTableAliases: ['p0'] });
      if (!p) throw gone('push');
      if (p.state !== 'failed' && p.state !== 'stopped') return view(p);
      const connection = await em.findOne(Connection, { workspace: p.set.workspace.id, service: p.service });
      if (!connection) throw new Problem(422, 'connection-ended', 'The service is not connected. Connect it, then try again.');
      const { problem: _p, ...report } = p.report;
      const fresh: Partial<Push> = {
        state: 'waiting',
        step: 'Waiting for a free worker',
        stopping: false,
        tries: 0,
        nextAt: null,
        beat: null,
        finishedAt: null,
      };
      Object.assign(p, { ...fresh, report, connection });
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
