import { Entity, Index, ManyToOne, OptionalProps, PrimaryKey, PrimaryKeyProp, Property, type Rel, Unique } from '@mikro-orm/core';
import type { JWK } from 'jose';
import { Workspace } from '../accounts/entities.js';
import { Delivery } from '../deliveries/entities.js';
import type { DeepLink, ScoresAt } from './messages.js';

/** The key pair with which this server signs as a tool. */
@Entity({ tableName: 'lti_key' })
export class LtiKey {
  [OptionalProps]?: 'createdAt';
  /** `kid` of its JWK. */
  @PrimaryKey({ type: 'text' }) id!: string;
  /** PKCS #8, encrypted. */
  @Property({ type: 'text', hidden: true }) privateSealed!: string;
  @Property({ type: 'jsonb' }) public!: JWK;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** A learning platform in whose courses the quizzes of a workspace can be opened. */
@Entity({ tableName: 'lti_platform' })
@Unique({ properties: ['issuer', 'clientId'] })
export class LtiPlatform {
  [OptionalProps]?: 'createdAt';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => Workspace) workspace!: Rel<Workspace>;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'text' }) issuer!: string;
  @Property({ type: 'text' }) clientId!: string;
  @Property({ type: 'text' }) authUrl!: string;
  @Property({ type: 'text' }) tokenUrl!: string;
  @Property({ type: 'text' }) jwksUrl!: string;
  /** The deployments that are known; a launch from another is refused. */
  @Property({ type: 'jsonb' }) deployments!: string[];
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** A launch that was begun: its message has to come back with the same state, to the same browser, once. */
@Entity({ tableName: 'lti_login' })
export class LtiLogin {
  [OptionalProps]?: 'createdAt';
  @PrimaryKey({ type: 'text' }) state!: string;
  @Property({ type: 'text' }) nonce!: string;
  /** Hash of what its cookie holds. */
  @Property({ type: 'text' }) browser!: string;
  @ManyToOne(() => LtiPlatform) platform!: Rel<LtiPlatform>;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** The quiz that a link opens which was made without choosing one. */
@Entity({ tableName: 'lti_link' })
export class LtiLink {
  @ManyToOne(() => LtiPlatform, { primary: true }) platform!: Rel<LtiPlatform>;
  @PrimaryKey({ type: 'text' }) deployment!: string;
  @PrimaryKey({ type: 'text' }) resourceLink!: string;
  @ManyToOne(() => Delivery) delivery!: Rel<Delivery>;
  [PrimaryKeyProp]?: ['platform', 'deployment', 'resourceLink'];
}

/** Somebody who came from a course, and for what. */
@Entity({ tableName: 'lti_launch' })
export class LtiLaunch {
  [OptionalProps]?: 'createdAt' | 'tokenHash';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @ManyToOne(() => LtiPlatform) platform!: Rel<LtiPlatform>;
  @Property({ type: 'text' }) deployment!: string;
  /** `sub`: the person as the platform knows them. */
  @Property({ type: 'text' }) person!: string;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'text', nullable: true }) mail: string | null = null;
  @Property({ type: 'boolean' }) teaches!: boolean;
  @Property({ type: 'text', nullable: true }) resourceLink: string | null = null;
  @Property({ type: 'text' }) title!: string;
  @Property({ type: 'text' }) course!: string;
  /** Null while nothing is chosen. */
  @ManyToOne(() => Delivery, { nullable: true, index: true }) delivery: Rel<Delivery> | null = null;
  @Property({ type: 'jsonb', nullable: true }) scores: ScoresAt | null = null;
  @Property({ type: 'text', nullable: true }) membersUrl: string | null = null;
  @Property({ type: 'jsonb', nullable: true }) deepLink: DeepLink | null = null;
  /** Hash of the token with which the learner's browser begins. */
  @Unique() @Property({ type: 'text', nullable: true }) tokenHash: string | null = null;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}
