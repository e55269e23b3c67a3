/** Codes of their own for the people of a class, one for each quiz. */
import type { EntityManager } from '@mikro-orm/postgresql';
import { seeded, shuffled } from '@zakuska/core';
import { isoOf, sql } from '../platform/sql.js';
import { newToken } from '../platform/secrets.js';
import { newOwnCode } from './codes.js';
import { sameAs, UNTIL } from './together.js';

/** Gives codes to those of the class who have none for a quiz yet: of several versions to each one, as many of each, by chance. */
export async function invite(em: EntityManager, delivery: string): Promise<void> {
  const without = await sql<{ id: string }>(
    em,
    `select m.id from class_member m join delivery d on d.class_list_id = m.list_id
     where d.id = ? and not exists (select 1 from invitation i where i.delivery_id in ${sameAs('?')} and i.member_id = m.id)`,
    [delivery, delivery],
  );
  if (!without.length) return;
  const versions = await sql<{ id: string; n: number }>(
    em,
    `select v.id, (select count(*)::int from invitation i where i.delivery_id = v.id) as n
     from delivery v where v.id in ${sameAs('?')} order by v.version`,
    [delivery],
  );
  const given = shuffled(without, seeded(newToken())).map(({ id }) => {
    const fewest = versions.reduce((a, b) => (b.n < a.n ? b : a));
    fewest.n++;
    return { delivery: fewest.id, member: id, code: newOwnCode() };
  });
  await sql(
    em,
    `insert into invitation (delivery_id, member_id, code)
     select (x->>'delivery')::uuid, (x->>'member')::uuid, x->>'code' from jsonb_array_elements(?::jsonb) x on conflict do nothing`,
    [JSON.stringify(given)],
  );
}

/** How a mail to somebody stands. */
export interface Mailed {
  state: 'waiting' | 'sent' | 'failed';
  /** When it was written, or sent. */
  at: string;
  problem?: string;
}
/** Somebody who was given a quiz, with what became of it. */
export interface Invited {
  id: string;
  name: string;
  mail: string;
  extra: number;
  /** Until when they may take it, where that is arranged. */
  until: string | null;
  /** Attempts beyond those of the others. */
  attempts: number;
  /** What they take: of several versions theirs. */
  delivery: string;
  version: string;
  code: string;
  begun: number;
  handedIn: number;
  /** Of the last mail to them about it; null where there was none. */
  mailed: Mailed | null;
}
/** Everybody of the class of a quiz, whatever version of it they have. */
export const invited = (em: EntityManager, delivery: string): Promise<Invited[]> =>
  sql<Invited>(
    em,
    `select m.id, m.name, m.mail, m.extra, ${UNTIL} as until, i.attempts, i.code, i.delivery_id as delivery, v.version,
       (select count(*)::int from attempt a where a.delivery_id = i.delivery_id and a.member_id = m.id and a.submitted_at is null) as begun,
       (select count(*)::int from attempt a where a.delivery_id = i.delivery_id and a.member_id = m.id and a.submitted_at is not null) as "handedIn",
       (select jsonb_strip_nulls(jsonb_build_object(
          'state', case when o.sent_at is not null then 'sent' when o.problem is not null then 'failed' else 'waiting' end,
          'at', ${isoOf('coalesce(o.sent_at, o.created_at)')}, 'problem', o.problem))
        from mail o where o.delivery_id = i.delivery_id and o.member_id = m.id order by o.created_at desc limit 1) as mailed
     from invitation i join delivery v on v.id = i.delivery_id join class_member m on m.id = i.member_id
     where i.delivery_id in ${sameAs('?')} order by m.place`,
    [delivery],
  );

/**
 * Arranges with people of the class of a quiz until when they may take it, and how many attempts they have beyond the others; who is at
 * work hears of it as well.
 */
export async function arrange(em: EntityManager, delivery: string, members: readonly string[], until: string | null, attempts: number): Promise<void> {
  const ids = JSON.stringify(members);
  const theirs = `i.member_id in (select x::uuid from jsonb_array_elements_text(?::jsonb) x) and i.delivery_id in ${sameAs('?')}`;
  await sql(em, `update invitation i set until = ?::timestamptz, attempts = ? where ${theirs}`, [until, attempts, ids, delivery]);
  await sql(
    em,
    `update attempt a set more = case when ${UNTIL} is null then a.more - 'until' else jsonb_set(a.more, '{until}', to_jsonb(${UNTIL})) end
     from invitation i where a.delivery_id = i.delivery_id and a.member_id = i.member_id and a.submitted_at is null and ${theirs}`,
    [ids, delivery],
  );
}
