/**
 * Makes items so that a destination can hold them, and says what that changes. A writer writes what comes out of here and nothing
 * else, so what is said beforehand is what happens: reading the file back gives `Fit.items`.
 */
import { keyProblem } from '../item/kinds.js';
import type { Item, QuizSet, Section } from '../item/model.js';
import { richFromPlain, richToPlain } from '../item/richText.js';
import { changedFields, sectionOf, tidyRich } from '../item/sameness.js';
import { drop, FIELD_ROWS, options, SECTION_FIELDS } from './fields.js';
import { type Change, everything, holds, type Profile } from './profile.js';
import { GENERAL, passageInFront } from './steps.js';

/** How an item fares at a destination. No note: it fits as it is. */
export interface FitNote {
  item: string;
  /** adapted: said in another way; lost: something does not go with it; impossible: the item stays behind. */
  fit: 'adapted' | 'lost' | 'impossible';
  /** In a few words, for a cell of a table. */
  brief: string;
  message: string;
  /** Nothing that a learner sees or that changes a mark: notes of the teacher's own. */
  minor?: boolean;
}

/** Whether something changes that a learner would meet. */
export const matters = (f: Fit): boolean => f.notes.some((n) => !n.minor);

/** What an item becomes at a destination: the items that go, the fields that are lost, and the words for both. */
export interface Fit {
  /** The item as the destination holds it; several where it has to be split; none where it stays behind. */
  items: Item[];
  notes: FitNote[];
  /** The fields that differ when it is read back, as `changedFields` names them; `section` for those of its part; `item` where it is split or stays behind. */
  losses: string[];
  /** Texts that have to be shorter for the item to go; absent where that would not help. */
  long?: TooLong[];
}

/** What an item becomes at a destination. */
export function fit(item: Item, profile: Profile, set: QuizSet): Fit {
  const notes: FitNote[] = [];
  const note = (f: FitNote['fit'], brief: string, message: string, isMinor?: boolean): void =>
    void notes.push({ item: item.id, fit: f, brief, message, ...(isMinor && { minor: true }) });
  const stays = (brief: string, message: string): Fit => {
    note('impossible', brief, message);
    return { items: [], notes: notes.slice(-1), losses: ['item'] };
  };
  if (!profile.keyless) {
    const none = keyProblem(item);
    if (none) return stays('no key', `it has ${none.message}`);
  }
  const recast = (i: Item, depth: number): Item[] | string => {
    const as = profile.recast?.[i.kind];
    if (!as) return profile.kinds.includes(i.kind) ? [i] : 'there is nothing of its kind there';
    const made = as.make(i, set);
    if (typeof made === 'string' || made[0] === i || depth > 3) return made;
    note('adapted', as.brief, as.message);
    const out: Item[] = [];
    for (const m of made) {
      const next = m.kind === i.kind ? [m] : recast(m, depth + 1);
      if (typeof next === 'string') return next;
      out.push(...next);
    }
    return out;
  };
  const first = profile.passageInFront ? passageInFront(item, set, profile) : null;
  if (first) note(first.fit, first.brief, first.message);
  const items = recast(first?.item ?? item, 0);
  if (typeof items === 'string') return stays('cannot go', items);
  const seen = new Set<string>();
  const done: Item[] = [];
  for (const start of items) {
    let now = start;
    const apply = (c: Change | null): void => {
      if (!c) return;
      const same = seen.has(c.message) || (!c.told && !changedFields(now, c.item).length);
      now = c.item;
      if (same) return;
      note(c.fit, c.brief, c.message, c.minor);
      seen.add(c.message);
    };
    for (const step of profile.furtherSteps ?? []) apply(step(now, set, profile));
    for (const [field, row] of FIELD_ROWS) {
      if (holds(profile, field, now.kind) || !row.has(now, set)) continue;
      if (field === 'section.passage' && profile.passageInFront) continue;
      const message = typeof row.message === 'string' ? row.message : row.message(now);
      if (field === 'section.title' || field === 'section.instructions' || field === 'section.passage') {
        if (!seen.has(message)) note('lost', row.brief, message, row.minor);
        seen.add(message);
      } else apply({ item: row.without(now), fit: 'lost', brief: row.brief, message, ...(row.minor && { minor: true }) });
    }
    if (profile !== everything) for (const step of GENERAL) apply(step(now, set, profile));
    const refused = tooMuch(now, profile) ?? profile.refuses?.(now) ?? null;
    if (refused) {
      const long = tooLong(item, profile);
      return { ...stays('cannot go', refused), ...(long.length && { long }) };
    }
    done.push(now);
  }
  // numbers of the gaps that were taken apart: items of one gap only are whole again
  const one = done.length === 1 ? done[0] : undefined;
  const losses = one ? (one === item ? [] : changedFields(item, one)) : ['item'];
  const section = item.section === undefined ? undefined : set.sections?.find((s) => s.id === item.section);
  if (one && section && profile !== everything) {
    const kept = heldSection(section, profile);
    const there = sectionOf(item, { ...set, sections: kept ? [kept] : [] });
    if (JSON.stringify(there) !== JSON.stringify(sectionOf(item, set))) {
      losses.push('section');
      const reworded = SECTION_FIELDS.some((n) => n !== 'title' && kept?.[n] && tidyRich(kept[n]) !== tidyRich(section[n] ?? ''));
      if (reworded) note('lost', 'plain text', 'the text of its part becomes plain text there');
    }
  }
  return { items: done, notes, losses };
}

/** A text of an item that is longer than a destination takes: of its question, or of the option with that id. */
export interface TooLong {
  option?: string;
  /** As it is shown, without markup. */
  text: string;
  most: number;
}
/** The texts of an item that are longer than a destination takes, in characters (UTF-16 units) without markup; pictures count by their words. */
export function tooLong(item: Item, { most = {} }: Pick<Profile, 'most'>): TooLong[] {
  const over = (rich: string, limit: number | undefined, option?: string): TooLong[] => {
    const text = richToPlain(rich);
    return limit !== undefined && text.length > limit ? [{ ...(option !== undefined && { option }), text, most: limit }] : [];
  };
  return [...over(item.stem, most.question), ...options(item).flatMap((o) => over(o.content, most.option, o.id))];
}

function tooMuch(item: Item, { most }: Profile): string | null {
  if (!most) return null;
  const long = options(item);
  if (most.options && long.length > most.options) return `it has ${long.length} options; ${most.options} are possible there`;
  const [first] = tooLong(item, { most });
  return first ? `${first.option === undefined ? 'its question' : 'an option'} has ${first.text.length} characters; ${first.most} are possible there` : null;
}

/** A part as a destination holds it: what it has a place for, in words where it has no more; null where nothing is left. */
function heldSection(s: Section, profile: Profile): Section | null {
  const plain_ = (name: (typeof SECTION_FIELDS)[number], text: string): string => (profile.rich || name === 'title' ? text : richFromPlain(richToPlain(text)));
  const kept = Object.fromEntries(SECTION_FIELDS.flatMap((n) => (s[n] && profile.holds[`section.${n}`] ? [[n, plain_(n, s[n])]] : [])));
  return Object.keys(kept).length ? { id: s.id, ...kept } : null;
}

/** A whole set as a destination holds it, with what becomes of each item, in their order. */
export function fitSet(set: QuizSet, profile: Profile): { set: QuizSet; fits: Fit[] } {
  const fits = set.items.map((i) => fit(i, profile, set));
  const sections = (set.sections ?? []).flatMap((s): Section[] => {
    const kept = heldSection(s, profile);
    return kept ? [kept] : [];
  });
  const known = new Set(sections.map((s) => s.id));
  const items = fits.flatMap((f) => f.items).map((i) => (i.section === undefined || known.has(i.section) ? i : drop('section')(i)));
  const { sections: _all, ...rest } = set;
  return { set: { ...rest, items, ...(sections.length && { sections }) }, fits };
}
