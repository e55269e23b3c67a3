/** The draft reader: text as people write it gives items, doubts with fixes, asides, and a role for every line. */
import { bracketEnd, fillsBlank, saysAnswer } from './signatures/bracketEnd.js';
import { type Aside, type Diagnostic, type Fix, type Item, type QuizSet, type ReadResult, type Section, type TextEdit, UNTITLED } from '../item/model.js';
import { isQuestion } from '../item/kinds.js';
import { writesDecimalComma } from '../language/numbers.js';
import { BRACKETED } from '../language/blanks.js';
import { truth } from '../language/truths.js';
import { build } from './items/items.js';
import { assignKeys, type Assigned } from './links/assignKeys.js';
import { doubtful, nothingRead } from './doubt/doubt.js';
import { layout, LayoutMemory } from './layout.js';
import { numbered } from '../language/labels.js';
import { lastUpTo, placeOf, splitLines, spotOf, stretchOf, memoised, type Line } from './surface/lines.js';
import type { WritingHabits, Problem } from './items/itemBuilder.js';
import { kindByNumber, type Block, type Entry, type LineRole, type Outline, type DraftPart, type Piece, type Role } from './model/outline.js';
import { ADVICE, calledOf } from './items/fixes.js';
import { account, type Span } from './doubt/account.js';
import { KEY_LOOKS, keyLooks, type KeyLook, Stretch } from './surface/stretch.js';

export { keyLooks, type KeyLook } from './surface/stretch.js';
export type { LineRole, Role, Span };

/** What a person has said of the draft. */
export interface DraftOptions {
  /** What a person said that a line is, by 0-based line number. */
  overrides?: ReadonlyMap<number, Role>;
  /** The look of options that says the key; `auto` takes one that marks exactly one option in nearly all questions where nothing else says the key. */
  keysFrom?: KeysFrom;
  /** BCP 47; decides what a comma in a number means. Guessed from the text where it is not said. */
  language?: string;
}

/** Which look of options says the keys: found out, none, or one of the looks. */
export type KeysFrom = 'auto' | 'none' | KeyLook;

/** How often a look marks options. */
export interface LookCount {
  look: KeyLook;
  /** Questions with options, how many of them have exactly one option of this look, how many several (and not all). */
  of: number;
  one: number;
  several: number;
}

/** The items of a draft with its doubts, what was set aside, a role for every line, and what became of every character. */
export interface DraftResult extends ReadResult {
  /** The looks that options have, the likeliest mark of keys first; empty where the draft says its keys in another way. */
  looks: LookCount[];
  /** The look that the keys were taken from. */
  keysFrom?: KeyLook;
  /** One for each line of the draft. */
  roles: LineRole[];
}

/** Reads a draft. Never throws; time grows linearly with the text. */
export const readDraft = (draft: string, options: DraftOptions = {}): DraftResult => new DraftReader().read(draft, options);

/**
 * Reads one draft again and again as it is edited. What was read of a question is kept as long as its lines and what
 * the rest of the draft says about them stay the same: an edit makes only the items anew that it touches, and items that
 * stay keep their ids. The result is that of a full reading, because only pure functions of the text are remembered.
 */
export class DraftReader {
  private readonly memory = new LayoutMemory();
  private kept = new Map<number, PreviousReading[]>();
  private last: { draft: string; lines: readonly Line[]; roles: readonly LineRole[]; built: readonly Placed[] } | null = null;

  /** Reads the draft. What an edit since the reading before has not touched is taken from that. */
  read(draft: string, options: DraftOptions = {}): DraftResult {
    const lines = splitLines(draft, this.last ?? undefined);
    const { outline: o, series, reading } = layout(lines, options.overrides ?? new Map(), this.memory);
    const keys = assignKeys(o, lines);
    const said = o.meta.find((f) => f.name === 'language')?.piece;
    const whole = mannerOf(
      o,
      lines,
      draft,
      options.language ?? (said && lines[said.line]?.text.slice(said.from, said.to).trim()),
      options.keysFrom ?? 'auto',
      series.bracketAnswers,
      series.legend,
    );
    const { looks, keysFrom, ...manner } = whole;
    const next = new Map<number, PreviousReading[]>();
    const { sections, homes } = sectionsOf(o, lines);
    const now: Reading = { homes, draft, lines, roles: o.roles, keys, manner, mannerSign: JSON.stringify(manner) };
    const built = o.blocks.map((block) => this.make(block, now, next));
    this.kept = next;
    this.last = { draft, lines, roles: o.roles, built };
    const meta = (name: 'language' | 'description'): string => {
      const found = o.meta.find((f) => f.name === name)?.piece;
      return found ? stretchOf(lines[found.line] as Line, found.from, found.to, 0).trimmed().rich : '';
    };
    const language = options.language ?? meta('language');
    const set: QuizSet = {
      title: titleOf(o, lines),
      items: built.map((b) => b.item),
      ...(language && { language }),
      ...(meta('description') && { description: meta('description') }),
    };
    if (sections.length) set.sections = sections;
    const diagnostics = diagnosticsOf(built, keys, lines);
    diagnostics.push(...doubtful(reading, series.units, lines, o.roles, built));
    if (!built.length) diagnostics.push(...nothingRead(lines, draft));
    if (keysFrom) {
      diagnostics.push(fromFormatting(keysFrom, looks, built, lines));
      markLooks(built, o.roles, lines);
    }
    diagnostics.push(...invisibleDoubt(draft, lines));
    // where two places disagree, taking one of them away would hide it
    if (!diagnostics.some((d) => d.code === 'key-conflict')) diagnostics.push(...listNote(draft, lines, o, keys));
    const { asides, diagnostics: asideNotes } = asidesOf(draft, lines, o.roles, built);
    diagnostics.push(...asideNotes);
    return { set, diagnostics: diagnostics.sort((a, b) => a.from - b.from), asides, roles: o.roles, looks, ...(keysFrom && { keysFrom }) };
  }

  /** What became of every character of the text that was read last that is not blank, in order. */
  spans(): Span[] {
    if (!this.last) return [];
    const { draft, lines, roles, built } = this.last;
    const out: Span[] = [];
    let at = 0;
    const plain = (to: number): void => {
      for (; at < to; at++) {
        const line = lines[at] as Line;
        const role = roles[at]?.role ?? 'blank';
        if (line.to > line.from && draft.slice(line.from, line.to).trim())
          out.push({
            from: line.from,
            to: line.to,
            // a field outside of all questions says something about the whole set, as a heading does
            as:
              role === 'aside' || role === 'part' || role === 'passage' || role === 'key-list'
                ? role
                : role === 'question'
                  ? 'stem'
                  : role === 'field' || role === 'feedback'
                    ? 'part'
                    : 'mark',
          });
      }
    };
    for (const b of built) {
      if (b.block.line < at) continue;
      plain(b.block.line);
      for (const s of b.spans) if (s.from >= 0) out.push({ from: s.from + b.origin, to: s.to + b.origin, as: s.as });
      at = b.block.last + 1;
    }
    plain(lines.length);
    return out;
  }

  /** The item of a block: the one made before where nothing about it changed. */
  private make(block: Block, now: Reading, next: Map<number, PreviousReading[]>): Placed {
    const { lines, draft } = now;
    const first = lines[block.line] as Line;
    const origin = first.from;
    const end = lines[block.last]?.to ?? origin;
    const found = now.keys.keyOf.get(block);
    const home = now.homes.get(block.part);
    const context: Context = {
      manner: now.mannerSign,
      part: partSign(block),
      listed: found ? `${found.listed.value.plain}\u0002${found.listed.reason?.plain ?? ''}` : '',
    };
    const before = this.kept.get(first.own.id);
    const at = before?.findIndex((k) => sameContext(k.context, context) && sameBlock(k, block, lines, now.roles)) ?? -1;
    let made = before && at >= 0 ? (before.splice(at, 1)[0] as PreviousReading) : null;
    if (made) {
      const { source, section, ...rest } = made.item;
      // never in place: the item was handed out by an earlier reading
      if (source?.from !== origin || source.to !== end || section !== home)
        made.item = { ...rest, ...(home && { section: home }), source: { from: origin, to: end } };
      Object.assign(made, { block, lines, roles: now.roles });
    } else {
      const b = build(block, lines, draft, found?.listed, now.manner);
      const spans = account(draft, lines.slice(block.line, block.last + 1), now.roles, b.used, origin);
      made = {
        block,
        lines,
        roles: now.roles,
        context,
        problems: b.problems,
        spans,
        leftOver: spans.filter((s) => s.as === 'left over'),
        item: { ...b.item, ...(home && { section: home }), source: { from: origin, to: end } },
      };
    }
    const all = next.get(first.own.id);
    if (all) all.push(made);
    else next.set(first.own.id, [made]);
    return { item: made.item, problems: made.problems, spans: made.spans, leftOver: made.leftOver, block, origin, listLine: found?.line };
  }
}

/** What one reading knows of the whole draft. */
interface Reading {
  /** The section of each part that makes one. */
  homes: ReadonlyMap<DraftPart, string>;
  draft: string;
  lines: readonly Line[];
  roles: readonly LineRole[];
  keys: Assigned;
  manner: WritingHabits;
  mannerSign: string;
}

/** A built item in its place in the draft. */
export interface Placed {
  item: Item;
  problems: readonly Problem[];
  /** Counted from the origin. */
  spans: readonly Span[];
  leftOver: readonly Span[];
  block: Block;
  origin: number;
  listLine: number | undefined;
}
/** What the rest of the draft says about a block. */
interface Context {
  manner: string;
  part: string;
  listed: string;
}
interface PreviousReading {
  block: Block;
  lines: readonly Line[];
  roles: readonly LineRole[];
  context: Context;
  item: Item;
  problems: readonly Problem[];
  spans: readonly Span[];
  leftOver: readonly Span[];
}

const sameContext = (a: Context, b: Context): boolean => a.manner === b.manner && a.part === b.part && a.listed === b.listed;

/** Whether a block of an earlier reading has the same lines and was parted in the same way. */
function sameBlock(k: PreviousReading, b: Block, lines: readonly Line[], roles: readonly LineRole[]): boolean {
  const a = k.block;
  if (b.last - b.line !== a.last - a.line || a.label !== b.label || a.kind !== b.kind || a.row !== b.row || a.entries.length !== b.entries.length) return false;
  for (let i = 0; i <= b.last - b.line; i++) {
    if (k.lines[a.line + i]?.own !== lines[b.line + i]?.own) return false;
    if ((k.roles[a.line + i]?.role === 'aside') !== (roles[b.line + i]?.role === 'aside')) return false;
  }
  const shift = b.line - a.line;
  const pieces = (x: readonly Piece[], y: readonly Piece[]): boolean =>
    x.length === y.length &&
    x.every((p, i) => {
      const q = y[i];
      // a piece before the block (the words of a matching part) may stand anywhere, if only its line is the same
      const line = q?.line === p.line + shift || (q !== undefined && k.lines[p.line]?.own === lines[q.line]?.own);
      return q !== undefined && line && p.from === q.from && p.to === q.to && p.joint === q.joint && p.code === q.code && p.row === q.row;
    });
  const all = <T>(x: readonly T[], y: readonly T[], same: (p: T, q: T) => boolean): boolean => x.length === y.length && x.every((p, i) => same(p, y[i] as T));
  return (
    pieces(a.stem, b.stem) &&
    all(
      a.entries,
      b.entries,
      (p, q) =>
        p.label === q.label &&
        p.labels === q.labels &&
        p.marked === q.marked &&
        p.star === q.star &&
        pieces(p.pieces, q.pieces) &&
        pieces(p.feedback, q.feedback),
    ) &&
    all(a.keys, b.keys, (p, q) => p.truth === q.truth && p.line + shift === q.line && pieces(p.pieces, q.pieces) && pieces(p.feedback, q.feedback)) &&
    all(a.fields, b.fields, (p, q) => p.name === q.name && pieces(p.pieces, q.pieces)) &&
    all(a.pairs, b.pairs, (p, q) => pieces(p.left, q.left) && pieces(p.right, q.right)) &&
    pieces(a.tolerance ?? [], b.tolerance ?? [])
  );
}
const partSign = (b: Block): string => {
  const { part } = b;
  const range = kindByNumber(b);
  const total = part.questions === 1 ? part.total : undefined;
  if (!part.kind && part.points === undefined && total === undefined && !range && !part.truths) return '';
  return `${part.kind ?? ''} ${part.points ?? ''} ${total ?? ''} ${range ?? ''} ${part.truths?.join('') ?? ''}`;
};

const barePoints = (t: string): number => Number(/[([](\d{1,2})[)\]]\s*$/.exec(t)?.[1] ?? 0);
/** "(1,0)", "(2,5)": points, as Portuguese and Spanish papers have them behind or in front of the question (common practice, no source). */
const decimalPoints = (t: string): boolean =>
  /(?:[([]\s*\d{1,2}[.,]\d{1,2}\s*[)\]]\s*$|^\s*\S{1,12}(?:\s\d{1,2})?[.)ºª]?\s*[([]\s*\d{1,2}[.,]\d{1,2}\s*[)\]]\s*[–—:.-])/u.test(t);
/** Whether a question ends, and what could be its answer stands in brackets behind it. */
const answersInEnd = (t: string): boolean => {
  const end = bracketEnd(t);
  return Boolean(end?.[1]) && (/[_.…]{3}\s*$/.test(t.slice(0, t.lastIndexOf('('))) ? fillsBlank(end?.[2]) : saysAnswer(end?.[2]));
};
const keysInBrackets = (t: string): boolean =>
  /(?:answers?|keys?|solutions?|respuestas?|réponses?|antwort(?:en)?|lösung(?:en)?|respostas?|risposte|antwoorden)[^.]{0,40}(?:in|entre|en|tra|within)\s*(?:den\s+)?(?:round\s+)?(?:brackets|parenthes[ei]s|paréntesis|parenthèses|klammern|parentesi|parênteses|haakjes|\(\s*\))/i.test(
    t,
  );
/** How many words in square brackets stand in a line; numbers of one or two digits are marks of sources. */
const bracketed = (t: string): number =>
  t.includes('[') ? Array.from(t.matchAll(new RegExp(BRACKETED.source, 'gi'))).filter((m) => !/^\d{1,2}$/.test(m[1] ?? '')).length : 0;

/** A look that marks exactly one option in this share of the questions is a mark of keys. */
const NEARLY_ALL = 0.8;

/** How the draft writes as a whole. */
function mannerOf(
  o: Outline,
  lines: readonly Line[],
  draft: string,
  language: string | undefined,
  asked: KeysFrom,
  bracketAnswers: boolean,
  truths: readonly [string, string] | null,
): WritingHabits & { looks: LookCount[]; keysFrom?: KeyLook } {
  let brackets = 0;
  const open: boolean[] = [];
  const bare: number[] = [];
  let choices = 0;
  let said = 0;
  const counts = (Object.keys(keyLooks) as KeyLook[]).map((look): LookCount => ({ look, of: 0, one: 0, several: 0 }));
  for (const b of o.blocks) {
    const ends = memoised(lines[b.stem[b.stem.length - 1]?.line ?? b.line] as Line, barePoints);
    if (ends) bare.push(ends);
    if (!b.entries.length) {
      if (!b.keys.length) for (const p of b.stem) brackets += memoised(lines[p.line] as Line, bracketed);
      if (!b.keys.length && !b.pairs.length) open.push(memoised(lines[b.stem[b.stem.length - 1]?.line ?? b.line] as Line, answersInEnd));
      continue;
    }
    if (b.entries.length < 2) continue;
    choices++;
    if (b.keys.length || b.entries.some((e) => e.marked)) said++;
    if (!b.entries.some((e) => e.pieces.some((p) => (lines[p.line]?.own.looks ?? 0) & KEY_LOOKS))) continue;
    const seen = b.entries.map((e) => Stretch.join(e.pieces.map((p) => stretchOf(lines[p.line] as Line, p.from, p.to, 0))).look & KEY_LOOKS);
    for (const c of counts) {
      const n = seen.filter((l) => l & keyLooks[c.look]).length;
      if (n === 1) c.one++;
      else if (n > 1 && n < seen.length) c.several++;
    }
  }
  for (const c of counts) c.of = choices;
  const looks =
    o.keyRows.length > 0 || said < choices ? counts.filter((c) => c.one + c.several > 0).sort((a, b) => b.one - a.one || b.several - a.several) : [];
  const [first] = looks;
  const keysFrom = asked === 'auto' ? (first && first.one >= Math.max(1, choices * NEARLY_ALL) ? first.look : undefined) : asked === 'none' ? undefined : asked;
  return {
    decimalComma: usesDecimalComma(draft, language),
    bracketGaps: brackets >= 2,
    bracketPoints:
      o.blocks.some((b) => b.fields.some((f) => f.name === 'points' && /^\s*[_.…]{4}/.test(lines[f.line]?.text ?? ''))) ||
      o.blocks.filter((b) => memoised(lines[b.stem[b.stem.length - 1]?.line ?? b.line] as Line, decimalPoints)).length >= Math.max(2, o.blocks.length * 0.5) ||
      (bare.length >= 3 && bare.some((n, i) => i > 0 && n <= (bare[i - 1] ?? 0))),
    bracketKeys:
      bracketAnswers ||
      (open.length >= 2 && open.every(Boolean)) ||
      o.roles.some((r, i) => (r.role === 'aside' || r.role === 'part' || r.role === 'passage') && memoised(lines[i] as Line, keysInBrackets)),
    truths,
    keyLook: keysFrom ? keyLooks[keysFrom] : 0,
    looks,
    ...(keysFrom && { keysFrom }),
  };
}

/** Whether commas part decimals in this text: more "12,5" than "12.5", or a language that writes so. */
function usesDecimalComma(draft: string, language?: string): boolean {
  if (language) return writesDecimalComma(language);
  const head = draft.slice(0, 200_000);
  const commas = head.match(/(?<!\d)\d{1,3},\d{1,2}(?!\d)/g)?.length ?? 0;
  const dots = head.match(/\d\.\d{1,2}(?![\d.])/g)?.length ?? 0;
  if (commas || dots) return commas > dots;
  // without decimals the sign between thousands tells
  return (head.match(/\d\.\d{3}(?![\d.,])/g)?.length ?? 0) > (head.match(/\d,\d{3}(?!\d)/g)?.length ?? 0);
}

/** The first heading before all questions is the set's title. */
function titleLine(o: Outline, lines: readonly Line[]): Line | undefined {
  const first = o.blocks[0]?.line ?? lines.length;
  return lines.slice(0, Math.min(first, 200)).find((l) => l.heading > 0 && !l.blank);
}
function titleOf(o: Outline, lines: readonly Line[]): string {
  return titleLine(o, lines)?.text.replace(/^[\s\p{So}\p{Sk}\ufe0f]+|[\s\p{So}\p{Sk}\ufe0f]+$/gu, '') ?? UNTITLED;
}

function diagnosticsOf(built: readonly Placed[], keys: Assigned, lines: readonly Line[]): Diagnostic[] {
  const out: Diagnostic[] = keys.problems.map((p) =>
    place({ code: 'key-list-unmatched', severity: 'warning', message: p.message, line: p.line }, lines, undefined),
  );
  for (const b of built) {
    for (const p of b.problems) {
      const line = p.line === 'listed' ? (b.listLine ?? 0) : b.block.line + (p.line ?? 0);
      const fixes = p.fixes?.map((f) => ({ ...f, edits: f.edits.map((e) => ({ ...e, from: e.from + b.origin, to: e.to + b.origin })) }));
      out.push(place({ ...p, line, ...(fixes && { fixes }) }, lines, b));
    }
    if (keys.covered.has(b.block) && !keys.keyOf.has(b.block) && b.problems.some((p) => p.code === 'key-missing'))
      out.push(
        place(
          {
            code: 'key-list-unmatched',
            severity: 'warning',
            message: `The key list has no entry for ${b.block.label ? `question ${b.block.label}` : 'this question'}.`,
            line: b.block.line,
          },
          lines,
          b,
        ),
      );
  }
  out.push(...numberDoubts(built, lines));
  return out;
}

/** "100: …", "200: …", "300: …" under each heading are what questions are worth: all numbers are multiples of the first one, and go up by it. Else 1. */
function stepOf(built: readonly Placed[]): number {
  const numbers = built.flatMap((b) => b.block.number ?? []);
  const [first = 1] = numbers;
  const ups = numbers.filter((n, i) => i > 0 && n === (numbers[i - 1] ?? 0) + first).length;
  return first >= 10 && numbers.length >= 3 && ups >= 2 && numbers.every((n) => n % first === 0) ? first : 1;
}

/** Numbers that are missing, jump or repeat; a restart per part is silent. */
function numberDoubts(built: readonly Placed[], lines: readonly Line[]): Diagnostic[] {
  const out: Diagnostic[] = [];
  const step = stepOf(built);
  let last: number | null = null;
  const anyNumber = built.some((b) => b.block.number !== undefined);
  let part = built[0]?.block.part;
  for (const [i, b] of built.entries()) {
    const n = b.block.number;
    const home = b.block.part.lead ?? b.block.part;
    const restarted = home !== part;
    part = home;
    if (n === undefined) {
      if (anyNumber && last !== null && isQuestion(b.item) && !b.block.row && b.block.kind === undefined) {
        const line = lines[b.block.line];
        const due: number = last + 1;
        const at = line?.from ?? 0;
        const fix: Fix = { label: `Put ${due}. in front`, edits: [{ from: at, to: at, insert: `${due}. ` }], safe: true };
        out.push(
          place(
            {
              code: 'number-lost',
              severity: 'info',
              message: 'This line has no number. Read as a question of its own.',
              fixes: [fix],
              line: b.block.line,
            },
            lines,
            b,
          ),
        );
        last = due;
      }
      continue;
    }
    const sub =
      (b.block.sub !== undefined && b.block.sub !== 'a' && n === last) ||
      (b.block.form === 'decimal' && last !== null && Math.floor(n / 100) > Math.floor(last / 100) && n % 100 === 1);
    const worth = step > 1 && (n === step || n === (last ?? 0) + step);
    if (last !== null && n !== last + 1 && n !== 1 && !restarted && !sub && !worth) {
      const line = lines[b.block.line];
      const at = line ? memoised(line, numbered) : null;
      const digits = line && at ? line.text.indexOf(String(at.number)) : -1;
      // where the next number does not follow either, another one here only moves the jump
      const next = built[i + 1]?.block.number;
      const fixes: Fix[] =
        line && digits >= 0 && (next === undefined || next === last + 2)
          ? [
              {
                label: `Make it ${last + 1}`,
                edits: [{ from: placeOf(line, digits), to: placeOf(line, digits + String(at?.number ?? '').length - 1) + 1, insert: String(last + 1) }],
              },
            ]
          : [];
      const doubt =
        n <= last ? { code: 'number-repeat', message: `Number ${n} stands twice.` } : { code: 'number-gap', message: `Number jumps from ${last} to ${n}.` };
      out.push(place({ ...doubt, severity: 'warning', fixes, line: b.block.line }, lines, b));
    }
    last = n;
  }
  return out;
}

type PlacedProblem = Omit<Problem, 'line'> & { line: number };
function place(p: PlacedProblem, lines: readonly Line[], b: Placed | undefined): Diagnostic {
  const advice = p.severity === 'info' || p.fixes?.length ? undefined : ADVICE[p.code];
  return {
    code: p.code,
    severity: p.severity,
    ...spotOf((lines[p.line] ?? lines[0]) as Line),
    message: advice ? `${p.message} ${advice}` : p.message,
    ...(b && { item: b.item.id }),
    ...(p.fixes?.length && { fixes: p.fixes }),
  };
}

const LOOK_NAMES: Record<KeyLook, string> = { bold: 'Bold', highlight: 'Highlighted', colour: 'Coloured', underline: 'Underlined', italic: 'Italic' };
/** What a look of options is called at the start of a sentence: "Bold", "Coloured". */
export const lookName = (look: KeyLook): string => LOOK_NAMES[look];

function fromFormatting(look: KeyLook, looks: readonly LookCount[], built: readonly Placed[], lines: readonly Line[]): Diagnostic {
  const first = built.find((b) => b.block.entries.length > 1);
  const count = looks.find((l) => l.look === look);
  return place(
    {
      code: 'key-from-formatting',
      severity: 'info',
      message: `${LOOK_NAMES[look]} options were read as the keys${count ? `: ${count.one} of ${count.of} questions have exactly one` : ''}.`,
      line: first?.block.line ?? 0,
    },
    lines,
    undefined,
  );
}

/** The margin says of options which of them are the keys by their look, as it does where a sign says it. */
function markLooks(built: readonly Placed[], roles: LineRole[], lines: readonly Line[]): void {
  for (const { block, item, listLine } of built) {
    const { entries } = block;
    if (listLine !== undefined || block.keys.length || entries.some((e) => e.marked || e.star)) continue;
    const wordsOf = ({ pieces: [p] }: Entry): string => (p && lines[p.line]?.text.slice(p.from, p.to)) ?? '';
    const right = entries.map((e, i) =>
      'options' in item ? (item.options[i]?.credit ?? 0) > 0 : item.kind === 'true-false' && item.answer !== null && truth(wordsOf(e), true) === item.answer,
    );
    if (!right.includes(true)) continue;
    const names = new Map<number, string[]>();
    for (const [i, e] of entries.entries()) {
      const line = e.pieces[0]?.line ?? block.line;
      names.set(line, [...(names.get(line) ?? []), `${calledOf(e, i)}${right[i] ? ' ✓' : ''}`]);
    }
    for (const [line, marks] of names) {
      const mark = marks.join(' ');
      const role = roles[line];
      if (role?.role === 'option' && mark.includes('✓')) roles[line] = { ...role, mark, reason: `${role.reason} Its look says that it is the key.` };
    }
  }
}

/** Characters that nobody sees and nobody needs: soft hyphens, zero-width blanks, byte-order marks; direction marks where nothing runs right to left. */
const UNSEEN = /[\u00ad\u200b\u2060\ufeff]/g;
const UNSEEN_LTR = /[\u00ad\u200b\u200e\u200f\u202a-\u202e\u2060\u2066-\u2069\ufeff]/g;
function invisibleDoubt(draft: string, lines: readonly Line[]): Diagnostic[] {
  const odd = lines.filter((l) => l.own.invisible);
  const [first] = odd;
  if (!first) return [];
  const pattern = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/.test(draft) ? UNSEEN : UNSEEN_LTR;
  const edits: TextEdit[] = [];
  for (const l of odd)
    for (const m of draft.slice(l.from, l.to).matchAll(pattern)) edits.push({ from: l.from + m.index, to: l.from + m.index + 1, insert: '' });
  if (!edits.length) return [];
  const label = edits.length === 1 ? 'Take it out' : `Take all ${edits.length} out`;
  return [
    place(
      {
        code: 'text-invisible',
        severity: 'info',
        message: `${edits.length} invisible ${edits.length === 1 ? 'character' : 'characters'} in the text.`,
        line: first.index,
        fixes: [{ label, edits, safe: true }],
      },
      lines,
      undefined,
    ),
  ];
}

/** A list of keys can be taken apart and its keys set on their questions, where each has its question. */
function listNote(draft: string, lines: readonly Line[], o: Outline, keys: Assigned): Diagnostic[] {
  if (!keys.keyOf.size || keys.problems.length) return [];
  const edits: TextEdit[] = [];
  for (const [block, { listed }] of keys.keyOf) {
    const at = lines[block.last]?.to ?? 0;
    edits.push({ from: at, to: at, insert: `\nAnswer: ${listed.value.plain}${listed.reason ? `\nFeedback: ${listed.reason.plain}` : ''}` });
  }
  const rows = new Set(o.keyRows.flatMap((r) => [r.line, ...r.rows.map((x) => x.line)]));
  for (const index of rows) {
    const line = lines[index];
    if (line && o.roles[index]?.role === 'key-list') edits.push({ from: line.from, to: Math.min(draft.length, lines[index + 1]?.from ?? line.to), insert: '' });
  }
  const n = keys.keyOf.size;
  const message = `A list with the ${n === 1 ? 'key of one question' : `keys of ${n} questions`}.`;
  return [
    place(
      { code: 'key-list', severity: 'info', message, line: o.keyRows[0]?.line ?? 0, fixes: [{ label: 'Set the keys on their questions', edits }] },
      lines,
      undefined,
    ),
  ];
}

/** Parts that carry a passage or a heading become sections, and their items name them. */
function sectionsOf(o: Outline, lines: readonly Line[]): { sections: Section[]; homes: Map<DraftPart, string> } {
  const title = titleLine(o, lines)?.index;
  const text = (pieces: readonly Piece[]): string =>
    Stretch.join(
      pieces.map((p) => stretchOf(lines[p.line] as Line, p.from, p.to, 0).trimmed()),
      (i) => pieces[i]?.joint ?? ' ',
    ).rich;
  const sections: Section[] = [];
  const homes = new Map<DraftPart, string>();
  for (const part of o.parts) {
    // a heading over the whole draft is the set's title and no part
    const whole = part.title !== undefined && part.line === title;
    if (!part.questions || ((!part.title || whole) && !part.passage.length && !part.untitled)) continue;
    const section: Section = { id: `s${sections.length + 1}` };
    if (part.title) section.title = part.title.replace(/\s*:\s*$/, '');
    if (part.passage.length) section.passage = text(part.passage);
    if (part.instructions.length) section.instructions = text(part.instructions);
    sections.push(section);
    homes.set(part, section.id);
  }
  return { sections, homes };
}

/** Lines set aside as no part of any item, and pieces of lines that no field took. */
function asidesOf(draft: string, lines: readonly Line[], roles: readonly LineRole[], built: readonly Placed[]): { asides: Aside[]; diagnostics: Diagnostic[] } {
  const asides: Aside[] = [];
  const diagnostics: Diagnostic[] = [];
  for (const l of lines) if (roles[l.index]?.role === 'aside' && !l.blank) asides.push({ from: l.from, to: l.to, text: l.text.trim() });
  for (const b of built)
    for (const s of b.leftOver) {
      const [from, to] = [s.from + b.origin, s.to + b.origin];
      const text = draft.slice(from, to).trim();
      asides.push({ from, to, text });
      const line = lineAt(lines, from);
      diagnostics.push({
        code: 'text-aside',
        severity: 'info',
        from,
        to,
        line: line.index + 1,
        column: from - line.from + 1,
        message: `“${text.slice(0, 60)}” became no part of the item.`,
      });
    }
  return { asides: asides.sort((a, b) => a.from - b.from), diagnostics };
}
const lineAt = (lines: readonly Line[], at: number): Line => lines[lastUpTo(lines.length, (i) => lines[i]?.from ?? 0, at)] as Line;

/** Applies text edits to a draft; edits must not overlap. */
export function applyEdits(draft: string, edits: readonly TextEdit[]): string {
  let out = draft;
  for (const e of [...edits].sort((a, b) => b.from - a.from)) out = out.slice(0, e.from) + e.insert + out.slice(e.to);
  return out;
}
