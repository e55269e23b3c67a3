/**
 * Launches from courses: the login that a platform begins (OpenID Connect third-party initiated login), the message that comes back,
 * and where it leads: learners to the quiz, those who teach to its results or to choosing what the link opens.
 */
import { Body, Controller, Get, Header, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { ApiExcludeEndpoint, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { newId, type ShownAfter, shownAfter, usualRules } from '@zakuska/core';
import { IsIn, IsOptional, IsString, IsUUID, Length } from 'class-validator';
import type { Request, Response } from 'express';
import { Access, Gives, Me, mayOnSet, setsOf, type Signed, WorkspaceId } from '../accounts/access.js';
import { Delivery } from '../deliveries/entities.js';
import { Published } from '../deliveries/published.js';
import { Publishing } from '../deliveries/publishing.js';
import { gone, Problem } from '../platform/problem.js';
import { sql } from '../platform/sql.js';
import { newToken, tokenHash } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { LtiLaunch, LtiLink, LtiLogin, LtiPlatform } from './entities.js';
import { claims, messageOf, type Message, QUIZ, refusedLaunch, VERSION } from './messages.js';
import { at, Tool } from './tool.js';

/** Minutes between the beginning of a launch and its message. */
const LOGIN_MINUTES = 10;
const COOKIE = 'zakuska_launch_';
const one = (v: unknown): string => (typeof v === 'string' ? v : '');

class LaunchView {
  @ApiProperty() id!: string;
  @ApiProperty({ description: 'The platform that it comes from.' }) platform!: string;
  @ApiProperty() course!: string;
  @ApiProperty() title!: string;
  @ApiProperty({ description: 'Whether the answer goes back to the platform; else the link itself is given its quiz here.' }) deepLink!: boolean;
  @ApiProperty() workspaceId!: string;
}
class ChooseBody {
  @ApiPropertyOptional({ description: 'A quiz that is published already.' }) @IsOptional() @IsUUID() delivery?: string;
  @ApiPropertyOptional({ description: 'A set that is published as it is now.' }) @IsOptional() @IsUUID() set?: string;
  @ApiPropertyOptional({ description: 'A version of the set by its name; the whole set where it is not said.' })
  @IsOptional()
  @IsString()
  @Length(1, 60)
  version?: string;
  @ApiPropertyOptional({ enum: shownAfter, description: 'What learners see after handing in, for a set.' }) @IsOptional() @IsIn(shownAfter) shows?: ShownAfter;
}
class ChosenView {
  @ApiProperty({ description: 'Where to go on.' }) next!: string;
}

@ApiTags('lti')
@Controller('lti')
export class LaunchesController {
  constructor(
    private readonly em: EntityManager,
    private readonly tool: Tool,
    private readonly publishing: Publishing,
    private readonly published: Published,
  ) {}

  @Get('keys')
  @Access('public')
  @ApiExcludeEndpoint()
  @Header('cache-control', 'public, max-age=600')
  keys(): ReturnType<Tool['publicKeys']> {
    return this.tool.publicKeys();
  }

  /** What goes wrong is shown to a person, who came from a link: as a page. */
  private async shown(res: Response, work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      const { detail } = e.getResponse() as { detail: string };
      res
        .status(e.getStatus())
        .type('html')
        .send(
          `<!doctype html><html lang="en"><meta charset="utf-8"><title>This did not work</title><h1>This did not work</h1><p>${escaped(detail)}</p></html>`,
        );
    }
  }

  @Get('login')
  @Access('public')
  @ApiExcludeEndpoint()
  loginByAddress(@Query() said: Record<string, unknown>, @Res() res: Response): Promise<void> {
    return this.shown(res, () => this.login(said, res));
  }
  @Post('login')
  @Access('public')
  @ApiExcludeEndpoint()
  loginByForm(@Req() req: Request, @Res() res: Response): Promise<void> {
    return this.shown(res, () => this.login((req.body ?? {}) as Record<string, unknown>, res));
  }
  private async login(said: Record<string, unknown>, res: Response): Promise<void> {
    const em = this.em.fork();
    const [issuer, clientId, hint] = [one(said['iss']), one(said['client_id']), one(said['login_hint'])];
    const all = await em.find(LtiPlatform, { issuer, ...(clientId && { clientId }) }, { limit: 2 });
    const [platform] = all;
    if (!platform || all.length > 1) throw refusedLaunch('the platform is not registered here');
    if (!hint) throw refusedLaunch('it does not say who is meant');
    const [state, nonce, browser] = [newToken(), newToken(), newToken()];
    await em.persistAndFlush(em.create(LtiLogin, { state, nonce, browser: tokenHash(browser), platform }));
    const url = new URL(platform.authUrl);
    const messageHint = one(said['lti_message_hint']);
    for (const [name, value] of Object.entries({
      scope: 'openid',
      response_type: 'id_token',
      response_mode: 'form_post',
      prompt: 'none',
      client_id: platform.clientId,
      redirect_uri: at('launch'),
      state,
      nonce,
      login_hint: hint,
      ...(messageHint && { lti_message_hint: messageHint }),
    }))
      url.searchParams.set(name, value);
    // the message comes from another site: with https the cookie goes along all the same
    const { secureCookies: secure } = settings();
    res.cookie(`${COOKIE}${state.slice(0, 8)}`, browser, {
      httpOnly: true,
      secure,
      sameSite: secure ? 'none' : 'lax',
      maxAge: LOGIN_MINUTES * 60_000,
      path: '/api/v1/lti/launch',
    });
    res.redirect(303, url.href);
  }

  @Post('launch')
  @Access('public')
  @ApiExcludeEndpoint()
  launch(@Req() req: Request, @Res() res: Response): Promise<void> {
    return this.shown(res, () => this.launched(req, res));
  }
  private async launched(req: Request, res: Response): Promise<void> {
    const body = (req.body ?? {}) as Record<string, unknown>;
    if (one(body['error'])) throw refusedLaunch(`the platform says “${one(body['error_description']).slice(0, 200) || one(body['error']).slice(0, 60)}”`);
    const em = this.em.fork();
    const { message, platform } = await this.message(em, one(body['id_token']), one(body['state']), req);
    const delivery = await this.quizOf(em, platform, message);
    const token = newToken();
    const { kind: _k, quiz: _q, ...rest } = message;
    const launch = em.create(LtiLaunch, { id: newId(), platform, ...rest, name: rest.name || 'A learner', delivery, tokenHash: tokenHash(token) });
    await em.persistAndFlush(launch);
    const to = (path: string): void => res.redirect(303, settings().publicUrl + path);
    if (message.kind === 'choose') return message.teaches ? to(`/course/${launch.id}`) : deny('only who teaches chooses what a link opens');
    if (message.teaches) return to(delivery ? `/sets/${delivery.set.id}/results?of=${delivery.id}` : `/course/${launch.id}`);
    if (!delivery) return deny('your teacher has not chosen yet what this link opens');
    // in the fragment: it is in no log and in no Referer
    to(`/t/${delivery.code}#launch=${token}`);
  }

  /** The message that belongs to a login that this browser began: once. */
  private async message(em: EntityManager, token: string, state: string, req: Request): Promise<{ message: Message; platform: LtiPlatform }> {
    const login = state ? await em.findOne(LtiLogin, { state }, { populate: ['platform'] }) : null;
    // whoever sends it a second time finds nothing
    if (!login || !(await em.nativeDelete(LtiLogin, { state }))) throw refusedLaunch('it was begun elsewhere, or used already');
    if (login.createdAt.getTime() < Date.now() - LOGIN_MINUTES * 60_000) throw refusedLaunch('it took too long');
    const cookie = (req.cookies as Record<string, string> | undefined)?.[`${COOKIE}${state.slice(0, 8)}`];
    if (!cookie || tokenHash(cookie) !== login.browser) throw refusedLaunch('it was begun in another browser, or this browser keeps no cookies');
    const { platform } = login;
    const message = messageOf(await this.tool.verified(token, platform, login.nonce));
    if (!platform.deployments.includes(message.deployment)) throw refusedLaunch('this deployment of the platform is not registered here');
    return { message, platform };
  }

  /** The quiz that a link opens: that which it names, or that which was chosen for it here. */
  private async quizOf(em: EntityManager, platform: LtiPlatform, m: Message): Promise<Delivery | null> {
    if (m.kind === 'choose' || !m.resourceLink) return null;
    const chosen = await em.findOne(LtiLink, { platform: platform.id, deployment: m.deployment, resourceLink: m.resourceLink });
    const id = chosen?.delivery.id ?? (m.quiz && /^[0-9a-f-]{36}$/i.test(m.quiz) ? m.quiz : null);
    // only quizzes of the workspace that the platform was registered for
    return id ? em.findOne(Delivery, { id, set: { workspace: platform.workspace.id, deletedAt: null } }, { populate: ['set'] }) : null;
  }

  @Get('launches/:launch')
  @Gives(LaunchView)
  @Access('editor')
  async view(@Param('launch') id: string): Promise<LaunchView> {
    const l = await this.found(id);
    return { id, platform: l.platform.name, course: l.course, title: l.title, deepLink: Boolean(l.deepLink), workspaceId: l.platform.workspace.id };
  }

  /** What the link opens, as the person who came from the course chose it. */
  @Post('launches/:launch/choice')
  @HttpCode(200)
  @Gives(ChosenView)
  @Access('editor')
  async choose(@Param('launch') id: string, @Body() body: ChooseBody, @WorkspaceId() workspace: string, @Me() me: Signed): Promise<ChosenView> {
    const em = this.em.fork();
    const l = await this.found(id, em);
    if (!l.teaches) throw gone('launch');
    if (l.deepLink && !l.deepLink.takesLinks) throw new Problem(422, 'no-links', 'The place in the course that you came from takes no links to quizzes.');
    const mayUse = async (set: string): Promise<boolean> =>
      (
        await sql(em, `select 1 from ${setsOf('?')} where s.id = ? and s.workspace_id = ? and s.deleted_at is null and ${mayOnSet('?', 'editor')}`, [
          me.account.id,
          set,
          workspace,
          me.account.id,
        ])
      ).length > 0;
    const chosen =
      body.set && (await mayUse(body.set))
        ? (await this.publishing.publish(body.set as string, { rules: usualRules(body.shows), ...(body.version && { version: body.version }) })).id
        : body.delivery;
    const delivery = chosen ? await em.findOne(Delivery, { id: chosen, set: { workspace, deletedAt: null } }) : null;
    if (!delivery || !(await mayUse(delivery.set.id))) throw gone('quiz');
    l.delivery = delivery;
    if (l.deepLink) {
      await em.flush();
      return { next: `${at('launches')}/${id}/return` };
    }
    await em.upsert(LtiLink, { platform: l.platform.id, deployment: l.deployment, resourceLink: l.resourceLink ?? '', delivery: delivery.id });
    await em.flush();
    return { next: `/sets/${delivery.set.id}/results?of=${delivery.id}` };
  }

  /** Brings the choice back to the platform: a signed answer in a form that sends itself (LTI Deep Linking 2.0). */
  @Get('launches/:launch/return')
  @Access('editor')
  async answer(@Param('launch') id: string, @Res() res: Response): Promise<void> {
    const l = await this.found(id);
    const { delivery, deepLink, platform } = l;
    if (!delivery || !deepLink) throw gone('choice');
    const d = await this.em.fork().findOneOrFail(Delivery, { id: delivery.id });
    const { points } = await this.published.of(d.id);
    const item = {
      type: 'ltiResourceLink',
      title: d.title,
      url: at('launch'),
      custom: { [QUIZ]: d.id },
      lineItem: { scoreMaximum: points, label: d.title, resourceId: d.id },
      window: { targetName: '_blank' },
    };
    const jwt = await this.tool.sign(
      {
        nonce: newToken(),
        [claims.messageType]: 'LtiDeepLinkingResponse',
        [claims.version]: VERSION,
        [claims.deployment]: l.deployment,
        [claims.contentItems]: [item],
        ...(deepLink.data !== undefined && { [claims.deepLinkData]: deepLink.data }),
      },
      { issuer: platform.clientId, audience: platform.issuer, seconds: 300 },
    );
    const nonce = newToken(12);
    const target = new URL(deepLink.returnUrl);
    res
      .setHeader('content-security-policy', `default-src 'none'; script-src 'nonce-${nonce}'; form-action ${target.origin}; frame-ancestors 'none'`)
      .type('html')
      .send(
        `<!doctype html><html lang="en"><meta charset="utf-8"><title>Back to the course</title><form method="post" action="${escaped(target.href)}"><input type="hidden" name="JWT" value="${jwt}"><button>Back to the course</button></form><script nonce="${nonce}">document.forms[0].submit()</script></html>`,
      );
  }

  private async found(id: string, em = this.em.fork()): Promise<LtiLaunch> {
    const l = await em.findOne(LtiLaunch, { id }, { populate: ['platform', 'delivery'] });
    if (!l) throw gone('launch');
    return l;
  }
}

const deny = (why: string): never => {
  throw refusedLaunch(why);
};
const escaped = (s: string): string => s.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c);
