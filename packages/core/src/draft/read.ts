/** The draft reader: text as people write it gives items, doubts with fixes, asides, and a role for every line. */
import type { Aside, Diagnostic, Fix, QuizSet, ReadResult, Section } from '../item/model.js';
import { isQuestion } from '../item/kinds.js';
import { writesDecimalComma } from '../mark/numbers.js';
import { outline, type Block, type KeyEntry, type LineRole, type Outline, type Role } from './blocks.js';
import { build, type Built, type Problem } from './items.js';
import { placeOf, splitLines, type Line } from './lines.js';
import { numbered } from './shapes.js';

export type { LineRole, Role };

export interface DraftOptions {
  /** What a person said that a line is, by 0-based line number. */
  overrides?: ReadonlyMap<number, Role>;
  /** BCP 47; decides what a comma in a number means. Guessed from the text where it is not said. */
  language?: string;
}

export interface DraftResult extends ReadResult {
  /** One for each line of the draft. */
  roles: LineRole[];
}

/** Reads a draft. Never throws; time grows linearly with the text. */
export function readDraft(draft: string, options: DraftOptions = {}): DraftResult {
  const lines = splitLines(draft);
  const o = outline(lines, options.overrides ?? new Map());
  const decimalComma = usesDecimalComma(draft, options.language);
  const { keyOf, problems: listProblems } = assignKeys(o);
  const built = o.blocks.map((b) => build(b, lines, keyOf.get(b), decimalComma, o));
  const diagnostics = [...listProblems.map((p) => place(p, lines, undefined)), ...built.flatMap((b) => b.problems.map((p) => place(p, lines, b)))];
  diagnostics.push(...numberDoubts(built, lines));
  const set: QuizSet = { title: titleOf(o, lines), items: built.map((b) => b.item), ...(options.language && { language: options.language }) };
  addSections(set, o, built);
  return { set, diagnostics: diagnostics.sort((a, b) => a.from - b.from), asides: asidesOf(lines, o.roles), roles: o.roles };
}

/** Whether commas part decimals in this text: more "12,5" than "12.5", or a language that writes so. */
function usesDecimalComma(draft: string, language?: string): boolean {
  if (language) return writesDecimalComma(language);
  const head = draft.slice(0, 200_000);
  const commas = head.match(/\d,\d{1,2}(?!\d)/g)?.length ?? 0;
  const dots = head.match(/\d\.\d{1,2}(?!\d)/g)?.length ?? 0;
  return commas > dots;
}

function titleOf(o: Outline, lines: readonly Line[]): string {
  const first = o.blocks[0]?.line ?? lines.length;
  for (const l of lines.slice(0, first)) if (l.heading > 0 && l.text.trim()) return l.text.replace(/[^\p{L}\p{N}\p{P}\s]/gu, '').trim();
  return 'Untitled set';
}

/** Gives the entries of a key list to the questions they name. A list that starts anew belongs to the next part. */
function assignKeys(o: Outline): { keyOf: Map<Block, KeyEntry>; problems: Problem[] } {
  const keyOf = new Map<Block, KeyEntry>();
  const problems: Problem[] = [];
  if (!o.entries.length) return { keyOf, problems };
  const ofBlocks = blockRuns(o.blocks);
  const ofEntries = runs(
    o.entries.filter((e) => !e.bonus),
    (e) => e.number,
    (e) => e.group,
  );
  const unmatched: KeyEntry[] = [];
  const restarted = ofBlocks.length > 1 && ofEntries.length > 1;
  let from = 0;
  for (const entries of ofEntries) {
    const at = restarted ? ofBlocks.findIndex((run, i) => i >= from && answers(entries, run)) : -1;
    if (restarted && at < 0) {
      unmatched.push(...entries);
      continue;
    }
    const run = restarted ? (ofBlocks[at] as Block[]) : o.blocks;
    from = at + 1;
    const [only] = run;
    if (run.length === 1 && only && entries.length > 1 && (only.pairs.length || only.lefts.length)) {
      // "1-C  2-A" under the name of a part that is one matching question
      const first = entries[0] as KeyEntry;
      keyOf.set(only, { ...first, value: entries.map((e) => `${e.number ?? ''}-${e.value}`).join(', ') });
      continue;
    }
    entries.forEach((e, next) => {
      const found = e.number === null ? run[next] : run.find((b, i) => (b.number ?? i + 1) === e.number && !keyOf.has(b));
      if (found) keyOf.set(found, e);
      else unmatched.push(e);
    });
  }
  for (const e of o.entries.filter((x) => x.bonus)) {
    const b = [...o.blocks].reverse().find((x) => !keyOf.has(x));
    if (b) keyOf.set(b, e);
  }
  for (const e of unmatched)
    problems.push({
      code: 'key-list-unmatched',
      severity: 'warning',
      line: e.line,
      message: `The key list has an entry for question ${e.number ?? '?'}, and there is none.`,
    });
  return { keyOf, problems };
}

/** Questions as runs of one numbering: a new one where numbers start anew, or where a part has a question without number. */
function blockRuns(blocks: readonly Block[]): Block[][] {
  const out: Block[][] = [];
  let last: Block | undefined;
  for (const b of blocks) {
    const restart =
      last !== undefined &&
      ((b.number !== undefined && last.number !== undefined && b.number <= last.number && b.number === 1) ||
        (b.part !== last.part && (b.number === undefined || last.number === undefined)));
    if (!out.length || restart) out.push([]);
    out[out.length - 1]?.push(b);
    last = b;
  }
  return out;
}

/** Whether the entries of a key list can be the keys of a run: every number is there, or it is one matching question. */
const answers = (entries: readonly KeyEntry[], run: readonly Block[]): boolean =>
  (run.length === 1 && ((run[0]?.pairs.length ?? 0) > 0 || (run[0]?.lefts.length ?? 0) > 0)) ||
  (entries.length <= run.length && entries.every((e) => e.number === null || run.some((b, i) => (b.number ?? i + 1) === e.number)));

/** Parts a list where its numbers start anew (or the group changes). */
function runs<T>(all: readonly T[], numberOf: (t: T) => number | null | undefined, groupOf?: (t: T) => number): T[][] {
  const out: T[][] = [];
  let last = 0;
  let group: number | undefined;
  for (const t of all) {
    const n = numberOf(t);
    const g = groupOf?.(t);
    const restart = (n === 1 && last >= 1) || (g !== undefined && g !== group && out.length > 0 && n !== null && n !== undefined && n <= last);
    if (!out.length || restart) out.push([]);
    out[out.length - 1]?.push(t);
    if (n !== null && n !== undefined) last = n;
    group = g;
  }
  return out;
}

/** Numbers that are missing, jump or repeat; a restart per part is silent. */
function numberDoubts(built: readonly Built[], lines: readonly Line[]): Diagnostic[] {
  const out: Diagnostic[] = [];
  let last: number | null = null;
  const anyNumber = built.some((b) => b.block.number !== undefined);
  let part = built[0]?.block.part;
  for (const b of built) {
    const n = b.block.number;
    const restarted = b.block.part !== part;
    part = b.block.part;
    if (n === undefined) {
      if (anyNumber && last !== null && isQuestion(b.item)) {
        const line = lines[b.block.line];
        const due: number = last + 1;
        const at = line?.from ?? 0;
        const fix: Fix = { label: `Put ${due}. in front`, edits: [{ from: at, to: at, insert: `${due}. ` }], safe: true };
        out.push(
          place(
            { code: 'number-lost', severity: 'info', message: `Line ${b.block.line + 1} has no number. Read as a question of its own.`, fixes: [fix] },
            lines,
            b,
          ),
        );
        last = due;
      }
      continue;
    }
    if (last !== null && n !== last + 1 && n !== 1 && !restarted) {
      const line = lines[b.block.line];
      const at = line ? numbered(line.text) : null;
      const digits = line && at ? line.text.indexOf(at.label) : -1;
      const fixes: Fix[] =
        line && digits >= 0
          ? [
              {
                label: `Make it ${last + 1}`,
                edits: [{ from: placeOf(line, digits), to: placeOf(line, digits + (at?.label.length ?? 0) - 1) + 1, insert: String(last + 1) }],
              },
            ]
          : [];
      out.push(
        place(
          n <= last
            ? { code: 'number-repeat', severity: 'warning', message: `Number ${n} stands twice.`, fixes }
            : { code: 'number-gap', severity: 'warning', message: `Number jumps from ${last} to ${n}.`, fixes },
          lines,
          b,
        ),
      );
    }
    last = n;
  }
  return out;
}

function place(p: Problem, lines: readonly Line[], b: Built | undefined): Diagnostic {
  const first = p.line !== undefined ? lines[p.line] : b ? lines[b.block.line] : lines[0];
  const from = (first?.from ?? 0) + (first ? first.text.length - first.text.trimStart().length : 0);
  return {
    code: p.code,
    severity: p.severity,
    from,
    to: first?.to ?? 0,
    line: (first?.index ?? 0) + 1,
    column: from - (first?.from ?? 0) + 1,
    message: p.message,
    ...(b && { item: b.item.id }),
    ...(p.fixes?.length && { fixes: p.fixes }),
  };
}

/** Parts that carry a passage or a heading become sections, and their items name them. */
function addSections(set: QuizSet, o: Outline, built: readonly Built[]): void {
  const sections: Section[] = [];
  o.parts.forEach((part) => {
    const members = built.filter((b) => b.block.part === part);
    // a heading over the whole draft is the set's title and no part
    const whole = part.title !== undefined && plainTitle(part.title) === plainTitle(set.title);
    if (!members.length || ((!part.title || whole) && !part.passage.length)) return;
    const section: Section = { id: `s${sections.length + 1}` };
    if (part.title) section.title = part.title.replace(/\s*:\s*$/, '');
    if (part.passage.length) section.passage = part.passage.map((p) => p.text.trim()).join(' ');
    if (part.instructions.length) section.instructions = part.instructions.map((p) => p.text.trim()).join(' ');
    sections.push(section);
    for (const m of members) m.item.section = section.id;
  });
  if (sections.length) set.sections = sections;
}

const plainTitle = (s: string): string =>
  s
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

function asidesOf(lines: readonly Line[], roles: readonly LineRole[]): Aside[] {
  return lines.flatMap((l, i) => (roles[i]?.role === 'aside' && l.text.trim() ? [{ from: l.from, to: l.to, text: l.text.trim() }] : []));
}

/** Applies text edits to a draft; edits must not overlap. */
export function applyEdits(draft: string, edits: readonly { from: number; to: number; insert: string }[]): string {
  let out = draft;
  for (const e of [...edits].sort((a, b) => b.from - a.from)) out = out.slice(0, e.from) + e.insert + out.slice(e.to);
  return out;
}
