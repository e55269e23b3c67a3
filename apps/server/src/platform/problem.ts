/** Errors over HTTP as problem details (RFC 9457): what happened, and a stable code for programs. */
import { type ArgumentsHost, Catch, type ExceptionFilter, HttpException, Logger } from '@nestjs/common';
import type { Response } from 'express';

export class Problem extends HttpException {
  constructor(status: number, code: string, detail: string, more: Record<string, unknown> = {}) {
    super({ code, detail, ...more }, status);
  }
}
export const gone = (what: string): Problem => new Problem(404, 'not-found', `This ${what} is not here, or you may not see it.`);

const TITLES: Record<number, string> = {
  400: 'The request is not right',
  401: 'Sign in first',
  403: 'Not allowed',
  404: 'Not here',
  409: 'Changed meanwhile',
  413: 'Too large',
  422: 'Does not fit',
  429: 'Too many tries',
};

@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly log = new Logger('problem');
  catch(error: unknown, host: ArgumentsHost): void {
    const res = host.switchToHttp().getResponse<Response>();
    const known = error as { status?: number; statusCode?: number; getResponse?: () => unknown; type?: string; message?: string };
    const status = error instanceof HttpException ? error.getStatus() : (known.status ?? known.statusCode ?? 500);
    if (status >= 500) this.log.error(error);
    const body = error instanceof HttpException ? (error.getResponse() as string | Record<string, unknown>) : {};
    const fields = typeof body === 'string' ? { detail: body } : body;
    const tooLarge = known.type === 'entity.too.large';
    const messages = Array.isArray(fields['message']) ? (fields['message'] as string[]).join('; ') : fields['message'];
    const detail = tooLarge
      ? 'This is larger than the limit of 12 MB for one request. Split it and send the parts.'
      : status >= 500
        ? 'Something went wrong on the server. Nothing was lost; try again.'
        : (fields['detail'] ?? messages ?? known.message);
    if (res.headersSent) return;
    const { message: _m, error: _e, statusCode: _s, ...more } = fields;
    res
      .status(status)
      .type('application/problem+json')
      .json({ type: 'about:blank', title: TITLES[status] ?? 'Error', status, code: tooLarge ? 'too-large' : `http-${status}`, ...more, detail });
  }
}
