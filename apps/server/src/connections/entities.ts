import { Entity, Index, ManyToOne, OptionalProps, PrimaryKey, PrimaryKeyProp, Property, type Rel, Unique } from '@mikro-orm/core';
import type { Became, Item, Mark, OutsideRules, QuizSet, Response, Settings } from '@zakuska/core';
import { Workspace } from '../accounts/entities.js';
import { SetRecord } from '../sets/entities.js';

/** An account at an outside service that a workspace may push to. */
@Entity({ tableName: 'connection' })
@Unique({ properties: ['workspace', 'service'] })
export class Connection {
  [OptionalProps]?: 'createdAt';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @ManyToOne(() => Workspace) workspace!: Rel<Workspace>;
  @Property({ type: 'text' }) service!: string;
  /** Who is connected, as the service names them. */
  @Property({ type: 'text' }) accountName!: string;
  /** Tokens, encrypted. */
  @Property({ type: 'text', hidden: true }) sealed!: string;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** An authorization that is under way (RFC 6749, PKCE of RFC 7636). */
@Entity({ tableName: 'authorization' })
export class Authorization {
  [OptionalProps]?: 'createdAt';
  @PrimaryKey({ type: 'text' }) state!: string;
  @ManyToOne(() => Workspace) workspace!: Rel<Workspace>;
  @Property({ type: 'text' }) service!: string;
  @Property({ type: 'text' }) verifier!: string;
  @Property({ type: 'uuid' }) accountId!: string;
  /** Path to go back to. */
  @Property({ type: 'text' }) back!: string;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** What became of one item of a push. */
export interface PushedItem {
  key: string;
  item: string;
  name: string;
  status: 'waiting' | Became | 'refused';
  message?: string;
}
export interface PushReport {
  link?: string;
  title?: string;
  /** Further addresses at the service, by what they are for. */
  links?: Record<string, string>;
  items?: PushedItem[];
  adapted?: { item: string; fit: string; message: string }[];
  problem?: string;
}
/** Where a push goes and how, as the person chose. */
export interface PushAim {
  /** None: something new. */
  container?: string;
  part?: string;
  title: string;
  settings: Settings;
  takeOut: boolean;
  /** Name of the version of the set; absent for the whole set. */
  version?: string;
  /** As `goingSet` of the core takes it; absent for the language of the set. */
  language?: string;
}

/** A set in a container of a service: what stands there from it, over all pushes. */
@Entity({ tableName: 'placement' })
@Unique({ properties: ['set', 'service', 'container'] })
export class Placement {
  [OptionalProps]?: 'connection' | 'createdAt' | 'cursor' | 'judging' | 'language' | 'links' | 'pulledAt' | 'rules' | 'settings' | 'version';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  /** Null once the service was disconnected. */
  @ManyToOne(() => Connection, { nullable: true, deleteRule: 'set null' }) connection: Rel<Connection> | null = null;
  @Property({ type: 'text' }) service!: string;
  /** As the service calls it. */
  @Property({ type: 'text' }) container!: string;
  @Property({ type: 'text' }) title!: string;
  @Property({ type: 'text' }) link!: string;
  @Property({ type: 'jsonb' }) links: Record<string, string> = {};
  /** Name of the version of the set that was pushed to it last; '' for the whole set. */
  @Property({ type: 'text' }) version = '';
  /** The language of it that was pushed last, as `goingSet` of the core takes it; '' for the language of the set. */
  @Property({ type: 'text' }) language = '';
  /** How the last push to it was set. */
  @Property({ type: 'jsonb' }) settings: Settings = {};
  /** What is made of the answers that come back. */
  @Property({ type: 'jsonb' }) rules: OutsideRules = {};
  /** How many decisions over all answers were taken; see `Marking`. */
  @Property({ type: 'int' }) judging = 0;
  /** How far responses have been fetched, as the service says it. */
  @Property({ type: 'text', nullable: true }) cursor: string | null = null;
  @Property({ type: 'timestamptz', nullable: true }) pulledAt: Date | null = null;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** An item, or something else of a set (a section, a picture), that stands in a container. Noted down as soon as the service has it. */
@Entity({ tableName: 'placed_piece' })
export class PlacedPiece {
  [OptionalProps]?: 'content' | 'item';
  @ManyToOne(() => Placement, { primary: true }) placement!: Rel<Placement>;
  @PrimaryKey({ type: 'text' }) key!: string;
  /** Id of the item of the set; null for what is none. */
  @Property({ type: 'text', nullable: true }) item: string | null = null;
  @Property({ type: 'text' }) remote!: string;
  @Property({ type: 'text' }) print!: string;
  /** The item as it was sent: what responses are marked by. */
  @Property({ type: 'jsonb', nullable: true }) content: Item | null = null;
  /** The push that brought it there last, and what that did. */
  @Property({ type: 'uuid' }) push!: string;
  @Property({ type: 'text' }) became!: Became;
  [PrimaryKeyProp]?: ['placement', 'key'];
}

/** A picture of a set that went to a service as an address: kept as it was then, and found by nobody who was not given the address. */
@Entity({ tableName: 'sent_picture' })
export class SentPicture {
  @ManyToOne(() => SetRecord, { primary: true }) set!: Rel<SetRecord>;
  /** SHA-256 of its bytes. */
  @PrimaryKey({ type: 'text' }) hash!: string;
  @Property({ type: 'text' }) mediaType!: string;
  @Property({ type: 'blob' }) bytes!: Buffer;
  [PrimaryKeyProp]?: ['set', 'hash'];
}

/** A response that was fetched from a service, marked here. */
@Entity({ tableName: 'pulled_response' })
export class PulledResponse {
  [OptionalProps]?: 'judging';
  @ManyToOne(() => Placement, { primary: true }) placement!: Rel<Placement>;
  /** Of the service: each comes once. */
  @PrimaryKey({ type: 'text' }) remote!: string;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'text', nullable: true }) mail: string | null = null;
  @Property({ type: 'timestamptz' }) at!: Date;
  @Property({ type: 'jsonb' }) responses!: Record<string, Response>;
  @Property({ type: 'jsonb' }) marks!: Record<string, Mark>;
  @Property({ type: 'double' }) points!: number;
  /** The number of the placement when it was marked. */
  @Property({ type: 'int' }) judging = 0;
  /** Points that the service gave, by item; null where a person marks there. */
  @Property({ type: 'jsonb' }) theirs!: Record<string, number | null>;
  [PrimaryKeyProp]?: ['placement', 'remote'];
}

/** A column of a gradebook at a service, with the scores that were sent to it. */
@Entity({ tableName: 'grade_column' })
@Unique({ properties: ['source', 'service', 'gradebook'] })
export class GradeColumn {
  [OptionalProps]?: 'createdAt' | 'remote' | 'sent' | 'sentAt';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  /** Where the responses are from: a delivery or a placement. */
  @Property({ type: 'uuid' }) source!: string;
  @Property({ type: 'text' }) service!: string;
  @Property({ type: 'text' }) gradebook!: string;
  @Property({ type: 'text' }) gradebookTitle!: string;
  @Property({ type: 'text' }) link!: string;
  /** As the service calls the column; null until it has made it. */
  @Property({ type: 'text', nullable: true }) remote: string | null = null;
  @Property({ type: 'text' }) title!: string;
  @Property({ type: 'double' }) maximum!: number;
  /** By person. */
  @Property({ type: 'jsonb' }) sent: Record<string, number> = {};
  @Property({ type: 'timestamptz', nullable: true }) sentAt: Date | null = null;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** One sending of a set to a connected service, with its receipt. */
@Entity({ tableName: 'push' })
export class Push {
  [OptionalProps]?:
    | 'beat'
    | 'connection'
    | 'createdAt'
    | 'finishedAt'
    | 'done'
    | 'nextAt'
    | 'placement'
    | 'total'
    | 'tries'
    | 'step'
    | 'stopping'
    | 'report'
    | 'snapshot'
    | 'state'
    | 'worker';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  /** Null once the service was disconnected; the receipt stays. */
  @ManyToOne(() => Connection, { nullable: true, deleteRule: 'set null' }) connection: Rel<Connection> | null = null;
  @Property({ type: 'text' }) service!: string;
  @Property({ type: 'jsonb' }) aim!: PushAim;
  /** What goes: the items chosen, as they were when it began. Null for receipts that are older than this column. */
  @Property({ type: 'jsonb', lazy: true, nullable: true }) snapshot: QuizSet | null = null;
  /** Known as soon as the service has named the container. */
  @ManyToOne(() => Placement, { nullable: true, deleteRule: 'set null' }) placement: Rel<Placement> | null = null;
  @Property({ type: 'text' }) state: 'waiting' | 'running' | 'done' | 'failed' | 'stopped' = 'waiting';
  @Property({ type: 'text' }) step = 'Waiting for a free worker';
  @Property({ type: 'int' }) done = 0;
  @Property({ type: 'int' }) total = 1;
  @Property({ type: 'jsonb' }) report: PushReport = {};
  /** A person wants it to stop. */
  @Property({ type: 'boolean' }) stopping = false;
  /** How often it was begun since something last arrived. */
  @Property({ type: 'int' }) tries = 0;
  /** Which process works on it, and when that last said so. */
  @Property({ type: 'text', nullable: true }) worker: string | null = null;
  @Property({ type: 'timestamptz', nullable: true }) beat: Date | null = null;
  /** Not to be tried before. */
  @Property({ type: 'timestamptz', nullable: true }) nextAt: Date | null = null;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
  @Property({ type: 'timestamptz', nullable: true }) finishedAt: Date | null = null;
}
