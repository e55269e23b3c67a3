/** Opens PDF files with the library, which is loaded only when one is opened. */
import { ReadError } from '@zakuska/core';
import type { PDFDocumentProxy } from 'pdfjs-dist';

type Library = typeof import('pdfjs-dist');

/** Whether an error is one that the library throws at objects of a file that are not where the file says. */
export const isOfTheFile = (e: unknown): boolean => /^(?:XRef|MissingData|FormatError|ParserEOF)\w*$/.test((e as Error | undefined)?.name ?? '');
/**
 * The library fetches objects ahead and leaves the promises to themselves; of a broken file some are rejected though it is read all the
 * same. In a browser that is a line in the console; in Node.js it would end the program. Anything else that nobody waits for still does.
 */
function leaveOrphans(): void {
  const node = (globalThis as { process?: { on?: (event: string, f: (e: unknown) => void) => void; listenerCount?: (event: string) => number } }).process;
  node?.on?.('unhandledRejection', (e) => {
    if (!isOfTheFile(e) && node.listenerCount?.('unhandledRejection') === 1) throw e;
  });
}

let loading: Promise<Library> | undefined;
/** Loads the library. Its own worker is run in the thread that it is loaded in, which is a worker already wherever that matters. */
export const pdfLibrary = (): Promise<Library> =>
  (loading ??= (async () => {
    leaveOrphans();
    const scope = globalThis as { pdfjsWorker?: unknown };
    scope.pdfjsWorker ??= await import('pdfjs-dist/legacy/build/pdf.worker.mjs' as string);
    return (await import('pdfjs-dist/legacy/build/pdf.mjs' as string)) as Library;
  })());

/** Pages beyond this are not read; no test has so many. */
export const MOST_PAGES = 500;

/**
 * Opens a PDF.
 * @throws ReadError where it is protected, broken or empty
 */
export async function openPdf(bytes: Uint8Array): Promise<{ document: PDFDocumentProxy; ops: Record<string, number>; close: () => Promise<void> }> {
  const library = await pdfLibrary();
  const task = library.getDocument({
    // the library keeps what it is given
    data: new Uint8Array(bytes),
    verbosity: 0,
    isEvalSupported: false,
    disableFontFace: true,
    useWorkerFetch: false,
  });
  try {
    return { document: await task.promise, ops: library.OPS as unknown as Record<string, number>, close: () => task.destroy() };
  } catch (e) {
    await task.destroy().catch(() => undefined);
    const name = (e as Error).name;
    if (name === 'PasswordException') throw new ReadError('this PDF is protected by a password; save it without one, or print it to a new PDF');
    throw new ReadError('this PDF is broken or cut off; export it again from the program that it comes from');
  }
}
