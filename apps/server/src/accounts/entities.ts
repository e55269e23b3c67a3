import type { Limits } from '@zakuska/core';
import { Entity, Enum, Index, ManyToOne, OptionalProps, PrimaryKey, Property, type Rel, Unique } from '@mikro-orm/core';

export const roles = ['reader', 'editor', 'owner'] as const;
export type Role = (typeof roles)[number];
/** Whether a role may do what another role is needed for. */
export const mayAs = (has: Role, needs: Role): boolean => roles.indexOf(has) >= roles.indexOf(needs);

@Entity({ tableName: 'account' })
export class Account {
  [OptionalProps]?: 'searchAddress';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Unique() @Property({ type: 'text' }) email!: string;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'text', hidden: true }) passwordHash!: string;
  /** An address with {query} in it, where this person looks things up; empty for none. */
  @Property({ type: 'text' }) searchAddress = '';
}

@Entity({ tableName: 'workspace' })
export class Workspace {
  [OptionalProps]?: 'checks';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Property({ type: 'text' }) name!: string;
  /** How its sets are checked, where it differs from the usual. */
  @Property({ type: 'jsonb' }) checks: { limits?: Partial<Limits>; off?: string[] } = {};
}

@Entity({ tableName: 'membership' })
export class Membership {
  @ManyToOne(() => Account, { primary: true }) account!: Rel<Account>;
  @ManyToOne(() => Workspace, { primary: true }) workspace!: Rel<Workspace>;
  @Enum({ items: () => [...roles], type: 'string' }) role!: Role;
}

@Entity({ tableName: 'session' })
export class Session {
  /** Hash of the token in the cookie. */
  @PrimaryKey({ type: 'text' }) id!: string;
  @ManyToOne(() => Account) account!: Rel<Account>;
  @Property({ type: 'text' }) csrf!: string;
  @Index() @Property({ type: 'timestamptz' }) expiresAt!: Date;
}

/** How often something that is limited was tried: a sign-in, an entry code. */
@Entity({ tableName: 'limit_count' })
export class LimitCount {
  @PrimaryKey({ type: 'text' }) key!: string;
  @Property({ type: 'int' }) n!: number;
  /** The last try that counted. */
  @Index() @Property({ type: 'timestamptz' }) at!: Date;
  /** No try before this. */
  @Property({ type: 'timestamptz', nullable: true }) until: Date | null = null;
}
