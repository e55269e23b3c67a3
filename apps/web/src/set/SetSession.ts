/**
 * One open set: every edit is an operation, applied at once, kept in this browser, sent in order, and put on top of what
 * others did meanwhile. Nothing is overwritten unasked.
 */
import { apply, clash, newId, type Operation, OperationError, rebase, sanitiseFields, type SetDocument } from '@zakuska/core';
import { ApiError, api, call, type Schemas } from '../api/client.js';
import { local, type Pending } from './local.js';

export type SaveState = 'saved' | 'saving' | 'offline' | 'refused';

export interface Snapshot {
  document: SetDocument;
  save: SaveState;
  canUndo: boolean;
  canRedo: boolean;
  /** Edits of mine that touch what somebody else changed meanwhile. */
  conflicts: Conflict[];
  problem: string | null;
}
/** An edit of mine that waits for a decision, and who changed the same. */
export interface Conflict extends Pending {
  by: string[];
}

type SetView = Schemas['SetView'];
const RETRY = 3000;

/** An operation that takes another back, which was sent under `of`. */
interface Back {
  of: string;
  operation: Operation;
}

export class SetSession {
  private version: number;
  private pending: Pending[] = [];
  /** Mine that the server has put on top of what others did; theirs lie between and are to be fetched before anything else is sent. */
  private readonly taken = new Set<string>();
  /** What the server has is to be fetched before anything else is sent. */
  private behind = false;
  private sending = false;
  /** The newest version that the server has told of. */
  private newest = 0;
  private retry: ReturnType<typeof setTimeout> | undefined;
  private undos: Back[] = [];
  private redos: Back[] = [];
  private listeners = new Set<() => void>();
  private snapshot: Snapshot;

  private constructor(
    readonly id: string,
    view: SetView,
  ) {
    this.version = view.version;
    this.snapshot = { document: view.document, save: 'saved', canUndo: false, canRedo: false, conflicts: [], problem: null };
  }

  /** Opens a set with what this browser has not sent yet. */
  static async open(view: SetView): Promise<SetSession> {
    const s = new SetSession(view.id, view);
    const kept = await local.pending(view.id);
    if (kept?.operations.length) {
      s.pending = kept.operations;
      s.version = kept.base;
      s.behind = true;
      // where the line is lost meanwhile, the set opens as the server has it, and what is kept here comes later
      await s.flush();
    }
    return s;
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly get = (): Snapshot => this.snapshot;

  private update(change: Partial<Snapshot>): void {
    this.snapshot = { ...this.snapshot, ...change, canUndo: this.undos.length > 0, canRedo: this.redos.length > 0 };
    for (const l of this.listeners) l();
  }

  /** Does an operation. Gives false, and says why, where it does not fit. */
  perform(operation: Operation): boolean {
    const back = this.run(sanitiseFields(operation));
    if (!back) return false;
    this.undos.push(back);
    this.redos = [];
    this.update({});
    return true;
  }
  undo(): boolean {
    return this.turn(this.undos, this.redos);
  }
  redo(): boolean {
    return this.turn(this.redos, this.undos);
  }
  private turn(from: Back[], to: Back[]): boolean {
    const last = from.pop();
    if (!last) return false;
    const back = this.run(last.operation);
    if (back) to.push(back);
    this.update({});
    return back !== null;
  }

  private run(operation: Operation): Back | null {
    try {
      const { document, inverse } = apply(this.snapshot.document, operation);
      const id = newId();
      this.pending.push({ id, operation });
      this.update({ document, save: 'saving', problem: null });
      void local.keepPending(this.id, this.version, this.pending);
      void this.flush();
      return { of: id, operation: inverse };
    } catch (e) {
      if (!(e instanceof OperationError)) throw e;
      this.update({ problem: e.message });
      return null;
    }
  }

  /** Sends what is waiting, one batch at a time. */
  async flush(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.retry);
    let refused: string | null = null;
    let arrived = false;
    try {
      while (this.behind || this.pending.length || this.taken.size) {
        const batch = this.pending.slice(0, 200);
        try {
          // here, where what fails is tried again
          if (this.behind || this.taken.size) {
            await this.catchUp(this.version);
            this.behind = false;
            continue;
          }
          const base = this.version;
          const { version, merged } = await call(
            api.POST('/api/v1/sets/{set}/operations', { params: { path: { set: this.id } }, body: { base, operations: batch, merge: true } }),
          );
          this.pending = this.pending.slice(batch.length);
          if (merged) for (const { id } of batch) this.taken.add(id);
          else this.version = version;
          await local.keepPending(this.id, this.version, this.pending);
        } catch (e) {
          if (!(e instanceof ApiError)) throw e;
          if (e.status === 409) this.behind = true;
          else if (e.status === 422 || e.status === 400) {
            this.refuse(e);
            refused = e.message;
            // the page shows it still: what the server has, with what is waiting on top, takes its place
            this.behind = true;
          } else {
            this.update({ save: e.status === 0 || e.status >= 500 || e.status === 401 ? 'offline' : 'refused', problem: e.message });
            this.retry = setTimeout(() => void this.flush(), RETRY);
            return;
          }
        }
      }
      this.update({ save: 'saved', problem: refused });
      arrived = true;
    } finally {
      this.sending = false;
    }
    if (arrived && this.newest > this.version) void this.refresh();
  }

  /** An operation that the server will never take goes; the person is told, the rest goes on. */
  private refuse(e: ApiError): void {
    const bad = this.pending.find((p) => p.id === e.body['id']) ?? this.pending[0];
    this.pending = this.pending.filter((p) => p !== bad);
    const others = (list: readonly Back[]): Back[] => list.filter((b) => b.of !== bad?.id);
    [this.undos, this.redos] = [others(this.undos), others(this.redos)];
    this.update({ problem: e.message, conflicts: bad ? [...this.snapshot.conflicts, { ...bad, by: [] }] : this.snapshot.conflicts });
  }

  /** Fetches what others did since `base` and puts what is waiting here on top. */
  private async catchUp(base: number): Promise<void> {
    const set = { params: { path: { set: this.id } } };
    const [view, since] = await Promise.all([
      call(api.GET('/api/v1/sets/{set}', set)),
      call(api.GET('/api/v1/sets/{set}/operations', { params: { path: { set: this.id }, query: { since: String(base) } } })),
    ]);
    const mine = new Set([...this.pending.map((p) => p.id), ...this.taken]);
    const others = since.filter((o) => !mine.has(o.id));
    const theirs = others.map((o) => o.operation);
    const arrived = new Set(since.map((o) => o.id));
    const waiting = this.pending.filter((p) => !arrived.has(p.id));
    const r = rebase(view.document, waiting, theirs);
    const whoChanged = (operation: Operation): string[] => [...new Set(others.flatMap((o) => (clash(operation, o.operation) ? [o.by] : [])))];
    this.version = view.version;
    this.taken.clear();
    this.pending = r.kept;
    this.undos = this.undos.filter(({ operation }) => !theirs.length || rebase(r.document, [{ operation }], theirs).kept.length > 0);
    // before anything is waited for: an edit that comes meanwhile goes on top of this
    this.update({ document: r.document, conflicts: [...this.snapshot.conflicts, ...r.conflicts.map((c) => ({ ...c, by: whoChanged(c.operation) }))] });
    await local.keepPending(this.id, this.version, this.pending);
  }

  /** The server says what version the set has by now: what others did is taken in, at once or when mine has arrived. */
  heard(version: number): void {
    this.newest = Math.max(this.newest, version);
    if (this.newest > this.version) void this.refresh();
  }
  /** Takes in what others did, where nothing of mine is waiting. */
  async refresh(): Promise<void> {
    if (this.pending.length || this.sending) return;
    try {
      const view = await call(api.GET('/api/v1/sets/{set}', { params: { path: { set: this.id } } }));
      if (view.version > this.version) this.behind = true;
    } catch {
      /* the next edit will tell */
    }
    // by the one that sends: two at once would put an older state over a newer
    if (this.behind) await this.flush();
  }

  /** A person decided about a conflict: mine goes on top of theirs, or is let go. */
  settle(conflict: Conflict, useMine: boolean): void {
    this.update({ conflicts: this.snapshot.conflicts.filter((c) => c !== conflict) });
    if (useMine) this.perform(conflict.operation);
  }
}
