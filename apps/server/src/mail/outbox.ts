/**
 * Mails on their way (SMTP, RFC 5321). What they are about is written with them in one transaction; whoever works off jobs sends them,
 * and what could not be sent is tried again. The number of a mail is its Message-ID (RFC 5322, 3.6.4), so that one that went out twice,
 * because a process ended between sending and writing it down, is known as the same.
 */
import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { EntityManager } from '@mikro-orm/postgresql';
import { newId } from '@zakuska/core';
import { createTransport, type Transporter } from 'nodemailer';
import { DueRows } from '../platform/dueRows.js';
import { Rounds } from '../platform/rounds.js';
import { decrypt, encrypt } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { sql } from '../platform/sql.js';

const EVERY = 2000;
/** Milliseconds that a mail server may take to answer. */
const PATIENCE = 20_000;

/** A mail to be sent. */
export interface Outgoing {
  name: string;
  address: string;
  subject: string;
  text: string;
  /** Its words open something: they are kept encrypted. */
  secret?: boolean;
  /** What it is about: it goes with that. */
  delivery?: string;
  member?: string;
}
interface Due {
  id: string;
  name: string;
  address: string;
  subject: string;
  text: string;
  secret: boolean;
}
/** What the library says of a failure. */
interface Refusal {
  responseCode?: number;
  response?: string;
  command?: string;
}

/** Whether mails can be sent from here. */
export const mailThere = (): boolean => settings().smtpUrl !== '' && settings().mailFrom !== '';

@Injectable()
export class Outbox implements OnModuleInit, OnApplicationShutdown {
  private readonly log = new Logger(Outbox.name);
  private readonly rounds = new Rounds(() => this.round(), this.log);
  private readonly due: DueRows<Due>;
  private kept: Transporter | undefined;
  constructor(em: EntityManager) {
    this.due = new DueRows(em, { table: 'mail', key: 'id', columns: 'id, name, address, subject, text, secret', lease: 120, atOnce: 20 });
  }

  onModuleInit(): void {
    if (mailThere()) this.rounds.begin(EVERY);
  }
  async onApplicationShutdown(): Promise<void> {
    await this.rounds.end();
    this.kept?.close();
  }
  private get transport(): Transporter {
    this.kept ??= createTransport(
      {
        url: settings().smtpUrl,
        pool: true,
        maxConnections: 3,
        connectionTimeout: PATIENCE,
        greetingTimeout: PATIENCE,
        socketTimeout: PATIENCE,
        // a mail is words only: nothing is read from files or fetched for it
        disableFileAccess: true,
        disableUrlAccess: true,
      },
      { from: settings().mailFrom },
    );
    return this.kept;
  }

  /** Writes mails down to be sent, within what the caller does. */
  async put(em: EntityManager, mails: readonly Outgoing[]): Promise<void> {
    if (!mails.length) return;
    await sql(
      em,
      `insert into mail (id, name, address, subject, text, secret, delivery_id, member_id)
       select (x->>'id')::uuid, x->>'name', x->>'address', x->>'subject', x->>'text', coalesce((x->>'secret')::boolean, false), (x->>'delivery')::uuid, (x->>'member')::uuid
       from jsonb_array_elements(?::jsonb) x`,
      [JSON.stringify(mails.map((m) => ({ id: newId(), ...m, ...(m.secret && { text: encrypt(m.text) }) })))],
    );
  }

  /** Sends what is due, now. */
  work(): Promise<void> {
    return this.rounds.now();
  }
  private round(): Promise<void> {
    return this.due.workOff(
      (d) => this.send(d),
      (e, { id }, tries) => {
        const refusal = e as Refusal;
        this.log.warn({ mail: id, tries, code: refusal.responseCode, command: refusal.command }, 'a mail was not sent');
        return { final: isFinal(refusal), said: saying(refusal) };
      },
    );
  }

  private async send(d: Due): Promise<void> {
    await this.transport.sendMail({
      to: { name: d.name, address: d.address },
      subject: d.subject,
      text: d.secret ? decrypt(d.text) : d.text,
      messageId: `<${d.id}@${new URL(settings().publicUrl).hostname}>`,
    });
  }
}

/** Whether trying again brings nothing: a reply of the 5yz kind (RFC 5321, 4.2.1) to this mail, and not to us. */
const isFinal = (e: Refusal): boolean => (e.responseCode ?? 0) >= 500 && /^(?:MAIL FROM|RCPT TO|DATA)$/.test(e.command ?? '');
function saying(e: Refusal): string {
  const said = (e.response ?? '').replace(/[\s\p{Cc}]+/gu, ' ').trim();
  if (isFinal(e)) return `The mail server refused it: ${said.slice(0, 200)}`;
  return said ? `The mail server did not take it: ${said.slice(0, 200)}` : 'The mail server could not be reached.';
}
