/** Items of the bank that ask nearly the same: in groups, or found for one that is being written; and what people said of them. */
import { Body, Controller, Get, HttpCode, Post, Query } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { fingerprint, type Item, item as itemSchema, nearGroups, nearKeys, nearlySame, type MemberRole } from '@zakuska/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { LRUCache } from 'lru-cache';
import { Access, Gives, Me, MyRole, type Signed, WorkspaceId } from '../accounts/access.js';
import { inWorker } from '../platform/inWorker.js';
import { Problem } from '../platform/problem.js';
import { ofCore } from '../platform/schemas.js';
import { sql } from '../platform/sql.js';
import { BankItem, itemsAt, itemsOf } from './bank.js';
import { BANK, seenBy } from './items.js';

/** Groups of a page. */
const PAGE = 50;
/** Items like one that is being written: more than these nobody reads meanwhile. */
const MOST_LIKE = 5;
/** Rows that share a key with an item and are looked at. */
const CANDIDATES = 300;
/** So many are compared at once; more in a thread of their own. */
const AT_ONCE = 400;
const LIMITS = { seconds: 120, megabytes: 1024 };

class NearGroup {
  @ApiProperty({ type: [BankItem] }) items!: BankItem[];
}
class NearPage {
  @ApiProperty({ type: [NearGroup] }) groups!: NearGroup[];
  @ApiProperty({ description: 'All that there are, of which this is a page.' }) total!: number;
}
class NearQuery {
  @ApiPropertyOptional({ description: 'Groups to leave out before the page begins.' })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(1_000_000)
  from?: number;
}
class LikeBody {
  @ApiProperty(ofCore('Item')) @IsObject() item!: Item;
  @ApiPropertyOptional({ description: 'The set that it stands in: other items of that set are the checks’ business.' }) @IsOptional() @IsUUID() set?: string;
}
class PlaceBody {
  @ApiProperty() @IsUUID() set!: string;
  @ApiProperty() @IsString() @MaxLength(200) item!: string;
}
class NotAlikeBody {
  @ApiProperty({ type: [PlaceBody], description: 'Each is not the same as any other of them.' })
  @IsArray()
  @ArrayMinSize(2)
  @ArrayMaxSize(100)
  @ValidateNested({ each: true })
  @Type(() => PlaceBody)
  items!: PlaceBody[];
  @ApiProperty({ description: 'False takes it back.' }) @IsBoolean() differ!: boolean;
}

interface Candidate {
  set: string;
  id: string;
  item: Item;
}
const nameOf = (c: { set: string; id: string }): string => `${c.set} ${c.id}`;
/** Copies of one item are one question. */
const rootOf = ({ item }: Candidate): string => item.takenFrom?.item ?? item.id;

@ApiTags('bank')
@Controller()
export class NearController {
  /** What was found, as long as no item has changed. */
  private readonly known = new LRUCache<string, { stamp: string; groups: { set: string; id: string }[][] }>({ max: 50 });
  constructor(private readonly em: EntityManager) {}

  /** Groups of items of the workspace that ask nearly the same, the largest first. */
  @Get('workspaces/:workspace/bank/near')
  @Gives(NearPage)
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async groups(@WorkspaceId() workspace: string, @Query() q: NearQuery, @Me() me: Signed, @MyRole() role: MemberRole): Promise<NearPage> {
    const groups = await this.found(workspace, me, role);
    const from = q.from ?? 0;
    const page = groups.slice(from, from + PAGE);
    // what was found a while ago is shown only as far as the person still sees it
    const seen = seenBy(workspace, me, role);
    const items = await itemsAt(
      this.em.fork(),
      `select i.set_id, i.id, 1 as n from jsonb_array_elements(?::jsonb) x, ${BANK}
       where i.set_id = (x->>'set')::uuid and i.id = x->>'id' and ${seen.text}`,
      [JSON.stringify(page.flat()), ...seen.params],
    );
    const byName = new Map(items.map((i) => [`${i.set} ${i.item.id}`, i]));
    return {
      total: groups.length,
      groups: page.map((g) => ({ items: g.flatMap((x) => byName.get(nameOf(x)) ?? []) })).filter((g) => g.items.length > 1),
    };
  }

  private async found(workspace: string, me: Signed, role: MemberRole): Promise<{ set: string; id: string }[][]> {
    const em = this.em.fork();
    const seen = seenBy(workspace, me, role);
    const [state] = await sql<{ stamp: string }>(
      em,
      `select count(*) || ' ' || coalesce(max(i.changed_at)::text, '') || ' ' || (select count(*) from not_alike where workspace_id = ?) as stamp from ${BANK} where ${seen.text}`,
      [workspace, ...seen.params],
    );
    const key = `${workspace} ${me.account.id}`;
    const stamp = state?.stamp ?? '';
    const there = this.known.get(key);
    if (there?.stamp === stamp) return there.groups;
    // only items that share a key with another are compared
    const candidates = await sql<Candidate>(
      em,
      `with seen as (select i.set_id, i.id, i.near_keys from ${BANK} where ${seen.text}),
         keys as (select set_id, id, unnest(near_keys) as key from seen),
         met as (select key from keys group by key having count(*) > 1),
         near as (select distinct set_id, id from keys where key in (select key from met))
       select i.set_id as set, i.id, i.item from near n join set_item i on i.set_id = n.set_id and i.id = n.id order by i.set_id, i.id`,
      seen.params,
    );
    const apart = await this.apart(em, workspace);
    const items = candidates.map((c) => c.item);
    const found = items.length <= AT_ONCE ? nearGroups(items) : await inWorker<{ items: Item[] }, number[][]>('bank/near.worker.js', { items }, LIMITS);
    const groups = found
      .map((g) =>
        distinct(
          g.flatMap((i) => candidates[i] ?? []),
          apart,
        ),
      )
      .filter((g) => g.length > 1)
      .sort((a, b) => b.length - a.length)
      .map((g) => g.map(({ set, id }) => ({ set, id })));
    this.known.set(key, { stamp, groups });
    return groups;
  }
  /** Pairs of which somebody said that they are not the same. */
  private async apart(em: EntityManager, workspace: string): Promise<ReadonlySet<string>> {
    const rows = await sql<{ a: string; b: string }>(em, 'select a, b from not_alike where workspace_id = ?', [workspace]);
    return new Set(rows.flatMap(({ a, b }) => [`${a} ${b}`, `${b} ${a}`]));
  }

  /** Items of other sets that ask nearly the same as one that is being written. */
  @Post('workspaces/:workspace/bank/like')
  @HttpCode(200)
  @Gives([BankItem])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async like(@WorkspaceId() workspace: string, @Body() body: LikeBody, @Me() me: Signed, @MyRole() role: MemberRole): Promise<BankItem[]> {
    const parsed = itemSchema.safeParse(body.item);
    if (!parsed.success) throw new Problem(400, 'item-invalid', `The item is not valid: ${parsed.error.issues[0]?.message ?? ''}`);
    const keys = nearKeys(parsed.data);
    if (!keys.length) return [];
    const em = this.em.fork();
    const seen = seenBy(workspace, me, role);
    const rows = await sql<Candidate>(
      em,
      `select i.set_id as set, i.id, i.item from ${BANK} where ${seen.text} and i.near_keys && ?::int[] and i.kind = ? and i.set_id is distinct from ?::uuid
       order by i.changed_at desc limit ${CANDIDATES}`,
      [...seen.params, `{${keys.join(',')}}`, parsed.data.kind, body.set ?? null],
    );
    const own = { set: body.set ?? '', id: parsed.data.id, item: parsed.data };
    const print = fingerprint(parsed.data);
    const apart = await this.apart(em, workspace);
    const like = rows.filter((r) => rootOf(r) !== rootOf(own) && nearlySame(print, fingerprint(r.item)));
    const [, ...others] = distinct([own, ...like], apart);
    return itemsOf(em, others.slice(0, MOST_LIKE));
  }

  /** Says of items that they are not the same, though they look so; or takes that back. */
  @Post('workspaces/:workspace/bank/not-alike')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async notAlike(@WorkspaceId() workspace: string, @Body() body: NotAlikeBody): Promise<void> {
    const names = [...new Set(body.items.map((i) => `${i.set} ${i.item}`))].sort();
    const pairs = names.flatMap((a, i) => names.slice(i + 1).map((b) => ({ a, b })));
    await sql(
      this.em.fork(),
      body.differ
        ? `insert into not_alike (workspace_id, a, b) select ?, x->>'a', x->>'b' from jsonb_array_elements(?::jsonb) x on conflict do nothing`
        : `delete from not_alike n using jsonb_array_elements(?::jsonb) x where n.workspace_id = ? and n.a = x->>'a' and n.b = x->>'b'`,
      body.differ ? [workspace, JSON.stringify(pairs)] : [JSON.stringify(pairs), workspace],
    );
  }
}

/** The first of a group with those that are neither copies of one that is there nor said to be different from the first. */
function distinct(group: readonly Candidate[], apart: ReadonlySet<string>): Candidate[] {
  const roots = new Set<string>();
  const [head] = group;
  return group.filter((c) => {
    if (roots.has(rootOf(c)) || (head && apart.has(`${nameOf(head)} ${nameOf(c)}`))) return false;
    roots.add(rootOf(c));
    return true;
  });
}
