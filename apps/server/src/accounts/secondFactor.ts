/** Codes by time beside the password (TOTP, RFC 6238: SHA-1, six digits, thirty seconds), and spare codes for the day that the device is lost. */
import { randomInt } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { decrypt, encrypt, tokenHash } from '../platform/secrets.js';
import type { SecondFactor } from './entities.js';

const PERIOD = 30;
/** A clock may be off by so many periods (RFC 6238, 5.2). */
const WINDOW = 1;
const SPARE = 10;
/** No letters that are taken for others. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';

const totp = (secret: string, label = ''): TOTP => new TOTP({ issuer: 'Zakuska', label, period: PERIOD, secret: Secret.fromBase32(secret) });

/** A secret that is not asked for yet: it is once a first code from the person's device was right. */
export const newSecondFactor = (): SecondFactor => ({ sealed: encrypt(new Secret({ size: 20 }).base32), on: false, step: 0, spare: [] });

/** What a device takes the secret from: the address (otpauth://) for a picture, and the secret to type. */
export function forDevice(f: SecondFactor, email: string): { address: string; secret: string } {
  const secret = decrypt(f.sealed);
  return { address: totp(secret, email).toString(), secret };
}

const plain = (code: string): string => code.toLowerCase().replace(/[\s-]/g, '');

/**
 * The second factor after a code was used, or null where the code is not right: each is good once, those by time and the spare ones.
 * @param now milliseconds since 1970
 */
export function afterCode(f: SecondFactor, code: string, now = Date.now()): SecondFactor | null {
  const said = plain(code);
  if (/^\d{6}$/.test(said)) {
    const delta = totp(decrypt(f.sealed)).validate({ token: said, window: WINDOW, timestamp: now });
    const step = Math.floor(now / 1000 / PERIOD) + (delta ?? 0);
    return delta === null || step <= f.step ? null : { ...f, step };
  }
  const hash = tokenHash(said);
  return f.spare.includes(hash) ? { ...f, spare: f.spare.filter((h) => h !== hash) } : null;
}

/** New spare codes, to be shown once: those before are void. */
export function withSpareCodes(f: SecondFactor): { factor: SecondFactor; codes: string[] } {
  const letters = (n: number): string => Array.from({ length: n }, () => LETTERS[randomInt(LETTERS.length)]).join('');
  const codes = Array.from({ length: SPARE }, () => `${letters(5)}-${letters(5)}`);
  return { factor: { ...f, spare: codes.map((c) => tokenHash(plain(c))) }, codes };
}
