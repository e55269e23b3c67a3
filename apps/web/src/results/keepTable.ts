/** A marked table kept with the results of a set. */
import { type KeptTable, newId } from '@zakuska/core';
import { api, call } from '../api/client.js';

/** Keeps it. @param id of the source that it becomes: kept again under the same id, it is there once @returns the id */
export async function keepInResults(set: string, title: string, { items, people }: KeptTable, id = newId()): Promise<string> {
  await call(api.POST('/api/v1/sets/{set}/tables', { params: { path: { set } }, body: { id, title, items, people } }));
  return id;
}
