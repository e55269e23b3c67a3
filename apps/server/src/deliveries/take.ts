/** What learners' browsers call: enter by code, answer, practise, hand in. Keys stay here; a learner gets what may be seen. */
import { Body, Controller, Get, Headers, HttpCode, Param, Post, Put, Query, Req } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import {
  asShown,
  inLanguage,
  type Item,
  type ItemTries,
  itemsInOrder,
  itemTimeOf,
  keptOf,
  learnerView,
  lookUp,
  type LearnerItem,
  type Mark,
  outcomeOf,
  type Phase,
  phaseOf,
  practiceView,
  type PracticeView,
  type QuizRules,
  type QuizSet,
  type Response,
  responseIn,
  rulesUntil,
  seenLater,
  seenNow,
  storable,
} from '@zakuska/core';
import { IsBoolean, IsInt, IsISO8601, IsObject, IsOptional, IsString, IsUUID, Length, Max, Min } from 'class-validator';
import type { Request } from 'express';
import { Access, Gives } from '../accounts/access.js';
import { RateLimit } from '../accounts/rateLimit.js';
import { Db } from '../platform/db.js';
import { Problem } from '../platform/problem.js';
import { ofCore } from '../platform/schemas.js';
import { secretChance, tokenHash } from '../platform/secrets.js';
import {
  Attempts,
  dueAt,
  type Entered,
  type Going,
  inTheirs,
  itemDueAt,
  keptBy,
  type Known,
  knownAs,
  type Launched,
  type Lean,
  type Member,
  mine,
  ownCode,
  timeOf,
} from './attempts.js';
import { coursePerson } from './entities.js';
import { Marking } from './marking.js';
import { Published } from './published.js';
import { sameAs, UNTIL } from './together.js';

type Practice = NonNullable<QuizRules['practice']>;

const IN = 'One of the languages that the learner may choose; the first where it is not said.';

class BeginBody {
  @ApiProperty() @IsUUID() id!: string;
  @ApiProperty({ description: 'A random token that stays in the browser.' }) @IsString() @Length(20, 100) token!: string;
  @ApiPropertyOptional({ description: 'Of the learner; not needed by who comes from a course or a class list.' })
  @IsOptional()
  @IsString()
  @Length(1, 100)
  name?: string;
  @ApiPropertyOptional({ description: 'Of the class list, where names are chosen from it.' }) @IsOptional() @IsUUID() member?: string;
  @ApiPropertyOptional({ description: 'What a launch from a course gave to the browser.' }) @IsOptional() @IsString() @Length(20, 100) launch?: string;
  @ApiPropertyOptional({ description: IN }) @IsOptional() @IsString() @Length(2, 35) language?: string;
  @ApiPropertyOptional({ description: 'A random name that the browser keeps for itself.' }) @IsOptional() @IsString() @Length(10, 100) device?: string;
}
/** Wrong codes of an address within the hour; past them it asks one by one, five in a second. */
const WRONG_CODES = { free: 40, apart: 200, most: 100 };
/** More items than any quiz has. */
const MOST_PLACES = 10_000;
class InLanguage {
  @ApiPropertyOptional({ description: IN }) @IsOptional() @IsString() @Length(2, 35) language?: string;
}
class AnswersBody extends InLanguage {
  @ApiPropertyOptional({ type: 'object', additionalProperties: true, description: 'Item id → seconds that it was looked at so far.' })
  @IsOptional()
  @IsObject()
  times?: Record<string, unknown>;
  @ApiProperty({ type: 'object', additionalProperties: true, description: 'Item id → response.' }) @IsObject() responses!: Record<string, unknown>;
  @ApiPropertyOptional({ description: 'How many items the learner has passed.' }) @IsOptional() @IsInt() @Min(0) @Max(MOST_PLACES) place?: number;
  @ApiPropertyOptional({ description: 'When the last answer was given, by the clock of the server as the browser knows it.' })
  @IsOptional()
  @IsISO8601()
  answeredAt?: string;
}
class HereBody {
  @ApiProperty({ description: 'How many items the learner has passed.' }) @IsInt() @Min(0) @Max(MOST_PLACES) place!: number;
}
class StepBody extends InLanguage {
  @ApiProperty() @IsString() @Length(1, 100) item!: string;
  @ApiPropertyOptional({ type: 'object', additionalProperties: true, description: 'The answer; absent where a hint or the key is asked for.' })
  @IsOptional()
  @IsObject()
  response?: Record<string, unknown>;
  @ApiPropertyOptional() @IsOptional() @IsBoolean() hint?: boolean;
  @ApiPropertyOptional({ description: 'The learner wants to see the key.' }) @IsOptional() @IsBoolean() giveUp?: boolean;
}
class LearnerView {
  @ApiProperty() name!: string;
  @ApiProperty({ description: 'Whether an attempt of theirs is under way, on whatever device.' }) underWay!: boolean;
  @ApiProperty({ description: 'How often they have handed in.' }) handedIn!: number;
}
class PersonView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
}
/** Times are the server's, so that a wrong clock of a phone does not matter. */
class ClockView {
  @ApiProperty() now!: string;
  @ApiProperty({ enum: ['before', 'open', 'closed'] }) phase!: Phase;
  @ApiPropertyOptional({ description: 'The time stands still, by the teacher.' }) paused?: boolean;
  @ApiPropertyOptional({ description: 'When the attempt ends; not known while it is paused.' }) due?: string;
  @ApiPropertyOptional({ description: 'When the time for an item ends, and the place of the item; not known while it is paused.' }) itemDue?: string;
  @ApiPropertyOptional({ description: 'How many items were passed.' }) place?: number;
}
class WelcomeView extends ClockView {
  @ApiProperty() title!: string;
  @ApiProperty() items!: number;
  @ApiProperty() points!: number;
  @ApiProperty(ofCore('QuizRules')) rules!: QuizRules;
  @ApiPropertyOptional({ type: [String], description: 'Languages to choose from, that of the set first (empty where it is not known).' }) languages?: string[];
  @ApiPropertyOptional({ description: 'The language of the set.' }) language?: string;
  @ApiPropertyOptional({ type: LearnerView, description: 'Who comes from a course, or by a code of their own.' }) learner?: LearnerView;
  @ApiPropertyOptional({ type: [PersonView], description: 'Who may come in, where names are chosen from a list.' }) people?: PersonView[];
}
class OutcomeItem {
  @ApiProperty() id!: string;
  @ApiPropertyOptional() state?: Mark['state'];
  @ApiPropertyOptional() points?: number;
  @ApiPropertyOptional({ type: [String] }) feedback?: string[];
  @ApiPropertyOptional() answer?: string;
}
class OutcomeView {
  @ApiPropertyOptional() points?: number;
  @ApiPropertyOptional() maximum?: number;
  @ApiPropertyOptional({ description: 'Points that a person still has to give.' }) byHand?: number;
  @ApiPropertyOptional({ type: [OutcomeItem] }) items?: OutcomeItem[];
  @ApiPropertyOptional({ enum: ['closed', 'released'], description: 'What brings more of it.' }) later?: 'closed' | 'released';
  @ApiPropertyOptional({ description: 'The clock handed it in, with what had arrived.' }) byClock?: boolean;
  @ApiPropertyOptional({ description: 'Per cent of the points that handing in late has cost; `points` are without them.' }) late?: number;
}
class PracticeItemView {
  @ApiProperty() tries!: number;
  @ApiPropertyOptional({ description: 'Tries that are left; absent where there is no limit.' }) left?: number;
  @ApiProperty({ type: [String] }) hints!: string[];
  @ApiProperty({ description: 'Whether there is another hint.' }) moreHints!: boolean;
  @ApiProperty() done!: boolean;
  @ApiPropertyOptional() state?: Mark['state'];
  @ApiPropertyOptional() points?: number;
  @ApiPropertyOptional({ type: [String] }) feedback?: string[];
  @ApiPropertyOptional() answer?: string;
}
class AttemptState extends ClockView {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty() name!: string;
  @ApiProperty({ description: 'Whether a person goes by the name: where nobody has one, nobody finds an attempt again by it.' }) named!: boolean;
  @ApiPropertyOptional() language?: string;
  @ApiPropertyOptional({ type: [String], description: 'Languages to choose from, that of the set first (empty where it is not known).' }) languages?: string[];
  @ApiProperty({ enum: ['one-by-one', 'all'] }) pages!: QuizRules['pages'];
  @ApiProperty({ description: 'Whether the learner may go back.' }) back!: boolean;
  @ApiPropertyOptional({ description: 'Required items must be answered before handing in.' }) holdsRequired?: boolean;
  @ApiProperty({ description: 'How many items were passed.' }) override place!: number;
  @ApiPropertyOptional({ type: 'object', additionalProperties: { type: 'number' }, description: 'Seconds for an item, by id, where each has a time.' })
  itemTimes?: Record<string, number>;
  @ApiProperty({ type: 'object', additionalProperties: true, isArray: true, description: 'LearnerItem of the core, in the order of the learner.' })
  items!: LearnerItem[];
  @ApiProperty({ type: 'object', additionalProperties: true }) responses!: Record<string, Response>;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'number' }, description: 'Item id → seconds that it was looked at so far.' })
  times!: Record<string, number>;
  @ApiPropertyOptional({ type: 'object', additionalProperties: true, description: 'Where it is practice: PracticeView of the core by item id.' })
  practice?: Record<string, PracticeView>;
  @ApiPropertyOptional({ type: OutcomeView }) outcome?: OutcomeView;
}

@ApiTags('take')
@Controller('take')
export class TakeController {
  constructor(
    private readonly db: Db,
    private readonly limit: RateLimit,
    private readonly published: Published,
    private readonly attempts: Attempts,
    private readonly marking: Marking,
  ) {}

  @Get(':code')
  @Gives(WelcomeView)
  @Access('public')
  async welcome(@Param('code') code: string, @Req() req: Request, @Headers('x-launch') launch?: string): Promise<WelcomeView> {
    const d = await this.byCode(code, req);
    const rules = rulesOf(d);
    if (rules.enter === 'personal' && !d.member && launch === undefined) throw ownCode();
    const { set, points } = await this.published.of(d.id);
    const known = launch === undefined ? d.member && knownAs(d.member) : await this.launched(d, launch);
    const people = rules.enter === 'list' && !known && (await this.people(d));
    return {
      title: d.title,
      items: set.items.filter((i) => i.kind !== 'information').length,
      points,
      rules,
      now: new Date().toISOString(),
      phase: phaseOf(rules, d.open, timeOf(d)),
      ...(d.paused_at && { paused: true }),
      ...(set.language && { language: set.language }),
      ...languagesOf(set),
      ...(known && { learner: await this.learner(d, known) }),
      ...(people && { people }),
    };
  }

  private people(d: Entered): Promise<PersonView[]> {
    return this.db.rows<PersonView>('select id, name from class_member where list_id = $1 order by place', [d.class_list_id]);
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
  private async learner(d: Entered, { name, person }: Known): Promise<LearnerView> {
    const [n] = await this.db.rows<{ under: number; done: number }>(
      `select count(*) filter (where submitted_at is null)::int as under, count(*) filter (where submitted_at is not null)::int as done
       from attempt where delivery_id in ${sameAs('$1')} and person = $2`,
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
      const launch = body.launch === undefined ? undefined : await this.launched(d, body.launch);
      return await this.state(await this.attempts.begin(d, body, req.ip ?? '', launch), body.language);
    } catch (e) {
      // an attempt that is there goes on, whatever would keep a new one out; sent twice at once, what is there counts
      const there = await this.attempts.find(body.id);
      if (there) return this.state(mine(there, body.token), body.language);
      throw e;
    }
  }

  @Get('attempts/:attempt')
  @Gives(AttemptState)
  @Access('public')
  async get(@Param('attempt') id: string, @Headers('x-attempt-token') token: string = '', @Query() { language }: InLanguage = {}): Promise<AttemptState> {
    return this.state(await this.attempts.whole(id, token), language);
  }

  /** Keeps the answers so far. */
  @Put('attempts/:attempt')
  @Gives(ClockView)
  @Access('public')
  async keep(@Param('attempt') id: string, @Headers('x-attempt-token') token: string = '', @Body() body: AnswersBody): Promise<ClockView> {
    const a = await this.attempts.lean(id, token);
    await this.attempts.keep(a, body);
    return this.clock(a, body.place);
  }

  /** The browser is there; it learns when the attempt ends by now. */
  @Post('attempts/:attempt/here')
  @HttpCode(200)
  @Gives(ClockView)
  @Access('public')
  async here(@Param('attempt') id: string, @Headers('x-attempt-token') token: string = '', @Body() { place }: HereBody): Promise<ClockView> {
    const a = await this.attempts.lean(id, token);
    await this.attempts.seen(a, place);
    return this.clock(a, place);
  }

  /** In practice: an answer is marked, a hint is given, or the key is shown. */
  @Post('attempts/:attempt/step')
  @HttpCode(200)
  @Gives(PracticeItemView)
  @Access('public')
  async step(@Param('attempt') id: string, @Headers('x-attempt-token') token: string = '', @Body() body: StepBody): Promise<PracticeView> {
    const a = await this.attempts.whole(id, token);
    const tries = await this.attempts.step(a, body.item, body);
    const { own, theirs } = await this.published.both(a.delivery, body.language);
    // what is no practice, and what is no item of it, was refused
    const n = own.items.findIndex((i) => i.id === body.item);
    return practiceOf(own.items[n] as Item, theirs.items[n] as Item, tries, a.rules.practice as Practice, theirs.language);
  }

  /** Hands in. A second time gives the first outcome again. */
  @Post('attempts/:attempt/submit')
  @HttpCode(200)
  @Gives(OutcomeView)
  @Access('public')
  async submit(@Param('attempt') id: string, @Headers('x-attempt-token') token: string = '', @Body() body: AnswersBody): Promise<OutcomeView> {
    return this.outcome(await this.attempts.submit(await this.attempts.whole(id, token), body), body.language);
  }

  private async byCode(code: string, req: Request): Promise<Entered> {
    const clean = code.slice(0, 40).toUpperCase().replace(/[\s-]/g, '');
    const d = await this.limit.guarded(`code from ${req.ip ?? ''}`, WRONG_CODES, async () => {
      const [found] = await this.db.rows<Entered & { of: Member | null }>(ENTERED, [storable(clean)]);
      if (!found) return null;
      const { of, ...entered } = found;
      return { ...entered, ...(of && { member: of }) };
    });
    if (d) return d;
    throw new Problem(404, 'wrong-code', 'No quiz has this entry code. Check the six letters and digits on the board, and type them again.');
  }

  /** @param place where the learner is by now */
  private async clock(a: Lean, place = 0): Promise<ClockView> {
    // where items have no time nobody need look into the set
    if (a.rules.itemSeconds === undefined) return clockOf(a);
    const now = place > a.place ? { ...a, place, place_at: new Date(Date.now()) } : a;
    return clockOf(now, (await this.published.of(a.delivery)).set);
  }

  private async state(a: Going, language?: string): Promise<AttemptState> {
    const { own, theirs } = await this.published.both(a.delivery, language);
    const responses = inTheirs(a.responses, own, theirs);
    const { languages } = languagesOf(own);
    const { practice } = a.rules;
    const chance = secretChance(a.seed);
    return {
      id: a.id,
      title: theirs === own ? a.title : theirs.title,
      name: a.name,
      named: a.rules.enter !== 'nameless',
      ...clockOf(a, own),
      ...(a.rules.itemSeconds !== undefined && { itemTimes: itemTimes(own, a) }),
      pages: a.rules.pages,
      back: a.rules.back,
      ...(a.rules.holdsRequired && { holdsRequired: true }),
      place: a.place,
      ...(theirs.language && { language: theirs.language }),
      ...(languages && { languages }),
      items: itemsInOrder(theirs.items, a.rules, chance).map((i) => learnerView(i, theirs, chance)),
      responses: Object.fromEntries(
        theirs.items.flatMap((i) => {
          const given = lookUp(responses, i.id);
          return given ? [[i.id, asShown(i, given, chance)]] : [];
        }),
      ),
      times: a.times,
      ...(practice &&
        !a.submitted && {
          practice: Object.fromEntries(
            theirs.items.map((i, n) => [i.id, practiceOf(own.items[n] ?? i, i, lookUp(a.progress, i.id), practice, theirs.language)]),
          ),
        }),
      ...(a.submitted && { outcome: await this.outcome(a, language) }),
    };
  }

  private async outcome(a: Going, language?: string): Promise<OutcomeView> {
    const { own, theirs } = await this.published.both(a.delivery, language);
    // keys that are others now, and without what is left out
    const judged = await this.marking.judging({ kind: 'delivery', id: a.delivery, set: own }, a.judging);
    const told = language && own !== theirs ? inLanguage(judged.set, language) : judged.set;
    const over = phaseOf(a.rules, a.open, timeOf(a)) === 'closed';
    const later = seenLater(a.rules, over, a.released);
    const { points, ...outcome } = outcomeOf(told, inTheirs(a.responses, own, theirs), a.marks ?? {}, seenNow(a.rules, over, a.released));
    const kept = keptBy(a.rules, a);
    return {
      ...outcome,
      ...(points !== undefined && { points: keptOf(points, kept) }),
      ...(kept < 1 && { late: Math.round((1 - kept) * 1000) / 10 }),
      ...(later && { later }),
      ...(a.by_clock && { byClock: true }),
    };
  }
}

/**
 * What a learner is told of an item under way, in their language.
 * @param own the item as it was written, to which the answers were kept
 */
function practiceOf(own: Item, theirs: Item, tries: ItemTries | undefined, rules: Practice, language: string | undefined): PracticeView {
  const response = tries?.response && own !== theirs ? responseIn(own, theirs, tries.response) : tries?.response;
  return practiceView(theirs, tries && { ...tries, ...(response && { response }) }, rules, language);
}

/** A delivery by its own code, or by the code of somebody who may take it. */
const ENTERED = `select d.id, d.title, d.open, d.paused_at, d.released, d.rules, d.together, d.class_list_id, null::jsonb as of
    from delivery d join quiz_set s on s.id = d.set_id where d.code = $1 and s.deleted_at is null
  union all
  select d.id, d.title, d.open, d.paused_at, d.released, d.rules, d.together, d.class_list_id, jsonb_build_object('id', m.id, 'name', m.name, 'extra', m.extra, 'until', ${UNTIL}, 'attempts', i.attempts)
    from invitation i join delivery d on d.id = i.delivery_id join class_member m on m.id = i.member_id join quiz_set s on s.id = d.set_id
    where i.code = $1 and s.deleted_at is null`;

/** @param own the set as it was written, where items may have a time */
function clockOf(a: Lean, own?: QuizSet): ClockView {
  const due = dueAt(a);
  const itemDue = own && itemDueAt(own, a);
  return {
    now: new Date().toISOString(),
    phase: phaseOf(rulesUntil(a.rules, a.more.until), a.open, timeOf(a)),
    ...(a.paused_at && !a.submitted && { paused: true }),
    ...(due !== undefined && !a.paused_at && { due: new Date(due).toISOString() }),
    ...(itemDue !== undefined && !a.paused_at && { itemDue: new Date(itemDue).toISOString(), place: a.place }),
  };
}

/** Seconds for each item that has a time. */
const itemTimes = (own: QuizSet, a: Lean): Record<string, number> =>
  Object.fromEntries(
    own.items.flatMap((i) => {
      const time = itemTimeOf(i, a.rules, a.more);
      return time === undefined ? [] : [[i.id, time / 1000]];
    }),
  );
/** The rules as they are for who enters by a code of their own. */
function rulesOf({ rules, member }: Entered): QuizRules {
  const theirs = rulesUntil(rules, member?.until ?? undefined);
  return member?.attempts && theirs.attempts ? { ...theirs, attempts: theirs.attempts + member.attempts } : theirs;
}

/** The languages of a set that a learner may choose among; nothing where there is one. */
const languagesOf = ({ language, translations }: QuizSet): { languages?: string[] } =>
  translations && Object.keys(translations).length ? { languages: [language ?? '', ...Object.keys(translations)] } : {};
