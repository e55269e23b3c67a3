/**
 * Scores as OneRoster 1.1 CSV, for gradebooks that take it: one line item, one result a person. Files, headings and values are those of
 * "OneRoster Specification 1.1, CSV Tables" (1EdTech), written from memory: manifest.csv, categories.csv, lineItems.csv, results.csv.
 */
import { maximumOf } from '../item/kinds.js';
import { stableId } from '../item/ids.js';
import { packArchive } from '../formats/archive.js';
import { csvText } from '../formats/table/csv.js';
import { utf8 } from '../formats/encoding.js';
import { finalItems } from '../mark/answerGroups.js';
import type { Results } from './results.js';

const FILES = [
  'academicSessions',
  'categories',
  'classes',
  'classResources',
  'courses',
  'courseResources',
  'demographics',
  'enrollments',
  'lineItems',
  'orgs',
  'resources',
  'results',
  'users',
] as const;
const GIVEN: ReadonlySet<string> = new Set(['categories', 'lineItems', 'results']);
/** No byte-order mark: the specification asks for UTF-8 without one. */
const csv = (rows: readonly (readonly string[])[]): Uint8Array => utf8(csvText(rows.map((r) => [...r])).replace(/^\uFEFF/, ''));
const date = (iso: string): string => iso.slice(0, 10);

/**
 * @param source what the scores are of, by which a second hand-over is known as the same line item
 * @param at now, ISO 8601
 * @returns a zip; people without a number of the school stand by their mail, or their name, for whoever maps them
 */
export function oneRosterZip({ set, sittings }: Results, source: string, at: string): Uint8Array {
  const lineItem = stableId(`line item ${source}`);
  const category = stableId('category quizzes');
  const items = finalItems(set.items, sittings);
  const waits = (marks: Results['sittings'][number]['marks']): boolean => Object.values(marks).some((m) => m.state === 'by-hand');
  const first = sittings.map((s) => s.startedAt).sort()[0] ?? at;
  const last =
    sittings
      .map((s) => s.submittedAt)
      .sort()
      .at(-1) ?? at;
  return packArchive({
    'manifest.csv': csv([
      ['propertyName', 'value'],
      ['manifest.version', '1.0'],
      ['oneroster.version', '1.1'],
      ...FILES.map((f) => [`file.${f}`, GIVEN.has(f) ? 'bulk' : 'absent']),
      ['source.systemName', 'Zakuska'],
      ['source.systemCode', 'zakuska'],
    ]),
    'categories.csv': csv([
      ['sourcedId', 'status', 'dateLastModified', 'title'],
      [category, 'active', at, 'Quizzes'],
    ]),
    'lineItems.csv': csv([
      [
        'sourcedId',
        'status',
        'dateLastModified',
        'title',
        'description',
        'assignDate',
        'dueDate',
        'classSourcedId',
        'categorySourcedId',
        'gradingPeriodSourcedId',
        'resultValueMin',
        'resultValueMax',
      ],
      [lineItem, 'active', at, set.title, '', date(first), date(last), '', category, '', '0', String(maximumOf(items))],
    ]),
    'results.csv': csv([
      ['sourcedId', 'status', 'dateLastModified', 'lineItemSourcedId', 'studentSourcedId', 'scoreStatus', 'score', 'scoreDate', 'comment'],
      ...sittings.map((s) => [
        stableId(`result ${source} ${s.id}`),
        'active',
        at,
        lineItem,
        s.number || s.mail || s.name,
        waits(s.marks) ? 'partially graded' : 'fully graded',
        String(s.points),
        date(s.submittedAt),
        '',
      ]),
    ]),
  });
}
