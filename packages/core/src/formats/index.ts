/** The formats of the core. A new one is a file or folder, and a row here. */
import { giftFormat } from './gift/format.js';
import { notationFormats } from './notation/formats.js';
import { pageFormats } from './paper/format.js';
import { draftFormat } from './plainText.js';
import { qtiFormats } from './qti/formats.js';
import { recordsFormat } from './records/format.js';
import { FormatRegistry } from './registry.js';
import { setFileFormat } from './setFile.js';
import { tableFormats } from './table/formats.js';

export const coreFormats = new FormatRegistry([
  draftFormat,
  ...notationFormats,
  ...pageFormats,
  setFileFormat,
  giftFormat,
  ...qtiFormats,
  recordsFormat,
  ...tableFormats,
]);
