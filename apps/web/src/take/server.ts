/** The server as learners' pages know it. Plain fetch: this bundle stays small. */
import type { LearnerItem, Response as Answer } from '@zakuska/core';

export interface Welcome {
  title: string;
  items: number;
  points: number;
  shows: 'nothing' | 'score' | 'answers';
  open: boolean;
  /** Attempts per person; 0 for any number. */
  attempts: number;
  /** Languages to choose from, that of the quiz first (empty where it is not known); absent where there is one. */
  languages?: string[];
  /** Who comes from a course: known by name there. */
  learner?: { name: string; underWay: boolean; handedIn: number };
}
export interface Outcome {
  shows: Welcome['shows'];
  points?: number;
  maximum?: number;
  byHand?: number;
  items?: { id: string; state: 'right' | 'partly' | 'wrong' | 'unanswered' | 'by-hand'; points: number; feedback: string[]; answer?: string }[];
}
export interface AttemptState {
  id: string;
  title: string;
  name: string;
  language?: string;
  languages?: string[];
  items: LearnerItem[];
  responses: Record<string, Answer>;
  outcome?: Outcome;
}

/** A refusal in the server's words; status 0 where it could not be reached. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
    /** Seconds after which it may be tried again. */
    readonly retryAfter?: number,
    /** The item that it is about. */
    readonly item?: string,
  ) {
    super(message);
  }
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
    throw new Refused(0, 'No connection. Your answers are kept on this device and sent when it is back.');
  }
  const data: unknown = r.status === 204 ? null : await r.json().catch(() => ({}));
  if (r.status >= 500) throw new Refused(0, 'The server does not answer well just now. Your answers are kept on this device and sent again by themselves.');
  if (!r.ok) {
    const { detail, retryAfter, item } = data as { detail?: string; retryAfter?: number; item?: string };
    throw new Refused(r.status, detail ?? 'The server could not do this. Try again.', retryAfter, item);
  }
  return data as T;
}

/** Whether what failed may be done by trying again: no connection, a server in trouble, or too many at once. */
export const passing = (e: unknown): e is Refused => e instanceof Refused && (e.status === 0 || e.status === 429);
/** Tries until it is done or refused for good. `said` hears why it is not done yet. */
export async function untilDone<T>(what: () => Promise<T>, said: (why: string) => void): Promise<T> {
  for (let tries = 0; ; tries++) {
    try {
      return await what();
    } catch (e) {
      if (!passing(e)) throw e;
      const seconds = e.retryAfter ?? Math.min(2 + tries, 15);
      said(`${e.message} Trying again in ${seconds} ${seconds === 1 ? 'second' : 'seconds'}.`);
      await new Promise((r) => setTimeout(r, seconds * 1000));
    }
  }
}

/** Where answers go. */
export interface Keeper {
  /** What is said of answers before and after they were sent. */
  note: string;
  keptNote: string;
  /** @param language in which the answers were given, where the learner chooses one */
  keep(id: string, token: string, responses: Record<string, Answer>, language?: string): Promise<unknown>;
  submit(id: string, token: string, responses: Record<string, Answer>, language?: string): Promise<Outcome>;
}

const chosen = (language: string | undefined): { language?: string } => (language ? { language } : {});

export const server = {
  note: 'kept on this device',
  keptNote: 'kept',
  /** @param launch what a launch from a course gave to this page */
  welcome: (code: string, launch?: string) => ask<Welcome>('GET', encodeURIComponent(code), undefined, undefined, launch),
  begin: (code: string, id: string, token: string, who: { name: string } | { launch: string }, device: string, language?: string) =>
    ask<AttemptState>('POST', `${encodeURIComponent(code)}/attempts`, { id, token, ...who, device, ...chosen(language) }),
  attempt: (id: string, token: string, language?: string) =>
    ask<AttemptState>('GET', `attempts/${id}${language ? `?language=${encodeURIComponent(language)}` : ''}`, undefined, token),
  keep: (id: string, token: string, responses: Record<string, Answer>, language?: string) =>
    ask<null>('PUT', `attempts/${id}`, { responses, ...chosen(language) }, token),
  submit: (id: string, token: string, responses: Record<string, Answer>, language?: string) =>
    ask<Outcome>('POST', `attempts/${id}/submit`, { responses, ...chosen(language) }, token),
};
