/**
 * Fills a service's import template: what such a template can hold, the rows that are written, and how they are read back to be
 * rehearsed. Everything about it is known from the template itself (importer.ts).
 */
import { fitSet } from '../../fit/fit.js';
import type { Profile } from '../../fit/profile.js';
import type { QuizSet } from '../../item/model.js';
import { utf8 } from '../encoding.js';
import { filledCsv as filledText } from './csv.js';
import { readTemplateRows } from './fillBack.js';
import { profileOfTemplate } from './fillProfile.js';
import { rowsOfTemplate } from './fillRows.js';
import { waysOf } from './fillWays.js';
import type { Row } from './grid.js';
import type { ImporterSheet } from './importer.js';

/** A template that can be filled. */
export interface Filling {
  /** What it can hold: fit makes items so. */
  profile: Profile;
  /** The rows of items that were made so, to stand from `firstDataRow` on in place of examples. */
  rowsOf(fitted: QuizSet): Row[];
  /** Such rows read back, by the columns alone, as items that the template can hold. */
  readBack(rows: readonly Row[], language?: string): QuizSet;
}

/** How a template is filled. */
export function fillingOf(template: ImporterSheet): Filling {
  const ways = waysOf(template);
  const profile = profileOfTemplate(ways);
  return {
    profile,
    rowsOf: (fitted) => rowsOfTemplate(ways, fitted),
    // two options “true” and “false” are read as a statement, a number as a number: here they are what the template holds
    readBack: (rows, language) => fitSet(readTemplateRows(ways, rows, language), profile).set,
  };
}

/** A text template with rows in place of its examples. @param text of the file, as it was decoded */
export const filledCsv = (text: string, { importer }: ImporterSheet, rows: readonly Row[]): Uint8Array =>
  utf8(filledText(text, importer.firstDataRow - 1, rows));
