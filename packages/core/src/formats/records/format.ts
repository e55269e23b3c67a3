/** Records in JSON as a format that is read. */
import { ReadError } from '../../item/readError.js';
import { textOf } from '../plainText.js';
import type { Format } from '../format.js';
import { readTables } from '../table/tables.js';
import type { TableSheet } from '../table/mapping.js';
import { recordsIn } from './records.js';

function sheetOf(bytes: Uint8Array): TableSheet {
  const sheet = recordsIn(textOf(bytes));
  if (!sheet)
    throw new ReadError(
      'no questions in this file: it needs a list of records, each with a question under a name such as “question”, and options or an answer beside it',
    );
  return sheet;
}

/** The row of the registry. */
export const recordsFormat: Format = {
  id: 'records',
  name: 'Records in JSON',
  extension: '.json',
  mediaType: 'application/json',
  recognises: ({ text, name }) => (/^\uFEFF?\s*(?:\[\s*)?\{\s*"/.test(text) ? (/\.jsonl?$/i.test(name) ? 0.4 : 0.3) : 0),
  tables: (bytes) => [sheetOf(bytes)],
  read: (bytes) => readTables([sheetOf(bytes)]),
};
