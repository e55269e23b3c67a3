/** The secret of an installation: made at its first start, and kept in a file that only its account reads. */
import { randomBytes } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** Secrets that have stood in a source or an example: who knows them reads everything that they encrypt. */
const KNOWN = ['only for development: set ZAKUSKA_SECRET', 'secret', 'changeme', 'change me', 'password', 'development'];

/** @throws Error where a secret is known or too short to be one */
export function checkedSecret(secret: string, where: string): string {
  if (KNOWN.includes(secret.trim().toLowerCase()) || KNOWN.includes(secret.trim()))
    throw new Error(`${where} is a secret that everybody knows. Leave it out, and one is made at the first start; or set one of your own.`);
  if (secret.trim().length < 16) throw new Error(`${where} is too short for a secret: 16 signs at least. Leave it out, and one is made at the first start.`);
  return secret;
}

/**
 * The secret kept in a file; made where there is none. Of several processes that start at once one makes it, the others read it.
 * @throws Error where the file holds no secret, or a new one was begun and not brought to its end
 */
export function secretIn(file: string): string {
  // with half of the values under each of two secrets nothing should begin
  if (existsSync(`${file}.new`))
    throw new Error(`a new secret was begun and not brought to its end (${file}.new is there): run npm run secret again, then start.`);
  mkdirSync(path.dirname(file), { recursive: true, mode: 0o700 });
  try {
    writeFileSync(file, `${randomBytes(32).toString('base64url')}\n`, { flag: 'wx', mode: 0o600 });
  } catch (e) {
    if ((e as NodeJS.ErrnoException).code !== 'EEXIST') throw e;
  }
  if (statSync(file).mode & 0o077) chmodSync(file, 0o600);
  for (let tries = 0; ; tries++) {
    const secret = readFileSync(file, 'utf8').trim();
    if (secret) return checkedSecret(secret, file);
    // another process has made the file and is writing it
    if (tries > 50) throw new Error(`${file} is empty. Remove it, and a secret is made anew (services have to be connected again).`);
    Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 20);
  }
}
