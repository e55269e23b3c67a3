import { type Limits, type MemberRole, memberRoles } from '@zakuska/core';
import { Entity, Enum, Index, ManyToOne, OptionalProps, PrimaryKey, Property, type Rel, Unique } from '@mikro-orm/core';

@Entity({ tableName: 'account' })
export class Account {
  [OptionalProps]?: 'searchAddress' | 'createdAt' | 'confirmedAt' | 'secondFactor';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Unique() @Property({ type: 'text' }) email!: string;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'text', hidden: true }) passwordHash!: string;
  /** An address with {query} in it, where this person looks things up; empty for none. */
  @Property({ type: 'text' }) searchAddress = '';
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
  /** When a link that was sent to the address came back; none as long as nobody knows whose it is. */
  @Property({ type: 'timestamptz', nullable: true }) confirmedAt: Date | null = null;
  @Property({ type: 'jsonb', nullable: true, hidden: true }) secondFactor: SecondFactor | null = null;
}

/** Codes by time (TOTP, RFC 6238) that are asked for beside the password. */
export interface SecondFactor {
  /** The secret, encrypted. */
  sealed: string;
  /** Asked for since a first code was right. */
  on: boolean;
  /** The last time step that was used: a code is good once (RFC 6238, 5.2). */
  step: number;
  /** Hashes of the codes for the day that the device is lost; each is good once. */
  spare: string[];
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
  @Enum({ items: () => [...memberRoles], type: 'string' }) role!: MemberRole;
}

@Entity({ tableName: 'session' })
export class Session {
  [OptionalProps]?: 'createdAt' | 'seenAt';
  /** Hash of the token in the cookie. */
  @PrimaryKey({ type: 'text' }) id!: string;
  @ManyToOne(() => Account) account!: Rel<Account>;
  @Property({ type: 'text' }) csrf!: string;
  @Index() @Property({ type: 'timestamptz' }) expiresAt!: Date;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
  /** To a few minutes. */
  @Property({ type: 'timestamptz' }) seenAt: Date = new Date();
  /** What the browser says it is. */
  @Property({ type: 'text' }) agent!: string;
}

/** What a link that goes out by mail does. */
export const linkPurposes = ['sign-up', 'reset', 'address', 'invitation'] as const;
export type LinkPurpose = (typeof linkPurposes)[number];

/** A link that is good once: who follows it has the mail. */
@Entity({ tableName: 'account_link' })
export class AccountLink {
  [OptionalProps]?: 'createdAt' | 'usedAt';
  /** Hash of the token in the link. */
  @PrimaryKey({ type: 'text' }) id!: string;
  @Enum({ items: () => [...linkPurposes], type: 'string' }) purpose!: LinkPurpose;
  /** Whose it is, where there is an account. */
  @ManyToOne(() => Account, { nullable: true }) account: Rel<Account> | null = null;
  /** What an invitation leads to. */
  @ManyToOne(() => Workspace, { nullable: true }) workspace: Rel<Workspace> | null = null;
  /** Where it was sent. */
  @Property({ type: 'text' }) email!: string;
  @Property({ type: 'text', nullable: true }) role: MemberRole | null = null;
  @ManyToOne(() => Account, { nullable: true }) by: Rel<Account> | null = null;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
  @Property({ type: 'timestamptz' }) expiresAt!: Date;
  @Property({ type: 'timestamptz', nullable: true }) usedAt: Date | null = null;
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
