/** What a learner's device keeps of attempts: the one under way, and unsent ones of people who used the device before. */
import type { Response as Answer } from '@zakuska/core';
import type { AttemptState } from './server.js';

export interface KeptAttempt {
  id: string;
  token: string;
  responses: Record<string, Answer>;
  place: number;
  /** When the last answer was given, by the server's clock. */
  answeredAt?: string;
  /** In which the answers were given, where the learner chose one. */
  language?: string;
  /** Items that the learner wants to come back to. */
  later?: string[];
  /** Seconds that items were looked at, by their ids. */
  times?: Record<string, number>;
}

const personOf = (name: string): string => name.trim().replace(/\s+/g, ' ').toLowerCase();
const nowAt = (code: string): string => `take ${code.toUpperCase()}`;
const asideAt = (code: string, name: string): string => `${nowAt(code)} of ${personOf(name)}`;

function read<T = KeptAttempt>(key: string): T | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as T | null;
  } catch {
    return null;
  }
}
function write(key: string, kept: KeptAttempt | AttemptState | null): void {
  try {
    if (kept) localStorage.setItem(key, JSON.stringify(kept));
    else localStorage.removeItem(key);
  } catch {
    /* a private window: goes on without */
  }
}

export const load = (code: string): KeptAttempt | null => read(nowAt(code));
export const store = (code: string, kept: KeptAttempt | null): void => {
  write(nowAt(code), kept);
  if (!kept) keepQuestions(code, null);
};
const questionsAt = (code: string): string => `${nowAt(code)} questions`;
/** The questions of the attempt under way, so that it goes on where the page is loaded again without a connection; what was handed in needs none. */
export const keepQuestions = (code: string, attempt: AttemptState | null): void => write(questionsAt(code), attempt?.outcome ? null : attempt);
/** They, where they are of this attempt. */
export function questionsOf(code: string, attempt: string): AttemptState | null {
  const known = read<AttemptState>(questionsAt(code));
  return known?.id === attempt ? known : null;
}
/** Puts the attempt under way aside for its person, who finds it again by the same name; the next person starts clean. */
export function putAside(code: string, name: string): void {
  const kept = load(code);
  if (kept) write(asideAt(code, name), kept);
  store(code, null);
}
/** The unsent attempt that a person left on this device; it is under way again. */
export function takeUp(code: string, name: string): KeptAttempt | null {
  const kept = read(asideAt(code, name));
  if (kept) {
    write(asideAt(code, name), null);
    store(code, kept);
  }
  return kept;
}

export const random = (bytes: number): string => Array.from(crypto.getRandomValues(new Uint8Array(bytes)), (b) => b.toString(16).padStart(2, '0')).join('');
export const newUuid = (): string => {
  const h = random(16);
  return `${h.slice(0, 8)}-${h.slice(8, 12)}-4${h.slice(13, 16)}-a${h.slice(17, 20)}-${h.slice(20)}`;
};
/** What this browser calls itself, so that a teacher sees which attempts came from one device. */
export function device(): string {
  try {
    const there = localStorage.getItem('device') ?? random(16);
    localStorage.setItem('device', there);
    return there;
  } catch {
    return random(16);
  }
}

/** What a launch from a course gave to this page; fresh where it was opened from there just now, not by loading it again. */
export interface Launch {
  token: string;
  fresh: boolean;
}
/** Takes the token out of the address: it is not for the history, and not for who copies the address. */
export function launchOf(code: string): Launch | undefined {
  const key = `launch ${code.toUpperCase()}`;
  const given = /^#launch=([\w-]{20,100})$/.exec(location.hash)?.[1];
  try {
    if (given) sessionStorage.setItem(key, given);
    const token = given ?? sessionStorage.getItem(key);
    if (given) history.replaceState(null, '', location.pathname);
    return token === null ? undefined : { token, fresh: given !== undefined };
  } catch {
    return given === undefined ? undefined : { token: given, fresh: true };
  }
}
