import { Entity, Index, ManyToOne, OptionalProps, PrimaryKey, Property, type Rel, Unique } from '@mikro-orm/core';
import type { Mark, QuizSet, Response } from '@zakuska/core';
import { SetRecord } from '../sets/entities.js';

export const shows = ['nothing', 'score', 'answers'] as const;
/** What a learner sees after submitting: nothing, the score, or the score with each answer's mark and feedback. */
export type Shows = (typeof shows)[number];

/** A quiz by link and entry code: the set as it was when it was published. */
@Entity({ tableName: 'delivery' })
export class Delivery {
  [OptionalProps]?: 'createdAt' | 'open';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  @Unique() @Property({ type: 'text' }) code!: string;
  @Property({ type: 'text' }) title!: string;
  @Property({ type: 'jsonb' }) snapshot!: QuizSet;
  @Property({ type: 'text' }) shows!: Shows;
  @Property({ type: 'boolean' }) open = true;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** One learner's go at a delivery. */
@Entity({ tableName: 'attempt' })
export class Attempt {
  [OptionalProps]?: 'startedAt' | 'submittedAt' | 'marks' | 'points';
  /** Made by the learner's browser, so that sending again is known as the same. */
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => Delivery) delivery!: Rel<Delivery>;
  /** Hash of the token that only the learner's browser has. */
  @Property({ type: 'text' }) tokenHash!: string;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'jsonb' }) responses!: Record<string, Response>;
  @Property({ type: 'jsonb', nullable: true }) marks: Record<string, Mark> | null = null;
  @Property({ type: 'double', nullable: true }) points: number | null = null;
  @Property({ type: 'timestamptz' }) startedAt: Date = new Date();
  @Property({ type: 'timestamptz', nullable: true }) submittedAt: Date | null = null;
}
