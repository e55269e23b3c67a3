/** Attempts of learners: found, begun, kept, tried and handed in, each in one statement that two at once cannot both do. */
import { Injectable } from '@nestjs/common';
import {
  answerProblem,
  asGiven,
  dueOf,
  GRACE_SECONDS,
  type Item,
  itemsInOrder,
  itemTimeOf,
  judgedMarks,
  keptShare,
  lookUp,
  type Mark,
  type MoreTime,
  phaseOf,
  type PracticeStep,
  practised,
  practiceStep,
  type ItemTries,
  pointsOf,
  requiredOpen,
  type QuizRules,
  type QuizSet,
  type Response,
  response as responseSchema,
  responseIn,
  rulesUntil,
  sanitiseFields,
  storable,
  withinItemTimes,
} from '@zakuska/core';
import { isUUID } from 'class-validator';
import { RateLimit } from '../accounts/rateLimit.js';
import { Db } from '../platform/db.js';
import { DUE_AGAIN } from '../platform/dueRows.js';
import { Problem } from '../platform/problem.js';
import { newToken, secretChance, tokenHash } from '../platform/secrets.js';
import { listedPerson, personOf } from './entities.js';
import { Marking } from './marking.js';
import { Published } from './published.js';
import { sameAs, UNTIL } from './together.js';

/** Somebody of a class. */
export interface Member {
  id: string;
  name: string;
  /** Per cent of time beyond that of the others. */
  extra: number;
  /** Until when they may take it, where that is arranged (ISO 8601); null where it is not. */
  until: string | null;
  /** Attempts beyond those of the others. */
  attempts: number;
}
/** A delivery as far as entering it needs. */
export interface Entered {
  id: string;
  title: string;
  open: boolean;
  paused_at: Date | null;
  released: boolean;
  rules: QuizRules;
  /** The same of versions that were published at once. */
  together: string | null;
  class_list_id: string | null;
  /** Who came by a code of their own. */
  member?: Member;
}
/** An attempt without what it holds: what each request of a learner needs. */
export interface Lean {
  id: string;
  token_hash: string;
  name: string;
  seed: string;
  place: number;
  /** Since when they are there; null from the beginning. */
  place_at: Date | null;
  more: MoreTime;
  submitted: boolean;
  /** When it arrived, and when its last answer was given; null of what is under way, or was handed in before the second was kept. */
  submitted_at: Date | null;
  given_at: Date | null;
  by_clock: boolean;
  started_at: Date;
  closed_at: Date | null;
  delivery: string;
  title: string;
  open: boolean;
  /** Since when the quiz is paused. */
  paused_at: Date | null;
  released: boolean;
  rules: QuizRules;
  /** How many decisions over all answers were taken. */
  judging: number;
}
/** All of an attempt. */
export interface Going extends Lean {
  responses: Record<string, Response>;
  progress: Record<string, ItemTries>;
  /** Seconds that they looked at items. */
  times: Record<string, number>;
  marks: Record<string, Mark> | null;
}
/** Somebody who is known by name: nobody else can come in as them. */
export interface Known {
  name: string;
  /** By what persons are told apart. */
  person: string;
}
/** Who comes from a course. */
export interface Launched extends Known {
  id: string;
}
export const knownAs = (member: Member): Known => ({ name: member.name, person: listedPerson(member.id) });
/** What a browser sends of answers. */
export interface Sent {
  responses: Record<string, unknown>;
  language?: string | undefined;
  place?: number | undefined;
  /** When the last answer was given, by the server's clock as the browser knows it. */
  answeredAt?: string | undefined;
  /** Seconds that they looked at items so far, by their ids. */
  times?: Record<string, unknown> | undefined;
}
/** How somebody begins. */
export interface Beginning {
  id: string;
  token: string;
  name?: string | undefined;
  member?: string | undefined;
  device?: string | undefined;
}

/** A school of a thousand behind one address can begin a quiz in an hour. */
const ATTEMPTS_FROM_ADDRESS = 1000;
/** An answer that says it was given in time is taken for so long afterwards. */
const LATE_DAYS = 7;
const DAY = 86_400_000;
/** A week: nobody looks at an item for longer. */
const MOST_SECONDS = 7 * 24 * 3600;

const LEAN = `a.id, a.token_hash, a.name, a.seed, a.place, a.place_at, a.more, a.submitted_at is not null as submitted, a.submitted_at, a.given_at, a.by_clock, a.started_at,
  d.closed_at, d.id as delivery, d.title, d.open, d.paused_at, d.released, d.rules, d.judging`;
const WHOLE = `${LEAN}, a.responses, a.progress, a.times, a.marks`;

/** Their browser was heard of, and they are at a place ($1) by now ($2); nobody goes back. */
const HEARD = `seen_at = now(), place = greatest(place, $1), place_at = case when $1 > place then $2::timestamptz else place_at end`;

export const closed = (): Problem => new Problem(403, 'closed', 'This quiz is closed. Your answers are kept on this device; ask your teacher to open it.');

/** The time of a quiz, in milliseconds: it stands still while the quiz is paused. */
export const timeOf = (d: { paused_at: Date | null }): number => d.paused_at?.getTime() ?? Date.now();
/** When an attempt ends by the clock. */
export const dueAt = (a: Pick<Lean, 'rules' | 'started_at' | 'more'>): number | undefined => dueOf(a.rules, a.started_at.getTime(), a.more);
/** The share of the points that somebody keeps who has handed in: less than 1 where that was late. */
export function keptBy(
  rules: QuizRules,
  { more, given_at, submitted_at }: { more: MoreTime; given_at: Date | string | null; submitted_at: Date | string | null },
): number {
  const given = given_at ?? submitted_at;
  return given ? keptShare(rules, new Date(given).getTime(), more) : 1;
}
/** Since when they are at the item where they are, in milliseconds. */
const placeSince = (a: Pick<Lean, 'place_at' | 'started_at'>): number => (a.place_at ?? a.started_at).getTime();
const itemsOf = (own: QuizSet, a: Pick<Lean, 'rules' | 'seed'>): Item[] => itemsInOrder(own.items, a.rules, secretChance(a.seed));
/** When the time for the item ends where they are; undefined where it has no end. */
export function itemDueAt(own: QuizSet, a: Pick<Lean, 'rules' | 'seed' | 'more' | 'place' | 'place_at' | 'started_at'>): number | undefined {
  const item = a.rules.itemSeconds === undefined ? undefined : itemsOf(own, a)[a.place];
  const time = item && itemTimeOf(item, a.rules, a.more);
  return time === undefined ? undefined : placeSince(a) + time;
}
/** In the last milliseconds the page hands in by itself: nobody is asked for anything more. */
const CLOSE_TO_END = 10_000;
/** Answers on their way may be later than the end by so much. */
const GRACE = GRACE_SECONDS * 1000;
/** When it ended, or will, by the clock or by hand. */
const endOf = (a: Lean): number => Math.min(dueAt(a) ?? Infinity, a.open ? Infinity : (a.closed_at?.getTime() ?? 0));
/** @throws Problem where nothing is taken any more */
function refuseAfterEnd(a: Lean): void {
  if (timeOf(a) > endOf(a) + GRACE) throw dueAt(a) === undefined ? closed() : timeOver();
}

/** @throws Problem where there are such items */
function refuseOpen(required: readonly Item[]): void {
  const open = required.length;
  if (open)
    throw new Problem(422, 'required-missing', `Required questions without an answer: ${open}. Answer them before you hand in.`, {
      item: required[0]?.id,
      open,
    });
}

@Injectable()
export class Attempts {
  constructor(
    private readonly db: Db,
    private readonly limit: RateLimit,
    private readonly published: Published,
    private readonly marking: Marking,
  ) {}

  async lean(id: string, token: string): Promise<Lean> {
    return mine(await this.read<Lean>(LEAN, id), token);
  }
  async whole(id: string, token: string): Promise<Going> {
    return mine(await this.find(id), token);
  }
  /** An attempt that is known to be there. */
  private async again(id: string): Promise<Going> {
    const found = await this.find(id);
    if (!found) throw notTheirs();
    return found;
  }
  find(id: string): Promise<Going | undefined> {
    return this.read<Going>(WHOLE, id);
  }
  private async read<T>(columns: string, id: string): Promise<T | undefined> {
    if (!isUUID(id)) return undefined;
    const [found] = await this.db.rows<T>(`select ${columns} from attempt a join delivery d on d.id = a.delivery_id where a.id = $1`, [id]);
    return found;
  }

  /**
   * A new attempt, or the one that the same person has under way.
   * @throws Problem where the quiz is not open, nobody is named, or the person or the address has used its attempts
   */
  async begin(entered: Entered, how: Beginning, address: string, launch?: Launched): Promise<Going> {
    const member = launch ? undefined : (entered.member ?? (await this.chosen(entered, how.member)));
    const phase = phaseOf(rulesUntil(entered.rules, member?.until ?? undefined), entered.open, timeOf(entered));
    if (phase === 'closed') throw closed();
    if (entered.paused_at) throw new Problem(403, 'paused', 'Your teacher has paused this quiz. Try again when it goes on.');
    if (phase === 'before') throw new Problem(403, 'not-open', 'This quiz is not open yet.', { opensAt: entered.rules.opensAt });
    const known: Known | undefined = launch ?? (member && knownAs(member));
    const { name, person } = known ?? named(entered, how);
    const d = await this.versionFor(entered, person, member);
    const under = known && (await this.takenOver(d, how.token, person, launch, !d.member));
    if (under) return under;
    await this.refuseRepeat(d, name, person, known !== undefined || d.rules.enter === 'nameless', member?.attempts);
    if ((await this.limit.count(`attempts ${d.id} from ${address}`)) > ATTEMPTS_FROM_ADDRESS)
      throw new Problem(429, 'too-many-tries', 'Very many have begun this quiz from this network within the hour. Wait a little, or tell your teacher.', {
        retryAfter: 60,
      });
    const more: MoreTime = { ...(member?.extra && { percent: member.extra }), ...(member?.until && { until: member.until }) };
    const id = how.id.toLowerCase();
    await this.db.rows(
      `insert into attempt (id, delivery_id, token_hash, name, person, device, seed, launch_id, member_id, more, responses, seen_at)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10::jsonb, '{}', now())`,
      [
        id,
        d.id,
        tokenHash(how.token),
        name,
        person,
        how.device ? tokenHash(how.device) : '',
        newToken(),
        launch?.id ?? null,
        member?.id ?? null,
        JSON.stringify(more),
      ],
    );
    return this.whole(id, how.token);
  }

  /** The one of several versions that somebody gets: the one they had before, theirs of the class, or one that few have. */
  private async versionFor(d: Entered, person: string, member: Member | undefined): Promise<Entered> {
    if (!d.together || d.member) return d;
    const [found] = await this.db.rows<{ id: string }>(
      `select v.id from delivery v where v.together = $1 order by
         exists (select 1 from attempt a where a.delivery_id = v.id and a.person = $2) desc,
         exists (select 1 from invitation i where i.delivery_id = v.id and i.member_id = $3::uuid) desc,
         (select count(*) from attempt a where a.delivery_id = v.id), random() limit 1`,
      [d.together, person, member?.id ?? null],
    );
    return { ...d, ...found };
  }

  /** Who was chosen from the class list. @throws Problem where nobody was, or a code of one's own is needed */
  private async chosen(d: Entered, member: string | undefined): Promise<Member | undefined> {
    if (d.rules.enter === 'personal') throw ownCode();
    if (d.rules.enter !== 'list') return undefined;
    const [found] =
      member && isUUID(member)
        ? await this.db.rows<Member>(
            `select m.id, m.name, m.extra, ${UNTIL} as until, coalesce(i.attempts, 0) as attempts from class_member m
             left join invitation i on i.member_id = m.id and i.delivery_id in ${sameAs('$3')} where m.id = $1 and m.list_id = $2`,
            [member, d.class_list_id, d.id],
          )
        : [];
    if (!found) throw new Problem(400, 'name-missing', 'Choose your name on the list, so that your teacher knows whose answers these are.');
    return found;
  }

  /**
   * The attempt that somebody known has under way: this browser goes on with it.
   * @param guarded whether the other browser keeps it unless a teacher has freed it: a name can be chosen by anybody, a code cannot
   */
  private async takenOver(d: Entered, token: string, person: string, launch: Launched | undefined, guarded: boolean): Promise<Going | undefined> {
    const [there] = await this.db.rows<{ id: string; token_hash: string }>(
      `select id, token_hash from attempt where delivery_id = $1 and person = $2 and submitted_at is null order by started_at desc limit 1`,
      [d.id, person],
    );
    if (!there) return undefined;
    const hash = tokenHash(token);
    if (guarded && !launch && there.token_hash !== '' && there.token_hash !== hash)
      throw new Problem(
        403,
        'begun-elsewhere',
        'Somebody has begun under this name on another device. Go on there, or ask your teacher to let you go on here.',
      );
    await this.db.rows(`update attempt set token_hash = $1, launch_id = coalesce($2, launch_id) where id = $3`, [hash, launch?.id ?? null, there.id]);
    return this.find(there.id);
  }

  /** @param beyond attempts that are arranged beyond those of the others */
  private async refuseRepeat(d: Entered, name: string, person: string, known: boolean, beyond = 0): Promise<void> {
    if (!d.rules.attempts) return;
    const most = d.rules.attempts + beyond;
    const [had] = await this.db.rows<{ n: number }>(
      'select count(*)::int as n from attempt where delivery_id = $1 and person = $2 and submitted_at is not null',
      [d.id, person],
    );
    if ((had?.n ?? 0) < most) return;
    const times = most === 1 ? 'already, and each person has one attempt' : `${most} times already, and no person has more attempts`;
    if (known) throw new Problem(403, 'attempts-used', `You have handed in ${times}.`, { attempts: most });
    throw new Problem(403, 'attempts-used', `Somebody called ${name} has handed in ${times}. If that was not you, add your family name.`, {
      attempts: most,
      name,
    });
  }

  /** Keeps the answers so far. @throws Problem where the time is over */
  async keep(a: Lean, sent: Sent): Promise<void> {
    refuseAfterEnd(a);
    const responses = await this.given(a, sent);
    const times = await this.timesIn(a, sent);
    await this.db.rows(`update attempt set responses = $4::jsonb, times = times || $5::jsonb, ${HEARD} where id = $3 and submitted_at is null`, [
      sent.place ?? 0,
      new Date(Date.now()),
      a.id,
      JSON.stringify(responses),
      JSON.stringify(times),
    ]);
  }

  /** The browser is there, and at which item. */
  async seen(a: Lean, place: number): Promise<void> {
    await this.db.rows(`update attempt set ${HEARD} where id = $3 and submitted_at is null`, [place, new Date(Date.now()), a.id]);
  }

  /** One step of practice with an item. Two at once: the second is told what the first has brought. */
  async step(
    a: Going,
    item: string,
    sent: { response?: unknown; hint?: boolean; giveUp?: boolean; language?: string | undefined },
  ): Promise<ItemTries | undefined> {
    const { set: own } = await this.published.of(a.delivery);
    const it = own.items.find((i) => i.id === item);
    const { practice } = a.rules;
    if (!it || !practice) throw new Problem(404, 'not-found', 'There is nothing to practise here.');
    if (a.submitted) return a.progress[item];
    refuseAfterEnd(a);
    let step: PracticeStep = { type: sent.giveUp ? 'give-up' : 'hint' };
    if (sent.response !== undefined && sent.response !== null) {
      const response = lookUp(await this.given(a, { responses: { [item]: sent.response }, language: sent.language }), item);
      if (response) step = { type: 'answer', response };
    }
    const before = lookUp(a.progress, item);
    const next = practiceStep(it, before, step, practice, own.language);
    if (next === before) return before;
    const [done] = await this.db.rows(
      `update attempt set progress = jsonb_set(progress, array[$1::text], $2::jsonb),
         responses = case when $3::jsonb is null then responses else jsonb_set(responses, array[$1::text], $3::jsonb) end, seen_at = now()
       where id = $4 and submitted_at is null and progress->$1::text is not distinct from $5::jsonb returning id`,
      [item, JSON.stringify(next), next.response ? JSON.stringify(next.response) : null, a.id, before ? JSON.stringify(before) : null],
    );
    return done ? next : lookUp((await this.find(a.id))?.progress ?? {}, item);
  }

  /**
   * Hands in; a second time changes nothing. After the end, answers that say they were given before it are taken and marked as late;
   * of others, what had arrived by then counts where the clock ended it.
   * @throws Problem 403 where a teacher closed it, and may open it again
   */
  async submit(a: Going, sent: Sent): Promise<Going> {
    const now = timeOf(a);
    const end = endOf(a);
    const over = now > end + GRACE;
    const given = sent.answeredAt === undefined ? NaN : Date.parse(sent.answeredAt);
    const inTime = given <= end + GRACE && now - end < LATE_DAYS * DAY;
    if (!over || inTime) {
      const answered = given <= now ? new Date(given) : new Date(now);
      if (!a.submitted || (a.by_clock && over))
        await this.handIn(a, await this.given(a, sent), { late: over, byClock: false, given: answered, times: await this.timesIn(a, sent) });
    } else if (!a.submitted) {
      const due = dueAt(a);
      if (due === undefined || now <= due) throw closed();
      await this.handIn(a, a.responses, { late: false, byClock: true, given: new Date(due), times: {} });
    }
    return this.again(a.id);
  }

  /** @throws Problem 422 where a required item has no answer, and people are held until it has */
  private async handIn(
    a: Going,
    given: Record<string, Response>,
    how: { late: boolean; byClock: boolean; given: Date; times: Record<string, number> },
  ): Promise<void> {
    const { set } = await this.published.of(a.delivery);
    const responses = practised(given, a.progress);
    const judging = await this.marking.judging({ kind: 'delivery', id: a.delivery, set }, a.judging);
    const marks = judgedMarks(judging, responses);
    if (a.rules.holdsRequired && timeOf(a) < endOf(a) - CLOSE_TO_END) refuseOpen(requiredOpen(set, marks));
    // one row in one statement: of two at once only one is done; what was marked by hand before is marked anew
    await this.db.rows(
      `with done as (update attempt a set responses = $1::jsonb, marks = $2::jsonb, points = $3, submitted_at = $10::timestamptz, late = $5, by_clock = $6,
           given_at = $8::timestamptz, times = times || $9::jsonb, judging = case when a.submitted_at is null then $7 else -1 end
         where a.id = $4 and (a.submitted_at is null or (a.by_clock and not $6)) returning a.id, a.launch_id)
       insert into lti_score (attempt_id) select done.id from done join lti_launch l on l.id = done.launch_id where l.scores is not null
       on conflict (attempt_id) do update set ${DUE_AGAIN}`,
      [
        JSON.stringify(responses),
        JSON.stringify(marks),
        pointsOf(marks),
        a.id,
        how.late,
        how.byClock,
        a.judging,
        how.given,
        JSON.stringify(how.times),
        new Date(Date.now()),
      ],
    );
    this.published.handedIn(a.delivery);
  }

  /** Hands in what the clock has ended, with what had arrived: for whoever looks at results. */
  async endOverdue(delivery: string): Promise<void> {
    const under = await this.db.rows<Lean>(
      `select ${LEAN} from attempt a join delivery d on d.id = a.delivery_id
       where a.delivery_id = $1 and a.submitted_at is null and (d.rules ? 'minutes' or d.rules ? 'closesAt')`,
      [delivery],
    );
    for (const a of under) {
      const due = dueAt(a);
      // a little later than answers on their way are taken
      if (due === undefined || timeOf(a) <= due + 3 * GRACE) continue;
      const whole = await this.again(a.id);
      await this.handIn(whole, whole.responses, { late: false, byClock: true, given: new Date(due), times: {} });
    }
  }

  /** How long items were looked at: whole seconds of items that are there. */
  private async timesIn(a: Lean, { times }: Sent): Promise<Record<string, number>> {
    if (!times) return {};
    const { set } = await this.published.of(a.delivery);
    return Object.fromEntries(
      set.items.flatMap(({ id }) => {
        const seconds = lookUp(times, id);
        return typeof seconds === 'number' && seconds >= 0 ? [[id, Math.min(MOST_SECONDS, Math.round(seconds))]] : [];
      }),
    );
  }

  /** What a learner answered, in the language of the set, whatever language it was answered in; what they may not go back to as it was. */
  private async given(a: Lean | Going, sent: Sent): Promise<Record<string, Response>> {
    const { own, theirs } = await this.published.both(a.delivery, sent.language);
    const given = inTheirs(responsesOf(sent.responses, a, theirs), theirs, own);
    if (a.rules.back) return given;
    const order = itemsOf(own, a);
    const passed = order.slice(0, a.place);
    if (a.rules.itemSeconds !== undefined) {
      const passing = order.slice(a.place, Math.max(a.place + 1, sent.place ?? 0));
      if (!withinItemTimes(passing, placeSince(a), timeOf(a), a.rules, a.more)) passed.push(...passing);
    }
    if (!passed.length) return given;
    const before = 'responses' in a ? a.responses : (await this.again(a.id)).responses;
    for (const { id } of passed) {
      const old = lookUp(before, id);
      if (old) given[id] = old;
      else delete given[id];
    }
    return given;
  }
}

/** Who types a name, or has none. @throws Problem where the name is missing */
function named(d: Entered, how: Beginning): { name: string; person: string } {
  if (d.rules.enter === 'nameless')
    return { name: `Learner ${how.id.slice(0, 4).toUpperCase()}`, person: how.device ? `\u0001device ${tokenHash(how.device)}` : `\u0001attempt ${how.id}` };
  const name = storable(how.name ?? '').trim();
  if (!name) throw new Problem(400, 'name-missing', 'Type your name, so that your teacher knows whose answers these are.');
  return { name, person: personOf(name) };
}
export const ownCode = (): Problem =>
  new Problem(403, 'own-code-needed', 'This quiz opens with a code of your own: type the eight letters and digits that your teacher gave to you.');
const timeOver = (): Problem => new Problem(403, 'time-over', 'The time is over. What had arrived by then counts.');
const notTheirs = (): Problem => new Problem(404, 'not-found', 'This attempt belongs to another browser. Begin anew with the entry code.');

/** The attempt, if the browser that asks began it. */
export function mine<A extends Lean>(a: A | undefined, token: string): A {
  if (!a || a.token_hash !== tokenHash(token)) throw notTheirs();
  return a;
}

/** Responses to a set as responses to the same set in another language. */
export function inTheirs(responses: Record<string, Response>, from: QuizSet, to: QuizSet): Record<string, Response> {
  if (from === to) return responses;
  return Object.fromEntries(
    from.items.flatMap((item, n) => {
      const given = lookUp(responses, item.id);
      return given ? [[item.id, responseIn(item, to.items[n] ?? item, given)]] : [];
    }),
  );
}

function responsesOf(sent: Record<string, unknown>, a: Pick<Lean, 'seed'>, set: QuizSet): Record<string, Response> {
  const out: Record<string, Response> = {};
  const chance = secretChance(a.seed);
  for (const item of set.items) {
    const given = lookUp(sent, item.id);
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
