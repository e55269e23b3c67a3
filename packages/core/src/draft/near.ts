/**
 * What is typed into a long draft is read near by first, in a time that does not grow with the draft: the questions around the edit, with the
 * heading of their part above them and the lists of keys below. That a few questions may be read alone is not taken for granted: before the
 * edit, read alone, they must have given what the reading of the whole draft gave. What an edit means further off shows when the draft is
 * read as a whole, once typing rests.
 */
import type { Aside, Diagnostic, Item, TextEdit } from '../item/model.js';
import type { Role } from './model/outline.js';
import { lastUpTo, shared } from './surface/lines.js';
import { DraftReader, type DraftOptions, type DraftResult, type LineRole } from './read.js';

/** Lines of a draft from which on an edit is read near by: shorter ones are read whole as fast. */
const LONG = 300;
/** Questions on each side of an edit that are read with it. */
const BESIDE = 8;
/** More typed or taken away at once is no typing. */
const MOST_CHANGED = 2000;
/** More lines than these are no neighbourhood. */
const MOST_LINES = 300;
/** Lines above the first question of a part that say what it asks. */
const MOST_HEADING = 12;
/** Doubts about the draft as a whole stand wherever it shows them first. */
const OF_THE_WHOLE: ReadonlySet<string> = new Set(['key-from-formatting', 'key-list', 'key-list-unmatched', 'text-invisible']);

/** A draft as it is shown: its text, where its lines begin, how it was to be read, and what was read. */
interface Shown {
  draft: string;
  starts: readonly number[];
  options: DraftOptions;
  result: DraftResult;
}

/** Some questions that follow one another, read alone. */
interface Neighbourhood {
  reader: DraftReader;
  /** Places of the first and last item among all. */
  first: number;
  last: number;
  /** Where it stands in the draft that is shown. */
  from: number;
  to: number;
  /** What is read above and below it. */
  above: string;
  below: string;
  /** What its items are called in the draft, by what its own reader calls them. */
  names: Map<string, string>;
  section: string | undefined;
  read: DraftResult;
}

/** Letters of the text before that were replaced, and how many came in their place. */
interface Change {
  from: number;
  to: number;
  length: number;
}

/** Reads one draft again and again as it is typed: near by while it is typed, whole when asked. */
export class TypedDraft {
  private readonly reader = new DraftReader();
  private shown: Shown | null = null;
  private around: Neighbourhood | null = null;

  /** @param long lines from which on a draft is read near by */
  constructor(private readonly long = LONG) {}

  /** Reads the whole draft, as `DraftReader` does. */
  read(draft: string, options: DraftOptions = {}): DraftResult {
    const result = this.reader.read(draft, options);
    this.around = null;
    this.shown = { draft, starts: startsOf(draft), options, result };
    return result;
  }

  /**
   * The reading before with the questions around an edit read anew, or null where the whole draft has to be read: it is short, more than one
   * place changed, corrections did, or its questions cannot be read alone. What an edit means for questions further off is not in it.
   */
  near(draft: string, options: DraftOptions = {}): DraftResult | null {
    const shown = this.shown;
    if (!shown || shown.starts.length < this.long) return null;
    const change = changeBetween(shown.draft, draft);
    if (!change || change.to - change.from > MOST_CHANGED || change.length > MOST_CHANGED) return null;
    const starts = startsOf(draft);
    const moved = starts.length - shown.starts.length;
    if (!sameOptions(shown, options, lineAt(shown.starts, change.to), moved)) return null;
    this.goTo(shown, change);
    const { around } = this;
    if (!around) return null;
    const by = change.length - (change.to - change.from);
    const to = around.to + by;
    const before = around.read;
    const own = readAlone(around, draft.slice(around.from, to), optionsFor(options, shown.result, lineAt(starts, around.from), around));
    if (!heldAtItsEdges(around, placesIn(around, before, around.to - around.from), placesIn(around, own, to - around.from), shown.result.set.items.length)) {
      this.around = null;
      return null;
    }
    const result = composed(shown, draft, starts, around, own, change, moved);
    around.last = around.first + placesIn(around, own, to - around.from).length - 1;
    around.to = to;
    around.read = own;
    this.shown = { draft, starts, options, result };
    return result;
  }

  /**
   * Is told where the caret stands, before anything is typed there: the first letter is read as fast as those that follow.
   * @param line from 0
   */
  prepare(line: number): void {
    const { shown } = this;
    const place = shown?.starts[line];
    if (shown && place !== undefined && shown.starts.length >= this.long) this.goTo(shown, { from: place, to: place, length: 0 });
  }

  private goTo(shown: Shown, change: Change): void {
    if (!this.around || !inside(this.around, change, shown.result.set.items)) this.around = this.neighbourhood(shown, change);
  }

  /** The questions around a change, if they can be read alone: what they give so must be what is shown. */
  private neighbourhood(shown: Shown, change: Change): Neighbourhood | null {
    const { draft, starts, result } = shown;
    const { items } = result.set;
    if (!items.length || items.some((item, i) => !item.source || item.source.from < (items[i - 1]?.source?.to ?? 0))) return null;
    const startOf = (i: number): number => items[i]?.source?.from ?? 0;
    const endOf = (i: number): number => items[i]?.source?.to ?? 0;
    // the item that the change begins in, or the last one before it; and the one that it ends in, or the first one behind it
    let low = items.findLastIndex((_, i) => startOf(i) <= change.from);
    let high = items.findIndex((_, i) => endOf(i) >= change.to);
    if (low < 0) low = 0;
    if (high < 0) high = items.length - 1;
    [low, high] = [Math.min(low, high), Math.max(low, high)];
    const section = items[low]?.section;
    if (items[high]?.section !== section) return null;
    const sameSection = (i: number): boolean => i >= 0 && i < items.length && items[i]?.section === section;
    let first = low;
    while (low - first < BESIDE && sameSection(first - 1)) first--;
    let last = high;
    while (last - high < BESIDE && sameSection(last + 1)) last++;
    // above the first question and below the last only where something is typed there
    const from = first === 0 && change.from < startOf(0) ? 0 : lineStart(starts, startOf(first));
    const to = last === items.length - 1 && change.to > endOf(last) ? draft.length : endOf(last);
    if (change.from < from || change.to > to) return null;
    const [line, end] = [lineAt(starts, from), lineAt(starts, to)];
    if (end - line > MOST_LINES) return null;
    let head = first;
    while (sameSection(head - 1)) head--;
    const heading: readonly [number, number] | null = from === 0 ? null : [head > 0 ? lineAt(starts, endOf(head - 1)) + 1 : 0, lineAt(starts, startOf(head))];
    const textOf = (a: number, b: number): string => draft.slice(starts[a] ?? draft.length, starts[b] ?? draft.length).trimEnd();
    const lists: string[] = [];
    let listed = 0;
    for (let i = 0; i < result.roles.length; i++) {
      if (result.roles[i]?.role !== 'key-list' || (i >= line && i <= end)) continue;
      let n = i;
      while (result.roles[n + 1]?.role === 'key-list') n++;
      lists.push(textOf(i, n + 1));
      listed += n + 1 - i;
      i = n;
    }
    if (listed > MOST_LINES) return null;
    const around: Neighbourhood = {
      reader: new DraftReader(),
      first,
      last,
      from,
      to,
      above: heading && heading[1] > heading[0] && heading[1] - heading[0] <= MOST_HEADING ? `${textOf(...heading)}\n\n` : '',
      below: lists.length ? `\n\n${lists.join('\n\n')}` : '',
      names: new Map(),
      section,
      read: result,
    };
    around.read = readAlone(around, draft.slice(from, to), optionsFor(shown.options, result, line, around));
    const at = around.above.length;
    const alone = placesIn(around, around.read, to - from);
    const theirs = seen(result, starts, items.slice(first, last + 1), from, to);
    if (seen(around.read, startsOf(textAlone(around, draft.slice(from, to))), alone, at, at + to - from) !== theirs) return null;
    alone.forEach((item, i) => around.names.set(item.id, items[first + i]?.id ?? item.id));
    return around;
  }
}

const startsOf = (text: string): number[] => {
  const out = [0];
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) out.push(at + 1);
  return out;
};
/** The line, counted from 0, that a place lies in. */
const lineAt = (starts: readonly number[], place: number): number => lastUpTo(starts.length, (i) => starts[i] as number, place);
const lineStart = (starts: readonly number[], place: number): number => starts[lineAt(starts, place)] ?? 0;
const linesIn = (text: string): number => text.split('\n').length - 1;

/** The one stretch in which two texts differ, or null where they do not. */
function changeBetween(before: string, now: string): Change | null {
  if (before === now) return null;
  const shorter = Math.min(before.length, now.length);
  const from = shared(before, now, shorter, false);
  const behind = shared(before, now, shorter - from, true);
  return { from, to: before.length - behind, length: now.length - behind - from };
}

/** Whether two readings were asked for in the same way; what a person said of lines behind the change moves with them. */
function sameOptions(shown: Shown, now: DraftOptions, line: number, moved: number): boolean {
  const was = shown.options;
  if (was.language !== now.language || was.keysFrom !== now.keysFrom || (was.overrides?.size ?? 0) !== (now.overrides?.size ?? 0)) return false;
  for (const [at, role] of was.overrides ?? []) if (now.overrides?.get(at > line ? at + moved : at) !== role) return false;
  return true;
}

/** How a neighbourhood is to be read: what the whole draft decided holds, and what a person said of its lines. */
function optionsFor(options: DraftOptions, whole: DraftResult, line: number, { above }: Neighbourhood): DraftOptions {
  const language = options.language ?? whole.set.language;
  const overrides = new Map<number, Role>();
  for (const [at, role] of options.overrides ?? []) if (at >= line) overrides.set(at - line + linesIn(above), role);
  return { overrides, keysFrom: whole.keysFrom ?? (options.keysFrom === 'auto' ? 'none' : (options.keysFrom ?? 'none')), ...(language && { language }) };
}

const textAlone = ({ above, below }: Neighbourhood, text: string): string => above + text + below;
const readAlone = (around: Neighbourhood, text: string, options: DraftOptions): DraftResult => around.reader.read(textAlone(around, text), options);

/** Whether a change lies among the questions that are read alone, and not at their edge, unless the draft ends there. */
function inside({ first, last, from, to }: Neighbourhood, change: Change, items: readonly Item[]): boolean {
  const start = first === 0 ? from : (items[first]?.source?.to ?? to) + 1;
  const end = last === items.length - 1 ? to : (items[last]?.source?.from ?? from) - 1;
  return change.from >= start && change.to <= end;
}

/** The items of a neighbourhood's own reading that stand in it, and not in what is read with it. */
const placesIn = ({ above }: Neighbourhood, read: DraftResult, length: number): Item[] =>
  read.set.items.filter(({ source }) => source !== undefined && source.from >= above.length && source.from <= above.length + length);

/** All that is shown of a stretch of a draft, as one text to be compared. */
function seen(r: DraftResult, starts: readonly number[], items: readonly Item[], from: number, to: number): string {
  const line = lineAt(starts, from);
  const lines = lineAt(starts, to) - line + 1;
  const place = new Map(items.map((item, i) => [item.id, i]));
  const roles = r.roles.slice(line, line + lines);
  countAnew(roles, line, items, starts, items[0] ? r.set.items.indexOf(items[0]) : 0, 0);
  const here = r.diagnostics.filter((d) => d.from >= from && d.from <= to && !OF_THE_WHOLE.has(d.code));
  const parts = [
    items.map(({ section: _, source, ...item }) => ({ ...item, from: (source?.from ?? 0) - from, to: (source?.to ?? 0) - from })),
    here.map((d) => ({ code: d.code, severity: d.severity, message: d.message, from: d.from - from, to: d.to - from, at: d.item && place.get(d.item) })),
    roles.map(({ role, mark, code }) => [role, mark, code]),
  ];
  return JSON.stringify(parts, (k, v: unknown) => (k === 'id' ? undefined : v));
}

/**
 * Counts the questions anew that have no number of their own: the margin says which they are.
 * @param roles of the lines from `line` on, changed in place
 * @param items some that follow one another, as they stand in the text whose lines begin at `starts`
 * @param was how many stand before them in the margin, and `now` how many there are
 */
function countAnew(roles: LineRole[], line: number, items: readonly Item[], starts: readonly number[], was: number, now: number): void {
  for (const [i, { label, source }] of items.entries()) {
    const at = lineAt(starts, source?.from ?? 0) - line;
    const role = roles[at];
    if (label === undefined && role?.role === 'question' && role.mark === String(was + i + 1)) roles[at] = { ...role, mark: String(now + i + 1) };
  }
}

/** Whether the items at the edges of a neighbourhood are what they were: else a change means something beyond them. */
const heldAtItsEdges = ({ first, last }: Neighbourhood, was: readonly Item[], is: readonly Item[], all: number): boolean =>
  (first === 0 || was[0]?.id === is[0]?.id) && (last === all - 1 || was.at(-1)?.id === is.at(-1)?.id);

/** What is shown, with a neighbourhood's own reading in its place. */
function composed(shown: Shown, draft: string, starts: readonly number[], around: Neighbourhood, own: DraftResult, change: Change, moved: number): DraftResult {
  const { result } = shown;
  const by = change.length - (change.to - change.from);
  const { from, to, first, last, names, section } = around;
  const line = lineAt(starts, from);
  const oldEnd = lineAt(shown.starts, to);
  const lines = oldEnd + moved - line + 1;
  const back = from - around.above.length;
  const lineBack = line - linesIn(around.above);
  const nameOf = (id: string): string => names.get(id) ?? id;
  const here = placesIn(around, own, to + by - from);
  const items: Item[] = here.map(({ section: _, source, ...item }) => ({
    ...item,
    id: nameOf(item.id),
    ...(section && { section }),
    source: { from: (source?.from ?? 0) + back, to: (source?.to ?? 0) + back },
  }));
  const placed = (place: number): boolean => place >= from && place <= to + by;
  const diagnostics = own.diagnostics.flatMap((d): Diagnostic[] => {
    if (OF_THE_WHOLE.has(d.code) || !placed(d.from + back)) return [];
    const fixes = d.fixes?.flatMap((f) => {
      const edits = f.edits.map((e): TextEdit => ({ ...e, from: e.from + back, to: e.to + back }));
      const roles = f.roles?.map((r) => ({ ...r, line: r.line + lineBack }));
      if (!edits.every((e) => placed(e.from) && placed(e.to)) || roles?.some((r) => r.line < line || r.line >= line + lines)) return [];
      return [{ ...f, edits, ...(roles && { roles }) }];
    });
    const { item, fixes: _, ...rest } = d;
    return [{ ...rest, from: d.from + back, to: d.to + back, line: d.line + lineBack, ...(item && { item: nameOf(item) }), ...(fixes?.length && { fixes }) }];
  });
  const asides = own.asides.flatMap((a): Aside[] => (placed(a.from + back) ? [{ ...a, from: a.from + back, to: a.to + back }] : []));
  const roles = own.roles.slice(line - lineBack, line - lineBack + lines);
  countAnew(roles, line - lineBack, here, startsOf(textAlone(around, draft.slice(from, to + by))), here[0] ? own.set.items.indexOf(here[0]) : 0, first);
  const behind = result.set.items.slice(last + 1).map((i) => movedItem(i, by));
  const rolesBehind = result.roles.slice(oldEnd + 1);
  const count = first + items.length;
  if (count !== last + 1) countAnew(rolesBehind, line + lines, behind, starts, last + 1, count);
  const all = [...result.set.items.slice(0, first), ...items, ...behind];
  const ids = new Set(all.map((i) => i.id));
  const elsewhere = result.diagnostics
    .filter((d) => d.from < from || d.from > to || OF_THE_WHOLE.has(d.code))
    .map((d) => movedDoubt(d, from, to, change, lineAt(shown.starts, change.to), moved, starts));
  return {
    ...result,
    set: { ...result.set, items: all },
    diagnostics: [...diagnostics, ...elsewhere]
      .map(({ item, ...d }) => ({ ...d, ...(item !== undefined && ids.has(item) && { item }) }))
      .sort((x, y) => x.from - y.from),
    asides: [
      ...result.asides.filter((a) => a.from < from),
      ...asides,
      ...result.asides.filter((a) => a.from > to).map((a) => ({ ...a, from: a.from + by, to: a.to + by })),
    ],
    roles: [...result.roles.slice(0, line), ...roles, ...rolesBehind],
  };
}
const movedItem = (item: Item, by: number): Item => (by && item.source ? { ...item, source: { from: item.source.from + by, to: item.source.to + by } } : item);

/** A doubt elsewhere, in its new place; a fix of it that edits what was read anew waits for the whole reading. */
function movedDoubt(d: Diagnostic, from: number, to: number, change: Change, line: number, moved: number, starts: readonly number[]): Diagnostic {
  const behind = (place: number): number =>
    place >= change.to ? place - change.to + change.from + change.length : Math.min(place, change.from + change.length);
  const { fixes, ...rest } = d;
  const left = fixes
    ?.filter((f) => f.edits.every((e) => e.to < from || e.from > to))
    .map((f) => ({
      ...f,
      edits: f.edits.map((e) => ({ ...e, from: behind(e.from), to: behind(e.to) })),
      ...(f.roles && { roles: f.roles.map((r) => ({ ...r, line: r.line > line ? r.line + moved : r.line })) }),
    }));
  const at = behind(d.from);
  // its beginning may have been cut away
  return { ...rest, from: at, to: behind(d.to), line: lineAt(starts, at) + 1, ...(left?.length && { fixes: left }) };
}
