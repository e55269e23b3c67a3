/** Errors over HTTP as problem details (RFC 9457): what happened, and a stable code for programs. */
import { type ArgumentsHost, Catch, type ExceptionFilter, HttpException, Logger } from '@nestjs/common';
import { ServiceRefusal } from '@zakuska/core';
import type { Response } from 'express';

export class Problem extends HttpException {
  constructor(status: number, code: string, detail: string, more: Record<string, unknown> = {}) {
    super({ code, detail, ...more }, status);
  }
}
export const gone = (what: string): Problem => new Problem(404, 'not-found', `This ${what} is not here, or you may not see it.`);

/** What is said where nothing better is known. */
const SAID = { failed: 'Something went wrong on the server. Nothing was lost; try again.' };
const TITLES: Record<number, string> = {
  400: 'The request is not right',
  401: 'Sign in first',
  403: 'Not allowed',
  404: 'Not here',
  409: 'Changed meanwhile',
  413: 'Too large',
  422: 'Does not fit',
  429: 'Too many tries',
  503: 'Not just now',
};

/** Errors that say the database can do nothing just now: connection exceptions of SQLSTATE, insufficient resources (a full disk), shutting down, and the system's own. */
const AWAY = /^(?:08...|53...|57P0[123]|58030|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT)$/;
const databaseAway = (e: unknown): boolean =>
  typeof e === 'object' &&
  e !== null &&
  (AWAY.test(String((e as { code?: unknown }).code ?? '')) ||
    /Connection terminated|connection error and is not queryable|Unable to acquire a connection|Transaction query already complete/.test(
      String((e as Error).message),
    ));

const megabytes = (bytes: number): string => `${(bytes / 1_048_576).toLocaleString('en', { maximumFractionDigits: 1 })} MB`;

/** What is said of errors that are none of ours. */
function plainProblem(error: unknown): Problem | null {
  const e = error as { type?: string; limit?: number; length?: number };
  if (e.type === 'entity.too.large') {
    const most = megabytes(e.limit ?? 0);
    return new Problem(
      413,
      'too-large',
      e.length
        ? `This has ${megabytes(e.length)}; one request may have ${most}. Split it and send the parts.`
        : `This is too large: one request may have ${most}. Split it and send the parts.`,
    );
  }
  if (error instanceof ServiceRefusal) return new Problem(422, 'refused', `The service refused: ${error.message}`);
  // an address whose signs are no text, such as /%E0%A4%A
  if ((error as Error).message.startsWith('Failed to decode param')) return new Problem(404, 'not-found', 'There is nothing at this address.');
  if (databaseAway(error))
    return new Problem(503, 'not-ready', 'The server cannot reach its database just now. Nothing was lost; try again in a moment.', { retryAfter: 2 });
  return null;
}

@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly log = new Logger('problem');
  catch(thrown: unknown, host: ArgumentsHost): void {
    const res = host.switchToHttp().getResponse<Response>();
    const error = plainProblem(thrown) ?? thrown;
    const known = error as { status?: number; statusCode?: number; message?: string };
    const status = error instanceof HttpException ? error.getStatus() : (known.status ?? known.statusCode ?? 500);
    if (status >= 500) this.log.error(thrown);
    const body = error instanceof HttpException ? (error.getResponse() as string | Record<string, unknown>) : {};
    const fields = typeof body === 'string' ? { detail: body } : body;
    const messages = Array.isArray(fields['message']) ? (fields['message'] as string[]).join('; ') : fields['message'];
    const detail = fields['detail'] ?? (status >= 500 ? SAID.failed : (messages ?? known.message));
    if (res.headersSent) return;
    const { message: _m, error: _e, statusCode: _s, ...more } = fields;
    if (typeof fields['retryAfter'] === 'number') res.setHeader('retry-after', String(fields['retryAfter']));
    res
      .status(status)
      .type('application/problem+json')
      .json({ type: 'about:blank', title: TITLES[status] ?? 'Error', status, code: `http-${status}`, ...more, detail });
  }
}
