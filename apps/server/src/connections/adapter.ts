/** A destination that is a service of its own: how to connect to it and push to it. One file each, and a row in adapters.ts. */
import type { Profile, QuizSet } from '@zakuska/core';

export interface Tokens {
  accessToken: string;
  refreshToken?: string;
  /** Milliseconds since 1970. */
  expiresAt: number;
}

export interface Receipt {
  /** By which the service knows what arrived. */
  id: string;
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
  /** What the service can hold. */
  profile: Profile;
  /** Sends the items; the same key twice gives the first receipt again and no second quiz. */
  push(tokens: Tokens, set: QuizSet, idempotencyKey: string, step: (text: string) => Promise<void>): Promise<Receipt>;
  /** What the service keeps of a push, as a file: for the rehearsal. */
  readBack(tokens: Tokens, receipt: Receipt): Promise<Uint8Array>;
}
