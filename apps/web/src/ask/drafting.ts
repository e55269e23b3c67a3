/** Calls of the drafting worker: what it wants to know of words is fetched for it, each word once. */
import type { SourceText } from '@zakuska/core';
import type { DraftedItems, DraftWish, VocabularyWish, WordList } from '@zakuska/core/drafter';
import type { Sense } from '@zakuska/core/lexicon';
import { api, call } from '../api/client.js';
import { WorkerClient } from '../worker/client.js';
import { latestFrom, type LatestCall } from '../worker/latest.js';
import type { DraftingWorker, FromWords, SaidOfWord } from './drafter.worker.js';

/** The server looks up so many words at once. */
const AT_ONCE = 3000;
const worker = new WorkerClient<DraftingWorker>(() => new Worker(new URL('./drafter.worker.js', import.meta.url), { type: 'module' }));

/** What a worker was told, by the worker: a new one knows nothing. */
const told = new WeakMap<object, { words: Set<string>; open?: unknown; near?: unknown }>();
const toldTo = (w: object): { words: Set<string>; open?: unknown; near?: unknown } => {
  const kept = told.get(w) ?? { words: new Set<string>() };
  told.set(w, kept);
  return kept;
};

/** Fetches the meanings of words that were not fetched before. @throws the error of the server */
async function meaningsFor(words: readonly string[], before: ReadonlySet<string>): Promise<Record<string, Sense[]>> {
  const fresh = words.filter((w) => !before.has(w));
  const out: Record<string, Sense[]> = {};
  for (let i = 0; i < fresh.length; i += AT_ONCE)
    Object.assign(out, (await call(api.POST('/api/v1/lexicon', { body: { words: fresh.slice(i, i + AT_ONCE) } }))).senses as Record<string, Sense[]>);
  return out;
}

export interface FromSource {
  sources: readonly SourceText[];
  language: string | undefined;
  wish: DraftWish;
}
/** What stands there while no source is open. */
export const NOTHING: DraftedItems = { drafted: [], fewer: [], sentences: 0, usable: 0 };
/** The newest draft from sources. */
export const sourceCall = (): LatestCall<FromSource, DraftedItems> =>
  latestFrom(worker, async (remote, q: FromSource, _before, which): Promise<DraftedItems> => {
    if (!q.sources.length) return NOTHING;
    const t = toldTo(which);
    if (t.open !== q.sources) {
      const words = await remote.open(q.sources, q.language);
      await remote.know(await meaningsFor(words, t.words));
      for (const w of words) t.words.add(w);
      t.open = q.sources;
    }
    return remote.draft(q.wish);
  });

export interface FromList {
  text: string;
  said: Readonly<Record<string, SaidOfWord>>;
  wish: VocabularyWish;
  sources: readonly SourceText[];
  language: string | undefined;
}
export interface ListDrafted extends FromWords {
  list: WordList;
}
const NO_WORDS: ListDrafted = { list: { words: [], unread: [] }, words: [], choices: [], drafted: [], without: [] };
/** The newest items from a list of words. English words are looked up, others ask by their own glosses. */
export const wordsCall = (): LatestCall<FromList, ListDrafted> =>
  latestFrom(worker, async (remote, q: FromList, _before, which): Promise<ListDrafted> => {
    if (!q.text.trim()) return NO_WORDS;
    const t = toldTo(which);
    const list = await remote.list(q.text);
    if (!q.language || /^en\b/i.test(q.language)) {
      await remote.know(await meaningsFor(list.forms, t.words));
      for (const w of list.forms) t.words.add(w);
    }
    if (t.near !== q.sources) {
      await remote.near(q.sources, q.language);
      t.near = q.sources;
    }
    return { list, ...(await remote.vocabulary(list, q.said, q.wish)) };
  });

/** Outcomes that a source allows. @throws what the worker throws */
export const outcomesFrom = (source: SourceText, language: string | undefined): Promise<string[]> =>
  worker.call((remote) => remote.outcomes([source], language));
