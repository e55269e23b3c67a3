/** The key behind a question: "Answer: B", and "Answer:" alone over the line that holds it. */
import { field } from '../fields.js';
import { numbered, pattern } from '../labels.js';
import { keyLine } from '../keys.js';
import { told, type Line } from '../lines.js';
import type { Outliner } from '../outline.js';
import { ANSWER, POINTS } from '../words.js';
import type { Construct } from './construct.js';

/** A key in the few characters that the margin has: its letter where it starts with one. */
export const short = (s: string): string => /^\(?([A-Za-zА-Яа-я])[).:,](?:\s|$)/u.exec(s)?.[1]?.toUpperCase() ?? (s.length > 9 ? `${s.slice(0, 8)}…` : s);

/** Codes of old test banks that stand behind a key on its line: "ANS: B   PTS: 1   DIF: Easy". */
const BANK_FIELD = /^(?:PTS|DIF|REF|OBJ|TOP|KEY|STA|NAT|LOC|MSC|BLM|NOT|FBK)\s*:\s*/i;
const POINTS_FIELD = pattern(`^(?:${POINTS})\\s*:\\s*`);

export function addKey(o: Outliner, line: Line, at: number, reason: string): true {
  const b = o.block;
  if (!b) return o.aside(line, 'A key with no question before it.');
  let to = line.text.length;
  if (/^\s*[([]/.test(line.text) && /[)\]]\s*$/.test(line.text)) to = line.text.search(/[)\]]\s*$/);
  const cells = /\t|\s{3,}|\s(?:PTS|DIF|REF|OBJ)\s*:/.test(line.text) ? cellsOf(line.text, at, to) : [{ from: at, to }];
  const [value, ...rest] = cells;
  for (const c of rest) {
    const t = line.text.slice(c.from, c.to);
    const f = POINTS_FIELD.exec(t) ?? /^PTS\s*:\s*/i.exec(t);
    const named = field(t);
    if (f) b.fields.push({ name: 'points', line: line.index, pieces: [o.piece(line, c.from + f[0].length, c.to)] });
    else if (/^DIF\s*:/i.test(t))
      b.fields.push({ name: 'difficulty', line: line.index, pieces: [o.piece(line, c.from + (BANK_FIELD.exec(t)?.[0].length ?? 0), c.to)] });
    else if (named && !BANK_FIELD.test(t)) b.fields.push({ name: named.name, line: line.index, pieces: [o.piece(line, c.from + named.at, c.to)] });
  }
  const text = line.text.slice(value?.from ?? at, value?.to ?? to).trim();
  o.waiting = !text;
  b.keys.push({ line: line.index, pieces: text ? [o.piece(line, value?.from ?? at, value?.to ?? to)] : [], feedback: [] });
  return o.say(line, 'key', `key ${short(text)}`.trim(), reason);
}

/** The cells of a key line: its value, and what stands behind tabs or wide space and names a field. */
function cellsOf(text: string, at: number, to: number): { from: number; to: number }[] {
  const out = [{ from: at, to }];
  for (const m of text.slice(0, to).matchAll(/(?:\t+|\s{3,})(?=\p{L}{2,12}\s*:)|\s+(?=(?:PTS|DIF|REF|OBJ)\s*:)/gu)) {
    if (m.index < at) continue;
    const last = out[out.length - 1];
    if (last) last.to = m.index;
    out.push({ from: m.index + m[0].length, to });
  }
  return out;
}

/** "The correct answer is b)". */
const SENTENCE = pattern(`^\\s*(?:the\\s+|la\\s+|le\\s+|die\\s+)?(?:${ANSWER})\\s+(?:is|are|es|ist|est|è|é|jest|to)\\s*:?\\s+(?=\\S)`);
const keySentence = (t: string): number | null => SENTENCE.exec(t)?.[0].length ?? null;

export const keyLines: Construct = {
  name: 'key line',
  read(o, line) {
    if (!o.block) return false;
    const said = o.block.entries.length > 0 && line.text.length < 120 ? told(line, keySentence) : null;
    const at = said ?? told(line, keyLine) ?? (o.habits.talk ? (/^\s*A\s?:\s+/.exec(line.text)?.[0].length ?? null) : null);
    return at !== null && addKey(o, line, at, 'Starts with a word for “answer”.');
  },
};

export const awaitedKeys: Construct = {
  name: 'key on its own line',
  read(o, line) {
    if (!o.waiting) return false;
    o.waiting = false;
    const key = o.block?.keys[o.block.keys.length - 1];
    if (!key || (told(line, numbered) && !/^\s*\d+(?:[.,]\d+)?\s*\S{0,12}\s*$/.test(line.text)) || told(line, field)) return false;
    key.line = line.index;
    key.pieces = [o.piece(line, line.text.length - line.text.trimStart().length)];
    return o.say(line, 'key', `key ${short(line.text.trim())}`, 'Stands under “Answer”.');
  },
};
