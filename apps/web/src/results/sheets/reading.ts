/** Pictures of answer sheets as they are read and shown: what the worker gives, with cut-outs of what somebody has to look at. */
import { cutOut, type FieldRead, type Grey, greyOf, type KnownSheet, readSheet, type SheetDoubt } from '@zakuska/core/scan';

/** A field of a sheet on the page. */
export interface FieldView {
  item: string;
  part?: string;
  label: string;
  is: 'bubbles' | 'grid' | 'box';
  several: boolean;
  /** What can be filled in, in its order; of a row only. */
  signs: { value: string; sign: string }[];
  given: string[];
  doubt?: SheetDoubt;
  /** What it looks like, where it is doubted. */
  cut?: Grey;
}
/** A sheet that was read, as it is shown. */
export interface SheetView {
  is: 'read';
  print: string;
  page: number;
  person: string;
  fields: FieldView[];
  /** Where the name stands. */
  head: Grey;
}
/** A picture that was not read. */
export interface NotView {
  is: 'not';
  /** A person may say which page it is. */
  mayBeSaid: boolean;
  message: string;
}

/** Lines for name, group and date, in millimetres. */
const HEAD = { left: 19, top: 32, width: 146, height: 13 };
/** Around a field, so that what goes beyond it is seen. */
const MARGIN = 2.5;

function fieldView({ field, given, doubt, area }: FieldRead, flat: { page: Grey; scale: number }): FieldView {
  const { scale } = flat;
  return {
    item: field.item,
    ...(field.part !== undefined && { part: field.part }),
    label: field.label,
    is: field.is,
    several: field.is === 'bubbles' && field.several,
    signs: field.is === 'bubbles' ? field.bubbles.map(({ value, sign }) => ({ value, sign })) : [],
    given,
    ...(doubt && {
      doubt,
      cut: cutOut(flat.page, (area.left - MARGIN) * scale, (area.top - MARGIN) * scale, (area.width + 2 * MARGIN) * scale, (area.height + 2 * MARGIN) * scale),
    }),
  };
}

let known: ReadonlyMap<string, Pick<KnownSheet, 'sheet'>> = new Map();

/** What the worker does. */
export const reading = {
  /** Says which sheets may come, by their prints. */
  know(sheets: typeof known): void {
    known = sheets;
  },
  /** Reads a picture. @param as which sheet and page it is, where somebody has said so */
  read(width: number, height: number, rgba: Uint8ClampedArray, as?: { print: string; page: number }): SheetView | NotView {
    const r = readSheet(greyOf(width, height, rgba), known, as);
    if (r.is === 'not') return { is: 'not', mayBeSaid: r.why === 'code', message: r.message };
    const { page, scale } = r.flat;
    return {
      is: 'read',
      print: r.print,
      page: r.page,
      person: r.person,
      fields: r.fields.map((f) => fieldView(f, r.flat)),
      head: cutOut(page, HEAD.left * scale, HEAD.top * scale, HEAD.width * scale, HEAD.height * scale),
    };
  },
};
