export { type TakenTranslations, takeTranslations, type ReturnedFile, type ReturnedUnit } from './take.js';
export { readTranslations, readTranslationSheet, writeTranslationSheet } from './sheet.js';
export { acceptingAll, inBoth } from './both.js';
export { checkedTranslation, sideBySide, type TranslationRow, translationsFrom, typedTranslation } from './beside.js';
export { BrokenCodes, sameSingles } from './inline.js';
export { responseIn } from './responses.js';
export { inLanguage, progressOf, stateOf, textsIn, type Unit, type UnitState, unitsOf, withTranslations } from './units.js';
export { readXliff, writeXliff, type XliffVersion, xliffVersions } from './xliff.js';
