import { Entity, Index, ManyToOne, OptionalProps, PrimaryKey, Property, type Rel } from '@mikro-orm/core';
import { Workspace } from '../accounts/entities.js';

/** A class: people who are given quizzes together. */
@Entity({ tableName: 'class_list' })
export class ClassList {
  [OptionalProps]?: 'createdAt';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => Workspace) workspace!: Rel<Workspace>;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** Somebody of a class. */
@Entity({ tableName: 'class_member' })
export class ClassMember {
  [OptionalProps]?: 'extra' | 'mail' | 'number';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => ClassList) list!: Rel<ClassList>;
  /** Their place on the list. */
  @Property({ type: 'int' }) place!: number;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'text' }) mail = '';
  /** What the school calls them. */
  @Property({ type: 'text' }) number = '';
  /** Time beyond that of the others, in per cent of a limit. */
  @Property({ type: 'double' }) extra = 0;
}
