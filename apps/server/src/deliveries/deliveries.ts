import { Body, Controller, Get, Header, HttpCode, type MessageEvent, Param, Patch, Post, Sse } from '@nestjs/common';
import { mapOfCore, ofCore } from '../platform/schemas.js';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import {
  changedRules,
  countingOf,
  invitationLetter,
  itemsInOrder,
  keptOf,
  languageOf,
  type Mark,
  type ItemTries,
  notReached,
  type QuizRules,
  type QuizSet,
  type Response,
  type RulesChange,
  rulesProblem,
  type ShownAfter,
  shownAfter,
  usualRules,
} from '@zakuska/core';
import { ArrayMaxSize, IsArray, IsBoolean, IsIn, IsInt, IsISO8601, IsNumber, IsObject, IsOptional, IsString, IsUUID, Length, Max, Min } from 'class-validator';
import QRCode from 'qrcode';
import { map, type Observable } from 'rxjs';
import { Access, Gives, Me, type Signed, WorkspaceId } from '../accounts/access.js';
import { wasDoneWithSet } from '../accounts/audit.js';
import { RateLimit } from '../accounts/rateLimit.js';
import { ClassMember } from '../classes/entities.js';
import { mailThere, Outbox } from '../mail/outbox.js';
import { Changes } from '../platform/changes.js';
import { gone, Problem } from '../platform/problem.js';
import { secretChance } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { DUE_AGAIN } from '../platform/dueRows.js';
import { sql } from '../platform/sql.js';
import { Attempts, keptBy } from './attempts.js';
import { Attempt, Delivery } from './entities.js';
import { arrange, invite, invited, type Mailed } from './invitations.js';
import { LiveView, Watching } from './live.js';
import { type AnswersOf, DecisionsBody, DecisionView, Marking, TakeBackBody } from './marking.js';
import { Published } from './published.js';
import { Publishing } from './publishing.js';
import { slipsPage } from './slips.js';
import { sameAs, togetherWith } from './together.js';

class PublishBody {
  @ApiPropertyOptional({ enum: shownAfter, description: 'What learners see after handing in; the score where it is not said.' })
  @IsOptional()
  @IsIn(shownAfter)
  shows?: ShownAfter;
  @ApiPropertyOptional(ofCore('RulesChange', 'What else is not as usual.')) @IsOptional() @IsObject() rules?: RulesChange;
  @ApiPropertyOptional({ description: 'The class that takes it, where people come in by their names or by codes of their own.' })
  @IsOptional()
  @IsUUID()
  classList?: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @Length(1, 300) title?: string;
  @ApiPropertyOptional({ description: 'A version of the set by its name; the whole set where it is not said.' })
  @IsOptional()
  @IsString()
  @Length(1, 60)
  version?: string;
  @ApiPropertyOptional({ description: 'All versions of the set at once: one code, and each learner gets one of them.' })
  @IsOptional()
  @IsBoolean()
  versions?: boolean;
  @ApiPropertyOptional({ description: 'One of the further languages of the set (BCP 47), or that with a "+" in front: both, beside one another.' })
  @IsOptional()
  @IsString()
  @Length(2, 36)
  language?: string;
  @ApiPropertyOptional({ type: [String], description: 'Further languages of the set that learners may choose beside its own.' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20)
  @IsString({ each: true })
  @Length(2, 35, { each: true })
  choice?: string[];
}
class DeliveryPatch {
  @ApiPropertyOptional() @IsOptional() @IsBoolean() open?: boolean;
  @ApiPropertyOptional({ description: 'Whether its time stands still.' }) @IsOptional() @IsBoolean() paused?: boolean;
  @ApiPropertyOptional({ description: 'Whether what is shown "when released" is.' }) @IsOptional() @IsBoolean() released?: boolean;
  @ApiPropertyOptional(ofCore('RulesChange', 'Rules that change. Who comes in, the orders and practice stay as they were published.'))
  @IsOptional()
  @IsObject()
  rules?: RulesChange;
}
class FreeBody {
  @ApiProperty() @IsUUID() attempt!: string;
}
class MoreTimeBody {
  @ApiProperty({ description: 'Minutes more than now; less than 0 takes some away.' }) @IsNumber() @Min(-600) @Max(10_080) minutes!: number;
  @ApiPropertyOptional({ description: 'One attempt; all that are under way where it is not said.' }) @IsOptional() @IsUUID() attempt?: string;
}
class DeliveryView {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty({ description: 'The version of the set that it is; empty for the whole set.' }) version!: string;
  @ApiPropertyOptional({ description: 'The same of versions that were published at once, of which each learner gets one. Changes are of all of them.' })
  together?: string;
  @ApiProperty({ description: 'The language that it is in; empty for that of the set, with a "+" in front for both.' }) language!: string;
  @ApiProperty({ type: [String], description: 'Further languages that learners may choose.' }) choice!: string[];
  @ApiProperty() code!: string;
  @ApiProperty() link!: string;
  @ApiProperty(ofCore('QuizRules')) rules!: QuizRules;
  @ApiProperty() open!: boolean;
  @ApiProperty({ description: 'Whether its time stands still.' }) paused!: boolean;
  @ApiProperty() released!: boolean;
  @ApiPropertyOptional({ description: 'The name of the class that takes it.' }) className?: string;
  @ApiProperty() createdAt!: string;
  @ApiProperty() items!: number;
  @ApiProperty() points!: number;
  @ApiProperty() responses!: number;
}
export class AttemptView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiPropertyOptional({ description: 'Their address, where one is known.' }) mail?: string;
  @ApiPropertyOptional({ description: 'What the school calls them, of somebody of a class.' }) number?: string;
  @ApiProperty({ description: 'Which attempt of the person it is, in the order of handing in: 1, 2, …' }) attempt!: number;
  @ApiPropertyOptional({ description: 'The name under which the same device handed in before.' }) sameDeviceAs?: string;
  @ApiProperty() startedAt!: string;
  @ApiProperty() submittedAt!: string;
  @ApiProperty() points!: number;
  @ApiProperty(mapOfCore('Mark')) marks!: Record<string, Mark>;
  @ApiProperty(mapOfCore('Response')) responses!: Record<string, Response>;
  @ApiPropertyOptional({ description: 'The points that count for the person; absent where another attempt of theirs does.' }) counts?: number;
  @ApiPropertyOptional({ description: 'The share of the points that is kept, where it was handed in after it was due; `points` are those.' }) kept?: number;
  @ApiPropertyOptional({ type: 'object', additionalProperties: { type: 'number' }, description: 'Seconds that items were looked at, by id.' })
  times?: Record<string, number>;
  @ApiPropertyOptional({ type: [String], description: 'Ids of items behind the last one that was answered, in the order of the person.' })
  notReached?: string[];
  @ApiPropertyOptional({ description: 'Arrived after the end, or after it was due, with answers that were given before it.' }) late?: boolean;
  @ApiPropertyOptional({ description: 'Handed in by the clock, with what had arrived.' }) byClock?: boolean;
  @ApiPropertyOptional({
    type: 'object',
    additionalProperties: {
      type: 'object',
      properties: { tries: { type: 'number' }, hints: { type: 'number' }, first: { type: 'string' } },
      required: ['tries', 'hints'],
    },
    description: 'In practice, by item: tries, hints, how the first answer was marked.',
  })
  practice?: Record<string, Pick<ItemTries, 'tries' | 'hints' | 'first'>>;
}
class MailedView {
  @ApiProperty({ enum: ['waiting', 'sent', 'failed'] }) state!: Mailed['state'];
  @ApiProperty() at!: string;
  @ApiPropertyOptional({ description: 'Why it was not sent.' }) problem?: string;
}
class LetterView {
  @ApiProperty() subject!: string;
  @ApiProperty() text!: string;
}
class InvitedView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty() mail!: string;
  @ApiProperty({ description: 'Time beyond that of the others, in per cent.' }) extra!: number;
  @ApiPropertyOptional({ description: 'Until when they may take it, where that is arranged.' }) until?: string;
  @ApiProperty({ description: 'Attempts beyond those of the others.' }) attempts!: number;
  @ApiProperty({ description: 'What they take: of several versions theirs.' }) delivery!: string;
  @ApiProperty({ description: 'The version that they have; empty for the whole set.' }) version!: string;
  @ApiProperty({ description: 'Their own code.' }) code!: string;
  @ApiProperty({ description: 'A link that opens it as them.' }) link!: string;
  @ApiProperty({ description: 'Attempts under way.' }) begun!: number;
  @ApiProperty() handedIn!: number;
  @ApiProperty({ type: LetterView, description: 'What a mail to them says.' }) letter!: LetterView;
  @ApiPropertyOptional({ type: MailedView, description: 'How the last mail to them stands.' }) mailed?: MailedView;
}
class PeopleView {
  @ApiProperty({ description: 'Whether mails can be sent from here.' }) mails!: boolean;
  @ApiProperty({ type: [InvitedView] }) people!: InvitedView[];
}
class ArrangeBody {
  @ApiProperty({ type: [String], description: 'Of the class by their ids.' })
  @IsArray()
  @ArrayMaxSize(2000)
  @IsUUID(undefined, { each: true })
  members!: string[];
  @ApiPropertyOptional({ type: String, nullable: true, description: 'Until when they may take it, where that is later than for the others.' })
  @IsOptional()
  @IsISO8601({ strict: true })
  until?: string | null;
  @ApiPropertyOptional({ description: 'Attempts beyond those of the others.' }) @IsOptional() @IsInt() @Min(0) @Max(20) attempts?: number;
}
class MailsBody {
  @ApiPropertyOptional({ type: [String], description: 'Of the class by their ids; all who were not written to yet where it is not said.' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(2000)
  @IsUUID(undefined, { each: true })
  members?: string[];
}
class ResultsView {
  @ApiProperty({ type: DeliveryView }) delivery!: DeliveryView;
  @ApiProperty(ofCore('QuizSet', 'The set as it was published.')) set!: QuizSet;
  @ApiProperty({ type: [AttemptView] }) attempts!: AttemptView[];
  @ApiProperty({ description: 'Learners who have begun and not submitted.' }) underWay!: number;
  @ApiProperty({ type: [DecisionView], description: 'What was decided since, in order.' }) decisions!: DecisionView[];
}

/** Mails of a workspace within an hour: a school with all its classes at once. */
const MAILS_AN_HOUR = 2000;
/** What cannot change once it is published: the orders and answers of those who have begun hang on it. */
const FIXED = ['enter', 'shuffle', 'practice'] as const;

/** @throws Problem 400 where a value is not one */
function rulesWith(rules: QuizRules, change: RulesChange): QuizRules {
  try {
    return changedRules(rules, change);
  } catch (e) {
    throw new Problem(400, 'rules-invalid', `A rule has a value that it cannot have: ${e instanceof Error ? e.message.slice(0, 300) : 'unknown'}`);
  }
}

/** @throws Problem 422 where rules cannot be so, or stay as they were published */
function changeOne(d: Delivery, body: DeliveryPatch): void {
  if (body.open !== undefined && body.open !== d.open) {
    d.open = body.open;
    d.closedAt = body.open ? null : new Date();
  }
  if (body.released !== undefined) d.released = body.released;
  if (body.rules) {
    const fixed = FIXED.filter((name) => Object.hasOwn(body.rules ?? {}, name));
    if (fixed.length) throw new Problem(422, 'rules', `These stay as they were published: ${fixed.join(', ')}. Publish it anew to have them otherwise.`);
    d.rules = rulesWith(d.rules, body.rules);
    const wrong = rulesProblem(d.rules);
    if (wrong) throw new Problem(422, 'rules', wrong);
  }
}

export const linkOf = (d: { code: string }): string => `${settings().publicUrl}/t/${d.code}`;

@ApiTags('deliveries')
@Controller()
export class DeliveriesController {
  constructor(
    private readonly em: EntityManager,
    private readonly publishing: Publishing,
    private readonly published: Published,
    private readonly attempts: Attempts,
    private readonly watching: Watching,
    private readonly changes: Changes,
    private readonly limit: RateLimit,
    private readonly outbox: Outbox,
    private readonly marking: Marking,
  ) {}

  @Get('sets/:set/deliveries')
  @Gives([DeliveryView])
  @Access('reader')
  async list(@Param('set') setId: string): Promise<DeliveryView[]> {
    const em = this.em.fork();
    const all = await em.find(Delivery, { set: setId }, { orderBy: { createdAt: 'desc' }, populate: ['classList'] });
    return Promise.all(all.map((d) => this.view(em, d)));
  }

  /** Publishes the items as they are now; later edits of the set do not change a delivery. */
  @Post('sets/:set/deliveries')
  @Gives(DeliveryView)
  @Access('editor')
  async publish(@Param('set') setId: string, @Body() body: PublishBody, @Me() me: Signed): Promise<DeliveryView> {
    const { shows, rules: change, versions, version, ...rest } = body;
    const how = { ...rest, rules: rulesWith(usualRules(shows), change ?? {}) };
    const d = versions ? await this.publishing.publishVersions(setId, how) : await this.publishing.publish(setId, { ...how, ...(version && { version }) });
    const em = this.em.fork();
    await wasDoneWithSet(em, setId, { account: me.account.id, what: 'quiz published', about: { quiz: d.title, code: d.code } });
    return this.view(em, d);
  }

  @Patch('deliveries/:delivery')
  @Gives(DeliveryView)
  @Access('editor')
  async change(@Param('delivery') id: string, @Body() body: DeliveryPatch, @Me() me: Signed): Promise<DeliveryView> {
    const em = this.em.fork();
    const ids = await togetherWith(em, id);
    if (body.paused !== undefined) for (const one of ids) await (body.paused ? this.watching.pause(one) : this.watching.goOn(one));
    const all = await em.find(Delivery, { id: { $in: ids } }, { populate: ['classList'] });
    const d = all.find((one) => one.id === id);
    if (!d) throw gone('delivery');
    for (const one of all) changeOne(one, body);
    await em.flush();
    if (body.open !== undefined)
      await wasDoneWithSet(em, d.set.id, {
        account: me.account.id,
        what: 'quiz opened or closed',
        about: { quiz: d.title, to: body.open ? 'open' : 'closed' },
      });
    // what is taken off is other now, so courses hear of it again
    if (body.rules?.late !== undefined)
      await sql(
        em,
        `update lti_score set ${DUE_AGAIN}
         where attempt_id in (select id from attempt where delivery_id in (select x::uuid from jsonb_array_elements_text(?::jsonb) x))`,
        [JSON.stringify(ids)],
      );
    return this.view(em, d);
  }

  @Get('deliveries/:delivery/qr.svg')
  @Header('content-type', 'image/svg+xml')
  @Access('reader')
  async qr(@Param('delivery') id: string): Promise<string> {
    const d = await this.em.fork().findOne(Delivery, { id });
    if (!d) throw gone('delivery');
    return QRCode.toString(linkOf(d), { type: 'svg', margin: 2, errorCorrectionLevel: 'M' });
  }

  @Get('deliveries/:delivery/results')
  @Gives(ResultsView)
  @Access('reader')
  async results(@Param('delivery') id: string): Promise<ResultsView> {
    const em = this.em.fork();
    const d = await em.findOne(Delivery, { id }, { populate: ['classList'] });
    if (!d) throw gone('delivery');
    await this.attempts.endOverdue(id);
    const of = await this.answersOf(id);
    await this.marking.markAnew(of);
    const attempts = await em.find(Attempt, { delivery: id, submittedAt: { $ne: null } }, { orderBy: { points: 'desc', name: 'asc' } });
    const repeats = repeatsOf(attempts);
    const counting = countingOf(
      attempts.map((a) => ({ id: a.id, person: a.person, points: keptOf(a.points ?? 0, keptOfAttempt(d.rules, a)), at: a.submittedAt?.getTime() ?? 0 })),
      d.rules.counts,
    );
    const members = await em.find(ClassMember, { id: { $in: attempts.flatMap((a) => a.memberId ?? []) } }, { fields: ['mail', 'number'] });
    const member = new Map(members.map((m) => [m.id, m]));
    const counts = new Map([...counting.values()].map(({ points, attempt }) => [attempt.id, points]));
    return {
      delivery: await this.view(em, d),
      set: of.set,
      decisions: await this.marking.decisions(em, of),
      underWay: await em.count(Attempt, { delivery: id, submittedAt: null }),
      attempts: attempts.map((a) => ({
        ...howItWent(a, d.rules, of.set),
        id: a.id,
        name: a.name,
        ...reachedBy(member.get(a.memberId ?? '')),
        ...repeats.get(a.id)!,
        startedAt: a.startedAt.toISOString(),
        submittedAt: (a.submittedAt ?? a.startedAt).toISOString(),
        marks: a.marks ?? {},
        responses: a.responses,
        ...(counts.has(a.id) && { counts: counts.get(a.id) as number }),
        ...(a.byClock && { byClock: true }),
        ...(d.rules.practice && {
          practice: Object.fromEntries(Object.entries(a.progress).map(([item, { tries, hints, first }]) => [item, { tries, hints, ...(first && { first }) }])),
        }),
      })),
    };
  }

  /** Decides on answers that are in: which count, which key is the right one, what is left out, what a person gets by hand. All are marked anew. */
  @Post('deliveries/:delivery/decisions')
  @HttpCode(200)
  @Gives([DecisionView])
  @Access('marker')
  async decide(@Param('delivery') id: string, @Body() { decisions }: DecisionsBody, @Me() me: Signed): Promise<DecisionView[]> {
    return this.marking.take(await this.answersOf(id), decisions, me.account.id);
  }
  /** Takes decisions back; they stay in the list, and answers are marked as if they had not been taken. */
  @Post('deliveries/:delivery/decisions/back')
  @HttpCode(204)
  @Access('marker')
  async takeBack(@Param('delivery') id: string, @Body() { ids }: TakeBackBody, @Me() me: Signed): Promise<void> {
    await this.marking.takeBack(await this.answersOf(id), ids, me.account.id);
  }
  private async answersOf(id: string): Promise<AnswersOf> {
    return { kind: 'delivery', id, set: (await this.published.of(id)).set };
  }

  /** Everybody of the class, with their codes; who was added to it since gets one. */
  @Post('deliveries/:delivery/people')
  @HttpCode(200)
  @Gives(PeopleView)
  @Access('editor')
  async people(@Param('delivery') id: string): Promise<PeopleView> {
    const em = this.em.fork();
    await invite(em, id);
    return { mails: mailThere(), people: await this.peopleOf(em, id) };
  }

  /** Arranges with people of the class until when they may take it, and attempts beyond those of the others; what is not said is taken back. */
  @Post('deliveries/:delivery/arrange')
  @HttpCode(200)
  @Gives(PeopleView)
  @Access('editor')
  async arrange(@Param('delivery') id: string, @Body() { members, until = null, attempts = 0 }: ArrangeBody): Promise<PeopleView> {
    return this.em.fork().transactional(async (em) => {
      await invite(em, id);
      await arrange(em, id, members, until, attempts);
      return { mails: mailThere(), people: await this.peopleOf(em, id) };
    });
  }

  /** Writes to people of the class, each their own link and code. Who has a mail on its way gets no second one. */
  @Post('deliveries/:delivery/mails')
  @HttpCode(200)
  @Gives(PeopleView)
  @Access('editor')
  async mails(@Param('delivery') id: string, @Body() { members }: MailsBody, @WorkspaceId() workspace: string): Promise<PeopleView> {
    if (!mailThere()) throw new Problem(422, 'mail-off', 'No mail server is set up here. Copy the codes, or write from your own mail program.');
    return this.em.fork().transactional(async (em) => {
      // of two at once the second waits, and finds what the first has written
      await sql(em, `select id from delivery where id in ${sameAs('?')} order by id for update`, [id]);
      await invite(em, id);
      const people = await this.peopleOf(em, id);
      const chosen = people.filter((p) => p.mail && p.mailed?.state !== 'waiting' && (members ? members.includes(p.id) : !p.mailed));
      if ((await this.limit.count(`mails of ${workspace}`, chosen.length)) > MAILS_AN_HOUR)
        throw new Problem(429, 'too-many-mails', `More than ${MAILS_AN_HOUR} mails within an hour are not sent. Wait a little.`, { retryAfter: 600 });
      await this.outbox.put(
        em,
        chosen.map((p) => ({ name: p.name, address: p.mail, ...p.letter, delivery: p.delivery, member: p.id })),
      );
      return { mails: true, people: await this.peopleOf(em, id) };
    });
  }

  private async peopleOf(em: EntityManager, id: string): Promise<InvitedView[]> {
    const d = await em.findOne(Delivery, { id });
    if (!d) throw gone('delivery');
    const language = languageOf((await this.published.of(id)).set);
    return (await invited(em, id)).map(({ mailed, until, ...i }): InvitedView => {
      const link = linkOf(i);
      return { ...i, link, letter: invitationLetter({ ...i, link, title: d.title }, language), ...(until && { until }), ...(mailed && { mailed }) };
    });
  }

  /** A page to print: a slip for each of the class, with their name, code, link and a QR code. */
  @Get('deliveries/:delivery/slips')
  @Header('content-type', 'text/html; charset=utf-8')
  @Header('content-security-policy', "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'")
  @Access('editor')
  async slips(@Param('delivery') id: string): Promise<string> {
    const em = this.em.fork();
    const d = await em.findOne(Delivery, { id });
    if (!d) throw gone('delivery');
    await invite(em, id);
    return slipsPage(
      d.title,
      (await invited(em, id)).map((i) => ({ name: i.name, code: i.code, link: linkOf(i) })),
    );
  }

  /** Who has begun, where they are, what was right so far, who has handed in: once at first, then after each change. */
  @Sse('deliveries/:delivery/events')
  @Gives(LiveView)
  @Access('reader')
  live(@Param('delivery') id: string, @Me() me: Signed): Observable<MessageEvent> {
    return this.watching.of(this.changes.of(id, me.account.id), id).pipe(map((data: LiveView): MessageEvent => ({ data })));
  }

  /** More time for one attempt, or for all that are under way. */
  @Post('deliveries/:delivery/time')
  @HttpCode(204)
  @Access('editor')
  async time(@Param('delivery') id: string, @Body() { minutes, attempt }: MoreTimeBody): Promise<void> {
    for (const one of attempt ? [id] : await togetherWith(this.em.fork(), id)) await this.watching.give(one, minutes, attempt);
  }

  /** Lets somebody go on with their attempt on another device. */
  @Post('deliveries/:delivery/free')
  @HttpCode(204)
  @Access('editor')
  async free(@Param('delivery') id: string, @Body() { attempt }: FreeBody): Promise<void> {
    await this.watching.free(id, attempt);
  }

  private async view(em: EntityManager, d: Delivery): Promise<DeliveryView> {
    const { set, points } = await this.published.of(d.id);
    return {
      id: d.id,
      title: d.title,
      version: d.version,
      ...(d.together && { together: d.together }),
      language: d.language,
      choice: Object.keys(set.translations ?? {}),
      code: d.code,
      link: linkOf(d),
      rules: d.rules,
      open: d.open,
      paused: d.pausedAt !== null,
      released: d.released,
      ...(d.classList && { className: d.classList.name }),
      createdAt: d.createdAt.toISOString(),
      items: set.items.length,
      points,
      responses: await em.count(Attempt, { delivery: d.id, submittedAt: { $ne: null } }),
    };
  }
}

/** How somebody of a class can be reached or looked up, as far as the class says it. */
const reachedBy = (m: Pick<ClassMember, 'mail' | 'number'> | undefined): { mail?: string; number?: string } => ({
  ...(m?.mail && { mail: m.mail }),
  ...(m?.number && { number: m.number }),
});

/** Of each attempt: which of its person it is, and who handed in before on the same device. */
function repeatsOf(attempts: readonly Attempt[]): Map<string, { attempt: number; sameDeviceAs?: string }> {
  const times = new Map<string, number>();
  const devices = new Map<string, Attempt>();
  const out = new Map<string, { attempt: number; sameDeviceAs?: string }>();
  const inOrder = attempts.slice().sort((a, b) => (a.submittedAt?.getTime() ?? 0) - (b.submittedAt?.getTime() ?? 0));
  for (const a of inOrder) {
    const attempt = (times.get(a.person) ?? 0) + 1;
    times.set(a.person, attempt);
    const before = a.device ? devices.get(a.device) : undefined;
    out.set(a.id, { attempt, ...(before && before.person !== a.person && { sameDeviceAs: before.name }) });
    if (a.device && !before) devices.set(a.device, a);
  }
  return out;
}

const keptOfAttempt = (rules: QuizRules, a: Pick<Attempt, 'more' | 'givenAt' | 'submittedAt'>): number =>
  keptBy(rules, { more: a.more, given_at: a.givenAt, submitted_at: a.submittedAt });
/** What an attempt earned, and how far and how fast it came. */
function howItWent(a: Attempt, rules: QuizRules, set: QuizSet): Pick<AttemptView, 'points' | 'kept' | 'late' | 'times' | 'notReached'> {
  const kept = keptOfAttempt(rules, a);
  // the browser says when it was answered: a teacher hears of it where that is what makes it be in time
  const late = a.late || (kept === 1 && !a.byClock && keptOfAttempt(rules, { more: a.more, submittedAt: a.submittedAt, givenAt: null }) < 1);
  const left = notReached(itemsInOrder(set.items, rules, secretChance(a.seed)), a.marks ?? {});
  return {
    points: keptOf(a.points ?? 0, kept),
    ...(kept < 1 && { kept }),
    ...(late && { late }),
    ...(Object.keys(a.times).length && { times: a.times }),
    notReached: left,
  };
}
