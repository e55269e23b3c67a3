/** Fenced code: which lines are a fence, and which stand for themselves within one. A fence around questions only wraps them. */
import { memoised, type Line } from './lines.js';

const FENCE = /^\s*(```|~~~)/;
const LANGUAGE =
  /^\s*(?:python|javascript|js|java|c|cpp|c\+\+|csharp|c#|html|css|sql|bash|sh|shell|json|xml|text|plaintext|markdown|r|php|ruby|go|rust|kotlin|swift|typescript|ts)\s*$/i;
const BUTTON = /^\s*(?:copy(?: code)?|code kopieren|copiar(?: código)?|copier(?: le code)?|copia(?: codice)?|копировать(?: код)?)\s*$/i;
const LABEL = /^\s*(?:\*\*)?(?:\(?[a-hA-HА-Г]|\d{1,3}|Q\d+)[.):]\s/u;

const fenceLike = (t: string): boolean => FENCE.test(t);
const buttonLike = (t: string): boolean => t.length < 30 && BUTTON.test(t);
const labelLike = (t: string): boolean => LABEL.test(t);

/** Lines between fences of code, and those that stand in answers folded away. */
export interface Fences {
  /** Lines that only open, close or name a block. */
  marks: ReadonlySet<number>;
  /** Blocks of code by their first line: the last one. */
  blocks: ReadonlyMap<number, number>;
}

/** Finds fences (CommonMark 0.31, 4.5) and folded answers. */
export function fencesOf(lines: readonly Line[]): Fences {
  const marks = new Set<number>();
  const blocks = new Map<number, number>();
  for (let i = 0; i < lines.length; i++) {
    const line = lines[i] as Line;
    if (line.blank) continue;
    if (memoised(line, fenceLike)) {
      let end = i + 1;
      let labels = 0;
      while (end < lines.length && !memoised(lines[end] as Line, fenceLike)) {
        if (memoised(lines[end] as Line, labelLike)) labels++;
        end++;
      }
      marks.add(i);
      if (end < lines.length) marks.add(end);
      const before = lines.slice(Math.max(0, i - 30), i).some((l) => !l.blank && memoised(l, labelLike));
      if (labels < 3 && before && end > i + 1) blocks.set(i + 1, end - 1);
      if (labels < 3 && before) i = end;
      else if (labels >= 3 || !before) {
        // the fence wraps questions: its end comes by itself
        if (end < lines.length) continue;
      }
    } else if (memoised(line, buttonLike)) {
      marks.add(i);
      const named = lines[i - 1];
      if (named && LANGUAGE.test(named.text)) marks.add(i - 1);
      let end = i + 1;
      while (end < lines.length && !(lines[end] as Line).blank) end++;
      if (end > i + 1 && named && LANGUAGE.test(named.text)) blocks.set(i + 1, end - 1);
    }
  }
  return { marks, blocks };
}
