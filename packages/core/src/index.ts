/** The core: reads, checks, writes and marks items. No input or output, no interface, no framework. */
export * from './item/model.js';
export * from './item/ids.js';
export * from './item/kinds.js';
export * from './item/richText.js';
export * from './item/operations.js';
export { sanitiseFields, storable } from './item/sanitise.js';
export * from './item/setFile.js';
export { ReadError } from './item/readError.js';
export * from './draft/read.js';
export * from './formats/index.js';
export { decodeText, fileName, looksBinary, utf8, type FitNote, type Format, type Written } from './formats/format.js';
export { fitGift, giftText } from './formats/gift/write.js';
export { qtiItemXml, writeQtiPackage, deliverable } from './formats/qti/package.js';
export { truthWords } from './formats/qti/build.js';
export * from './take/learnerView.js';
export { fitQti } from './formats/qti/build.js';
export * from './mark/index.js';
export * from './stats/scores.js';
