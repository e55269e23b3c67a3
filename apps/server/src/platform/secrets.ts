/** Encrypts what must not lie readable in the database (AES-256-GCM), and makes and hashes tokens. */
import { createCipheriv, createDecipheriv, createHash, createHmac, randomBytes, scryptSync } from 'node:crypto';
import type { Chance } from '@zakuska/core';
import { settings } from './settings.js';

/** What encrypts, from an installation's secret (scrypt, RFC 7914). */
export const keyFrom = (secret: string): Buffer => scryptSync(secret, 'zakuska connection tokens', 32);
let ownKey: Buffer | undefined;
const keyOf = (): Buffer => (ownKey ??= keyFrom(settings().secret));

export function encrypt(text: string): string {
  const iv = randomBytes(12);
  const c = createCipheriv('aes-256-gcm', keyOf(), iv);
  const data = Buffer.concat([c.update(text, 'utf8'), c.final()]);
  return [iv, c.getAuthTag(), data].map((b) => b.toString('base64url')).join('.');
}

/** @throws Error where it was encrypted with another secret, or was changed since */
export function decrypt(sealed: string, key = keyOf()): string {
  const [iv, tag, data] = sealed.split('.').map((p) => Buffer.from(p, 'base64url'));
  if (!iv || !tag || !data) throw new Error('not an encrypted value');
  const d = createDecipheriv('aes-256-gcm', key, iv);
  d.setAuthTag(tag);
  return Buffer.concat([d.update(data), d.final()]).toString('utf8');
}
/**
 * Encrypts anew, with the secret of now, what was encrypted with the one before; what is of now already stays as it is.
 * @throws Error where it is of neither
 */
export function renewerFrom(before: string): (sealed: string) => string {
  const old = keyFrom(before);
  return (sealed) => {
    try {
      decrypt(sealed);
      return sealed;
    } catch {
      return encrypt(decrypt(sealed, old));
    }
  };
}

/** A mark that only this server can make of a text. */
export const signed = (text: string): string => createHmac('sha256', keyOf()).update(text).digest('base64url');

export const newToken = (bytes = 32): string => randomBytes(bytes).toString('base64url');
/** Chance that nobody can foresee or undo who does not have the seed (HMAC-SHA-256, RFC 2104). */
export const secretChance =
  (seed: string): Chance =>
  (label) =>
    createHmac('sha256', seed).update(label).digest().readUInt32BE(0);
/** What is stored of a token: who reads the database cannot sign in with it. */
export const tokenHash = (token: string): string => createHash('sha256').update(token).digest('hex');
