/** A set made of items. */
import type { Item } from '@zakuska/core';
import { api, call } from './client.js';
import { operateOn } from './operateOn.js';

/** Makes a set in a workspace with these items in it. */
export async function makeSet(workspace: string, title: string, items: Item[]): Promise<{ id: string; title: string }> {
  const set = await call(api.POST('/api/v1/workspaces/{workspace}/sets', { params: { path: { workspace } }, body: { title } }));
  await operateOn(set.id, () => ({ type: 'insert', at: 0, items }));
  return set;
}
