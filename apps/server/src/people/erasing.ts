/**
 * What is kept of learners: where it lies, and how it goes. Each kind of record is one row of a table; whoever adds another place where a
 * name or an answer is kept adds a row here. A deletion is written down: when, by whom, why and how much; no name stays.
 */
import type { EntityManager } from '@mikro-orm/postgresql';
import { newId } from '@zakuska/core';
import { mayOnSet, setsOf } from '../accounts/access.js';
import { recount } from '../deliveries/published.js';
import { sql } from '../platform/sql.js';

/** Kinds of records of people. */
export const RECORDS = ['answers', 'fetched', 'listed', 'written', 'came'] as const;
export type RecordKind = (typeof RECORDS)[number];

/** A record of somebody. */
export interface PersonRecord {
  kind: RecordKind;
  id: string;
  name: string;
  mail: string;
  number: string;
  /** The quiz, class, mail or course that it belongs to. */
  place: string;
  at: string;
}

/** Where records are found: each a statement over `seen`, the sets whose answers may be deleted by who asks, and `here`, their workspace. */
const WHERE: Readonly<Record<RecordKind, string>> = {
  answers: `select a.id::text as id, a.name, coalesce(nullif(m.mail, ''), l.mail, '') as mail, coalesce(m.number, '') as number, d.title || ' (' || d.code || ')' as place,
      coalesce(a.submitted_at, a.started_at) as at
    from seen s join delivery d on d.set_id = s.id join attempt a on a.delivery_id = d.id
      left join class_member m on m.id = a.member_id left join lti_launch l on l.id = a.launch_id`,
  fetched: `select p.id || ' ' || r.remote, r.name, coalesce(r.mail, ''), '', p.title, r.at
    from seen s join placement p on p.set_id = s.id join pulled_response r on r.placement_id = p.id`,
  listed: `select m.id::text, m.name, m.mail, m.number, c.name, c.created_at
    from here h join class_list c on c.workspace_id = h.id join class_member m on m.list_id = c.id`,
  written: `select e.id::text, e.name, e.address, '', e.subject, e.created_at
    from seen s join delivery d on d.set_id = s.id join mail e on e.delivery_id = d.id`,
  came: `select l.id::text, l.name, coalesce(l.mail, ''), '', l.course, l.created_at
    from here h join lti_platform p on p.workspace_id = h.id join lti_launch l on l.platform_id = p.id
    where not l.teaches and not exists (select 1 from attempt a where a.launch_id = l.id)`,
};
/** All records that an account may delete, as `record`. Takes the account, the workspace, the account, the workspace. */
const ALL = `with seen as (select s.id from ${setsOf('?')} where s.workspace_id = ? and ${mayOnSet('?', 'editor')}),
  here as (select ?::uuid as id),
  record (kind, id, name, mail, number, place, at) as (${RECORDS.map((k) => `select '${k}', x.* from (${WHERE[k]}) x`).join(' union all ')})`;
const forWhom = (workspace: string, account: string): string[] => [account, workspace, account, workspace];

/** More than this nobody looks through. */
const MOST_FOUND = 500;
/**
 * The records of people with these words in their name, or with this mail or number.
 * @param words at least two characters
 */
export const recordsOf = async (em: EntityManager, workspace: string, account: string, words: string): Promise<PersonRecord[]> => {
  const said = words.trim().toLowerCase();
  const found = await sql<PersonRecord>(
    em,
    `${ALL} select * from record where strpos(lower(name), ?) > 0 or lower(mail) = ? or lower(number) = ? order by lower(name), at desc limit ${MOST_FOUND}`,
    [...forWhom(workspace, account), said, said, said],
  );
  return found.map(dated);
};
const dated = <T extends { at: string }>(row: T): T => ({ ...row, at: new Date(row.at).toISOString() });

/** How much of each kind went. */
export type Removed = Partial<Record<RecordKind, number>>;

/** Ids by kind. */
type Ids = ReadonlyMap<RecordKind, readonly string[]>;
/** How the records of a kind go; `x` are their ids. Answers that were fetched are remembered by a hash, so that they are not fetched again. */
const GO: Readonly<Record<RecordKind, readonly string[]>> = {
  answers: [
    `delete from decision where attempt in (select x from ids) and delivery_id is not null`,
    `delete from lti_launch where id in (select a.launch_id from attempt a where a.id::text in (select x from ids))`,
    `delete from attempt where id in (select x::uuid from ids) returning delivery_id as source`,
  ],
  fetched: [
    `delete from decision d where placement_id || ' ' || attempt in (select x from ids)`,
    `insert into erased_response (placement_id, remote_hash)
     select left(x, 36)::uuid, encode(sha256(convert_to(substr(x, 38), 'UTF8')), 'hex') from ids on conflict do nothing`,
    `delete from pulled_response r using ids where r.placement_id = left(ids.x, 36)::uuid and r.remote = substr(ids.x, 38) returning r.placement_id as source`,
  ],
  listed: [`delete from class_member where id in (select x::uuid from ids) returning null as source`],
  written: [`delete from mail where id in (select x::uuid from ids) returning null as source`],
  came: [`delete from lti_launch where id in (select x::uuid from ids) returning null as source`],
};

/** Removes records; what was counted and sent of their sources is counted, and sent, anew. */
async function remove(em: EntityManager, ids: Ids): Promise<Removed> {
  const removed: Removed = {};
  const sources = new Set<string>();
  for (const kind of RECORDS) {
    const these = ids.get(kind) ?? [];
    if (!these.length) continue;
    let gone: { source: string | null }[] = [];
    for (const statement of GO[kind])
      gone = await sql(em, `with ids as (select x from jsonb_array_elements_text(?::jsonb) x) ${statement}`, [JSON.stringify(these)]);
    if (gone.length) removed[kind] = gone.length;
    for (const { source } of gone) if (source) sources.add(source);
  }
  const touched = [...sources];
  await recount(em, touched);
  // figures of items are counted anew without them
  await sql(em, `update delivery set counted = -1 where id in (select x::uuid from jsonb_array_elements_text(?::jsonb) x)`, [JSON.stringify(touched)]);
  // by person as the gradebook calls them: whose it was cannot be told, and scores that are sent again are the same
  await sql(em, `update grade_column set sent = '{}' where source in (select x::uuid from jsonb_array_elements_text(?::jsonb) x)`, [JSON.stringify(touched)]);
  for (const source of touched) await sql(em, `select pg_notify('push_changed', ?)`, [source]);
  return removed;
}

/** A deletion as it is written down. */
export interface Erasure {
  id: string;
  at: string;
  /** Name of the account; empty where nobody asked, or the account is gone. */
  by: string;
  cause: 'asked' | 'time';
  reference: string;
  removed: Removed;
}
const writeDown = (
  em: EntityManager,
  workspace: string,
  account: string | null,
  cause: Erasure['cause'],
  reference: string,
  removed: Removed,
): Promise<object[]> =>
  sql(em, `insert into erasure (id, workspace_id, account_id, cause, reference, removed) values (?, ?, ?, ?, ?, ?::jsonb)`, [
    newId(),
    workspace,
    account,
    cause,
    reference,
    JSON.stringify(removed),
  ]);

/**
 * Deletes records that somebody named, of those that they may delete; others are left.
 * @param reference why, in words that name nobody
 */
export async function eraseRecords(
  em: EntityManager,
  workspace: string,
  account: string,
  named: readonly Pick<PersonRecord, 'kind' | 'id'>[],
  reference: string,
): Promise<Removed> {
  return em.transactional(async (inside) => {
    const allowed = await sql<{ kind: RecordKind; id: string }>(
      inside,
      `${ALL} select kind, id from record where (kind, id) in (select x->>'kind', x->>'id' from jsonb_array_elements(?::jsonb) x)`,
      [...forWhom(workspace, account), JSON.stringify(named)],
    );
    const removed = await remove(inside, byKind(allowed));
    if (Object.keys(removed).length) await writeDown(inside, workspace, account, 'asked', reference, removed);
    return removed;
  });
}
function byKind(records: readonly { kind: RecordKind; id: string }[]): Ids {
  const ids = new Map<RecordKind, string[]>();
  for (const { kind, id } of records) {
    const these = ids.get(kind);
    if (these) these.push(id);
    else ids.set(kind, [id]);
  }
  return ids;
}

const MOST_RECORDS = 200;
/** Deletions of a workspace, the last first. */
export const erasuresOf = async (em: EntityManager, workspace: string): Promise<Erasure[]> => {
  const rows = await sql<Erasure>(
    em,
    `select e.id, e.at, coalesce(a.name, '') as by, e.cause, e.reference, e.removed from erasure e left join account a on a.id = e.account_id
     where e.workspace_id = ? order by e.at desc, e.id desc limit ${MOST_RECORDS}`,
    [workspace],
  );
  return rows.map(dated);
};

/** Answers whose time is over go so many at a time. */
const AT_ONCE = 2000;
/** Answers are kept so many months from when they were handed in; a table that was kept, from then on. Where nothing is to go, no answer is looked at. */
const OVER: Readonly<Record<'answers' | 'fetched', string>> = {
  answers: `select w.id as workspace, a.id::text as id from workspace w join quiz_set s on s.workspace_id = w.id join delivery d on d.set_id = s.id
      join attempt a on a.delivery_id = d.id
    where (w.keep_months is not null or d.keep_until is not null) and (d.keep_until < now() or coalesce(a.submitted_at, a.started_at) + w.keep_months * interval '1 month' < now())`,
  fetched: `select w.id as workspace, p.id || ' ' || r.remote as id from workspace w join quiz_set s on s.workspace_id = w.id join placement p on p.set_id = s.id
      join pulled_response r on r.placement_id = p.id
    where (w.keep_months is not null or p.keep_until is not null) and (p.keep_until < now() or greatest(r.at, p.created_at) + w.keep_months * interval '1 month' < now())`,
};
/** Deletes the answers whose time is over. How items did stays with the items, as figures of nobody. May run in several processes at once. */
export async function eraseOver(em: EntityManager): Promise<void> {
  // nobody adds to a quiz whose answers have gone
  await sql(em, `update delivery set open = false, closed_at = coalesce(closed_at, now()) where keep_until < now() and open`);
  for (const kind of ['answers', 'fetched'] as const)
    for (let found = AT_ONCE; found === AT_ONCE; )
      found = await em.transactional(async (inside) => {
        const over = await sql<{ workspace: string; id: string }>(inside, `${OVER[kind]} order by 1, 2 limit ${AT_ONCE}`);
        for (const workspace of new Set(over.map((o) => o.workspace))) {
          const ids = over.filter((o) => o.workspace === workspace).map((o) => o.id);
          if (kind === 'answers') await keepFigures(inside, ids);
          const removed = await remove(inside, new Map([[kind, ids]]));
          if (removed[kind]) await writeDown(inside, workspace, null, 'time', '', removed);
        }
        return over.length;
      });
}

/** Adds how items did with these answers to what is kept of items. Locks the answers, so that two who do it at once count them once. */
async function keepFigures(em: EntityManager, attempts: readonly string[]): Promise<void> {
  const there = await sql<{ id: string }>(
    em,
    `select id from attempt where id in (select x::uuid from jsonb_array_elements_text(?::jsonb) x) order by id for update`,
    [JSON.stringify(attempts)],
  );
  await sql(
    em,
    `insert into kept_figures (set_id, item, answers, earned, with_points, used_at)
     select d.set_id, m.key, count(*)::int,
       coalesce(sum(case when t.points > 0 then greatest(0, least(1, (m.value->>'points')::double precision / t.points)) end), 0),
       count(*) filter (where t.points > 0), max(a.submitted_at)
     from attempt a join delivery d on d.id = a.delivery_id cross join lateral jsonb_each(a.marks) m join set_item t on t.set_id = d.set_id and t.id = m.key
     where a.submitted_at is not null and a.id in (select x::uuid from jsonb_array_elements_text(?::jsonb) x)
     group by d.set_id, m.key
     on conflict (set_id, item) do update set answers = kept_figures.answers + excluded.answers, earned = kept_figures.earned + excluded.earned,
       with_points = kept_figures.with_points + excluded.with_points, used_at = greatest(kept_figures.used_at, excluded.used_at)`,
    [JSON.stringify(there.map((t) => t.id))],
  );
}
