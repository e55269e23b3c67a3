/** Passwords: how they are kept, and which are too easy to guess. */
import { hash, verify } from '@node-rs/argon2';
import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { dictionary } from '@zxcvbn-ts/language-common';
import { Problem } from '../platform/problem.js';
import { newToken } from '../platform/secrets.js';

/** NIST SP 800-63B-4, 3.1.1.2 asks for 8 beside a second factor and 15 alone; what is too easy to guess is refused at any length. */
export const SHORTEST = 10;
export const LONGEST = 200;

/** argon2id with the library's defaults (OWASP Password Storage: 19 MiB, two passes, one lane). */
export const hashPassword = (password: string): Promise<string> => hash(password);

/** Checked against when there is no account, so that both cases take as long. */
let decoy: Promise<string> | undefined;
/** @param kept none where there is no account: then nothing is right, after the same time */
export const isPassword = async (kept: string | undefined, password: string): Promise<boolean> =>
  (await verify(kept ?? (await (decoy ??= hashPassword(newToken()))), password)) && kept !== undefined;

let guesser: ZxcvbnFactory | undefined;
/**
 * Refuses what is short or guessed soon: common passwords, rows of keys, the person's own name and address.
 * @param own words that somebody who knows the person tries first
 * @throws Problem 422
 */
export function checkPassword(password: string, own: readonly string[]): void {
  if (password.length < SHORTEST)
    throw new Problem(422, 'password-short', `A password has at least ${SHORTEST} characters. A few words in a row are easy to keep in mind.`);
  const words = own.flatMap((w) => [w, ...w.split(/[^\p{L}\p{N}]+/u)]).filter((w) => w.length > 2);
  // what is left of it without one's own name and address
  const left = words.sort((a, b) => b.length - a.length).reduce((p, w) => p.replaceAll(w.toLowerCase(), ''), password.toLowerCase());
  guesser ??= new ZxcvbnFactory({ dictionary });
  if (left.length < SHORTEST / 2 || guesser.check(password, [...words, 'zakuska']).score < 2)
    throw new Problem(422, 'password-easy', 'This password is guessed soon. Take a few words that do not belong together, or let a password manager make one.');
}

/**
 * What is kept of a new password.
 * @throws Problem 422 as `checkPassword` does
 */
export async function newPassword(password: string, { name, email }: { name: string; email: string }): Promise<string> {
  checkPassword(password, [name, email]);
  return hashPassword(password);
}
