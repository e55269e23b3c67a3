/** Results on their way out: sheets, gradebook files, a block for a sheet that somebody has. */
export { type FilledSheet, fillSheetOf, type SheetColumn } from './copyBlock.js';
export { oneRosterZip } from './oneRoster.js';
export { qtiResultsZip } from './qtiResults.js';
export { classReport, reportPaper } from './reportPaper.js';
export { type MarkedPaper, type PaperLine, paperOf, paperText } from './report.js';
export { pseudonymous, type Results, type Sitting } from './results.js';
export { type ResultSheet, resultSheets, scoreSheet, type SheetCell, textRows } from './sheets.js';
