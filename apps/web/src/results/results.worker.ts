/** What takes long of Results, away from the page: tables of answers marked, workbooks written, slides made, models fitted. */
import { deckOf, fitIrt } from '@zakuska/core';
import { resultsWorkbook } from '@zakuska/documents';
import { expose } from 'comlink';
import { marking } from './tableMarking.js';

const remote = {
  ...marking,
  workbook: resultsWorkbook,
  /** Items as slides to be shown in the room. */
  slides: deckOf,
  /** A model of ability. */
  model: fitIrt,
};
export type Remote = typeof remote;
expose(remote);
