/** Options: lettered, numbered, bulleted, boxed, without labels, several on a line, in columns. */
import { field } from '../fields.js';
import { keyHead, keyLine, keyTail, wrongTail } from '../keys.js';
import {
  bareLetter,
  bulleted,
  decimal,
  columnOptions,
  inlineOptions,
  lettered,
  letterPlace,
  numbered,
  romanNumbered,
  smallRoman,
  type InlineOption,
} from '../labels.js';
import { told, type Line } from '../lines.js';
import type { Block, Entry, LabelClass, Outliner } from '../outline.js';
import { KEY_LOOKS } from '../stretch.js';
import { stretchOf } from '../lines.js';
import { truthAlone } from '../truths.js';
import type { Construct } from './construct.js';
import { sharing } from './questions.js';

interface Found {
  label: string;
  form: string;
  labels: LabelClass;
  at: number;
  marked: boolean;
  star?: boolean;
}

/** Notes behind an option in square brackets: "“Yes.” [Do not promise this.]" */
const NOTE = /\s[[{](?!\s*(?:[xX✓✔*]|\d+\s*%)\s*[\]}])([^[\]{}]{4,400})[\]}]\s*$/;

/** Adds an option that takes the line from a column on; key marks and notes at its ends are taken off. */
export function addEntry(o: Outliner, line: Line, found: Found, reason: string, ends?: Ends): true {
  const e = entryOf(o, line, found, line.text.length, ends);
  const name = e.label || String.fromCharCode(64 + Math.min(26, o.block?.entries.length ?? 0));
  return o.say(line, 'option', e.marked ? `${name.toUpperCase()} ✓` : name.toUpperCase(), reason + (e.marked ? ' A mark says that it is the key.' : ''));
}
interface Ends {
  from: number;
  to: number;
  marked: boolean;
  /** A note in square brackets behind the words: its columns. */
  note: [number, number] | null;
}
/** An option's words between two columns: key marks and a note at their ends are taken off. */
function endsOf(text: string, at: number, end: number): Ends {
  let from = at;
  let to = end;
  let marked = false;
  const head = keyHead(text.slice(from, to));
  if (head && head < to - from) {
    marked = true;
    from += head;
  }
  const cut = (): void => {
    const tail = keyTail(text.slice(from, to));
    if (tail >= 0) {
      marked = true;
      to = from + tail;
    } else {
      const wrong = wrongTail(text.slice(from, to));
      if (wrong > 0) to = from + wrong;
    }
  };
  cut();
  const words = text.slice(from, to);
  const found = /[\]}]\s*$/.test(words.slice(-40)) ? NOTE.exec(words) : null;
  if (!found) return { from, to, marked, note: null };
  const start = from + found.index + found[0].indexOf(found[1] ?? '');
  to = from + found.index;
  cut();
  return { from, to, marked, note: [start, start + (found[1]?.length ?? 0)] };
}
/** The same of a line that is one lettered option, which most are. */
const letteredEnds = (text: string): Ends => endsOf(text, lettered(text)?.at ?? 0, text.length);

function entryOf(o: Outliner, line: Line, found: Found, end: number, ends: Ends = endsOf(line.text, found.at, end)): Entry {
  const entry: Entry = {
    label: found.label,
    form: found.form,
    labels: found.labels,
    pieces: [o.piece(line, ends.from, ends.to)],
    marked: found.marked || ends.marked,
    star: found.star ?? false,
    feedback: ends.note ? [o.piece(line, ...ends.note)] : [],
  };
  const b = o.block;
  if (b) {
    const other = entry.labels === 'letter' && !b.count.letter && b.entries.length > 0 && o.kindOf(b) !== 'matching';
    if (other) listToStem(o, b);
    b.entries.push(entry);
    b.count[entry.labels]++;
    if (entry.labels === 'letter') b.lastLetter = entry;
  }
  return entry;
}

export function addInline(o: Outliner, line: Line, inline: readonly InlineOption[], at: number): void {
  for (const i of inline) {
    const end = at + i.to;
    const trimmed = line.text.slice(at + i.at, end).replace(/[\s;,|]+$/, '').length;
    entryOf(o, line, { label: i.letter, form: 'inline', labels: 'letter', at: at + i.at, marked: i.marked }, at + i.at + trimmed);
  }
}

/** Whether options follow a line, before anything else that starts a question or ends it. */
export function optionsFollow(o: Outliner, index: number): boolean {
  for (let i = index + 1, seen = 0; i < o.lines.length && seen < 5; i++) {
    const l = o.lines[i] as Line;
    if (l.blank) continue;
    seen++;
    const letter = told(l, lettered);
    if (letter && letterPlace(letter.letter) === 0 && letter.form !== o.habits.letterQuestions) return true;
    if (letter && told(l, inlineOptions).length > 1) return true;
    const next = o.next(i);
    if (told(l, bulleted) && next && told(next, bulleted)) return true;
    const n = told(l, numbered);
    if (n && o.habits.optionForms.has(n.form) && n.number === 1) return true;
    if (n || (o.habits.decimals && told(l, decimal)) || told(l, keyLine) !== null || l.heading > 0 || (o.habits.roman && told(l, romanNumbered))) return false;
    if (next && told(l, truthAlone) && told(next, truthAlone)) return true;
    if (told(l, bareLetter)?.letter === 'A' && next && told(next, bareLetter)?.letter === 'B') return true;
  }
  return false;
}

/** Lines right under a question, without labels, of which one is marked or is what the key line says. */
function unlabelled(o: Outliner, line: Line): Line[] {
  const b = o.block;
  if (!b || b.entries.length || b.keys.length || o.blankBefore || !/[?:…]\s*$/.test(o.stem(b))) return [];
  const run: Line[] = [];
  let i = line.index;
  for (; i < o.lines.length && run.length < 11; i++) {
    const l = o.lines[i] as Line;
    if (l.blank || told(l, keyLine) !== null || told(l, numbered) || l.heading > 0 || told(l, field)) break;
    if (l.text.length > 90 || /[?]\s*$/.test(l.text) || told(l, lettered) || told(l, bulleted)) return [];
    run.push(l);
  }
  if (run.length < 2) return [];
  const marks = run.filter((l) => keyTail(l.text) >= 0 || keyHead(l.text) > 0).length;
  const looks = run.filter((l) => stretchOf(l, 0, l.text.length, l.from).look & KEY_LOOKS).length;
  if (marks === 1 || (looks === 1 && run.length > 2)) return run;
  const after = o.next(i - 1);
  const at = after ? told(after, keyLine) : null;
  const said = after && at !== null ? after.text.slice(at).trim().toLowerCase().replace(/[.]$/, '') : '';
  return said && run.some((l) => l.text.trim().toLowerCase().replace(/[.]$/, '') === said) ? run : [];
}

/** A list that was taken for options belongs to the stem: statements I to III, steps, things to choose from further down. */
export function listToStem(o: Outliner, b: Block): void {
  for (const e of b.entries) {
    e.pieces.forEach((p, i) => b.stem.push(i === 0 ? { ...p, from: 0, to: o.lines[p.line]?.text.length ?? p.to, joint: '\n' } : p));
    for (const p of e.pieces) o.roles[p.line] = { role: 'question', mark: '', reason: 'A list inside the question: its options come further down.' };
  }
  b.entries = [];
  Object.assign(b.count, { letter: 0, number: 0, roman: 0, bullet: 0, none: 0 });
}

/** Letters with answers of their own are sub-questions: "a) What mass …? Answer: 4 g  b) What part …?" */
function subQuestions(o: Outliner, line: Line, b: Block, at: number, letter: string): true {
  const [first] = b.entries;
  const part = sharing(o, b);
  o.drop(b);
  o.part = part;
  const number = b.number === undefined ? {} : { number: b.number };
  const name = (l: string): { label: string; number?: number; sub: string; form: string } => ({
    ...number,
    label: `${b.label ?? ''}${l.toLowerCase()}`,
    sub: l.toLowerCase(),
    form: 'sub',
  });
  if (first) {
    const at0 = o.lines[first.pieces[0]?.line ?? line.index] as Line;
    const sub = o.open(at0, at0.text.length, name(first.label));
    Object.assign(sub, { stem: first.pieces, keys: b.keys, fields: b.fields, last: b.last });
    o.roles[at0.index] = { role: 'question', mark: sub.label ?? '', reason: 'A letter with an answer of its own: a part of the question above.' };
  }
  const second = o.open(line, at, name(letter));
  return o.say(line, 'question', second.label ?? '', 'A letter with an answer of its own: a part of the question above.');
}

export const options: Construct = {
  name: 'option',
  read(o, line) {
    const b = o.block;
    if (!b) return false;
    const text = line.text;
    if (
      /^\s*(?:options|choices|answer (?:options|choices)|opciones|optionen|antwortmöglichkeiten|opções|opzioni|opties|варианты(?: ответов?)?|варіанти(?: відповідей)?|seçenekler)\s*:\s*$/i.test(
        text,
      )
    )
      return o.say(line, 'option', '', 'Names the list below.');
    const labels = b.count.letter + b.count.number + b.count.roman;
    const columns = told(line, columnOptions);
    if (columns.length) {
      for (const c of columns) entryOf(o, line, { label: c.letter, form: 'column', labels: 'letter', at: c.at, marked: c.marked }, c.to);
      if (b.entries.length < 60) b.entries.sort((x, y) => letterPlace(x.label) - letterPlace(y.label));
      return o.say(line, 'option', columns.map((c) => c.letter.toUpperCase()).join(' '), 'Lettered options in columns, read down.');
    }
    const inline = told(line, inlineOptions);
    const letters = b.count.letter;
    const first = inline[0];
    if (first && !text.slice(0, first.start).trim() && (letterPlace(first.letter) === letters || letterPlace(first.letter) === 0)) {
      const before = b.entries.length;
      addInline(o, line, inline, 0);
      const marks = b.entries.slice(before).map((e) => e.label.toUpperCase() + (e.marked ? '✓' : ''));
      return o.say(line, 'option', marks.join(' '), 'Several lettered options on one line.');
    }
    // wrapped options of a row: "… (b) the price of" / "cotton  (c) the height"
    const wrapped = first && letters > 0 && letterPlace(first.letter) === letters ? inline : lateOption(text, letters);
    const cut = wrapped[0];
    if (cut && b.lastLetter && (b.lastLetter.form === 'inline' || b.lastLetter.form === 'column') && cut.start > 0) {
      b.lastLetter.pieces.push(o.piece(line, 0, cut.start));
      addInline(o, line, wrapped, 0);
      return o.say(line, 'option', wrapped.map((w) => w.letter.toUpperCase()).join(' '), 'Goes on from the option above, and more options behind it.');
    }
    const n = told(line, numbered);
    const asNumber = n && (o.habits.optionForms.has(n.form) || (!b.keys.length && n.number === b.count.number + 1));
    if (n && asNumber && !letters)
      return addEntry(
        o,
        line,
        { label: n.label, form: n.form, labels: 'number', at: n.at, marked: false },
        o.habits.optionForms.has(n.form) ? 'Numbered anew under each question.' : 'A list of its own under the question.',
      );
    const l = told(line, lettered);
    if (l && !(o.habits.talk && l.form === 'colon')) {
      const place = letterPlace(l.letter);
      const prior = b.lastLetter;
      const due = place === letters;
      const jump = prior
        ? (place > letterPlace(prior.label) && place - letterPlace(prior.label) <= 3) ||
          (prior.form === l.form && place >= 0 && place <= letterPlace(prior.label))
        : place <= 1 && letterPlace(told(o.next(line.index) ?? line, lettered)?.letter ?? '') > place;
      const answered = (b.keys[b.keys.length - 1]?.line ?? -1) > (b.lastLetter?.pieces[0]?.line ?? Infinity);
      if (due && b.entries.length === 1 && letters === 1 && answered) return subQuestions(o, line, b, l.at, l.letter);
      if (due || jump) {
        const reason = due ? (DUE[place] ?? 'Starts with the letter that is due.') : 'Starts with a letter, as the options above.';
        return addEntry(o, line, { label: l.letter, form: l.form, labels: 'letter', at: l.at, marked: l.marked, ...(l.star && { star: true }) }, reason);
      }
    }
    const bare = told(line, bareLetter);
    const next = o.next(line.index);
    if (bare && letterPlace(bare.letter) === letters && (letters > 0 || letterPlace((next && told(next, bareLetter)?.letter) ?? '') === 1))
      return addEntry(o, line, { ...bare, label: bare.letter, labels: 'letter' }, 'A letter, and its neighbours have the next letters.');
    const small = told(line, smallRoman);
    const romans = b.count.roman;
    if (small && small.number === romans + 1 && !letters && !b.keys.length)
      return addEntry(o, line, { ...small, labels: 'roman', marked: false }, 'A small Roman number under the question.');
    const bullet = told(line, bulleted);
    const labelled = bullet ? lettered(text.slice(bullet.at)) : null;
    if (bullet && labelled && letterPlace(labelled.letter) === letters)
      return addEntry(
        o,
        line,
        { label: labelled.letter, form: labelled.form, labels: 'letter', at: bullet.at + labelled.at, marked: bullet.marked || labelled.marked },
        'A box and the letter that is due.',
      );
    if (bullet && !labels && !b.keys.length && (bullet.form !== 'key-star' || b.entries.length > 0 || keyMatters(o, line)))
      return addEntry(o, line, { ...bullet, label: '', labels: 'bullet' }, 'A bullet or a box under a question.');
    const ring = told(line, ringed);
    const neighbour = o.before(line.index);
    if (ring && !labels && !b.keys.length && ((next && told(next, ringed)) || (b.entries.length > 0 && neighbour && told(neighbour, ringed))))
      return addEntry(o, line, { label: '', form: 'ring', labels: 'bullet', at: ring, marked: false }, 'A letter O as a ring to tick, as on the lines around.');
    if (
      told(line, truthAlone) &&
      !labels &&
      !b.keys.length &&
      b.entries.length < 2 &&
      (b.entries.length === 1 || (next !== undefined && told(next, truthAlone)))
    )
      return addEntry(
        o,
        line,
        { label: '', form: 'truth', labels: 'none', at: text.length - text.trimStart().length, marked: false },
        'True or false, alone on a line.',
      );
    const plain = unlabelled(o, line);
    if (plain.length) {
      for (const p of plain)
        addEntry(
          o,
          p,
          { label: '', form: 'plain', labels: 'none', at: p.text.length - p.text.trimStart().length, marked: false },
          'One of several short lines under a question, of which one is the key.',
        );
      o.taken = (plain[plain.length - 1]?.index ?? line.index) + 1;
      return true;
    }
    return false;
  },
};

/** "O basil": the column behind a typed ring; 0 where there is none. */
const ringed = (t: string): number => /^\s*[Oo0]\s{1,4}(?=\p{L})/u.exec(t)?.[0].length ?? 0;

/** A star right before a word is a key mark only among other options. */
const keyMatters = (o: Outliner, line: Line): boolean => {
  const next = o.next(line.index);
  return next !== undefined && (told(next, bulleted) !== null || told(next, lettered) !== null);
};

/** One more option behind the end of a wrapped one. */
function lateOption(text: string, due: number): InlineOption[] {
  const m = /(?<=\s)[([]?([A-Za-z])[).\]]\s+(?=\S)/.exec(text);
  return m && letterPlace(m[1] ?? '') === due ? [{ letter: m[1] ?? '', start: m.index, at: m.index + m[0].length, to: text.length, marked: false }] : [];
}

/**
 * The letter that is due, under a question whose options have letters: asked first, because most lines of most drafts
 * are such options and no other construct could claim them.
 */
export const dueOptions: Construct = {
  name: 'option that is due',
  read(o, line) {
    const b = o.block;
    if (!b || o.fence || o.inKeys || o.waiting || o.reading || b.keys.length || b.fields.length || o.habits.letterQuestions || o.habits.letterParts)
      return false;
    const l = told(line, lettered);
    if (
      !l ||
      l.form === 'bare' ||
      (o.habits.talk && l.form === 'colon') ||
      letterPlace(l.letter) !== b.count.letter ||
      b.pairs.length ||
      b.count.number ||
      o.kindOf(b) === 'matching'
    )
      return false;
    if (told(line, columnOptions).length || told(line, inlineOptions).length || told(line, keyLine) !== null) return false;
    return addEntry(
      o,
      line,
      { label: l.letter, form: l.form, labels: 'letter', at: l.at, marked: l.marked, star: l.star ?? false },
      DUE[b.count.letter] ?? 'Starts with the letter that is due.',
      told(line, letteredEnds),
    );
  },
};
const DUE = Array.from('ABCDEFGHIJ', (l) => `Starts with ${l}, the letter that is due.`);
