/**
 * Figures for whoever watches the server, in the text format of Prometheus (version 0.0.4), for who has the token of the setting
 * METRICS_TOKEN; without it there are none. Names of routes stand there as they are declared, never with ids.
 */
import { timingSafeEqual } from 'node:crypto';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { EntityManager } from '@mikro-orm/postgresql';
import type { NextFunction, Request, Response } from 'express';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { settings } from '../platform/settings.js';
import { sql } from '../platform/sql.js';

/** What waits or has failed, by kind: one statement, few rows read. */
const WAITING = `
  select 'push' as kind, count(*) filter (where state in ('waiting', 'running'))::int as waiting, count(*) filter (where state = 'failed')::int as failed
    from push where state in ('waiting', 'running', 'failed')
  union all select 'mail', count(*) filter (where problem is null)::int, count(problem)::int from mail where sent_at is null
  union all select 'score', count(*) filter (where problem is null)::int, count(problem)::int from lti_score where sent_at is null`;

@Injectable()
export class Metrics implements OnModuleInit {
  private readonly registry = new Registry();
  private readonly requests = new Histogram({
    name: 'http_request_duration_seconds',
    help: 'How long requests took, by method, declared route and status',
    labelNames: ['method', 'route', 'status'],
    buckets: [0.005, 0.02, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10],
    registers: [this.registry],
  });
  constructor(private readonly em: EntityManager) {}

  onModuleInit(): void {
    if (!settings().metricsToken) return;
    collectDefaultMetrics({ register: this.registry });
    const { em } = this;
    new Gauge({
      name: 'zakuska_jobs',
      help: 'What goes out to services, mailboxes and courses, by kind and state',
      labelNames: ['kind', 'state'],
      registers: [this.registry],
      async collect() {
        for (const { kind, waiting, failed } of await sql<{ kind: string; waiting: number; failed: number }>(em.fork(), WAITING)) {
          this.set({ kind, state: 'waiting' }, waiting);
          this.set({ kind, state: 'failed' }, failed);
        }
      },
    });
  }

  /** Measures requests and answers /metrics. Put on before the routes. */
  on(app: NestExpressApplication): void {
    const token = settings().metricsToken;
    if (!token) return;
    app.use((req: Request, res: Response, next: NextFunction) => {
      if (req.path === '/metrics') return void this.answer(req, res, token).catch(next);
      const done = this.requests.startTimer({ method: req.method });
      res.once('finish', () => {
        const route = (req.route as { path?: string } | undefined)?.path ?? (req.path.startsWith('/api/') ? 'none' : 'pages');
        // a stream is open as long as a page is: its length says nothing
        if (!route.endsWith('/events')) done({ route, status: String(res.statusCode) });
      });
      next();
    });
  }
  private async answer(req: Request, res: Response, token: string): Promise<void> {
    if (!sameText(req.headers.authorization ?? '', `Bearer ${token}`)) return void res.status(401).setHeader('www-authenticate', 'Bearer').end();
    res.type(this.registry.contentType).send(await this.registry.metrics());
  }
}

/** Without telling by the time how much of it was right. */
function sameText(a: string, b: string): boolean {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length === y.length && timingSafeEqual(x, y);
}
