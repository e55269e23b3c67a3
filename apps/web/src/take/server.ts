/** The server as learners' pages know it. Plain fetch: this bundle stays small. */
import type { LearnerItem, Outcome as OutcomeOfCore, Phase, PracticeView, QuizRules, Response as Answer } from '@zakuska/core';
import { heardTime } from './clock.js';
import type { Say } from './words/words.js';

/** Times are the server's. */
export interface Clock {
  now: string;
  phase: Phase;
  /** The time stands still, by the teacher. */
  paused?: boolean;
  /** When the attempt ends. */
  due?: string;
  /** When the time for an item ends, and how many items were passed before it. */
  itemDue?: string;
  place?: number;
}
export interface Welcome extends Clock {
  title: string;
  items: number;
  points: number;
  rules: QuizRules;
  /** The language of the quiz. */
  language?: string;
  /** Languages to choose from, that of the quiz first (empty where it is not known); absent where there is one. */
  languages?: string[];
  /** Who comes from a course, or by a code of their own: known by name there. */
  learner?: { name: string; underWay: boolean; handedIn: number };
  /** Who may come in, where names are chosen from a list. */
  people?: { id: string; name: string }[];
}
export interface Outcome extends OutcomeOfCore {
  /** What brings more of it. */
  later?: 'closed' | 'released';
  /** The clock handed it in, with what had arrived. */
  byClock?: boolean;
  /** Per cent of the points that handing in late has cost. */
  late?: number;
}
export interface AttemptState extends Clock {
  id: string;
  title: string;
  name: string;
  /** Whether a person goes by the name. */
  named: boolean;
  language?: string;
  languages?: string[];
  pages: QuizRules['pages'];
  /** Whether the learner may go back. */
  back: boolean;
  /** Required items must be answered before handing in. */
  holdsRequired?: boolean;
  /** How many items were passed. */
  place: number;
  /** Seconds for an item, by id, where each has a time. */
  itemTimes?: Record<string, number>;
  items: LearnerItem[];
  responses: Record<string, Answer>;
  /** Seconds that items were looked at so far; absent in a preview. */
  times?: Record<string, number>;
  /** Where it is practice: what is told of each item. */
  practice?: Record<string, PracticeView>;
  outcome?: Outcome;
}

/** A refusal; status 0 where the server could not be reached. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    /** What the server says, in English. */
    readonly detail: string,
    readonly more: { retryAfter?: number; item?: string; name?: string; attempts?: number; open?: number } = {},
  ) {
    super(detail);
  }
}
const SAID: Readonly<Record<string, Parameters<Say>[0]>> = {
  'no-connection': 'noConnection',
  'server-trouble': 'serverTrouble',
  'wrong-code': 'wrongCode',
  closed: 'closed',
  paused: 'pausedEntry',
  'not-open': 'notOpen',
  'time-over': 'timeOver',
  'own-code-needed': 'ownCodeNeeded',
  'begun-elsewhere': 'begunElsewhere',
  'too-many-tries': 'tooMany',
};
/** What went wrong, in the language of the page where it is known there. */
export function errorWords(e: unknown, say: Say): string {
  if (!(e instanceof Refused)) return e instanceof Error ? e.message : say('cannotBeDone');
  const { name, attempts = 1 } = e.more;
  if (e.code === 'attempts-used') return name === undefined ? say('attemptsUsed', { n: attempts }) : say('nameUsed', { name });
  if (e.code === 'required-missing') return `${say('requiredOpen', { n: e.more.open ?? 1 })} ${say('requiredFirst')}`;
  const known = SAID[e.code];
  return known ? say(known) : e.detail || say('cannotBeDone');
}

async function ask<T>(method: string, path: string, body?: unknown, token?: string, launch?: string): Promise<T> {
  let r: globalThis.Response;
  try {
    r = await fetch(`/api/v1/take/${path}`, {
      method,
      headers: {
        ...(body !== undefined && { 'content-type': 'application/json' }),
        ...(token && { 'x-attempt-token': token }),
        ...(launch && { 'x-launch': launch }),
      },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    });
  } catch {
    throw new Refused(0, 'no-connection', '');
  }
  const data: unknown = r.status === 204 ? null : await r.json().catch(() => ({}));
  if (r.status >= 500) throw new Refused(0, 'server-trouble', '');
  if (!r.ok) {
    const { detail = '', code = '', ...more } = data as { detail?: string; code?: string } & Refused['more'];
    throw new Refused(r.status, code, detail, more);
  }
  const { now } = (data ?? {}) as { now?: string };
  if (now) heardTime(now);
  return data as T;
}

/** Whether what failed may be done by trying again: no connection, a server in trouble, or too many at once. */
export const passing = (e: unknown): e is Refused => e instanceof Refused && (e.status === 0 || e.status === 429);
/** Tries until it is done or refused for good. `said` hears why it is not done yet, and in how many seconds it is tried again. */
export async function untilDone<T>(what: () => Promise<T>, said: (why: Refused, seconds: number) => void): Promise<T> {
  for (let tries = 0; ; tries++) {
    try {
      return await what();
    } catch (e) {
      if (!passing(e)) throw e;
      const seconds = e.more.retryAfter ?? Math.min(2 + tries, 15);
      said(e, seconds);
      await new Promise((r) => setTimeout(r, seconds * 1000));
    }
  }
}
/** What is said while it is tried again. */
export const againWords = (say: Say, e: Refused, seconds: number): string => `${errorWords(e, say)} ${say('tryingAgain', { n: seconds })}`;

/** What goes to the server of answers. */
export interface Given {
  responses: Record<string, Answer>;
  /** In which the answers were given, where the learner chooses one. */
  language?: string;
  /** How many items the learner has passed. */
  place?: number;
  /** When the last answer was given, by the server's clock. */
  answeredAt?: string;
  /** Seconds that items were looked at, by their ids. */
  times?: Record<string, number>;
}
/** What goes to the server of what is kept on the device. */
export const givenOf = ({ responses, language, place, answeredAt, times }: Given): Given => ({
  responses,
  ...(language && { language }),
  ...(place !== undefined && { place }),
  ...(answeredAt && { answeredAt }),
  ...(times && { times }),
});
/** What a learner does with an item in practice. */
export type Step = { response: Answer } | { hint: true } | { giveUp: true };
/** Where answers go. */
export interface Keeper {
  /** What is said of answers before and after they were sent. */
  note: Parameters<Say>[0];
  keptNote: Parameters<Say>[0];
  keep(id: string, token: string, given: Given): Promise<Clock | null>;
  submit(id: string, token: string, given: Given): Promise<Outcome>;
  /** The page is there, and at which place; absent where nobody wants to know. */
  here?: (id: string, token: string, place: number) => Promise<Clock>;
  step?: (id: string, token: string, item: string, step: Step, language?: string) => Promise<PracticeView>;
}

const chosen = (language: string | undefined): { language?: string } => (language ? { language } : {});

export const server = {
  note: 'keptHere' as const,
  keptNote: 'kept' as const,
  /** @param launch what a launch from a course gave to this page */
  welcome: (code: string, launch?: string) => ask<Welcome>('GET', encodeURIComponent(code), undefined, undefined, launch),
  begin: (
    code: string,
    id: string,
    token: string,
    who: { name: string } | { member: string } | { launch: string } | object,
    device: string,
    language?: string,
  ) => ask<AttemptState>('POST', `${encodeURIComponent(code)}/attempts`, { id, token, ...who, device, ...chosen(language) }),
  attempt: (id: string, token: string, language?: string) =>
    ask<AttemptState>('GET', `attempts/${id}${language ? `?language=${encodeURIComponent(language)}` : ''}`, undefined, token),
  keep: (id: string, token: string, given: Given) => ask<Clock>('PUT', `attempts/${id}`, given, token),
  here: (id: string, token: string, place: number) => ask<Clock>('POST', `attempts/${id}/here`, { place }, token),
  step: (id: string, token: string, item: string, step: Step, language?: string) =>
    ask<PracticeView>('POST', `attempts/${id}/step`, { item, ...step, ...chosen(language) }, token),
  submit: (id: string, token: string, given: Given) => ask<Outcome>('POST', `attempts/${id}/submit`, given, token),
};
