import { Entity, Index, ManyToOne, OptionalProps, PrimaryKey, Property, type Rel, Unique } from '@mikro-orm/core';
import type { Operation } from '@zakuska/core';
import { Account, Workspace } from '../accounts/entities.js';

export interface DraftState {
  text: string;
  /** What a person said a line is, with the line's number when it was saved. */
  overrides: { line: number; role: string }[];
  /** The look of options that says the key, once a person decided. */
  keysFrom?: string;
}

/** A set with its draft. Its items are rows of `set_item`, read and written by `Documents`. */
@Entity({ tableName: 'quiz_set' })
export class SetRecord {
  [OptionalProps]?: 'deletedAt' | 'version' | 'draftVersion' | 'createdAt' | 'updatedAt';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @ManyToOne(() => Workspace) workspace!: Rel<Workspace>;
  @Property({ type: 'text' }) title!: string;
  @Property({ type: 'jsonb', lazy: true }) draft!: DraftState;
  /** One more with every operation. */
  @Property({ type: 'int' }) version = 0;
  @Property({ type: 'int' }) draftVersion = 0;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
  @Property({ type: 'timestamptz' }) updatedAt: Date = new Date();
  /** When it was put into the bin. */
  @Property({ type: 'timestamptz', nullable: true }) deletedAt: Date | null = null;
}

/** By what name somebody is called who may have left. */
export const nameOf = (account: Pick<Account, 'name'> | null): string => account?.name ?? 'an account that is gone';

/** One operation of a set's history. */
@Entity({ tableName: 'set_operation' })
@Unique({ properties: ['set', 'version'] })
export class OperationRecord {
  /** Made by the client, so that sending again is known as the same. */
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  /** The version that the set had after it. */
  @Property({ type: 'int' }) version!: number;
  @ManyToOne(() => Account, { nullable: true }) account!: Rel<Account> | null;
  @Property({ type: 'jsonb' }) operation!: Operation;
  @Property({ type: 'jsonb' }) inverse!: Operation;
  @Property({ type: 'timestamptz' }) at: Date = new Date();
}

/** A version of a set that somebody gave a name. */
@Entity({ tableName: 'set_point' })
export class SetPoint {
  [OptionalProps]?: 'at';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  @Property({ type: 'int' }) version!: number;
  @Property({ type: 'text' }) name!: string;
  @ManyToOne(() => Account, { nullable: true }) account!: Rel<Account> | null;
  @Property({ type: 'timestamptz' }) at: Date = new Date();
}
