/** All formats: those of the core, and those that need a library of their own. */
import { coreFormats, FormatRegistry } from '@zakuska/core';
import { documentFormats } from './documents.js';
import { paperFormats } from './paper/formats.js';
import { xlsxFormats } from './xlsx.js';

export { resultsWorkbook, workbook } from './xlsx.js';
export { NoTextError } from './document.js';
export { fillTemplate, type Filled } from './fillTemplate.js';
export { type Box, type Page, readPage } from './pdf/page.js';
export { draftOfRegion } from './pdf/read.js';

/** The registry of all formats. A new one is a file and a row. */
export const allFormats = new FormatRegistry([...coreFormats.formats, ...documentFormats, ...xlsxFormats, ...paperFormats]);
