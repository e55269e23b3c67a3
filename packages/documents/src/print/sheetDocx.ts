/** Answer sheets as DOCX: each page one picture as large as the paper, so that every mark stands where it is looked for. */
import type { AnswerSheet } from '@zakuska/core';
import type { NotRead, readSheet, SheetRead } from '@zakuska/core/scan';
import { createCanvas } from '@napi-rs/canvas';
import { Document, HorizontalPositionRelativeFrom, ImageRun, Packer, Paragraph, VerticalPositionRelativeFrom } from 'docx';
import { ownParts, sameBytes } from '../sameBytes.js';
import { openPdf } from '../pdf/open.js';
import { readPicture } from './readPicture.js';
import { sheetPdf } from './sheet.js';

/** Dots to an inch. */
const DPI = 200;
/** A4, in twentieths of a point and in pixels of 1/96 inch. */
const TWIPS = { width: 11_906, height: 16_838 };
const PIXELS = { width: 794, height: 1123 };

/** The pages of a PDF, as fine as a printer prints them. */
async function drawn(pdf: Uint8Array): Promise<Uint8Array[]> {
  const { document, close } = await openPdf(pdf);
  try {
    const pages: Uint8Array[] = [];
    for (let n = 1; n <= document.numPages; n++) {
      const page = await document.getPage(n);
      const viewport = page.getViewport({ scale: DPI / 72 });
      const canvas = createCanvas(Math.round(viewport.width), Math.round(viewport.height));
      await page.render({ canvas: canvas as never, viewport }).promise;
      pages.push(new Uint8Array(await canvas.encode('png')));
    }
    return pages;
  } finally {
    await close();
  }
}

/** Answer sheets as DOCX, one after the other. Same sheets, same bytes. */
export async function sheetDocx(sheets: readonly AnswerSheet[]): Promise<Uint8Array> {
  const pictures = await drawn(sheetPdf(sheets));
  const names = sheets.flatMap((s) =>
    s.pages.map((_, n) => [s.title, s.words.sheet, s.person?.name, s.pages.length > 1 && `${n + 1} / ${s.pages.length}`].filter(Boolean).join(', ')),
  );
  const document = new Document({
    title: sheets[0]?.title ?? '',
    creator: 'Zakuska',
    sections: pictures.map((data, n) => ({
      properties: { page: { size: TWIPS, margin: { top: 0, right: 0, bottom: 0, left: 0, header: 0, footer: 0 } } },
      children: [
        new Paragraph({
          children: [
            new ImageRun({
              type: 'png',
              data,
              transformation: PIXELS,
              altText: { name: `Page ${n + 1}`, title: names[n] ?? '', description: names[n] ?? '' },
              floating: {
                horizontalPosition: { relative: HorizontalPositionRelativeFrom.PAGE, offset: 0 },
                verticalPosition: { relative: VerticalPositionRelativeFrom.PAGE, offset: 0 },
                behindDocument: true,
                allowOverlap: true,
              },
            }),
          ],
        }),
      ],
    })),
  });
  return sameBytes(new Uint8Array(await Packer.toArrayBuffer(document)));
}

/**
 * The pages of such a file, read as photographs of them would be.
 * @param known as `readSheet` takes them
 * @throws ReadError where the bytes are no archive
 */
export function readSheetDocx(bytes: Uint8Array, known: Parameters<typeof readSheet>[1]): Promise<(SheetRead | NotRead)[]> {
  const pages = [...ownParts(bytes)].filter(([path]) => /^word\/media\/.+\.png$/.test(path));
  return Promise.all(pages.map(([, png]) => readPicture(png, known)));
}
