/** Work that comes round: every so often, never two rounds at once, only in processes that work off jobs. */
import type { Logger } from '@nestjs/common';
import { settings } from './settings.js';

export class Rounds {
  private timer: NodeJS.Timeout | undefined;
  private working: Promise<void> | undefined;
  constructor(
    private readonly work: () => Promise<void>,
    private readonly log: Logger,
  ) {}

  /** @param every milliseconds from one round to the next */
  begin(every: number): void {
    if (settings().role === 'web') return;
    this.timer = setInterval(() => void this.round(), every);
  }
  /** One round now: after the one under way, which may have begun before what it is asked for was there. */
  async now(): Promise<void> {
    await this.working;
    await this.round();
  }
  /** Ends once the round under way is over. */
  async end(): Promise<void> {
    clearInterval(this.timer);
    await this.working;
  }

  private round(): Promise<void> {
    this.working ??= this.work()
      .catch((e: unknown) => this.log.error(e))
      .finally(() => (this.working = undefined));
    return this.working;
  }
}
