/** What learners' browsers call: enter by code, answer, submit. Keys stay here; a learner gets what may be seen. */
import { Body, Controller, Get, Headers, HttpCode, Param, Post, Put, Req } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager, LockMode, UniqueConstraintViolationException } from '@mikro-orm/postgresql';
import {
  answerProblem,
  asGiven,
  asShown,
  isMarkup,
  learnerView,
  type LearnerItem,
  type Mark,
  marksOf,
  maximumOf,
  outcomeOf,
  pointsOf,
  response as responseSchema,
  type Response,
  sanitiseRich,
  sanitiseFields,
  storable,
} from '@zakuska/core';
import { IsObject, IsOptional, isUUID, IsString, IsUUID, Length } from 'class-validator';
import type { Request } from 'express';
import { Access, Gives } from '../accounts/access.js';
import { RateLimit } from '../accounts/rateLimit.js';
import { Problem } from '../platform/problem.js';
import { newToken, secretChance, tokenHash } from '../platform/secrets.js';
import { Attempt, attemptsOf, Delivery, personOf, shows, type Shows } from './entities.js';

class BeginBody {
  @ApiProperty() @IsUUID() id!: string;
  @ApiProperty({ description: 'A random token that stays in the browser.' }) @IsString() @Length(20, 100) token!: string;
  @ApiProperty() @IsString() @Length(1, 100) name!: string;
  @ApiPropertyOptional({ description: 'A random name that the browser keeps for itself.' }) @IsOptional() @IsString() @Length(10, 100) device?: string;
}
/** Wrong codes of an address within the hour; past them it asks one by one, five in a second. */
const WRONG_CODES = { free: 40, apart: 200, most: 100 };
/** A school of a thousand behind one address can begin a quiz in an hour. */
const ATTEMPTS_FROM_ADDRESS = 1000;
class AnswersBody {
  @ApiProperty({ type: 'object', additionalProperties: true, description: 'Item id → response.' }) @IsObject() responses!: Record<string, unknown>;
}
class WelcomeView {
  @ApiProperty() title!: string;
  @ApiProperty() items!: number;
  @ApiProperty() points!: number;
  @ApiProperty({ enum: shows }) shows!: Shows;
  @ApiProperty() open!: boolean;
  @ApiProperty({ description: 'Attempts per person; 0 for any number.' }) attempts!: number;
}
class OutcomeItem {
  @ApiProperty() id!: string;
  @ApiProperty() state!: Mark['state'];
  @ApiProperty() points!: number;
  @ApiProperty({ type: [String] }) feedback!: string[];
  @ApiPropertyOptional() answer?: string;
}
class OutcomeView {
  @ApiProperty({ enum: shows }) shows!: Shows;
  @ApiPropertyOptional() points?: number;
  @ApiPropertyOptional() maximum?: number;
  @ApiPropertyOptional({ description: 'Points that a person still has to give.' }) byHand?: number;
  @ApiPropertyOptional({ type: [OutcomeItem] }) items?: OutcomeItem[];
}
class AttemptState {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty() name!: string;
  @ApiPropertyOptional() language?: string;
  @ApiProperty({ type: 'object', additionalProperties: true, isArray: true, description: 'LearnerItem of the core.' }) items!: LearnerItem[];
  @ApiProperty({ type: 'object', additionalProperties: true }) responses!: Record<string, Response>;
  @ApiPropertyOptional({ type: OutcomeView }) outcome?: OutcomeView;
}

@ApiTags('take')
@Controller('take')
export class TakeController {
  constructor(
    private readonly em: EntityManager,
    private readonly limit: RateLimit,
  ) {}

  @Get(':code')
  @Gives(WelcomeView)
  @Access('public')
  async welcome(@Param('code') code: string, @Req() req: Request): Promise<WelcomeView> {
    const d = await this.byCode(code, req);
    return { title: d.title, items: d.snapshot.items.length, points: maximumOf(d.snapshot.items), shows: d.shows, open: d.open, attempts: attemptsOf(d) };
  }

  @Post(':code/attempts')
  @Gives(AttemptState)
  @Access('public')
  async begin(@Param('code') code: string, @Body() body: BeginBody, @Req() req: Request): Promise<AttemptState> {
    const d = await this.byCode(code, req);
    const em = this.em.fork();
    const there = await em.findOne(Attempt, { id: body.id }, { populate: ['delivery'] });
    if (there) return this.state(await this.mine(body.id, body.token));
    if (!d.open) throw closed();
    const name = storable(body.name).trim();
    if (!name) throw new Problem(400, 'name-missing', 'Type your name, so that your teacher knows whose answers these are.');
    const person = personOf(name);
    const most = attemptsOf(d);
    if (most && (await em.count(Attempt, { delivery: d.id, person, submittedAt: { $ne: null } })) >= most)
      throw new Problem(
        403,
        'attempts-used',
        most === 1
          ? `Somebody called ${name} has handed in already, and each person has one attempt. If that was not you, add your family name.`
          : `Somebody called ${name} has handed in ${most} times already, and no person has more attempts. If that was not you, add your family name.`,
      );
    if ((await this.limit.count(`attempts ${d.id} from ${req.ip ?? ''}`)) > ATTEMPTS_FROM_ADDRESS)
      throw new Problem(429, 'too-many-tries', 'Very many have begun this quiz from this network within the hour. Wait a little, or tell your teacher.');
    const attempt = em.create(Attempt, {
      id: body.id,
      delivery: em.getReference(Delivery, d.id),
      tokenHash: tokenHash(body.token),
      name,
      person,
      device: body.device ? tokenHash(body.device) : '',
      seed: newToken(),
      responses: {},
    });
    try {
      await em.persistAndFlush(attempt);
    } catch (e) {
      if (!(e instanceof UniqueConstraintViolationException)) throw e; // sent twice at the same time: it is there now
    }
    return this.state(await this.mine(body.id, body.token));
  }

  @Get('attempts/:attempt')
  @Gives(AttemptState)
  @Access('public')
  async get(@Param('attempt') id: string, @Headers('x-attempt-token') token: string = ''): Promise<AttemptState> {
    return this.state(await this.mine(id, token));
  }

  /** Keeps the answers so far. */
  @Put('attempts/:attempt')
  @HttpCode(204)
  @Access('public')
  async keep(@Param('attempt') id: string, @Headers('x-attempt-token') token: string = '', @Body() body: AnswersBody): Promise<void> {
    const a = await this.mine(id, token);
    const em = this.em.fork();
    await em.nativeUpdate(Attempt, { id: a.id, submittedAt: null }, { responses: responsesOf(body, a, a.delivery) });
  }

  /** Hands in. A second time gives the first outcome again. */
  @Post('attempts/:attempt/submit')
  @HttpCode(200)
  @Gives(OutcomeView)
  @Access('public')
  async submit(@Param('attempt') id: string, @Headers('x-attempt-token') token: string = '', @Body() body: AnswersBody): Promise<OutcomeView> {
    await this.mine(id, token);
    return this.em.fork().transactional(async (em) => {
      const a = await em.findOneOrFail(Attempt, { id }, { lockMode: LockMode.PESSIMISTIC_WRITE });
      const d = await em.findOneOrFail(Delivery, { id: a.delivery.id });
      if (!a.submittedAt) {
        if (!d.open) throw closed();
        a.responses = responsesOf(body, a, d);
        a.marks = marksOf(d.snapshot, a.responses);
        a.points = pointsOf(a.marks);
        a.submittedAt = new Date();
      }
      return outcome(a, d);
    });
  }

  private async byCode(code: string, req: Request): Promise<Delivery> {
    const clean = code.slice(0, 40).toUpperCase().replace(/[\s-]/g, '');
    const d = await this.limit.guarded(`code from ${req.ip ?? ''}`, WRONG_CODES, () =>
      this.em.fork().findOne(Delivery, { code: clean, set: { deletedAt: null } }),
    );
    if (d) return d;
    throw new Problem(404, 'wrong-code', 'No quiz has this entry code. Check the six letters and digits on the board, and type them again.');
  }

  private async mine(id: string, token: string): Promise<Attempt & { delivery: Delivery }> {
    const valid = isUUID(id);
    const a = valid ? await this.em.fork().findOne(Attempt, { id }, { populate: ['delivery'] }) : null;
    if (!a || a.tokenHash !== tokenHash(token)) throw new Problem(404, 'not-found', 'This attempt belongs to another browser. Begin anew with the entry code.');
    return a as Attempt & { delivery: Delivery };
  }

  private state(a: Attempt & { delivery: Delivery }): AttemptState {
    const set = a.delivery.snapshot;
    const chance = secretChance(a.seed);
    return {
      id: a.id,
      title: a.delivery.title,
      name: a.name,
      ...(set.language && { language: set.language }),
      items: set.items.map((i) => clean(learnerView(i, set, chance))),
      responses: Object.fromEntries(
        set.items.flatMap((i) => {
          const given = own(a.responses, i.id);
          return given ? [[i.id, asShown(i, given, chance)]] : [];
        }),
      ),
      ...(a.submittedAt && { outcome: outcome(a, a.delivery) }),
    };
  }
}

const closed = (): Problem => new Problem(403, 'closed', 'This quiz is closed. Your answers are kept on this device; ask your teacher to open it.');

/** Rich text is sanitised when it comes in; once more on the way to learners costs little. */
const clean = (item: LearnerItem): LearnerItem =>
  JSON.parse(JSON.stringify(item), (_, v: unknown) => (typeof v === 'string' && isMarkup(v) ? sanitiseRich(v) : v)) as LearnerItem;

/** What an object itself has under a name: not what it inherits. */
const own = <T>(of: Readonly<Record<string, T>>, name: string): T | undefined => (Object.hasOwn(of, name) ? of[name] : undefined);

function responsesOf(body: AnswersBody, a: Attempt, d: Delivery): Record<string, Response> {
  const out: Record<string, Response> = {};
  const chance = secretChance(a.seed);
  for (const item of d.snapshot.items) {
    const given = own(body.responses, item.id);
    if (given === undefined || given === null) continue;
    const parsed = responseSchema.safeParse(given);
    if (!parsed.success)
      throw new Problem(400, 'response-invalid', 'An answer has a shape that its question does not take. Reload the page; your answers are kept.');
    const problem = answerProblem(item, parsed.data);
    if (problem) throw new Problem(400, 'answer-too-long', problem, { item: item.id });
    out[item.id] = sanitiseFields(asGiven(item, parsed.data, chance));
  }
  return out;
}

const outcome = (a: Attempt, d: Delivery): OutcomeView => outcomeOf(d.snapshot, a.responses, a.marks ?? {}, d.shows);
