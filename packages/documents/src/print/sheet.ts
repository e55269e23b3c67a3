/** Answer sheets as PDF: every mark where the geometry of the core says (docs/answer-sheet.md). */
import { type AnswerSheet, GRID_BOX, SHEET, type SheetField, type SheetPage } from '@zakuska/core';
import QRCode from 'qrcode';
import { compilePdf, fontsOf, NOWHERE, typstString } from './typst.js';

const mm = (n: number): string => `${Number(n.toFixed(3))}mm`;
/** Something put at a place, by its upper left corner. */
const at = (x: number, y: number, what: string): string => `#place(top + left, dx: ${mm(x)}, dy: ${mm(y)}, ${what})`;
const words = (text: string, size: number, more = ''): string => `text(${size}pt${more}, ${typstString(text)})`;
const INK = ', fill: luma(40%)';

/** A circle with its sign, in a grey that a filled one is told from. */
const bubble = ({ x, y, sign }: { x: number; y: number; sign: string }): string =>
  at(
    x - SHEET.radius,
    y - SHEET.radius,
    `circle(radius: ${mm(SHEET.radius)}, stroke: 0.45pt + luma(35%), inset: 0pt, align(center + horizon, ${words(sign, sign.length > 1 ? 4.6 : 5.6, INK)}))`,
  );

/** Between a label and the first circle, or the box, of its field. */
const GAP = 0.8;

function field(f: SheetField): string {
  const width = SHEET.label - SHEET.radius - GAP;
  // a box stands where the first circle of a row would
  const left = f.is === 'box' ? f.x - SHEET.label + SHEET.radius : f.x;
  const label = (y: number): string =>
    at(left, y, `box(width: ${mm(width)}, align(right, ${words(f.label, f.label.length > 4 ? 6.5 : 9, ', weight: "bold"')}))`);
  switch (f.is) {
    case 'bubbles':
      return [label(f.y + SHEET.row / 2 - 1.6), ...f.bubbles.map(bubble)].join('\n');
    case 'box':
      return [label(f.y + f.height / 2 - 1.6), at(f.x, f.y, `rect(width: ${mm(f.width)}, height: ${mm(f.height)}, stroke: 0.5pt)`)].join('\n');
    case 'grid': {
      const boxes = f.columns.map((c) => {
        const x = (c.at(-1)?.x ?? 0) - GRID_BOX / 2;
        return at(x, f.y + 0.6, `rect(width: ${mm(GRID_BOX)}, height: ${mm(5.6)}, stroke: 0.5pt)`);
      });
      return [label(f.y + 2), ...boxes, ...f.columns.flat().map(bubble)].join('\n');
    }
  }
}

/** A solid square, or a ring as large. */
function corner({ x, y }: { x: number; y: number }, solid: boolean): string {
  // a stroke lies half outside of what it is drawn along
  const size = SHEET.cornerSize - (solid ? 0 : SHEET.ring);
  const ink = solid ? 'fill: black' : `stroke: (paint: black, thickness: ${mm(SHEET.ring)}, join: "miter")`;
  return at(x - size / 2, y - size / 2, `square(size: ${mm(size)}, ${ink})`);
}

/** @param name of the page among all that are set */
function page(sheet: AnswerSheet, p: SheetPage, n: number, name: string): string {
  const { field: f, qr } = SHEET;
  const { words: w } = sheet;
  const line = (x: number, y: number, width: number, label: string, given = ''): string =>
    at(
      x,
      y,
      `box(width: ${mm(width)}, grid(columns: (auto, 1fr), column-gutter: 1.5mm, ${words(`${label}:`, 9)}, box(width: 100%, height: 4mm, stroke: (bottom: 0.6pt), clip: true, ${words(given, 9, ', weight: "bold"')})))`,
    );
  const count = sheet.pages.length > 1 ? ` · ${n + 1} / ${sheet.pages.length}` : '';
  return [
    ...SHEET.corners.map((c, i) => corner(c, i < 3)),
    at(qr.x, qr.y, `image("qr-${name}.svg", width: ${mm(qr.size)}, height: ${mm(qr.size)})`),
    at(22, 18, `box(width: 138mm, height: 12mm, clip: true, ${words(sheet.title, 13, ', weight: "bold"')})`),
    at(22, 30.5, words(`${w.sheet}${count}`, 9, INK)),
    line(22, 38, 78, w.name, sheet.person?.name),
    line(104, 38, 26, w.group, sheet.person?.group),
    line(133, 38, 28, w.date),
    at(22, 47, `box(width: 138mm, ${words(w.fillIn, 8, INK)})`),
    at(f.left, f.top - 4, `line(length: ${mm(f.right - f.left)}, stroke: 0.4pt + luma(60%))`),
    ...p.fields.map(field),
    at(22, 279, words(p.code, 6, ', fill: luma(50%)')),
  ].join('\n');
}

/** A QR code as SVG, one unit a module, without a margin: the page around it is white. */
function qrSvg(text: string): string {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'Q' });
  const { size } = modules;
  let path = '';
  for (let y = 0; y < size; y++) for (let x = 0; x < size; x++) if (modules.get(y, x)) path += `M${x} ${y}h1v1h-1z`;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${size} ${size}" shape-rendering="crispEdges"><path d="${path}"/></svg>`;
}

/** Answer sheets as PDF, one after the other. Same sheets, same bytes. */
export function sheetPdf(sheets: readonly AnswerSheet[]): Uint8Array {
  const pages = sheets.flatMap((sheet, s) => sheet.pages.map((p, n) => ({ sheet, p, n, name: `${s}-${n}` })));
  const pictures = new Map(pages.map(({ p, name }) => [`${NOWHERE}/qr-${name}.svg`, new TextEncoder().encode(qrSvg(p.code))]));
  const source = [
    `#set document(title: ${typstString(sheets[0]?.title ?? '')}, author: "Zakuska", date: none)`,
    '#set page(width: 210mm, height: 297mm, margin: 0pt)',
    `#set text(font: (${fontsOf()}), size: 9pt)`,
    pages.map(({ sheet, p, n, name }) => page(sheet, p, n, name)).join('\n#pagebreak()\n'),
  ].join('\n');
  return compilePdf(source, pictures);
}
