/** Operations of a set, as they are sent: applied in order, all or none, once, and put on top of what others did. */
import { Injectable } from '@nestjs/common';
import { EntityManager } from '@mikro-orm/postgresql';
import { apply, type Operation, OperationError, rebase, type SetDocument } from '@zakuska/core';
import { DUE_AGAIN } from '../platform/dueRows.js';
import { Problem } from '../platform/problem.js';
import { sql } from '../platform/sql.js';
import { Documents, type Versioned } from './documents.js';

/** Operations since the sender's base that are looked at; whoever is farther behind reads the set anew. */
const MOST_SINCE = 500;

/** An operation with the id that its sender gave it. */
export interface Sent {
  id: string;
  operation: Operation;
}
/** Operations that a person sends, with the version that they are based on. */
export interface Batch {
  base: number;
  operations: Sent[];
  /** Where the base is older than the set: go on top of what others did, if nothing of it is touched. */
  merge?: boolean;
}

@Injectable()
export class Operations {
  constructor(
    private readonly em: EntityManager,
    private readonly documents: Documents,
  ) {}

  /**
   * Applies a batch in one transaction, under the lock of the set. What was sent before changes nothing.
   * @param by who sends it: checks are theirs
   * @returns the version that the set has then, and whether others' operations lie between
   * @throws Problem 409 with what was done since, where the base is older and cannot be merged; 422 for an operation that does not fit
   */
  async apply(set: string, batch: Batch, by: { id: string; name: string }): Promise<{ version: number; merged: boolean }> {
    const { version, document, merged } = await this.em.fork().transactional(async (em) => {
      const before = await this.documents.lock(em, set);
      const fresh = await this.unknown(em, set, batch.operations);
      const onTop = batch.base !== before.version && (await this.onTop(em, set, before, batch, fresh));
      if (!fresh.length) return { ...before, merged: onTop };
      const after = await this.record(em, set, before, fresh, by);
      await this.documents.write(em, set, before.document, after);
      // points are rounded otherwise now, so courses hear of them again
      if (before.document.aim?.rounding !== after.document.aim?.rounding)
        await sql(
          em,
          `update lti_score set ${DUE_AGAIN} where attempt_id in (select a.id from attempt a join delivery d on d.id = a.delivery_id where d.set_id = ?)`,
          [set],
        );
      return { ...after, merged: onTop };
    });
    this.documents.keep(set, { version, document });
    return { version, merged };
  }

  /** Applies operations to a document and writes them down with their inverses. */
  private async record(em: EntityManager, set: string, before: Versioned, fresh: readonly Sent[], by: { id: string; name: string }): Promise<Versioned> {
    let version = before.version;
    let document: SetDocument = before.document;
    const records: object[] = [];
    for (const { id, operation: asSent } of fresh) {
      try {
        const operation = await signedBy(em, set, asSent, by.name);
        const done = apply(document, operation);
        document = done.document;
        version++;
        records.push({ id, version, operation, inverse: done.inverse });
      } catch (e) {
        if (e instanceof OperationError) throw new Problem(422, e.code, e.message, { id });
        throw e;
      }
    }
    await sql(
      em,
      `insert into set_operation (id, set_id, version, account_id, operation, inverse, at)
       select (x->>'id')::uuid, ?, (x->>'version')::int, ?, x->'operation', x->'inverse', now() from jsonb_array_elements(?::jsonb) x`,
      [set, by.id, JSON.stringify(records)],
    );
    return { version, document };
  }

  /** The operations that the server has not seen yet. */
  private async unknown(em: EntityManager, set: string, sent: Sent[]): Promise<Sent[]> {
    const there = await sql<{ id: string; set_id: string }>(
      em,
      'select id, set_id from set_operation where id in (select x::uuid from jsonb_array_elements_text(?::jsonb) x)',
      [JSON.stringify(sent.map((s) => s.id))],
    );
    const foreign = there.find((o) => o.set_id !== set);
    if (foreign)
      throw new Problem(422, 'operation-elsewhere', 'An operation with this id was made on another set. Send it with an id of its own.', { id: foreign.id });
    const known = new Set(there.map((o) => o.id));
    return sent.filter((s) => !known.has(s.id.toLowerCase()));
  }

  /**
   * Whether operations whose base is not the set as it is can go on top of what others did since; the sender's own are no reason against it.
   * @throws Problem 409 with what was done since, where they cannot or the sender did not ask for it
   */
  private async onTop(em: EntityManager, set: string, now: Versioned, { base, merge, operations: sent }: Batch, fresh: Sent[]): Promise<boolean> {
    const since = await sql<{ id: string; version: number; operation: Operation }>(
      em,
      'select id, version, operation from set_operation where set_id = ? and version > ? order by version limit ?',
      [set, base, MOST_SINCE],
    );
    const theirs = since.filter((o) => !sent.some((s) => s.id.toLowerCase() === o.id));
    if (!theirs.length && base <= now.version) return false;
    // nothing is new: the answer to the first sending was lost, and others went on since
    if (!fresh.length) return true;
    const mayGoOn = merge === true && base <= now.version && since.length < MOST_SINCE;
    const others = theirs.map((o) => o.operation);
    if (mayGoOn && !rebase(now.document, fresh, others).conflicts.length) return true;
    throw new Problem(409, 'stale', 'This set was changed meanwhile.', { version: now.version, operations: since });
  }
}

type Checked = { state: 'checked'; by: string; at: string };
const isChecked = (v: object): v is Checked => 'state' in v && v.state === 'checked' && 'by' in v;

/**
 * The operation with the person who sends it as who has checked items. Only what the set's history itself says of others stays: to
 * take something back brings their reviews back.
 */
async function signedBy(em: EntityManager, set: string, operation: Operation, name: string): Promise<Operation> {
  const others: Checked[] = [];
  const visit = (v: unknown): void => {
    if (!v || typeof v !== 'object') return;
    if (isChecked(v) && v.by !== name) others.push(v);
    for (const inner of Object.values(v)) visit(inner);
  };
  const copy = structuredClone(operation);
  visit(copy);
  for (const review of others) {
    const [was] = await sql(
      em,
      `select 1 from set_operation where set_id = ?
         and jsonb_path_exists(inverse, '$.** \\? (@.state == "checked" && @.by == $by && @.at == $at)', ?::jsonb) limit 1`,
      [set, JSON.stringify({ by: review.by, at: review.at })],
    );
    if (!was) review.by = name;
  }
  return copy;
}
