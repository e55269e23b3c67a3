/** Reads drafts away from the page, so that typing never waits. Sends only what changed since the reading before. */
import {
  TypedDraft,
  type Diagnostic,
  type DraftOptions,
  type Item,
  type KeysFrom,
  type LineRole,
  type LookCount,
  type QuizSet,
  type Role,
} from '@zakuska/core';
import { expose } from 'comlink';

/** A reading as the difference to the one before. */
export interface ReadingChange {
  /** The whole draft was read; else what was typed last was read near by, and the whole is to follow. */
  whole: boolean;
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

const readers = new Map<string, { reader: TypedDraft; sent: Map<string, number> }>();

const remote = {
  /** Reads the draft called `id`, near by where that can be and `whole` does not ask for more; `fresh` when the page does not hold the reading before. */
  read(id: string, text: string, overrides: [number, Role][], language: string | undefined, keysFrom: KeysFrom, fresh: boolean, whole: boolean): ReadingChange {
    const own = readers.get(id) ?? { reader: new TypedDraft(), sent: new Map<string, number>() };
    readers.set(id, own);
    if (fresh) own.sent = new Map();
    const options: DraftOptions = { overrides: new Map(overrides), keysFrom, ...(language && { language }) };
    const near = whole || fresh ? null : own.reader.near(text, options);
    const r = near ?? own.reader.read(text, options);
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
    return { whole: !near, items: change, places, set, diagnostics: r.diagnostics, asides: r.asides.length, looks: r.looks, roles, ofLine };
  },

  /** Is told on which line the caret stands. */
  prepare(id: string, line: number): void {
    readers.get(id)?.reader.prepare(line);
  },
};
export type DraftWorker = typeof remote;
expose(remote);
