/** Pairs under a question that asks to match: two columns, arrows, signs between, or a numbered and a lettered list. */
import { bulleted, lettered, letterPlace, numbered } from '../labels.js';
import { keyLine } from '../keys.js';
import { told, type Line } from '../lines.js';
import type { Block, Outliner } from '../outline.js';
import type { Construct } from './construct.js';
import { addEntry } from './options.js';
import { startsQuestion } from './questions.js';

const ARROW = /^(.*?\S)\s*(?:-{1,3}>|→|=>|⇒|⟶|<->|↔|<=>)\s*(\S.*)$/;
const COLUMNS = /^(.*?\S)(?:\t+|\s{3,})(\S.*)$/;
const SIDED = /^(.{1,120}?\S)\s+(?:[–—=|]|-(?=\s)|:)\s+(\S.*)$/;
const COLON = /^([^:]{1,80}\S):\s+(\S.*)$/;
const HEADS = /^\s*(?:column|list|columna|spalte|colonne|coluna|colonna|kolom|kolumna|колонка|sütun)\s*[A-I12]\b/iu;

/** The two sides of a line: columns of each. */
function sides(text: string, from: number): { left: [number, number]; right: [number, number]; columns: boolean } | null {
  const inner = text.slice(from);
  const columns = COLUMNS.exec(inner);
  const labelled = columns && (lettered(columns[2] ?? '') !== null || numbered(columns[2] ?? '') !== null || /\t/.test(inner));
  const m = labelled ? columns : (ARROW.exec(inner) ?? SIDED.exec(inner) ?? COLON.exec(inner) ?? columns);
  if (!m) return null;
  const rightAt = inner.length - (m[2]?.length ?? 0);
  return { left: [from, from + (m[1]?.length ?? 0)], right: [from + rightAt, text.length], columns: Boolean(labelled) };
}

function addPair(o: Outliner, b: Block, line: Line, left: [number, number], right: [number, number], reason: string): true {
  b.pairs.push({ left: [o.piece(line, ...left)], right: [o.piece(line, ...right)] });
  return o.say(line, 'pair', '⇄', reason);
}

const rowsNumbered = (o: Outliner, b: Block): boolean => {
  const left = b.pairs[0]?.left[0];
  const l = left && o.lines[left.line];
  return l !== undefined && left !== undefined && numbered(l.text.slice(left.from)) !== null;
};

/** Under a part that asks to match, the rows make one question, whose words are the part's. */
function matchingPart(o: Outliner, line: Line): boolean {
  if (o.part.kind !== 'matching' || o.part.questions > 0) return false;
  const n = told(line, numbered) ?? told(line, lettered);
  const two = n ? sides(line.text, n.at) : null;
  const list = n && !two && 'number' in n && n.number === 1 && short(o, line);
  if (!two?.columns && !list && !(two && told(line, numbered) === null)) return false;
  const b = o.open(line, line.text.length, {});
  b.kind = 'matching';
  b.stem = o.part.instructions.length ? [...o.part.instructions] : titlePiece(o);
  for (const p of b.stem)
    if (o.roles[p.line]?.role === 'aside') o.roles[p.line] = { role: 'question', mark: String(o.blocks.length), reason: 'Asks to match the rows below.' };
  o.part.instructions = [];
  return true;
}
/** A short line, with a numbered or lettered one right below. */
const short = (o: Outliner, line: Line): boolean => {
  const next = o.next(line.index);
  return line.text.length < 60 && next !== undefined && (told(next, numbered)?.number === 2 || told(next, lettered) !== null);
};
const titlePiece = (o: Outliner): Block['stem'] => {
  const l = o.lines[o.part.line];
  return l && o.part.title ? [o.piece(l, 0)] : [];
};

export const pairs: Construct = {
  name: 'pair',
  read(o, line) {
    if (!o.block || o.block.part !== o.part) matchingPart(o, line);
    const b = o.block;
    if (!b || o.kindOf(b) !== 'matching' || b.keys.length || told(line, keyLine) !== null) return false;
    if (HEADS.test(line.text)) return o.say(line, 'pair', '', 'Names the columns.');
    const text = line.text;
    const n = told(line, numbered);
    if (n && b.number !== undefined && !b.pairs.length && !b.entries.length && n.number !== 1 && startsQuestion(o, line, n)) return false;
    const apart = o.blankBefore && (b.pairs.length > 0 || b.entries.length > 0);
    if (n && apart && b.number !== undefined && startsQuestion(o, line, n) && n.number !== b.pairs.length + 1) return false;
    // the next question is due, and the rows have no numbers of their own
    if (apart && n && b.number !== undefined && n.number === b.number + 1 && !b.count.number && !rowsNumbered(o, b)) return false;
    const bullet = n ? null : told(line, bulleted);
    const two = sides(text, bullet && bullet.form === 'bullet' ? bullet.at : 0);
    const letter = told(line, lettered);
    const row = two && (two.columns || !letter || b.pairs.length > 0);
    if (row && two) {
      if (n && b.number !== undefined && n.number === b.number + 1 && n.number !== b.pairs.length + 1 && !two.columns) return false;
      // "A: yeast" is a lettered side and no pair
      if (!(letter && two.left[1] - two.left[0] <= 2)) {
        if (!n || two.columns || b.pairs.length > 0 || n.number === 1)
          return addPair(o, b, line, two.left, two.right, 'Two sides on one line, under a question that asks to match.');
      }
    }
    if (letter && (b.count.number > 0 || letterPlace(letter.letter) === b.count.letter)) {
      addEntry(o, line, { label: letter.letter, form: letter.form, labels: 'letter', at: letter.at, marked: false }, 'A lettered side.');
      return o.say(line, 'pair', letter.letter.toUpperCase(), 'A lettered side of a question that asks to match.');
    }
    const numbers = b.count.number;
    if (n && n.number === numbers + 1 && !(numbers === 0 && n.number === (b.number ?? 0) + 1 && n.number !== 1)) {
      if (numbers > 0 && startsQuestion(o, line, n)) return false;
      addEntry(o, line, { label: n.label, form: n.form, labels: 'number', at: n.at, marked: false }, 'A numbered side.');
      return o.say(line, 'pair', n.label, 'A numbered side of a question that asks to match.');
    }
    return false;
  },
};
