/** What every stand-in begins with. */
import express, { type Request } from 'express';
import { oauth, type OAuthOptions } from './oauth.js';
import { trouble } from './trouble.js';

/**
 * An application with bodies kept as they came, /health, trouble on order, and the authorization server.
 * @param files the media type of files that it takes, and how large they may be
 */
export function serviceApp(files: { type: string; limit: string }, auth: OAuthOptions): { app: express.Express; rawBody(q: Request): Buffer | undefined } {
  const app = express();
  app.disable('x-powered-by');
  const raw = new WeakMap<Request, Buffer>();
  const rawBody = (q: Request): Buffer | undefined => raw.get(q);
  const verify = (q: unknown, _r: unknown, bytes: Buffer): void => void raw.set(q as Request, bytes);
  app.use(express.json({ limit: '1mb', verify }));
  app.use(express.raw({ ...files, verify }));
  app.get('/health', (_q, r) => void r.json({ ok: true }));
  app.use(trouble(auth.tokens, rawBody));
  app.use(oauth(auth));
  return { app, rawBody };
}
