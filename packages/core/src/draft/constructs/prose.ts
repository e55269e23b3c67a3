/** All other lines: what goes on from the line above, questions without a number, passages, and talk around the questions. */
import { hasBlank } from '../blanks.js';
import { field } from '../fields.js';
import { kindIn } from '../headings.js';
import { keyLine, keyTail } from '../keys.js';
import { bulleted, lettered, numbered } from '../labels.js';
import { told, type Line } from '../lines.js';
import type { Block, Outliner } from '../outline.js';
import { truthKey, truthNote } from '../truths.js';
import { CHAT, QUESTION } from '../words.js';
import type { Construct } from './construct.js';
import { letterPlace } from '../labels.js';
import { listToStem, optionsFollow } from './options.js';
import { openQuestion } from './questions.js';

const LIST_MARK = /^\s*(?:[-*•◦▪–—]\s+|[ivx]{1,4}[.)]\s|\(?[ivx]{1,4}\)\s|[IVX]{1,4}[.)]\s|\d{1,2}[.)]\s|[“"„«—–-]\s?\p{Lu})/u;
/** So much prose in one piece before questions is a text to read. */
const PASSAGE_LENGTH = 260;

const chatIn = (text: string): boolean => CHAT.test(text.trim()) && !/_{3,}/.test(text);

const indentOf = (line: Line): number => line.text.length - line.text.trimStart().length;

function keyFollows(o: Outliner, index: number): boolean {
  for (let i = index + 1, seen = 0; i < o.lines.length && seen < 3; i++) {
    const l = o.lines[i] as Line;
    if (l.blank) continue;
    if (told(l, keyLine) !== null || field(l.text)?.name === 'model') return true;
    if (told(l, numbered) || told(l, lettered) || l.heading > 0 || CHAT.test(l.text.trim()) || /[?]\s*$/.test(l.text)) return false;
    seen++;
  }
  return false;
}

/** Whether the line below starts lettered options. */
const lettersFollow = (o: Outliner, line: Line): boolean => {
  const next = o.next(line.index);
  const l = next ? told(next, lettered) : null;
  return l !== null && letterPlace(l.letter) === 0;
};

/** "Question:" without a number. */
const QUESTION_HEAD = new RegExp(`^\\s*(?:${QUESTION}|stem|prompt|statement|question (?:text|stem)|enunciado|aussage|énoncé)\\s*[:.–—]\\s+(?=\\S)`, 'iu');
const headed = (t: string): number => QUESTION_HEAD.exec(t.slice(0, 80))?.[0].length ?? 0;

/** Whether a line without a number starts a question of its own. */
function opensUnnumbered(o: Outliner, line: Line, chat: boolean): string | null {
  const t = line.text.trim();
  const b = o.block;
  if (line.heading > 0 && !/[?:]\s*$/.test(t)) return null;
  const above = o.lines[line.index - 1];
  // statements under "True or false", one a line
  const row =
    b !== null && o.part.kind === 'true-false' && !o.numbered && above !== undefined && (told(above, truthKey) !== null || /[.!]\s*$/.test(above.text));
  const apart = !b || row || (o.complete(b) && (o.blankBefore || /[?:]\s*$/.test(t) || b.keys.length > 0)) || (o.blankBefore && !o.numbered);
  if (!apart) return null;
  const follows = optionsFollow(o, line.index) || keyFollows(o, line.index);
  if (b && b.entries.length && !b.count.letter && !b.keys.length && lettersFollow(o, line)) return null;
  if (b && b.number !== undefined && b.keys.length > 0 && !o.blankBefore && !/[?]\s*$/.test(t) && !optionsFollow(o, line.index)) return null;
  if (follows && (!chat || /\?\s*$/.test(t))) return 'No number, but options or a key follow.';
  if (chat) return null;
  if (truthNote(t) && t.length < 400 && (truthKey(t) || !o.numbered)) return 'Says “true or false”.';
  if (o.numbered) return null;
  if (o.part.kind === 'true-false' && (truthKey(t) || o.part.questions > 0 || o.part.title) && t.length > 8) return 'A statement under “true or false”.';
  if (hasBlank(t) && /\p{L}{3}/u.test(t) && !/^\p{L}+\s*:?\s*[_.…]+\s*$/u.test(t)) return 'A sentence with a blank.';
  if (/[?]["”»)]?\s*$/.test(t)) return 'Ends with a question mark.';
  if (kindIn(t) === 'matching' || kindIn(t) === 'ordering') return 'Asks to match or to order what follows.';
  if ((o.part.kind === 'essay' || o.part.kind === 'short-answer' || o.part.kind === 'cloze') && o.part.title && t.length > 12)
    return 'A line under a heading that says its kind.';
  return null;
}

/** Statements with bullets under "True or false". */
function bulletedStatement(o: Outliner, line: Line): boolean {
  const bullet = told(line, bulleted);
  if (!bullet || o.numbered || o.part.kind !== 'true-false' || o.block?.entries.length) return false;
  openQuestion(o, line, bullet.at, {});
  return o.say(line, 'question', String(o.blocks.length), 'A statement under “true or false”.');
}

function beforeQuestions(o: Outliner, line: Line, chat: boolean): true {
  const t = line.text.trim();
  if (chat) return o.aside(line, 'Talk around the questions.');
  const kind = kindIn(t);
  if (kind && t.length < 200 && !line.bold) {
    o.instruct(line);
    return o.aside(line, 'An instruction for the questions below.');
  }
  if (paragraphLength(o, line) >= PASSAGE_LENGTH && !line.bold && o.blankBefore && laterQuestions(o, line)) {
    o.reading = true;
    o.part.passage.push(o.piece(line, indentOf(line), line.text.length, o.part.passage.length ? '\n\n' : ' '));
    return o.say(line, 'passage', 'passage', 'A long text before questions.');
  }
  return o.aside(line, o.blocks.length ? 'Nothing that belongs to a question.' : 'Before the first question.');
}
function paragraphLength(o: Outliner, line: Line): number {
  let n = 0;
  for (let i = line.index; i < o.lines.length && n < PASSAGE_LENGTH && !o.lines[i]?.blank; i++) n += o.lines[i]?.text.length ?? 0;
  return n;
}
function laterQuestions(o: Outliner, line: Line): boolean {
  for (let i = line.index + 1; i < Math.min(o.lines.length, line.index + 80); i++) if (told(o.lines[i] as Line, numbered)) return true;
  return false;
}

/** Prose behind a key: its reason, where it stands right below or in the same fold; the key's own next line where that was cut. */
function behindKey(o: Outliner, line: Line, b: Block): boolean {
  const t = line.text.trim();
  const key = b.keys[b.keys.length - 1];
  const last = b.fields[b.fields.length - 1];
  const at = indentOf(line);
  if (!o.blankBefore && last && last.line >= (key?.line ?? -1) && line.index === b.last + 1) {
    last.pieces.push(o.piece(line, at));
    return o.say(line, o.roles[line.index - 1]?.role ?? 'feedback', '', 'Goes on from the line above.');
  }
  if (!key || b.row) return false;
  if (!o.blankBefore && line.index === b.last + 1 && key.pieces.length) {
    const value = o.text(key.pieces);
    // a short key has been said; what comes below is its reason
    const said = /^[A-Za-zА-Я](?:[).:,\s]|$)/u.test(value) || value.length < 40;
    const reason = said && /^[\p{Lu}“"¡¿(]/u.test(t) && t.length > 20;
    if (reason) b.fields.push({ name: 'feedback', line: line.index, pieces: [o.piece(line, at)] });
    else key.pieces.push(o.piece(line, at));
    return o.say(line, reason ? 'feedback' : 'key', reason ? 'feedback' : '', reason ? 'A reason right below the key.' : 'Goes on from the line above.');
  }
  if (o.fold) {
    b.fields.push({ name: 'feedback', line: line.index, pieces: [o.piece(line, at)] });
    return o.say(line, 'feedback', 'feedback', 'Stands in the same fold as the key.');
  }
  return false;
}

export const prose: Construct = {
  name: 'prose',
  read(o, line) {
    const b = o.block;
    const chat = told(line, chatIn) && !line.own.fold;
    if (bulletedStatement(o, line)) return true;
    const head = told(line, headed);
    const opens = head ? 'Starts with a word for “question”.' : opensUnnumbered(o, line, chat);
    // "### Question 1", and "Question: …" below it
    if (head && b && !b.stem.length && !b.entries.length && !b.keys.length) {
      b.stem.push(o.piece(line, head));
      return o.say(line, 'question', '', 'The words of the question above.');
    }
    if (opens) {
      openQuestion(o, line, head || indentOf(line), {});
      return o.say(line, 'question', String(o.blocks.length), opens);
    }
    if (!b) return beforeQuestions(o, line, chat);
    if (b.entries.length && !b.count.letter && !b.keys.length && lettersFollow(o, line)) {
      listToStem(o, b);
      b.stem.push(o.piece(line, indentOf(line), line.text.length, '\n\n'));
      return o.say(line, 'question', '', 'Goes on from the question above; its options follow.');
    }
    if (chat && o.blankBefore && !optionsFollow(o, line.index)) {
      o.block = null;
      return o.aside(line, 'Talk around the questions.');
    }
    if (b.keys.length || (b.fields.length > 0 && b.stem.length > 0)) {
      if (behindKey(o, line, b)) return true;
      return o.blankBefore ? closing(o, line, b) : o.aside(line, 'Nothing that belongs to the question above, and no new one.');
    }
    if ((b.entries.length || b.pairs.length) && o.blankBefore) return closing(o, line, b);
    if (b.entries.length) {
      const entry = b.entries[b.entries.length - 1];
      if (entry?.feedback.length) entry.feedback.push(o.piece(line, indentOf(line)));
      else {
        const tail = keyTail(line.text);
        if (tail >= 0 && entry) entry.marked = true;
        entry?.pieces.push(o.piece(line, indentOf(line), tail >= 0 ? tail : line.text.length));
      }
      return o.say(line, entry?.feedback.length ? 'feedback' : 'option', '', 'Goes on from the line above.');
    }
    if (b.pairs.length) {
      b.pairs[b.pairs.length - 1]?.right.push(o.piece(line, indentOf(line)));
      return o.say(line, 'pair', '', 'Goes on from the line above.');
    }
    return stemLine(o, line, b);
  },
};

/** One more line of a stem; behind a blank line only where the question is not over yet. */
function stemLine(o: Outliner, line: Line, b: Block): true {
  const stem = o.stem(b);
  const over = o.blankBefore && /[.?!)_]["”»]?\s*$/.test(stem) && !optionsFollow(o, line.index) && !keyFollows(o, line.index) && !moreStem(o, line);
  if (over && (o.numbered || b.number !== undefined)) return closing(o, line, b);
  const joint = !b.stem.length ? ' ' : o.blankBefore ? '\n\n' : LIST_MARK.test(line.text) ? '\n' : ' ';
  b.stem.push(o.piece(line, indentOf(line), line.text.length, joint));
  return o.say(line, 'question', '', 'Goes on from the question above.');
}
/** Further on, before the next number, options or a key show that the question goes on. */
function moreStem(o: Outliner, line: Line): boolean {
  for (let i = line.index + 1; i < Math.min(o.lines.length, line.index + 12); i++) {
    const l = o.lines[i] as Line;
    if (l.blank) continue;
    if (told(l, numbered) || l.heading > 0) return false;
    if (told(l, keyLine) !== null || optionsFollow(o, i)) return true;
  }
  return false;
}
function closing(o: Outliner, line: Line, b: Block): true {
  const next = o.next(line.index);
  const goesOn = next && !o.lines[line.index + 1]?.blank ? false : next !== undefined && (told(next, lettered) !== null || told(next, keyLine) !== null);
  // the line of a page between two options does not end the question
  if (!goesOn) {
    o.block = null;
    if (paragraphLength(o, line) >= PASSAGE_LENGTH && !CHAT.test(line.text.trim())) return beforeQuestions(o, line, false);
    const kind = kindIn(line.text);
    if (kind && line.text.length < 200 && next && told(next, numbered) && !b.part.title) o.part.kind ??= kind;
  }
  return o.aside(line, 'Nothing that belongs to the question above, and no new one.');
}
