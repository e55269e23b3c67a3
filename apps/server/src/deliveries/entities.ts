import { Entity, Index, ManyToOne, OptionalProps, PrimaryKey, Property, type Rel, Unique } from '@mikro-orm/core';
import type { Mark, QuizSet, Response } from '@zakuska/core';
import { SetRecord } from '../sets/entities.js';

export const shows = ['nothing', 'score', 'answers'] as const;
/** What a learner sees after submitting: nothing, the score, or the score with each answer's mark and feedback. */
export type Shows = (typeof shows)[number];

/** A quiz by link and entry code: the set as it was when it was published. */
@Entity({ tableName: 'delivery' })
export class Delivery {
  [OptionalProps]?: 'attempts' | 'createdAt' | 'language' | 'open' | 'responses' | 'version';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  @Unique() @Property({ type: 'text' }) code!: string;
  @Property({ type: 'text' }) title!: string;
  /** Name of the version of the set; '' for the whole set. */
  @Property({ type: 'text' }) version = '';
  /** As `goingSet` of the core takes it; '' for the language of the set. */
  @Property({ type: 'text' }) language = '';
  @Property({ type: 'jsonb', lazy: true }) snapshot!: QuizSet;
  @Property({ type: 'text' }) shows!: Shows;
  /** How often a person may begin it anew after handing in; 0 for any number, null for what goes with what is shown. */
  @Property({ type: 'int', nullable: true }) attempts: number | null = null;
  @Property({ type: 'boolean' }) open = true;
  /** How many have handed in, up to date within seconds. */
  @Property({ type: 'int' }) responses = 0;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** Attempts per person where nothing is said: one where more than the score is shown, for then the second would know the keys. */
export const attemptsOf = (d: Pick<Delivery, 'attempts' | 'shows'>): number => d.attempts ?? (d.shows === 'answers' ? 1 : 0);
export const personOf = (name: string): string => name.trim().replace(/\s+/g, ' ').toLowerCase();

/** The same of somebody who comes from a course: by the platform and what it calls them, so no name can be taken for it. */
export const coursePerson = (platform: string, person: string): string => `\u0001course ${platform} ${person}`;

/** One learner's go at a delivery. */
@Entity({ tableName: 'attempt' })
export class Attempt {
  [OptionalProps]?: 'device' | 'launchId' | 'startedAt' | 'submittedAt' | 'marks' | 'points';
  /** Made by the learner's browser, so that sending again is known as the same. */
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => Delivery) delivery!: Rel<Delivery>;
  /** Hash of the token that only the learner's browser has. */
  @Property({ type: 'text' }) tokenHash!: string;
  @Property({ type: 'text' }) name!: string;
  /** The name as persons are told apart by: small letters, one blank between words. */
  @Property({ type: 'text' }) person!: string;
  /** Hash of what the browser calls itself; '' where it says nothing. */
  @Property({ type: 'text' }) device = '';
  /** Where all orders of the attempt come from. It never leaves the server: who has it can tell keys from orders. */
  @Property({ type: 'text', hidden: true }) seed!: string;
  @Property({ type: 'jsonb' }) responses!: Record<string, Response>;
  @Property({ type: 'jsonb', nullable: true }) marks: Record<string, Mark> | null = null;
  @Property({ type: 'double', nullable: true }) points: number | null = null;
  /** The launch from a course with which it was begun last. */
  @Property({ type: 'uuid', nullable: true }) launchId: string | null = null;
  @Property({ type: 'timestamptz' }) startedAt: Date = new Date();
  @Property({ type: 'timestamptz', nullable: true }) submittedAt: Date | null = null;
}
