/**
 * A stop that finishes what is under way: no new connections, requests that have begun are answered, pages that listen are let go (they
 * come back to another process), connections that nobody uses are closed. What is not done in time is cut off; nothing of it is half done,
 * since every change is one transaction.
 */
import { type BeforeApplicationShutdown, Injectable } from '@nestjs/common';
import { HttpAdapterHost } from '@nestjs/core';
import type { NextFunction, Request, Response } from 'express';
import type { Server } from 'node:http';

/** Milliseconds for what is under way. Below what service managers wait until they kill (systemd: 90 seconds). */
const PATIENCE = 20_000;
const EVERY = 100;

@Injectable()
export class Stopping implements BeforeApplicationShutdown {
  private readonly listening = new Set<Response>();
  private begun = false;
  constructor(private readonly host: HttpAdapterHost) {}

  /** Knows which answers are streams; put on before the routes. */
  readonly watch = (req: Request, res: Response, next: NextFunction): void => {
    // the browser asks the next time on a connection of its own
    if (this.begun) res.setHeader('connection', 'close');
    if (req.path.endsWith('/events')) {
      this.listening.add(res);
      res.once('close', () => this.listening.delete(res));
    }
    next();
  };

  beforeApplicationShutdown(): void {
    this.begun = true;
    for (const res of this.listening) res.end();
    const server = this.host.httpAdapter.getHttpServer() as Server;
    const idle = setInterval(() => server.closeIdleConnections(), EVERY);
    const cut = setTimeout(() => server.closeAllConnections(), PATIENCE);
    idle.unref();
    cut.unref();
    server.once('close', () => {
      clearInterval(idle);
      clearTimeout(cut);
    });
  }
}
