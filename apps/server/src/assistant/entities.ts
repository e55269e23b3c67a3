import { Entity, ManyToOne, OptionalProps, PrimaryKey, PrimaryKeyProp, Property, type Rel } from '@mikro-orm/core';
import { type Allowance, costOf, usedOf, type MemberRole } from '@zakuska/core';
import { Account, Workspace } from '../accounts/entities.js';
import { settings } from '../platform/settings.js';
import { RequestRecord } from '../requests/entities.js';
import { SetRecord } from '../sets/entities.js';

/** The assistant that people of a workspace may ask, as its owner set it up. */
@Entity({ tableName: 'assistant' })
export class Assistant {
  [OptionalProps]?: 'persons';
  @ManyToOne(() => Workspace, { primary: true }) workspace!: Rel<Workspace>;
  /** What people call it. */
  @Property({ type: 'text' }) name!: string;
  /** How it is talked to; see `assistantInterfaces` of the core. */
  @Property({ type: 'text' }) interface!: string;
  /** Empty for that of the installation. */
  @Property({ type: 'text' }) address!: string;
  @Property({ type: 'text' }) model!: string;
  /** The secret, encrypted; empty where it needs none. */
  @Property({ type: 'text', hidden: true }) sealed!: string;
  /** Of a million tokens. */
  @Property({ type: 'double' }) priceIn!: number;
  @Property({ type: 'double' }) priceOut!: number;
  @Property({ type: 'text' }) currency!: string;
  /** Tokens that a reply may have. */
  @Property({ type: 'int' }) most!: number;
  /** Who may ask: this role and those above it. */
  @Property({ type: 'text' }) who!: MemberRole;
  @Property({ type: 'text' }) unit!: Allowance['unit'];
  /** What each person may use in a month. */
  @Property({ type: 'double' }) amount!: number;
  /** Persons who may use another amount, by their account; 0 for none. */
  @Property({ type: 'jsonb' }) persons: Record<string, number> = {};
  [PrimaryKeyProp]?: 'workspace';
}

/** What has become of what was asked: cut is a reply that had its most tokens, broken one whose line broke or that never came. */
export const askStates = ['running', 'done', 'cut', 'stopped', 'broken'] as const;
export type AskState = (typeof askStates)[number];

/** One request that was sent to an assistant, with all that went out and all that came back. */
@Entity({ tableName: 'ask' })
export class Ask {
  [OptionalProps]?: 'beat' | 'createdAt' | 'estimated' | 'finishedAt' | 'reply' | 'request' | 'said' | 'state' | 'stopping' | 'tries';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @ManyToOne(() => Workspace) workspace!: Rel<Workspace>;
  @ManyToOne(() => SetRecord, { nullable: true }) set: Rel<SetRecord> | null = null;
  @ManyToOne(() => Account, { nullable: true }) account: Rel<Account> | null = null;
  @ManyToOne(() => RequestRecord, { nullable: true }) request: Rel<RequestRecord> | null = null;
  /** Of the set, as it was called then. */
  @Property({ type: 'text' }) title!: string;
  /** The name of who asked. */
  @Property({ type: 'text' }) person!: string;
  @Property({ type: 'text' }) purpose!: string;
  @Property({ type: 'text' }) model!: string;
  @Property({ type: 'text' }) text!: string;
  @Property({ type: 'text' }) reply = '';
  @Property({ type: 'text' }) state: AskState = 'running';
  /** What there is to say of how it went. */
  @Property({ type: 'text' }) said = '';
  @Property({ type: 'int' }) tries = 0;
  /** While it runs, the most that it may use; then what it used. */
  @Property({ type: 'int' }) tokensIn!: number;
  @Property({ type: 'int' }) tokensOut!: number;
  /** The assistant did not say how many there were. */
  @Property({ type: 'boolean' }) estimated = true;
  /** Of a million tokens, when it was asked. */
  @Property({ type: 'double' }) priceIn!: number;
  @Property({ type: 'double' }) priceOut!: number;
  @Property({ type: 'text' }) currency!: string;
  @Property({ type: 'boolean' }) stopping = false;
  /** When who works on it was last alive. */
  @Property({ type: 'timestamptz' }) beat: Date = new Date();
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
  @Property({ type: 'timestamptz', nullable: true }) finishedAt: Date | null = null;
}

/** Where it is asked. */
export const addressOf = ({ address }: { address: string }): string => address || settings().assistantUrl;

type Counted = Pick<Ask, 'tokensIn' | 'tokensOut' | 'priceIn' | 'priceOut'>;
const tokensOf = (a: Counted): { in: number; out: number } => ({ in: a.tokensIn, out: a.tokensOut });
const pricesOf = (a: Counted): { in: number; out: number } => ({ in: a.priceIn, out: a.priceOut });
/** What was paid for it, or may have to be. */
export const costOfAsk = (a: Counted): number => costOf(tokensOf(a), pricesOf(a));
/** The same as an allowance counts it. */
export const usedOfAsk = (a: Counted, unit: Allowance['unit']): number => usedOf(tokensOf(a), pricesOf(a), unit);
