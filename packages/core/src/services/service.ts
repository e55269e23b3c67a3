/**
 * A destination that is a service of its own. One file each, a row in index.ts and its words in table.ts. It knows what the service can hold and how to
 * talk with it; the line itself (tokens, waiting, trying again) is given as `Call`, so everything here can be tried without a network.
 * What a service lacks is absent, and the screens follow.
 */
import { type FitNote, fitSet } from '../fit/fit.js';
import { holds, type Profile } from '../fit/profile.js';
import type { Play } from '../formats/format.js';
import type { Row } from '../formats/table/grid.js';
import { picturesApart } from '../formats/pictures.js';
import { stableId } from '../item/ids.js';
import { nameOf } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { type Response, roundPoints } from '../mark/mark.js';
import type { Listed } from '../people/match.js';
import type { ServiceRow, Settings } from './table.js';

/** What is sent with a request. */
export interface Sending {
  json?: unknown;
  bytes?: Uint8Array;
  /** Media type of `bytes`. */
  type?: string;
  headers?: Readonly<Record<string, string>>;
  /** Idempotency-Key: the same key again is the same thing. A POST that has one may be tried again. */
  key?: string;
}
/** What came back, whatever its status; only whole answers come back. */
export interface Reply {
  status: number;
  ok: boolean;
  bytes: Uint8Array;
}
/**
 * A request to the service, with the token of the connection. Waits where the service asks for it, tries again where that is safe.
 * @throws where there is no answer, or the service no longer knows the connection
 */
export type Call = (method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE', path: string, sending?: Sending) => Promise<Reply>;

/** The body of an answer. */
export const jsonOf = <T>(reply: Reply): T => JSON.parse(new TextDecoder().decode(reply.bytes)) as T;

/** The service cannot do what is asked, whoever asks and however often: said to the person. */
export class ServiceRefusal extends Error {}

/** What the service said of what it refused: `detail` of its answer (RFC 9457), or the status. */
export function reasonOf(reply: Reply): string {
  try {
    const { detail } = jsonOf<{ detail?: unknown }>(reply);
    if (typeof detail === 'string' && detail) return detail;
  } catch {
    // no JSON
  }
  return `the service answered with status ${reply.status}`;
}
/** The answer, if it is a good one. @throws ServiceRefusal */
export function good(reply: Reply): Reply {
  if (!reply.ok) throw new ServiceRefusal(reasonOf(reply));
  return reply;
}

/** Something at the service that holds items: a form, a bank, a quiz. */
export interface Container {
  id: string;
  title: string;
  /** How much stands in it, in a few words. */
  holds: string;
  link: string;
  parts: { id: string; title: string }[];
  /** Is not there yet: choosing it makes it. Where a service names such, they stand in place of the plain new one. */
  fresh?: boolean;
}

/** One item as it goes: what `fit` made of an item of the set. */
export interface Piece {
  /** Id of what goes. */
  key: string;
  /** Id of the item of the set. */
  item: string;
  name: string;
  /** Changes with what goes. */
  print: string;
  /** What goes, worth what it is worth here. */
  content: Item;
}
/** Of what is sent of an item: not where it stands in the draft, and in whatever order a database gives its fields. */
const printOf = ({ source: _s, ...content }: Item): string =>
  stableId(
    JSON.stringify(content, (_, v: unknown) =>
      v && typeof v === 'object' && !Array.isArray(v) ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1))) : v,
    ),
  );
/** A set as a service is to get it, before it is fitted: with what the settings make of it, its pictures apart from its texts. */
export const asSent = (set: QuizSet, { withSettings }: Pick<Service, 'withSettings'>, settings: Settings): QuizSet =>
  picturesApart(withSettings?.(set, settings) ?? set);

/** A set as it goes to a service, with what its settings make of it, item by item, and what becomes of it on the way. */
export function piecesOf(
  whole: QuizSet,
  service: Pick<Service, 'profile' | 'withSettings'>,
  settings: Settings = {},
): { fitted: QuizSet; pieces: Piece[]; notes: FitNote[] } {
  const { profile } = service;
  const set = asSent(whole, service, settings);
  const { set: fitted, fits } = fitSet(set, profile);
  const byKey = new Map(fitted.items.map((i) => [i.id, i]));
  const pieces = fits.flatMap((f, n) =>
    f.items.flatMap(({ id }): Piece[] => {
      const goes = byKey.get(id);
      if (!goes) return [];
      const item = set.items[n];
      // a service with points of its own: responses are marked here by those of the set
      const own = item && !holds(profile, 'points', goes.kind) ? { points: roundPoints(item.points / f.items.length) } : {};
      return [{ key: id, item: item?.id ?? id, name: nameOf(goes, 120), print: printOf(goes), content: { ...goes, ...own } }];
    }),
  );
  return { fitted, pieces, notes: fits.flatMap((f) => f.notes) };
}

/** What is there of a piece: how the service calls it, and the print of what was sent. */
export interface Sent {
  remote: string;
  print: string;
}
/** What became of a piece. */
export type Became = 'arrived' | 'changed' | 'same' | 'taken out';

/** A push under way: what is to be where, and what is known of it already. */
export interface Job {
  /** Of this push alone: keys of requests are made of it. */
  key: string;
  /** The container that there is; none: a new one is made. */
  container?: string;
  /** The part of it in which new pieces go. */
  part?: string;
  title: string;
  settings: Settings;
  /** The set as it is kept here, and as it goes. */
  set: QuizSet;
  fitted: QuizSet;
  pieces: readonly Piece[];
  /** What `prepare` made. */
  prepared?: Uint8Array;
  /** Whether what was sent before and is no longer in the set is taken out there. */
  takeOut: boolean;
  /** What stands in the container from this set, by key; also what an attempt that broke off has sent. */
  there: ReadonlyMap<string, Sent>;
  /** Notes down what the service has taken, at once: what is noted is never sent again. `key` is that of a piece or any other. */
  keep(key: string, sent: Sent, became: Became): Promise<void>;
  refused(key: string, reason: string): Promise<void>;
  /** Which container it is, as soon as that is known. */
  found(container: { id: string; title: string; link: string; links?: Readonly<Record<string, string>> }): Promise<void>;
  step(text: string): Promise<void>;
}

/** What a learner sent to the service. */
export interface Pulled {
  /** Of the service: the same id is the same response. */
  id: string;
  at: string;
  name?: string;
  mail?: string;
  /** By key of the piece. */
  responses: Record<string, Response>;
  /** Points that the service gave, by key; null where a person marks. */
  points: Record<string, number | null>;
}
/** Responses that have come in since, and where to go on next time. */
export interface PulledPage {
  responses: Pulled[];
  next: string;
}
/** A piece as it stands in a container, for reading answers to it. */
export interface PlacedPiece {
  key: string;
  remote: string;
  content: Item;
}

/** A gradebook of a service: of a course, with who is in it. */
export interface Gradebook {
  id: string;
  title: string;
  link: string;
  people: Listed[];
}
/** A column of a gradebook, and the scores for it, by the ids of people. */
export interface Grades {
  /** The column that there is; none: a new one is made. */
  column?: string;
  /** Of this column alone, for the request that makes it. */
  key: string;
  title: string;
  maximum: number;
  scores: ReadonlyMap<string, number>;
}
/** What became of scores. */
export interface Graded {
  column: string;
  /** Whom the service did not take a score for, and why. */
  refused: Map<string, string>;
}

/** What a service may need that has libraries of its own, so that it is given from outside of the core. */
export interface Means {
  /** Workbooks of Office Open XML with one sheet. */
  workbook: {
    write(rows: readonly Row[]): Promise<Uint8Array>;
    /** Its first sheet, as its cells are shown. @throws ReadError */
    read(bytes: Uint8Array): Row[];
  };
  /** Where a service finds a picture of the set: an address that nobody can guess. */
  pictureAddress(hash: string): string;
}

/** A service that sets can be delivered to. */
export interface Service extends ServiceRow {
  /** What is asked of the person at the service (OAuth 2.0, RFC 6749). */
  scope: string;
  profile: Profile;
  /** Name of the account that is connected. */
  me(call: Call): Promise<string>;
  /** Whether it is told where pictures are and fetches them, in place of taking them. */
  fetchesPictures?: boolean;
  /** What can be added to; absent where a push always makes something new. */
  containers?(call: Call): Promise<Container[]>;
  /** The set as the settings that are asked for every push make it. Pure. */
  withSettings?(set: QuizSet, settings: Settings): QuizSet;
  /** What takes long to compute, of the set as the settings made it. Pure: may run in a thread of its own. */
  prepare?(set: QuizSet, means: Means): Uint8Array | Promise<Uint8Array>;
  /** Brings the pieces there. @throws ServiceRefusal where nothing more can be done */
  push(call: Call, job: Job): Promise<void>;
  /** What the service keeps, as it gives it. */
  fetchBack(call: Call, container: string): Promise<Uint8Array>;
  /** Makes that answerable. @param pieces how the service calls our pieces → their keys */
  play(bytes: Uint8Array, pieces: ReadonlyMap<string, string>, means: Means): Play | Promise<Play>;
  /** Responses that came in behind a place that it gave before, or all. */
  pullResponses?(call: Call, container: string, pieces: readonly PlacedPiece[], after: string | null, means: Means): Promise<PulledPage>;
  /** Gradebooks that scores can be sent to. */
  gradebooks?(call: Call): Promise<Gradebook[]>;
  /** Puts scores into a column of a gradebook; a score that is there is replaced. */
  sendScores?(call: Call, gradebook: string, grades: Grades): Promise<Graded>;
}

/**
 * Brings pieces to a container that takes them one by one: what is not there is added, what has changed is changed, what is the same is
 * left; with `takeOut`, what is there and no longer wanted is taken out. A piece that is refused is told, and the others go on.
 */
export async function bringOneByOne(
  job: Job,
  how: {
    add(piece: Piece): Promise<Reply>;
    change(piece: Piece, remote: string): Promise<Reply>;
    takeOut(remote: string): Promise<Reply>;
    /** Whether something that is there is a piece, of all that was noted. */
    isPiece(key: string): boolean;
  },
): Promise<void> {
  for (const piece of job.pieces) {
    const before = job.there.get(piece.key);
    if (before?.print === piece.print) {
      await job.keep(piece.key, before, 'same');
      continue;
    }
    let reply = before ? await how.change(piece, before.remote) : await how.add(piece);
    // what was there has been taken out by hand
    const gone = before && (reply.status === 404 || reply.status === 410);
    if (gone) reply = await how.add(piece);
    if (reply.ok) await job.keep(piece.key, { remote: jsonOf<{ id: string }>(reply).id, print: piece.print }, before && !gone ? 'changed' : 'arrived');
    else await job.refused(piece.key, reasonOf(reply));
  }
  await takeOutRest(job, how.takeOut, how.isPiece);
}

/** The key of the one request that brings all pieces: a key of its own for where they go, as a push that broke off goes on into what it made. */
export const wholeKey = ({ key, container }: Job): string => (container === undefined ? key : `${key} ${encodeURIComponent(container)}`);

/** Where the job asks for it, takes out what is there and no longer wanted. */
export async function takeOutRest(job: Job, takeOut: (remote: string) => Promise<Reply>, isPiece: (key: string) => boolean = () => true): Promise<void> {
  if (!job.takeOut) return;
  const wanted = new Set(job.pieces.map((p) => p.key));
  for (const [key, sent] of job.there) {
    if (wanted.has(key) || !isPiece(key)) continue;
    const reply = await takeOut(sent.remote);
    if (reply.ok || reply.status === 404) await job.keep(key, sent, 'taken out');
    else await job.refused(key, reasonOf(reply));
  }
}

/** Reads page by page until nothing more comes. @param after where to begin, of an earlier `next` @returns all rows, and where to go on next time */
export async function allPages<T>(after: string | null, page: (after: string) => Promise<{ rows: T[]; next: string }>): Promise<{ rows: T[]; next: string }> {
  const out: T[] = [];
  let at = after ?? '';
  for (;;) {
    const { rows, next } = await page(at);
    for (const row of rows) out.push(row);
    if (!rows.length || next === at) return { rows: out, next };
    at = next;
  }
}
