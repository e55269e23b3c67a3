/**
 * One push, from what is known of it to the rehearsal of what arrived. Every piece is noted down as soon as the service has it, in the
 * rows of the placement; who takes a broken push up again reads them and goes on, with the same keys for the same requests.
 */
import { Injectable, Logger } from '@nestjs/common';
import type { EntityManager } from '@mikro-orm/postgresql';
import {
  goingSet,
  itemsWithKey,
  type Job,
  newId,
  pictureType,
  type Piece,
  type QuizSet,
  ReadError,
  type Rehearsal,
  type Sent,
  type Service,
  serviceOf,
  ServiceRefusal,
  type SetDocument,
} from '@zakuska/core';
import { gone, Problem } from '../platform/problem.js';
import { type Connection, PlacedPiece, Placement, Push, type PushedItem, SentPicture } from './entities.js';
import { heavy } from './heavy.js';
import { lineOf } from './line.js';
import { webAddress } from './webAddress.js';

/**
 * What of a set or one of its versions goes out: not what was left out, not what has no key; of the rest all, or the items chosen.
 * @throws Problem 404 where there is no such version, or nothing in that language
 */
export const deliverableSet = (
  document: SetDocument,
  { chosen, version, language }: { chosen?: readonly string[] | undefined; version?: string | undefined; language?: string | undefined } = {},
): QuizSet => {
  const set = goingSet(document, version, language);
  if (!set) throw gone(language ? 'version or language' : 'version');
  const wanted = chosen && new Set(chosen);
  return { ...set, items: itemsWithKey(set).filter((i) => !wanted || wanted.has(i.id)) };
};

/** Milliseconds from which on a further piece is worth telling. */
const TELL_EVERY = 250;

/** A person stopped it. */
export class Stopped extends Error {}

@Injectable()
export class Pushing {
  private readonly log = new Logger(Pushing.name);

  /**
   * Works on a push until all of it is where it should be. Leaves `em` with what changed on the row, unflushed at the end.
   * @throws Stopped, ServiceRefusal, Problem: 502 where it is worth trying again
   */
  async push(em: EntityManager, p: Push): Promise<void> {
    const service = serviceOf(p.service);
    if (!service) throw new Problem(422, 'unknown-service', `There is no service called ${p.service}.`);
    if (!p.connection || !p.snapshot)
      throw new Problem(422, 'connection-ended', 'The service was disconnected before this was sent. Connect it and push again.');
    const set = p.snapshot;
    const going = { service: service.id, setId: p.set.id, set, settings: p.aim.settings };
    const { fitted, pieces, notes } = await heavy('pieces', going);
    if (service.fetchesPictures) await this.keepPictures(em, p, fitted);
    const placed = p.placement ? await em.find(PlacedPiece, { placement: p.placement.id }) : [];
    const run = new Run(em, p, pieces, placed, p.connection);
    await run.begin();
    const call = lineOf(em, service, p.connection, (text) => void run.step(text).catch(() => undefined), run.over.signal);
    const prepared = service.prepare ? await heavy('prepare', going) : undefined;
    const { container, part, title, settings, takeOut } = p.aim;
    const known = p.placement?.container ?? container;
    await run.guard(() =>
      service.push(call, {
        key: p.id,
        ...(known !== undefined && { container: known }),
        ...(part !== undefined && { part }),
        title,
        settings,
        set,
        fitted,
        pieces,
        ...(prepared && { prepared }),
        takeOut,
        there: new Map(placed.map(({ key, remote, print }) => [key, { remote, print }])),
        keep: run.keep,
        refused: run.refused,
        found: run.found,
        step: run.step,
      }),
    );
    await run.step('Rehearsing what arrived');
    p.report = {
      ...p.report,
      adapted: notes,
      ...(await this.rehearsed(em, service, p, p.connection, set)),
    };
  }

  /** Pictures are there before a service is told where they are. Only those of a type that shows and does nothing. */
  private async keepPictures(em: EntityManager, p: Push, { assets = {} }: QuizSet): Promise<void> {
    for (const [hash, { data }] of Object.entries(assets)) {
      const bytes = Buffer.from(data, 'base64');
      const mediaType = pictureType(bytes);
      if (mediaType) await em.upsert(SentPicture, { set: p.set.id, hash, mediaType, bytes }, { onConflictAction: 'ignore' });
    }
  }

  /** Reads back what the service keeps and answers it. What arrived has arrived: a rehearsal that cannot be held is said and fails nothing. */
  private async rehearsed(
    em: EntityManager,
    service: Service,
    p: Push,
    connection: Connection,
    set: QuizSet,
  ): Promise<{ rehearsal?: Rehearsal; unrehearsed?: string }> {
    try {
      const { placement } = p;
      if (!placement) throw new ReadError('The service did not say where it put the items.');
      const bytes = await service.fetchBack(lineOf(em, service, connection), placement.container);
      const placed = await em.fork().find(PlacedPiece, { placement: placement.id });
      const pieces = placed.map(({ remote, key }): [string, string] => [remote, key]);
      return { rehearsal: await heavy('rehearse', { service: service.id, setId: p.set.id, set, settings: p.aim.settings, bytes, pieces }) };
    } catch (e) {
      this.log.warn({ err: e as Error }, 'rehearsal failed');
      const words = e instanceof Problem || e instanceof ReadError || e instanceof ServiceRefusal;
      return { unrehearsed: words ? e.message : 'What arrived could not be read back.' };
    }
  }
}

/** The row of a push while it is worked on: what a person sees of it, and what it must not forget. */
class Run {
  /** Aborts waiting when a person stops the push. */
  readonly over = new AbortController();
  private readonly byKey: Map<string, Piece>;
  private readonly items = new Map<string, PushedItem>();
  private told = 0;
  private readonly mine: Map<string, PlacedPiece>;

  constructor(
    private readonly em: EntityManager,
    private readonly p: Push,
    pieces: readonly Piece[],
    placed: readonly PlacedPiece[],
    private readonly connection: Connection,
  ) {
    this.byKey = new Map(pieces.map((x) => [x.key, x]));
    for (const { key, item, name } of pieces) this.items.set(key, { key, item, name, status: 'waiting' });
    this.mine = new Map(placed.filter((x) => x.push === p.id).map((x) => [x.key, x]));
  }

  async begin(): Promise<void> {
    this.p.total = this.items.size + 1;
    const { problem: _p, ...rest } = this.p.report;
    this.p.report = rest;
    await this.tell();
  }

  /** Brings the row up to what has become of the items. */
  private noteItems(): void {
    const items = [...this.items.values()];
    this.p.report = { ...this.p.report, items };
    this.p.done = Math.min(this.p.total, items.filter((i) => i.status !== 'waiting').length);
  }

  /** Writes what the row says now; hears whether a person wants it to stop. */
  private async tell(): Promise<void> {
    this.told = Date.now();
    this.noteItems();
    await this.em.flush();
    const [row] = await this.em.getConnection().execute<{ stopping: boolean }[]>('select stopping from push where id = ?', [this.p.id]);
    if (!row?.stopping) return;
    this.over.abort();
    throw new Stopped();
  }

  /** After one piece of many: every time would write all of them for each. */
  private async tellNowAndThen(): Promise<void> {
    if (Date.now() - this.told >= TELL_EVERY) await this.tell();
  }

  /** Waiting that was aborted is a stop, too. However it ends, the row has what became of all items. */
  async guard(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (e) {
      throw this.over.signal.aborted ? new Stopped() : e;
    } finally {
      this.noteItems();
    }
  }

  step = async (text: string): Promise<void> => {
    this.p.step = text;
    await this.tell();
  };

  found: Job['found'] = async ({ id, title, link: said, links: all = {} }) => {
    const link = webAddress(said);
    const links = Object.fromEntries(Object.entries(all).filter(([, href]) => webAddress(href)));
    const [row] = await this.em.getConnection().execute<{ id: string }[]>(
      `insert into placement (id, set_id, connection_id, service, container, title, link, links, settings, version, language) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
       on conflict (set_id, service, container) do update set title = excluded.title, link = excluded.link, links = excluded.links,
         connection_id = excluded.connection_id, settings = excluded.settings, version = excluded.version, language = excluded.language
       returning id`,
      [
        newId(),
        this.p.set.id,
        this.connection.id,
        this.p.service,
        id,
        title,
        link,
        JSON.stringify(links),
        JSON.stringify(this.p.aim.settings),
        this.p.aim.version ?? '',
        this.p.aim.language ?? '',
      ],
    );
    this.p.placement = await this.em.findOneOrFail(Placement, { id: row?.id ?? '' });
    this.p.report = { ...this.p.report, title, link, links };
    await this.tell();
  };

  keep: Job['keep'] = async (key, sent: Sent, became) => {
    const { placement } = this.p;
    if (!placement) throw new Error('a piece was kept before its container was found');
    const piece = this.byKey.get(key);
    const item = this.items.get(key);
    // what this push brought before it broke off is told as it was then
    const before = became === 'same' ? this.mine.get(key) : undefined;
    if (became === 'taken out') await this.takenOut(placement, key);
    else if (!before)
      await this.em.getConnection().execute(
        `insert into placed_piece (placement_id, key, item, remote, print, content, push, became) values (?, ?, ?, ?, ?, ?, ?, ?)
         on conflict (placement_id, key) do update set item = excluded.item, remote = excluded.remote, print = excluded.print, content = excluded.content,
           push = excluded.push, became = excluded.became`,
        [placement.id, key, piece?.item ?? null, sent.remote, sent.print, piece ? JSON.stringify(piece.content) : null, this.p.id, became],
      );
    if (item) this.items.set(key, { ...item, status: before?.became ?? became });
    this.p.tries = 1; // something arrived: the tries count anew
    if (item) this.p.step = item.name;
    await this.tellNowAndThen();
  };

  private async takenOut(placement: Placement, key: string): Promise<void> {
    const [row] = await this.em
      .getConnection()
      .execute<{ item: string | null; name: string | null }[]>(
        `delete from placed_piece where placement_id = ? and key = ? returning item, content->>'stem' as name`,
        [placement.id, key],
      );
    this.items.set(key, { key, item: row?.item ?? key, name: row?.name?.slice(0, 120) ?? key, status: 'taken out' });
  }

  refused: Job['refused'] = async (key, message) => {
    const item = this.items.get(key);
    this.items.set(key, { key, item: item?.item ?? key, name: item?.name ?? key, status: 'refused', message });
    await this.tellNowAndThen();
  };
}
