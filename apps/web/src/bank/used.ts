import { counted } from '@zakuska/core';
import type { Schemas } from '../api/client.js';

/** How an item did, in a few words. */
export function usedWords({ answers, share, at, sets }: Schemas['UseView']): string {
  const copies = sets > 1 ? `in ${sets} sets, ` : '';
  if (!answers) return `${copies}not used yet`;
  const when = at === undefined ? '' : `, last ${new Date(at).toLocaleDateString(undefined, { day: 'numeric', month: 'short', year: 'numeric' })}`;
  return `${copies}${counted(answers, 'answer')}${share === undefined ? '' : `, ${Math.round(share * 100)} % earned`}${when}`;
}
