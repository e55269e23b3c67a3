/** Large answers that are asked for again and again are sent only where they say something new (RFC 9110, 13.1.2, If-None-Match). */
import { createHash } from 'node:crypto';
import type { NextFunction, Request, Response } from 'express';

/** Names what is answered by its content, and answers 304 without a body to who has it already. */
export function unlessSame(req: Request, res: Response, next: NextFunction): void {
  if (req.method !== 'GET') return next();
  res.json = (body: unknown): Response => {
    const text = JSON.stringify(body);
    const tag = `"${createHash('sha256').update(text).digest('base64url')}"`;
    if (res.statusCode === 200) {
      res.setHeader('etag', tag);
      if (req.headers['if-none-match'] === tag) return res.status(304).end();
    }
    return res.type('json').send(text);
  };
  next();
}
