/** From the chosen signs to questions as they stand in the draft: stems, options, keys, fields, parts and lists of keys. */
import { longAnswer } from '../signatures/furniture.js';
import { groupsIn } from '../signatures/entries.js';
import type { Kind } from '../../item/model.js';
import { field, type FieldName } from '../model/fields.js';
import { kindIn, kindNamed, kindsOfRanges, partLabel } from '../signatures/headings.js';
import { judgedBehind, keyHead, keyTail, wrongTail } from '../signatures/keyWords.js';
import { atEnd, LETTERS, pattern, plainSigns } from '../../language/labels.js';
import { memoised, type Line } from '../surface/lines.js';
import {
  Block,
  emptyPart,
  NO_PART,
  UNTITLED_PART,
  type Entry,
  type LabelClass,
  type LineRole,
  type Outline,
  type DraftPart,
  type Piece,
  type Role,
} from '../model/outline.js';
import { pointsEach, pointsNote, pointsTotal } from '../../language/points.js';
import { Mode, State } from '../search/state.js';
import type { Reading } from '../search/search.js';
import type { Series } from '../series/series.js';
import type { Unit } from '../signatures/unit.js';
import type { Segment } from '../signatures/inline.js';
import { READ, RANGE_HEAD } from '../signs/prose.js';
import type { Sign } from '../signs/sign.js';
import { shows } from '../signatures/shows.js';
import { truth, TRUTH_SIGN, truthKey, truthLetters, truthNote } from '../../language/truths.js';
import { ANSWER, POINTS } from '../../language/words.js';
import { oddOnes } from './oddOnes.js';
import { questionTable } from './tables.js';

/** The truth value in front of a statement: "(T) …". */
const TRUTH_IN_FRONT = new RegExp(`^\\s*${TRUTH_SIGN}(?=\\S)`, 'iu');

const BLANK_ROLE: LineRole = { role: 'blank', mark: '', reason: '' };

/** Notes behind an option in square brackets: "“Yes.” [Do not promise this.]" */
const NOTE = /\s[[{](?!\s*(?:[xX✓✔*]|\d+\s*%)\s*[\]}])([^[\]{}]{4,400})[\]}]\s*$/;
const LIST_MARK = /^\s*(?:[-*•◦▪–—]\s+|[ivx]{1,4}[.)]\s|\(?[ivx]{1,4}\)\s|[IVX]{1,4}[.)]\s|\d{1,2}[.)]\s|[“"„«—–-]\s?\p{Lu})/u;

const SAYS_KEY = `(?:${ANSWER}|ans|resp|r[ée]p|risp|antw|lös|odp|sol)\\.?`;
const KEY_NOTE = new RegExp(`^\\s*${SAYS_KEY}\\s*[:=]?\\s*([A-Ha-h1-9])\\.?\\s*$`, 'iu');
/** The same behind the words of the last option, without brackets: "c) kale  Answer: b". */
const KEY_SAID_BEHIND = new RegExp(`\\s${SAYS_KEY}\\s*[:=]\\s*[([]?[A-Ha-h1-9](?=[)\\].]*\\s*$)`, 'iu');
/** A box behind the label: "b ( X ) orange". */
const BOX_HEAD = /^[([]\s{0,3}([xX✓✔*]?)\s{0,3}[)\]]\s+(?=\S)/;

interface Ends {
  from: number;
  to: number;
  marked: boolean;
  /** A sign behind says that it is wrong, though its box may be filled: somebody chose it. */
  wrong: boolean;
  note: [number, number] | null;
}
/** A mark at the end of an option that this draft uses for its keys. */
function learntTail(text: string, series: Series): RegExpExecArray | null {
  const x = series.tailX ? /\s+[xX]\s*$/.exec(text) : null;
  const sign = x ? null : /\s*(\S)\s*$/.exec(text);
  return x ?? (sign && series.tailSigns.has(sign[1] ?? '') ? sign : null);
}
/** An option's words between two columns: key marks and a note at their ends are taken off. */
function endsOf(text: string, at: number, end: number, series: Series): Ends {
  let from = at;
  let to = end;
  let marked = false;
  let refused = false as boolean;
  const box = BOX_HEAD.exec(text.slice(from, to));
  if (box) {
    marked = Boolean(box[1]);
    from += box[0].length;
  }
  const head = keyHead(text.slice(from, to));
  if (head && head < to - from) {
    marked = true;
    from += head;
  }
  const cut = (): void => {
    const x = learntTail(text.slice(from, to), series);
    const tail = x ? x.index : keyTail(text.slice(from, to));
    if (tail >= 0) {
      marked = true;
      to = from + tail;
    } else {
      const wrong = wrongTail(text.slice(from, to));
      if (wrong > 0) {
        to = from + wrong;
        refused = true;
      }
    }
  };
  const verdict = series.verdicts ? judgedBehind(text.slice(from, to)) : null;
  if (verdict) {
    const [start, end] = verdict.reason;
    const reason = end > start ? ([from + start, from + end] as [number, number]) : null;
    return { from, to: from + verdict.to, marked: marked || verdict.right, wrong: false, note: reason };
  }
  cut();
  const words = text.slice(from, to);
  const near = Math.max(0, words.length - 40);
  const key = /[A-Ha-h1-9][)\].]*\s*$/.test(words.slice(near)) ? KEY_SAID_BEHIND.exec(words.slice(near)) : null;
  if (key && near + key.index > 0) {
    const at = from + near + key.index;
    to = at;
    cut();
    return { from, to, marked, note: [at + 1, at + key[0].length], wrong: refused };
  }
  const found = /[\]}]\s*$/.test(words.slice(-40)) ? NOTE.exec(words) : null;
  if (!found) return { from, to, marked, note: null, wrong: refused };
  const start = from + found.index + found[0].indexOf(found[1] ?? '');
  to = from + found.index;
  cut();
  return { from, to, marked, note: [start, start + (found[1]?.length ?? 0)], wrong: refused };
}

/** Walks the path of the search and puts questions, parts and lists of keys together. */
export class Assembly implements Outline {
  readonly blocks: Block[] = [];
  readonly parts: DraftPart[] = [];
  readonly keyRows: Outline['keyRows'] = [];
  readonly roles: LineRole[];
  readonly meta: Outline['meta'] = [];
  private part: DraftPart = emptyPart(0);
  private block: Block | null = null;
  private heads = 0;
  private lastField: { pieces: Piece[] } | null = null;
  /** Keys and notes that wait for the question below them. */
  private above: { u: Unit; sign: Sign; after: State }[] = [];
  /** Which places with text the reading takes for parts of a list of keys. */
  private readonly listed: ReadonlySet<number>;

  constructor(
    private readonly lines: readonly Line[],
    private readonly units: readonly Unit[],
    private readonly series: Series,
    reading: Reading,
  ) {
    this.roles = lines.map(() => BLANK_ROLE);
    this.parts.push(this.part);
    this.listed = new Set(
      reading.path
        .filter((p) => p.sign.role === 'list-entry' || p.sign.role === 'list-more' || (p.sign.role === 'table' && p.sign.sort === 'keys'))
        .map((p) => p.place),
    );
    let before = new State();
    for (const { place, sign, state } of reading.path) {
      const unit = units[place];
      if (unit) this.take(unit, place, sign, before, state);
      before = state;
    }
    this.wordParts();
    this.talkAnswers();
    this.truthRows();
    this.keysBehind();
    oddOnes(this.blocks, lines, this.keyRows.length > 0);
    this.truthParts();
  }

  private say(line: Line, role: Role, mark: string, reason: string): void {
    this.roles[line.index] = { role, mark, reason };
    if (this.block && role !== 'aside' && role !== 'part' && role !== 'key-list' && role !== 'passage') this.block.last = Math.max(this.block.last, line.index);
  }
  private piece(line: Line, from: number, to = line.text.length, joint?: Piece['joint']): Piece {
    return joint ? { line: line.index, from, to, joint } : { line: line.index, from, to };
  }
  private text(pieces: readonly Piece[]): string {
    return pieces.map((p) => this.lines[p.line]?.text.slice(p.from, p.to).trim() ?? '').join(' ');
  }

  private take(u: Unit, place: number, sign: Sign, before: State, after: State): void {
    const { line } = u;
    const blankBefore = u.gap > 0;
    switch (sign.role) {
      case 'question':
        return this.question(u, sign, before);
      case 'sub':
        return this.sub(u, sign, before);
      case 'stem': {
        const b = this.block;
        if (!b) return this.aside(line, sign);
        if (before.mode === Mode.options) this.listToStem(b);
        const at = sign.at;
        const joint = !b.stem.length ? ' ' : blankBefore ? '\n\n' : LIST_MARK.test(line.text) ? '\n' : ' ';
        // a topic behind the number gives way to the question itself
        if ((blankBefore || sign.sort === 'head') && b.stem.length === 1 && this.isTopic(b, line)) {
          const [topic] = b.stem;
          b.stem.length = 0;
          if (topic) {
            const kind = kindNamed(this.text([topic]));
            b.fields.push({ name: kind ? 'kind' : 'title', line: topic.line, pieces: [topic] });
            if (kind) b.kind = kind;
          }
        }
        b.stem.push(this.scored(b, line, at, line.text.length, joint));
        return this.say(line, 'question', '', sign.why);
      }
      case 'code':
        return this.code(u, sign);
      case 'option':
        return this.options(u, sign, before, after);
      case 'more-option': {
        const entry = this.block?.entries[this.block.entries.length - 1];
        if (!entry) return this.aside(line, sign);
        if (entry.feedback.length) entry.feedback.push(this.piece(line, sign.at));
        else {
          const x = learntTail(line.text, this.series);
          const tail = x ? x.index : keyTail(line.text);
          if (tail >= 0) entry.marked = true;
          entry.pieces.push(this.piece(line, sign.at, tail >= 0 ? tail : line.text.length));
        }
        return this.say(line, entry.feedback.length ? 'feedback' : 'option', '', sign.why);
      }
      case 'note': {
        const b = this.block;
        const key = b?.keys[b.keys.length - 1];
        const entry = b?.entries[b.entries.length - 1];
        if (before.mode === Mode.key && key) key.feedback.push(this.piece(line, sign.at));
        else if (entry) entry.feedback.push(this.piece(line, sign.at));
        else return this.aside(line, sign);
        return this.say(line, 'feedback', 'feedback', sign.why);
      }
      case 'key':
      case 'field':
        if (this.series.ahead.has(sign.role === 'key' ? 'key' : (sign.name ?? ''))) {
          this.block = null;
          this.above.push({ u, sign, after });
          return this.aside(line, sign);
        }
        return sign.role === 'key' ? this.key(u, sign) : this.field(u, sign, after);
      case 'more':
        return this.more(u, sign, before);
      case 'part':
        if (before.mode === Mode.list && this.listGoesOn(place)) {
          this.keyRows.push({ rows: [], numbered: false, heading: line.text, line: line.index });
          return this.say(line, 'key-list', 'key list', 'A heading inside the list of keys.');
        }
        return this.openPart(line, sign);
      case 'instruction':
        return this.instruction(u, sign);
      case 'set-field':
        return this.setField(line, sign);
      case 'passage': {
        if (before.mode !== Mode.passage) this.startPassage(line);
        this.block = null;
        this.part.passage.push(this.piece(line, sign.at, line.text.length, this.part.passage.length ? (blankBefore ? '\n\n' : ' ') : ' '));
        return this.say(line, 'passage', 'passage', sign.why);
      }
      case 'row':
        return this.row(u, sign);
      case 'table':
        return this.table(sign, before);
      case 'list-head':
        this.block = null;
        this.keyRows.push({
          rows: sign.sort === 'row' ? [{ line: line.index, at: sign.at }] : [],
          numbered: sign.sort === 'row',
          heading: sign.sort === 'row' ? line.text.slice(0, sign.at) : line.text,
          line: line.index,
        });
        if (sign.sort === 'row') this.inGroups(line, sign);
        this.heads++;
        return this.say(line, 'key-list', 'key list', sign.why);
      case 'list-entry': {
        if (before.mode !== Mode.list) this.keyRows.push({ rows: [], numbered: false, heading: '', line: line.index });
        if (sign.sort === 'group') this.keyRows.push({ rows: [], numbered: false, heading: line.text.slice(0, sign.at), line: line.index });
        const rows = this.keyRows[this.keyRows.length - 1];
        this.block = null;
        rows?.rows.push({ line: line.index, at: sign.at });
        if (rows && sign.entries) rows.numbered = true;
        if (sign.sort === 'group') this.inGroups(line, sign);
        return this.say(line, 'key-list', 'key list', sign.why);
      }
      case 'list-more':
        this.keyRows[this.keyRows.length - 1]?.rows.push({ line: line.index, at: sign.at });
        return this.say(line, 'key-list', 'key list', sign.why);
      case 'bank':
        return this.say(line, 'aside', 'words', sign.why);
      case 'write-on': {
        const points = /[([]\s*(\d{1,2})[^)\]]*[)\]]\s*$/.exec(line.text);
        if (points && this.block) {
          const from = points.index + points[0].indexOf(points[1] ?? '');
          this.block.fields.push({ name: 'points', line: line.index, pieces: [this.piece(line, from, from + (points[1] ?? '').length)] });
        }
        if (this.block && !this.block.entries.length && longAnswer(line.text)) this.block.kind ??= 'essay';
        return this.say(line, 'aside', '', sign.why);
      }
      default:
        if (sign.sort === 'chat' && after.mode === Mode.top) this.block = null;
        return this.aside(line, sign);
    }
  }
  /** A row that holds the keys of several parts makes a list of each. */
  private inGroups(line: Line, sign: Sign): void {
    const groups = groupsIn(line.text.slice(sign.at));
    if (!groups.length) return;
    this.keyRows.pop();
    for (const g of groups)
      this.keyRows.push({ rows: [{ line: line.index, at: sign.at + g.at, to: sign.at + g.to }], numbered: true, heading: g.heading, line: line.index });
  }
  private aside(line: Line, sign: Sign): void {
    this.say(line, 'aside', sign.sort === 'rule' ? '' : 'aside', sign.why);
  }
  /** Whether more entries come behind a heading inside a list. */
  private listGoesOn(place: number): boolean {
    return this.listed.has(place + 1);
  }
  /** Begins a question at a line. */
  open(line: Line, label: { label?: string; number?: number; sub?: string; form?: string }): Block {
    const b = new Block(line.index, this.part, label);
    this.block = b;
    this.blocks.push(b);
    this.part.questions++;
    this.lastField = null;
    const [first] = this.above;
    if (first) b.line = first.u.line.index;
    for (const { u, sign, after } of this.above.splice(0)) {
      if (sign.role === 'key') this.key(u, sign);
      else this.field(u, sign, after);
    }
    return b;
  }

  private question(u: Unit, sign: Sign, before: State): void {
    const { line, facts } = u;
    const { label } = sign;
    if (this.part.lead && !(label?.sub && label.ord === this.blocks[this.blocks.length - 1]?.number)) this.part = this.part.lead;
    if (label?.sub === 'a') this.leadIn(label.ord);
    const until = this.part.until;
    if (until !== undefined && label && label.ord > until && this.part.passage.length) {
      this.part = { ...emptyPart(line.index), label: this.part.label };
      this.parts.push(this.part);
    }
    const sub = sign.subLabel?.text.toLowerCase();
    // a task in a part's own heading heads a part too
    if (sign.task && !label && sign.at > facts.start) {
      this.openPart(line, sign);
      this.part.kind = undefined as never;
      delete this.part.kind;
    }
    const bonus = label?.cls === 'bonus';
    const name =
      label && label.cls !== 'turn'
        ? {
            label: label.text + (sub ?? ''),
            ...(label.ord > 0 && { number: label.ord }),
            ...((sub ?? label.sub) && { sub: sub ?? label.sub }),
            form: label.cls === 'dec' ? 'decimal' : label.sig,
          }
        : {};
    const b = this.open(line, name);
    if (bonus) b.bonus = true;
    const from = sign.at;
    const to = sign.to ?? line.text.length;
    if (sign.keyInFront) {
      const word = line.text.slice(...sign.keyInFront);
      const legend = this.series.legend?.indexOf(word.toUpperCase()) ?? -1;
      const said = legend >= 0 ? legend === 0 : /^[A-E]$/i.test(word) ? null : truth(word, true);
      b.keys.push({ line: line.index, pieces: [this.piece(line, ...sign.keyInFront)], feedback: [], ...(said !== null && { truth: said }) });
    }
    if (facts.prefix.truths) b.kind = 'true-false';
    if (facts.prefix.points && facts.prefix.at > facts.start)
      b.fields.push({ name: 'points', line: line.index, pieces: [this.piece(line, ...facts.prefix.points)] });
    if (sign.sort === 'points') b.fields.push({ name: 'points', line: line.index, pieces: [this.piece(line, from, to)] });
    else if (line.text.slice(from, to).trim()) b.stem.push(this.scored(b, line, from, to));
    if (sign.task && !label && this.part.instructions.length && !this.part.questions) this.part.instructions = [];
    if (sign.task) b.asks = sign.task;
    this.truthBox(b, line, sign);
    if (sign.sort === 'braces' && sign.kind) b.kind = sign.kind;
    for (const k of sign.keysBehind ?? []) b.keys.push({ line: line.index, pieces: [this.piece(line, ...k)], feedback: [] });
    if (sign.keyBehind) b.keys.push({ line: line.index, pieces: [this.piece(line, ...sign.keyBehind)], feedback: [] });
    if (sign.segments) for (const s of sign.segments) this.entry(line, s);
    this.say(line, 'question', b.label ?? String(this.blocks.length), reasonOf(sign, before.qLast));
  }
  /** The key of a statement whose box for true or for false is ticked behind it. */
  private truthBox(b: Block, line: Line, sign: Sign): void {
    if (sign.truthTicked !== undefined) b.keys.push({ line: line.index, pieces: [this.piece(line, sign.to ?? 0)], feedback: [], truth: sign.truthTicked });
  }
  /** Before "3a" a question "3" with nothing to answer is the text that 3a and 3b share. */
  private leadIn(number: number): void {
    const b = this.blocks[this.blocks.length - 1];
    if (b && b.number === number && !b.sub && !b.entries.length && !b.keys.length && !b.fields.length && !b.pairs.length) {
      this.drop(b);
      this.part = this.sharing(b);
    }
  }
  private drop(b: Block): void {
    const at = this.blocks.lastIndexOf(b);
    if (at >= 0) this.blocks.splice(at, 1);
    b.part.questions--;
  }
  /** A part whose passage is the stem of a question with sub-questions. */
  private sharing(b: Block): DraftPart {
    const lead = b.part.lead ?? b.part;
    // "(0–2)" behind the number: points of all the parts together
    const words = b.stem.filter((p) => {
      const text = this.lines[p.line]?.text.slice(p.from, p.to).trim() ?? '';
      const note = pointsNote(text);
      return !note || note.from > 0 || note.to < text.length;
    });
    const part: DraftPart = { ...emptyPart(b.line), label: lead.label, ranges: lead.ranges, passage: words, lead };
    if (lead.kind) part.kind = lead.kind;
    const truths = b.stem.reduce((found: readonly [string, string] | null, p) => found ?? memoised(this.lines[p.line] as Line, truthLetters), null);
    if (truths) Object.assign(part, { truths, kind: 'true-false' });
    if (lead.points !== undefined) part.points = lead.points;
    this.parts.push(part);
    for (const p of b.stem) this.roles[p.line] = { role: 'passage', mark: b.label ?? 'passage', reason: 'Shared by the questions below, which have letters.' };
    return part;
  }
  private sub(u: Unit, sign: Sign, before: State): void {
    const b = this.block;
    const { line } = u;
    const letter = `${sign.label?.cls === 'num' ? '.' : ''}${sign.label?.text.toLowerCase() ?? ''}`;
    // talk stands between: a part of nothing is a question of its own
    if (!b) return this.question(u, sign, before);
    const base = b.sub ? (b.label ?? '').slice(0, -b.sub.length) : (b.label ?? '');
    const number = b.number;
    if (!before.subSig && !b.sub) {
      if (b.stem.length) {
        this.drop(b);
        this.part = this.sharing(b);
      } else this.drop(b);
    }
    const made = this.open(line, { label: `${base}${letter}`, sub: letter, form: 'sub', ...(number !== undefined && { number }) });
    made.stem.push(this.piece(line, sign.at, sign.to));
    this.truthBox(made, line, sign);
    this.say(line, 'question', made.label ?? '', sign.why);
  }
  /** A piece of a stem without the score box at the line's end: "How many grams      ____/2". */
  private scored(b: Block, line: Line, from: number, end: number, joint?: Piece['joint']): Piece {
    const star = this.series.required ? /\s\*\s*$/.exec(line.text.slice(from, end)) : null;
    const to = star ? from + star.index : end;
    const m =
      /(?:\s{2,}|\t)(?:_+\s?\/\s?(\d{1,2})(?:\s*(?:P|p|pts?|pkt|Pkte?)\.?)?|\(\s*\/\s?(?=\d{1,2}\s*\))(\d{1,2})\)|[([](\d{1,2})\s*(?:p|pts?|points?|marks?)?\.?[)\]]\s*_*)\s*$/i.exec(
        line.text.slice(from, to),
      );
    const amount = m?.[1] ?? m?.[2] ?? m?.[3];
    if (!m || !amount || (m[3] && (this.block !== b || this.series.bracketAnswers))) return this.piece(line, from, to, joint);
    const at = from + m.index + m[0].indexOf(amount);
    b.fields.push({ name: 'points', line: line.index, pieces: [this.piece(line, at, at + amount.length)] });
    return this.piece(line, from, from + m.index, joint);
  }
  /** Whether the only words of a question so far are a topic: few, right behind its label, no sign that ends a sentence. */
  private isTopic(b: Block, next: Line): boolean {
    const [p] = b.stem;
    const line = p && this.lines[p.line];
    if (!p || !line || p.line !== b.line || b.label === undefined) return false;
    const words = line.text.slice(p.from, p.to).trim();
    const titled = line.heading > 0 || line.bold || b.form === 'word';
    return titled && words.split(/\s+/).length <= 6 && !/[?:.…!,;]$|_{2,}/.test(words) && !/^\p{Ll}/u.test(next.text.trim());
  }
  private code(u: Unit, sign: Sign): void {
    const b = this.block;
    const first = u.line.index;
    for (let i = first; i <= (sign.to ?? first); i++) {
      const l = this.lines[i];
      if (!l) continue;
      if (!b) {
        if (!l.blank) this.aside(l, { ...sign, why: 'Code outside of any question.' });
        continue;
      }
      const pieces = b.entries[b.entries.length - 1]?.pieces ?? b.stem;
      pieces.push({ line: l.index, from: 0, to: l.text.length, joint: '\n', code: true });
      this.say(l, b.entries.length ? 'option' : 'question', '', 'Code inside a question.');
      this.roles[l.index] = { ...(this.roles[l.index] ?? BLANK_ROLE), code: true };
    }
  }

  private entry(line: Line, s: Segment): Entry {
    const ends = endsOf(line.text, s.from, s.to, this.series);
    const cls = /^(?:num|roml|rom|up|low|other)/.exec(s.sig)?.[0];
    const labels: LabelClass =
      cls === 'num' ? 'number' : cls === 'roml' || cls === 'rom' ? 'roman' : cls ? 'letter' : s.sig === 'bullet' || s.sig === 'box' ? 'bullet' : 'none';
    const entry: Entry = {
      label: s.label,
      form: s.sig,
      labels,
      pieces: [this.piece(line, ends.from, ends.to)],
      marked: !ends.wrong && ((s.marked && !s.star) || ends.marked),
      star: s.star && !ends.wrong,
      feedback: s.note ? [this.piece(line, ...s.note)] : ends.note ? [this.piece(line, ...ends.note)] : [],
    };
    const b = this.block;
    // "c. 4 °C   [ans. a]": a note that names a key is the question's
    const note = ends.note && !s.note && KEY_NOTE.exec(line.text.slice(...ends.note));
    if (b && note && ends.note) {
      entry.feedback = [];
      b.keys.push({ line: line.index, pieces: [this.piece(line, ends.note[1] - (note[1]?.length ?? 0), ends.note[1])], feedback: [] });
    }
    if (b) {
      b.entries.push(entry);
      b.count[labels]++;
      if (labels === 'letter') b.lastLetter = entry;
    }
    return entry;
  }
  /** "D 0.3      (1 mark)": points at the edge behind an option are those of the question. */
  private withoutPoints(b: Block, line: Line, segments: readonly Segment[]): readonly Segment[] {
    const last = segments[segments.length - 1];
    const text = last ? line.text.slice(0, last.to) : '';
    const p = atEnd(EDGE_POINTS, text) ?? (this.series.edgePoints ? atEnd(EDGE_NUMBER, text) : null);
    if (!last || !p || p.index <= last.from) return segments;
    const from = p.index + p[0].indexOf(p[1] ?? '');
    b.fields.push({ name: 'points', line: line.index, pieces: [this.piece(line, from, from + (p[1]?.length ?? 0))] });
    return [...segments.slice(0, -1), { ...last, to: p.index }];
  }
  private options(u: Unit, sign: Sign, before: State, after: State): void {
    const b = this.block;
    const { line } = u;
    if (!b || !sign.segments?.length) return this.aside(line, sign);
    const segments = this.withoutPoints(b, line, sign.segments);
    if (before.oCount > 0 && after.oCount === segments.length && before.inQuestion) this.listToStem(b);
    const [first] = segments;
    if (sign.sort === 'lead' && first) {
      const words = this.piece(line, u.facts.start, first.start, ' ');
      const last = b.entries[b.entries.length - 1];
      if (last) last.pieces.push(words);
      else b.stem.push(words);
    }
    const start = b.entries.length;
    for (const s of segments) this.entry(line, s);
    // columns are read by their labels
    const ords = segments.map((s) => s.ord);
    if (
      (segments.length > 1 && ords.some((o, i) => i > 0 && o !== (ords[i - 1] ?? 0) + 1)) ||
      (before.oRow < before.oLast && (first?.ord ?? 0) <= before.oLast && start > 0) ||
      (first && first.ord > 0 && first.ord < before.oLast && before.oCount < before.oLast)
    )
      sortByLabel(b);
    const step = before.ask === 'ordering' || b.asks === 'ordering';
    const marks = b.entries.slice(start).map((e, i) => {
      const name = (e.label || String.fromCharCode(65 + Math.min(25, start + i))).toUpperCase();
      return step ? `${start + i + 1}.` : e.marked ? `${name} ✓` : name;
    });
    const marked = b.entries.slice(start).some((e) => e.marked);
    this.say(line, step ? 'step' : 'option', marks.join(' '), reasonOf(sign, before.oLast) + (marked ? ' A mark says that it is the key.' : ''));
  }
  /** What was taken for options belongs to the stem: statements I to III, steps, things to choose from further down. */
  private listToStem(b: Block): void {
    for (const e of b.entries) {
      e.pieces.forEach((p, i) => b.stem.push(i === 0 ? { ...p, from: 0, to: this.lines[p.line]?.text.length ?? p.to, joint: '\n' } : p));
      for (const p of e.pieces) this.roles[p.line] = { role: 'question', mark: '', reason: 'A list inside the question: its options come further down.' };
    }
    b.entries = [];
    Object.assign(b.count, { letter: 0, number: 0, roman: 0, bullet: 0, none: 0 });
  }

  private key(u: Unit, sign: Sign): void {
    const b = this.block;
    const { line } = u;
    if (!b) return this.aside(line, sign);
    const t = line.text;
    let to = sign.to ?? t.length;
    if (/^\s*[([]/.test(t) && /[)\]]\s*$/.test(t) && sign.to === undefined && sign.at > t.length - t.trimStart().length) to = t.search(/[)\]]\s*$/);
    const cells = /\t|\s{2,}|\s(?:PTS|DIF|REF|OBJ)\s*:/.test(t) ? cellsOf(t, sign.at, to) : [{ from: sign.at, to }];
    const [value, ...rest] = cells;
    for (const c of rest) {
      const words = t.slice(c.from, c.to);
      const f = POINTS_FIELD.exec(words) ?? /^PTS\s*:\s*/i.exec(words);
      const named = field(words);
      if (f) b.fields.push({ name: 'points', line: line.index, pieces: [this.piece(line, c.from + f[0].length, c.to)] });
      else if (/^DIF\s*:/i.test(words))
        b.fields.push({ name: 'difficulty', line: line.index, pieces: [this.piece(line, c.from + (BANK_FIELD.exec(words)?.[0].length ?? 0), c.to)] });
      else if (named && !BANK_FIELD.test(words)) b.fields.push({ name: named.name, line: line.index, pieces: [this.piece(line, c.from + named.at, c.to)] });
    }
    const words = t.slice(value?.from ?? sign.at, value?.to ?? to).trim();
    const key = { line: line.index, pieces: words ? [this.piece(line, value?.from ?? sign.at, value?.to ?? to)] : [], feedback: [] };
    b.keys.push(key);
    this.lastField = null;
    this.say(line, 'key', `key ${short(words)}`.trim(), sign.why);
  }
  private field(u: Unit, sign: Sign, after: State): void {
    const b = this.block;
    const { line } = u;
    if (!b || sign.sort === 'meta') {
      if (b) this.lastField = { pieces: [] };
      return this.say(line, b ? 'field' : 'aside', '', sign.why);
    }
    const name: FieldName = sign.name ?? 'feedback';
    let to = line.text.length;
    if (/^\s*[([]/.test(line.text) && /[)\]]\s*$/.test(line.text)) to = line.text.search(/[)\]]\s*$/);
    const piece = this.piece(line, sign.at, Math.max(sign.at, to));
    if (name === 'kind') b.kind = kindNamed(line.text.slice(sign.at)) ?? b.kind;
    const entry = b.entries[b.entries.length - 1];
    const own = entry && this.lines[entry.pieces[0]?.line ?? 0];
    if (name === 'feedback' && entry && !b.keys.length && !b.fields.length && (after.mode === Mode.options || (own && line.indent > own.indent)))
      entry.feedback.push(piece);
    else {
      const made = { name, line: line.index, pieces: [piece] };
      b.fields.push(made);
      this.lastField = made;
    }
    const feedback = name === 'feedback' || name === 'correct' || name === 'incorrect';
    this.say(line, feedback ? 'feedback' : 'field', name, sign.why);
  }
  private more(u: Unit, sign: Sign, before: State): void {
    const b = this.block;
    const { line } = u;
    if (!b) return this.aside(line, sign);
    const key = b.keys[b.keys.length - 1];
    if (before.mode === Mode.key && before.bare && key && !key.pieces.length) {
      key.line = line.index;
      key.pieces = [this.piece(line, sign.at)];
      return this.say(line, 'key', `key ${short(line.text.trim())}`, 'Stands under “Answer”.');
    }
    if (this.lastField) {
      this.lastField.pieces.push(this.piece(line, sign.at));
      return this.say(line, this.roles[line.index - 1]?.role === 'field' ? 'field' : 'feedback', '', sign.why);
    }
    if (key) {
      const value = this.text(key.pieces);
      // a short key has been said; what comes below is its reason
      const said = /^[([]?[A-Za-zА-Я](?:[).:,\s\]]|$)/u.test(value) || value.length < 40;
      const reason = (said && /^[\p{Lu}“"¡¿(]/u.test(line.text.trim()) && line.text.trim().length > 20) || u.gap > 0;
      if (reason) {
        const made = { name: 'feedback' as const, line: line.index, pieces: [this.piece(line, sign.at)] };
        b.fields.push(made);
        this.lastField = made;
      } else key.pieces.push(this.piece(line, sign.at));
      return this.say(line, reason ? 'feedback' : 'key', reason ? 'feedback' : '', reason ? 'A reason below the key.' : sign.why);
    }
    const entry = b.entries[b.entries.length - 1];
    if (entry?.feedback.length) {
      entry.feedback.push(this.piece(line, sign.at));
      return this.say(line, 'feedback', '', sign.why);
    }
    this.aside(line, sign);
  }

  private openPart(line: Line, sign: Sign): void {
    const t = line.text.trim();
    const part = emptyPart(line.index);
    // the names that the notation gives to parts without a title
    if (t !== NO_PART && t !== UNTITLED_PART) part.title = t;
    part.untitled = t === UNTITLED_PART;
    part.label = partLabel(t);
    this.part = part;
    this.parts.push(part);
    this.block = null;
    describe(part, line);
    this.say(line, 'part', sign.sort === 'text' ? 'text' : 'part', sign.why);
  }
  /** A part of its own where the present one has questions already. */
  private freshPart(line: Line): DraftPart {
    if (!this.part.questions) return this.part;
    this.part = { ...emptyPart(line.index), label: this.part.label };
    this.parts.push(this.part);
    return this.part;
  }
  private instruction(u: Unit, sign: Sign): void {
    const { line } = u;
    const part = this.freshPart(line);
    describe(part, line);
    part.instructions.push(this.piece(line, u.facts.start));
    this.block = null;
    this.range(part, line.text);
    this.say(line, 'aside', '', sign.why);
  }
  private range(part: DraftPart, t: string): void {
    const range = READ.test(t) || RANGE_HEAD.test(t) ? RANGE_HEAD.exec(t) : null;
    if (range) part.until = Number(range[2]);
  }
  private startPassage(line: Line): void {
    if (this.part.questions || this.part.lead) {
      const { label } = this.part.lead ?? this.part;
      const kind = this.part.kind;
      const points = this.part.points;
      this.part = { ...emptyPart(line.index), label, ...(kind && { kind }), ...(points !== undefined && { points }) };
      this.parts.push(this.part);
    }
  }
  private setField(line: Line, sign: Sign): void {
    const piece = this.piece(line, sign.at);
    if (sign.sort === 'passage') {
      this.part.passage.push(piece);
      this.block = null;
      return this.say(line, 'passage', 'passage', sign.why);
    }
    if (sign.sort === 'instructions') {
      describe(this.part, line);
      this.part.instructions.push(piece);
      return this.say(line, 'field', 'field', sign.why);
    }
    this.meta.push({ name: sign.sort === 'language' ? 'language' : 'description', piece });
    this.say(line, 'field', 'field', sign.why);
  }

  private row(u: Unit, sign: Sign): void {
    const b = this.block;
    const { line } = u;
    if (!b) return this.aside(line, sign);
    if (sign.sort === 'heads') return this.say(line, 'pair', '', sign.why);
    if (sign.keyInFront) b.keys.push({ line: line.index, pieces: [this.piece(line, ...sign.keyInFront)], feedback: [] });
    if (sign.sort === 'pair' && sign.sides) {
      b.pairs.push({ left: [this.piece(line, ...sign.sides.left)], right: [this.piece(line, ...sign.sides.right)] });
      return this.say(line, 'pair', '⇄', sign.why);
    }
    if (sign.sort === 'side' && sign.label) {
      const e = this.entry(line, {
        label: sign.label.text,
        ord: sign.label.ord,
        sig: sign.label.sig,
        start: u.facts.start,
        from: sign.at,
        to: line.text.trimEnd().length,
        marked: false,
        star: false,
        box: false,
      });
      return this.say(line, 'pair', e.label.toUpperCase(), sign.why);
    }
    const bullet = Boolean(u.facts.front.bullet);
    if (bullet || (!b.pairs.length && !b.entries.length))
      this.entry(line, {
        label: '',
        ord: 0,
        sig: bullet ? 'bullet' : 'bare',
        start: sign.at,
        from: sign.at,
        to: line.text.trimEnd().length,
        marked: false,
        star: false,
        box: false,
      });
    else if (b.pairs.length) b.pairs[b.pairs.length - 1]?.right.push(this.piece(line, sign.at));
    else b.entries[b.entries.length - 1]?.pieces.push(this.piece(line, sign.at));
    this.say(line, 'pair', '', sign.why);
  }

  private table(sign: Sign, before: State): void {
    const { table } = sign;
    if (!table) return;
    const mark = (role: Role, label: string, reason: string): void => {
      for (const r of table.rows) this.say(r.line, role, label, reason);
    };
    switch (sign.sort) {
      case 'keys': {
        if (before.mode !== Mode.list) this.keyRows.push({ rows: [], numbered: true, heading: '', line: table.first });
        this.block = null;
        for (const r of table.rows) this.keyRows[this.keyRows.length - 1]?.rows.push({ line: r.line.index, at: 0, cells: r.cells });
        mark('key-list', 'key list', sign.why);
        break;
      }
      case 'pairs': {
        const b = this.block;
        if (!b) break;
        table.rows.forEach((row, i) => {
          const [left, right, ...more] = row.cells;
          if ((i === 0 && table.headed) || /^column\s/i.test(left?.text ?? '') || more.filter((c) => c.text).length > 1)
            return this.say(row.line, 'pair', '', 'Names the columns.');
          b.pairs.push({ left: left ? [this.piece(row.line, left.from, left.to)] : [], right: right ? [this.piece(row.line, right.from, right.to)] : [] });
          this.say(row.line, 'pair', '⇄', sign.why);
        });
        break;
      }
      case 'stem': {
        const b = this.block;
        if (!b) break;
        table.rows.forEach((row, i) => {
          for (const c of row.cells) b.stem.push({ ...this.piece(row.line, c.from, c.to), row: i });
          this.say(row.line, 'question', '', sign.why);
        });
        break;
      }
      case 'aside':
        mark('aside', '', sign.why);
        break;
      default:
        this.block = null;
        questionTable(table, sign.sort ?? '', {
          open: (line, label) => this.open(line, label),
          say: (line, role, m, reason) => this.say(line, role, m, reason),
        });
        this.block = null;
    }
    for (const rule of table.rules) this.say(rule, 'aside', '', 'Parts the rows of a table.');
  }

  /** "4. …  ( 2 )" behind the last option or the stem: keys, where most questions with options have one that names an option. */
  private keysBehind(): void {
    const open = this.blocks.filter((b) => b.entries.length > 1 && !b.keys.length && !b.entries.some((e) => e.marked));
    const found: { b: Block; from: Piece; at: number; value: [number, number] }[] = [];
    for (const b of open) {
      const last = b.entries[b.entries.length - 1]?.pieces;
      for (const p of [last?.[last.length - 1], b.stem[b.stem.length - 1]]) {
        const text = p && this.lines[p.line]?.text.slice(p.from, p.to);
        const m = text ? KEY_BEHIND.exec(plainSigns(text)) : null;
        if (!p || !m || m.index === 0) continue;
        const label = (m[1] ?? '').toUpperCase();
        if (!b.entries.some((e, i) => (e.label ? e.label.toUpperCase() === label : String(i + 1) === label))) continue;
        const at = p.from + m.index + m[0].indexOf(m[1] ?? '');
        found.push({ b, from: p, at: p.from + m.index, value: [at, at + 1] });
        break;
      }
    }
    if (found.length < 2 || found.length < open.length * 0.6) return;
    for (const f of found) {
      f.from.to = f.at;
      f.b.keys.push({ line: f.from.line, pieces: [{ line: f.from.line, from: f.value[0], to: f.value[1] }], feedback: [] });
    }
  }
  /** "A: False" below "Q: …", or one quoted line below what asks, answers it, though other questions have options there. */
  private talkAnswers(): void {
    for (const b of this.blocks) {
      const [first] = b.entries;
      const own = b.entries.flatMap((e) => this.lines[e.pieces[0]?.line ?? -1] ?? []);
      if (!first || own.length < b.entries.length || b.keys.length || b.label !== undefined || b.entries.some((e) => e.marked)) continue;
      const spoken = shows(this.lines[b.line] as Line, 'turnQ') && b.entries.every((e) => e.label === 'A') && own.every((l) => shows(l, 'turnA'));
      const quoted = b.entries.length === 1 && this.series.quotedOptions && own[0]?.own.quoted;
      if (!spoken && !quoted) continue;
      for (const [i, e] of b.entries.entries()) b.keys.push({ line: own[i]?.index ?? b.line, pieces: e.pieces, feedback: e.feedback });
      b.entries.length = 0;
      for (const l of own) this.roles[l.index] = { role: 'key', mark: 'key', reason: 'The answer to the question above, which has no other options.' };
    }
  }
  /** "2) Mark T or F:" over "(T) …", "(F) …" without labels of their own: each row is a question, and the line over them is for all. */
  private truthRows(): void {
    for (let i = 0; i < this.blocks.length; i++) {
      const b = this.blocks[i] as Block;
      const [head, ...rows] = b.stem;
      if (!head || rows.length < 2 || b.entries.length || b.keys.length || b.pairs.length || b.row || b.asks) continue;
      const text = (p: Piece): string => this.lines[p.line]?.text.slice(p.from, p.to) ?? '';
      const fronts = rows.map((p) => TRUTH_IN_FRONT.exec(text(p)));
      if (fronts.some((f) => !f) || kindIn(text(head)) !== 'true-false') continue;
      b.stem = [head];
      const part = this.sharing(b);
      describe(part, this.lines[head.line] as Line);
      const made = rows.map((p, n) => {
        const front = fronts[n] as RegExpExecArray;
        const one = new Block(p.line, part, { ...(b.number !== undefined && { number: b.number, sub: String.fromCharCode(97 + n), form: 'sub' }) });
        const at = p.from + front[0].indexOf(front[1] ?? '');
        one.kind = 'true-false';
        one.keys.push({ line: p.line, pieces: [{ line: p.line, from: at, to: at + (front[1]?.length ?? 0) }], feedback: [] });
        one.stem.push({ ...p, from: p.from + front[0].length });
        this.roles[p.line] = { role: 'question', mark: '', reason: 'A statement with its truth value in front, below what asks for it.' };
        return one;
      });
      part.questions = made.length;
      b.part.questions--;
      this.blocks.splice(i, 1, ...made);
    }
  }
  /** "Exercise 3: Choose the right answer." over questions that are numbered anew is no question but a part. */
  private wordParts(): void {
    for (let i = 0; i + 1 < this.blocks.length; i++) {
      const b = this.blocks[i] as Block;
      const next = this.blocks[i + 1] as Block;
      if (
        b.form !== 'word' ||
        b.sub ||
        next.sub ||
        b.entries.length ||
        b.keys.length ||
        b.pairs.length ||
        b.fields.length ||
        next.form === 'word' ||
        (next.number !== 1 && next.form !== 'decimal')
      )
        continue;
      const part: DraftPart = { ...emptyPart(b.line), label: String(b.number ?? ''), title: this.lines[b.line]?.text.trim() ?? '' };
      part.instructions = b.stem.filter((p) => p.line !== b.line);
      for (const p of [{ line: b.line }, ...b.stem]) {
        const line = this.lines[p.line];
        if (!line) continue;
        describe(part, line);
        this.roles[p.line] =
          p.line === b.line
            ? { role: 'part', mark: 'part', reason: 'Questions numbered anew stand below it.' }
            : { role: 'aside', mark: '', reason: 'An instruction for the questions below.' };
      }
      this.parts.push(part);
      this.blocks.splice(i, 1);
      const old = b.part;
      old.questions--;
      for (let k = i; k < this.blocks.length && (this.blocks[k] as Block).form !== 'word' && (this.blocks[k] as Block).part === old; k++) {
        (this.blocks[k] as Block).part = part;
        old.questions--;
        part.questions++;
      }
      i--;
    }
  }

  /** A part in which nearly all questions are statements called true or false asks that of all of them. */
  private truthParts(): void {
    const seen = new Map<DraftPart, { all: number; truths: number }>();
    for (const b of this.blocks) {
      if (b.part.kind || b.kind || b.entries.length || b.pairs.length) continue;
      const n = seen.get(b.part) ?? { all: 0, truths: 0 };
      n.all++;
      const last = this.lines[b.stem[b.stem.length - 1]?.line ?? -1];
      const key = b.keys[0] ? this.text(b.keys[0].pieces) : '';
      if ((last && (memoised(last, truthKey) ?? memoised(last, truthNote))) || (key && truth(key.split(/[\s.,;–—(-]/)[0] ?? '', true) !== null)) n.truths++;
      seen.set(b.part, n);
    }
    for (const [part, n] of seen) if (n.truths >= 3 && n.truths >= n.all * 0.8) part.kind = 'true-false';
  }
}

/** A label in brackets at the end of a question or of its last option. */
const KEY_BEHIND = new RegExp(`\\s*[([{]\\s*([${LETTERS}]|[1-9])\\s*[)\\]}]\\s*[.:?]?\\s*$`, 'u');
/** The reason for a label: that it goes on from the last one says more than that it is there. */
function reasonOf(sign: Sign, last: number): string {
  const { label } = sign;
  if (!label || sign.said || label.ord !== last + 1) return sign.why;
  return `Starts with ${label.text.toUpperCase()}, the ${label.cls === 'up' || label.cls === 'low' ? 'letter' : 'number'} that is due.`;
}

function sortByLabel(b: Block): void {
  if (b.entries.length > 60) return;
  const ord = (e: Entry): number => (e.labels === 'number' ? Number(e.label) : (e.label.toUpperCase().codePointAt(0) ?? 0));
  b.entries.sort((x, y) => ord(x) - ord(y));
}

/** A key in the few characters that the margin has: its letter where it starts with one. */
export const short = (s: string): string => /^\(?([A-Za-zА-Яа-я])[).:,](?:\s|$)/u.exec(s)?.[1]?.toUpperCase() ?? (s.length > 9 ? `${s.slice(0, 8)}…` : s);

/** Codes of old test banks that stand behind a key on its line: "ANS: B   PTS: 1   DIF: Easy". Common practice, no source. */
const BANK_FIELD = /^(?:PTS|DIF|REF|OBJ|TOP|STA|NAT|LOC|KEY|MSC|NOT|BLM)\s*:\s*/;
const EDGE_NUMBER = /\s{3,}[[(]\s*(\d{1,2})\s*[\])]\s*$/;
const EDGE_POINTS = pattern(`\\s{3,}[([]\\s*(\\d{1,2}(?:[.,]\\d)?)\\s*(?:${POINTS})\\s*[)\\]]\\s*$`);
const POINTS_FIELD = pattern(`^(?:${POINTS})\\s*[:=]\\s*`);

/** The cells of a key line: its value, and what stands behind tabs or wide space and names a field. */
function cellsOf(text: string, at: number, to: number): { from: number; to: number }[] {
  const out = [{ from: at, to }];
  for (const m of text.slice(0, to).matchAll(/(?:\t+|\s{2,})(?=\p{L}[\p{L} .]{1,14}\s*:)|\s+(?=(?:PTS|DIF|REF|OBJ)\s*:)/gu)) {
    if (m.index < at) continue;
    const last = out[out.length - 1];
    if (last) last.to = m.index;
    out.push({ from: m.index + m[0].length, to });
  }
  return out;
}

/** What the words of a heading say of the questions below: their kind and their points. */
export function describe(part: DraftPart, line: Line): void {
  const ranges = memoised(line, kindsOfRanges);
  part.ranges.push(...ranges);
  const kind: Kind | undefined = memoised(line, kindIn);
  if (kind && !ranges.length) part.kind = kind;
  const truths = memoised(line, truthLetters);
  if (truths) part.truths = truths;
  const each = memoised(line, pointsEach);
  const total = each === null ? memoised(line, pointsTotal) : null;
  if (each !== null) part.points = each;
  if (total !== null) part.total = total;
}
