/** The bank: all items of a workspace, found across its sets by words and filters. No copy of them: the rows of the sets themselves are searched. */
import { Controller, Get, Param, Query } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { bloomLevels, type Item, kindNames, ruleOf, type MemberRole } from '@zakuska/core';
import { Transform, Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsInt, IsOptional, IsString, IsUUID, Max, MaxLength, Min } from 'class-validator';
import { Access, Gives, Me, MyRole, type Signed, WorkspaceId } from '../accounts/access.js';
import { ofCore } from '../platform/schemas.js';
import { sql } from '../platform/sql.js';
import { type BankCount, BankCounts, counted, countsFor, type Filter, ofSet } from './counts.js';
import { BANK, HARDNESS, hardness, seenBy, use, type Where } from './items.js';

/** Orders in which items may be shown. */
const SORTS = ['fit', 'changed', 'points', 'difficulty', 'set', 'used', 'least-used', 'share'] as const;
const USE = ['used', 'never'] as const;
const STATES = ['open', 'checked', 'left-out'] as const;
/** The text search configurations of PostgreSQL that items may be searched by; `item_config` of the migration gives one of them. */
const CONFIGS = 'simple english german french spanish italian portuguese dutch swedish danish finnish norwegian russian turkish romanian hungarian'.split(' ');
/** Items of a page. */
const PAGE = 100;

/** A value given once or several times. */
const Several = (): PropertyDecorator =>
  Transform(({ value }: { value: unknown }) => (value === undefined ? undefined : Array.isArray(value) ? value : [value]));
const words = { isArray: true, type: String } as const;

class BankQuery {
  @ApiPropertyOptional({ description: 'Words, parts of words, "whole phrases", -without.' }) @IsOptional() @IsString() @MaxLength(300) q?: string;
  @ApiPropertyOptional({ ...words, enum: kindNames }) @Several() @IsOptional() @IsArray() @ArrayMaxSize(20) @IsIn(kindNames, { each: true }) kind?: string[];
  @ApiPropertyOptional(words) @Several() @IsOptional() @IsArray() @ArrayMaxSize(100) @IsString({ each: true }) outcome?: string[];
  @ApiPropertyOptional(words) @Several() @IsOptional() @IsArray() @ArrayMaxSize(100) @IsString({ each: true }) tag?: string[];
  @ApiPropertyOptional({ ...words, description: 'Folders, with all that lies in them; “none” for no folder.' })
  @Several()
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(100)
  @IsString({ each: true })
  folder?: string[];
  @ApiPropertyOptional({ ...words, enum: bloomLevels }) @Several() @IsOptional() @IsArray() @IsIn(bloomLevels, { each: true }) level?: string[];
  @ApiPropertyOptional({ ...words, description: 'Accounts that made the sets.' })
  @Several()
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(100)
  @IsUUID('all', { each: true })
  author?: string[];
  @ApiPropertyOptional(words) @Several() @IsOptional() @IsArray() @ArrayMaxSize(500) @IsUUID('all', { each: true }) set?: string[];
  @ApiPropertyOptional({ ...words, description: 'Codes of rules that find something in the item by itself.' })
  @Several()
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(100)
  @IsString({ each: true })
  finding?: string[];
  @ApiPropertyOptional({ ...words, enum: HARDNESS }) @Several() @IsOptional() @IsArray() @IsIn(HARDNESS, { each: true }) difficulty?: string[];
  @ApiPropertyOptional({ ...words, enum: USE }) @Several() @IsOptional() @IsArray() @IsIn(USE, { each: true }) use?: string[];
  @ApiPropertyOptional(words) @Several() @IsOptional() @IsArray() @ArrayMaxSize(100) @IsString({ each: true }) points?: string[];
  @ApiPropertyOptional({ ...words, enum: STATES }) @Several() @IsOptional() @IsArray() @IsIn(STATES, { each: true }) state?: string[];
  @ApiPropertyOptional({ enum: SORTS }) @IsOptional() @IsIn(SORTS) sort?: (typeof SORTS)[number];
  @ApiPropertyOptional({ description: 'Items to leave out before the page begins.' })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(1_000_000)
  from?: number;
}
class UseFigures {
  @ApiProperty({ description: 'Responses to it, of all copies of it.' }) answers!: number;
  @ApiPropertyOptional({ description: 'Mean share of its points that was earned, 0 to 1.' }) share?: number;
  @ApiPropertyOptional({ description: 'Correlation of its points with those on all other items of a quiz, −1 to 1.' }) discrimination?: number;
  @ApiPropertyOptional({ description: 'When somebody last answered it.' }) at?: string;
}
class ItemUseView extends UseFigures {
  @ApiProperty() item!: string;
  @ApiPropertyOptional({ description: 'It was changed since somebody last answered it.' }) changed?: boolean;
}
class UseView extends UseFigures {
  @ApiProperty({ description: 'Sets that it or a copy of it stands in.' }) sets!: number;
}
export class BankItem {
  @ApiProperty() set!: string;
  @ApiProperty() setTitle!: string;
  @ApiProperty({ type: [String], description: 'Names of the folders that the set lies in, from the top.' }) path!: string[];
  @ApiPropertyOptional({ description: 'BCP 47: of the item, else of its set.' }) language?: string;
  @ApiProperty({ enum: STATES }) state!: (typeof STATES)[number];
  @ApiProperty() changedAt!: string;
  @ApiProperty({ type: UseView }) use!: UseView;
  @ApiProperty(ofCore('Item')) item!: Item;
}
class BankPage {
  @ApiProperty({ type: [BankItem] }) items!: BankItem[];
  @ApiProperty({ description: 'All that there are, of which this is a page.' }) total!: number;
}

/** Conditions for the filters that were given; `but` leaves one out, so that its other values can be counted. */
function filtersOf(q: BankQuery, but?: Filter): Where {
  const parts: string[] = [];
  const params: unknown[] = [];
  const add = (name: Filter, text: string, values: readonly string[] | undefined): void => {
    if (!values?.length || name === but) return;
    parts.push(text);
    params.push(JSON.stringify(values));
  };
  const list = '(select jsonb_array_elements_text(?::jsonb))';
  add('kind', `i.kind in ${list}`, q.kind);
  add('state', `i.state in ${list}`, q.state);
  add('set', `s.id::text in ${list}`, q.set);
  add(
    'folder',
    `exists (select 1 from jsonb_array_elements_text(?::jsonb) x where x = any (f.trail::text[]) or (x = 'none' and s.folder_id is null))`,
    q.folder,
  );
  add('level', `i.item->'level'->>'bloom' in ${list}`, q.level);
  add('finding', `i.findings && array${list}`, q.finding);
  add('difficulty', `${hardness} in ${list}`, q.difficulty);
  add('points', `i.points::text in ${list}`, q.points);
  add('use', `${use} in ${list}`, q.use);
  add('author', `s.owner_id::text in ${list}`, q.author);
  // each value by itself: containment is what the index answers
  for (const name of ['outcome', 'tag'] as const) {
    const values = q[name];
    if (!values?.length || name === but) continue;
    parts.push(`(${values.map(() => `i.item->'${name}s' @> ?::jsonb`).join(' or ')})`);
    params.push(...values.map((v) => JSON.stringify([v])));
  }
  return { text: parts.map((p) => ` and ${p}`).join(''), params };
}

/** Figures of use as the database has them. */
interface Used {
  answers: number;
  share: number | null;
  discrimination: number | null;
  used_at: Date | null;
}
/** An item of a set as a row of the bank. */
interface Row extends Used {
  set: string;
  set_title: string;
  path: string[];
  language: string | null;
  state: BankItem['state'];
  changed_at: Date;
  item: Item;
  sets: number;
}
/** How an item `i` of a set `s` did, with all copies of it in the workspace: as `u`. */
const USED = `cross join lateral (
       select sum(k.answers)::int as answers, max(k.used_at) as used_at, count(distinct k.set_id)::int as sets,
         sum(k.share * k.answers) / nullif(sum(k.answers) filter (where k.share is not null), 0) as share,
         sum(k.discrimination * k.answers) / nullif(sum(k.answers) filter (where k.discrimination is not null), 0) as discrimination
       from set_item k join quiz_set ks on ks.id = k.set_id
       where coalesce(k.item->'takenFrom'->>'item', k.id) = coalesce(i.item->'takenFrom'->>'item', i.id)
         and ks.workspace_id = s.workspace_id and ks.deleted_at is null) u`;
/** Figures of use as they are told. */
const useOf = ({ answers, share, discrimination, used_at }: Used): UseFigures => ({
  answers,
  ...(share !== null && { share }),
  ...(discrimination !== null && { discrimination }),
  ...(used_at && { at: new Date(used_at).toISOString() }),
});
/**
 * Items with what the bank says of them.
 * @param which a statement that gives `set_id`, `id` and `n`, the place in the order
 */
export async function itemsAt(em: EntityManager, which: string, params: unknown[]): Promise<BankItem[]> {
  const rows = await sql<Row>(
    em,
    `select i.set_id as set, s.title as set_title, coalesce(f.names, '{}') as path, coalesce(i.item->>'language', i.language) as language, i.state, i.changed_at, i.item,
       u.answers, u.share, u.discrimination, u.used_at, u.sets
     from (${which}) p
     join set_item i on i.set_id = p.set_id and i.id = p.id join quiz_set s on s.id = i.set_id left join folder f on f.id = s.folder_id
     ${USED}
     order by p.n`,
    params,
  );
  return rows.map(({ set_title, changed_at, language, answers, share, discrimination, used_at, sets, ...r }) => ({
    ...r,
    setTitle: set_title,
    changedAt: new Date(changed_at).toISOString(),
    ...(language && { language }),
    use: { ...useOf({ answers, share, discrimination, used_at }), sets },
  }));
}

/** The same of items by their places, in their order. */
export const itemsOf = async (em: EntityManager, places: readonly { set: string; id: string }[]): Promise<BankItem[]> =>
  places.length
    ? itemsAt(em, `select (x->>'set')::uuid as set_id, x->>'id' as id, n from jsonb_array_elements(?::jsonb) with ordinality as e(x, n)`, [
        JSON.stringify(places),
      ])
    : [];

@ApiTags('bank')
@Controller()
export class BankController {
  constructor(private readonly em: EntityManager) {}

  /** Items of the workspace, a page at a time. */
  @Get('workspaces/:workspace/bank')
  @Gives(BankPage)
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async search(@WorkspaceId() workspace: string, @Query() q: BankQuery, @Me() me: Signed, @MyRole() role: MemberRole): Promise<BankPage> {
    const em = this.em.fork();
    const found = await this.wordsOf(em, q.q);
    const filters = filtersOf(q);
    const seen = seenBy(workspace, me, role);
    const where = `${seen.text}${found.text}${filters.text}`;
    const params = [...seen.params, ...found.params, ...filters.params];
    const sort = q.sort ?? (q.q?.trim() ? 'fit' : 'changed');
    const order = {
      fit: found.rank ? `${found.rank.text} desc, i.changed_at desc` : 'i.changed_at desc',
      changed: 'i.changed_at desc',
      points: 'i.points desc',
      difficulty: 'i.difficulty desc nulls last',
      used: 'i.used_at desc nulls last',
      'least-used': 'i.answers, i.used_at nulls first',
      share: 'i.share nulls last',
      set: 'f.names nulls last, s.title',
    }[sort];
    // the page is found among what is small, then its items are fetched
    const [page, [count]] = await Promise.all([
      sql<{ set: string; id: string }>(
        em,
        `select i.set_id as set, i.id from ${BANK} where ${where} order by ${order}, i.set_id, i.id limit ${PAGE} offset ?`,
        [...params, ...(sort === 'fit' ? (found.rank?.params ?? []) : []), q.from ?? 0],
      ),
      sql<{ n: number }>(this.em.fork(), `select count(*)::int as n from ${BANK} where ${where}`, params),
    ]);
    return { total: count?.n ?? 0, items: await itemsOf(em, page) };
  }

  /** How the items of a set did where they, or copies of them, were answered; those that nobody answered are not named. */
  @Get('sets/:set/use')
  @Gives([ItemUseView])
  @Access('reader')
  async use(@Param('set') set: string): Promise<ItemUseView[]> {
    const rows = await sql<Used & { item: string; changed: boolean }>(
      this.em.fork(),
      `select i.id as item, u.answers, u.share, u.discrimination, u.used_at, i.changed_at > u.used_at as changed from set_item i join quiz_set s on s.id = i.set_id ${USED} where i.set_id = ? and u.answers > 0`,
      [set],
    );
    return rows.map(({ item, changed, ...used }) => ({ item, ...useOf(used), ...(changed && { changed }) }));
  }

  /** How many items each value of each filter has, with all other filters as they are. */
  @Get('workspaces/:workspace/bank/counts')
  @Gives(BankCounts)
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async counts(@WorkspaceId() workspace: string, @Query() q: BankQuery, @Me() me: Signed, @MyRole() role: MemberRole): Promise<BankCounts> {
    const seen = seenBy(workspace, me, role);
    const found = await this.wordsOf(this.em.fork(), q.q);
    const chosen = counted.filter((name) => q[name]?.length);
    /** @param but a filter in use, of which it is asked what its other values would give */
    const count = (names: readonly Filter[], but?: Filter): Promise<[Filter, BankCount][]> => {
      const filters = filtersOf(q, but);
      const where = { text: `${seen.text}${found.text}${filters.text}`, params: [...seen.params, ...found.params, ...filters.params] };
      return countsFor(this.em.fork(), names, where, !found.text && chosen.every((name) => name === but || ofSet(name)));
    };
    const rows = await Promise.all([count(counted.filter((name) => !chosen.includes(name))), ...chosen.map((name) => count([name], name))]);
    const out = Object.fromEntries(counted.map((name) => [name, [] as BankCount[]])) as unknown as BankCounts;
    for (const [name, count] of rows.flat()) out[name].push(count);
    for (const name of counted) out[name].sort((a, b) => b.count - a.count || (a.value < b.value ? -1 : 1));
    return { ...out, finding: out.finding.map((f) => ({ ...f, name: ruleOf(f.value)?.name ?? f.value })) };
  }

  /**
   * The condition for words: each language that is there by its own rules (endings, small words), and parts of words as they stand.
   * `rank` says how well an item fits.
   */
  private async wordsOf(em: EntityManager, said: string | undefined): Promise<Where & { rank?: Where }> {
    const q = said?.trim();
    if (!q) return { text: '', params: [] };
    const configs = (
      await sql<{ config: string }>(em, `select c as config from unnest(?::text[]) c where exists (select 1 from set_item where config = c)`, [
        `{${CONFIGS.join(',')}}`,
      ])
    ).map((r) => r.config);
    // names of configurations are ours and stand in the text: as parameters they would be looked up for every row
    const query = (c: string): string => `websearch_to_tsquery('${c}'::regconfig, ?)`;
    // each language is asked of its own items: what it leaves out is another word in another language
    const queries = configs.map((c) => `(i.search @@ ${query(c)} and i.config = '${c}')`);
    // minus and quotation marks are meant for the search of words alone
    const parts = /^[-"]|\s-|"/.test(q) || q.length < 3 ? [] : ['i.words ilike ?'];
    const both = configs.map(() => q);
    return {
      text: ` and (${[...queries, ...parts].join(' or ') || 'false'})`,
      params: [...both, ...(parts.length ? [`%${q.replace(/[\\%_]/g, '\\$&')}%`] : [])],
      ...(configs.length && {
        rank: { text: `case i.config ${configs.map((c) => `when '${c}' then ts_rank(i.search, ${query(c)})`).join(' ')} end`, params: both },
      }),
    };
  }
}
