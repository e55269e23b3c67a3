/** Which items of a set are shown: every condition has to hold. */
import { plainOf } from '../item/richText.js';
import type { Evidence } from '../source/evidence.js';
import type { Finding } from '../check/finding.js';
import { keyProblem } from '../item/kinds.js';
import type { Item, Kind } from '../item/model.js';
import type { SetDocument } from '../item/operations.js';
import { mapTexts } from '../item/texts.js';

/** Which items are wanted; a field that is not set wants all. */
export interface Filter {
  state?: 'open' | 'checked' | 'left-out' | 'error' | undefined;
  kind?: Kind | undefined;
  /** A rule's code, or `any`. */
  finding?: string | undefined;
  outcome?: string | undefined;
  tag?: string | undefined;
  words?: string | undefined;
  /** The account whose share of the checking it is. */
  work?: string | undefined;
  /** What the sources say of its key. */
  evidence?: Evidence['verdict'] | undefined;
}

/** Where an item stands: an item without a key is an error whatever was said of it, unless it is left out. */
export function stateOf(document: SetDocument, item: Item): 'open' | 'checked' | 'left-out' | 'error' {
  const review = document.reviews[item.id];
  if (review?.state === 'left-out') return 'left-out';
  return keyProblem(item) ? 'error' : (review?.state ?? 'open');
}

/** All words of an item, in small letters. */
export function wordsOf(item: Item): string {
  const out: string[] = [item.label ?? ''];
  mapTexts(item, (text, place) => {
    out.push(place.rich ? plainOf(text) : text);
    return text;
  });
  return [...out, ...(item.tags ?? []), ...(item.outcomes ?? [])].join(' \n ').toLowerCase();
}

/** Whether a filter wants anything at all. */
export const isFiltering = (f: Filter): boolean => Object.values(f).some(Boolean);

/** The items of a set that a filter lets through, in order. */
export function filterItems(document: SetDocument, f: Filter, findings: readonly Finding[], evidence: ReadonlyMap<string, Evidence> = new Map()): Item[] {
  const found = f.finding ? new Set(findings.filter((x) => f.finding === 'any' || x.code === f.finding).flatMap((x) => x.items)) : null;
  const words = f.words?.toLowerCase().split(/\s+/).filter(Boolean) ?? [];
  const work = f.work ? new Set(document.work?.find((w) => w.account === f.work)?.items) : null;
  return document.set.items.filter((i) => {
    if (work && !work.has(i.id)) return false;
    if (f.state && stateOf(document, i) !== f.state) return false;
    if (f.kind && i.kind !== f.kind) return false;
    if (found && !found.has(i.id)) return false;
    if (f.outcome && !i.outcomes?.includes(f.outcome)) return false;
    if (f.tag && !i.tags?.includes(f.tag)) return false;
    if (f.evidence && evidence.get(i.id)?.verdict !== f.evidence) return false;
    if (!words.length) return true;
    const all = wordsOf(i);
    return words.every((w) => all.includes(w));
  });
}
