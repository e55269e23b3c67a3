import type { DocumentText } from '../document.js';
export async function readPdf(bytes: Uint8Array): Promise<DocumentText> {
  return { text: String(bytes.length), notes: [], pictures: 0 };
}
