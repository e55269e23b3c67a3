/** What became of every character of a draft: a field's words, a mark, or set aside. Nothing disappears in silence. */
import type { Line } from '../surface/lines.js';
import type { Used } from '../items/itemBuilder.js';
import type { LineRole } from '../model/outline.js';

/** A stretch of the draft and what became of it; offsets in UTF-16 units. */
export interface Span {
  from: number;
  to: number;
  /** A field of an item; 'mark' for labels, key marks, field names and notes; 'passage', 'part', 'key-list', 'aside' for whole lines; 'left over' for words that nothing took. */
  as: Used['as'] | 'mark' | 'passage' | 'part' | 'key-list' | 'aside' | 'left over';
}

/** So many letters in a row are no label and no mark; a note like "(2 points)" or "True or false:" is shorter. */
const MARK_LETTERS = 44;

const WHOLE: ReadonlySet<string> = new Set(['aside', 'part', 'passage', 'key-list']);

/**
 * Spans over every character of some lines that is not blank, in order and without overlap.
 * @param used what went into fields, counted from `origin`
 * @returns offsets counted from `origin`
 */
export function account(draft: string, lines: readonly Line[], roles: readonly LineRole[], used: readonly Used[], origin: number): Span[] {
  const sorted = [...used].sort((a, b) => a.from - b.from || a.to - b.to);
  const out: Span[] = [];
  let next = 0;
  for (const line of lines) {
    const [start, end] = [line.from - origin, line.to - origin];
    if (end === start) continue;
    const role = roles[line.index]?.role ?? 'blank';
    while (next < sorted.length && (sorted[next] as Used).to <= start) next++;
    if (WHOLE.has(role)) {
      out.push({ from: start, to: end, as: role as Span['as'] });
      while (next < sorted.length && (sorted[next] as Used).from < end) next++;
      continue;
    }
    let at = start;
    while (next < sorted.length && (sorted[next] as Used).from < end) {
      const u = sorted[next] as Used;
      if (u.from > at) rest(draft, at, u.from, origin, out);
      const from = Math.max(u.from, at);
      if (u.to > from) out.push({ from, to: u.to, as: u.as });
      at = Math.max(at, u.to);
      next++;
    }
    if (end > at) rest(draft, at, end, origin, out);
  }
  return out;
}

function rest(draft: string, from: number, to: number, origin: number, out: Span[]): void {
  if (to - from <= MARK_LETTERS) {
    if (draft.slice(from + origin, to + origin).trim()) out.push({ from, to, as: 'mark' });
    return;
  }
  const text = draft.slice(from + origin, to + origin);
  if (!text.trim()) return;
  const letters = text.match(/[\p{L}\p{N}]/gu)?.length ?? 0;
  out.push({ from, to, as: letters > MARK_LETTERS ? 'left over' : 'mark' });
}
