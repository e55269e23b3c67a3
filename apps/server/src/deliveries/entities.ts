import { Entity, Index, ManyToOne, OptionalProps, PrimaryKey, Property, type Rel, Unique } from '@mikro-orm/core';
import type { Mark, MoreTime, ItemTries, QuizRules, QuizSet, Response } from '@zakuska/core';
import { ClassList } from '../classes/entities.js';
import { SetRecord } from '../sets/entities.js';

/** A quiz by link and entry code: the set as it was when it was published. */
@Entity({ tableName: 'delivery' })
export class Delivery {
  [OptionalProps]?: 'classList' | 'closedAt' | 'pausedAt' | 'createdAt' | 'judging' | 'language' | 'open' | 'released' | 'responses' | 'together' | 'version';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  @Unique() @Property({ type: 'text' }) code!: string;
  @Property({ type: 'text' }) title!: string;
  /** Name of the version of the set; '' for the whole set. */
  @Property({ type: 'text' }) version = '';
  /** The same of versions that were published at once, of which each learner gets one; null for one by itself. */
  @Property({ type: 'uuid', nullable: true }) together: string | null = null;
  /** As `goingSet` of the core takes it; '' for the language of the set. */
  @Property({ type: 'text' }) language = '';
  @Property({ type: 'jsonb', lazy: true }) snapshot!: QuizSet;
  @Property({ type: 'jsonb' }) rules!: QuizRules;
  @Property({ type: 'boolean' }) open = true;
  /** When it was closed by hand; null while it is open. */
  @Property({ type: 'timestamptz', nullable: true }) closedAt: Date | null = null;
  /** Since when it is paused: its time stands still meanwhile. */
  @Property({ type: 'timestamptz', nullable: true }) pausedAt: Date | null = null;
  /** Whether what is shown "when released" is. */
  @Property({ type: 'boolean' }) released = false;
  /** The class that may come in, by their names or by codes of their own. */
  @ManyToOne(() => ClassList, { nullable: true, fieldName: 'class_list_id' }) classList: Rel<ClassList> | null = null;
  /** How many have handed in, up to date within seconds. */
  @Property({ type: 'int' }) responses = 0;
  /** How many decisions over all answers were taken; see `Marking`. */
  @Property({ type: 'int' }) judging = 0;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

export const personOf = (name: string): string => name.trim().replace(/\s+/g, ' ').toLowerCase();

/** The same of somebody who comes from a course: by the platform and what it calls them, so no name can be taken for it. */
export const coursePerson = (platform: string, person: string): string => `\u0001course ${platform} ${person}`;

/** The same of somebody on a class list. */
export const listedPerson = (member: string): string => `\u0001class ${member}`;

/** One learner's go at a delivery. */
@Entity({ tableName: 'attempt' })
export class Attempt {
  [OptionalProps]?:
    | 'byClock'
    | 'device'
    | 'givenAt'
    | 'judging'
    | 'late'
    | 'launchId'
    | 'marks'
    | 'memberId'
    | 'more'
    | 'place'
    | 'placeAt'
    | 'points'
    | 'progress'
    | 'seenAt'
    | 'startedAt'
    | 'submittedAt'
    | 'times';
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
  /** The number of the delivery when it was marked. */
  @Property({ type: 'int' }) judging = 0;
  /** What was tried of each item, where it is practice. */
  @Property({ type: 'jsonb' }) progress: Record<string, ItemTries> = {};
  /** Time beyond that of the others. */
  @Property({ type: 'jsonb' }) more: MoreTime = {};
  /** The furthest item that was reached. */
  @Property({ type: 'int' }) place = 0;
  /** Since when they are there; null from the beginning. */
  @Property({ type: 'timestamptz', nullable: true }) placeAt: Date | null = null;
  /** When their browser was heard of last. */
  @Property({ type: 'timestamptz', nullable: true }) seenAt: Date | null = null;
  /** Handed in after the end with answers that were given before it. */
  @Property({ type: 'boolean' }) late = false;
  /** Handed in by the clock, with what had arrived. */
  @Property({ type: 'boolean' }) byClock = false;
  @Property({ type: 'uuid', nullable: true }) memberId: string | null = null;
  /** The launch from a course with which it was begun last. */
  @Property({ type: 'uuid', nullable: true }) launchId: string | null = null;
  @Property({ type: 'timestamptz' }) startedAt: Date = new Date();
  @Property({ type: 'timestamptz', nullable: true }) submittedAt: Date | null = null;
  /** When the last answer was given: before it arrived, where there was no line. Null of what was handed in before that was kept. */
  @Property({ type: 'timestamptz', nullable: true }) givenAt: Date | null = null;
  /** Seconds that they looked at items, by their ids, as their browser says. */
  @Property({ type: 'jsonb' }) times: Record<string, number> = {};
}
