/** The code of an answer sheet: what its words say, and finding it on a page that was laid flat. */
import jsqr from 'jsqr';
import { SHEET } from '../formats/paper/sheet.js';
import type { Flat } from './circles.js';
import { cutOut, type Grey, greyAt, rgbaOf } from './picture.js';

// the module is CommonJS: a bundler gives its function, Node.js the module around it
type ReadQr = (rgba: Uint8ClampedArray, width: number, height: number, how: { inversionAttempts: 'dontInvert' }) => { data: string } | null;
const jsQR = ((jsqr as unknown as { default?: unknown }).default ?? jsqr) as ReadQr;

/** What a code says. */
export interface SheetCode {
  print: string;
  page: number;
  pages: number;
  person: string;
}
/** Takes the words of a sheet's code apart; null where they are those of something else. */
export function sheetCode(text: string): SheetCode | null {
  const m = /^ZAKUSKA\/([0-9A-F]{12})\/(\d{1,3})\/(\d{1,3})(?:\/([^/]+))?$/.exec(text.trim());
  return m ? { print: m[1] as string, page: Number(m[2]), pages: Number(m[3]), person: m[4] ?? '' } : null;
}

/** What the code on a flat page says: as it is, and with its contrast made full. */
export function codeOf({ page, scale }: Flat): SheetCode | null {
  const { x, y, size } = SHEET.qr;
  for (const margin of [3, 5, 1.5]) {
    const cut = cutOut(page, (x - margin) * scale, (y - margin) * scale, (size + 2 * margin) * scale, (size + 2 * margin) * scale);
    let low = 255;
    let high = 0;
    for (const v of cut.data) {
      if (v < low) low = v;
      if (v > high) high = v;
    }
    // twice as large: the reader looks at blocks of eight pixels
    const large: Grey = { width: cut.width * 2, height: cut.height * 2, data: new Uint8Array(cut.width * cut.height * 4) };
    for (let r = 0; r < large.height; r++)
      for (let c = 0; c < large.width; c++)
        large.data[r * large.width + c] = Math.round(((greyAt(cut, (c + 0.5) / 2, (r + 0.5) / 2) - low) * 255) / Math.max(high - low, 1));
    const said = jsQR(rgbaOf(large), large.width, large.height, { inversionAttempts: 'dontInvert' })?.data;
    const code = said ? sheetCode(said) : null;
    if (code) return code;
  }
  return null;
}
