/** The core: reads, checks, writes and marks items. No input or output, no interface, no framework. */
export * from './item/model.js';
export * from './item/ids.js';
export * from './item/shuffle.js';
export * from './item/kinds.js';
export * from './item/richText.js';
export { type GradeEdge, gradeEdges, type GradeStep, gradeOf, readGrades, type Rounding, roundings, roundTotal, writeGrades } from './item/grades.js';
export * from './item/operations.js';
export * from './item/drawn.js';
export { tidyRich } from './item/sameness.js';
export { difference } from './item/difference.js';
export { sanitiseFields, storable } from './item/sanitise.js';
export * from './item/setFile.js';
export { apiSchemas, type ApiSchema, quizSet } from './apiSchemas.js';
export { ReadError } from './item/readError.js';
export * from './draft/read.js';
export { TypedDraft } from './draft/near.js';
export * from './draft/surface/looks.js';
export { taughtBy } from './draft/signs/lessons.js';
export { fromHtml, isPageSource, type Pasted } from './incoming/pasted.js';
export { type Look, Sheet, standsOut } from './incoming/sheet.js';
export { fromSymbolFont } from './language/symbols.js';
export { halfWidthOf, inFigures, isHeld, middleOf, minus, plus, writtenNumber, writtenRange } from './language/decimal.js';
export { counted } from './language/counted.js';
export { lookUp } from './language/lookUp.js';
export { languageName } from './language/name.js';
export { guessLanguage } from './language/guess.js';
export { leftToDo, type LeftToDo } from './check/leftToDo.js';
export { brokenFormulasOf } from './check/rules/formulas.js';
export { texOfMathML } from './item/mathml.js';
export { childOf, childrenOf, decodeXml, descendants, markupOf, readXml, textOf, walkXml, type XmlEvents, type XmlNode } from './formats/xmlTree.js';
export { assetsAsData, base64Of, bytesOf, Pictures, picturesApart, pictureType } from './formats/pictures.js';
export { identified, takeBack, writeNotation, type TakenBack } from './formats/notation/notation.js';
export * from './formats/writtenOut.js';
export { coreFormats } from './formats/index.js';
export { FormatRegistry, type Opened } from './formats/registry.js';
export { type FileHead, headOf } from './formats/fileHead.js';
export { decodePage, decodeText, looksBinary, utf8 } from './formats/encoding.js';
export { type DocumentText, fileName, type Format, type Play, type Progress, type ReadBack, type ReadOptions, type Written } from './formats/format.js';
export { giftText } from './formats/gift/write.js';
export { setLosses, type SetLoss } from './fit/ofSet.js';
export { fit, fitSet, matters, type Fit, type FitNote, type TooLong } from './fit/fit.js';
export { destinations, isPrinted, type Destination } from './destinations/destinations.js';
export { profileOf } from './destinations/profileOf.js';
export { serviceOf, services } from './services/index.js';
export * from './services/service.js';
export { type ServiceRow, serviceRows, type Setting, type Settings } from './services/table.js';
export { type Playable, rehearse } from './rehearse/rehearse.js';
export { playSet } from './rehearse/play.js';
export { archiveLimits, looksLikeZip, openArchive, packArchive, resolvePath } from './formats/archive.js';
export type { Row } from './formats/table/grid.js';
export { type OwnLayout, ownLayouts } from './formats/table/layouts.js';
export { layoutFormat } from './formats/table/layoutTable.js';
export { type ColumnUse, columnUses, useOf } from './formats/table/headings.js';
export {
  blankMapping,
  type CellLook,
  type CellRule,
  type Mapping,
  signatureOf,
  type TableLayout,
  tableLayouts,
  type TableSheet,
  withSaidSince,
} from './formats/table/mapping.js';
export { type KeyForm, keyForms } from './formats/table/keyCells.js';
export { type Difference, propose, type Proposal, proposeMapping, type Sureness } from './formats/table/propose.js';
export {
  correctedImporter,
  type Importer,
  type ImporterCorrection,
  importerKeyForms,
  type ImporterSheet,
  importerUses,
  type ImporterUse,
  readImporter,
  understandImporter,
} from './formats/table/importer.js';
export { filledCsv, type Filling, fillingOf } from './formats/table/fill.js';
export { type MappedTable, readMapped, readMappedInSteps, type RowReading } from './formats/table/mapped.js';
export { ownTable, readTables } from './formats/table/tables.js';
export { csvText, rowsOf as tableRowsOf } from './formats/table/csv.js';
export { blocksOf, plainOfBlocks } from './formats/paper/blocks.js';
export { type PaperFile, paperFormat } from './formats/paper/part.js';
export { htmlOfBlocks } from './formats/paper/page.js';
export { bothPapers, guidePaper, keyPaper, numbersOnPaper, paperItem, questionPaper } from './formats/paper/paper.js';
export type * from './formats/paper/pieces.js';
export { reportSchema } from './formats/paper/pieces.js';
export { readBackOf } from './formats/paper/readBack.js';
export * from './formats/paper/slides.js';
export {
  GRID_BOX,
  SHEET,
  bubblesOf,
  personCode,
  sheetOf,
  sheetPrint,
  type BubbleRow,
  type Bubble,
  type NumberGrid,
  type AnswerSheet,
  type SheetField,
  type SheetPage,
  type SheetPerson,
  type WriteBox,
} from './formats/paper/sheet.js';
export { type PaperLook, paperLook, usualLook } from './formats/paper/look.js';
export { languageOf, paperLanguages, paperWords, pointsIn, runsFromRight } from './formats/paper/words.js';
export { everything, type Profile } from './fit/profile.js';
export { importProfile, printedProfile } from './formats/paper/profile.js';
export { formulaMathMl } from './item/formulas.js';
export { qtiItemXml, writeQtiPackage, itemsWithKey } from './formats/qti/v2/package.js';
export { type Chore, type Helper, type Helpers, helpersOf } from './formats/helpers.js';
export { truthWords } from './language/truthWords.js';
export type { Rehearsal, Rehearsed } from './rehearse/rehearse.js';
export { type Invitation, invitationLetter, type Letter, letterLanguages } from './take/invitation.js';
export { keptShare } from './take/late.js';
export * from './take/learnerView.js';
export { marksOf, type Outcome, outcomeOf, pointsOf, requiredOpen } from './take/outcome.js';
export * from './take/practice.js';
export * from './take/rules.js';
export * from './mark/index.js';
export * from './stats/scores.js';
export { type Bar, type DotStack, dotStacks, histogram, type ItemRemark, type OptionFigures } from './stats/options.js';
export { GROUP_LEAST, type GroupFigures } from './stats/groups.js';
export { cautionIndices, UNUSUAL } from './stats/patterns.js';
export { agreementOf } from './stats/agreement.js';
export { type Equated, equate, EQUATE_LEAST, type NotEquated } from './stats/equate.js';
export { type ItemTogether, together, type VersionScores } from './stats/together.js';
export * from './bank/index.js';
export * from './responses/index.js';
export { MOST_MEMBERS, type ReadClassList, readClassList, type ReadMember } from './responses/classList.js';
export * from './compose/index.js';
export { type Analysis, analyse, type ItemAnalysis, settledPoints, toDiscuss } from './analysis/analysis.js';
export { fitIrt, IRT_PEOPLE, type IrtFit, type IrtItem, type IrtModel } from './stats/irt.js';
export { type Compared, compareGroups, onList } from './analysis/compare.js';
export { byParts, partedBy, type PartedBy, type PartFigures } from './analysis/parts.js';
export * from './handover/index.js';
export * from './rework/index.js';
export { type BulkChange, bulkChange, copyItems, leaveOut, markChecked, moveItems } from './edit/bulk.js';
export { changePart, dissolvePart, makePart, moveRun, moveTo, numberItems, type Run, runsOfSet } from './edit/parts.js';
export { contentPrint, copiesFor, copyOfSet, joinWith, keepOwn, saidOtherwise, takeNewer } from './edit/taken.js';
export { convert, type Converted } from './edit/convert.js';
export { divided, type Share, shares } from './edit/divide.js';
export { type Filter, filterItems, isFiltering, stateOf } from './edit/filter.js';
export { differencesOf, documentBefore, fieldNames, goBack, type ItemDifference, sayOperation, type Step } from './edit/history.js';
export { findIn, type Match, replaceIn, type Search } from './edit/replace.js';
export { hardWords, type Readability, readabilityOf, readingYear, sentencesOf } from './check/readability.js';
export { type AnswerFigures, answerFindings } from './check/answerFindings.js';
export { readText, setText } from './check/readText.js';
export { balanceKeys } from './check/balance.js';
export {
  type Checking,
  type Finding,
  findingKey,
  findingsOf,
  limitRows,
  type Limits,
  ownFindings,
  type Rule,
  ruleOf,
  rules,
  usualLimits,
} from './check/index.js';
export { clock, type Cue, looksLikeSubtitles, readSubtitles } from './source/subtitles.js';
export { type Evidence, evidenceFor, type Hit } from './source/evidence.js';
export { indexSources, joinedCues, type Sentence, type SentenceIndex, type SourceText } from './source/sentences.js';
export { readGift } from './formats/gift/read.js';
export { type AuditKind, auditKinds } from './people/audit.js';
export { type Learner, type Listed, matchPeople, type PersonMatch } from './people/match.js';
export { mayAs, type MemberRole, memberRoles } from './people/roles.js';
export * from './drafter/names.js';
export * from './assist/index.js';
export * from './item/translations.js';
export * from './translate/index.js';
