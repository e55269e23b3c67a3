/** Reworking items with an assistant: the request, and what its reply would make of each item. */
import { readDraft } from '../draft/read.js';
import { writeNotation } from '../formats/notation/notation.js';
import { newId } from '../item/ids.js';
import { isQuestion, keyProblem, kinds, nameOf } from '../item/kinds.js';
import { type Feedback, type Item, type Kind, type Option, type QuizSet, UNTITLED } from '../item/model.js';
import type { Operation, SimpleOperation } from '../item/operations.js';
import { changedFields } from '../item/sameness.js';
import type { Translation } from '../item/translations.js';
import { compareKeys, optionPairs } from '../rework/keys.js';
import { mergeReply, type Merged, type MergedPair } from '../rework/merge.js';
import { languageName } from '../language/name.js';
import { sameSingles, textsIn, translationsFrom, unitsOf } from '../translate/index.js';
import { formOf } from './request.js';

/** What a person may say of an aim. */
export type AimDetail = 'language' | 'words' | 'count' | 'year' | 'kind';
/** One way to rework items. */
export interface Aim {
  name: string;
  /** What has to be said for it. */
  asks?: AimDetail;
  /** Adds items and leaves those that are there. */
  adds?: boolean;
  /** The instruction. */
  says: (detail: string) => string;
}
const KEEP = 'Keep what each item asks, its key and the order of its options.';
/** The ways to rework items, by their names in requests that are kept. */
export const aims = {
  language: {
    name: 'in another language',
    asks: 'language',
    says: (l) => `Put the items into ${languageName(l)}, as a teacher of the subject would write them. ${KEEP} Numbers, names and code stay as they are.`,
  },
  simpler: { name: 'in simpler words', says: () => `Say the items in simpler words and shorter sentences, for learners who read with effort. ${KEEP}` },
  harder: {
    name: 'harder',
    says: () => 'Make the items harder: ask for the use of what was learnt in a new case, and make the wrong options more tempting, but clearly wrong.',
  },
  year: { name: 'for a school year', asks: 'year', says: (y) => `Write the items so that learners of school year ${y} can read them. ${KEEP}` },
  shorter: { name: 'shorter', says: () => `Make the items shorter without leaving out what is needed to answer them. ${KEEP}` },
  feedback: {
    name: 'with feedback',
    says: () => `Add a line "Feedback:" to each item that says in one or two sentences why the key is right. Change nothing else. ${KEEP}`,
  },
  hints: {
    name: 'with hints',
    says: () => `Add two lines "Hint:" to each item, the second closer to the answer than the first, neither giving it away. Change nothing else. ${KEEP}`,
  },
  options: {
    name: 'with further wrong options',
    asks: 'count',
    says: (n) => `Add ${n} wrong options to each item, of the same sort and length as those that are there, and clearly wrong. Change nothing else. ${KEEP}`,
  },
  kind: { name: 'as another kind', asks: 'kind', says: (k) => `Write each item as a ${kindName(k)} item that asks for the same.` },
  like: {
    name: 'more like these',
    asks: 'count',
    adds: true,
    says: (n) => `Write ${n} further items like these: the same topic, form and difficulty, asking for something that these do not. Do not repeat these.`,
  },
  talk: {
    name: 'questions to talk over',
    asks: 'count',
    adds: true,
    says: (n) => `Write ${n} open questions that a class can talk over after these items, each with a line "Model answer:".`,
  },
  text: {
    name: 'a text to read first',
    adds: true,
    says: () =>
      'Write one text of about 150 words for learners to read before these items. It holds what they ask without saying the answers word for word. Its first line starts with "1.", and under it stands a line "Kind: information".',
  },
  words: { name: 'as I say', asks: 'words', says: (w) => w.trim() },
} as const satisfies Record<string, Aim>;
/** The name of an aim. */
export type AimName = keyof typeof aims;
/** The names of all aims, in the order in which they are offered. */
export const aimNames = Object.keys(aims) as AimName[];
const kindName = (k: string): string => (kinds[k as Kind]?.name ?? k).toLowerCase();

/** So many characters of an id tell items apart, and two more where they do not. */
const SHORT = 6;
/** Short ids of items, each the beginning of one id and of one only. */
export function shortIds(items: readonly Item[]): Map<string, string> {
  const out = new Map<string, string>();
  for (const i of items) {
    let n = SHORT;
    while (n < i.id.length && items.some((o) => o !== i && o.id.startsWith(i.id.slice(0, n)))) n++;
    out.set(i.id, i.id.slice(0, n));
  }
  return out;
}

const ID = /^((?:<p>)?\s*)[[({]\s*(?:(?:item|id|ref|#)\s*[:#=]?\s*)?([\w-]{3,40})\s*[\])}]\s*/i;
/** The words of a question without the sign that told it apart; brackets that are its own stay. */
function withoutId(stem: string, items: readonly Item[]): string {
  const m = ID.exec(stem);
  const said = m?.[2]?.toLowerCase() ?? '';
  const known = /^new(?:[-_]?\d+)?$/.test(said) || (said.length >= 4 && items.some((i) => i.id.toLowerCase().startsWith(said)));
  return m && known ? (m[1] ?? '') + stem.slice(m[0].length) : stem;
}

/** Items in the notation, numbered from 1, with their signs behind the numbers. The signs are put in last: whatever an item needs escaped, they are not. */
function withSigns(items: readonly Item[]): string {
  const ids = shortIds(items);
  const text = writeNotation({ title: UNTITLED, items: items.map(({ section: _s, label: _l, ...rest }) => rest as Item) });
  let out = '';
  let at = 0;
  items.forEach((i, n) => {
    const number = `${n + 1}.`;
    const start = n === 0 ? text.indexOf(number) : text.indexOf(`\n${number}`, at) + 1;
    out += `${text.slice(at, start)}${number} (${ids.get(i.id) ?? ''})`;
    at = start + number.length;
  });
  return out + text.slice(at);
}

/** Composes the request that asks to rework items. @param detail what the aim asks for, as typed */
export function composeRework(items: readonly Item[], aim: AimName, detail: string, language = 'en'): string {
  const a: Aim = aims[aim];
  const written = withSigns(items);
  const forms = aim === 'kind' ? [detail as Kind] : aim === 'talk' ? (['essay'] as const) : [...new Set(items.map((i) => i.kind))];
  const target = aim === 'language' ? detail : language;
  return `${[
    `Below are ${items.length} items of a quiz. ${a.says(detail)}`,
    ...(a.adds
      ? []
      : ['Give back every item, also those that need no change. The sign in brackets in front of each question tells the items apart: keep it as it is.']),
    formOf(forms, target, { options: 4, add: [] }),
    `The items:\n\n${written.trim()}`,
  ].join('\n\n')}\n`;
}

/** What a reply would make of an item, or an item that it adds. */
export interface Rewording extends Omit<MergedPair, 'item' | 'reply'> {
  /** The item as it is; undefined where the reply adds one. */
  mine?: Item;
  /** The item as it would be. */
  theirs: Item;
}
/** A reply laid beside the items it was asked about. */
export interface Reworked {
  proposals: Rewording[];
  /** Items that the reply says as they are. */
  same: Item[];
  /** Items that the reply has nothing of. */
  missing: Item[];
  translated: boolean;
}

/** Lays a reply, as it was read, beside the items it was asked about. @param adds the reply only adds, and is about none of them */
export function reworked(items: readonly Item[], reply: QuizSet, adds = false): Reworked {
  const merged: Merged = adds
    ? { pairs: items.map((i) => unmatched(i.id)), added: reply.items.map((_, k) => k), translated: false }
    : mergeReply({ title: '', items: [...items] }, reply);
  const out: Reworked = { proposals: [], same: [], missing: [], translated: merged.translated };
  merged.pairs.forEach((pair, n) => {
    const mine = items[n] as Item;
    const said = pair.reply === null ? undefined : reply.items[pair.reply];
    if (!said) return void (adds || out.missing.push(mine));
    const theirs = saidAnew(mine, said);
    if (!changedFields(mine, theirs).length && !pair.keyChanged) return void out.same.push(mine);
    const { item: _i, reply: _r, ...rest } = pair;
    out.proposals.push({ ...rest, mine, theirs });
  });
  for (const k of merged.added) {
    const said = reply.items[k];
    if (!said) continue;
    const { section: _s, label: _l, source: _o, ...theirs } = said;
    out.proposals.push({
      theirs: { ...theirs, stem: withoutId(said.stem, items), id: newId() } as Item,
      by: null,
      keyChanged: false,
      keyMissing: isQuestion(said) && keyProblem(said) !== null,
      optionsReordered: false,
      changes: [],
    });
  }
  return out;
}
const unmatched = (item: string): MergedPair => ({ item, reply: null, by: null, keyChanged: false, keyMissing: false, optionsReordered: false, changes: [] });

/** An item as a reply says it: what the reply leaves unsaid stays; options keep their identity, and their credit where no key is said. */
function saidAnew(mine: Item, said: Item): Item {
  const { id: _, section: _s, label: _l, source: _o, points, feedback, level, stem, ...rest } = said;
  const kept: Partial<Item> = mine.kind === said.kind ? mine : common(mine);
  // an empty list says nothing where there is one already; an item of another kind has none without it
  const told = Object.fromEntries(Object.entries(rest).filter(([k, v]) => v !== undefined && !(Array.isArray(v) && v.length === 0 && k in kept)));
  const merged = {
    ...kept,
    ...told,
    stem: withoutId(stem, [mine]),
    points: points === 1 || said.kind === 'information' ? mine.points : points,
    ...withFeedback(mine.feedback, feedback),
    ...((mine.level ?? level) && { level: { ...mine.level, ...level } }),
  } as Item;
  if ('options' in merged && 'options' in mine && 'options' in said) merged.options = optionsAnew(mine.options, said.options);
  if (merged.kind === 'short-answer' && mine.kind === 'short-answer') merged.match = mine.match;
  if (merged.kind === 'multiple-response' && mine.kind === 'multiple-response') merged.scoring = mine.scoring;
  if (merged.kind === 'true-false' && merged.answer === null && mine.kind === 'true-false') merged.answer = mine.answer;
  return merged;
}
/** What any kind has. */
function common(i: Item): Partial<Item> {
  const { id, section, label, title, points, feedback, hints, tags, outcomes, level, bonus, required, shuffle, language, timeLimit, takenFrom } = i;
  const all = { id, section, label, title, points, feedback, hints, tags, outcomes, level, bonus, required, shuffle, language, timeLimit, takenFrom };
  return Object.fromEntries(Object.entries(all).filter(([, v]) => v !== undefined));
}
const withFeedback = (mine: Feedback | undefined, said: Feedback | undefined): { feedback?: Feedback } => {
  const all = { ...mine, ...said };
  return Object.keys(all).length ? { feedback: all } : {};
};
function optionsAnew(mine: readonly Option[], said: readonly Option[]): Option[] {
  const pairs = optionPairs(mine, said);
  const keyed = said.some((o) => o.credit > 0);
  return said.map((o, k) => {
    const before = mine[pairs.indexOf(k)];
    const credit = keyed ? (before && o.credit === 1 && before.credit > 0 ? before.credit : o.credit) : (before?.credit ?? 0);
    return {
      ...before,
      ...o,
      id: before?.id ?? newId(),
      credit,
      ...(before?.feedback !== undefined && o.feedback === undefined && { feedback: before.feedback }),
    };
  });
}

/** A proposal as text, to be edited before it is taken. */
export const proposalText = (p: Rewording): string => writeNotation({ title: UNTITLED, items: [{ ...p.theirs, section: undefined } as Item] });
/** A proposal after its text was edited; null where the text holds no item, or several. What is said of its key is told anew. */
export function editedProposal(p: Rewording, text: string): Rewording | null {
  const read = readDraft(text).set.items;
  const [said] = read;
  if (read.length !== 1 || !said) return null;
  const theirs = saidAnew(p.theirs, said);
  if (!p.mine) return { ...p, theirs, keyMissing: keyProblem(theirs) !== null };
  const key = compareKeys(p.mine, theirs, false);
  return {
    ...p,
    theirs,
    keyChanged: key.changed,
    keyMissing: keyProblem(theirs) !== null,
    optionsReordered: key.reordered,
    changes: changedFields(p.mine, theirs),
  };
}

/** The step that takes proposals over: items said anew in their places, added ones behind the last item that was asked about. */
export function takeProposals(set: QuizSet, asked: readonly Item[], taken: readonly Rewording[], aim: AimName): Operation {
  const fresh = taken.filter((p) => !p.mine).map((p) => p.theirs);
  const last = Math.max(-1, ...asked.map((i) => set.items.findIndex((x) => x.id === i.id)));
  const home = set.items[last]?.section;
  // a text to read stands in front of what is asked of it
  const first = Math.min(...asked.map((i) => set.items.findIndex((x) => x.id === i.id)).filter((n) => n >= 0));
  const at = aim === 'text' && Number.isFinite(first) ? first : last + 1;
  const operations: SimpleOperation[] = taken.flatMap((p) => (p.mine ? [{ type: 'replace' as const, item: p.theirs }] : []));
  if (fresh.length) operations.push({ type: 'insert', at, items: fresh.map((i) => ({ ...i, ...(home !== undefined && { section: home }) }) as Item) });
  return {
    type: 'all',
    label: `Reworked ${aims[aim].name}: ${taken.length === 1 && taken[0] ? nameOf(taken[0].theirs, 40) : `${taken.length} items`}`,
    operations,
  };
}

/**
 * The step that keeps a rewording in another language beside the original: texts alone, so that no key can change with it.
 * @param by who or what made it
 * @returns the step, and the items of which some text was not taken since its gaps, formulas or pictures are not those of the original
 */
export function takeAsTranslations(taken: readonly Rewording[], language: string, by: string): { operation: Operation; left: Item[] } {
  const left: Item[] = [];
  const set: Record<string, Translation> = {};
  for (const { mine, theirs, keyChanged } of taken) {
    if (!mine || keyChanged || mine.kind !== theirs.kind) continue;
    const alone: QuizSet = { title: '', items: [mine] };
    const original = new Map(unitsOf(alone).map((u) => [u.id, u.text]));
    const said = Object.entries(textsIn(alone, { title: '', items: [theirs] }));
    const whole = said.filter(([id, text]) => sameSingles(original.get(id) ?? '', text));
    if (whole.length < said.length) left.push(mine);
    Object.assign(set, translationsFrom(alone, Object.fromEntries(whole), by));
  }
  const n = Object.keys(set).length;
  return {
    operation: { type: 'all', label: `Put ${n} texts in ${languageName(language)} beside the original`, operations: [{ type: 'translate', language, set }] },
    left,
  };
}
