/** What became of every character of a draft: a field's words, a mark, or set aside. Nothing disappears in silence. */
import type { Line } from './lines.js';
import type { LineRole } from './outline.js';
import type { Placed } from './read.js';

export interface Span {
  from: number;
  to: number;
  /** A field of an item; 'mark' for labels, key marks, field names and notes; 'passage', 'part', 'key-list', 'aside' for whole lines; 'left over' for words that nothing took. */
  as: 'stem' | 'option' | 'pair' | 'step' | 'key' | 'feedback' | 'field' | 'mark' | 'passage' | 'part' | 'key-list' | 'aside' | 'left over';
}

/** So many letters in a row are no label and no mark; a note like "(2 points)" or "True or false:" is matched by words. */
const MARK_LETTERS = 44;

/** Spans over every character that is not blank, in order and without overlap. */
export function account(draft: string, lines: readonly Line[], roles: readonly LineRole[], built: readonly Placed[]): Span[] {
  const used: Span[] = [];
  for (const b of built) for (const u of b.used) used.push({ from: u.from + b.origin, to: u.to + b.origin, as: u.as });
  used.sort((a, b) => a.from - b.from || a.to - b.to);
  const out: Span[] = [];
  let next = 0;
  for (const line of lines) {
    if (line.to === line.from) continue;
    const role = roles[line.index]?.role;
    while (next < used.length && (used[next] as Span).to <= line.from) next++;
    if (role === 'aside' || role === 'part' || role === 'passage' || role === 'key-list') {
      // an instruction can be an aside and yet be the words of a question
      out.push({ from: line.from, to: line.to, as: role });
      while (next < used.length && (used[next] as Span).from < line.to) next++;
      continue;
    }
    let at = line.from;
    while (next < used.length && (used[next] as Span).from < line.to) {
      const u = used[next] as Span;
      if (u.from > at) rest(draft, at, u.from, out);
      const from = Math.max(u.from, at);
      if (u.to > from) out.push({ from, to: u.to, as: u.as });
      at = Math.max(at, u.to);
      next++;
    }
    if (line.to > at) rest(draft, at, line.to, out);
  }
  return out;
}

function rest(draft: string, from: number, to: number, out: Span[]): void {
  const text = draft.slice(from, to);
  if (!text.trim()) return;
  const letters = text.match(/[\p{L}\p{N}]/gu)?.length ?? 0;
  out.push({ from, to, as: letters > MARK_LETTERS ? 'left over' : 'mark' });
}
