/** What the bank knows of items beside their words: kept with their rows, and brought up to date behind what changes. */
import type { EntityManager } from '@mikro-orm/postgresql';
import { type Item, nearKeys, ownFindings } from '@zakuska/core';
import { sql } from '../platform/sql.js';

/** Items at a time: others are answered between two of them. */
const PART = 200;

/** What is known of items by computing, for those that were written before that was kept, or very many at once. */
export async function lookAtItems(em: EntityManager): Promise<void> {
  for (;;) {
    const rows = await sql<{ set_id: string; id: string; item: Item; language: string | null }>(
      em,
      `select set_id, id, item, language from set_item where near_keys is null limit ${PART}`,
    );
    if (!rows.length) return;
    const known = rows.map(({ set_id, id, item, language }) => ({ set: set_id, id, near: nearKeys(item), findings: ownFindings(item, language ?? undefined) }));
    await sql(
      em,
      `update set_item i set near_keys = array(select jsonb_array_elements_text(x->'near')::int), findings = array(select jsonb_array_elements_text(x->'findings'))
       from jsonb_array_elements(?::jsonb) x where i.set_id = (x->>'set')::uuid and i.id = x->>'id' and i.near_keys is null`,
      [JSON.stringify(known)],
    );
  }
}

/**
 * How items did: how many answered them, the mean share of their points that was earned (0 to 1), the correlation of their points with
 * those on all others of a quiz, and when somebody last did. Only sets that have new responses are looked at. Answers that were deleted
 * when their time was over still count; nobody's name is with them.
 * @param set one set, whether or not it has new ones: after it was marked anew
 */
export async function countAnswers(em: EntityManager, set?: string): Promise<void> {
  const changed = await sql<{ set_id: string; ids: string[] }>(
    em,
    `select set_id, array_agg(id) as ids from delivery where ${set === undefined ? 'counted <> responses' : 'set_id = ?'} group by set_id`,
    set === undefined ? [] : [set],
  );
  for (const { set_id } of changed)
    await em.transactional(async (inside) => {
      const [counts] = await sql<{ n: Record<string, number> | null }>(inside, 'select jsonb_object_agg(id, responses) as n from delivery where set_id = ?', [
        set_id,
      ]);
      await sql(
        inside,
        `update set_item i set answers = y.n, share = y.share, used_at = y.at, discrimination = y.discrimination from (
           select t.id, coalesce(sum(x.n), 0)::int as n, sum(x.earned) / nullif(sum(x.with_points), 0) as share, max(x.at) as at, max(x.discrimination) as discrimination
           from set_item t left join (
             select m.key as id, count(*)::int as n, max(a.submitted_at) as at, count(*) filter (where o.points > 0)::int as with_points,
               sum(case when o.points > 0 then greatest(0, least(1, (m.value->>'points')::double precision / o.points)) end) as earned,
               corr((m.value->>'points')::double precision, a.points - (m.value->>'points')::double precision) as discrimination
             from delivery d join attempt a on a.delivery_id = d.id and a.submitted_at is not null
               cross join lateral jsonb_each(a.marks) m join set_item o on o.set_id = d.set_id and o.id = m.key
             where d.set_id = ? group by m.key
             union all select item, answers, used_at, with_points, earned, null from kept_figures where set_id = ?) x on x.id = t.id
           where t.set_id = ? group by t.id) y
         where i.set_id = ? and i.id = y.id and (i.answers, i.share, i.used_at, i.discrimination) is distinct from (y.n, y.share, y.at, y.discrimination)`,
        [set_id, set_id, set_id, set_id],
      );
      await sql(inside, `update delivery d set counted = x.value::int from jsonb_each_text(?::jsonb) x where d.id = x.key::uuid`, [
        JSON.stringify(counts?.n ?? {}),
      ]);
    });
}
