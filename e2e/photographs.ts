/** Answer sheets on their way from the printer to the camera, for tests. */
import type { QuizSet, SheetPage } from '@zakuska/core';
import { circlesFor, mark, numbersFrom, type Paper, photographed, type Shot, STRAIGHT } from '@zakuska/core/testing';
import { pdfFormats } from '@zakuska/documents/print';
import { drawnPages } from '../packages/documents/src/testing/poppler.js';

const [, , , , answerSheet] = pdfFormats;

/** The first page of the answer sheet of a set, as poppler draws it. */
export function printedSheet(set: QuizSet): Paper {
  const [page] = drawnPages(answerSheet.write(set).bytes, 200);
  if (!page) throw new Error('the sheet has no page');
  return page;
}

/** Somebody's sheet, filled in and photographed, as a file. @param answers values of circles by the number of the question; a box gets a stroke */
export function photograph(paper: Paper, page: SheetPage, answers: Readonly<Record<string, string>>, shot: Partial<Shot>): Buffer {
  const roll = numbersFrom((shot.seed ?? 1) * 7);
  const own = { ...paper, data: paper.data.slice() };
  for (const f of page.fields) {
    const said = answers[f.label];
    if (said === undefined) continue;
    if (f.is === 'box') mark(own, { x: f.x + 6, y: f.y + 4.5 }, 'cross', roll);
    else for (const b of circlesFor(f, said)) mark(own, b, 'filled', roll);
  }
  return bitmap(photographed(own, { ...STRAIGHT, fine: 5, noise: 5, blur: 0.6, ...shot }));
}

/** Grey as a file that browsers open: BMP with 256 greys, the lowest row first. */
function bitmap({ width, height, data }: { width: number; height: number; data: Uint8Array }): Buffer {
  const row = Math.ceil(width / 4) * 4;
  const start = 54 + 1024;
  const out = Buffer.alloc(start + row * height);
  out.write('BM', 0, 'latin1');
  out.writeUInt32LE(out.length, 2);
  out.writeUInt32LE(start, 10);
  out.writeUInt32LE(40, 14);
  out.writeInt32LE(width, 18);
  out.writeInt32LE(height, 22);
  out.writeUInt16LE(1, 26);
  out.writeUInt16LE(8, 28);
  for (let i = 0; i < 256; i++) out.writeUInt32LE(i * 0x010101, 54 + i * 4);
  for (let r = 0; r < height; r++) out.set(data.subarray((height - 1 - r) * width, (height - r) * width), start + r * row);
  return out;
}
