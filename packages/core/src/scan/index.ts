/** Photographed and scanned answer sheets, read. Apart from the rest of the core: its reader of codes is large. */
export { cutOut, type Grey, greyOf, rgbaOf } from './picture.js';
export { type FieldRead, type NotRead, readSheet, type SheetRead } from './readSheet.js';
export type { SheetDoubt } from './marks.js';
export { type KnownSheet, knownSheets, peopleOf, type SettledField, type SettledPage, type SheetPeople } from './papers.js';
