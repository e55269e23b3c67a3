/** Sanitises the rich-text fields of items and operations; fields of plain text (accepted answers, tags, units) stay as they are. */
import { sanitiseRich } from './richText.js';

const RICH = new Set([
  'stem',
  'content',
  'feedback',
  'optionFeedback',
  'hints',
  'left',
  'right',
  'extraRights',
  'sequence',
  'modelAnswer',
  'rubric',
  'instructions',
  'passage',
  'description',
]);

const UNSTORABLE = /\u0000|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
/** Text that databases and XML can hold: NUL and halves of surrogate pairs become U+FFFD. Keeps its length. */
export const storable = (text: string): string => text.replace(UNSTORABLE, '\ufffd');

/** A copy of a value in which every string under a rich-text field is sanitised. */
export function sanitiseFields<T>(value: T, rich = false): T {
  if (typeof value === 'string') return (rich ? sanitiseRich(storable(value)) : storable(value)) as T;
  if (Array.isArray(value)) return value.map((v: unknown) => sanitiseFields(v, rich)) as T;
  if (value && typeof value === 'object')
    return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, sanitiseFields(v as unknown, rich || RICH.has(k))])) as T;
  return value;
}
