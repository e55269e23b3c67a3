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
  [OptionalProps]?: 'createdAt' | 'finishedAt' | 'done' | 'total' | 'step' | 'report' | 'state';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  @ManyToOne(() => Connection) connection!: Rel<Connection>;
  @Property({ type: 'text' }) state: 'waiting' | 'running' | 'done' | 'failed' = 'waiting';
  @Property({ type: 'text' }) step = 'Waiting for a free worker';
  @Property({ type: 'int' }) done = 0;
  @Property({ type: 'int' }) total = 4;
  @Property({ type: 'jsonb' }) report: PushReport = {};
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
  @Property({ type: 'timestamptz', nullable: true }) finishedAt: Date | null = null;
}
