import type { Kind } from './model.js';

/** What old upload sheets put in front of a row for its kind. Common practice, no source. */
export const KIND_CODES: Readonly<Record<string, Kind>> = {
  MC: 'multiple-choice',
  SC: 'multiple-choice',
  MCQ: 'multiple-choice',
  MA: 'multiple-response',
  MR: 'multiple-response',
  MS: 'multiple-response',
  TF: 'true-false',
  FIB: 'cloze',
  FITB: 'cloze',
  FILL: 'cloze',
  SA: 'short-answer',
  SHORT: 'short-answer',
  NUM: 'numeric',
  NR: 'numeric',
  ORD: 'ordering',
  SEQ: 'ordering',
  MAT: 'matching',
  MATCH: 'matching',
  ESS: 'essay',
  ESSAY: 'essay',
  OPEN: 'essay',
  INFO: 'information',
};
