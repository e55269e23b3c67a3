/** The draft text of a set: a document of its own, with its own version. */
import { Injectable } from '@nestjs/common';
import { EntityManager, LockMode } from '@mikro-orm/postgresql';
import { gone, Problem } from '../platform/problem.js';
import { type DraftState, SetRecord } from './entities.js';

@Injectable()
export class Drafts {
  constructor(private readonly em: EntityManager) {}

  /**
   * Keeps a draft. The same once more changes nothing.
   * @param base the version that it is based on
   * @returns its version then
   * @throws Problem 409 with the draft that is there, where somebody else changed it meanwhile
   */
  save(set: string, base: number, draft: DraftState): Promise<number> {
    return this.em.fork().transactional(async (em) => {
      const r = await em.findOne(SetRecord, { id: set }, { lockMode: LockMode.PESSIMISTIC_WRITE, populate: ['draft'] });
      if (!r) throw gone('set');
      const same = r.draft.text === draft.text && r.draft.keysFrom === draft.keysFrom && JSON.stringify(r.draft.overrides) === JSON.stringify(draft.overrides);
      if (same) return r.draftVersion;
      if (r.draftVersion !== base)
        throw new Problem(409, 'stale-draft', 'Somebody else changed this draft meanwhile.', { version: r.draftVersion, draft: r.draft });
      r.draft = draft;
      r.draftVersion++;
      r.updatedAt = new Date();
      return r.draftVersion;
    });
  }
}
