import { Entity, Index, ManyToOne, OptionalProps, PrimaryKey, Property, type Rel, Unique } from '@mikro-orm/core';
import type { ImporterCorrection, Cue, Mapping } from '@zakuska/core';
import { Workspace } from '../accounts/entities.js';
import { SetRecord } from '../sets/entities.js';

/** Columns of tables as a person settled them, known again by the headings. */
@Entity({ tableName: 'column_mapping' })
@Unique({ properties: ['workspace', 'name'] })
export class ColumnMapping {
  [OptionalProps]?: 'createdAt';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @ManyToOne(() => Workspace) workspace!: Rel<Workspace>;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'text' }) signature!: string;
  @Property({ type: 'jsonb' }) mapping!: Mapping;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** A service's import template that sets of the workspace are filled into: a destination by its own name. */
@Entity({ tableName: 'import_template' })
@Unique({ properties: ['workspace', 'name'] })
export class ImportTemplate {
  [OptionalProps]?: 'createdAt' | 'correction';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @ManyToOne(() => Workspace) workspace!: Rel<Workspace>;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'text' }) fileName!: string;
  /** The file as the service gives it, base64. */
  @Property({ type: 'text' }) data!: string;
  /** What a person says of its columns, where that is not what was understood. */
  @Property({ type: 'jsonb', nullable: true }) correction: ImporterCorrection | null = null;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}

/** What a set's questions are made from and checked against. */
@Entity({ tableName: 'source' })
export class Source {
  [OptionalProps]?: 'createdAt' | 'address' | 'cues' | 'bytes';
  @PrimaryKey({ type: 'uuid' }) id!: string;
  @Index() @ManyToOne(() => SetRecord) set!: Rel<SetRecord>;
  @Property({ type: 'text' }) name!: string;
  @Property({ type: 'text' }) mediaType!: string;
  /** Where it was fetched from. */
  @Property({ type: 'text' }) address = '';
  @Property({ type: 'text' }) text!: string;
  /** The words of a transcript with their times. */
  @Property({ type: 'jsonb', nullable: true }) cues: Cue[] | null = null;
  /** The file itself, where its pages are looked at. */
  @Property({ type: 'blob', nullable: true, lazy: true }) bytes: Buffer | null = null;
  @Property({ type: 'timestamptz' }) createdAt: Date = new Date();
}
