/** What stays of somebody who goes: their sets and folders get another owner. */
import type { EntityManager } from '@mikro-orm/postgresql';
import { type MemberRole, memberRoles } from '@zakuska/core';
import { Problem } from '../platform/problem.js';
import { sql } from '../platform/sql.js';

/** Nobody else changes who is a member until this transaction ends. */
export const lockMembers = (em: EntityManager, workspace: string): Promise<object[]> => sql(em, 'select 1 from workspace where id = ? for update', [workspace]);

/** Members by what they may do, those who may do most first. */
const BY_ROLE = `array_position(array[${memberRoles.map((r) => `'${r}'`).join(', ')}], m.role) desc`;

/**
 * Gives sets and folders of one member to another, and takes the one out of groups and shares.
 * @param to none: the one who may do most
 * @throws Problem 422 where `to` is no other member
 */
export async function handOver(em: EntityManager, workspace: string, from: string, to?: string): Promise<void> {
  const [heir] = await sql<{ id: string }>(
    em,
    `select m.account_id as id from membership m join account a on a.id = m.account_id
     where m.workspace_id = ? and m.account_id <> ?${to ? ' and m.account_id = ?' : ''} order by ${BY_ROLE}, lower(a.name), a.id limit 1`,
    [workspace, from, ...(to ? [to] : [])],
  );
  if (!heir) throw new Problem(422, 'no-heir', 'Sets and folders go to another member of the workspace. Choose one.');
  for (const table of ['quiz_set', 'folder'])
    await sql(em, `update ${table} set owner_id = ? where workspace_id = ? and owner_id = ?`, [heir.id, workspace, from]);
  await sql(em, 'delete from group_member x using member_group g where g.id = x.group_id and g.workspace_id = ? and x.account_id = ?', [workspace, from]);
  await sql(
    em,
    `delete from share h where h.account_id = ? and (h.set_id in (select id from quiz_set where workspace_id = ?) or h.folder_id in (select id from folder where workspace_id = ?))`,
    [from, workspace, workspace],
  );
}

/** What becomes of a workspace when an account goes. */
export interface Leaving {
  workspace: string;
  name: string;
  role: MemberRole;
  /** Sets that the person owns there. */
  sets: number;
  /** 'stays': others go on; 'goes': nobody else is there; 'held': others are there, none of them an owner. */
  fate: 'stays' | 'goes' | 'held';
}
export const leavingOf = (em: EntityManager, account: string): Promise<Leaving[]> =>
  sql<Leaving>(
    em,
    `select w.id as workspace, w.name, m.role,
       (select count(*)::int from quiz_set s where s.workspace_id = w.id and s.owner_id = m.account_id and s.deleted_at is null) as sets,
       case when not exists (select 1 from membership o where o.workspace_id = w.id and o.account_id <> m.account_id) then 'goes'
            when m.role = 'owner' and not exists (select 1 from membership o where o.workspace_id = w.id and o.account_id <> m.account_id and o.role = 'owner') then 'held'
            else 'stays' end as fate
     from membership m join workspace w on w.id = m.workspace_id where m.account_id = ? order by lower(w.name)`,
    [account],
  );
