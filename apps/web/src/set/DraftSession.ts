/** The draft of an open set: kept in this browser at once, saved to the server when typing rests, never over another's text. */
import type { KeysFrom, Role } from '@zakuska/core';
import { ApiError, api, call, type Schemas } from '../api/client.js';
import { local, type LocalDraft } from './local.js';

export interface Override {
  line: number;
  role: Role;
}
export interface DraftSnapshot {
  text: string;
  overrides: Override[];
  /** The look of options that says the key; undecided while a person was not asked. */
  keysFrom?: KeysFrom | undefined;
  save: 'saved' | 'saving' | 'offline';
  /** Somebody else's text, where it differs from what mine was based on. */
  theirs: { text: string; overrides: Override[]; keysFrom?: KeysFrom | undefined; version: number } | null;
  /** Why the server does not take the text. */
  problem: string | null;
  /** Counts up when the text changed from outside the editor. */
  replaced: number;
}

export class DraftSession {
  private base: number;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sending = false;
  private dirty = false;
  private listeners = new Set<() => void>();
  private snapshot: DraftSnapshot;

  private constructor(
    private readonly id: string,
    view: Schemas['SetView'],
  ) {
    // roles that are no longer known are none of the menu, and the reader leaves them aside
    const draft = { ...view.draft, overrides: view.draft.overrides as Override[] };
    this.base = view.draftVersion;
    this.snapshot = { ...draft, save: 'saved', theirs: null, problem: null, replaced: 0 };
  }

  static async open(view: Schemas['SetView']): Promise<DraftSession> {
    const s = new DraftSession(view.id, view);
    const kept = await local.draft(view.id);
    if (kept && kept.text !== s.snapshot.text) {
      const theirs =
        kept.base === view.draftVersion
          ? null
          : { text: s.snapshot.text, overrides: s.snapshot.overrides, keysFrom: s.snapshot.keysFrom, version: view.draftVersion };
      s.snapshot = {
        ...s.snapshot,
        text: kept.text,
        overrides: kept.overrides as Override[],
        keysFrom: kept.keysFrom as KeysFrom | undefined,
        theirs,
        save: 'saving',
      };
      s.dirty = true;
      if (!theirs) s.schedule(0);
    }
    return s;
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly get = (): DraftSnapshot => this.snapshot;
  private update(change: Partial<DraftSnapshot>): void {
    this.snapshot = { ...this.snapshot, ...change };
    for (const l of this.listeners) l();
  }

  /** The editor's text changed. */
  change(text: string, overrides: Override[]): void {
    if (text === this.snapshot.text && JSON.stringify(overrides) === JSON.stringify(this.snapshot.overrides)) return;
    // another text is another question
    this.edited({ text, overrides, ...(!text.trim() && { keysFrom: undefined }) });
  }
  private edited(change: Partial<DraftSnapshot>): void {
    this.dirty = true;
    this.update({ ...change, save: 'saving', problem: null });
    const { text, overrides, keysFrom } = this.snapshot;
    void local.keepDraft(this.id, { base: this.base, text, overrides, ...(keysFrom && { keysFrom }) } satisfies LocalDraft);
    this.schedule(600);
  }
  /** A person decided which look says the keys. */
  decideKeys(keysFrom: KeysFrom | undefined): void {
    this.edited({ keysFrom });
  }
  /** Where the page's editor takes text that comes from a file; without an editor it is put in here. */
  editor: ((text: string) => void) | null = null;
  /** Puts text from a file behind what is there. */
  add(text: string): void {
    if (this.editor) return this.editor(text);
    const before = this.snapshot.text.trimEnd();
    this.edited({ text: before ? `${before}\n\n${text}` : text, replaced: this.snapshot.replaced + 1 });
  }

  /** Puts another text in the place of the whole draft; what a person said of its lines is no longer about them. */
  rewrite(text: string): void {
    this.edited({ text, overrides: [], replaced: this.snapshot.replaced + 1 });
  }

  private schedule(ms: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), ms);
  }

  async save(): Promise<void> {
    if (this.sending || !this.dirty || this.snapshot.theirs) return;
    this.sending = true;
    this.dirty = false;
    const { text, overrides, keysFrom } = this.snapshot;
    try {
      const { version } = await call(
        api.PUT('/api/v1/sets/{set}/draft', {
          params: { path: { set: this.id } },
          body: { base: this.base, text, overrides, ...(keysFrom && keysFrom !== 'auto' && { keysFrom }) },
        }),
      );
      this.base = version;
      if (!this.dirty) {
        await local.keepDraft(this.id, null);
        this.update({ save: 'saved' });
      } else this.schedule(300);
    } catch (e) {
      this.dirty = true;
      if (e instanceof ApiError && e.status === 409) {
        const d = e.body['draft'] as { text: string; overrides: Override[]; keysFrom?: KeysFrom };
        this.update({ theirs: { ...d, version: Number(e.body['version']) }, save: 'offline' });
      } else if (e instanceof ApiError && e.status >= 400 && e.status < 500 && e.status !== 401) {
        this.update({ save: 'offline', problem: e.message });
      } else {
        this.update({ save: 'offline' });
        this.schedule(3000);
      }
    } finally {
      this.sending = false;
    }
  }

  /** The server says what version the draft has by now: theirs is taken in where nothing of mine waits, and nobody types in it. */
  async heard(version: number): Promise<void> {
    if (version <= this.base || this.dirty || this.sending || this.snapshot.theirs) return;
    try {
      const view = await call(api.GET('/api/v1/sets/{set}', { params: { path: { set: this.id } } }));
      // who began to type meanwhile is asked when their text is sent
      if (this.dirty || this.sending || view.draftVersion <= this.base) return;
      this.base = view.draftVersion;
      this.update({
        ...view.draft,
        overrides: view.draft.overrides as Override[],
        keysFrom: view.draft.keysFrom as KeysFrom | undefined,
        replaced: this.snapshot.replaced + 1,
      });
    } catch {
      // the next edit will tell
    }
  }

  /** A person decided: my text stays and goes on top, or theirs comes in. */
  settle(keepMine: boolean): void {
    const { theirs } = this.snapshot;
    if (!theirs) return;
    this.base = theirs.version;
    if (keepMine) {
      this.dirty = true;
      this.update({ theirs: null, save: 'saving' });
      this.schedule(0);
    } else {
      this.dirty = false;
      void local.keepDraft(this.id, null);
      this.update({
        text: theirs.text,
        overrides: theirs.overrides,
        keysFrom: theirs.keysFrom,
        theirs: null,
        save: 'saved',
        replaced: this.snapshot.replaced + 1,
      });
    }
  }
}
