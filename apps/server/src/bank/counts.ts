/** How many items each value of each filter has: added up from what is kept with each set, counted where words or filters look at items. */
import type { EntityManager } from '@mikro-orm/postgresql';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { sql } from '../platform/sql.js';
import { BANK, hardness, use, type Where } from './items.js';

/** Values of a filter that are counted: a workspace may have thousands of tags. */
const MOST_VALUES = 200;

export class BankCount {
  @ApiProperty() value!: string;
  @ApiPropertyOptional({ description: 'What a person calls it, where that is something else.' }) name?: string;
  @ApiProperty() count!: number;
}
export class BankCounts {
  @ApiProperty({ type: [BankCount] }) kind!: BankCount[];
  @ApiProperty({ type: [BankCount] }) outcome!: BankCount[];
  @ApiProperty({ type: [BankCount] }) tag!: BankCount[];
  @ApiProperty({ type: [BankCount] }) folder!: BankCount[];
  @ApiProperty({ type: [BankCount] }) set!: BankCount[];
  @ApiProperty({ type: [BankCount] }) level!: BankCount[];
  @ApiProperty({ type: [BankCount] }) author!: BankCount[];
  @ApiProperty({ type: [BankCount] }) finding!: BankCount[];
  @ApiProperty({ type: [BankCount] }) difficulty!: BankCount[];
  @ApiProperty({ type: [BankCount] }) points!: BankCount[];
  @ApiProperty({ type: [BankCount] }) use!: BankCount[];
  @ApiProperty({ type: [BankCount] }) state!: BankCount[];
}
export type Filter = keyof BankCounts;

interface Counted {
  /** A value of an item `i` or of its set `s` by which the items are grouped, all in one pass over them, and its type. */
  of: string;
  type: string;
  /** What is told of a group `g` of `n` items. */
  value: string;
  name?: string;
  /** What the groups are joined with for that. */
  more?: string;
  /** It is one for all items of a set. */
  ofSet?: true;
}
const COUNTED: Readonly<Record<Filter, Counted>> = {
  kind: { of: 'i.kind', type: 'text', value: 'g.kind' },
  outcome: { of: `i.item->'outcomes'`, type: 'jsonb', value: 'o', more: 'cross join lateral jsonb_array_elements_text(g.outcome) o' },
  tag: { of: `i.item->'tags'`, type: 'jsonb', value: 't', more: 'cross join lateral jsonb_array_elements_text(g.tag) t' },
  // what lies in a folder lies in those above it, too
  folder: {
    of: 's.folder_id',
    type: 'uuid',
    value: `coalesce(p.id::text, 'none')`,
    name: `array_to_string(p.names, ' / ')`,
    more: 'left join folder f on f.id = g.folder left join folder p on p.id = any (f.trail)',
    ofSet: true,
  },
  set: { of: 's.id', type: 'uuid', value: 's.id::text', name: 's.title', more: 'join quiz_set s on s.id = g.set', ofSet: true },
  level: { of: `i.item->'level'->>'bloom'`, type: 'text', value: 'g.level' },
  author: { of: 's.owner_id', type: 'uuid', value: 'a.id::text', name: 'a.name', more: 'join account a on a.id = g.author', ofSet: true },
  finding: { of: 'i.findings', type: 'text[]', value: 'x', more: 'cross join lateral unnest(g.finding) x' },
  difficulty: { of: hardness, type: 'text', value: 'g.difficulty' },
  points: { of: 'i.points', type: 'float8', value: 'g.points::text' },
  use: { of: use, type: 'text', value: 'g.use' },
  state: { of: 'i.state', type: 'text', value: 'g.state' },
};
export const counted = Object.keys(COUNTED) as Filter[];
export const ofSet = (name: Filter): boolean => COUNTED[name].ofSet === true;
/** Filters whose counts are kept with a set. */
const kept = counted.filter((name) => !ofSet(name));
/** Groups of all items of a set. */
const WHOLE = 'whole';

/** Items of a condition in groups for each filter; `which` tells for which. @param whole as a group of their own, too */
const groupsOf = (names: readonly Filter[], where: string, whole = false): string => {
  const columns = names.map((n) => `"${n}"`);
  return `select ${columns.join(', ')}, count(*) as n, case ${names.map((n) => `when grouping("${n}") = 0 then '${n}'`).join(' ')} else '${WHOLE}' end as which
    from (select ${names.map((n) => `${COUNTED[n].of} as "${n}"`).join(', ')} from ${BANK} where ${where}) seen
    group by grouping sets (${columns.map((c) => `(${c})`).join(', ')}${whole ? ', ()' : ''})`;
};
/** The same from what is kept with the sets of a condition, groups that are alike put together. */
const keptGroupsOf = (names: readonly Filter[], where: string): string => {
  const columns = names.map((n) => (ofSet(n) ? `case when x.which = '${WHOLE}' then ${COUNTED[n].of} end as "${n}"` : `x."${n}"`));
  return `select ${columns.join(', ')}, sum(x.n) as n, x.which
    from quiz_set s left join folder f on f.id = s.folder_id
      cross join lateral jsonb_to_recordset(s.item_counts) as x(which text, n bigint, ${kept.map((n) => `"${n}" ${COUNTED[n].type}`).join(', ')})
    where ${where} and s.item_counts is not null and x.which in (${[...names.filter((n) => !ofSet(n)), WHOLE].map((n) => `'${n}'`).join(', ')})
    group by ${names.map((_, at) => at + 1).join(', ')}, x.which`;
};

/**
 * Counts for some filters.
 * @param where condition on items `i`, their sets `s` and folders `f`
 * @param setsAlone it looks at sets and folders only
 */
export async function countsFor(em: EntityManager, names: readonly Filter[], where: Where, setsAlone: boolean): Promise<[Filter, BankCount][]> {
  if (!names.length) return [];
  // sets that were written to since are counted
  const groups = setsAlone
    ? `${keptGroupsOf(names, where.text)} union all ${groupsOf(names, `${where.text} and s.item_counts is null`)}`
    : groupsOf(names, where.text);
  const counts = names.map((name) => {
    const { value, name: title = 'null::text', more = '' } = COUNTED[name];
    return `(select '${name}' as filter, ${value} as value, ${title} as name, sum(g.n)::int as count from groups g ${more}
      where g.which in ('${name}'${ofSet(name) ? `, '${WHOLE}'` : ''}) and ${value} is not null group by 2, 3 order by 4 desc, 2 limit ${MOST_VALUES})`;
  });
  const rows = await sql<{ filter: Filter; value: string; name: string | null; count: number }>(
    em,
    `with groups as (${groups}) ${counts.join(' union all ')}`,
    setsAlone ? [...where.params, ...where.params] : where.params,
  );
  return rows.map(({ filter, name, ...r }) => [filter, { ...r, ...(name !== null && { name }) }]);
}

/** Sets at a time. */
const PART = 50;
/** Counts the items of sets that were written to (a trigger on items takes away what was kept), and keeps that with them. */
export async function keepCounts(em: EntityManager): Promise<void> {
  for (;;) {
    const done = await em.transactional(async (inside) => {
      // whoever writes to items of a set has its row, and is not waited for
      const sets = await sql<{ id: string }>(inside, `select id from quiz_set where item_counts is null order by id limit ${PART} for update skip locked`);
      for (const { id } of sets)
        await sql(
          inside,
          `update quiz_set q set item_counts = (select coalesce(jsonb_agg(jsonb_strip_nulls(to_jsonb(g))), '[]') from (${groupsOf(kept, 's.id = ?', true)}) g where g.n > 0) where q.id = ?`,
          [id, id],
        );
      return sets.length;
    });
    if (!done) return;
  }
}
