/** Papers as PDF and answer sheets, which the server sets. */
import { bytesOf, type PaperLook, picturesApart, type QuizSet, type SheetPerson } from '@zakuska/core';
import { api, call } from '../api/client.js';
import type { Made } from './deliver.worker.js';

/** Whether its pages can be looked at. */
export const hasPages = (form: string): boolean => form.startsWith('pdf-');
/** Whether a form is an answer sheet: one for anybody, or one for each of a class. */
export const isSheet = (form: string): boolean => form.endsWith('-sheet');
/** Whether a form can look in several ways: the answer sheet is read by its measures. */
export const hasLook = (form: string): boolean => hasPages(form) && !isSheet(form);

/**
 * A set as the server sets it in one of its forms.
 * @param people for each of whom an answer sheet is made
 * @throws ApiError where the server refuses it
 */
export async function printed(set: QuizSet, form: string, look: PaperLook, people: readonly SheetPerson[] = []): Promise<Made> {
  const body = { form: form as 'pdf-paper', set: picturesApart(set), look, ...(isSheet(form) && people.length > 0 && { people: [...people] }) };
  const { name, data, mediaType, readBack } = await call(api.POST('/api/v1/print', { body }));
  return { bytes: bytesOf(data), name, mediaType, readBack };
}
