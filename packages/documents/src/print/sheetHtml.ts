/**
 * Answer sheets as a web page: circles, corner marks and codes as one drawing a page, as large as the paper, with words laid over it.
 * However a browser scales what it prints, all of a page is scaled alike, and the reader takes that up (docs/answer-sheet.md).
 */
import { type AnswerSheet, escapeXml, runsFromRight, SHEET } from '@zakuska/core';
import { type NotRead, type readSheet, type SheetRead } from '@zakuska/core/scan';
import { readPicture } from './readPicture.js';
import { BUBBLE_LINE, marksOf, POINT, qrPath, type SheetMark, SIGN_SHADE } from './sheetMarks.js';

const n = (x: number): string => String(Number(x.toFixed(3)));
const grey = (shade: number): string => {
  const v = Math.round(shade * 255);
  return `rgb(${v},${v},${v})`;
};

type Bubble = Extract<SheetMark, { is: 'bubble' }>;

/** What a mark is in the drawing. */
function drawn(m: Exclude<SheetMark, { is: 'words' | 'bubble' }>): string {
  switch (m.is) {
    case 'rectangle': {
      const stroke = m.stroke ? ` stroke="${grey(m.stroke.shade)}" stroke-width="${n(m.stroke.width)}"` : '';
      return `<rect x="${n(m.x)}" y="${n(m.y)}" width="${n(m.width)}" height="${n(m.height)}" fill="${m.fill === undefined ? 'none' : grey(m.fill)}"${stroke}/>`;
    }
    case 'line':
      return `<path d="M${n(m.x)} ${n(m.y)}h${n(m.length)}" stroke="${grey(m.shade)}" stroke-width="${n(m.width)}"/>`;
    case 'code': {
      const { path, size } = qrPath(m.text);
      return `<path d="${path}" transform="translate(${n(m.x)} ${n(m.y)}) scale(${m.size / size})" shape-rendering="crispEdges"/>`;
    }
  }
}

/** All circles, then what stands in them: looks are said once for all. */
const bubbles = (all: readonly Bubble[]): string =>
  `<g fill="none" stroke="${grey(BUBBLE_LINE.shade)}" stroke-width="${n(BUBBLE_LINE.width * POINT)}">${all
    .map((m) => `<circle cx="${n(m.x)}" cy="${n(m.y)}" r="${SHEET.radius}"/>`)
    .join('')}</g><g fill="${grey(SIGN_SHADE)}" text-anchor="middle" font-family="Verdana, sans-serif">${all
    .map((m) => `<text x="${n(m.x)}" y="${n(m.y + m.size * POINT * 0.36)}" font-size="${n(m.size * POINT)}">${escapeXml(m.sign)}</text>`)
    .join('')}</g>`;

function words(m: Extract<SheetMark, { is: 'words' }>): string {
  const style = [
    `left:${n(m.x)}mm;top:${n(m.y)}mm;width:${n(m.width)}mm;font-size:${m.size}pt`,
    m.height !== undefined && `height:${n(m.height)}mm;overflow:hidden`,
    m.bold && 'font-weight:bold',
    m.shade !== undefined && `color:${grey(m.shade)}`,
    m.right && 'text-align:right',
  ];
  return `<p style="${style.filter(Boolean).join(';')}">${escapeXml(m.text)}</p>`;
}

const STYLE = `
@page { size: A4; margin: 0 }
html { background: #ddd } body { margin: 0; font-family: "Atkinson Hyperlegible Next", "Noto Sans", Verdana, sans-serif }
.sheet { position: relative; width: ${SHEET.width}mm; height: ${SHEET.height}mm; overflow: hidden; margin: 0 auto 6mm; background: #fff; color: #000; print-color-adjust: exact; -webkit-print-color-adjust: exact }
.sheet svg { position: absolute; inset: 0; width: 100%; height: 100% }
.sheet p { position: absolute; margin: 0; line-height: 1.15 }
@media print { html { background: none } .sheet { margin: 0; break-after: page } .sheet:last-child { break-after: auto } }
`;

/** Answer sheets as a web page, one after the other. Same sheets, same text. */
export function sheetHtml(sheets: readonly AnswerSheet[]): string {
  const [first] = sheets;
  const pages = sheets.flatMap((sheet) =>
    sheet.pages.map((page, i) => {
      const marks = marksOf(sheet, page, i);
      const drawing = marks.flatMap((m) => (m.is === 'words' || m.is === 'bubble' ? [] : [drawn(m)]));
      const said = marks.flatMap((m) => (m.is === 'words' ? [words(m)] : []));
      return `<section class="sheet"><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${SHEET.width} ${SHEET.height}" aria-hidden="true">${drawing.join('')}${bubbles(
        marks.filter((m): m is Bubble => m.is === 'bubble'),
      )}</svg>
${said.join('')}</section>`;
    }),
  );
  const language = first?.language ?? 'en';
  return `<!DOCTYPE html>
<html lang="${escapeXml(language)}"${runsFromRight(language) ? ' dir="rtl"' : ''}>
<head><meta charset="utf-8"><title>${escapeXml([first?.title, first?.words.sheet].filter(Boolean).join(': '))}</title><style>${STYLE}</style></head>
<body>
${pages.join('\n')}
</body>
</html>
`;
}

/** So fine is a drawing read again, in pixels to a millimetre. */
const DOTS = 6;

/**
 * The pages of such a file, read as photographs of them would be; words do not stand in their drawings.
 * @param known as `readSheet` takes them
 */
export function readSheetHtml(html: string, known: Parameters<typeof readSheet>[1]): Promise<(SheetRead | NotRead)[]> {
  const sized = `<svg width="${SHEET.width * DOTS}" height="${SHEET.height * DOTS}" `;
  const drawings = html
    .split('<svg ')
    .slice(1)
    .map((d) => d.slice(0, d.indexOf('</svg>') + '</svg>'.length));
  return Promise.all(drawings.map((d) => readPicture(new TextEncoder().encode(sized + d), known)));
}
