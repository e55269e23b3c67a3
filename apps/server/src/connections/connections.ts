/** Services that a workspace is connected to. */
import { Body, Controller, Delete, Get, HttpCode, Param, Post, Query, Redirect, Req } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { newId, serviceOf, services } from '@zakuska/core';
import { IsString, Matches, MaxLength } from 'class-validator';
import { Access, Gives, Me, type Signed, WorkspaceId, type ZakuskaRequest } from '../accounts/access.js';
import { wasDone } from '../accounts/audit.js';
import { Workspace } from '../accounts/entities.js';
import { gone, Problem } from '../platform/problem.js';
import { encrypt, newToken } from '../platform/secrets.js';
import { serviceThere, settings } from '../platform/settings.js';
import { Authorization, Connection } from './entities.js';
import { lineOf } from './line.js';
import { begin, finish } from './oauth.js';
import { webAddress } from './webAddress.js';

class PartView {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
}
class ContainerView {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty({ description: 'How much stands in it.' }) holds!: string;
  @ApiProperty() link!: string;
  @ApiProperty({ type: [PartView] }) parts!: PartView[];
  @ApiProperty({ required: false, description: 'Is not there yet: choosing it makes it.' }) fresh?: boolean;
}
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
@ApiTags('connections')
@Controller()
export class ConnectionsController {
  constructor(private readonly em: EntityManager) {}

  @Get('workspaces/:workspace/services')
  @Gives([ServiceView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async services(@WorkspaceId() workspaceId: string): Promise<ServiceView[]> {
    const known = await this.em.fork().find(Connection, { workspace: workspaceId });
    const there = services.filter(({ id }) => serviceThere(id) || known.some((k) => k.service === id));
    return there.map(({ id, name, what }) => {
      const c = known.find((k) => k.service === id);
      return { service: id, name, what, ...(c && { connectionId: c.id, accountName: c.accountName }) };
    });
  }

  /** What there is to add to, as the service says it now. */
  @Get('connections/:connection/containers')
  @Gives([ContainerView])
  @Access('reader')
  async containers(@Param('connection') id: string): Promise<ContainerView[]> {
    const em = this.em.fork();
    const connection = await em.findOne(Connection, { id });
    if (!connection) throw gone('connection');
    const service = serviceOf(connection.service);
    if (!service?.containers) return [];
    const all = await service.containers(lineOf(em, service, connection));
    return all.map((c) => ({ ...c, link: webAddress(c.link) }));
  }

  @Post('workspaces/:workspace/connections')
  @Gives(ConnectView)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async connect(@WorkspaceId() workspaceId: string, @Body() body: ConnectBody, @Me() me: Signed): Promise<ConnectView> {
    const service = serviceOf(body.service);
    if (!service) throw new Problem(404, 'unknown-service', 'There is no such service.');
    const state = newToken();
    const { url, verifier } = await begin(service, state);
    const em = this.em.fork();
    await em.persistAndFlush(
      em.create(Authorization, {
        state,
        workspace: em.getReference(Workspace, workspaceId),
        service: service.id,
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
    const service = serviceOf(begun.service);
    if (refused || !service) return back('refused');
    const tokens = await finish(service, new URL(req.originalUrl, settings().publicUrl), state, begun.verifier);
    const sealed = encrypt(JSON.stringify(tokens));
    const there = await em.findOne(Connection, { workspace: begun.workspace.id, service: service.id });
    const made =
      there ?? em.create(Connection, { id: newId(), workspace: em.getReference(Workspace, begun.workspace.id), service: service.id, accountName: '', sealed });
    made.sealed = sealed;
    made.accountName = await service.me(lineOf(em, service, made));
    await em.persistAndFlush(made);
    await wasDone(em, {
      workspace: begun.workspace.id,
      account: me.account.id,
      what: 'service connected',
      about: { service: service.id, as: made.accountName },
    });
    return back('made');
  }

  @Delete('connections/:connection')
  @HttpCode(204)
  @Access('editor')
  async disconnect(@Param('connection') id: string, @WorkspaceId() workspace: string, @Me() me: Signed): Promise<void> {
    const em = this.em.fork();
    const c = await em.findOneOrFail(Connection, { id });
    await em.nativeDelete(Connection, { id });
    await wasDone(em, { workspace, account: me.account.id, what: 'service disconnected', about: { service: c.service, as: c.accountName } });
  }
}
