import { Entity, Index, ManyToOne, OptionalProps, PrimaryKey, Property, type Rel, Unique } from '@mikro-orm/core';
import type { Wish } from '@zakuska/core';
import { Account, Workspace } from '../accounts/entities.js';
import { SetRecord } from '../sets/entities.js';

/** What requests are for. */
export const purposes = ['draft', 'rework', 'opinion'] as const;
/** What a request is for. */
export type Purpose = (typeof purposes)[number];

/** A request to an assistant as it went out, kept with the set, and the reply where one came. */
@Entity({ tableName: 'request' })
export class RequestRecord {
  [OptionalProps]?: 'createdAt' | 'wish' | 'aim' | 'detail' | 'items' | 'reply' | 'by';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  @Property({ type: 'text' }) purpose!: Purpose;
  @Property({ type: 'text' }) text!: string;
  /** What was wished for, where it asks for a draft. */
  @Property({ type: 'jsonb', nullable: true }) wish: Wish | null = null;
  /** How items are to be reworked, and what was said to it. */
  @Property({ type: 'text', nullable: true }) aim: string | null = null;
  @Property({ type: 'text' }) detail = '';
  /** The items that it is about, in its order. */
  @Property({ type: 'text[]' }) items: string[] = [];
  @Property({ type: 'text', nullable: true }) reply: string | null = null;
  @ManyToOne(() => Account, { nullable: true }) by: Rel<Account> | null = null;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** A wish under a name, for all sets of a workspace. */
@Entity({ tableName: 'kept_wish' })
@Unique({ properties: ['workspace', 'name'] })
export class KeptWish {
  [OptionalProps]?: 'createdAt';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @ManyToOne(() => Workspace) workspace!: Rel<Workspace>;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'jsonb' }) wish!: Wish;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}
