/** From lines to blocks: each question with its stem, options, keys and fields as they stand in the draft. */
import { placeOf, type Line } from './lines.js';
import { ALL_THAT_APPLY, CHAT, KIND_WORDS, PAGE, PART } from './words.js';
import {
  bareLetter,
  BLANK,
  bulleted,
  columnOptions,
  field,
  inlineOptions,
  keyHead,
  keyLine,
  keyTail,
  keyTitle,
  keyTitleRow,
  letterPlace,
  lettered,
  numbered,
  partLine,
  pointsEach,
  romanNumbered,
  romanValue,
  truth,
  truthBox,
  type FieldName,
  type OptionShape,
} from './shapes.js';
import type { Kind } from '../item/model.js';

/** What a line is; what the margin shows and a person can override. */
export type Role = 'question' | 'option' | 'key' | 'feedback' | 'field' | 'pair' | 'step' | 'part' | 'passage' | 'key-list' | 'aside' | 'blank';

export interface LineRole {
  role: Role;
  /** What the margin says: "4", "B", "B ✓", "key C", "feedback". */
  mark: string;
  /** Why the line was read so, in a few words. */
  reason: string;
}

/** A stretch of a line's text. */
export interface Piece {
  line: number;
  from: number;
  text: string;
}

export interface OptionBlock {
  letter: string;
  form: string;
  pieces: Piece[];
  marked: boolean;
  /** A star that is a key mark only where not every option has one. */
  star?: boolean;
  bold: boolean;
  feedback?: string;
}

export interface FieldBlock {
  name: FieldName;
  line: number;
  at: number;
  value: string;
}

export interface KeyBlock {
  line: number;
  at: number;
  value: string;
}

export interface Part {
  title?: string;
  kind?: Kind;
  points?: number;
  instructions: Piece[];
  passage: Piece[];
}

export interface Block {
  label?: string;
  number?: number;
  line: number;
  last: number;
  stem: Piece[];
  options: OptionBlock[];
  keys: KeyBlock[];
  fields: FieldBlock[];
  pairs: { left: string; right: string; line: number }[];
  lefts: string[];
  steps: string[];
  part: Part;
  /** What the stem's words say of the kind, and for how many pieces of the stem that was looked up. */
  said?: { kind: Kind | undefined; pieces: number };
}

export interface KeyEntry {
  number: number | null;
  value: string;
  line: number;
  at: number;
  feedback?: string;
  /** Which key list, or which part of one, it stands in. */
  group: number;
  bonus?: boolean;
}

export interface Outline {
  blocks: Block[];
  parts: Part[];
  entries: KeyEntry[];
  roles: LineRole[];
  /** Line of the key list's heading, −1 where there is none. */
  keyListLine: number;
  /** Several questions of the draft have their answers in square brackets within the sentence. */
  bracketGaps: boolean;
  /** Most questions with options have exactly one in bold: bold marks the key. */
  boldKeys: boolean;
}

/** Kind words stand near the start or the end; a stem of many pages is not searched through. */
const kindIn = (text: string): Kind | undefined => {
  const near = text.length > 1200 ? `${text.slice(0, 600)} ${text.slice(-600)}` : text;
  return KIND_WORDS.find(([pattern]) => pattern.test(near))?.[1];
};
const RULE = /^\s*(?:[-–—_=*~]\s*){3,}$/;
const FENCE = /^\s*(```|~~~)/;
const ARROW = /^(.*?\S)\s*(?:-{1,2}>|→|=>|⇒|⟶)\s*(\S.*)$/;
const NAME_LINE = /^(?:name|class|date|score|nombre|nom|klasse|datum|fecha|nome|data|naam|imię|имя|прізвище)\b.*(?:_{3,}|:)/iu;

interface Style {
  /** Forms of numbers that start questions. */
  questionForms: Set<string>;
  /** Forms of numbers that start options, because they start anew under each question. */
  optionForms: Set<string>;
  lettered: boolean;
  numbered: boolean;
  /** Questions are numbered I, II, III. */
  roman: boolean;
}

/** Weighs the evidence of the whole draft: which forms of numbers go up all through, which start anew again and again. */
function styleOf(lines: readonly Line[]): Style {
  const byForm = new Map<string, { count: number; ones: number; rises: number; last: number; max: number }>();
  let letters = 0;
  let roman = 0;
  let arabic = 0;
  for (const l of lines) {
    const r = romanNumbered(l.text);
    if (r && r.number === roman + 1) roman++;
    if (/^\s*\d{1,3}[.)]\s/.test(l.text)) arabic++;
    const n = numbered(l.text);
    if (n) {
      const f = byForm.get(n.form) ?? { count: 0, ones: 0, rises: 0, last: 0, max: 0 };
      f.count++;
      if (n.number === 1) f.ones++;
      if (n.number === f.last + 1) f.rises++;
      f.last = n.number;
      f.max = Math.max(f.max, n.number);
      byForm.set(n.form, f);
    } else if (lettered(l.text)) letters++;
  }
  const style: Style = { questionForms: new Set(), optionForms: new Set(), lettered: letters >= 2, numbered: false, roman: roman >= 3 && roman > arabic };
  const forms = [...byForm].sort((a, b) => b[1].max - a[1].max);
  for (const [form, f] of forms) {
    const restarts =
      f.ones >= 3 && f.max <= 8 && !style.lettered && forms.some(([other, o]) => other !== form && o.count >= f.ones - 1 && o.max >= 3 && o.ones <= 2);
    if (restarts) style.optionForms.add(form);
    else style.questionForms.add(form);
  }
  style.numbered = [...style.questionForms].some((f) => (byForm.get(f)?.count ?? 0) >= 1);
  return style;
}

const emptyPart = (): Part => ({ instructions: [], passage: [] });

/** Reads the lines into blocks. `overrides` says by line number what a person has said the line is. */
export function outline(lines: readonly Line[], overrides: ReadonlyMap<number, Role>): Outline {
  return new Outliner(lines, overrides).run();
}

class Outliner {
  private readonly style: Style;
  private readonly blocks: Block[] = [];
  private readonly parts: Part[] = [];
  private readonly entries: KeyEntry[] = [];
  private readonly roles: LineRole[];
  private part: Part = emptyPart();
  private block: Block | null = null;
  private blankBefore = true;
  private inKeyList = false;
  private keyGroup = 0;
  private keyListLine = -1;
  private inFence = false;
  private waitingKey = false;
  private readingPassage = false;

  constructor(
    private readonly lines: readonly Line[],
    private readonly overrides: ReadonlyMap<number, Role>,
  ) {
    this.style = styleOf(lines);
    this.roles = lines.map(() => ({ role: 'blank', mark: '', reason: '' }));
    this.parts.push(this.part);
  }

  run(): Outline {
    for (const line of this.lines) {
      if (!line.text.trim()) {
        this.blankBefore = true;
        continue;
      }
      const said = this.overrides.get(line.index);
      if (said) this.obey(line, said);
      else this.read(line);
      this.blankBefore = false;
    }
    return {
      blocks: this.blocks,
      parts: this.parts,
      entries: this.entries,
      roles: this.roles,
      keyListLine: this.keyListLine,
      boldKeys: this.usesBoldKeys(),
      bracketGaps: this.blocks.filter((b) => !b.options.length && BRACKET_GAP.test(stemText(b))).length >= 2,
    };
  }

  private usesBoldKeys(): boolean {
    const choices = this.blocks.filter((b) => b.options.length > 1);
    return choices.length > 0 && choices.filter((b) => b.options.filter((o) => o.bold).length === 1).length > choices.length / 2;
  }
  private say(line: Line, role: Role, mark: string, reason: string): void {
    this.roles[line.index] = { role, mark, reason };
    if (this.block && role !== 'aside' && role !== 'part' && role !== 'key-list') this.block.last = line.index;
  }
  private piece(line: Line, at: number, to = line.text.length): Piece {
    return { line: line.index, from: at, text: line.text.slice(at, to) };
  }

  /** The role that a person gave, whatever the line looks like. */
  private obey(line: Line, role: Role): void {
    const reason = 'You said so.';
    const text = line.text;
    if (role === 'question') {
      const n = numbered(text);
      this.open(line, n?.at ?? 0, n ? { label: n.label, number: n.number } : {});
      this.say(line, 'question', n?.label ?? this.nextLabel(), reason);
    } else if (role === 'option' && this.block) {
      const o = lettered(text) ?? bulleted(text) ?? numbered(text);
      this.addOption(line, { letter: 'letter' in (o ?? {}) ? (o as OptionShape).letter : '', at: o?.at ?? 0, form: 'said', marked: false }, reason);
    } else if (role === 'key' && this.block) {
      const k = keyLine(text);
      this.addKey(line, k?.at ?? 0, reason);
    } else if (role === 'feedback' && this.block) {
      const f = field(text);
      this.addField(line, 'feedback', f?.at ?? 0, reason);
    } else if (role === 'passage') {
      this.part.passage.push(this.piece(line, 0));
      this.say(line, 'passage', 'passage', reason);
    } else if (role === 'part') {
      this.openPart(line, reason);
    } else this.say(line, 'aside', 'aside', reason);
  }

  private read(line: Line): void {
    const text = line.text;
    if (FENCE.test(text)) {
      // A fence around code inside a question keeps the code with the stem; any other fence only wraps the draft.
      this.inFence = !this.inFence;
      return this.say(line, 'aside', '', 'A code fence.');
    }
    if (RULE.test(text)) return this.say(line, 'aside', '', 'A rule.');
    if (/^\s*<\/?(?:details|summary)\b[^>]*>.*$/i.test(text) && text.length < 200) return this.say(line, 'aside', '', 'Markup of a fold-out.');
    if (PAGE.test(text.trim()) || /^\s{20,}\d{1,3}\s*$/.test(text) || /^\s*[-–—]{1,3}\s*\d{1,3}\s*[-–—]{1,3}\s*$/.test(text))
      return this.aside(line, 'A page number.');
    if (this.keyHeading(line)) return;
    if (this.inKeyList && this.keyListLineRead(line)) return;
    if (this.waitingKey && this.block && !numbered(text)) {
      this.waitingKey = false;
      const last = this.block.keys[this.block.keys.length - 1];
      if (last) {
        Object.assign(last, { line: line.index, at: text.length - text.trimStart().length, value: text.trim() });
        return this.say(line, 'key', `key ${short(text.trim())}`, 'Stands under “Answer”.');
      }
    }
    this.waitingKey = false;
    if (this.partHeading(line)) return;
    if (this.block) {
      const inMatching = this.isMatching();
      if (inMatching && this.pairLine(line)) return;
      if (this.isOrdering() && this.stepLine(line)) return;
      const k = keyLine(text);
      if (k) return this.addKey(line, k.at, 'Starts with a word for “answer”.');
      const f = field(text);
      if (f) return this.addField(line, f.name, f.at, `Starts with a word for “${f.name}”.`);
      const arrow = /^\s+(?:->|→|↳)\s*(?=\S)/.exec(text);
      if (arrow && this.block.options.length) return this.optionFeedback(line, arrow[0].length);
    }
    // two columns under a part that asks to match: one question, whose words are the part's
    if (this.part.kind === 'matching' && (!this.block || this.block.part !== this.part) && numbered(text) && /\S(?:\t+|\s{3,})\(?[A-Za-z][.)]\s/.test(text)) {
      this.open(line, text.length, {});
      if (this.block)
        this.block.stem = this.part.instructions.length ? [...this.part.instructions] : [{ line: line.index, from: 0, text: this.part.title ?? '' }];
      if (this.pairLine(line)) return;
    }
    const box = truthBox(text);
    const inner = box ? numbered(text.slice(box.at)) : null;
    if (box && inner) {
      this.open(line, box.at + inner.at, { label: inner.label, number: inner.number });
      this.block?.keys.push({ line: line.index, at: 0, value: box.value });
      return this.say(line, 'question', `${inner.label} ${box.value.toUpperCase()}`, 'A number with true or false in a box before it.');
    }
    const roman = this.style.roman ? romanNumbered(text) : null;
    if (roman) {
      this.open(line, roman.at, { label: roman.label, number: roman.number });
      return this.say(line, 'question', roman.label, 'Starts with a Roman number, as the other questions do.');
    }
    const n = numbered(text);
    if (n && this.style.questionForms.has(n.form) && this.startsQuestion(line, n.number, n.form)) {
      this.open(line, n.at, { label: n.label, number: n.number });
      return this.say(line, 'question', n.label, 'Starts with a number, as the other questions do.');
    }
    if (this.block && this.optionLine(line, n ? { letter: '', at: n.at, form: n.form, marked: false } : null)) return;
    this.prose(line);
  }

  // ── key lists ──

  private keyHeading(line: Line): boolean {
    const row = keyTitleRow(line.text);
    const titled = keyTitle(line.text) && !this.answersStemAlone(line);
    if (!titled && !(row >= 0 && (/\d.*\D\d/.test(line.text.slice(row)) || this.style.roman))) return false;
    // under a question that asks to match, "Answers: 1-B, 2-A" is its own key
    if (!titled && this.block && (this.isMatching() || this.block.stem.some((p) => hasBlank(p.text)))) return false;
    if (titled && !this.entriesFollow(line.index)) return false;
    this.inKeyList = true;
    this.keyGroup++;
    if (this.keyListLine < 0) this.keyListLine = line.index;
    this.block = null;
    this.say(line, 'key-list', 'key list', 'A heading for answers, with entries behind it.');
    if (row >= 0) this.keyEntries(line, row);
    return true;
  }
  /** "Answer:" alone under a question, its value on the next line, is no heading. */
  private answersStemAlone(line: Line): boolean {
    return Boolean(this.block) && /:\s*$/.test(line.text) && !/s\s*:?\s*$/i.test(line.text.trim().replace(/:$/, '')) && line.heading === 0 && !this.blankBefore;
  }
  private entriesFollow(index: number): boolean {
    let looked = 0;
    for (let i = index + 1; i < this.lines.length && looked < 4; i++) {
      const t = this.lines[i]?.text.trim() ?? '';
      if (!t || RULE.test(t)) continue;
      looked++;
      if (/^[|(]?\s*(?:q\w*\s*)?\d{1,3}(?![\d.,]\d)/i.test(t) || SEQUENCE.test(t) || GROUP_ROW.test(t) || /^[A-Ha-hА-Гa-г]$/.test(t)) return true;
    }
    return false;
  }
  private keyListLineRead(line: Line): boolean {
    const t = line.text.trim();
    const row = GROUP_ROW.exec(line.text);
    if (row) {
      this.keyGroup++;
      if (this.keyEntries(line, row[0].length)) return true;
    }
    if (partLine(t) || (line.heading > 0 && !numbered(t))) {
      this.keyGroup++;
      this.say(line, 'key-list', 'key list', 'A heading inside the key list.');
      const at = t.search(/[:–—]\s*\(?\d/);
      if (at >= 0) this.keyEntries(line, line.text.indexOf(t) + at + 1);
      return true;
    }
    // a question with its options after the key list: the list has ended
    if (numbered(t) && t.length > 12 && this.optionsFollow(line.index)) {
      this.inKeyList = false;
      return false;
    }
    if (this.keyEntries(line, 0)) return true;
    const last = this.entries[this.entries.length - 1];
    const f = field(line.text);
    if (last && f?.name === 'feedback') {
      last.feedback = join(last.feedback, line.text.slice(f.at));
      this.say(line, 'key-list', 'feedback', 'A reason behind a key.');
      return true;
    }
    const underAside = this.roles[line.index - 1]?.role === 'aside';
    if (last && !this.blankBefore && !underAside && !CHAT.test(t)) {
      if (last.feedback) last.feedback = join(last.feedback, t);
      else last.value = join(last.value, t);
      this.say(line, 'key-list', 'key list', 'Goes on from the line above.');
      return true;
    }
    if (lettered(t) === null && !numbered(t) && !CHAT.test(t) && this.optionsFollow(line.index)) {
      this.inKeyList = false;
      return false;
    }
    this.aside(line, 'Nothing of the key list and no question.');
    return true;
  }
  /** The entries on one line of a key list: one with its reason, or several. */
  private keyEntries(line: Line, at: number): boolean {
    const raw = line.text.slice(at);
    // Roman numbers as figures of the same length or shorter, so that places stay right
    const text = this.style.roman
      ? raw.replace(/(?<![\p{L}])[IVXL]{1,7}(?=[\s.):=–-])/gu, (r) => (romanValue(r) ? String(romanValue(r)).padEnd(r.length) : r))
      : raw;
    const add = (e: Omit<KeyEntry, 'line' | 'group'>): void => {
      this.entries.push({ ...e, line: line.index, group: this.keyGroup });
    };
    const several = Array.from(text.matchAll(ENTRY));
    const covered = several.reduce((n, m) => n + m[0].trim().length, 0);
    if (several.length > 1 && covered >= text.replace(/[\s,;|/.]+/g, '').length * 0.8) {
      for (const m of several) add({ number: Number(m[1]), value: (m[2] ?? '').trim(), at: at + m.index });
      this.say(line, 'key-list', 'key list', 'Numbers with their keys.');
      return true;
    }
    const spaced = spacedEntries(text);
    if (spaced.length > 1) {
      for (const e of spaced) add({ number: e.number, value: e.value, at: at + e.at });
      this.say(line, 'key-list', 'key list', 'Numbers with their answers, in one row.');
      return true;
    }
    const cells = /^\s*\|(.+)\|\s*$/
      .exec(text)?.[1]
      ?.split('|')
      .map((c) => c.trim());
    if (cells) {
      if (/^\d{1,3}$/.test(cells[0] ?? ''))
        add({ number: Number(cells[0]), value: cells[1] ?? '', at, ...(cells[2] && { feedback: cells.slice(2).join(' ') }) });
      this.say(line, 'key-list', 'key list', 'A row of the key table.');
      return true;
    }
    const bare = ENTRY_BARE.exec(text);
    const n = numbered(text) ?? (bare && { number: Number(bare[1]), at: bare[0].length });
    if (n) {
      add({ number: n.number, value: text.slice(n.at).trim(), at: at + n.at });
      this.say(line, 'key-list', `key ${n.number}`, 'A number with its key.');
      return true;
    }
    if (GLUED.test(text.trim())) {
      for (const letter of text.replace(/\s+/g, '')) add({ number: null, value: letter, at });
      this.say(line, 'key-list', 'key list', 'Letters in the order of the questions.');
      return true;
    }
    const bonus = /^\s*bonus\s*[.:)–-]\s*(.+)$/i.exec(text);
    if (bonus) {
      add({ number: null, value: (bonus[1] ?? '').trim(), at, bonus: true });
      this.say(line, 'key-list', 'key bonus', 'The key of the bonus question.');
      return true;
    }
    const alone = text.trim();
    const unnumbered = !this.entries.some((e) => e.group === this.keyGroup && e.number !== null);
    if (
      at === 0 &&
      unnumbered &&
      (/^[A-Ha-hА-Га-г][.)]?$/.test(alone) ||
        truth(alone, false) !== null ||
        (this.entries.length > 0 && !this.blankBefore && alone.length < 40 && !/[.!?:]$/.test(alone)))
    ) {
      add({ number: null, value: alone.replace(/[.)]$/, ''), at });
      this.say(line, 'key-list', 'key', 'A key in the order of the questions.');
      return true;
    }
    if (SEQUENCE.test(text.trim())) {
      for (const letter of text.trim().split(/[\s,;]+/)) add({ number: null, value: letter, at });
      this.say(line, 'key-list', 'key list', 'Letters in the order of the questions.');
      return true;
    }
    return false;
  }

  // ── parts ──

  private partHeading(line: Line): boolean {
    const t = line.text.trim();
    const titled =
      partLine(t) ||
      (line.heading > 0 && !numbered(t)) ||
      (line.bold &&
        this.blankBefore &&
        !numbered(t) &&
        !lettered(t) &&
        !/\?\s*$/.test(t) &&
        !keyLine(t) &&
        !field(t) &&
        !this.optionsFollow(line.index) &&
        kindIn(t) !== undefined);
    const roman =
      !this.style.roman && /^[IVX]{1,5}[.)]\s+[¿¡«“"]?\p{Lu}/u.test(t) && this.style.numbered && (kindIn(t) !== undefined || pointsEach(t) !== null);
    const capitals = this.blankBefore && t.length < 60 && t === t.toUpperCase() && /\p{Lu}{3}/u.test(t) && kindIn(t) !== undefined && !numbered(t);
    if (roman || capitals) {
      this.openPart(line, roman ? 'A Roman number and what the part asks for.' : 'Capitals that name a kind of question.');
      return true;
    }
    if (!titled || lettered(t)) return false;
    if (field(t) && !partLine(t)) return false;
    this.openPart(line, partLine(t) ? 'Starts with a word for “part”.' : 'A heading.');
    return true;
  }
  private openPart(line: Line, reason: string): void {
    this.part = emptyPart();
    const t = line.text.trim();
    this.part.title = t;
    const kind = kindIn(t);
    if (kind) this.part.kind = kind;
    const points = pointsEach(t);
    if (points !== null) this.part.points = points;
    this.parts.push(this.part);
    this.block = null;
    this.inKeyList = false;
    this.readingPassage = /\b(?:passage|text [A-Z]|reading)\b/i.test(t);
    this.say(line, 'part', 'part', reason);
  }

  // ── questions ──

  private open(line: Line, at: number, number: Pick<Block, 'label' | 'number'>): void {
    this.block = {
      ...number,
      line: line.index,
      last: line.index,
      stem: [],
      options: [],
      keys: [],
      fields: [],
      pairs: [],
      lefts: [],
      steps: [],
      part: this.part,
    };
    this.blocks.push(this.block);
    this.readingPassage = false;
    this.inKeyList = false;
    const inline = inlineOptions(line.text.slice(at));
    const first = inline[0];
    if (first && letterPlace(first.letter) === 0 && first.start > 0) {
      this.block.stem.push(this.piece(line, at, at + first.start));
      for (const o of inline) this.pushOption(line, at + o.at, o.text, o.letter, 'inline', o.marked);
    } else if (line.text.slice(at).trim()) this.block.stem.push(this.piece(line, at));
  }
  private nextLabel(): string {
    return String(this.blocks.length);
  }
  /** Whether a numbered line starts a question, or is a step, an option or a row of the one above. */
  private startsQuestion(line: Line, number: number, form: string): boolean {
    const b = this.block;
    if (!b) return true;
    const opens = this.lines[b.line];
    if (b.number !== undefined && number === b.number + 1) return true;
    if (form === 'word') return true;
    const deeper = line.indent > (opens?.indent ?? 0) + 1;
    if (deeper && number !== (b.number ?? 0) + 1 && number <= 12 && !b.options.length) return false;
    if (b.number === undefined) return true;
    // A list inside a stem starts at 1 right below it, without a part heading between.
    if (number === 1 && b.number >= 1 && !b.options.length && !this.blankBefore && !b.keys.length && /:\s*$/.test(b.stem.map((s) => s.text).join(' ')))
      return false;
    return true;
  }

  private saidOf(b: Block): Kind | undefined {
    if (b.said?.pieces !== b.stem.length) b.said = { kind: kindIn(stemText(b)), pieces: b.stem.length };
    return b.said?.kind;
  }
  private isMatching(): boolean {
    const b = this.block;
    return (
      Boolean(b && !b.options.length && (b.pairs.length || this.saidOf(b) === 'matching' || b.part.kind === 'matching')) ||
      Boolean(b && (b.lefts.length > 0 || b.pairs.length > 0))
    );
  }
  private isOrdering(): boolean {
    const b = this.block;
    return Boolean(b && (b.steps.length || this.saidOf(b) === 'ordering' || (b.part.kind === 'ordering' && !b.options.length)));
  }

  private pairLine(line: Line): boolean {
    const b = this.block as Block;
    const raw = line.text.trim();
    if (keyLine(raw) || field(raw)) return false;
    const add = (left: string, right: string): boolean => {
      b.pairs.push({ left: left.trim(), right: right.trim(), line: line.index });
      this.say(line, 'pair', '⇄', 'Two sides, under a question that asks to match.');
      return true;
    };
    const table = /^\|(.+)\|$/.exec(raw);
    if (table) {
      const cells = (table[1] ?? '').split('|').map((c) => c.trim());
      const next = this.lines[line.index + 1]?.text.trim() ?? '';
      if (cells.every((c) => /^:?-+:?$/.test(c)) || /^\|[\s:|-]+\|$/.test(next)) {
        this.say(line, 'pair', '⇄', 'The head of a table.');
        return true;
      }
      return add(cells[0] ?? '', cells[1] ?? '');
    }
    const n = numbered(raw);
    const inner =
      n && n.number !== (b.number ?? -1) + 1
        ? raw.slice(n.at)
        : n && (b.lefts.length || b.pairs.length) && n.number === b.lefts.length + b.pairs.length + 1
          ? raw.slice(n.at)
          : n
            ? null
            : raw;
    if (inner === null) return false;
    const columns = /^(.*?\S)(?:\t+|\s{3,})((?:\(?[A-Za-z][.)]\s*)?\S.*)$/.exec(raw);
    if (columns && (n || /\t/.test(raw) || lettered(columns[2] ?? ''))) return add(columns[1] ?? '', columns[2] ?? '');
    const arrow = ARROW.exec(inner);
    if (arrow) return add(arrow[1] ?? '', arrow[2] ?? '');
    const sided = /^(.{1,80}?\S)\s+(?:[–—=]|-(?=\s)|:)\s+(\S.*)$/.exec(inner) ?? /^([^:]{1,60}\S):\s+(\S.*)$/.exec(inner);
    if (sided) return add(sided[1] ?? '', sided[2] ?? '');
    const o = lettered(raw);
    if (o && (b.lefts.length || n === null)) {
      if (!b.lefts.length) return false;
      this.addOption(line, o, 'A lettered right side.');
      return true;
    }
    if (n) {
      b.lefts.push(inner.trim());
      this.say(line, 'pair', '⇄', 'A numbered left side.');
      return true;
    }
    return false;
  }

  private stepLine(line: Line): boolean {
    const b = this.block as Block;
    if (b.options.length || keyLine(line.text)) return false;
    const n = numbered(line.text);
    const bullet = n ? null : bulleted(line.text);
    const next = (b.number ?? 0) + 1;
    if (n ? n.number === b.steps.length + 1 && (n.number !== next || b.steps.length > 0 || line.indent > (this.lines[b.line]?.indent ?? 0)) : bullet) {
      b.steps.push(line.text.slice(n?.at ?? bullet?.at ?? 0).trim());
      this.say(line, 'step', `${b.steps.length}.`, 'A step, under a question that asks for an order.');
      return true;
    }
    return false;
  }

  // ── options ──

  private optionLine(line: Line, number: OptionShape | null): boolean {
    const b = this.block as Block;
    const columns = columnOptions(line.text);
    if (columns.length) {
      for (const o of columns) this.pushOption(line, o.at, o.text, o.letter, 'column', o.marked);
      b.options.sort((x, y) => letterPlace(x.letter) - letterPlace(y.letter));
      this.say(line, 'option', columns.map((o) => o.letter.toUpperCase()).join(' '), 'Lettered options in columns.');
      return true;
    }
    const inline = inlineOptions(line.text);
    const first = inline[0];
    if (first && (letterPlace(first.letter) === b.options.length || letterPlace(first.letter) === 0) && !line.text.slice(0, first.start).trim()) {
      for (const o of inline) this.pushOption(line, o.at, o.text, o.letter, 'inline', o.marked);
      const marks = b.options.slice(-inline.length).map((o) => o.letter.toUpperCase() + (o.marked ? '✓' : ''));
      this.say(line, 'option', marks.join(' '), 'Several lettered options on one line.');
      return true;
    }
    if (number && this.style.optionForms.has(number.form)) {
      this.addOption(line, number, 'Numbered anew under each question.');
      return true;
    }
    const l = lettered(line.text);
    if (l) {
      const place = letterPlace(l.letter);
      const prior = b.options[b.options.length - 1];
      const plausible =
        place === b.options.length || (prior ? prior.letter !== '' && (place > letterPlace(prior.letter) || prior.form === l.form) : place <= 1);
      if (plausible) {
        this.addOption(line, l, 'Starts with the letter that is due.');
        return true;
      }
    }
    const bare = bareLetter(line.text);
    if (
      bare &&
      letterPlace(bare.letter) === b.options.length &&
      (b.options.length > 0 || letterPlace(bareLetter(this.nextText(line.index))?.letter ?? '') === 1)
    ) {
      this.addOption(line, bare, 'A letter, and the next line has the next letter.');
      return true;
    }
    const bullet = bulleted(line.text);
    const labelled = bullet ? lettered(line.text.slice(bullet.at)) : null;
    if (bullet && labelled && letterPlace(labelled.letter) === b.options.length) {
      this.addOption(line, { ...labelled, at: bullet.at + labelled.at, marked: bullet.marked || labelled.marked }, 'A box and the letter that is due.');
      return true;
    }
    if (bullet && !b.options.some((o) => o.letter) && !b.keys.length) {
      this.addOption(line, bullet, 'A bullet under a question.');
      return true;
    }
    return false;
  }
  private nextText(index: number): string {
    for (let i = index + 1; i < this.lines.length; i++) if (this.lines[i]?.text.trim()) return this.lines[i]?.text ?? '';
    return '';
  }
  private optionsFollow(index: number): boolean {
    for (let i = index + 1, seen = 0; i < this.lines.length && seen < 4; i++) {
      const t = this.lines[i]?.text ?? '';
      if (!t.trim()) continue;
      seen++;
      const l = lettered(t);
      if (l && letterPlace(l.letter) === 0) return true;
      if (bulleted(t) && bulleted(this.nextText(i))) return true;
      if (numbered(t) || keyLine(t) || (this.style.roman && romanNumbered(t))) return false;
      const bare = bareLetter(t);
      if (bare && bare.letter === 'A' && bareLetter(this.nextText(i))?.letter === 'B') return true;
    }
    return false;
  }
  private addOption(line: Line, o: OptionShape, reason: string): void {
    const b = this.block as Block;
    this.pushOption(line, o.at, line.text.slice(o.at), o.letter, o.form, o.marked);
    const added = b.options[b.options.length - 1];
    if (added && o.star) added.star = true;
    const name = o.letter ? o.letter.toUpperCase() : String.fromCharCode(64 + b.options.length);
    this.say(line, 'option', added?.marked ? `${name} ✓` : name, reason + (added?.marked ? ' A mark says that it is the key.' : ''));
  }
  private pushOption(line: Line, at: number, raw: string, letter: string, form: string, marked: boolean): void {
    const b = this.block as Block;
    let text = raw;
    let from = at;
    const head = keyHead(text);
    let key = marked;
    if (head && head < text.length) {
      key = true;
      text = text.slice(head);
      from += head;
    }
    let feedback: string | undefined;
    const noted = /[\]}]\s*$/.test(text.slice(-40)) ? /\s[[{](?!\s*[xX✓✔*]\s*[\]}])([^[\]{}]{4,400})[\]}]\s*$/.exec(text) : null;
    if (noted && keyTail(text) < 0) {
      feedback = noted[1];
      text = text.slice(0, noted.index);
    }
    const tail = keyTail(text);
    if (tail >= 0) {
      key = true;
      text = text.slice(0, tail);
    }
    const bold = line.bold || this.boldFrom(line, from, text);
    b.options.push({ letter, form, pieces: [{ line: line.index, from, text: text.trim() }], marked: key, bold, ...(feedback && { feedback }) });
  }
  /** Whether the option's text stood between `**` in the draft: taking the marks out left a hole on both sides. */
  private boldFrom(line: Line, from: number, text: string): boolean {
    if (!line.map || !text.trim()) return false;
    const lead = text.length - text.trimStart().length;
    const first = from + lead;
    const last = from + text.trimEnd().length - 1;
    const jump = (a: number, b: number): boolean => placeOf(line, b) - placeOf(line, a) >= 3;
    const opens = first === 0 ? placeOf(line, 0) > line.from + 1 : jump(first - 1, first);
    const closes = last + 1 >= line.text.length ? placeOf(line, last) < line.to - 2 : jump(last, last + 1);
    return opens && closes;
  }
  private optionFeedback(line: Line, at: number): void {
    const o = this.block?.options[this.block.options.length - 1];
    if (o) o.feedback = join(o.feedback, line.text.slice(at).trim());
    this.say(line, 'feedback', 'feedback', 'An arrow under an option.');
  }

  // ── keys and fields ──

  private addKey(line: Line, at: number, reason: string): void {
    const b = this.block as Block;
    // fields that stand behind the key on its line, by tabs: "ANS: B   PTS: 1"
    const [value = '', ...cells] = line.text
      .slice(at)
      .trim()
      .split(/\t+(?=\p{L}{2,12}:)/u)
      .map((c) => c.trim());
    for (const cell of cells) {
      const f = field(cell) ?? (/^(?:PTS|DIF|REF|OBJ|TOP|KEY|STA|NAT|LOC):\s*/.test(cell) ? { name: 'tags' as const, at: cell.indexOf(':') + 1 } : null);
      if (f && f.name !== 'tags') b.fields.push({ name: f.name, line: line.index, at: 0, value: cell.slice(f.at).trim() });
    }
    b.keys.push({ line: line.index, at, value });
    this.waitingKey = !value;
    this.say(line, 'key', `key ${short(value)}`.trim(), reason);
  }
  private addField(line: Line, name: FieldName, at: number, reason: string): void {
    const b = this.block as Block;
    const value = line.text.slice(at).trim();
    const option = b.options[b.options.length - 1];
    const under =
      name === 'feedback' && option && !b.keys.length && line.indent > (this.lines[option.pieces[0]?.line ?? 0]?.indent ?? 0) && b.options.length > 0;
    if (under) option.feedback = join(option.feedback, value);
    else b.fields.push({ name, line: line.index, at, value });
    const feedback = name === 'feedback' || name === 'correct' || name === 'incorrect';
    this.say(line, feedback ? 'feedback' : 'field', name, reason);
  }

  // ── all else ──

  private aside(line: Line, reason: string): void {
    this.say(line, 'aside', 'aside', reason);
  }
  private prose(line: Line): void {
    const t = line.text.trim();
    const b = this.block;
    const chat = CHAT.test(t) && !/_{3,}/.test(t);
    if (this.inFence && b) {
      b.stem.push(this.piece(line, 0));
      return this.say(line, 'question', '', 'Code inside a question.');
    }
    const complete = b !== null && (b.options.length > 0 || b.keys.length > 0 || b.pairs.length > 0 || b.steps.length > 0);
    if (!b || (complete && (this.blankBefore || /[?:]\s*$/.test(t)))) {
      // A question without a number: options follow it, or a key line does.
      if (!chat && (this.optionsFollow(line.index) || this.keyFollows(line.index))) {
        this.open(line, 0, {});
        return this.say(line, 'question', this.nextLabel(), 'No number, but options or a key follow.');
      }
    }
    if (!b) return this.beforeQuestions(line, chat);
    if (chat && this.blankBefore) {
      this.block = null;
      return this.aside(line, 'Talk around the questions.');
    }
    const closed = b.keys.length > 0 || b.fields.length > 0;
    if (closed || (b.options.length && this.blankBefore) || (b.pairs.length && this.blankBefore)) {
      const lastField = b.fields[b.fields.length - 1];
      const lastKey = b.keys[b.keys.length - 1];
      if (!this.blankBefore && lastField && lastField.line > (lastKey?.line ?? -1)) {
        lastField.value = join(lastField.value, t);
        return this.say(line, this.roles[line.index - 1]?.role ?? 'feedback', '', 'Goes on from the line above.');
      }
      if (!this.blankBefore && lastKey && line.index === b.last + 1) {
        lastKey.value = join(lastKey.value, t);
        return this.say(line, 'key', '', 'Goes on from the line above.');
      }
      return this.aside(line, 'Nothing that belongs to the question above, and no new one.');
    }
    if (b.options.length) {
      const option = b.options[b.options.length - 1];
      const lastPiece = option?.pieces[option.pieces.length - 1];
      const tail = keyTail(line.text);
      option?.pieces.push(tail >= 0 ? this.piece(line, 0, tail) : this.piece(line, 0));
      if (tail >= 0 && option) option.marked = true;
      if (lastPiece) lastPiece.text = lastPiece.text.replace(/\s+$/, '');
      return this.say(line, 'option', '', 'Goes on from the option above.');
    }
    b.stem.push(this.piece(line, 0));
    this.say(line, 'question', '', 'Goes on from the question above.');
  }
  private keyFollows(index: number): boolean {
    return keyLine(this.nextText(index)) !== null && this.lines[index]?.heading === 0;
  }
  private beforeQuestions(line: Line, chat: boolean): void {
    const t = line.text.trim();
    if (chat || NAME_LINE.test(t)) return this.aside(line, chat ? 'Talk around the questions.' : 'A line to write a name on.');
    if (/\b(?:read|lies|lee|lea|lisez|leia|leggi|lees|przeczytaj|прочитайте|okuyun)\b/iu.test(t) && t.length < 160) {
      this.readingPassage = true;
      return this.aside(line, 'An instruction.');
    }
    const kind = kindIn(t);
    if (kind && t.length < 200) {
      if (!this.part.kind) this.part.kind = kind;
      const points = pointsEach(t);
      if (points !== null) this.part.points = points;
      this.part.instructions.push(this.piece(line, 0));
      return this.aside(line, 'An instruction for the questions below.');
    }
    if (this.readingPassage) {
      this.part.passage.push(this.piece(line, 0));
      return this.say(line, 'passage', 'passage', 'Text to read, before the questions about it.');
    }
    this.aside(line, 'Before the first question.');
  }
}

const ENTRY =
  /(?<![\d.,])(?:q\.?\s*|no\.?\s*)?(\d{1,3})\s*[.):=–—-]*\s*([A-Ha-hА-Д](?:\s*(?:[,&+/]|and)\s*[A-Ha-h])*|True|False|T|F|V|Tr|Fa)(?=[\s,;|/.]|$)[\s,;|/.]*/gu;
/** Keys written without anything between: "TFTTF FTFTT". */
const GLUED = /^(?:[TFV]{3,6}|[A-E]{3,6}|[a-e]{3,6})(?:\s+(?:[TFV]{1,6}|[A-E]{1,6}|[a-e]{1,6}))*$/;
/** A word or two in square brackets within a sentence, no points and no note of the kind. */
export const BRACKET_GAP = /\[(?!\s*(?:\d+\s*(?:p|m|pts?|points?|marks?)\b|x?\s*\]|T\s*\/\s*F))[^\][]{1,60}\](?!\()/i;
/** A row of a key list that begins with the part it is for: "Part A   1B  2C", "II: 1 b, 2 a", "Exercice 1 : 1b". */
const GROUP_ROW = new RegExp(
  `^\\s*(?:(?:${PART}|aufgabe|task)\\s+(?:[A-Z]|\\d{1,2}|[IVX]{1,5})|[IVX]{1,5})\\s*(?:[:.–—)]\\s*|\\s{2,})(?=\\(?\\d{1,3}\\s*[.):=–-]?\\s*\\S|[TFV]{3,6}(?:\\s|$))`,
  'iu',
);

/** Entries of a row whose numbers go up by one, each with words behind it: "1. 100   2. condensación". */
function spacedEntries(text: string): { number: number; value: string; at: number }[] {
  const first = /^\s*\(?(\d{1,3})\s*[.):=–-]?\s*(?=\S)/.exec(text);
  if (!first) return [];
  const starts = [{ number: Number(first[1]), from: 0, at: first[0].length }];
  for (let next = Number(first[1]) + 1; starts.length < 200; next++) {
    const last = starts[starts.length - 1];
    const rest = text.slice(last?.at ?? 0);
    const m = new RegExp(`(?:\\s{2,}|\\t|[;,]\\s+)\\(?${next}\\s*(?:[.):=–-]\\s*|\\s+)(?=\\S)`).exec(rest);
    if (!m || !last) break;
    starts.push({ number: next, from: last.at + m.index, at: last.at + m.index + m[0].length });
  }
  return starts.map((s, i) => ({ number: s.number, at: s.at, value: text.slice(s.at, starts[i + 1]?.from ?? text.length).trim() }));
}
const ENTRY_BARE = /^\s*(?:q\.?\s*)?(\d{1,3})\s*[.):=–—-]?\s+(?=\S)/i;
const SEQUENCE = /^[A-Ha-h](?:[\s,;]+[A-Ha-h]){2,}[.;]?$/;

const join = (a: string | undefined, b: string): string => (a ? `${a} ${b.trim()}` : b.trim());
/** A key in the few characters that the margin has: its letter where it starts with one. */
const short = (s: string): string => /^\(?([A-Za-zА-Яа-я])[).:](?:\s|$)/u.exec(s)?.[1]?.toUpperCase() ?? (s.length > 9 ? `${s.slice(0, 8)}…` : s);
/** A block's stem, its pieces joined as one text. */
export const stemText = (b: Block): string => b.stem.map((p) => p.text.trim()).join(' ');
/** Whether a stem has a blank to fill. */
export const hasBlank = (stem: string): boolean => stem.search(BLANK) >= 0;
export const asksForSeveral = (stem: string): boolean => ALL_THAT_APPLY.test(stem);
