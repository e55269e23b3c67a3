/** Answer sheets as PDF: every mark where the geometry of the core says (docs/answer-sheet.md). */
import { type AnswerSheet, SHEET } from '@zakuska/core';
import { BUBBLE_LINE, marksOf, qrPath, type SheetMark, SIGN_SHADE } from './sheetMarks.js';
import { compilePdf, fontsOf, NOWHERE, typstString } from './typst.js';

const mm = (n: number): string => `${Number(n.toFixed(3))}mm`;
const grey = (shade: number): string => `luma(${Math.round(shade * 100)}%)`;
const words = (text: string, size: number, more = ''): string => `text(${size}pt${more}, ${typstString(text)})`;

/** What a mark is in Typst. @param code the file of the page's QR code */
function drawn(m: SheetMark, code: string): string {
  switch (m.is) {
    case 'rectangle': {
      const ink = m.fill === undefined ? '' : `, fill: ${grey(m.fill)}`;
      const stroke = m.stroke ? `, stroke: (paint: ${grey(m.stroke.shade)}, thickness: ${mm(m.stroke.width)}, join: "miter")` : '';
      return `rect(width: ${mm(m.width)}, height: ${mm(m.height)}${ink}${stroke})`;
    }
    case 'bubble':
      return `circle(radius: ${mm(SHEET.radius)}, stroke: ${BUBBLE_LINE.width}pt + ${grey(BUBBLE_LINE.shade)}, inset: 0pt, align(center + horizon, ${words(m.sign, m.size, `, fill: ${grey(SIGN_SHADE)}`)}))`;
    case 'line':
      return `line(length: ${mm(m.length)}, stroke: ${mm(m.width)} + ${grey(m.shade)})`;
    case 'words': {
      const text = words(m.text, m.size, `${m.bold ? ', weight: "bold"' : ''}${m.shade ? `, fill: ${grey(m.shade)}` : ''}`);
      const height = m.height === undefined ? '' : `, height: ${mm(m.height)}, clip: true`;
      return `box(width: ${mm(m.width)}${height}, ${m.right ? `align(right, ${text})` : text})`;
    }
    case 'code':
      return `image("${code}", width: ${mm(m.size)}, height: ${mm(m.size)})`;
  }
}
/** Something put at a place, by its upper left corner. */
function placed(m: SheetMark, code: string): string {
  const around = m.is === 'bubble' ? SHEET.radius : 0;
  return `#place(top + left, dx: ${mm(m.x - around)}, dy: ${mm(m.y - around)}, ${drawn(m, code)})`;
}

function qrSvg(text: string): string {
  const { path, size } = qrPath(text);
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${size} ${size}" shape-rendering="crispEdges"><path d="${path}"/></svg>`;
}

/** Answer sheets as PDF, one after the other. Same sheets, same bytes. */
export function sheetPdf(sheets: readonly AnswerSheet[]): Uint8Array {
  const pages = sheets.flatMap((sheet, s) => sheet.pages.map((page, n) => ({ marks: marksOf(sheet, page, n), page, file: `qr-${s}-${n}.svg` })));
  const pictures = new Map(pages.map(({ page, file }) => [`${NOWHERE}/${file}`, new TextEncoder().encode(qrSvg(page.code))]));
  const source = [
    `#set document(title: ${typstString(sheets[0]?.title ?? '')}, author: "Zakuska", date: none)`,
    `#set page(width: ${SHEET.width}mm, height: ${SHEET.height}mm, margin: 0pt)`,
    `#set text(font: (${fontsOf()}), size: 9pt)`,
    pages.map(({ marks, file }) => marks.map((m) => placed(m, file)).join('\n')).join('\n#pagebreak()\n'),
  ].join('\n');
  return compilePdf(source, pictures);
}
