/** Questions and options without any label, by how lines are grouped: blank lines, indent, and sizes that come again. */
import { keyTail } from '../signatures/keyWords.js';
import type { Unit } from '../signatures/unit.js';
import { memoised } from '../surface/lines.js';
import { W } from '../model/weights.js';

/** What the grouping of lines by blank lines says: groups of one shape that come again are questions with their options. */
export interface Groups {
  /** For each line with text: how much the grouping makes it a question, and how much an option. */
  asks: Float32Array;
  options: Float32Array;
}

interface Paragraph {
  from: number;
  /** Behind its last line that is neither a key nor a field. */
  to: number;
  end: number;
}

const bare = (u: Unit): boolean =>
  !u.facts.furniture &&
  !u.facts.labels.some((l) => l.form !== 'loose' && l.cls !== 'turn') &&
  !u.facts.front.bullet &&
  (!u.facts.front.box || u.facts.front.box === 'x' || u.facts.front.box === '✓' || u.facts.front.box === '*w');
const closing = (u: Unit): boolean => u.facts.keyAt !== null || u.facts.field !== null;
const stemLike = (u: Unit): boolean => u.facts.asks || u.facts.colon || u.facts.gap || /…\s*$/.test(u.facts.trimmed);
const short = (u: Unit): boolean => u.facts.length < 100 && !u.facts.asks;

/** "1. Bread rises because of / yeast* / sugar / salt": numbered paragraphs of one size with one marked line each below the first, again and again. */
function markedGroups(units: readonly Unit[], paragraphs: readonly Paragraph[]): Paragraph[] {
  const found = paragraphs.filter((p) => {
    const lines = units.slice(p.from + 1, p.to);
    const number = units[p.from]?.facts.labels.some((l) => l.cls === 'num' && l.form !== 'loose');
    return (
      number &&
      lines.length >= 2 &&
      lines.length <= 8 &&
      lines.every((u) => bare(u) && short(u)) &&
      lines.filter((u) => memoised(u.line, keyTail) > 0).length === 1
    );
  });
  const sizes = new Set(found.map((p) => p.to - p.from));
  return found.length >= HABIT && sizes.size <= 2 ? found : [];
}

/** So many groups of one shape make a habit. */
const HABIT = 3;

/** What the groups of a draft say of each of its lines with text; 0 where they say nothing. */
export function groupsOf(units: readonly Unit[]): Groups {
  const asks = new Float32Array(units.length);
  const options = new Float32Array(units.length);
  // in a draft that numbers its questions, groups without a number are more likely something else
  const numbered = units.filter((u) => u.facts.number && u.facts.number.form !== 'loose' && u.facts.words > 2).length;
  const mark = (stem: readonly number[], from: number, to: number): void => {
    const [first] = stem;
    const labelled = first !== undefined && (units[first] as Unit).facts.labels.some((l) => l.form !== 'loose');
    const scale = !labelled && numbered >= HABIT ? 0.3 : 1;
    if (first !== undefined && !labelled) asks[first] = Math.max(asks[first] ?? 0, W.groupAsks * scale);
    for (let i = from; i < to; i++) options[i] = Math.max(options[i] ?? 0, W.groupOption * scale);
  };
  const paragraphs: Paragraph[] = [];
  units.forEach((u, i) => {
    if (i === 0 || u.gap > 0) paragraphs.push({ from: i, to: i + 1, end: i + 1 });
    else (paragraphs[paragraphs.length - 1] as Paragraph).end = i + 1;
  });
  for (const p of paragraphs) {
    p.to = p.end;
    for (let i = p.from; i < p.end; i++)
      if (closing(units[i] as Unit) && i > p.from) {
        p.to = i;
        break;
      }
  }
  const allBare = (p: Paragraph): boolean => {
    for (let i = p.from; i < p.to; i++) if (!bare(units[i] as Unit)) return false;
    return true;
  };
  const size = (p: Paragraph): number => p.to - p.from;
  // the question and its options in one paragraph
  const whole: { p: Paragraph; stem: number }[] = [];
  let candidates = 0;
  for (const p of paragraphs) {
    if (!allBare(p) || size(p) < 2) continue;
    candidates++;
    let stem = 1;
    while (stem < 3 && stem < size(p) - 2 && !stemLike(units[p.from + stem - 1] as Unit) && stemLike(units[p.from + stem] as Unit)) stem++;
    const n = size(p) - stem;
    const first = units[p.from + stem - 1] as Unit;
    if (n < 2 || n > 8 || (n === 2 && !stemLike(first))) continue;
    let ok = true;
    for (let i = p.from + stem; i < p.to; i++) if (!short(units[i] as Unit)) ok = false;
    if (ok && (stemLike(first) || p.to < p.end || first.facts.length > 20)) whole.push({ p, stem });
  }
  for (const p of markedGroups(units, paragraphs)) mark([p.from], p.from + 1, p.to);
  const sizes = new Map<number, number>();
  for (const { p, stem } of whole) sizes.set(size(p) - stem, (sizes.get(size(p) - stem) ?? 0) + 1);
  const common = Math.max(0, ...sizes.values());
  const asking = whole.filter(({ p, stem }) => stemLike(units[p.from + stem - 1] as Unit)).length;
  if (whole.length >= HABIT && whole.length >= candidates * 0.5 && (common >= whole.length * 0.5 || asking >= whole.length * 0.6))
    for (const { p, stem } of whole)
      mark(
        Array.from({ length: stem }, (_, i) => p.from + i),
        p.from + stem,
        p.to,
      );
  // the question in one paragraph, its options in the next
  const pairs: [Paragraph, Paragraph][] = [];
  for (let k = 0; k + 1 < paragraphs.length; k++) {
    const [p, q] = [paragraphs[k] as Paragraph, paragraphs[k + 1] as Paragraph];
    const head = units[p.to - 1] as Unit;
    if (size(p) > 3 || p.to < p.end || size(q) < 2 || size(q) > 8 || !allBare(q) || units[p.from]?.facts.furniture) continue;
    const labelled = (units[p.from] as Unit).facts.labels.some((l) => l.form !== 'loose');
    let ok = true;
    for (let i = q.from; i < q.to; i++) if (!short(units[i] as Unit) || (units[i] as Unit).facts.length > Math.max(90, head.facts.length * 2)) ok = false;
    if (!ok || (!stemLike(head) && !labelled && head.facts.length < 12)) continue;
    pairs.push([p, q]);
    k++;
  }
  if (pairs.length >= HABIT) for (const [p, q] of pairs) mark([p.from], q.from, q.to);
  // options set in deeper than their question
  const deeper: [number, number, number][] = [];
  for (let i = 0; i + 2 < units.length; i++) {
    const head = units[i] as Unit;
    let j = i + 1;
    const textAt = (u: Unit): number => (u.facts.front.box === 'x' ? u.facts.front.at : u.facts.start);
    const column = textAt(units[j] as Unit);
    if (column <= head.facts.start + 1) continue;
    while (
      j < units.length &&
      bare(units[j] as Unit) &&
      short(units[j] as Unit) &&
      !closing(units[j] as Unit) &&
      Math.abs(textAt(units[j] as Unit) - column) <= 1 &&
      (j === i + 1 || (units[j] as Unit).gap === 0)
    )
      j++;
    const n = j - i - 1;
    if (n >= 2 && n <= 8 && !head.facts.furniture && head.facts.length > 8) {
      deeper.push([i, i + 1, j]);
      i = j - 1;
    }
  }
  // two are enough where each has one line that is marked
  const told = deeper.filter(([, from, to]) => units.slice(from, to).filter((u) => memoised(u.line, keyTail) > 0).length === 1);
  for (const [head, from, to] of deeper.length >= HABIT ? deeper : told.length >= 2 ? told : []) mark([head], from, to);
  // a list of two levels: each point of the outer one is a question, those below it its options
  const outer: [number, number, number][] = [];
  for (let i = 0; i + 2 < units.length; i++) {
    const head = units[i] as Unit;
    if (!head.facts.front.bullet || head.facts.front.box) continue;
    let j = i + 1;
    while (j < units.length && (units[j] as Unit).facts.front.bullet && (units[j] as Unit).line.indent > head.line.indent + 1) j++;
    if (j - i - 1 >= 2) {
      outer.push([i, i + 1, j]);
      i = j - 1;
    }
  }
  if (outer.length >= 2)
    for (const [head, from, to] of outer) {
      asks[head] = W.outerBullet;
      for (let i = from; i < to; i++) options[i] = Math.max(options[i] ?? 0, W.groupOption);
    }
  return { asks, options };
}
