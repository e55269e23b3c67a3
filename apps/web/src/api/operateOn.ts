/** One change of a set that is not open here. */
import { newId, type Operation, type SetDocument } from '@zakuska/core';
import { api, call } from './client.js';

/**
 * Makes a change on a set as it is now, on top of what others do meanwhile.
 * @param make the change, for the document as it is
 * @throws ApiError where the set is not there, may not be changed, or others change the same
 */
export async function operateOn(set: string, make: (document: SetDocument) => Operation): Promise<void> {
  const path = { params: { path: { set } } };
  const { version, document } = await call(api.GET('/api/v1/sets/{set}', path));
  const operation = make(document);
  await call(api.POST('/api/v1/sets/{set}/operations', { ...path, body: { base: version, merge: true, operations: [{ id: newId(), operation }] } }));
}
