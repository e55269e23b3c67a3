/** The draft reader: text as people write it gives items, doubts with fixes, asides, and a role for every line. */
import type { Aside, Diagnostic, Fix, Item, QuizSet, ReadResult, Section, TextEdit } from '../item/model.js';
import { isQuestion } from '../item/kinds.js';
import { writesDecimalComma } from '../mark/numbers.js';
import { BRACKETED } from './blanks.js';
import { build, type Built } from './items.js';
import { assignKeys, type Assigned } from './keyList.js';
import { numbered } from './labels.js';
import { placeOf, splitLines, stretchOf, told, type Line } from './lines.js';
import type { Manner, Problem } from './making.js';
import { outline, type Block, type LineRole, type Outline, type Piece, type Role } from './outline.js';
import { account, type Span } from './account.js';
import { KEY_LOOKS, Stretch } from './stretch.js';

export type { LineRole, Role, Span };

export interface DraftOptions {
  /** What a person said that a line is, by 0-based line number. */
  overrides?: ReadonlyMap<number, Role>;
  /** BCP 47; decides what a comma in a number means. Guessed from the text where it is not said. */
  language?: string;
}

export interface DraftResult extends ReadResult {
  /** One for each line of the draft. */
  roles: LineRole[];
  /** What became of every character that is not blank, in order. */
  spans: Span[];
}

/** Reads a draft. Never throws; time grows linearly with the text. */
export const readDraft = (draft: string, options: DraftOptions = {}): DraftResult => new DraftReader().read(draft, options);

/** How many items a reader remembers; beyond it forgets all of them. */
const KEPT_ITEMS = 60_000;

/**
 * Reads one draft again and again as it is edited. What was read of a question is kept as long as its lines and what
 * the rest of the draft says about them stay the same: an edit makes only the items anew that it touches, and items that
 * stay keep their ids. The result is that of a full reading, because only pure functions of the text are remembered.
 */
export class DraftReader {
  private kept = new Map<string, Built[]>();

  read(draft: string, options: DraftOptions = {}): DraftResult {
    const lines = splitLines(draft);
    const o = outline(lines, options.overrides ?? new Map());
    const keys = assignKeys(o, lines);
    const manner = mannerOf(o, lines, draft, options.language);
    const next = new Map<string, Built[]>();
    const built = o.blocks.map((block) => this.make(block, lines, draft, keys, manner, next));
    if (next.size < KEPT_ITEMS) this.kept = next;
    const set: QuizSet = { title: titleOf(o, lines), items: built.map((b) => b.item), ...(options.language && { language: options.language }) };
    addSections(set, o, built, lines);
    const diagnostics = diagnosticsOf(built, keys, lines);
    if (manner.keyLook) diagnostics.push(fromFormatting(built, lines));
    const spans = account(draft, lines, o.roles, built);
    const { asides, diagnostics: asideNotes } = asidesOf(draft, lines, o.roles, spans);
    return { set, diagnostics: [...diagnostics, ...asideNotes].sort((a, b) => a.from - b.from), asides, roles: o.roles, spans };
  }

  /** The item of a block: the one made before where nothing about it changed. */
  private make(block: Block, lines: readonly Line[], draft: string, keys: Assigned, manner: Manner, next: Map<string, Built[]>): Placed {
    const origin = lines[block.line]?.from ?? 0;
    const end = lines[block.last]?.to ?? origin;
    const found = keys.keyOf.get(block);
    const sign = `${manner.decimalComma ? ',' : '.'}${manner.bracketGaps ? '[' : ''}${manner.keyLook}\u0001${shapeOf(block)}\u0001${partSign(block)}\u0001${found ? `${found.listed.value.plain}\u0002${found.listed.reason?.plain ?? ''}` : ''}\u0001${draft.slice(origin, end)}`;
    const before = this.kept.get(sign)?.pop();
    const made = before ?? build(block, lines, draft, found?.listed, manner);
    const all = next.get(sign);
    if (all) all.push(made);
    else next.set(sign, [made]);
    const item: Item = { ...made.item, source: { from: origin, to: end } };
    return { ...made, item, block, origin, ...(found && { listLine: found.line }) };
  }
}

/** A built item in its place in the draft. */
export interface Placed extends Built {
  block: Block;
  origin: number;
  listLine?: number;
}

const piecesSign = (pieces: readonly Piece[], base: number): string =>
  pieces.map((p) => `${p.line - base}:${p.from}-${p.to}${p.joint === '\n\n' ? 'P' : p.joint === '\n' ? 'L' : ''}${p.code ? 'c' : ''}${p.row ?? ''}`).join(' ');
/** How a block was parted, as one string: what was read of it is the same as long as this and its text are. */
function shapeOf(b: Block): string {
  const of = (p: readonly Piece[]): string => piecesSign(p, b.line);
  return [
    b.label ?? '',
    b.kind ?? '',
    b.row ? 'row' : '',
    of(b.stem),
    b.entries.map((e) => `${e.label}${e.labels}${e.marked ? '*' : ''}${e.star ? '+' : ''}${of(e.pieces)}/${of(e.feedback)}`).join('|'),
    b.keys.map((k) => `${k.line - b.line} ${of(k.pieces)}${k.truth ?? ''}`).join('|'),
    b.fields.map((f) => `${f.name}${of(f.pieces)}`).join('|'),
    b.pairs.map((p) => `${of(p.left)}=${of(p.right)}`).join('|'),
    b.tolerance ? of(b.tolerance) : '',
  ].join(';');
}
const partSign = (b: Block): string =>
  `${b.part.kind ?? ''} ${b.part.points ?? ''} ${b.part.questions === 1 ? (b.part.total ?? '') : ''} ${b.number === undefined ? '' : (b.part.ranges.find((r) => (b.number ?? 0) >= r.from && (b.number ?? 0) <= r.to)?.kind ?? '')}`;

/** How the draft writes as a whole. */
function mannerOf(o: Outline, lines: readonly Line[], draft: string, language: string | undefined): Manner {
  let brackets = 0;
  let byLook = 0;
  let choices = 0;
  let said = 0;
  const looks = new Map<number, number>();
  for (const b of o.blocks) {
    if (!b.entries.length) {
      if (b.stem.some((p) => BRACKETED.test(lines[p.line]?.text ?? ''))) brackets++;
      continue;
    }
    if (b.entries.length < 2) continue;
    choices++;
    if (b.keys.length || b.entries.some((e) => e.marked)) said++;
    const seen = b.entries.map((e) => Stretch.join(e.pieces.map((p) => stretchOf(lines[p.line] as Line, p.from, p.to, 0))).look & KEY_LOOKS);
    for (const bit of [1, 4, 8]) if (seen.filter((l) => l & bit).length === 1) looks.set(bit, (looks.get(bit) ?? 0) + 1);
    if (seen.filter(Boolean).length === 1) byLook++;
  }
  // a look marks the key where it marks exactly one option in nearly all questions
  const [look = 0, times = 0] = [...looks].sort((a, b) => b[1] - a[1])[0] ?? [];
  const all = o.keyRows.length > 0 || said < choices;
  return {
    decimalComma: usesDecimalComma(draft, language),
    bracketGaps: brackets >= 2,
    keyLook: byLook && all && times >= Math.max(1, choices * 0.8) ? look : 0,
  };
}

/** Whether commas part decimals in this text: more "12,5" than "12.5", or a language that writes so. */
function usesDecimalComma(draft: string, language?: string): boolean {
  if (language) return writesDecimalComma(language);
  const head = draft.slice(0, 200_000);
  const commas = head.match(/(?<!\d)\d{1,3},\d{1,2}(?!\d)/g)?.length ?? 0;
  const dots = head.match(/\d\.\d{1,2}(?![\d.])/g)?.length ?? 0;
  return commas > dots;
}

function titleOf(o: Outline, lines: readonly Line[]): string {
  const first = o.blocks[0]?.line ?? lines.length;
  for (const l of lines.slice(0, Math.min(first, 200))) if (l.heading > 0 && !l.blank) return l.text.replace(/[^\p{L}\p{N}\p{P}\p{Sc}\p{Sm}\s]/gu, '').trim();
  return 'Untitled set';
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
            message: `The key list has no entry for question ${b.block.label ?? ''}.`.replace(' .', '.'),
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

/** Numbers that are missing, jump or repeat; a restart per part is silent. */
function numberDoubts(built: readonly Placed[], lines: readonly Line[]): Diagnostic[] {
  const out: Diagnostic[] = [];
  let last: number | null = null;
  const anyNumber = built.some((b) => b.block.number !== undefined);
  let part = built[0]?.block.part;
  for (const b of built) {
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
              message: `Line ${b.block.line + 1} has no number. Read as a question of its own.`,
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
    const sub = b.block.sub !== undefined && b.block.sub !== 'a' && n === last;
    if (last !== null && n !== last + 1 && n !== 1 && !restarted && !sub) {
      const line = lines[b.block.line];
      const at = line ? told(line, numbered) : null;
      const digits = line && at ? line.text.indexOf(String(at.number)) : -1;
      const fixes: Fix[] =
        line && digits >= 0
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
  const line = lines[p.line] ?? lines[0];
  const from = (line?.from ?? 0) + (line ? line.text.length - line.text.trimStart().length : 0);
  return {
    code: p.code,
    severity: p.severity,
    from,
    to: line?.to ?? 0,
    line: (line?.index ?? 0) + 1,
    column: from - (line?.from ?? 0) + 1,
    message: p.message,
    ...(b && { item: b.item.id }),
    ...(p.fixes?.length && { fixes: p.fixes }),
  };
}

function fromFormatting(built: readonly Placed[], lines: readonly Line[]): Diagnostic {
  const first = built.find((b) => b.block.entries.length > 1);
  return place(
    {
      code: 'key-from-formatting',
      severity: 'info',
      message: 'Options that stand out by their look (bold, highlighted, underlined) were read as the keys.',
      line: first?.block.line ?? 0,
    },
    lines,
    undefined,
  );
}

/** Parts that carry a passage or a heading become sections, and their items name them. */
function addSections(set: QuizSet, o: Outline, built: readonly Placed[], lines: readonly Line[]): void {
  const members = new Map<object, Placed[]>();
  for (const b of built) {
    const all = members.get(b.block.part);
    if (all) all.push(b);
    else members.set(b.block.part, [b]);
  }
  const text = (pieces: readonly Piece[]): string =>
    Stretch.join(
      pieces.map((p) => stretchOf(lines[p.line] as Line, p.from, p.to, 0).trimmed()),
      (i) => pieces[i]?.joint ?? ' ',
    ).rich;
  const sections: Section[] = [];
  for (const part of o.parts) {
    const own = members.get(part);
    // a heading over the whole draft is the set's title and no part
    const whole = part.title !== undefined && plainTitle(part.title) === plainTitle(set.title);
    if (!own?.length || ((!part.title || whole) && !part.passage.length)) continue;
    const section: Section = { id: `s${sections.length + 1}` };
    if (part.title) section.title = part.title.replace(/\s*:\s*$/, '');
    if (part.passage.length) section.passage = text(part.passage);
    if (part.instructions.length) section.instructions = text(part.instructions);
    sections.push(section);
    for (const m of own) m.item.section = section.id;
  }
  if (sections.length) set.sections = sections;
}

const plainTitle = (s: string): string =>
  s
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** Lines set aside as no part of any item, and pieces of lines that no field took. */
function asidesOf(draft: string, lines: readonly Line[], roles: readonly LineRole[], spans: readonly Span[]): { asides: Aside[]; diagnostics: Diagnostic[] } {
  const asides: Aside[] = [];
  const diagnostics: Diagnostic[] = [];
  for (const l of lines) if (roles[l.index]?.role === 'aside' && l.text.trim()) asides.push({ from: l.from, to: l.to, text: l.text.trim() });
  for (const s of spans) {
    if (s.as !== 'left over') continue;
    const text = draft.slice(s.from, s.to).trim();
    asides.push({ from: s.from, to: s.to, text });
    const line = lineAt(lines, s.from);
    diagnostics.push({
      code: 'text-aside',
      severity: 'info',
      from: s.from,
      to: s.to,
      line: line.index + 1,
      column: s.from - line.from + 1,
      message: `“${text.slice(0, 60)}” became no part of the item.`,
    });
  }
  return { asides: asides.sort((a, b) => a.from - b.from), diagnostics };
}
function lineAt(lines: readonly Line[], at: number): Line {
  let low = 0;
  let high = lines.length - 1;
  while (low < high) {
    const mid = (low + high + 1) >> 1;
    if ((lines[mid]?.from ?? 0) <= at) low = mid;
    else high = mid - 1;
  }
  return lines[low] as Line;
}

/** Applies text edits to a draft; edits must not overlap. */
export function applyEdits(draft: string, edits: readonly TextEdit[]): string {
  let out = draft;
  for (const e of [...edits].sort((a, b) => b.from - a.from)) out = out.slice(0, e.from) + e.insert + out.slice(e.to);
  return out;
}
