export { type TakenTranslations, takeTranslations, type ReturnedFile, type ReturnedUnit } from './take.js';
export { readTranslationSheet, writeTranslationSheet } from './sheet.js';
export { inLanguage, progressOf, stateOf, type Unit, type UnitState, unitsOf, withTranslations } from './units.js';
export { readXliff, writeXliff, type XliffVersion, xliffVersions } from './xliff.js';
