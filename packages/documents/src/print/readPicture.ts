/** A picture of a page, given to the sheet reader. */
import { greyOf, type NotRead, readSheet, type SheetRead } from '@zakuska/core/scan';
import { createCanvas, loadImage } from '@napi-rs/canvas';

/**
 * A page of an answer sheet, read as a photograph of it would be.
 * @param file PNG or SVG; where nothing is drawn, it is paper
 * @param known as `readSheet` takes them
 */
export async function readPicture(file: Uint8Array, known: Parameters<typeof readSheet>[1]): Promise<SheetRead | NotRead> {
  const picture = await loadImage(Buffer.from(file));
  const { width, height } = picture;
  const on = createCanvas(width, height).getContext('2d');
  on.fillStyle = 'white';
  on.fillRect(0, 0, width, height);
  on.drawImage(picture, 0, 0);
  return readSheet(greyOf(width, height, on.getImageData(0, 0, width, height).data), known);
}
