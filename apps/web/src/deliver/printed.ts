/** Papers as PDF, which the server sets. */
import { bytesOf, type PaperLook, picturesApart, type QuizSet } from '@zakuska/core';
import { api, call } from '../api/client.js';
import type { Made } from './deliver.worker.js';

/** Whether a form is set by the server. */
export const isPrinted = (form: string): boolean => form.startsWith('pdf-');

/** Whether a form can look in several ways: the answer sheet is read by its measures. */
export const hasLook = (form: string): boolean => isPrinted(form) && form !== 'pdf-sheet';

/** A set as PDF in one of its forms. @throws ApiError where the server refuses it */
export async function printed(set: QuizSet, form: string, look: PaperLook): Promise<Made> {
  const { name, data, readBack } = await call(api.POST('/api/v1/print', { body: { form: form as 'pdf-paper', set: picturesApart(set), look } }));
  return { bytes: bytesOf(data), name, mediaType: 'application/pdf', readBack };
}
