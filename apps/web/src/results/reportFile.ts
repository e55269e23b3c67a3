/** Reports as PDF, which the server sets. */
import { bytesOf, picturesApart, type QuizSet, type Report } from '@zakuska/core';
import { api, call } from '../api/client.js';

/** @param set with the pictures that the report names. @throws ApiError where the server refuses it */
export async function reportFile(report: Report, set: QuizSet): Promise<Uint8Array> {
  const pictures = { ...picturesApart(set), items: [] };
  const { data } = await call(api.POST('/api/v1/print/report', { body: { report: { ...report }, set: pictures } }));
  return bytesOf(data);
}
