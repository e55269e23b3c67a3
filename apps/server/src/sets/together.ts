/** Who has a set open at the same time, and that something in it has changed: told as it happens, by whichever process heard of it. */
import { Body, Controller, HttpCode, type MessageEvent, Param, Put, Query, Sse } from '@nestjs/common';
import { ApiProperty } from '@nestjs/swagger';
import { IsIn, IsUUID } from 'class-validator';
import { catchError, concatMap, distinctUntilChanged, EMPTY, finalize, from, interval, map, merge, type Observable } from 'rxjs';
import { Access, Gives, Me, type Signed } from '../accounts/access.js';
import { Db } from '../platform/db.js';
import { Changes } from '../platform/changes.js';

/** Where in a set somebody can be: its stages, and the set as text. */
const PLACES = ['draft', 'check', 'arrange', 'deliver', 'results', 'text'] as const;
type Place = (typeof PLACES)[number];

class PresenceBody {
  @ApiProperty({ description: 'The open page: an id of its own for as long as it is open.' }) @IsUUID() tab!: string;
  @ApiProperty({ enum: PLACES }) @IsIn(PLACES) place!: Place;
}
class PersonHere {
  @ApiProperty() name!: string;
  @ApiProperty({ enum: PLACES }) place!: Place;
}
export class TogetherView {
  @ApiProperty({ description: 'The version that the set has by now.' }) version!: number;
  @ApiProperty({ description: 'The same of its draft.' }) draftVersion!: number;
  @ApiProperty({ type: [PersonHere], description: 'Others who have it open, by name.' }) people!: PersonHere[];
}

/** A page says through its open stream that it is there; the process that holds it writes that down so often, in milliseconds. */
const BEAT = 20_000;
/** A page of which nothing was written down for so long is gone: its process was killed. */
const GONE = '50 seconds';

@Controller()
export class TogetherController {
  constructor(
    private readonly db: Db,
    private readonly changes: Changes,
  ) {}

  /** The versions of a set and who else has it open: once at first, then after each change. While it is open, its reader counts as there. */
  @Sse('sets/:set/together/events')
  @Gives(TogetherView)
  @Access('reader')
  events(@Param('set') set: string, @Query() { tab, place }: PresenceBody, @Me() { account }: Signed): Observable<MessageEvent> {
    const beat = interval(BEAT).pipe(concatMap(() => this.beat(tab)));
    return merge(this.changes.of(set, account.id), beat).pipe(
      concatMap((_, n) => from(this.look(set, account.id, n === 0 ? () => this.come(set, tab, place, account.id) : undefined)).pipe(catchError(() => EMPTY))),
      distinctUntilChanged((x, y) => JSON.stringify(x) === JSON.stringify(y)),
      map((data): MessageEvent => ({ data })),
      finalize(() => void this.go(set, tab).catch(() => undefined)),
    );
  }

  /** Somebody goes to another stage of the set that they have open. */
  @Put('sets/:set/together')
  @HttpCode(204)
  @Access('reader')
  async moved(@Param('set') set: string, @Body() { tab, place }: PresenceBody, @Me() { account }: Signed): Promise<void> {
    const [there] = await this.db.rows(
      'update set_presence set place = $3, at = now() where tab = $1 and account_id = $2 and set_id = $4 and place <> $3 returning tab',
      [tab, account.id, place, set],
    );
    if (there) await this.tell(set);
  }

  private async come(set: string, tab: string, place: Place, account: string): Promise<void> {
    await this.db.rows(`delete from set_presence where at < now() - interval '1 hour'`);
    await this.db.rows(
      `insert into set_presence (tab, set_id, account_id, place) values ($1, $2, $3, $4)
       on conflict (tab) do update set set_id = excluded.set_id, place = excluded.place, at = now() where set_presence.account_id = excluded.account_id`,
      [tab, set, account, place],
    );
    await this.tell(set);
  }
  private async beat(tab: string): Promise<void> {
    await this.db.rows('update set_presence set at = now() where tab = $1', [tab]);
  }
  private async go(set: string, tab: string): Promise<void> {
    await this.db.rows('delete from set_presence where tab = $1', [tab]);
    await this.tell(set);
  }
  private async tell(set: string): Promise<void> {
    await this.db.rows(`select pg_notify('push_changed', $1)`, [set]);
  }

  private async look(set: string, account: string, first?: () => Promise<void>): Promise<TogetherView> {
    await first?.();
    const [row] = await this.db.rows<{ version: number; draft_version: number; people: PersonHere[] }>(
      `select s.version, s.draft_version,
         (select coalesce(json_agg(json_build_object('name', x.name, 'place', x.place) order by x.name), '[]') from
           (select distinct on (a.id) a.name, p.place from set_presence p join account a on a.id = p.account_id
            where p.set_id = s.id and a.id <> $2 and p.at > now() - interval '${GONE}' order by a.id, p.at desc) x) as people
       from quiz_set s where s.id = $1 and s.deleted_at is null`,
      [set, account],
    );
    return { version: row?.version ?? 0, draftVersion: row?.draft_version ?? 0, people: row?.people ?? [] };
  }
}
