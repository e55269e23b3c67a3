/** What learners' browsers call: enter by code, answer, submit. Keys stay here; a learner gets what may be seen. */
import { Body, Controller, Get, Headers, HttpCode, Param, Post, Put, Query, Req } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import {
  answerProblem,
  asGiven,
  asShown,
  learnerView,
  lookUp,
  type LearnerItem,
  type Mark,
  marksOf,
  outcomeOf,
  pointsOf,
  response as responseSchema,
  responseIn,
  type QuizSet,
  type Response,
  sanitiseFields,
  storable,
} from '@zakuska/core';
import { IsObject, IsOptional, isUUID, IsString, IsUUID, Length } from 'class-validator';
import type { Request } from 'express';
import { LRUCache } from 'lru-cache';
import { Access, Gives } from '../accounts/access.js';
import { RateLimit } from '../accounts/rateLimit.js';
import { Db } from '../platform/db.js';
import { Problem } from '../platform/problem.js';
import { newToken, secretChance, tokenHash } from '../platform/secrets.js';
import { Published } from './published.js';
import { attemptsOf, coursePerson, personOf, shows, type Shows } from './entities.js';

const IN = 'One of the languages that the learner may choose; the first where it is not said.';

class BeginBody {
  @ApiProperty() @IsUUID() id!: string;
  @ApiProperty({ description: 'A random token that stays in the browser.' }) @IsString() @Length(20, 100) token!: string;
  @ApiPropertyOptional({ description: 'Of the learner; not needed by who comes from a course.' }) @IsOptional() @IsString() @Length(1, 100) name?: string;
  @ApiPropertyOptional({ description: 'What a launch from a course gave to the browser.' }) @IsOptional() @IsString() @Length(20, 100) launch?: string;
  @ApiPropertyOptional({ description: IN }) @IsOptional() @IsString() @Length(2, 35) language?: string;
  @ApiPropertyOptional({ description: 'A random name that the browser keeps for itself.' }) @IsOptional() @IsString() @Length(10, 100) device?: string;
}
/** Wrong codes of an address within the hour; past them it asks one by one, five in a second. */
const WRONG_CODES = { free: 40, apart: 200, most: 100 };
/** A school of a thousand behind one address can begin a quiz in an hour. */
const ATTEMPTS_FROM_ADDRESS = 1000;
const MOST_KNOWN = 20_000;
class InLanguage {
  @ApiPropertyOptional({ description: IN }) @IsOptional() @IsString() @Length(2, 35) language?: string;
}
class AnswersBody {
  @ApiProperty({ type: 'object', additionalProperties: true, description: 'Item id → response.' }) @IsObject() responses!: Record<string, unknown>;
  @ApiPropertyOptional({ description: 'The language in which the answers were given.' }) @IsOptional() @IsString() @Length(2, 35) language?: string;
}
class LearnerView {
  @ApiProperty() name!: string;
  @ApiProperty({ description: 'Whether an attempt of theirs is under way, on whatever device.' }) underWay!: boolean;
  @ApiProperty({ description: 'How often they have handed in.' }) handedIn!: number;
}
class WelcomeView {
  @ApiProperty() title!: string;
  @ApiProperty() items!: number;
  @ApiProperty() points!: number;
  @ApiProperty({ enum: shows }) shows!: Shows;
  @ApiProperty() open!: boolean;
  @ApiProperty({ description: 'Attempts per person; 0 for any number.' }) attempts!: number;
  @ApiPropertyOptional({ type: [String], description: 'Languages to choose from, that of the set first (empty where it is not known).' }) languages?: string[];
  @ApiPropertyOptional({ type: LearnerView, description: 'Who comes from a course.' }) learner?: LearnerView;
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
  @ApiPropertyOptional({ type: [String], description: 'Languages to choose from, that of the set first (empty where it is not known).' }) languages?: string[];
  @ApiProperty({ type: 'object', additionalProperties: true, isArray: true, description: 'LearnerItem of the core.' }) items!: LearnerItem[];
  @ApiProperty({ type: 'object', additionalProperties: true }) responses!: Record<string, Response>;
  @ApiPropertyOptional({ type: OutcomeView }) outcome?: OutcomeView;
}

@ApiTags('take')
@Controller('take')
export class TakeController {
  /** Attempts under way, so that keeping and handing in need not look them up; the oldest are forgotten. */
  private readonly under = new LRUCache<string, Lasting>({ max: MOST_KNOWN });
  constructor(
    private readonly db: Db,
    private readonly limit: RateLimit,
    private readonly published: Published,
  ) {}

  @Get(':code')
  @Gives(WelcomeView)
  @Access('public')
  async welcome(@Param('code') code: string, @Req() req: Request, @Headers('x-launch') launch?: string): Promise<WelcomeView> {
    const d = await this.byCode(code, req);
    const { set, points } = await this.published.of(d.id);
    const learner = launch === undefined ? undefined : await this.learner(d, await this.launched(d, launch));
    return {
      title: d.title,
      items: set.items.length,
      points,
      shows: d.shows,
      open: d.open,
      attempts: attemptsOf(d),
      ...languagesOf(set),
      ...(learner && { learner }),
    };
  }

  /** Who comes from a course. @throws Problem where the launch is not known, or of another quiz */
  private async launched(d: Entered, token: string): Promise<Launched> {
    const [found] = await this.db.rows<{ id: string; platform_id: string; person: string; name: string }>(
      `select id, platform_id, person, name from lti_launch where token_hash = $1 and delivery_id = $2 and not teaches and created_at > now() - interval '1 day'`,
      [tokenHash(token), d.id],
    );
    if (!found) throw new Problem(403, 'launch-over', 'This page was opened too long ago. Open the quiz in your course again.');
    return { id: found.id, name: found.name, person: coursePerson(found.platform_id, found.person) };
  }
  private async learner(d: Entered, { name, person }: Launched): Promise<LearnerView> {
    const [n] = await this.db.rows<{ under: number; done: number }>(
      `select count(*) filter (where submitted_at is null)::int as under, count(*) filter (where submitted_at is not null)::int as done
       from attempt where delivery_id = $1 and person = $2`,
      [d.id, person],
    );
    return { name, underWay: (n?.under ?? 0) > 0, handedIn: n?.done ?? 0 };
  }

  @Post(':code/attempts')
  @Gives(AttemptState)
  @Access('public')
  async begin(@Param('code') code: string, @Body() body: BeginBody, @Req() req: Request): Promise<AttemptState> {
    const d = await this.byCode(code, req);
    try {
      return await this.state(await this.made(d, body, req.ip ?? ''), body.language);
    } catch (e) {
      // an attempt that is there goes on, whatever would keep a new one out; sent twice at once, what is there counts
      const there = await this.find(body.id);
      if (there) return this.state(mine(there, body.token), body.language);
      throw e;
    }
  }

  /**
   * A new attempt.
   * @throws Problem where the quiz is closed, the name is missing, or the person or the address has used its attempts
   */
  private async made(d: Entered, body: BeginBody, address: string): Promise<Going> {
    if (!d.open) throw closed();
    const launch = body.launch === undefined ? undefined : await this.launched(d, body.launch);
    const under = launch && (await this.takenOver(launch, d, body.token));
    if (under) return under;
    const name = launch?.name ?? storable(body.name ?? '').trim();
    if (!name) throw new Problem(400, 'name-missing', 'Type your name, so that your teacher knows whose answers these are.');
    const person = launch?.person ?? personOf(name);
    await this.refuseRepeat(d, name, person, launch !== undefined);
    if ((await this.limit.count(`attempts ${d.id} from ${address}`)) > ATTEMPTS_FROM_ADDRESS)
      throw new Problem(429, 'too-many-tries', 'Very many have begun this quiz from this network within the hour. Wait a little, or tell your teacher.', {
        retryAfter: 60,
      });
    const a: Going = {
      id: body.id.toLowerCase(),
      token_hash: tokenHash(body.token),
      name,
      seed: newToken(),
      responses: {},
      marks: null,
      points: null,
      submitted: false,
      ...goingOf(d),
    };
    await this.db.rows(
      `insert into attempt (id, delivery_id, token_hash, name, person, device, seed, launch_id, responses) values ($1, $2, $3, $4, $5, $6, $7, $8, '{}')`,
      [a.id, d.id, a.token_hash, name, person, body.device ? tokenHash(body.device) : '', a.seed, launch?.id ?? null],
    );
    this.remember(a);
    return a;
  }

  /** The attempt that somebody from a course has under way, on whatever device: this browser goes on with it. */
  private async takenOver(launch: Launched, d: Entered, token: string): Promise<Going | undefined> {
    const [there] = await this.db.rows<{ id: string }>(
      `update attempt set token_hash = $1, launch_id = $2
       where id = (select id from attempt where delivery_id = $3 and person = $4 and submitted_at is null order by started_at desc limit 1) returning id`,
      [tokenHash(token), launch.id, d.id, launch.person],
    );
    const found = there && (await this.find(there.id));
    if (found) this.remember(found);
    return found;
  }

  private async refuseRepeat(d: Entered, name: string, person: string, known: boolean): Promise<void> {
    const most = attemptsOf(d);
    if (!most) return;
    const [had] = await this.db.rows<{ n: number }>(
      'select count(*)::int as n from attempt where delivery_id = $1 and person = $2 and submitted_at is not null',
      [d.id, person],
    );
    if ((had?.n ?? 0) < most) return;
    const times = most === 1 ? 'already, and each person has one attempt' : `${most} times already, and no person has more attempts`;
    if (known) throw new Problem(403, 'attempts-used', `You have handed in ${times}.`);
    throw new Problem(403, 'attempts-used', `Somebody called ${name} has handed in ${times}. If that was not you, add your family name.`);
  }

  @Get('attempts/:attempt')
  @Gives(AttemptState)
  @Access('public')
  async get(@Param('attempt') id: string, @Headers('x-attempt-token') token: string = '', @Query() { language }: InLanguage = {}): Promise<AttemptState> {
    return this.state(await this.mine(id, token), language);
  }

  /** Keeps the answers so far. */
  @Put('attempts/:attempt')
  @HttpCode(204)
  @Access('public')
  async keep(@Param('attempt') id: string, @Headers('x-attempt-token') token: string = '', @Body() body: AnswersBody): Promise<void> {
    const a = await this.known(id, token);
    const responses = await this.responses(body, a);
    await this.db.rows('update attempt set responses = $1::jsonb where id = $2 and submitted_at is null', [JSON.stringify(responses), a.id]);
  }

  /** Hands in. A second time gives the first outcome again. */
  @Post('attempts/:attempt/submit')
  @HttpCode(200)
  @Gives(OutcomeView)
  @Access('public')
  async submit(@Param('attempt') id: string, @Headers('x-attempt-token') token: string = '', @Body() body: AnswersBody): Promise<OutcomeView> {
    const a = await this.known(id, token);
    const [{ set }, { set: shown }, responses] = await Promise.all([
      this.published.of(a.delivery),
      this.published.of(a.delivery, body.language),
      this.responses(body, a),
    ]);
    const marks = marksOf(set, responses);
    // one row in one statement: of two at once, and of one that meets the closing, only one is done
    const [done] = await this.db.rows<{ shows: Shows }>(
      `with done as (update attempt a set responses = $1::jsonb, marks = $2::jsonb, points = $3, submitted_at = now() from delivery d
         where a.id = $4 and a.submitted_at is null and d.id = a.delivery_id and d.open returning a.id, a.launch_id, d.shows),
       due as (insert into lti_score (attempt_id) select done.id from done join lti_launch l on l.id = done.launch_id where l.scores is not null)
       select shows from done`,
      [JSON.stringify(responses), JSON.stringify(marks), pointsOf(marks), a.id],
    );
    if (done) {
      this.published.handedIn(a.delivery);
      return outcomeOf(shown, inTheirs(responses, set, shown), marks, done.shows);
    }
    const now = await this.mine(id, token);
    if (!now.submitted) throw closed();
    return outcomeOf(shown, inTheirs(now.responses, set, shown), now.marks ?? {}, now.shows);
  }

  private async byCode(code: string, req: Request): Promise<Entered> {
    const clean = code.slice(0, 40).toUpperCase().replace(/[\s-]/g, '');
    const d = await this.limit.guarded(`code from ${req.ip ?? ''}`, WRONG_CODES, async () => {
      const [found] = await this.db.rows<Entered>(
        'select d.id, d.title, d.shows, d.open, d.attempts from delivery d join quiz_set s on s.id = d.set_id where d.code = $1 and s.deleted_at is null',
        [storable(clean)],
      );
      return found ?? null;
    });
    if (d) return d;
    throw new Problem(404, 'wrong-code', 'No quiz has this entry code. Check the six letters and digits on the board, and type them again.');
  }

  private async find(id: string): Promise<Going | undefined> {
    if (!isUUID(id)) return undefined;
    const [found] = await this.db.rows<Going>(
      `select a.id, a.token_hash, a.name, a.seed, a.responses, a.marks, a.points, a.submitted_at is not null as submitted,
         d.id as delivery, d.title, d.shows, d.open from attempt a join delivery d on d.id = a.delivery_id where a.id = $1`,
      [id],
    );
    return found;
  }
  private async mine(id: string, token: string): Promise<Going> {
    return mine(await this.find(id), token);
  }
  /** The attempt as far as it never changes: who began it, of what, with which orders. What it holds by now may be newer. */
  private async known(id: string, token: string): Promise<Lasting> {
    const there = this.under.get(id.toLowerCase());
    if (there && there.token_hash === tokenHash(token)) return there;
    const found = await this.mine(id, token);
    this.remember(found);
    return found;
  }
  private remember({ id, token_hash, seed, delivery }: Lasting): void {
    this.under.set(id, { id, token_hash, seed, delivery });
  }

  /** What a learner answered, in the language of the set, whatever language it was answered in. */
  private async responses(body: AnswersBody, a: Lasting): Promise<Record<string, Response>> {
    const { set } = await this.published.of(a.delivery);
    const { set: shown } = await this.published.of(a.delivery, body.language);
    const given = responsesOf(body, a, shown);
    return set === shown ? given : inTheirs(given, shown, set);
  }

  private async state(a: Going, language?: string): Promise<AttemptState> {
    const { set: own } = await this.published.of(a.delivery);
    const { set } = await this.published.of(a.delivery, language);
    const responses = set === own ? a.responses : inTheirs(a.responses, own, set);
    const { languages } = languagesOf(own);
    const chance = secretChance(a.seed);
    return {
      id: a.id,
      title: set === own ? a.title : set.title,
      name: a.name,
      ...(set.language && { language: set.language }),
      ...(languages && { languages }),
      items: set.items.map((i) => learnerView(i, set, chance)),
      responses: Object.fromEntries(
        set.items.flatMap((i) => {
          const given = lookUp(responses, i.id);
          return given ? [[i.id, asShown(i, given, chance)]] : [];
        }),
      ),
      ...(a.submitted && { outcome: outcomeOf(set, responses, a.marks ?? {}, a.shows) }),
    };
  }
}

/** Who comes from a course. */
interface Launched {
  id: string;
  name: string;
  person: string;
}
/** A delivery as far as entering it needs. */
interface Entered {
  id: string;
  title: string;
  shows: Shows;
  open: boolean;
  attempts: number | null;
}
/** An attempt with what of its delivery each request needs; the set comes from `Published`. */
interface Going {
  id: string;
  token_hash: string;
  name: string;
  seed: string;
  responses: Record<string, Response>;
  marks: Record<string, Mark> | null;
  points: number | null;
  submitted: boolean;
  delivery: string;
  title: string;
  shows: Shows;
  open: boolean;
}
type Lasting = Pick<Going, 'id' | 'token_hash' | 'seed' | 'delivery'>;
const goingOf = ({ id, title, shows, open }: Entered): Pick<Going, 'delivery' | 'title' | 'shows' | 'open'> => ({ delivery: id, title, shows, open });

/** The attempt, if the browser that asks began it. */
function mine(a: Going | undefined, token: string): Going {
  if (!a || a.token_hash !== tokenHash(token)) throw new Problem(404, 'not-found', 'This attempt belongs to another browser. Begin anew with the entry code.');
  return a;
}

const closed = (): Problem => new Problem(403, 'closed', 'This quiz is closed. Your answers are kept on this device; ask your teacher to open it.');

/** The languages of a set that a learner may choose among; nothing where there is one. */
const languagesOf = ({ language, translations }: QuizSet): { languages?: string[] } =>
  translations && Object.keys(translations).length ? { languages: [language ?? '', ...Object.keys(translations)] } : {};

/** Responses to a set as responses to the same set in another language. */
const inTheirs = (responses: Readonly<Record<string, Response>>, from: QuizSet, to: QuizSet): Record<string, Response> =>
  Object.fromEntries(
    from.items.flatMap((item, n) => {
      const given = lookUp(responses, item.id);
      return given ? [[item.id, responseIn(item, to.items[n] ?? item, given)]] : [];
    }),
  );

function responsesOf(body: AnswersBody, a: Lasting, set: QuizSet): Record<string, Response> {
  const out: Record<string, Response> = {};
  const chance = secretChance(a.seed);
  for (const item of set.items) {
    const given = lookUp(body.responses, item.id);
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
