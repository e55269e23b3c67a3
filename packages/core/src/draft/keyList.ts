/** Lists of keys: what their rows say, and which question each entry is for. */
import { field } from './fields.js';
import { partLabel } from './headings.js';
import { letterPlace, numbered, romanValue } from './labels.js';
import type { Listed } from './making.js';
import { stretchOf, type Line } from './lines.js';
import type { Block, KeyRows, Outline, Piece } from './outline.js';
import { Stretch } from './stretch.js';
import { truth } from './truths.js';
import { asksForMore, QUESTION } from './words.js';

/** One entry of a list of keys. */
export interface KeyEntry {
  /** Null where keys only stand in the order of the questions. */
  number: number | null;
  sub: string;
  value: Stretch;
  reason: Stretch | null;
  line: number;
  bonus?: boolean;
}

/** A doubt about the list as a whole, at one of its lines. */
export interface ListProblem {
  line: number;
  message: string;
}

interface Head {
  number: number;
  sub: string;
  start: number;
  end: number;
  sign: string;
}

const HEAD = new RegExp(
  `(?<![\\p{L}\\d.,/°º])(?:(?:${QUESTION}|no)\\s?\\.?\\s*(?:n[°º]\\s?|nr\\.?\\s?|#|№)?)?[([]?(\\d{1,5}(?:\\.\\d{1,2})?(?![.,]?\\d)|[IVXL]{1,7}(?![\\p{L}])|[A-Z](?=\\s+\\p{Ll}{2}|\\s*[:=-]\\s*\\S))([a-h](?=[\\s.):=-]))?[)\\]]?\\s*(\\.-?(?!\\d)|[):=]|[-–—]{1,2}>?(?!\\d)|(?<=\\d)-(?=\\d))?\\s*`,
  'gu',
);
const QUESTION_WORD = new RegExp(`^(?:${QUESTION})`, 'iu');

/** The entries of a row: heads whose numbers rise, all written in one way. */
export function headsIn(text: string, roman: boolean, letters: boolean, subs = false, decimals = false): Head[] {
  const all: Head[] = [];
  for (const m of (QUESTION_WORD.test(text) ? text.toLowerCase() : text).matchAll(HEAD)) {
    const label = m[1] ?? '';
    const digits = /^\d/.test(label);
    const within = /^(\d+)\.(\d+)$/.exec(label);
    if (within && !decimals) continue;
    const number = within
      ? Number(within[1]) * 100 + Number(within[2])
      : digits
        ? Number(label)
        : roman
          ? romanValue(label)
          : letters && label.length === 1
            ? letterPlace(label) + 1
            : 0;
    if (!number || m.index + m[0].length >= text.length) continue;
    // "1b" is question 1 and its key b, unless the draft has questions 1a, 1b …
    const back = m[2] && !subs ? m[0].length - m[0].lastIndexOf(m[2]) : 0;
    const sign = back ? '' : (m[3] ?? '').replace(/[–—]/, '-');
    all.push({ number, sub: subs ? (m[2] ?? '') : '', start: m.index, end: m.index + m[0].length - back, sign });
  }
  const first = all[0];
  if (!first || text.slice(0, first.start).trim()) return [];
  const chain = [first];
  for (const h of all.slice(1)) {
    const last = chain[chain.length - 1] as Head;
    const between = text.slice(last.end, h.start);
    const rises = h.number > last.number ? h.number - last.number <= (decimals ? 120 : 4) : h.number === last.number && h.sub > last.sub;
    const turns = h.sign !== first.sign && h.number === last.number + 1 && /^[).]/.test(h.sign) && between.trim().length <= 2;
    if ((h.sign !== first.sign && h.sign !== last.sign && !turns) || !rises || !between.trim()) continue;
    const wide = /(?:\s{2,}|\t|[;,|])\s*$/.test(between);
    const value = between.trim().replace(/[;,|]$/, '');
    const brief = /^\(?\p{L}{1,3}\)?$/u.test(value) || truth(value, false) !== null || /^[A-H](?:\s*[,&]\s*[A-H])*$/i.test(value);
    // without a sign behind the number only letters, or wide space, tell where the next entry starts
    if (h.sign ? wide || brief || h.number === last.number + 1 || decimals : brief || (wide && h.number === last.number + 1)) chain.push(h);
  }
  return chain;
}

const RANGE = /^\s*\(?(\d{1,3})\s*(?:[-–—]|to|a|bis|do|до)\s*(\d{1,3})\)?\s*[.):]?\s+([A-Za-z][A-Za-z\s,;]*)$/;
const GLUED = /^(?:[TFV]{3,}|[A-H]{2,}|[a-h]{3,})(?:\s+(?:[TFV]+|[A-H]+|[a-h]+))*$/;
const SEQUENCE = /^[A-Za-zА-Яа-я](?:[\s,;]+[A-Za-zА-Яа-я]){2,}[.;]?$/u;

/** What the rows of a list say. */
export function entriesOf(rows: KeyRows, lines: readonly Line[], habits: Outline['habits'], subs: boolean): KeyEntry[] {
  const out: KeyEntry[] = [];
  const letters = habits.letterQuestions !== '';
  // lines that go on from an entry are joined once, at the end
  const tails = new Map<KeyEntry, { value: Stretch[]; reason: Stretch[] }>();
  const tail = (e: KeyEntry, to: 'value' | 'reason', words: Stretch): void => {
    const own = tails.get(e) ?? { value: [], reason: [] };
    tails.set(e, own);
    own[to].push(words);
    if (to === 'reason') e.reason ??= words;
  };
  let aside: ReadonlySet<number> = new Set();
  rows.rows.forEach((row, r) => {
    const line = lines[row.line];
    if (!line) return;
    const whole = stretchOf(line, row.at, line.text.length, 0).trimmed();
    const text = whole.text;
    const add = (number: number | null, value: Stretch, sub = ''): void => void out.push({ number, sub, value: value.trimmed(), reason: null, line: row.line });
    const last = out[out.length - 1];
    if (/\|/.test(text)) {
      aside = pointsColumns(text) ?? aside;
      tableRow(whole, row.line, out, aside, r > 0 ? lines[rows.rows[r - 1]?.line ?? -1] : undefined);
      return;
    }
    const f = field(text);
    if (f?.name === 'feedback' && last) {
      tail(last, 'reason', whole.slice(f.at));
      return;
    }
    const range = RANGE.exec(text);
    const glued = (range?.[3] ?? '').replace(/[\s,;]/g, '');
    if (range && glued.length === Number(range[2]) - Number(range[1]) + 1) {
      [...glued].forEach((c, i) => add(Number(range[1]) + i, new Stretch(c, [])));
      return;
    }
    if (GLUED.test(text)) {
      for (const c of text.replace(/\s+/g, '')) add(null, new Stretch(c, []));
      return;
    }
    const bonus = /^bonus(?: question)?\s*[.:)–-]?\s*(?=\S)/i.exec(text);
    if (bonus) {
      out.push({ number: null, sub: '', value: whole.slice(bonus[0].length), reason: null, line: row.line, bonus: true });
      return;
    }
    const heads = headsIn(text, habits.roman, letters, subs, habits.decimals);
    if (heads.length) {
      heads.forEach((h, i) => {
        const value = whole.slice(h.end, heads[i + 1]?.start ?? text.length).trimmed();
        add(h.number, value.slice(0, value.text.replace(/\s*[;,|/]\s*$/, '').length), h.sub);
      });
      return;
    }
    if (SEQUENCE.test(text)) {
      for (const m of text.matchAll(/\p{L}/gu)) add(null, new Stretch(m[0], []));
      return;
    }
    // a line without a number: the next key of a list in order, or more of the entry above
    if (!last || (last.number === null && lines[row.line - 1] && row.line - last.line === 1)) add(null, whole.slice(/^[-•*]\s+/.exec(text)?.[0].length ?? 0));
    else if (last.reason ?? (last.value.text.length <= 2 || /^[A-Za-z][).]/.test(last.value.text))) tail(last, 'reason', whole);
    else tail(last, 'value', whole);
  });
  for (const [e, more] of tails) {
    e.value = Stretch.join([e.value, ...more.value]);
    if (more.reason.length) e.reason = Stretch.join(e.reason && more.reason[0] !== e.reason ? [e.reason, ...more.reason] : more.reason);
  }
  return out;
}

/** Which columns of a table of keys say points, by its row of headings; null where a row is none. */
function pointsColumns(text: string): ReadonlySet<number> | null {
  const cells = cellsIn(text);
  if (cells.some((c) => /^[([]?\d/.test(c)) || cells.every((c) => /^:?-*:?$/.test(c))) return null;
  return new Set(cells.flatMap((c, i) => (field(`${c}:`)?.name === 'points' || /^(?:max\.?|score|out of|total)$/i.test(c) ? [i] : [])));
}
const cellsIn = (text: string): string[] =>
  text
    .trim()
    .replace(/^\||\|$/g, '')
    .split('|')
    .map((c) => c.trim());

function tableRow(whole: Stretch, line: number, out: KeyEntry[], aside: ReadonlySet<number>, above: Line | undefined): void {
  let cells: Stretch[] = [];
  let from = 0;
  const text = whole.text.endsWith('|') ? whole.text : `${whole.text}|`;
  for (let i = 0; i < text.length; i++) {
    if (text[i] !== '|') continue;
    if (i > 0) cells.push(whole.slice(from, i).trimmed());
    from = i + 1;
  }
  cells = cells.filter((_, i) => !aside.has(i));
  const words = cells.map((c) => c.text);
  if (words.every((w) => /^:?-*:?$/.test(w))) return;
  if (words.length > 2 && words.every((w) => /^\d{1,3}$/.test(w))) return;
  const numbers =
    above?.text
      .split('|')
      .map((c) => c.trim())
      .filter(Boolean) ?? [];
  if (numbers.length > 2 && numbers.length === words.length && numbers.every((n) => /^\d{1,3}$/.test(n))) {
    cells.forEach((c, i) => out.push({ number: Number(numbers[i]), sub: '', value: c, reason: null, line }));
    return;
  }
  for (let i = 0; i + 1 < cells.length; ) {
    const n = /^(?:q\s*)?(\d{1,3})([a-h]?)[.)]?$/i.exec(words[i] ?? '');
    if (!n) break;
    const next = cells.findIndex((c, k) => k > i + 1 && /^\d{1,3}[.)]?$/.test(c.text));
    const more = cells.slice(i + 2, next < 0 ? cells.length : next).filter((c) => c.text);
    out.push({ number: Number(n[1]), sub: n[2] ?? '', value: cells[i + 1] as Stretch, reason: more.length ? Stretch.join(more) : null, line });
    if (next < 0) break;
    i = next;
  }
}

export interface Assigned {
  keyOf: Map<Block, { listed: Listed; line: number }>;
  /** Questions that a list covers; one without any key is left out by it. */
  covered: Set<Block>;
  problems: ListProblem[];
  stemOf: (b: Block) => string;
  /** The numbers of a matching question's left sides. */
  leftsOf: (b: Block) => number[];
  /** The line of the list that should hold a question's key. */
  listLine: number;
}

/** Gives the entries of all lists to the questions they name. */
export function assignKeys(o: Outline, lines: readonly Line[]): Assigned {
  const words = (pieces: readonly Piece[]): string => pieces.map((p) => lines[p.line]?.text.slice(p.from, p.to) ?? '').join(' ');
  const out: Assigned = {
    keyOf: new Map(),
    covered: new Set(),
    problems: [],
    stemOf: (b) => words(b.stem),
    leftsOf: (b) => b.pairs.flatMap((p) => numbered(words(p.left))?.number ?? []),
    listLine: o.keyRows[0]?.line ?? 0,
  };
  if (!o.keyRows.length) return out;
  const subs = o.blocks.some((b) => b.sub !== undefined);
  const labelled = new Map<string, Block[]>();
  for (const b of o.blocks) {
    if (!b.part.label) continue;
    const all = labelled.get(b.part.label);
    if (all) all.push(b);
    else labelled.set(b.part.label, [b]);
  }
  const groups = o.keyRows
    .map((rows) => ({ rows, entries: entriesOf(rows, lines, o.habits, subs), label: partLabel(rows.heading.replace(/[*#]/g, '')) }))
    .filter((g) => g.entries.length);
  const unlabelled = groups.filter((g) => !labelled.has(g.label));
  let from = -1;
  let order = 0;
  const runs = runsOf(o.blocks);
  for (const g of groups) {
    const part = labelled.get(g.label);
    if (part) {
      assign(g.entries, part, out);
      continue;
    }
    // several lists without a part: each is for the questions since the one before, or for the next run of numbers
    const before = o.blocks.filter((b) => b.line < g.rows.line && b.line > from);
    const scope = unlabelled.length > 1 && before.length ? before : o.blocks;
    from = g.rows.line;
    const parts = restarts(g.entries);
    const scoped = unlabelled.length > 1 && before.length ? runsOf(before) : runs;
    if (scoped.length > 1 && (parts.length > 1 || (unlabelled.length > 1 && !before.length))) {
      for (const entries of parts) {
        const at = scoped.findIndex((run, i) => i >= order && fits(entries, run));
        if (at < 0) unmatched(entries, out);
        else {
          assign(entries, scoped[at] as Block[], out);
          order = at + 1;
        }
      }
    } else assign(g.entries, scope, out);
  }
  return out;
}

const gradable = (b: Block): boolean =>
  b.part.kind !== 'essay' && b.kind !== 'essay' && b.kind !== 'information' && !b.fields.some((f) => f.name === 'model' || f.name === 'rubric');

function assign(entries: readonly KeyEntry[], scope: readonly Block[], out: Assigned): void {
  for (const b of scope) if (gradable(b)) out.covered.add(b);
  const [only] = scope;
  const pairing = only && (only.pairs.length > 1 || (only.count.number > 1 && only.count.letter > 0));
  if (scope.length === 1 && only && entries.length > 1 && pairing) {
    // "1-C  2-A" under the name of a part that is one matching question
    const value = entries.map((e) => `${e.number ?? ''}${e.sub}-${e.value.plain}`).join(', ');
    out.keyOf.set(only, { listed: { value: new Stretch(value, []), reason: null }, line: entries[0]?.line ?? 0 });
    return;
  }
  const inOrder = entries.filter((e) => e.number === null && !e.bonus);
  const places = inOrder.length ? orderly(inOrder, scope, out.stemOf) : [];
  if (inOrder.length && !places.length)
    out.problems.push({
      line: inOrder[0]?.line ?? 0,
      message: `The list has ${inOrder.length} keys without numbers for ${scope.length} questions, so nobody can say which belongs to which.`,
    });
  let next = 0;
  const anyNumber = scope.some((b) => numberOf(b) !== undefined);
  const byName = new Map<string, Block[]>();
  scope.forEach((b, i) => {
    const name = `${numberOf(b) ?? (anyNumber ? -1 : i + 1)}${b.sub ?? ''}`;
    const all = byName.get(name);
    if (all) all.push(b);
    else byName.set(name, [b]);
  });
  const unnumbered = scope.filter((b) => b.number === undefined && b.pairs.length > 0);
  const sides = new Map<Block, string[]>();
  for (const e of entries) {
    const free = (b: Block): boolean => !out.keyOf.has(b);
    const found = e.bonus ? [...scope].reverse().find(free) : e.number === null ? places[next++] : byName.get(`${e.number}${e.sub}`)?.find(free);
    if (found) out.keyOf.set(found, { listed: { value: e.value, reason: e.reason }, line: e.line });
    else if (e.number !== null) {
      // "7 b, 8 a": the rows of one matching question are numbered like questions
      const row = unnumbered.find((b) => out.leftsOf(b).includes(e.number ?? 0));
      if (row) sides.set(row, [...(sides.get(row) ?? []), `${e.number}-${e.value.plain}`]);
      else unmatched([e], out);
    }
  }
  for (const [b, values] of sides) out.keyOf.set(b, { listed: { value: new Stretch(values.join(', '), []), reason: null }, line: entries[0]?.line ?? 0 });
}

/** A question's number as entries name it; "2.1" counts as 201. */
const numberOf = (b: Block): number | undefined => {
  const within = b.form === 'decimal' ? /^(\d+)\.(\d+)$/.exec(b.label ?? '') : null;
  return within ? Number(within[1]) * 100 + Number(within[2]) : b.number;
};

/** The questions that keys without numbers are for; none where the counts do not agree. */
function orderly(entries: readonly KeyEntry[], scope: readonly Block[], stemOf: (b: Block) => string): Block[] {
  const n = entries.length;
  const all = scope.filter((b) => gradable(b));
  const answered = all.filter((b) => b.entries.length > 0 || !asksForMore(stemOf(b)));
  const chosen = all.filter((b) => b.entries.length > 0);
  return [scope, all, answered, chosen].find((blocks) => blocks.length === n)?.slice() ?? [];
}

function unmatched(entries: readonly KeyEntry[], out: Assigned): void {
  for (const e of entries)
    out.problems.push({ line: e.line, message: `The key list has an entry for question ${e.number ?? '?'}${e.sub}, and there is none.` });
}

/** Questions as runs of one numbering: a new one where numbers start anew, or where a part has a question without number. */
function runsOf(blocks: readonly Block[]): Block[][] {
  const out: Block[][] = [];
  let last: Block | undefined;
  for (const b of blocks) {
    const restart =
      last !== undefined &&
      ((b.number !== undefined && last.number !== undefined && b.number < last.number && b.number === 1) ||
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
    if (!out.length || (e.number === 1 && last >= 1)) out.push([]);
    out[out.length - 1]?.push(e);
    last = e.number ?? last;
  }
  return out;
}
const holds = (run: readonly Block[], entries: readonly KeyEntry[]): boolean => {
  const numbers = new Set(run.map((b, i) => numberOf(b) ?? i + 1));
  return entries.every((e) => e.number === null || numbers.has(e.number));
};
/** Whether entries can be the keys of a run: every number is there, or it is one question that asks to match. */
const fits = (entries: readonly KeyEntry[], run: readonly Block[]): boolean =>
  (run.length === 1 && ((run[0]?.pairs.length ?? 0) > 0 || (run[0]?.count.number ?? 0) > 1)) || (entries.length <= run.length && holds(run, entries));
