/** A destination that is a service of its own: how to connect to it and push to it. One file and one row each. */
import type { FitNote, QuizSet } from '@zakuska/core';
import { lms } from './lms.js';

export interface Tokens {
  accessToken: string;
  refreshToken?: string;
  /** Milliseconds since 1970. */
  expiresAt: number;
}

export interface Receipt {
  link: string;
  title: string;
  items: { title: string; status: 'arrived' | 'refused'; message?: string }[];
}

export interface Adapter {
  id: string;
  name: string;
  what: string;
  /** Address to send the person to, and the verifier to keep meanwhile. */
  begin(redirectUri: string, state: string): Promise<{ url: string; verifier: string }>;
  /** What the service gave for the code that came back. */
  finish(currentUrl: URL, state: string, verifier: string): Promise<{ tokens: Tokens; accountName: string }>;
  refresh(tokens: Tokens): Promise<Tokens>;
  fit(set: QuizSet): FitNote[];
  /** Sends the items; the same key twice gives the first receipt again and no second quiz. */
  push(tokens: Tokens, set: QuizSet, idempotencyKey: string, step: (text: string) => Promise<void>): Promise<Receipt>;
}

const all: readonly Adapter[] = [lms];
export const adapters = all;
export const adapterOf = (id: string): Adapter | undefined => all.find((a) => a.id === id);
