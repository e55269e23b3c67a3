/** One set in one of the printed forms, read again. */
import type { PaperLook, QuizSet, ReadBack, Report, SheetPerson } from '@zakuska/core';
import { printFormats, reportPdf } from '@zakuska/documents/print';

/** What is to be set, and how. */
export interface PrintOrder {
  form: string;
  set: QuizSet;
  look: PaperLook;
  people: readonly SheetPerson[];
}
/** A report that is to be set, with the pictures that it names. */
export interface ReportOrder {
  report: Report;
  set: QuizSet;
}
/** The file, with what reading it again has shown. */
export interface Printed {
  name: string;
  bytes: Uint8Array;
  mediaType: string;
  readBack: ReadBack;
}

/** Sets a report as PDF. */
export const setReport = ({ report, set }: ReportOrder): Uint8Array => reportPdf(report, set);

/** @throws Error where there is no such form */
export async function setInPrint({ form, set, look, people }: PrintOrder): Promise<Printed> {
  const format = printFormats.find((f) => f.id === form);
  if (!format) throw new Error(`There is no form ${form}.`);
  const { bytes, name } = await format.write(set, look, people);
  return { name, bytes, mediaType: format.mediaType, readBack: await format.readBack(bytes, set, people) };
}
