/** Codes of their own for the people of a class, one for each quiz. */
import type { EntityManager } from '@mikro-orm/postgresql';
import { sql } from '../platform/sql.js';
import { newOwnCode } from './codes.js';

/** Gives codes to those of the class who have none for a quiz yet. */
export async function invite(em: EntityManager, delivery: string): Promise<void> {
  const without = await sql<{ id: string }>(
    em,
    `select m.id from class_member m join delivery d on d.class_list_id = m.list_id
     where d.id = ? and not exists (select 1 from invitation i where i.delivery_id = d.id and i.member_id = m.id)`,
    [delivery],
  );
  if (!without.length) return;
  await sql(
    em,
    `insert into invitation (delivery_id, member_id, code)
     select ?::uuid, (x->>'member')::uuid, x->>'code' from jsonb_array_elements(?::jsonb) x on conflict do nothing`,
    [delivery, JSON.stringify(without.map(({ id }) => ({ member: id, code: newOwnCode() })))],
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
  code: string;
  begun: number;
  handedIn: number;
  /** Of the last mail to them about it; null where there was none. */
  mailed: Mailed | null;
}
/** Everybody of the class of a quiz. */
export const invited = (em: EntityManager, delivery: string): Promise<Invited[]> =>
  sql<Invited>(
    em,
    `select m.id, m.name, m.mail, m.extra, i.code,
       (select count(*)::int from attempt a where a.delivery_id = i.delivery_id and a.member_id = m.id and a.submitted_at is null) as begun,
       (select count(*)::int from attempt a where a.delivery_id = i.delivery_id and a.member_id = m.id and a.submitted_at is not null) as "handedIn",
       (select jsonb_strip_nulls(jsonb_build_object(
          'state', case when o.sent_at is not null then 'sent' when o.problem is not null then 'failed' else 'waiting' end,
          'at', to_char(coalesce(o.sent_at, o.created_at) at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'problem', o.problem))
        from mail o where o.delivery_id = i.delivery_id and o.member_id = m.id order by o.created_at desc limit 1) as mailed
     from invitation i join class_member m on m.id = i.member_id where i.delivery_id = ? order by m.place`,
    [delivery],
  );
