/** Values of cells as spreadsheets show them, and looks of cells: what workbooks of every format come to. */
import { type CellLook, ReadError, standsOut, type TableSheet } from '@zakuska/core';
import SSF from 'ssf';

/** Columns beyond these are not read. */
export const MOST_COLUMNS = 500;

/**
 * A number as its cell shows it (ECMA-376 part 1, 18.8.30: number formats), by the formatter that spreadsheets' own files are read with elsewhere.
 * @param value a number; dates are days since the last day of 1899, or since 1904 where the workbook says so
 * @param format the code of the format, or the number of one that every program knows
 */
export function shownNumber(value: number, format: string | number | undefined, from1904 = false): string {
  if (format === undefined || format === 'General' || format === '@' || format === 0 || format === 49) return String(Number(value.toPrecision(15)));
  // a full stop between day and month would be read as a fraction of seconds
  const code = typeof format === 'string' ? format.replace(/(?<=[dmy])\.(?=[dmy])/gi, '"."') : format;
  try {
    return SSF.format(code, value, { date1904: from1904 }).trim();
  } catch {
    return String(Number(value.toPrecision(15)));
  }
}

/** How the letters and the ground of a cell look. */
export interface LetterLook {
  bold?: boolean | undefined;
  italic?: boolean | undefined;
  underline?: boolean | undefined;
  struck?: boolean | undefined;
  /** The colour of the letters as CSS has it. */
  ink?: string | undefined;
  /** The ground stands out. */
  highlight?: boolean | undefined;
}
/** The looks by which a cell may stand out as a key. */
export function looksOf({ bold, italic, underline, struck, ink, highlight }: LetterLook): CellLook[] {
  const out: CellLook[] = [];
  if (bold) out.push('bold');
  if (highlight) out.push('highlight');
  if (ink && standsOut(ink)) out.push('colour');
  if (underline) out.push('underline');
  if (italic) out.push('italic');
  if (struck) out.push('struck');
  return out;
}

/** The sheets of a workbook that hold words. @throws ReadError where none does */
export function withWords(sheets: readonly TableSheet[]): TableSheet[] {
  const out = sheets.filter((s) => s.rows.some((r) => r.some((c) => c.trim())));
  if (!out.length) throw new ReadError('this workbook has no words in it');
  return out;
}
