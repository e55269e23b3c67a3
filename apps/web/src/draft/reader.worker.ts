/** Reads drafts away from the page, so that typing never waits. Sends only what changed since the reading before. */
import { DraftReader, type Diagnostic, type Item, type KeysFrom, type LineRole, type LookCount, type QuizSet, type Role } from '@zakuska/core';
import { expose } from 'comlink';

/** A reading as the difference to the one before. */
export interface ReadingChange {
  /** Items in order: the place of one that was there before, or a new one. */
  items: (number | Item)[];
  /** Where each item stands in the draft: from, to, from, to … */
  places: Int32Array;
  set: Omit<QuizSet, 'items'>;
  diagnostics: Diagnostic[];
  asides: number;
  looks: LookCount[];
  /** The roles that occur, and for each line which of them it has. */
  roles: LineRole[];
  ofLine: Uint16Array | Uint32Array;
}

const readers = new Map<string, { reader: DraftReader; sent: Map<string, number> }>();

const remote = {
  /** Reads the draft called `id`; `fresh` when the page does not hold the reading before. */
  read(id: string, text: string, overrides: [number, Role][], language: string | undefined, keysFrom: KeysFrom, fresh: boolean): ReadingChange {
    const own = readers.get(id) ?? { reader: new DraftReader(), sent: new Map<string, number>() };
    readers.set(id, own);
    if (fresh) own.sent = new Map();
    const r = own.reader.read(text, { overrides: new Map(overrides), keysFrom, ...(language && { language }) });
    const { items, ...set } = r.set;
    const places = new Int32Array(items.length * 2);
    const change = items.map((item, i): number | Item => {
      places[2 * i] = item.source?.from ?? 0;
      places[2 * i + 1] = item.source?.to ?? 0;
      return own.sent.get(`${item.id} ${item.section ?? ''}`) ?? item;
    });
    own.sent = new Map(items.map((item, i) => [`${item.id} ${item.section ?? ''}`, i]));
    const kinds = new Map<string, number>();
    const roles: LineRole[] = [];
    const ofLine = r.roles.length < 65_000 ? new Uint16Array(r.roles.length) : new Uint32Array(r.roles.length);
    r.roles.forEach((role, i) => {
      const key = `${role.role}\u0001${role.mark}\u0001${role.reason}`;
      let at = kinds.get(key);
      if (at === undefined) {
        at = roles.push(role) - 1;
        kinds.set(key, at);
      }
      ofLine[i] = at;
    });
    return { items: change, places, set, diagnostics: r.diagnostics, asides: r.asides.length, looks: r.looks, roles, ofLine };
  },
};
export type DraftWorker = typeof remote;
expose(remote);
