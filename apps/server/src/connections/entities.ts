import { Entity, Index, ManyToOne, OptionalProps, PrimaryKey, Property, type Rel, Unique } from '@mikro-orm/core';
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

export interface PushReport {
  link?: string;
  title?: string;
  items?: { title: string; status: 'arrived' | 'refused'; message?: string }[];
  adapted?: { item: string; fit: string; message: string }[];
  problem?: string;
}

/** One sending of a set to a connected service, with its receipt. */
@Entity({ tableName: 'push' })
export class Push {
  [OptionalProps]?: 'beat' | 'connection' | 'createdAt' | 'finishedAt' | 'done' | 'nextAt' | 'total' | 'tries' | 'step' | 'report' | 'state' | 'worker';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  /** Null once the service was disconnected; the receipt stays. */
  @ManyToOne(() => Connection, { nullable: true, deleteRule: 'set null' }) connection: Rel<Connection> | null = null;
  @Property({ type: 'text' }) service!: string;
  @Property({ type: 'text' }) state: 'waiting' | 'running' | 'done' | 'failed' = 'waiting';
  @Property({ type: 'text' }) step = 'Waiting for a free worker';
  @Property({ type: 'int' }) done = 0;
  @Property({ type: 'int' }) total = 4;
  @Property({ type: 'jsonb' }) report: PushReport = {};
  /** How often it was begun. */
  @Property({ type: 'int' }) tries = 0;
  /** Which process works on it, and when that last said so. */
  @Property({ type: 'text', nullable: true }) worker: string | null = null;
  @Property({ type: 'timestamptz', nullable: true }) beat: Date | null = null;
  /** Not to be tried before. */
  @Property({ type: 'timestamptz', nullable: true }) nextAt: Date | null = null;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
  @Property({ type: 'timestamptz', nullable: true }) finishedAt: Date | null = null;
}
