/** The items of the bank in SQL: an item `i` of a set `s`, which lies in a folder `f` or in none. */
import { difficultyThirds, ENOUGH_ANSWERS, type MemberRole } from '@zakuska/core';
import { seesSet, type Signed } from '../accounts/access.js';

export interface Where {
  text: string;
  params: unknown[];
}
export const BANK = 'set_item i join quiz_set s on s.id = i.set_id left join folder f on f.id = s.folder_id';
/** Items of live sets that a person sees: what is closed only where it is shared with them. */
export const seenBy = (workspace: string, me: Signed, role: MemberRole): Where => ({
  text: `s.workspace_id = ? and s.deleted_at is null and ${seesSet('?::uuid', '?')}`,
  params: [workspace, me.account.id, role],
});

/** Thirds of the difficulty: by answers where there are enough, else by the level. Counts by it are kept: another rule needs a migration that takes `item_counts` away. */
export const HARDNESS = [...Object.keys(difficultyThirds), 'unknown'];
export const hardness = `(select case when d is null then 'unknown' ${Object.entries(difficultyThirds)
  .map(([name, { to }]) => `when d < ${to} then '${name}'`)
  .join(' ')} else '${Object.keys(difficultyThirds).at(-1) ?? ''}' end
  from (select case when i.answers >= ${ENOUGH_ANSWERS} and i.share is not null then 1 - i.share else i.difficulty end as d) x)`;
/** Whether somebody answered it. */
export const use = `case when i.answers > 0 then 'used' else 'never' end`;
