/**
 * Asks assistants. What comes is written into the row of what was asked while it comes: whoever looks sees it grow, and nothing of it is lost
 * when a line breaks, a person stops it, or this process ends.
 */
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { EntityManager } from '@mikro-orm/postgresql';
import { amountWords, assistantInterfaces, measure, monthOf, roomFor, storable, type Tokens, mayAs, type MemberRole } from '@zakuska/core';
import { events } from 'fetch-event-stream';
import { Readable } from 'node:stream';
import { OutsideError, outsideStream } from '../platform/outside.js';
import { Problem } from '../platform/problem.js';
import { decrypt } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { sql } from '../platform/sql.js';
import { addressOf, Ask, Assistant, usedOfAsk } from './entities.js';

/** Tries of a request of which nothing has come back yet. */
const TRIES = 3;
/** ms between two writings of a reply that grows. */
const WRITE_EVERY = 200;
/** Seconds beyond the longest silence of an assistant after which nobody works on it any more. */
const SILENT = 30;
const MOST_BYTES = 8_000_000;

/** What a person may still use in this month. */
export interface Left {
  may: boolean;
  amount: number;
  used: number;
  left: number;
}

/** A reply that ends without being whole; `again` where nothing came, so that it may be asked once more. */
class Broken extends Error {
  constructor(
    message: string,
    readonly again = false,
    /** Seconds to wait first. */
    readonly after = 1,
  ) {
    super(message);
  }
}

@Injectable()
export class Asking implements OnApplicationShutdown {
  private readonly log = new Logger(Asking.name);
  private readonly running = new Map<string, { over: AbortController; done: Promise<void> }>();
  private closing = false;
  constructor(private readonly em: EntityManager) {}

  /** What a person may use, has used and has left in this month. */
  async left(em: EntityManager, a: Assistant, account: string, role: MemberRole): Promise<Left> {
    const month = `${monthOf(new Date())}-01`;
    const asks = await em.find(
      Ask,
      { workspace: a.workspace.id, account, createdAt: { $gte: new Date(`${month}T00:00:00Z`) } },
      { fields: ['tokensIn', 'tokensOut', 'priceIn', 'priceOut'] },
    );
    const used = asks.reduce((n, x) => n + usedOfAsk(x, a.unit), 0);
    const amount = a.persons[account] ?? a.amount;
    return { may: mayAs(role, a.who) && amount > 0, amount, used, left: Math.max(0, amount - used) };
  }

  /**
   * Whether a request may be sent: the person may ask, and the allowance holds it. The row of the assistant has to be locked meanwhile, until
   * the request is put down: of two at once, the second sees the first.
   * @throws Problem 403 where the person may not ask or has too little left, 422 where a learner is named
   */
  async admit(
    em: EntityManager,
    a: Assistant,
    { account, role, text, tokens }: { account: string; role: MemberRole; text: string; tokens: Tokens },
  ): Promise<void> {
    const named = await this.learnersIn(em, a.workspace.id, text);
    if (named.length)
      throw new Problem(
        422,
        'names-a-learner',
        `The request names somebody who has answered a quiz of yours: ${named.join(', ')}. Names of learners are not sent to an assistant. Take the name out.`,
      );
    const have = await this.left(em, a, account, role);
    if (!have.may)
      throw new Problem(
        403,
        'may-not-ask',
        `You may not ask ${a.name} from here. Who runs the workspace can change that; copying the request works for everybody.`,
      );
    const room = roomFor({ unit: a.unit, amount: have.amount }, have.used, tokens, { in: a.priceIn, out: a.priceOut });
    if (room.fits) return;
    const words = (amount: number): string => amountWords(amount, a.unit, a.currency);
    throw new Problem(
      403,
      'allowance-used',
      `This request may need ${words(room.needs)}, and you have ${words(room.left)} left of ${words(have.amount)} in this month. Nothing was sent. Ask for fewer items, or copy the request.`,
    );
  }

  /** Full names of learners of a workspace that stand in a text. */
  private async learnersIn(em: EntityManager, workspace: string, text: string): Promise<string[]> {
    const rows = await sql<{ name: string }>(
      em,
      // each name once, before the text is searched for it: a school has few names and many attempts
      `with names as materialized (
         select distinct t.name from attempt t join delivery d on d.id = t.delivery_id join quiz_set s on s.id = d.set_id
         where s.workspace_id = ? and t.name like '% %')
       select name from names where position(lower(name) in lower(?)) > 0 limit 20`,
      [workspace, text],
    );
    // whole names only: "Ann Lee" does not stand in "Ann Leeward"
    return rows
      .map((r) => r.name)
      .filter((name) => new RegExp(`(?<![\\p{L}\\p{N}])${name.replace(/[^\p{L}\p{N}\s]/gu, '\\$&')}(?![\\p{L}\\p{N}])`, 'iu').test(text));
  }

  /** Works on what was asked, to its end, in the background. */
  start(id: string, a: Assistant): void {
    const over = new AbortController();
    const done = this.work(id, a, over).catch((e: unknown) => this.log.error(e));
    this.running.set(id, { over, done });
    void done.finally(() => this.running.delete(id));
  }

  /** Ends it where it is; from whichever process works on it. */
  async stop(id: string): Promise<void> {
    await sql(this.em.fork(), `update ask set stopping = true where id = ? and state = 'running'`, [id]);
    this.running.get(id)?.over.abort();
  }

  private async work(id: string, a: Assistant, over: AbortController): Promise<void> {
    const em = this.em.fork();
    const ask = await em.findOneOrFail(Ask, { id });
    const planned = ask.tokensIn;
    let used: { in: number; out: number } | undefined;
    for (;;) {
      ask.tries++;
      try {
        const end = await this.once(em, ask, a, over, (tokens) => (used = tokens));
        ask.state = end === 'cut' ? 'cut' : 'done';
        ask.said = end === 'cut' ? 'The reply was cut off: it had as many tokens as it may have.' : ask.tries > 1 ? `It answered at try ${ask.tries}.` : '';
        break;
      } catch (e) {
        if (over.signal.aborted) {
          ask.state = 'stopped';
          ask.said = this.closing ? 'The server was stopped; what had come is kept.' : 'Stopped; what had come is kept.';
          break;
        }
        const broken = e instanceof Broken ? e : this.brokenBy(e, ask);
        if (broken.again && !ask.reply && ask.tries < TRIES) {
          ask.said = `${broken.message} Trying again (${ask.tries + 1} of ${TRIES}).`;
          await this.write(em, ask, over);
          await new Promise<void>((r) => {
            const timer = setTimeout(r, broken.after * 1000);
            over.signal.addEventListener('abort', () => (clearTimeout(timer), r()), { once: true });
          });
          continue;
        }
        ask.state = 'broken';
        ask.said = ask.reply ? `${broken.message} What had come is kept.` : broken.message;
        break;
      }
    }
    // what was not sent costs nothing; what was and broke off is counted as far as it came
    const asked = ask.reply !== '' || used !== undefined || ask.state === 'done';
    ask.tokensIn = used?.in ?? (asked ? planned : 0);
    ask.tokensOut = used?.out ?? (asked ? measure(ask.reply).tokens : 0);
    ask.estimated = used === undefined;
    ask.finishedAt = new Date();
    await em.flush();
    if (ask.request && ask.reply) await sql(em, 'update request set reply = ? where id = ?', [ask.reply, ask.request.id]);
  }

  private brokenBy(e: unknown, ask: Ask): Broken {
    if (e instanceof OutsideError)
      return e.why === 'late' ? new Broken('The assistant did not answer in time.', true) : new Broken('The assistant sent more than a reply may have.');
    const { code } = e as NodeJS.ErrnoException;
    if (code === 'EPRIVATE')
      return new Broken('The address of the assistant lies in a private network, and this server was not told to go there (ASSISTANT_HOSTS).');
    this.log.warn({ ask: ask.id, err: e as Error }, 'asking failed');
    return ask.reply ? new Broken('The line to the assistant broke in the middle.') : new Broken('The assistant could not be reached.', true);
  }

  /** One try. @throws Broken, or what the line says */
  private async once(
    em: EntityManager,
    ask: Ask,
    a: Assistant,
    over: AbortController,
    counted: (tokens: { in: number; out: number }) => void,
  ): Promise<'whole' | 'cut'> {
    const way = assistantInterfaces.find((i) => i.id === a.interface);
    if (!way) throw new Broken('The assistant is set up in a way that is not known here.');
    const secret = a.sealed ? decrypt(a.sealed) : '';
    const answer = await outsideStream(
      new URL(addressOf(a)),
      {
        method: 'POST',
        headers: { 'content-type': 'application/json', accept: 'text/event-stream', ...(secret && { authorization: `Bearer ${secret}` }) },
        body: JSON.stringify(way.body({ model: a.model, text: ask.text, most: a.most })),
        allowed: a.address ? settings().assistantHosts : [...settings().assistantHosts, new URL(addressOf(a)).hostname],
        within: settings().assistantWithin,
        most: MOST_BYTES,
      },
      over.signal,
    );
    if (answer.status !== 200) {
      for await (const _ of answer.pieces) break;
      throw refusal(answer.status, Number(answer.headers['retry-after']));
    }
    if (!/event-stream/.test(answer.headers['content-type'] ?? '')) {
      for await (const _ of answer.pieces) break;
      throw new Broken('The assistant answered with a page and no reply. Its address may be wrong.');
    }
    let end: 'whole' | 'cut' | undefined;
    let written = Date.now();
    const body = Readable.toWeb(Readable.from(answer.pieces)) as ReadableStream<Uint8Array>;
    for await (const { data } of events(new Response(body))) {
      const piece = data === undefined ? null : way.piece(data);
      if (piece?.problem) throw new Broken(`The assistant says: ${storable(piece.problem).slice(0, 300)}`);
      if (piece?.text) ask.reply += storable(piece.text);
      if (piece?.tokens) counted(piece.tokens);
      end = piece?.end ?? end;
      if (Date.now() - written < WRITE_EVERY) continue;
      written = Date.now();
      await this.write(em, ask, over);
    }
    if (end === undefined) throw ask.reply ? new Broken('The reply ended without saying that it is whole.') : new Broken('The assistant sent nothing.', true);
    if (!ask.reply.trim()) throw new Broken('The reply is empty.');
    return end;
  }

  /** Writes what there is; hears whether a person wants it to stop. */
  private async write(em: EntityManager, ask: Ask, over: AbortController): Promise<void> {
    ask.beat = new Date();
    await em.flush();
    const [row] = await sql<{ stopping: boolean }>(em, 'select stopping from ask where id = ?', [ask.id]);
    if (row?.stopping) over.abort();
  }

  /** What a process that died was working on is over; what had come is kept, and counted as far as it came. */
  async endLost(em: EntityManager): Promise<void> {
    const lost = await em.find(Ask, { state: 'running', beat: { $lt: new Date(Date.now() - settings().assistantWithin - SILENT * 1000) } });
    for (const ask of lost) {
      ask.state = 'broken';
      ask.said = 'The server ended while it came; what had come is kept.';
      ask.tokensOut = measure(ask.reply).tokens;
      ask.finishedAt = new Date();
    }
    await em.flush();
  }

  async onApplicationShutdown(): Promise<void> {
    this.closing = true;
    const all = [...this.running.values()];
    for (const { over } of all) over.abort();
    await Promise.race([Promise.allSettled(all.map((r) => r.done)), new Promise((r) => setTimeout(r, 4000).unref())]);
  }
}

/** What an answer that is no reply means. */
function refusal(status: number, after: number): Broken {
  if (status === 401 || status === 403) return new Broken('The assistant refused the secret. Who runs the workspace can set another one.');
  if (status === 429) return new Broken('The assistant has too much to do.', true, Number.isFinite(after) ? Math.min(30, Math.max(1, after)) : 3);
  if (status >= 500) return new Broken(`The assistant is in trouble (${status}).`, true);
  if (status >= 300 && status < 400) return new Broken('The assistant has moved to another address. Who runs the workspace can set it.');
  return new Broken(`The assistant did not take the request (${status}). Its address or its model may be wrong.`);
}
