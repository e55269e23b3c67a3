/** Which question each entry of a list of keys is for. */
import { partLabel } from '../signatures/headings.js';
import { numbered } from '../../language/labels.js';
import type { Line } from '../surface/lines.js';
import type { Block, Listed, Outline, Piece } from '../model/outline.js';
import { Stretch } from '../surface/stretch.js';
import { truth } from '../../language/truths.js';
import { asksForMore } from '../../language/words.js';
import { entriesOf, type KeyEntry } from './keyEntries.js';

/** A doubt about the list as a whole, at one of its lines. */
export interface ListProblem {
  line: number;
  message: string;
}

/** Which entry of a list goes to which question, and which entries and questions were left without. */
export interface Assigned {
  keyOf: Map<Block, { listed: Listed; line: number }>;
  /** Questions that a list covers; one without any key is left out by it. */
  covered: Set<Block>;
  problems: ListProblem[];
}

interface Words {
  stemOf(b: Block): string;
  /** The numbers of a matching question's left sides. */
  leftsOf(b: Block): number[];
}

/** Entries of one list, or of one part of it: their numbers rise. */
interface Group {
  entries: KeyEntry[];
  /** What the heading calls the part. */
  label: string;
  line: number;
}

/** Gives the entries of all lists to the questions they name: each run of entries goes to the questions where most of it resolves. */
export function assignKeys(o: Outline, lines: readonly Line[]): Assigned {
  const text = (pieces: readonly Piece[]): string => pieces.map((p) => lines[p.line]?.text.slice(p.from, p.to) ?? '').join(' ');
  const words: Words = {
    stemOf: (b) => text(b.stem),
    leftsOf: (b) =>
      b.pairs.length
        ? b.pairs.flatMap((p) => numbered(text(p.left))?.number ?? [])
        : b.entries.flatMap((e) => (e.labels === 'number' ? [Number(e.label)] : [])),
  };
  const out: Assigned = { keyOf: new Map(), covered: new Set(), problems: [] };
  if (!o.keyRows.length || !o.blocks.length) return out;
  const subs = o.blocks.some((b) => b.sub !== undefined);
  const decimals = o.blocks.some((b) => b.form === 'decimal');
  const letters = o.blocks.filter((b) => /^(?:up|low)/.test(b.form)).length >= o.blocks.length * 0.5;
  const groups = o.keyRows.flatMap((rows): Group[] => {
    const label = partLabel(rows.heading.replace(/[*#]/g, ''));
    return restarts(entriesOf(rows, lines, subs, decimals, letters, o.blocks.length)).map((entries) => ({ entries, label, line: rows.line }));
  });
  const runs = runsOf(o.blocks);
  const byPart = new Map<string, Block[]>();
  for (const b of o.blocks) if (b.part.label) byPart.set(b.part.label, [...(byPart.get(b.part.label) ?? []), b]);
  const ordinals = partsInOrder(o.blocks);
  let from = -1;
  for (const g of groups) {
    const scopes: { blocks: readonly Block[]; bonus: number }[] = [];
    const part = byPart.get(g.label);
    const task = part || !g.label ? undefined : o.blocks.filter((b) => isPairing(b) && (b.label === g.label || String(b.number ?? '') === g.label));
    const named = part ?? (task?.length !== 1 && /^\d+$/.test(g.label) ? ordinals[Number(g.label) - 1] : undefined);
    if (task?.length === 1) scopes.push({ blocks: task, bonus: g.entries.length * 0.6 });
    if (named) scopes.push({ blocks: named, bonus: 0.6 + g.entries.length * 0.6 });
    const before = o.blocks.filter((b) => b.line < g.line && b.line > from);
    if (before.length && groups.some((x) => x.line > g.line)) scopes.push({ blocks: before, bonus: 0.2 });
    if (runs.length > 1) for (const run of runs) if (!run.some((b) => out.keyOf.has(b))) scopes.push({ blocks: run, bonus: 0.1 });
    scopes.push({ blocks: o.blocks, bonus: 0 });
    let best = scopes[0];
    let worth = Number.NEGATIVE_INFINITY;
    for (const s of scopes) {
      const w = fit(g.entries, s.blocks, out, words) + s.bonus;
      if (w > worth) {
        worth = w;
        best = s;
      }
    }
    if (best) assign(g.entries, best.blocks, out, words);
    if (groups.every((x) => x.line !== g.line || x === g)) from = g.line;
  }
  return out;
}

/** The questions of each part in turn, for lists that only count the parts. */
function partsInOrder(blocks: readonly Block[]): Block[][] {
  const out: Block[][] = [];
  let part: Block['part'] | undefined;
  for (const b of blocks) {
    const home = b.part.lead ?? b.part;
    if (home !== part) out.push([]);
    part = home;
    out[out.length - 1]?.push(b);
  }
  return out;
}

const gradable = (b: Block): boolean =>
  b.part.kind !== 'essay' && b.kind !== 'essay' && b.kind !== 'information' && !b.fields.some((f) => f.name === 'model' || f.name === 'rubric');

/** Whether a value could be the key of a question, by its form: 1 yes, 0 perhaps, −1 no. */
function suits(b: Block, value: string): number {
  const v = value.trim();
  const letter = /^[([]?([A-Za-zА-Яа-я])[)\].]?(?:\s|$|[.,:;–-])/u.exec(v)?.[1];
  if (b.entries.length > 1) {
    if (letter && b.entries.some((e) => e.label.toUpperCase() === letter.toUpperCase())) return 1;
    if (letter && v.length <= 3 && b.entries.every((e) => e.label)) return truth(v, true) !== null && b.entries.length === 2 ? 0.5 : -0.5;
    return 0;
  }
  if (truth(v, true) !== null && (b.part.kind === 'true-false' || b.kind === 'true-false')) return 1;
  if (letter && v.length <= 3 && truth(v, true) === null && b.entries.length === 0 && !b.pairs.length) return -0.3;
  return 0;
}

interface Names {
  byName: Map<string, Block[]>;
}
function namesOf(scope: readonly Block[]): Names {
  const anyNumber = scope.some((b) => numberOf(b) !== undefined);
  const byName = new Map<string, Block[]>();
  scope.forEach((b, i) => {
    const name = `${numberOf(b) ?? (anyNumber ? -1 : i + 1)}${b.sub ?? ''}`;
    const all = byName.get(name);
    if (all) all.push(b);
    else byName.set(name, [b]);
  });
  return { byName };
}

/** How well entries fit some questions: what finds its place, less what does not. */
function fit(entries: readonly KeyEntry[], scope: readonly Block[], out: Assigned, words: Words): number {
  const [only] = scope;
  const pairing = scope.length === 1 && only && entries.length > 1 && isPairing(only);
  if (pairing) {
    const lefts = words.leftsOf(only);
    const count = only.pairs.length || only.count.number;
    const own = entries.filter((e) => e.number === null || lefts.includes(e.number) || (!lefts.length && e.number <= count)).length;
    return own - (entries.length - own) * 1.2;
  }
  const bare = entries.filter((e) => e.number === null && !e.bonus);
  if (bare.length)
    return orderly(
      bare,
      scope.filter((b) => !out.keyOf.has(b)),
      words,
    ).length === bare.length
      ? bare.length - scope.length * 0.01
      : -bare.length;
  const { byName } = namesOf(scope);
  let n = 0;
  const used = new Set<Block>();
  for (const e of entries) {
    if (e.bonus) continue;
    const b = byName.get(`${e.number ?? ''}${e.sub}`)?.find((x) => !out.keyOf.has(x) && !used.has(x));
    if (b) {
      used.add(b);
      n += (b.keys.length || b.entries.some((x) => x.marked) ? 0.3 : 1) + suits(b, e.value.plain) * 0.5;
    } else if (scope.some((x) => words.leftsOf(x).includes(e.number ?? -1))) n += 0.5;
    else n -= 1.2;
  }
  return n - scope.filter((b) => !used.has(b) && !out.keyOf.has(b) && gradable(b)).length * 0.15;
}
const isPairing = (b: Block): boolean =>
  b.pairs.length > 1 || (b.count.number > 1 && (b.count.letter > 0 || b.count.none + b.count.bullet > 0)) || (b.asks === 'matching' && b.entries.length > 1);

function assign(entries: readonly KeyEntry[], scope: readonly Block[], out: Assigned, words: Words): void {
  for (const b of scope) if (gradable(b)) out.covered.add(b);
  const [only] = scope;
  if (scope.length === 1 && only && entries.length > 1 && isPairing(only)) {
    // "1-C  2-A" under the name of a part that is one matching question
    const value = entries.map((e) => `${e.number ?? ''}${e.sub}-${e.value.plain}`).join(', ');
    out.keyOf.set(only, { listed: { value: new Stretch(value, []), reason: null }, line: entries[0]?.line ?? 0 });
    return;
  }
  const inOrder = entries.filter((e) => e.number === null && !e.bonus);
  const places = inOrder.length
    ? orderly(
        inOrder,
        scope.filter((b) => !out.keyOf.has(b)),
        words,
      )
    : [];
  if (inOrder.length && !places.length)
    out.problems.push({
      line: inOrder[0]?.line ?? 0,
      message: `The list has ${inOrder.length} keys without numbers for ${scope.length} questions, so nobody can say which belongs to which.`,
    });
  let next = 0;
  const { byName } = namesOf(scope);
  const unnumbered = scope.filter((b) => b.pairs.length > 0);
  const sides = new Map<Block, string[]>();
  for (const e of entries) {
    const free = (b: Block): boolean => !out.keyOf.has(b);
    const found = e.bonus ? [...scope].reverse().find(free) : e.number === null ? places[next++] : byName.get(`${e.number}${e.sub}`)?.find(free);
    if (found) out.keyOf.set(found, { listed: { value: e.value, reason: e.reason }, line: e.line });
    else if (e.number !== null) {
      // "7 b, 8 a": the rows of one matching question are numbered like questions
      const row = unnumbered.find((b) => words.leftsOf(b).includes(e.number ?? 0));
      if (row) sides.set(row, [...(sides.get(row) ?? []), `${e.number}-${e.value.plain}`]);
      else out.problems.push({ line: e.line, message: `The key list has an entry for question ${e.number}${e.sub}, and there is none.` });
    }
  }
  for (const [b, values] of sides) out.keyOf.set(b, { listed: { value: new Stretch(values.join(', '), []), reason: null }, line: entries[0]?.line ?? 0 });
}

/** A question's number as entries name it; "2.1" counts as 201. */
const numberOf = (b: Block): number | undefined => b.number;

/** The questions that keys without numbers are for; none where the counts do not agree. */
function orderly(entries: readonly KeyEntry[], scope: readonly Block[], words: Words): Block[] {
  const n = entries.length;
  const all = scope.filter((b) => gradable(b));
  const answered = all.filter((b) => b.entries.length > 0 || !asksForMore(words.stemOf(b)));
  const chosen = all.filter((b) => b.entries.length > 0);
  return [scope, all, answered, chosen].find((blocks) => blocks.length === n)?.slice() ?? [];
}

/** Questions as runs of one numbering: a new one where numbers start anew, or where a part has a question without number. */
function runsOf(blocks: readonly Block[]): Block[][] {
  const out: Block[][] = [];
  let last: Block | undefined;
  for (const b of blocks) {
    const restart =
      last !== undefined &&
      ((b.number !== undefined && last.number !== undefined && b.number < last.number && (b.number === 1 || b.number % 100 === 1)) ||
        (b.part !== last.part && (b.number === undefined || last.number === undefined)));
    if (!out.length || restart) out.push([]);
    out[out.length - 1]?.push(b);
    last = b;
  }
  return out;
}
/** Entries as runs of rising numbers. */
function restarts(entries: readonly KeyEntry[]): KeyEntry[][] {
  const out: KeyEntry[][] = [];
  let last = 0;
  for (const e of entries) {
    if (!out.length || (e.number === 1 && last >= 1 && e.sub <= 'a' && !(last === 1 && e.sub))) out.push([]);
    out[out.length - 1]?.push(e);
    last = e.number ?? last;
  }
  return out;
}
