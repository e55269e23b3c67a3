/** What sets one option apart from the others in question after question is the mark of the keys, whatever it is: a sign or a word behind, capitals, the first place where the draft says so. */
import { stretchOf, type Line } from '../surface/lines.js';
import { keyLooks } from '../surface/stretch.js';
import type { Block, Entry, Piece } from '../model/outline.js';
import { CAPITALS_ARE_RIGHT, FIRST_IS_RIGHT } from '../../language/words.js';

/** In so many of the questions exactly one option must have the mark. */
const NEARLY_ALL = 0.8;
/** So many questions must agree; one less where a line of the draft says what the mark means. */
const ENOUGH = 3;

interface Mark {
  /** What the mark is called, to compare it with that of other questions. */
  name: string;
  /** Where it starts in the option's last piece; the option's words end there. */
  at?: number;
  /** The mark was taken for a note on the option. */
  note?: true;
  /** Characters that stand around the words of an option of one piece, on either side. */
  around?: number;
}
/** An option with its mark. */
interface Marked {
  block: Block;
  entry: Entry;
  mark: Mark;
}

const SIGN = '[✓✔✅☑★☆⭐◄◀⬅←⇐👈●◆♦#+!^§°~¤=<>|/–—-]';
/** Signs that point at what stands in front of them: more than one option may have them. */
const POINTS_AT = /^behind (?:[◄◀⬅←⇐👈]{1,2}|<[<=-]{0,2})$/u;
/** A sign, or a word or two behind a sign or in brackets, at the end of an option: "◄ correct", "(this one)", "- si". */
const TAIL = new RegExp(`\\s*(?:(${SIGN}{1,2})|(?:(?<=\\s)(?:${SIGN}|<[-=]+|<<|[-–—]{1,2}>)\\s*|[([{])(\\p{L}[\\p{L} ]{0,18}?)\\s*[)\\]}!.]?)\\s*$`, 'u');
/** Signs around all of an option's words: "[butter]", "=butter=", "~~butter~~". Quote signs only quote. */
const AROUND = /^\s*(?:(\[)[^[\]]+\]|(\()[^()]+\)|(\{)[^{}]+\}|(<)[^<>]+>|(~~|==|=|\+|#|\||\/|–|-)(?=\S)[^\n]+?(?<=\S)\5)\s*$/u;
/** "[BEST]" behind an option could be a note on it: one of a word or two. */
const LONGEST_NOTE = 16;
/** What is struck out is wrong. */
const STRUCK = '~~';
/** The letter in front of an option's words, and what stands around it. */
const LABEL = /(?:^|\s)([([{<]?)(\p{L})([)\]}>.:]{0,2})\s*$/u;
const capitals = (t: string): boolean => {
  const letters = t.replace(/[^\p{L}]/gu, '');
  return letters.length >= 4 && t === t.toUpperCase() && t !== t.toLowerCase();
};

/** The sign that stands in front of the words and, as it is or the other way round, behind them. */
const aroundOf = (text: string): string | undefined => {
  const m = text.length < 200 ? AROUND.exec(text) : null;
  return m?.slice(1).find(Boolean);
};
/** Takes what stands around an option's words off them. */
function bare(e: Entry, lines: readonly Line[], signs: number): void {
  const [p] = e.pieces;
  if (!p) return;
  const text = lines[p.line]?.text.slice(p.from, p.to) ?? '';
  const lead = text.length - text.trimStart().length;
  p.to = p.from + text.trimEnd().length - signs;
  p.from += lead + signs;
}

function marksOf(e: Entry, lines: readonly Line[]): Mark[] {
  const last = e.pieces[e.pieces.length - 1];
  if (!last) return [];
  const text = lines[last.line]?.text.slice(last.from, last.to) ?? '';
  const out: Mark[] = [];
  const first = e.pieces[0];
  const front = first ? /^\s*([^\p{L}\p{N}\s([{"“'«¿¡])/u.exec(lines[first.line]?.text.slice(0, first.from) ?? '')?.[1] : undefined;
  if (front) out.push({ name: `front ${front}` });
  const label = first ? LABEL.exec(lines[first.line]?.text.slice(Math.max(0, first.from - 40), first.from) ?? '') : null;
  if (label?.[2]) {
    const [, open = '', letter, close = ''] = label;
    out.push({ name: `label ${open}${close}` });
    if (letter !== letter.toLowerCase()) out.push({ name: 'label capital' });
    else if (letter !== letter.toUpperCase()) out.push({ name: 'label small' });
  }
  const around = e.pieces.length === 1 ? aroundOf(text) : undefined;
  if (around) out.push({ name: `around ${around}`, around: around.length });
  const tail = around ? null : TAIL.exec(text.slice(-60));
  if (tail && tail[0].length < text.length)
    out.push({ name: `behind ${(tail[1] ?? tail[2] ?? '').toLowerCase()}`, at: Math.max(0, text.length - 60) + tail.index });
  const note = e.feedback
    .map((p) => lines[p.line]?.text.slice(p.from, p.to) ?? '')
    .join(' ')
    .trim();
  if (note && note.length <= LONGEST_NOTE) out.push({ name: `behind ${note.toLowerCase()}`, note: true });
  if (capitals(e.pieces.map((p) => lines[p.line]?.text.slice(p.from, p.to) ?? '').join(' '))) out.push({ name: 'capitals' });
  return out;
}

const bulletOf = (e: Entry, lines: readonly Line[]): string => {
  const first = e.pieces[0];
  return (first && /^\s*([+–-])\s/u.exec(lines[first.line]?.text.slice(0, first.from) ?? '')?.[1]) ?? '';
};
/** Plus and minus in front of the options of all questions: plus marks the keys, one or several. */
function plusMarks(open: readonly Block[], lines: readonly Line[]): boolean {
  const signed = open.filter((b) => {
    const fronts = b.entries.map((e) => bulletOf(e, lines));
    return fronts.every(Boolean) && fronts.includes('+') && fronts.some((f) => f !== '+');
  });
  if (signed.length < 2 || signed.length < open.length * NEARLY_ALL) return false;
  for (const b of signed) for (const e of b.entries) if (bulletOf(e, lines) === '+') e.marked = true;
  return true;
}

/** All but one of the options struck out, in all of the questions: what is left is the key. */
function struckOut(open: readonly Block[], lines: readonly Line[]): boolean {
  const struck = (e: Entry): boolean =>
    e.pieces.length === 1 && aroundOf(lines[e.pieces[0]?.line ?? 0]?.text.slice(e.pieces[0]?.from, e.pieces[0]?.to) ?? '') === STRUCK;
  const signed = open.filter((b) => b.entries.filter((e) => !struck(e)).length === 1);
  if (!signed.length || signed.length < open.length * NEARLY_ALL) return false;
  for (const b of signed)
    for (const e of b.entries)
      if (struck(e)) bare(e, lines, STRUCK.length);
      else e.marked = true;
  return true;
}

/** Whether bold or other looks set one option apart in nearly all questions. */
const lookedApart = (open: readonly Block[], lines: readonly Line[]): boolean =>
  Object.values(keyLooks).some((look) => {
    const has = (e: Entry): boolean => e.pieces.every((p) => lines[p.line] && stretchOf(lines[p.line] as Line, p.from, p.to, 0).look & look);
    return open.filter((b) => b.entries.filter(has).length === 1).length >= open.length * NEARLY_ALL;
  });

/** Marks the keys of questions with options that have none, where one mark sets an option apart in nearly all of them. */
export function oddOnes(blocks: readonly Block[], lines: readonly Line[], listed: boolean): void {
  const choices = blocks.filter((b) => b.entries.length > 1 && b.kind === undefined && b.asks === undefined && !b.fields.some((f) => f.name === 'kind'));
  const open = choices.filter((b) => !b.keys.length && !b.entries.some((e) => e.marked));
  if (!open.length || open.length < choices.length * NEARLY_ALL) return;
  const said = lines.filter((l) => !l.blank && l.text.length < 240);
  if (said.some((l) => FIRST_IS_RIGHT.test(l.text))) {
    for (const b of open) if (b.entries[0]) b.entries[0].marked = true;
    return;
  }
  if (plusMarks(open, lines) || struckOut(open, lines)) return;
  const uses = new Map<string, Marked[][]>();
  for (const block of open) {
    const own = new Map<string, Marked[]>();
    for (const entry of block.entries) for (const mark of marksOf(entry, lines)) own.set(mark.name, [...(own.get(mark.name) ?? []), { block, entry, mark }]);
    for (const [name, marked] of own) if (marked.length < block.entries.length) uses.set(name, [...(uses.get(name) ?? []), marked]);
  }
  for (const [name, all] of uses) {
    const points = POINTS_AT.test(name);
    const told =
      name === 'capitals' || name === 'label capital'
        ? said.some((l) => CAPITALS_ARE_RIGHT.test(l.text))
        : points || name === 'front +' || name === 'around [' || name === 'around =' || name.length > 'behind xx'.length;
    // where a list or a look says the keys, labels only slip
    if (name.startsWith('label') && (listed || lookedApart(open, lines))) continue;
    // of two bullets one is odd only where there are more options with the other
    if (/^(?:front|label)/.test(name) && all.some(([u]) => (u?.block.entries.length ?? 0) < 3)) continue;
    const severalToo = points && all.some((marked) => marked.length === 1);
    if ((!severalToo && all.some((marked) => marked.length > 1)) || all.length < ENOUGH - (told ? 1 : 0) || all.length < open.length * NEARLY_ALL) continue;
    for (const { entry, mark } of all.flat()) {
      entry.marked = true;
      const last = entry.pieces[entry.pieces.length - 1] as Piece;
      if (mark.note) entry.feedback.length = 0;
      else if (mark.around) bare(entry, lines, mark.around);
      else if (mark.at !== undefined) last.to = last.from + mark.at;
    }
    return;
  }
}
