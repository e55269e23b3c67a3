/** From blocks to items: the kind, the key, and what is doubtful about them. */
import { newId } from '../item/ids.js';
import { defaultMatch, type Diagnostic, type Fix, type Gap, type Item, type Kind, type Option } from '../item/model.js';
import { keyProblem } from '../item/kinds.js';
import { richFromPlain } from '../item/richText.js';
import { parseNumber } from '../mark/numbers.js';
import { plainOption, readKey, readNumber, wordings, type KeyReading } from './answers.js';
import { asksForSeveral, BRACKET_GAP, stemText, type Block, type KeyEntry, type OptionBlock, type Outline } from './blocks.js';
import { placeOf, type Line } from './lines.js';
import { BLANK, lettered, letterPlace, numbered, pointsNote, truth, truthKey, truthNote } from './shapes.js';
import { ANSWER, ESSAY_STEM, ESSAY_WORDS, KIND_WORDS } from './words.js';

export interface Built {
  item: Item;
  block: Block;
  problems: Problem[];
}
/** A doubt before it has its place in the draft. */
export interface Problem {
  code: string;
  severity: Diagnostic['severity'];
  message: string;
  /** The line it is about; the block's first where it is not said. */
  line?: number;
  fixes?: Fix[];
}

interface Key {
  value: string;
  line: number;
  feedback?: string;
}

const clean = (s: string): string => s.replace(/\s+/g, ' ').trim();
/** Text without leftover markdown, as rich text. */
const content = (s: string): string => richFromPlain(clean(s.replace(/`([^`]+)`/g, '$1')));

/** The stem's kind words decide only what the block itself leaves open. */
const kindSaid = (b: Block, stem: string): Kind | undefined => KIND_WORDS.find(([p]) => p.test(stem))?.[1] ?? b.part.kind;

export function build(
  block: Block,
  lines: readonly Line[],
  listed: KeyEntry | undefined,
  decimalComma: boolean,
  habits: Pick<Outline, 'bracketGaps' | 'boldKeys'>,
): Built {
  return new Builder(block, lines, listed, decimalComma, habits).build();
}

class Builder {
  private readonly problems: Problem[] = [];
  private stem: string;
  private points: number | undefined;
  private readonly keys: Key[];
  private reason: string | undefined;
  private bonus = false;

  constructor(
    private readonly block: Block,
    private readonly lines: readonly Line[],
    listed: KeyEntry | undefined,
    private readonly decimalComma: boolean,
    private readonly habits: Pick<Outline, 'bracketGaps' | 'boldKeys'>,
  ) {
    this.stem = clean(stemText(block));
    this.keys = block.keys.filter((k) => k.value).map((k) => ({ value: k.value, line: k.line }));
    if (listed) {
      this.keys.push({ value: listed.value, line: listed.line });
      this.reason = listed.feedback;
    }
    this.takeAnswerBehind();
    this.takeNotes();
  }

  /** "… in water. (Answer: salt)": the key stands in brackets behind the question. */
  private takeAnswerBehind(): void {
    const behind = /[)\]]\s*$/.test(this.stem) ? ANSWER_BEHIND.exec(this.stem.slice(-300)) : null;
    if (!behind) return;
    this.keys.push({ value: (behind[1] ?? '').trim(), line: this.block.line });
    this.stem = clean(this.stem.slice(0, this.stem.length - behind[0].length));
  }

  /** Points and "Bonus" leave the stem; a blank to write the whole answer on does too. */
  private takeNotes(): void {
    const p = pointsNote(this.stem);
    if (p) {
      this.points = p.points;
      this.stem = clean(`${this.stem.slice(0, p.from)} ${this.stem.slice(p.to)}`);
    }
    const bonus = /^[([]?\s*bonus(?: question)?\s*[)\]]?\s*[:.–-]?\s*/i.exec(this.stem);
    if (bonus && bonus[0].length < this.stem.length) {
      this.bonus = true;
      this.stem = this.stem.slice(bonus[0].length);
    }
  }

  build(): Built {
    const item = this.withFields(this.kindOf());
    const none = keyProblem(item);
    const told = this.problems.some((p) => /^(key-conflict|key-unknown-option|gap-without-answer|key-missing|match-unbalanced)$/.test(p.code));
    if (none && !told) this.problems.push({ code: none.code, severity: 'error', message: `${this.name()} has ${none.message}.`, fixes: this.keyFixes(item) });
    if (!this.stem && this.block.options.length)
      this.problems.push({ code: 'stem-empty', severity: 'error', message: `${this.name()} has options and no question.` });
    return { item, block: this.block, problems: this.problems };
  }
  private name(): string {
    return this.block.label ? `Question ${this.block.label}` : `The question in line ${this.block.line + 1}`;
  }
  /** One mark per option, to choose from. */
  private keyFixes(item: Item): Fix[] {
    if (item.kind !== 'multiple-choice' && item.kind !== 'multiple-response') return [];
    return this.block.options.map((o, i) => {
      const last = o.pieces[o.pieces.length - 1];
      const line = last ? this.lines[last.line] : undefined;
      const at = line && last ? placeOf(line, last.from + last.text.trimEnd().length) : 0;
      return { label: `Mark ${(o.letter || String.fromCharCode(65 + i)).toUpperCase()}`, edits: [{ from: at, to: at, insert: ' *' }] };
    });
  }

  private kindOf(): Item {
    const b = this.block;
    const common = { id: newId(), stem: '', points: 1, ...(b.label && { label: b.label }) };
    const said = kindSaid(b, this.stem);
    if (b.pairs.length || b.lefts.length) return this.matching(common);
    if (b.steps.length >= 2) return { ...common, stem: content(this.stem), kind: 'ordering', sequence: this.stepsInOrder().map(content) };
    if (b.options.length) {
      const truths = b.options.map((o) => truth(plainOption(this.optionText(o)), false));
      if (b.options.length === 2 && truths[0] !== null && truths[1] !== null && truths[0] !== truths[1])
        return this.truthByOptions(common, truths as boolean[]);
      if (said === 'ordering') {
        const order = this.ordering(common);
        if (order) return order;
      }
      return this.choice(common);
    }
    return this.written(common, said);
  }

  /** Numbered steps stand in the right order, unless a key line says another one. */
  private stepsInOrder(): string[] {
    const { steps } = this.block;
    const said = (this.keys[0]?.value ?? '').match(/(?<![\p{L}\d])(?:\d{1,2}|[A-Za-z])(?![\p{L}\d])/gu) ?? [];
    const places = said.map((s) => (/\d/.test(s) ? Number(s) - 1 : letterPlace(s)));
    const whole = places.length === steps.length && new Set(places).size === steps.length && places.every((p) => p >= 0 && p < steps.length);
    return whole ? places.map((p) => steps[p] ?? '') : steps;
  }

  // ── choice ──

  private optionText(o: OptionBlock): string {
    return clean(o.pieces.map((p) => p.text).join(' '));
  }
  /** The places that marks beside the options and lines behind them say; a conflict leaves the key empty. */
  private keyed(texts: string[]): number[] {
    const options = this.block.options;
    const bolds = options.filter((o) => o.bold).length;
    const bullets = options.every((o) => o.star);
    const isMarked = (o: OptionBlock): boolean => o.marked || (Boolean(o.star) && !bullets);
    const anyMark = options.some(isMarked);
    const byBold = !anyMark && bolds === 1 && (this.habits.boldKeys || !this.keys.length);
    const marked = options.flatMap((o, i) => (isMarked(o) || (byBold && o.bold) ? [i] : []));
    const readings: { places: number[]; line: number }[] = marked.length ? [{ places: marked, line: this.block.line }] : [];
    for (const k of this.keys) {
      const r: KeyReading = readKey(k.value, options, texts);
      if (!r) continue;
      if ('unknown' in r) {
        const letter = /^[A-Z]$/i.test(r.unknown);
        const last = options[options.length - 1];
        const to = last?.letter.toUpperCase() || String.fromCharCode(64 + options.length);
        this.problems.push({
          code: 'key-unknown-option',
          severity: 'error',
          line: k.line,
          message: letter
            ? `${this.name()}: key ${r.unknown.toUpperCase()}, options A to ${to}.`
            : `${this.name()}: the key “${r.unknown}” is none of the options.`,
        });
        return [];
      }
      if ('conflict' in r) {
        this.problems.push({ code: 'key-conflict', severity: 'error', line: k.line, message: `${this.name()}: ${r.conflict}.` });
        return [];
      }
      if (r.reason) this.reason ??= r.reason;
      readings.push({ places: r.places, line: k.line });
    }
    const first = readings[0];
    const other = readings.find((r) => r.places.join() !== first?.places.join());
    if (first && other) {
      const name = (p: number[]): string => p.map((i) => (options[i]?.letter || String.fromCharCode(65 + i)).toUpperCase()).join(' ');
      this.problems.push({
        code: 'key-conflict',
        severity: 'error',
        line: other.line,
        message: `${this.name()} has two keys: ${name(first.places)} and ${name(other.places)}.`,
      });
      return [];
    }
    return first?.places ?? [];
  }
  private choice(common: Common): Item {
    const b = this.block;
    const texts = b.options.map((o) => this.optionText(o));
    const places = this.keyed(texts);
    const options: Option[] = b.options.map((o, i) => ({
      id: newId(),
      content: content(texts[i] ?? ''),
      credit: places.includes(i) ? 1 : 0,
      ...(o.feedback && { feedback: content(o.feedback) }),
    }));
    this.checkOptions(texts);
    const several = places.length > 1 || asksForSeveral(this.stem) || (b.part.kind === 'multiple-response' && places.length !== 1);
    const stem = content(this.stem.replace(/\s*\((?:multiple[- ]response|multiple[- ]choice|Mehrfachauswahl|Einfachauswahl|single choice)\)\s*$/i, ''));
    return several ? { ...common, stem, kind: 'multiple-response', scoring: 'all-or-nothing', options } : { ...common, stem, kind: 'multiple-choice', options };
  }
  private checkOptions(texts: string[]): void {
    const { options } = this.block;
    if (options.length === 1) this.problems.push({ code: 'option-single', severity: 'warning', message: `${this.name()} has one option only.` });
    const seen = new Map<string, number>();
    texts.forEach((t, i) => {
      const key = plainOption(t);
      const line = options[i]?.pieces[0]?.line ?? this.block.line;
      if (!key) this.problems.push({ code: 'option-empty', severity: 'warning', line, message: `${this.name()}: option ${i + 1} is empty.` });
      else if (seen.has(key)) this.problems.push({ code: 'option-duplicate', severity: 'warning', line, message: `${this.name()}: two options say “${t}”.` });
      seen.set(key, i);
    });
    const places = options.map((o) => letterPlace(o.letter));
    const jump = places.findIndex((p, i) => options[i]?.letter && p !== i && (i === 0 || p !== (places[i - 1] ?? 0) + 1));
    if (jump >= 0)
      this.problems.push({
        code: 'option-label-gap',
        severity: 'warning',
        line: options[jump]?.pieces[0]?.line ?? this.block.line,
        message: `${this.name()}: the option letters jump or repeat at ${options[jump]?.letter ?? ''}.`,
      });
  }
  private truthByOptions(common: Common, truths: boolean[]): Item {
    const texts = this.block.options.map((o) => this.optionText(o));
    const said = this.keys.map((k) => truth(k.value, true)).find((t) => t !== null);
    const places = said === undefined || said === null ? this.keyed(texts) : [truths.indexOf(said)];
    const note = truthNote(this.stem);
    const stem = note ? clean(this.stem.slice(0, note.from) + this.stem.slice(note.to)) : this.stem;
    return { ...common, stem: content(stem), kind: 'true-false', answer: places.length === 1 ? (truths[places[0] ?? 0] ?? null) : null };
  }

  // ── matching and ordering ──

  private matching(common: Common): Item {
    const b = this.block;
    const bare = (s: string): { label: string; text: string } => {
      const t = s
        .replace(/^[_\s]*_{2,}\s*/, '')
        .replace(/\s*_{2,}\s*$/, '')
        .trim();
      const n = numbered(t);
      const l = lettered(t);
      return n ? { label: n.label, text: t.slice(n.at).trim() } : l ? { label: l.letter.toUpperCase(), text: t.slice(l.at).trim() } : { label: '', text: t };
    };
    const lefts = b.lefts.length ? b.lefts.map((t, i) => ({ label: String(i + 1), text: t })) : b.pairs.map((p) => bare(p.left));
    const rights = b.lefts.length ? b.options.map((o) => ({ label: o.letter.toUpperCase(), text: this.optionText(o) })) : b.pairs.map((p) => bare(p.right));
    const lettersRight = rights.filter((r) => r.label).length >= 2;
    const stem = content(this.stem);
    if (!lettersRight) {
      const pairs = b.pairs.map((_, i) => ({ left: content(lefts[i]?.text ?? ''), right: content(rights[i]?.text ?? '') }));
      const missing = pairs.find((p) => p.left && !p.right);
      if (missing) this.problems.push({ code: 'match-unbalanced', severity: 'error', message: `${this.name()}: “${missing.left}” has no other side.` });
      return {
        ...common,
        stem,
        kind: 'matching',
        pairs: pairs.filter((p) => p.left),
        extraRights: pairs.filter((p) => !p.left && p.right).map((p) => p.right),
      };
    }
    const said = new Map<string, string>();
    for (const k of this.keys)
      for (const m of k.value.matchAll(/(\d{1,2}|[A-Za-z])\s*[-–—:=.)→>]*\s*([A-Za-z]|\d{1,2})(?=[\s,;.]|$)/g))
        said.set((m[1] ?? '').toUpperCase(), (m[2] ?? '').toUpperCase());
    const used = new Set<string>();
    const pairs = lefts
      .filter((l) => l.text)
      .map((l, i) => {
        const label = said.get(l.label || String(i + 1));
        const right = rights.find((r) => r.label === label);
        if (right) used.add(right.label);
        return { left: content(l.text), right: right ? content(right.text) : '' };
      });
    const extraRights = rights.filter((r) => r.text && !used.has(r.label)).map((r) => content(r.text));
    const open = pairs.find((p) => !p.right);
    if (!said.size) this.problems.push({ code: 'key-missing', severity: 'error', message: `${this.name()} has no key that says what belongs together.` });
    else if (open) this.problems.push({ code: 'match-unbalanced', severity: 'error', message: `${this.name()}: “${open.left}” has no other side.` });
    return { ...common, stem, kind: 'matching', pairs, extraRights };
  }
  /** Lettered pieces with a key like "C, A, D, B". */
  private ordering(common: Common): Item | null {
    const { options } = this.block;
    const letters = (this.keys[0]?.value ?? '').match(/(?<![\p{L}])[A-Za-z](?![\p{L}])/gu) ?? [];
    const places = letters.map((l) => options.findIndex((o) => o.letter.toUpperCase() === l.toUpperCase()));
    if (new Set(places).size !== options.length || places.includes(-1)) return null;
    return { ...common, stem: content(this.stem), kind: 'ordering', sequence: places.map((p) => content(this.optionText(options[p] as OptionBlock))) };
  }

  // ── written answers ──

  private written(common: Common, said: Kind | undefined): Item {
    const key = this.keys[0]?.value ?? '';
    const note = truthNote(this.stem);
    const inline = truthKey(this.stem);
    const word = key ? truth(/^[\p{L} ]+/u.exec(key)?.[0].trim() ?? key, true) : null;
    // "5. The earth is flat." with the key F: a statement and no question, answered by one letter
    const byLetter =
      key.length === 1 && truth(key, true) !== null && !/[?¿]/.test(this.stem) && this.stem.replace(/(?:_{2,}|\(\s*\)|\[\s*\])\s*$/, '').search(BLANK) < 0;
    const midBlank = new RegExp(`(?:${BLANK.source})[^\\s.]*\\s+\\p{L}|(?:${BLANK.source})\\s*\\S*\\s*\\[`, 'iu').test(this.stem);
    if (
      note ||
      byLetter ||
      inline ||
      (said === 'true-false' && !midBlank) ||
      (word !== null && key.length > 1 && truth(key.split(/[\s.,;–—(-]/)[0] ?? '', false) !== null)
    )
      return this.trueFalse(common, note, key);
    const braces = /\{([^{}]{1,80})\}/.test(this.stem);
    if (this.stem.search(BLANK) >= 0 || braces || ((said === 'cloze' || this.habits.bracketGaps) && !key && BRACKET_GAP.test(this.stem))) {
      if (!this.onlyWriteOn()) return this.cloze(common, braces);
      this.stem = clean(this.stem.replace(BLANK, ''));
    }
    if (
      said === 'essay' ||
      (!key && (ESSAY_STEM.test(this.stem) || ESSAY_WORDS.test(this.stem))) ||
      (ESSAY_STEM.test(this.stem) && key.split(/\s+/).length > 6)
    ) {
      return { ...common, stem: content(this.stem), kind: 'essay', ...(key && { modelAnswer: content(key) }) };
    }
    const tail = key ? null : /\s*(?:[=≈]|[-–—]>|→)\s*([^=]{1,40})$|\s*[[(]\s*(?:answer|ans)\s*:\s*([^\])]+)[\])]\s*$/i.exec(this.stem);
    const value = key || (tail?.[1] ?? tail?.[2] ?? '').trim();
    if (tail && value) this.stem = clean(this.stem.slice(0, tail.index));
    const number = value ? readNumber(value, this.decimalComma) : null;
    if (number) {
      const { unit, ...range } = number;
      // 75 % as the answer to "what percentage" is 75 and not 0.75
      return { ...common, stem: content(this.stem), kind: 'numeric', answers: [{ ...range, credit: 1 }], ...(unit && { unit }) };
    }
    return {
      ...common,
      stem: content(this.stem),
      kind: 'short-answer',
      match: defaultMatch,
      answers: value ? wordings(value).map((text) => ({ text, credit: 1 })) : [],
    };
  }
  /** A blank that is only a line to write the whole answer on, behind a complete question. */
  private onlyWriteOn(): boolean {
    return /[?.:]\s*(?:_{3,}|\.{5,}|…{2,})[\s_.…]*$/.test(this.stem);
  }
  private trueFalse(common: Common, note: { from: number; to: number } | null, key: string): Item {
    if (note) this.stem = clean(this.stem.slice(0, note.from) + this.stem.slice(note.to));
    this.stem = clean(this.stem.replace(/\s*(?:_{2,}|\[\s*\]|\(\s*\)|☐)\s*$/, '').replace(/^(?:_{2,}|\[\s*\]|\(\s+\))\s*/, ''));
    const inline = truthKey(this.stem);
    if (inline) this.stem = clean(this.stem.slice(0, inline.from));
    const first = /^[([]?\s*([\p{L}]+(?:\s+waar)?)/u.exec(key)?.[1] ?? '';
    const fromKey = key ? truth(first, true) : null;
    const rest = key.slice(key.indexOf(first) + first.length).replace(/^[\s.,;:)\]–—(-]+|\)\s*$/g, '');
    if (fromKey !== null && rest) this.reason ??= rest;
    if (inline && fromKey !== null && inline.value !== fromKey) {
      this.problems.push({ code: 'key-conflict', severity: 'error', message: `${this.name()} is called true in one place and false in another.` });
      return { ...common, stem: content(this.stem), kind: 'true-false', answer: null };
    }
    return { ...common, stem: content(this.stem), kind: 'true-false', answer: inline?.value ?? fromKey };
  }
  private cloze(common: Common, braces: boolean): Item {
    const inPlace: (string | null)[] = [];
    let stem = this.stem;
    const key = this.keys[0]?.value ?? '';
    // An answer in square brackets at the end belongs to the blank before it: "… is ____ %. [76]"
    const behind = key ? null : /\s*\[([^\][]{1,60})\]\s*$/.exec(stem);
    if (behind && stem.slice(0, behind.index).search(BLANK) >= 0) stem = stem.slice(0, behind.index);
    const gapPattern = new RegExp(braces ? `${BLANK.source}|\\{([^{}]{1,80})\\}` : stem.search(BLANK) >= 0 ? BLANK.source : '\\[([^\\][]{1,60})\\]', 'gi');
    let n = 0;
    stem = stem.replace(gapPattern, (_, inner: string | undefined) => {
      inPlace.push(typeof inner === 'string' ? inner : null);
      return `[[${++n}]]`;
    });
    const values = behind && n > 0 ? (n === 1 ? [behind[1] ?? ''] : splitKey(behind[1] ?? '', n)) : key ? (n === 1 ? [key] : splitKey(key, n)) : [];
    const gaps: Gap[] = inPlace.map((own, i) => {
      const value = own ?? values[i] ?? '';
      const id = String(i + 1);
      const number = value ? readNumber(value, this.decimalComma) : null;
      if (number && parseNumber(value, this.decimalComma) !== null)
        return { id, kind: 'number', points: 1, answers: [{ min: number.min, max: number.max, credit: 1, text: value.trim() }] };
      return { id, kind: 'text', points: 1, answers: value ? wordings(value).map((text) => ({ text, credit: 1 })) : [] };
    });
    const open = gaps.filter((g) => g.kind !== 'choice' && !g.answers.length);
    if (open.length && open.length < gaps.length)
      this.problems.push({
        code: 'gap-without-answer',
        severity: 'error',
        message: `${this.name()}: blank ${open.map((g) => g.id).join(', ')} has no answer.`,
      });
    else if (open.length)
      this.problems.push({
        code: key ? 'gap-without-answer' : 'key-missing',
        severity: 'error',
        message: `${this.name()} has no answer for its blank${gaps.length > 1 ? 's' : ''}.`,
      });
    return { ...common, stem: content(stem), kind: 'cloze', gaps };
  }

  // ── fields ──

  private withFields(item: Item): Item {
    const b = this.block;
    const feedback: { correct?: string; incorrect?: string; general?: string } = {};
    const more: Record<string, unknown> = {};
    const list = (v: string): string[] =>
      v
        .split(/\s*[,;#]\s*/)
        .map((s) => s.trim())
        .filter(Boolean);
    for (const f of b.fields) {
      const v = clean(f.value.replace(/[)\]]\s*$/, (m) => (/^\s*[([]/.test(this.lines[f.line]?.text ?? '') ? '' : m)));
      if (!v) continue;
      switch (f.name) {
        case 'feedback':
          feedback.general = feedback.general ? `${feedback.general} ${content(v)}` : content(v);
          break;
        case 'correct':
        case 'incorrect':
          feedback[f.name] = content(v);
          break;
        case 'hint':
          more['hints'] = [...((more['hints'] as string[] | undefined) ?? []), content(v)];
          break;
        case 'points': {
          const n = parseNumber(/[\d.,/]+/.exec(v)?.[0] ?? '', this.decimalComma);
          if (n === null)
            this.problems.push({ code: 'points-invalid', severity: 'warning', line: f.line, message: `${this.name()}: “${v}” is no number of points.` });
          else this.points = n;
          break;
        }
        case 'tags':
          more['tags'] = list(v);
          break;
        case 'outcomes':
          more['outcomes'] = [v];
          break;
        case 'difficulty':
        case 'bloom':
        case 'depth':
          more['tags'] = [...((more['tags'] as string[] | undefined) ?? []), v.toLowerCase()];
          break;
        case 'time': {
          const t = /(\d+)\s*(m|s)?/i.exec(v);
          if (t) more['timeLimit'] = Number(t[1]) * (/^m/i.test(t[2] ?? '') ? 60 : 1);
          break;
        }
      }
    }
    if (this.reason && !feedback.general) feedback.general = content(this.reason);
    const points = this.points ?? b.part.points;
    const first = this.lines[b.line];
    const last = this.lines[b.last];
    return {
      ...item,
      ...(points !== undefined && item.kind !== 'information' && { points }),
      ...(Object.keys(feedback).length && { feedback }),
      ...more,
      ...(this.bonus && { bonus: true }),
      source: { from: first?.from ?? 0, to: last?.to ?? 0 },
    };
  }
}

const ANSWER_BEHIND = new RegExp(`\\s*[([]\\s*(?:${ANSWER})\\s*[:=]\\s*([^()[\\]]{1,120})[)\\]]\\s*$`, 'iu');

interface Common {
  id: string;
  stem: string;
  points: number;
  label?: string;
}

/** The answers of several blanks in one key: "1) rye 2) water", "rye; water", "rye, water". */
function splitKey(key: string, n: number): string[] {
  const numberedParts = key
    .split(/(?:^|[\s,;]+)\(?(?:\d{1,2}|[a-h])[.)]\s+/)
    .map((s) => s.trim())
    .filter(Boolean);
  if (numberedParts.length === n) return numberedParts.map((s) => s.replace(/[,;]$/, ''));
  for (const sign of [/\s*;\s*/, /\s*,\s*/, /\s+\/\s+/, /\s+(?:and|y|et|und|e|en|i|и|та|ve)\s+|\s*,\s*/]) {
    const parts = key.split(sign);
    if (parts.length === n) return parts;
  }
  return n === 1 ? [key] : [];
}
