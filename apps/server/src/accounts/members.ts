/** Workspaces, who is a member of them with what role, and who is invited. */
import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post, Put, Query } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { mayAs, type MemberRole, memberRoles } from '@zakuska/core';
import { Transform } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsEmail, IsIn, IsOptional, IsString, IsUUID, Length } from 'class-validator';
import { mailThere } from '../mail/outbox.js';
import { gone, Problem } from '../platform/problem.js';
import { signed, tokenHash } from '../platform/secrets.js';
import { isoOf, sql } from '../platform/sql.js';
import { Access, Gives, Me, MyRole, type Signed, UUID, WorkspaceId } from './access.js';
import { givenName, tidy } from './accounts.js';
import { wasDone } from './audit.js';
import { Account, AccountLink, Membership, Workspace } from './entities.js';
import { handOver, lockMembers } from './leaving.js';
import { AskedIn, type LetterLanguage } from './letters.js';
import { linkAddress, Links, makeWorkspace } from './links.js';
import { RateLimit } from './rateLimit.js';
import { SessionView, Sessions } from './sessions.js';

/** Workspaces of one person. */
const MOST_OWN = 30;
const NAMELESS = 'Give the workspace a name.';
/** Invitations of a workspace within an hour. */
const MOST_INVITED = 300;

class WorkspaceNameBody {
  @ApiProperty() @IsString() @Length(1, 200) name!: string;
}
class InviteBody {
  @ApiProperty({ format: 'uuid', description: 'Of this asking: asked again with the same, nobody gets a second mail.' }) @IsUUID() id!: string;
  @ApiProperty({ type: [String] })
  @Transform(({ value }) => (Array.isArray(value) ? value.map(tidy) : (value as unknown)))
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(100)
  @IsEmail({}, { each: true })
  emails!: string[];
  @ApiProperty({ enum: memberRoles, enumName: 'MemberRole' }) @IsIn(memberRoles) role!: MemberRole;
}
class NewInvitation {
  @ApiProperty() email!: string;
  @ApiPropertyOptional({ description: 'What leads in, shown this once; absent for somebody who is a member already.' }) link?: string;
}
class NewInvitationsView {
  @ApiProperty({ description: 'Whether mails went out, or the links have to be handed over.' }) mailed!: boolean;
  @ApiProperty({ type: [NewInvitation] }) invited!: NewInvitation[];
}
class InvitationView {
  @ApiProperty() id!: string;
  @ApiProperty() email!: string;
  @ApiProperty({ enum: memberRoles, enumName: 'MemberRole' }) role!: MemberRole;
  @ApiProperty() by!: string;
  @ApiProperty() until!: string;
  @ApiProperty({ description: 'Its time is over.' }) over!: boolean;
}
class RoleBody {
  @ApiProperty({ enum: memberRoles, enumName: 'MemberRole' }) @IsIn(memberRoles) role!: MemberRole;
}
class RemoveQuery {
  @ApiPropertyOptional({ description: 'Who gets their sets and folders; else whoever removes them.' }) @IsOptional() @IsUUID() to?: string;
}

@ApiTags('administration')
@Controller('workspaces')
export class MembersController {
  constructor(
    private readonly em: EntityManager,
    private readonly links: Links,
    private readonly limit: RateLimit,
    private readonly sessions: Sessions,
  ) {}

  @Post()
  @Gives(SessionView)
  @Access('session')
  async make(@Body() body: WorkspaceNameBody, @Me() me: Signed): Promise<SessionView> {
    const em = this.em.fork();
    if ((await em.count(Membership, { account: me.account.id, role: 'owner' })) >= MOST_OWN)
      throw new Problem(422, 'workspaces-many', `One person owns up to ${MOST_OWN} workspaces.`);
    await em.transactional(async (t) => makeWorkspace(t, await t.findOneOrFail(Account, { id: me.account.id }), givenName(body.name, NAMELESS)));
    return this.sessions.now(me);
  }

  @Patch(':workspace')
  @Gives(SessionView)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async rename(@WorkspaceId() id: string, @Body() body: WorkspaceNameBody, @Me() me: Signed): Promise<SessionView> {
    const name = givenName(body.name, NAMELESS);
    await this.em.fork().transactional(async (em) => {
      await em.nativeUpdate(Workspace, { id }, { name });
      await wasDone(em, { workspace: id, account: me.account.id, what: 'workspace renamed', about: { to: name } });
    });
    return this.sessions.now(me);
  }

  /** Deletes a workspace with all that is in it; its name says that it is meant. */
  @Delete(':workspace')
  @Gives(SessionView)
  @ApiParam({ name: 'workspace' })
  @Access('owner')
  async remove(@WorkspaceId() id: string, @Query() { name }: WorkspaceNameBody, @Me() me: Signed): Promise<SessionView> {
    const em = this.em.fork();
    const w = await em.findOneOrFail(Workspace, { id });
    if (w.name !== name) throw new Problem(422, 'name-differs', `Type the name of the workspace as it is: ${w.name}`);
    await em.nativeDelete(Workspace, { id });
    return this.sessions.now(me);
  }

  @Get(':workspace/invitations')
  @Gives([InvitationView])
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async invitations(@WorkspaceId() workspace: string): Promise<InvitationView[]> {
    return sql(
      this.em.fork(),
      `select l.id, l.email, l.role, coalesce(a.name, '') as by, ${isoOf('l.expires_at')} as until,
         l.expires_at < now() as over
       from account_link l left join account a on a.id = l.by_id
       where l.workspace_id = ? and l.purpose = 'invitation' and l.used_at is null order by l.email`,
      [workspace],
    );
  }

  /** Invites people by their addresses; who is a member already is left as they are, who was invited before gets a new link. */
  @Post(':workspace/invitations')
  @Gives(NewInvitationsView)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async invite(
    @WorkspaceId() id: string,
    @Body() { id: asking, emails, role }: InviteBody,
    @Me() me: Signed,
    @MyRole() mine: MemberRole,
    @AskedIn() language: LetterLanguage,
  ): Promise<NewInvitationsView> {
    if (!mayAs(mine, role)) throw new Problem(403, 'role', `You give roles up to your own, ${mine}.`);
    const addresses = [...new Set(emails)];
    if ((await this.limit.count(`invited to ${id}`, addresses.length)) > MOST_INVITED)
      throw new Problem(429, 'too-many-tries', `Up to ${MOST_INVITED} people are invited in an hour. Go on later.`, { retryAfter: 3600 });
    const invited = await this.em.fork().transactional(async (em) => {
      // one after the other: who asks again may do so while the first is under way
      await lockMembers(em, id);
      const workspace = await em.findOneOrFail(Workspace, { id });
      const by = await em.findOneOrFail(Account, { id: me.account.id });
      const members = await em.find(Membership, { workspace, account: { email: { $in: addresses } } }, { populate: ['account'] });
      const there = new Set(members.map((m) => m.account.email));
      const out: NewInvitation[] = [];
      for (const email of addresses) {
        // the same again for the same asking
        const token = signed(`invitation ${id} ${asking} ${role} ${email}`);
        if (there.has(email)) out.push({ email });
        else if (await em.count(AccountLink, { id: tokenHash(token) })) out.push({ email, link: linkAddress(token) });
        else {
          out.push({ email, link: await this.links.send(em, { purpose: 'invitation', email, workspace, role, by }, language, token) });
          await wasDone(em, { workspace: id, account: by.id, what: 'invited', about: { who: email, role } });
        }
      }
      return out;
    });
    return { mailed: mailThere(), invited };
  }

  @Delete(':workspace/invitations/:invitation')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async withdraw(@WorkspaceId() workspace: string, @Param('invitation') id: string, @Me() me: Signed): Promise<void> {
    await this.em.fork().transactional(async (em) => {
      const [link] = await sql<{ email: string }>(
        em,
        `delete from account_link where id = ? and workspace_id = ? and purpose = 'invitation' and used_at is null returning email`,
        [id, workspace],
      );
      if (!link) throw gone('invitation');
      await wasDone(em, { workspace, account: me.account.id, what: 'invitation withdrawn', about: { who: link.email } });
    });
  }

  @Put(':workspace/members/:member')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async give(
    @WorkspaceId() workspace: string,
    @Param('member') id: string,
    @Body() { role }: RoleBody,
    @Me() me: Signed,
    @MyRole() mine: MemberRole,
  ): Promise<void> {
    await this.em.fork().transactional(async (em) => {
      const m = await this.member(em, workspace, id, mine);
      if (!mayAs(mine, role)) throw new Problem(403, 'role', `You give roles up to your own, ${mine}.`);
      if (m.role === role) return;
      await wasDone(em, { workspace, account: me.account.id, what: 'role changed', about: { who: m.account.email, from: m.role, to: role } });
      m.role = role;
      await this.ownerLeft(em, workspace, id);
    });
  }

  /** Somebody is a member no more; what they made stays and gets another owner. */
  @Delete(':workspace/members/:member')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async removeMember(
    @WorkspaceId() workspace: string,
    @Param('member') id: string,
    @Query() { to }: RemoveQuery,
    @Me() me: Signed,
    @MyRole() mine: MemberRole,
  ): Promise<void> {
    await this.em.fork().transactional(async (em) => {
      const m = await this.member(em, workspace, id, mine);
      await this.part(em, m, to ?? me.account.id);
      await wasDone(em, { workspace, account: me.account.id, what: 'member removed', about: { who: m.account.email } });
    });
  }

  /** Leaves a workspace; one's sets and folders go to another member. */
  @Delete(':workspace/membership')
  @Gives(SessionView)
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async leave(@WorkspaceId() workspace: string, @Query() { to }: RemoveQuery, @Me() me: Signed): Promise<SessionView> {
    await this.em.fork().transactional(async (em) => {
      await lockMembers(em, workspace);
      const m = await em.findOneOrFail(Membership, { account: me.account.id, workspace }, { populate: ['account'] });
      await this.part(em, m, to);
      await wasDone(em, { workspace, account: me.account.id, what: 'left', about: { who: m.account.email } });
    });
    return this.sessions.now(me);
  }

  /** A member whose role somebody may change. No other changes members of the workspace meanwhile. */
  private async member(em: EntityManager, workspace: string, id: string, mine: MemberRole): Promise<Membership> {
    await lockMembers(em, workspace);
    const m = UUID.test(id) ? await em.findOne(Membership, { account: id, workspace }, { populate: ['account'] }) : null;
    if (!m) throw gone('member');
    if (!mayAs(mine, m.role)) throw new Problem(403, 'role', `${m.account.name} is ${m.role} here; that is changed by an ${m.role}.`);
    return m;
  }
  private async part(em: EntityManager, m: Membership, to: string | undefined): Promise<void> {
    const { account, workspace } = m;
    await this.ownerLeft(em, workspace.id, account.id, true);
    await handOver(em, workspace.id, account.id, to);
    await em.removeAndFlush(m);
  }
  /** @throws Problem 409 where nobody else is an owner */
  private async ownerLeft(em: EntityManager, workspace: string, account: string, leaves = false): Promise<void> {
    await em.flush();
    const owners = await em.find(Membership, { workspace, role: 'owner' });
    if (owners.some((o) => !leaves || o.account.id !== account)) return;
    throw new Problem(409, 'last-owner', 'Nobody else is an owner of this workspace. Make somebody else an owner first, or delete the workspace.');
  }
}
