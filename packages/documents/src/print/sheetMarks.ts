/** Everything that is printed on a page of an answer sheet, whatever it is written in; lengths in millimetres, type in points. */
import { type AnswerSheet, GRID_BOX, SHEET, type SheetField, type SheetPage } from '@zakuska/core';
import QRCode from 'qrcode';

/** How dark something is: 0 black to 1 white. */
type Shade = number;
const INK: Shade = 0.4;

/** A sign in a circle, words, or a line around something; `x` and `y` are its upper left corner. */
export type SheetMark =
  | { is: 'rectangle'; x: number; y: number; width: number; height: number; fill?: Shade; stroke?: { width: number; shade: Shade } }
  /** By its centre. */
  | { is: 'bubble'; x: number; y: number; sign: string; size: number }
  | { is: 'line'; x: number; y: number; length: number; width: number; shade: Shade }
  /** In a box: what does not fit `height` is cut off, where one is given. */
  | { is: 'words'; x: number; y: number; width: number; height?: number; text: string; size: number; bold?: true; shade?: Shade; right?: true }
  | { is: 'code'; x: number; y: number; size: number; text: string };

/** A point, in millimetres. */
export const POINT = 25.4 / 72;
/** Thickness of the line around a circle, in points, and its shade. */
export const BUBBLE_LINE = { width: 0.45, shade: 0.35 };
/** Shade of the sign in a circle: lighter than a filled one. */
export const SIGN_SHADE = INK;

/** Between a label and the first circle, or the box, of its field. */
const GAP = 0.8;

function field(f: SheetField): SheetMark[] {
  // a box stands where the first circle of a row would
  const left = f.is === 'box' ? f.x - SHEET.label + SHEET.radius : f.x;
  const label = (y: number): SheetMark => ({
    is: 'words',
    x: left,
    y,
    width: SHEET.label - SHEET.radius - GAP,
    text: f.label,
    size: f.label.length > 4 ? 6.5 : 9,
    bold: true,
    right: true,
  });
  const box = (x: number, y: number, width: number, height: number): SheetMark => ({
    is: 'rectangle',
    x,
    y,
    width,
    height,
    stroke: { width: 0.5 * POINT, shade: 0 },
  });
  const bubble = ({ x, y, sign }: { x: number; y: number; sign: string }): SheetMark => ({ is: 'bubble', x, y, sign, size: sign.length > 1 ? 4.6 : 5.6 });
  switch (f.is) {
    case 'bubbles':
      return [label(f.y + SHEET.row / 2 - 1.6), ...f.bubbles.map(bubble)];
    case 'box':
      return [label(f.y + f.height / 2 - 1.6), box(f.x, f.y, f.width, f.height)];
    case 'grid':
      return [label(f.y + 2), ...f.columns.map((c) => box((c.at(-1)?.x ?? 0) - GRID_BOX / 2, f.y + 0.6, GRID_BOX, 5.6)), ...f.columns.flat().map(bubble)];
  }
}

/** A solid square, or a ring as large. */
function corner({ x, y }: { x: number; y: number }, solid: boolean): SheetMark {
  // a stroke lies half outside of what it is drawn along
  const size = SHEET.cornerSize - (solid ? 0 : SHEET.ring);
  const square = { is: 'rectangle', x: x - size / 2, y: y - size / 2, width: size, height: size } as const;
  return solid ? { ...square, fill: 0 } : { ...square, stroke: { width: SHEET.ring, shade: 0 } };
}

/** The page with its number among those of its sheet, from 0. */
export function marksOf(sheet: AnswerSheet, page: SheetPage, n: number): SheetMark[] {
  const { field: f, qr } = SHEET;
  const { words: w } = sheet;
  const text = (x: number, y: number, width: number, said: string, size: number, more: Partial<Extract<SheetMark, { is: 'words' }>> = {}): SheetMark => ({
    is: 'words',
    x,
    y,
    width,
    text: said,
    size,
    ...more,
  });
  /** Something to be filled in, with what is known already. */
  const blank = (x: number, width: number, label: string, given = ''): SheetMark[] => {
    // as wide as its letters, about; those of East Asia are twice as wide
    const said = [...label].reduce((all, letter) => all + (letter >= '\u2e80' ? 3.3 : 1.75), 2);
    const left = x + said + 1;
    const shown: SheetMark[] = given ? [text(left, 38, width - said - 1, given, 9, { bold: true, height: 4 })] : [];
    return [text(x, 38, said, `${label}:`, 9), ...shown, { is: 'line', x: left, y: 42, length: width - said - 1, width: 0.6 * POINT, shade: 0 }];
  };
  const count = sheet.pages.length > 1 ? ` · ${n + 1} / ${sheet.pages.length}` : '';
  return [
    ...SHEET.corners.map((c, i) => corner(c, i < 3)),
    { is: 'code', x: qr.x, y: qr.y, size: qr.size, text: page.code },
    text(22, 18, 138, sheet.title, 13, { bold: true, height: 12 }),
    text(22, 30.5, 138, `${w.sheet}${count}`, 9, { shade: INK }),
    ...blank(22, 78, w.name, sheet.person?.name),
    ...blank(104, 26, w.group, sheet.person?.group),
    ...blank(133, 28, w.date),
    text(22, 47, 138, w.fillIn, 8, { shade: INK }),
    { is: 'line', x: f.left, y: f.top - 4, length: f.right - f.left, width: 0.4 * POINT, shade: 0.6 },
    ...page.fields.flatMap(field),
    text(22, 279, 150, page.code, 6, { shade: 0.5 }),
  ];
}

/** The dark modules of a QR code as an SVG path, one unit a module, and how many there are to a side; no margin: the page around it is white. */
export function qrPath(text: string): { path: string; size: number } {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'Q' });
  const { size } = modules;
  let path = '';
  for (let y = 0; y < size; y++) for (let x = 0; x < size; x++) if (modules.get(y, x)) path += `M${x} ${y}h1v1h-1z`;
  return { path, size };
}
