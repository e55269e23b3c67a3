/** Lists of keys at the end of a draft or of a part: finds their lines. What they say is read once all questions are known (keyList.ts). */
import { field } from '../fields.js';
import { kindIn, partLine } from '../headings.js';
import { numbered, pattern, romanNumbered } from '../labels.js';
import { keyLine, keyTitle, keyTitleRow } from '../keys.js';
import { headsIn } from '../keyList.js';
import { told, type Line } from '../lines.js';
import type { Outliner } from '../outline.js';
import { BLANK } from '../blanks.js';
import { truth } from '../truths.js';
import { CHAT, PART } from '../words.js';
import type { Construct } from './construct.js';
import { optionsFollow } from './options.js';

const RULE = /^[\s|:=_*-]+$/;
/** A row that begins with the part it is for: "Part A   1B  2C", "II: 1 b, 2 a", "Exercice 1 : 1b". */
const GROUP_ROW = pattern(
  `^\\s*(?:(?:${PART}|aufgabe|task)\\s+(?:[A-Z]|\\d{1,2}|[IVX]{1,5})(?![\\p{L}\\d])|[IVX]{1,5}(?=\\s*[:–—-]|\\s*[.)]\\s|\\s{2,}))\\s*(?:[:.–—)-]\\s*|\\s{2,})(?=\\S)`,
);
const PART_START = pattern(`^\\s*(?:${PART})`);
/** Keys written without anything between: "TFTTF FTFTT". */
const GLUED = /^(?:[TFV]{3,}|[A-H]{3,}|[a-h]{3,})(?:\s+(?:[TFV]+|[A-H]+|[a-h]+))*$/;
const SEQUENCE = /^[A-HTVa-htvА-Да-д](?:[\s,;]+[A-HTVa-htvА-Да-д]){2,}[.;]?$/u;
const ENTRY_HEAD = /^[|(\s-]*(?:q(?:uestion)?\.?\s*)?(?:\d{1,3}[a-h]?(?![\d.,]\d)|[IVXL]{1,6}(?=[\s.):–-]))\s*\S/iu;
/** Numbers with one letter each, three or more in a row: a list without a heading. */
const DENSE = /^\s*(?:\(?\d{1,3}\s*[.):=–-]?\s*(?:[A-Ha-hTFVtfv]|True|False)\)?(?:[\s,;|]+|$)){3,}$/;
const dense2 = (text: string): boolean => /^\s*(?:\(?[12]\s*[.):=–-]?\s*[A-Ha-hTF]\)?(?:[\s,;|]+|$)){2}$/.test(text);
const dense = (text: string): boolean => /^\s*\(?\d/.test(text) && DENSE.test(text);
const BONUS = /^\s*bonus\s*[.:)–-]/i;

/** "Answer:" alone under a question, its value on the next line, is no heading. */
const answersOne = (o: Outliner, line: Line): boolean =>
  o.block !== null && line.heading === 0 && !o.blankBefore && /[^sS]\s*:\s*$/.test(line.text) && !/(?:key|schlüssel|clave|corrigé)\s*:\s*$/i.test(line.text);

function entriesFollow(o: Outliner, index: number): boolean {
  for (let i = index + 1, looked = 0; i < o.lines.length && looked < 4; i++) {
    const t = o.lines[i]?.text.trim() ?? '';
    if (!t || RULE.test(t)) continue;
    looked++;
    if (
      ENTRY_HEAD.test(t) ||
      SEQUENCE.test(t) ||
      GLUED.test(t) ||
      GROUP_ROW.test(t) ||
      BONUS.test(t) ||
      /^[A-Ha-hА-Гa-г][.)]?$/u.test(t) ||
      truth(t, false) !== null
    )
      return true;
    if (looked === 1 && t.length < 30 && o.blocks.length >= 3 && o.blocks.slice(0, 500).every((b) => !b.keys.length)) return true;
  }
  return false;
}

/** Whether "Answers: 1-B, 2-A" is the key of the question above, which has as many sides or gaps. */
function ownKey(o: Outliner, line: Line, at: number): boolean {
  const b = o.block;
  if (!b || b.keys.length) return false;
  const count = line.text.slice(at).match(/(?<![\d.,])\d{1,2}\s*[.):–=-]?\s*(?=\S)/g)?.length ?? 0;
  const needs = o.kindOf(b) === 'matching' ? Math.max(b.pairs.length, b.count.number) : (o.stem(b).match(BLANK)?.length ?? 0);
  return needs > 0 && (count === needs || !o.blankBefore || (o.kindOf(b) === 'matching' && count <= needs && count >= needs - 2));
}

function heading(o: Outliner, line: Line): boolean {
  const row = told(line, keyTitleRow);
  if (told(line, keyTitle) && !answersOne(o, line)) {
    if (!entriesFollow(o, line.index)) return false;
    begin(o, line, line.text);
    return o.say(line, 'key-list', 'key list', 'A heading for answers, with entries behind it.');
  }
  const rest = row >= 0 ? line.text.slice(row) : '';
  const heads = row < 0 ? [] : headsIn(rest, o.habits.roman, o.habits.letterQuestions !== '', false, o.habits.decimals);
  // right under a question it is that question's own key, unless it has one for each question
  const forEach = heads.length > 1 && heads.length <= o.blocks.length && heads.length >= o.blocks.length - 1 && heads[0]?.number === (o.blocks[0]?.number ?? 1);
  if (row < 0 || (keyLine(line.text) !== null && o.block && !o.blankBefore && !forEach)) return false;
  const several = heads.length > 1 || forAll(o, rest) || /^\d{1,3}\s*[-–]\s*\d{1,3}\s*[:.)]?\s+[A-Za-z](?:[\s,;]*[A-Za-z])+$/.test(rest.trim());
  if (!several || (!(forEach && heads.length > 2 && o.block && o.kindOf(o.block) !== 'matching') && ownKey(o, line, row))) return false;
  begin(o, line, line.text.slice(0, row));
  o.keyRows[o.keyRows.length - 1]?.rows.push({ line: line.index, at: row });
  return o.say(line, 'key-list', 'key list', 'A word for “answers” with numbers and their keys.');
}

/** "Key: BAA" behind the last of three questions without keys: one letter each. */
function forAll(o: Outliner, rest: string): boolean {
  const letters = rest.replace(/[\s,;.]/g, '');
  if (!/^[A-Za-z]{2,}$/.test(letters) || !(GLUED.test(rest.trim()) || SEQUENCE.test(rest.trim())) || !o.blankBefore || o.blocks.length > 2000) return false;
  return letters.length === o.blocks.length || letters.length === o.blocks.filter((b) => !b.keys.length).length;
}

function begin(o: Outliner, line: Line, title: string): void {
  o.inKeys = true;
  o.block = null;
  o.waiting = false;
  o.reading = false;
  o.keyRows.push({ rows: [], numbered: false, heading: title, line: line.index });
}

/** A line inside a list of keys; false where the list has ended. */
function row(o: Outliner, line: Line): boolean {
  const t = line.text.trim();
  const rows = o.keyRows[o.keyRows.length - 1];
  if (!rows) return false;
  const take = (at: number, reason: string): true => {
    const now = o.keyRows[o.keyRows.length - 1];
    now?.rows.push({ line: line.index, at });
    if (now && ENTRY_HEAD.test(line.text.slice(at))) now.numbered = true;
    return o.say(line, 'key-list', 'key list', reason);
  };
  const group = o.habits.roman && !PART_START.test(t) ? null : GROUP_ROW.exec(line.text);
  if (group && group[0].length < line.text.length) {
    o.keyRows.push({ rows: [], numbered: false, heading: group[0], line: line.index });
    return take(group[0].length, 'Keys of a part, in one row.');
  }
  if (partLine(t) || (line.heading > 0 && !told(line, numbered)) || /^\(?[IVX]{1,5}[.):]?$/.test(t)) {
    if (!keysUnder(o, line)) return leave(o);
    o.keyRows.push({ rows: [], numbered: false, heading: line.text, line: line.index });
    return o.say(line, 'key-list', 'key list', 'A heading inside the list of keys.');
  }
  const n = told(line, numbered);
  if ((n && t.length > 12 && optionsFollow(o, line.index)) || (!n && t.endsWith('?') && optionsFollow(o, line.index))) return leave(o);
  const first = !rows.rows.length;
  const under = o.roles[line.index - 1];
  const entry = n !== null || ENTRY_HEAD.test(t) || SEQUENCE.test(t) || GLUED.test(t) || BONUS.test(t) || told(line, field) !== null || t.startsWith('|');
  if (entry) return take(0, n ? 'A number with its key.' : 'An entry of the list of keys.');
  if (CHAT.test(t) || under?.role === 'aside') return o.aside(line, 'Nothing of the list of keys and no question.');
  const unnumbered = (first || !rows.numbered) && t.length < 60 && !/[?:]$/.test(t);
  if (unnumbered && (first || !o.blankBefore)) return take(0, 'A key in the order of the questions.');
  if (!o.blankBefore) return take(0, 'Goes on from the line above.');
  if (o.lines[line.index]?.bold && kindIn(t) && !keysUnder(o, line)) return leave(o);
  if (kindIn(t) && keysUnder(o, line)) {
    o.keyRows.push({ rows: [], numbered: false, heading: line.text, line: line.index });
    return o.say(line, 'key-list', 'key list', 'A heading inside the list of keys.');
  }
  if (optionsFollow(o, line.index) || (romanNumbered(t) && !o.habits.roman)) return leave(o);
  return o.aside(line, 'Nothing of the list of keys and no question.');
}

/** Whether keys stand under a heading inside a list, and not new questions. */
function keysUnder(o: Outliner, line: Line): boolean {
  const next = o.next(line.index);
  if (!next) return false;
  const t = next.text.trim();
  const n = told(next, numbered);
  if (optionsFollow(o, next.index)) return false;
  const value = n ? t.slice(n.at) : t;
  return value.length < 25 || GLUED.test(t) || SEQUENCE.test(t) || DENSE.test(t) || o.blocks.slice(0, 500).some((b) => b.number === n?.number);
}

function leave(o: Outliner): false {
  o.inKeys = false;
  return false;
}

export const keyLists: Construct = {
  name: 'list of keys',
  read(o, line) {
    if (heading(o, line)) return true;
    if (o.inKeys) return row(o, line);
    const few = !o.inKeys && o.blankBefore && o.blocks.length === 2 && told(line, dense2) && o.blocks.every((b) => !b.keys.length);
    if ((few || (told(line, dense) && o.blocks.length >= 3)) && o.block && (o.blankBefore || o.complete(o.block)) && o.kindOf(o.block) !== 'matching') {
      begin(o, line, '');
      o.keyRows[o.keyRows.length - 1]?.rows.push({ line: line.index, at: 0 });
      return o.say(line, 'key-list', 'key list', 'Numbers with one letter each.');
    }
    return false;
  },
};
