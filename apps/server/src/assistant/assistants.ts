/** The assistant of a workspace: set up by its owner, asked by whoever may; what was sent, by person and month. */
import { Body, Controller, Delete, Get, Header, HttpCode, type MessageEvent, Param, Post, Put, Query, Sse } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager, LockMode } from '@mikro-orm/postgresql';
import { assistantInterfaces, measure, monthOf, storable, mayAs, type MemberRole, memberRoles } from '@zakuska/core';
import { IsIn, IsInt, IsNumber, IsObject, IsOptional, IsString, IsUrl, IsUUID, Length, Matches, Max, MaxLength, Min, ValidateIf } from 'class-validator';
import Papa from 'papaparse';
import { concatMap, from, map, type Observable, takeWhile } from 'rxjs';
import { Access, Gives, Me, MyRole, type Signed, UUID, WorkspaceId } from '../accounts/access.js';
import { wasDone } from '../accounts/audit.js';
import { Account, Membership, Workspace } from '../accounts/entities.js';
import { Changes } from '../platform/changes.js';
import { isPrivateHost } from '../platform/outside.js';
import { gone, Problem } from '../platform/problem.js';
import { encrypt } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { RequestRecord } from '../requests/entities.js';
import { SetRecord } from '../sets/entities.js';
import { Asking } from './asking.js';
import { addressOf, Ask, askStates, type AskState, Assistant, costOfAsk } from './entities.js';

const units = ['tokens', 'money'] as const;
const purposes = ['draft', 'rework', 'opinion', 'notation'] as const;
type Purpose = (typeof purposes)[number];
/** Of the web, or of a school's own network. */
const URLS = { require_tld: false, require_protocol: true, protocols: ['http', 'https'] };
const MONTH = { name: 'month', description: 'As "2026-11", in UTC; the present one where it is not said.' };

class AssistantBody {
  @ApiProperty({ description: 'What people call it.' }) @IsString() @Length(1, 100) name!: string;
  @ApiProperty({ enum: assistantInterfaces.map((i) => i.id), description: 'How it is talked to.' })
  @IsIn(assistantInterfaces.map((i) => i.id))
  interface!: string;
  @ApiProperty({ description: 'Where requests are sent; empty for the assistant of this installation, where it has one (ASSISTANT_URL).' })
  @ValidateIf((b: AssistantBody) => b.address !== '')
  @IsUrl(URLS)
  @MaxLength(1000)
  address!: string;
  @ApiProperty() @IsString() @Length(1, 200) model!: string;
  @ApiPropertyOptional({ description: 'Kept as it is where it is not said; empty where the assistant needs none.' })
  @IsOptional()
  @IsString()
  @MaxLength(4000)
  secret?: string;
  @ApiProperty({ description: 'Of a million tokens that go out.' }) @IsNumber() @Min(0) @Max(1e6) priceIn!: number;
  @ApiProperty({ description: 'Of a million tokens that come back.' }) @IsNumber() @Min(0) @Max(1e6) priceOut!: number;
  @ApiProperty() @Matches(/^[A-Z]{3}$/) currency!: string;
  @ApiProperty({ description: 'Tokens that a reply may have.' }) @IsInt() @Min(50) @Max(1_000_000) most!: number;
  @ApiProperty({ enum: memberRoles, description: 'Who may ask: this role and those above it.' }) @IsIn(memberRoles) who!: MemberRole;
  @ApiProperty({ enum: units }) @IsIn(units) unit!: (typeof units)[number];
  @ApiProperty({ description: 'What each person may use in a month.' }) @IsNumber() @Min(0) @Max(1e12) amount!: number;
  @ApiPropertyOptional({ type: 'object', additionalProperties: { type: 'number' }, description: 'Persons who may use another amount, by account; 0 for none.' })
  @IsOptional()
  @IsObject()
  persons?: Record<string, number>;
}
class MineView {
  @ApiProperty({ description: 'Whether this person may ask.' }) may!: boolean;
  @ApiProperty() amount!: number;
  @ApiProperty() used!: number;
  @ApiProperty() left!: number;
}
class SetUpView extends AssistantBody {
  @ApiProperty() hasSecret!: boolean;
}
class AssistantView {
  @ApiProperty() there!: boolean;
  @ApiProperty() name!: string;
  @ApiProperty() model!: string;
  @ApiProperty({ enum: units }) unit!: (typeof units)[number];
  @ApiProperty() currency!: string;
  @ApiProperty({ description: 'Tokens that a reply may have.' }) most!: number;
  @ApiProperty() priceIn!: number;
  @ApiProperty() priceOut!: number;
  @ApiProperty({ type: MineView }) mine!: MineView;
  @ApiProperty({ description: 'Whether this installation has an assistant of its own.' }) own!: boolean;
  @ApiPropertyOptional({ type: SetUpView, description: 'How it is set up, for owners.' }) setUp?: Omit<SetUpView, 'secret'>;
}
class AskBody {
  @ApiProperty({ description: 'Made by the page, so that sending again is known as the same.' }) @IsUUID() id!: string;
  @ApiProperty({ enum: purposes }) @IsIn(purposes) purpose!: Purpose;
  @ApiProperty({ description: 'What is sent, as it is.' }) @IsString() @Length(1, 1_000_000) text!: string;
  @ApiPropertyOptional({ description: 'The kept request that it belongs to: the reply is kept with it.' }) @IsOptional() @IsUUID() request?: string;
}
class AskedView {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty({ description: 'Who asked.' }) person!: string;
  @ApiPropertyOptional() account?: string;
  @ApiPropertyOptional({ description: 'The set, while it is there.' }) set?: string;
  @ApiProperty({ enum: purposes }) purpose!: string;
  @ApiProperty() model!: string;
  @ApiProperty({ enum: askStates }) state!: AskState;
  @ApiProperty({ description: 'What there is to say of how it went.' }) said!: string;
  @ApiProperty() tries!: number;
  @ApiProperty() tokensIn!: number;
  @ApiProperty() tokensOut!: number;
  @ApiProperty({ description: 'The assistant did not say how many there were.' }) estimated!: boolean;
  @ApiProperty() cost!: number;
  @ApiProperty() currency!: string;
  @ApiProperty() createdAt!: string;
}
class AskView extends AskedView {
  @ApiProperty() reply!: string;
}
class SentView extends AskView {
  @ApiProperty({ description: 'What was sent, to the letter.' }) text!: string;
}
class MonthQuery {
  @ApiPropertyOptional(MONTH) @IsOptional() @Matches(/^20\d\d-(?:0[1-9]|1[0-2])$/) month?: string;
}

const asked = (a: Ask): AskedView => ({
  id: a.id,
  title: a.title,
  person: a.person,
  ...(a.account && { account: a.account.id }),
  ...(a.set && { set: a.set.id }),
  purpose: a.purpose,
  model: a.model,
  state: a.state,
  said: a.said,
  tries: a.tries,
  tokensIn: a.tokensIn,
  tokensOut: a.tokensOut,
  estimated: a.estimated,
  cost: costOfAsk(a),
  currency: a.currency,
  createdAt: a.createdAt.toISOString(),
});

/** What of the log somebody may read. */
const readable = (workspace: string, me: Signed, role: MemberRole): { workspace: string; account?: string } => ({
  workspace,
  ...(!mayAs(role, 'administrator') && { account: me.account.id }),
});

@ApiTags('assistant')
@Controller()
export class AssistantsController {
  constructor(
    private readonly em: EntityManager,
    private readonly asking: Asking,
    private readonly changes: Changes,
  ) {}

  @Get('workspaces/:workspace/assistant')
  @Gives(AssistantView)
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async get(@WorkspaceId() workspace: string, @Me() me: Signed, @MyRole() role: MemberRole): Promise<AssistantView> {
    const em = this.em.fork();
    const a = await em.findOne(Assistant, { workspace });
    if (!a)
      return {
        there: false,
        name: '',
        model: '',
        unit: 'tokens',
        currency: 'EUR',
        most: 0,
        priceIn: 0,
        priceOut: 0,
        mine: { may: false, amount: 0, used: 0, left: 0 },
        own: settings().assistantUrl !== '',
      };
    const { name, model, unit, currency, most, priceIn, priceOut } = a;
    return {
      there: true,
      name,
      model,
      unit,
      currency,
      most,
      priceIn,
      priceOut,
      mine: await this.asking.left(em, a, me.account.id, role),
      own: settings().assistantUrl !== '',
      ...(mayAs(role, 'administrator') && {
        setUp: {
          name,
          interface: a.interface,
          address: a.address,
          model,
          priceIn,
          priceOut,
          currency,
          most,
          who: a.who,
          unit,
          amount: a.amount,
          persons: a.persons,
          hasSecret: a.sealed !== '',
        },
      }),
    };
  }

  @Put('workspaces/:workspace/assistant')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async setUp(@WorkspaceId() workspace: string, @Body() body: AssistantBody, @Me() me: Signed): Promise<void> {
    if (!body.address && !settings().assistantUrl) throw new Problem(422, 'no-address', 'Say at which address the assistant is asked.');
    if (body.address && isPrivateHost(new URL(body.address), settings().assistantHosts))
      throw new Problem(422, 'private-address', 'This address lies in a private network. Who runs the server can allow it (ASSISTANT_HOSTS).');
    const em = this.em.fork();
    const members = new Set((await em.find(Membership, { workspace }, { fields: ['account'] })).map((m) => m.account.id));
    const persons = Object.fromEntries(Object.entries(body.persons ?? {}).filter(([id, n]) => members.has(id) && typeof n === 'number' && n >= 0));
    const before = await em.findOne(Assistant, { workspace });
    const { secret, name, model, ...rest } = body;
    const next = {
      ...rest,
      name: storable(name).trim() || 'Assistant',
      model: storable(model),
      persons,
      sealed: secret === undefined ? (before?.sealed ?? '') : secret ? encrypt(storable(secret)) : '',
    };
    // a secret is for the address that it was set for
    if (before?.sealed && secret === undefined && new URL(addressOf(before)).origin !== new URL(addressOf(body)).origin)
      throw new Problem(422, 'secret-again', 'The address is another one: set the secret again, so that it does not go where it was not meant to.');
    if (before) em.assign(before, next);
    else em.persist(em.create(Assistant, { workspace: em.getReference(Workspace, workspace), ...next }));
    await wasDone(em, {
      workspace,
      account: me.account.id,
      what: 'assistant set up',
      about: { name: next.name, at: new URL(addressOf(body)).host, who: body.who },
    });
    await em.flush();
  }

  @Delete('workspaces/:workspace/assistant')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async remove(@WorkspaceId() workspace: string, @Me() me: Signed): Promise<void> {
    const em = this.em.fork();
    if (await em.nativeDelete(Assistant, { workspace }))
      await wasDone(em, { workspace, account: me.account.id, what: 'assistant set up', about: { name: 'none any more' } });
  }

  /** Sends a request. The same id again is the same request: nothing is sent, or paid for, twice. */
  @Post('sets/:set/asks')
  @Gives(AskView)
  @Access('reader')
  async ask(
    @Param('set') setId: string,
    @Body() body: AskBody,
    @WorkspaceId() workspace: string,
    @Me() me: Signed,
    @MyRole() role: MemberRole,
  ): Promise<AskView> {
    const em = this.em.fork();
    const there = await em.findOne(Ask, { id: body.id, set: setId, account: me.account.id });
    if (there) return { ...asked(there), reply: there.reply };
    const [ask, assistant] = await em.transactional(async (inside): Promise<[Ask, Assistant]> => {
      const a = await inside.findOne(Assistant, { workspace }, { lockMode: LockMode.PESSIMISTIC_WRITE });
      if (!a) throw new Problem(409, 'no-assistant', 'No assistant is set up for this workspace. Copy the request and give it to one of your own.');
      const set = await inside.findOneOrFail(SetRecord, { id: setId }, { fields: ['title'] });
      const request = body.request ? await inside.findOne(RequestRecord, { id: body.request, set: setId }) : null;
      const text = storable(body.text);
      const tokens = { in: measure(text).tokens, out: a.most };
      await this.asking.admit(inside, a, { account: me.account.id, role, text, tokens });
      const made = inside.create(Ask, {
        id: body.id,
        workspace: inside.getReference(Workspace, workspace),
        set: inside.getReference(SetRecord, setId),
        account: inside.getReference(Account, me.account.id),
        request,
        title: set.title,
        person: me.account.name,
        purpose: body.purpose,
        model: a.model,
        text,
        tokensIn: tokens.in,
        tokensOut: tokens.out,
        priceIn: a.priceIn,
        priceOut: a.priceOut,
        currency: a.currency,
      });
      await inside.persistAndFlush(made);
      return [made, a];
    });
    this.asking.start(ask.id, assistant);
    return { ...asked(ask), reply: '' };
  }

  /** Ends what oneself has asked; an owner, what anybody has. */
  @Post('asks/:ask/stop')
  @HttpCode(204)
  @Access('reader')
  async stop(@Param('ask') id: string, @Me() me: Signed, @MyRole() role: MemberRole): Promise<void> {
    const a = await this.em.fork().findOne(Ask, { id }, { fields: ['account'] });
    if (!a) throw gone('request');
    if (a.account?.id !== me.account.id && !mayAs(role, 'administrator'))
      throw new Problem(403, 'not-yours', 'Somebody else has asked this. Who asked, or an owner, can stop it.');
    await this.asking.stop(id);
  }

  @Get('asks/:ask')
  @Gives(AskView)
  @Access('reader')
  async one(@Param('ask') id: string): Promise<AskView> {
    const a = await this.em.fork().findOne(Ask, { id });
    if (!a) throw gone('request');
    return { ...asked(a), reply: a.reply };
  }

  /** What comes back, as server-sent events: in each, the reply from `at` on. */
  @Sse('asks/:ask/events')
  @Access('reader')
  events(@Param('ask') id: string, @Me() me: Signed): Observable<MessageEvent> {
    let at = 0;
    return this.changes.of(id, me.account.id).pipe(
      concatMap(() => from(this.one(id))),
      takeWhile((a) => a.state === 'running', true),
      map(({ reply, ...rest }) => {
        const piece = { ...rest, at, reply: reply.slice(at) };
        at = reply.length;
        return { data: piece };
      }),
    );
  }

  /** What was asked in a month: for owners by everybody, for others by themselves. */
  @Get('workspaces/:workspace/asks')
  @Gives([AskedView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async list(@WorkspaceId() workspace: string, @Me() me: Signed, @MyRole() role: MemberRole, @Query() { month }: MonthQuery): Promise<AskedView[]> {
    const fields = [
      'id',
      'title',
      'person',
      'account',
      'set',
      'purpose',
      'model',
      'state',
      'said',
      'tries',
      'tokensIn',
      'tokensOut',
      'estimated',
      'priceIn',
      'priceOut',
      'currency',
      'createdAt',
    ] as const;
    const begin = new Date(`${month ?? monthOf(new Date())}-01T00:00:00Z`);
    const end = new Date(begin);
    end.setUTCMonth(end.getUTCMonth() + 1);
    const all = await this.em
      .fork()
      .find(
        Ask,
        { ...readable(workspace, me, role), createdAt: { $gte: begin, $lt: end } },
        { orderBy: { createdAt: 'desc' }, fields: [...fields], limit: 20_000 },
      );
    return all.map((a) => asked(a as Ask));
  }

  @Get('workspaces/:workspace/asks.csv')
  @Header('content-type', 'text/csv; charset=utf-8')
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async csv(@WorkspaceId() workspace: string, @Me() me: Signed, @MyRole() role: MemberRole, @Query() query: MonthQuery): Promise<string> {
    const rows = (await this.list(workspace, me, role, query)).map((a) => [
      a.createdAt,
      a.person,
      a.title,
      a.purpose,
      a.model,
      a.state,
      a.tokensIn,
      a.tokensOut,
      a.estimated ? 'estimated' : 'counted',
      a.cost,
      a.currency,
    ]);
    return `${Papa.unparse([['when', 'who', 'set', 'what for', 'model', 'state', 'tokens in', 'tokens out', 'tokens', 'cost', 'currency'], ...rows], { escapeFormulae: true })}\r\n`;
  }

  /** What was sent, to the letter, and what came back. */
  @Get('workspaces/:workspace/asks/:one')
  @Gives(SentView)
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async sent(@WorkspaceId() workspace: string, @Me() me: Signed, @MyRole() role: MemberRole, @Param('one') id: string): Promise<SentView> {
    const a = UUID.test(id) ? await this.em.fork().findOne(Ask, { id, ...readable(workspace, me, role) }) : null;
    if (!a) throw gone('request');
    return { ...asked(a), text: a.text, reply: a.reply };
  }
}
