/** PDF files on the page. The library is large: whoever uses this is loaded when it is needed. */
import * as pdfjs from 'pdfjs-dist/legacy/build/pdf.mjs';

pdfjs.GlobalWorkerOptions.workerSrc = new URL('pdfjs-dist/legacy/build/pdf.worker.mjs', import.meta.url).href;

export type Pdf = Awaited<ReturnType<typeof pdfjs.getDocument>['promise']>;
type PdfPage = Awaited<ReturnType<Pdf['getPage']>>;
/** The numbers of what pages are drawn by. */
export const pdfOps = pdfjs.OPS as unknown as Record<string, number>;

/** Opens a PDF. @param data is taken away: who needs it later hands over a copy */
export const openPdf = (data: Uint8Array): Promise<Pdf> => pdfjs.getDocument({ data, isEvalSupported: false, verbosity: 0 }).promise;

/** Draws a page on a canvas, which becomes as large as the page is then. @param scale dots for each point */
export function drawPage(page: PdfPage, canvas: HTMLCanvasElement, scale: number): ReturnType<PdfPage['render']> {
  const viewport = page.getViewport({ scale });
  canvas.width = Math.ceil(viewport.width);
  canvas.height = Math.ceil(viewport.height);
  return page.render({ canvas, viewport });
}
