/** Tables of responses: understood, and marked by a set or by one of their rows. */
export { type ColumnSaid, type GradedTable, type GradeAsked, gradeTable, type MarkedColumn } from './grade.js';
export { type ResponseUse, responseUses } from './headings.js';
export { type KeyRow, type ResponseColumn, type ResponseTable, understandResponses } from './table.js';
export { type KeptPerson, type KeptTable, keepTable } from './keep.js';
