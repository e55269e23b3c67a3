/** Stretches that could be lists of keys, by how well their entries find questions: whatever their heading says. */
import { keyness, type KnownTexts, lettersIn } from '../signatures/entries.js';
import type { Unit } from '../signatures/unit.js';

interface Region {
  from: number;
  to: number;
  numbers: number[];
  keyness: number;
  entries: number;
}

const questionLike = (units: readonly Unit[], i: number): boolean => {
  const u = units[i] as Unit;
  const f = u.facts;
  if (f.asks || f.gap || f.words >= 5) return true;
  const next = units[i + 1];
  return next !== undefined && (next.facts.labels.some((l) => l.ord === 1 && l.cls !== 'num') || next.facts.front.bullet !== '' || next.facts.asks);
};

/** For each line with text: how surely it lies in such a list, and how surely it heads one. */
export function listRegions(units: readonly Unit[], known: KnownTexts): { inList: Float32Array; heads: Float32Array } {
  const inList = new Float32Array(units.length);
  const heads = new Float32Array(units.length);
  const numbersAt = (i: number): number[] => {
    const l = units[i]?.facts.labels.find((x) => (x.cls === 'num' || x.cls === 'word') && x.form !== 'loose');
    return l ? [l.ord] : [];
  };
  const regions: Region[] = [];
  for (let i = 0; i < units.length; i++) {
    const r = regionAt(units, i, known);
    if (!r) continue;
    regions.push(r);
    i = r.to - 1;
  }
  // options numbered anew under each question are no lists of keys
  const bySize = new Map<number, number>();
  for (const r of regions) bySize.set(r.entries, (bySize.get(r.entries) ?? 0) + 1);
  let scopeFrom = 0;
  const all = new Map<number, number>();
  let next = 0;
  for (const r of regions) {
    const scope = new Set<number>();
    for (let i = Math.max(next, scopeFrom); i < r.from; i++) for (const n of numbersAt(i)) if (questionLike(units, i)) all.set(n, (all.get(n) ?? 0) + 1);
    for (let i = scopeFrom; i < r.from; i++) for (const n of numbersAt(i)) if (questionLike(units, i)) scope.add(n);
    next = r.from;
    const own = new Set(r.numbers);
    const of = (known: { has(n: number): boolean; size: number }): { resolve: number; cover: number } => {
      const found = [...own].filter((n) => known.has(n)).length;
      return { resolve: found / Math.max(1, own.size), cover: found / Math.max(1, known.size) };
    };
    const near = of(scope);
    const far = of(all);
    const best = [near, far].map((x) => ({ ...x, fits: x.resolve >= 0.75 && x.cover >= 0.45 })).find((x) => x.fits);
    const crowd = (bySize.get(r.entries) ?? 0) >= 3 && r.entries <= 6;
    const shape = r.keyness / Math.max(1, r.entries);
    if (!best || crowd || shape < 0.2 || own.size < 2 || own.size > Math.max(scope.size, all.size) * 1.3 + 1) continue;
    const strength = Math.min(4, best.resolve * 1.2 + best.cover * 0.8 + Math.max(0, shape) + Math.min(1, own.size / 6));
    for (let i = r.from; i < r.to; i++) inList[i] = i === r.from ? strength : Math.min(1, strength * 0.3);
    if (r.from > 0) heads[r.from - 1] = strength * 0.9;
    scopeFrom = r.to;
  }
  return { inList, heads };
}

/** Entries from a line on, whose numbers rise or start anew; reasons and headings of parts may stand between. */
function regionAt(units: readonly Unit[], start: number, known: KnownTexts): Region | null {
  const first = units[start] as Unit;
  const opening = first.facts.entries;
  if (first.facts.bothSides && units[start + 1]?.facts.bothSides) return null;
  if (!opening.length || first.facts.furniture || first.facts.asks || (first.facts.gap && opening.length < 2)) return null;
  if (keyness(opening, known) / opening.length < 0.35) return null;
  if (start > 0 && /^(?:ordering|matching)$/.test(units[start - 1]?.facts.kind ?? '')) return null;
  const over = start > 0 && first.gap === 0 ? units[start - 1] : undefined;
  if (over && over.facts.number && over.facts.number.form !== 'loose' && !over.facts.entries.some((e) => e.value.length < 12)) return null;
  const form = first.facts.labels.find((l) => l.cls === 'num' || l.cls === 'word')?.form;
  if (opening.some((e) => /[([]\s{2,}[)\]]|_{3,}/.test(e.value))) return null;
  const out: Region = { from: start, to: start + 1, numbers: [], keyness: 0, entries: 0 };
  let last = 0;
  let misses = 0;
  for (let i = start; i < units.length; i++) {
    const u = units[i] as Unit;
    const f = u.facts;
    if (f.furniture) continue;
    const entries = f.entries;
    const [e] = entries;
    if (
      e &&
      !f.asks &&
      keyness(entries, known) / entries.length > -0.5 &&
      (e.number === last + 1 || e.number > last || e.number === 1 || e.sub !== '' || e.kind === 'bonus')
    ) {
      // labelled words that go on to a question are one: options follow
      const after = units[i + 1];
      if (
        after &&
        after.facts.labels.some((l) => l.ord === 1 && (l.cls === 'low' || l.cls === 'up') && l.form !== 'loose') &&
        !after.facts.entries.length &&
        f.words > 3
      )
        break;
      if (e.number > last + 8 && last > 0 && e.kind !== 'dec') break;
      // "1 minute", "3 minutes", "10 minutes": amounts, and no numbers of questions
      if (entries.length === 1 && e.sign === '' && e.kind === 'num' && i > start && !e.sub && e.number !== last + 1 && e.number !== 1) break;
      const own = f.labels.find((l) => l.cls === 'num' || l.cls === 'word')?.form;
      if (form && own && own !== form && entries.length === 1) break;
      if (i > start && e.number === 1 && out.entries < 2) break;
      if (i > start && f.words > 3 && form && own !== form && entries.length === 1) break;
      out.entries += entries.length;
      for (const x of entries) if (x.number > 0) for (let n = x.number; n <= Math.max(x.number, Math.min(x.until, x.number + 200)); n++) out.numbers.push(n);
      out.keyness += keyness(entries, known);
      const end = entries[entries.length - 1];
      last = Math.max(end?.until ?? 0, end?.number ?? 0);
      out.to = i + 1;
      misses = 0;
      continue;
    }
    if (f.asks || f.keyAt !== null || f.labels.some((l) => (l.cls === 'low' || l.cls === 'up') && l.form !== 'loose' && !f.part)) break;
    if (lettersIn(f.trimmed) >= 3) continue;
    misses++;
    if (misses > 2 || (f.length > 160 && out.entries < 2)) break;
  }
  return out.entries >= 2 ? out : null;
}
