/** Files as pictures: photographs one by one, of a PDF each page. */
import { say } from '../../words/say.js';

export interface Picture {
  /** As it is called in the list. */
  name: string;
  width: number;
  height: number;
  rgba: Uint8ClampedArray;
}
/** Dots for each point of a PDF page: 200 to the inch. */
const DOTS = 200 / 72;
/** A picture with more pixels than this is made smaller: circles of a sheet have a hundred pixels each then. */
const MOST_PIXELS = 12_000_000;

const isPdf = async (file: File): Promise<boolean> => new TextDecoder('latin1').decode(await file.slice(0, 1024).arrayBuffer()).includes('%PDF-');

function pixelsOf(canvas: HTMLCanvasElement, name: string): Picture {
  const { width, height } = canvas;
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error(say('This browser cannot look at the pixels of pictures.'));
  return { name, width, height, rgba: context.getImageData(0, 0, width, height).data };
}

/**
 * The pictures in a file, one after the other.
 * @throws Error, in one sentence, where it is none that can be read
 */
export async function* picturesOf(file: File): AsyncGenerator<Picture> {
  const canvas = document.createElement('canvas');
  if (await isPdf(file)) {
    const { drawPage, openPdf } = await import('../../ui/pdf.js');
    const pdf = await openPdf(new Uint8Array(await file.arrayBuffer())).catch(() => {
      throw new Error(say('This PDF could not be opened.'));
    });
    try {
      for (let n = 1; n <= pdf.numPages; n++) {
        await drawPage(await pdf.getPage(n), canvas, DOTS).promise;
        yield pixelsOf(canvas, pdf.numPages > 1 ? say('{name}, page {n}', { name: file.name, n }) : file.name);
      }
    } finally {
      await pdf.loadingTask.destroy();
    }
    return;
  }
  const bitmap = await createImageBitmap(file).catch(() => {
    throw new Error(say('This is no picture that the browser can open. JPEG, PNG, WebP and PDF can be read.'));
  });
  const times = Math.min(1, Math.sqrt(MOST_PIXELS / (bitmap.width * bitmap.height)));
  canvas.width = Math.round(bitmap.width * times);
  canvas.height = Math.round(bitmap.height * times);
  canvas.getContext('2d', { willReadFrequently: true })?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  yield pixelsOf(canvas, file.name);
}
