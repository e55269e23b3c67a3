/** Puts items into a table by a writer's habits, with what the table means. Deterministic: the same habits and seed give the same table. */
import { numbersFrom } from '../../../item/shuffle.js';
import type { Row } from '../grid.js';
import type { TableSheet } from '../mapping.js';
import { type Heads, keyWords, languages, type Meant, pool, shorts, signs, starts, tails, titles, truths, truthWords } from './habits.js';

const names = <T extends object>(table: T): readonly (keyof T & string)[] => Object.keys(table) as (keyof T & string)[];

/** The layouts of tables; each takes items and a writer, and gives rows. */
export const layouts = [
  'columns',
  'marks beside',
  'marks in front',
  'marks behind',
  'right and foils',
  'foils and right',
  'one cell, bars',
  'one cell, lines',
  'one cell, letters',
  'option rows, blank',
  'option rows, again',
  'below, labels',
  'below, letters in front',
  'first is right',
  'right in a heading',
  'triples',
  'option rows, counted',
  'truth',
  'truth in two columns',
  'typed',
  'numbers, tolerance',
  'numbers, bounds',
  'gaps',
  'steps',
  'pairs in rows',
  'mixed',
] as const;

const dimensions = {
  layout: layouts,
  heads: names(languages),
  headed: ['yes', 'yes', 'yes', 'two rows', 'no'],
  key: names(keyWords),
  sign: names(signs),
  truth: names(truthWords),
  title: names(titles),
  tail: names(tails),
  start: names(starts),
  number: ['none', 'figures', 'codes', 'labels'],
  points: ['none', 'same', 'some'],
  why: ['none', 'all', 'some'],
  more: ['none', 'time', 'tag', 'author and date', 'time and tag'],
  keyPlace: ['behind', 'before the options'],
  parts: ['none', 'rows between'],
  /** Reasons of options in the rows of options. */
  reasons: ['none', 'of options'],
  kinds: ['none', 'in words', 'in codes'],
} as const;
export type TableDimension = keyof typeof dimensions;
/** One habit of each dimension. */
export type TableHabits = Record<TableDimension, string>;

/** What an item of the table means, as the scorer compares it. */
interface GoldItem {
  kind: string;
  stem: string;
  options?: readonly string[];
  key?: unknown;
  pairs?: readonly (readonly string[])[];
  extra?: readonly string[];
  sequence?: readonly string[];
  optionFeedback?: readonly (string | null)[];
  points?: number;
  feedback?: string;
}
export interface GeneratedTable {
  habits: TableHabits;
  sheet: TableSheet;
  gold: { items: GoldItem[]; diagnostics: string[] };
}

const pick = <T>(all: readonly T[], chance: () => number): T => all[Math.floor(chance() * all.length)] as T;
const shuffled = <T>(all: readonly T[], chance: () => number): T[] => {
  const out = [...all];
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(chance() * (i + 1));
    [out[i], out[j]] = [out[j] as T, out[i] as T];
  }
  return out;
};

/** Whether habits go together: what nobody could tell is left out. */
export function possible(h: TableHabits): boolean {
  const choice = /^(?:columns|one cell|mixed)/.test(h.layout);
  const rowsJoined = /^(?:option rows|below|pairs)/.test(h.layout);
  if (h.headed === 'no') {
    // without headings only what the cells themselves tell
    if (/right and foils|foils and right|first is right|right in a heading|triples|counted|bounds|tolerance|gaps|steps|pairs|two columns|below/.test(h.layout))
      return false;
    if (h.keyPlace !== 'behind' || h.points !== 'none' || h.reasons !== 'none' || h.kinds !== 'none') return false;
    if (h.truth === '1 and 0' && h.layout === 'truth') return false;
    if (h.key === 'number from 0' || h.more !== 'none' || h.title !== 'none') return false;
    if (/shares/.test(h.sign) && /marks|option rows/.test(h.layout)) return false;
  }
  if (h.heads === 'Estonian') {
    if (
      /right and foils|foils and right|first is right|right in a heading|triples|counted|bounds|tolerance|gaps|steps|pairs|two columns|typed/.test(h.layout) ||
      h.reasons !== 'none' ||
      h.kinds !== 'none'
    )
      return false;
    if (h.key === 'number from 0' || h.points !== 'none' || /shares/.test(h.sign) || (h.layout === 'truth' && /1 and 0|letters/.test(h.truth))) return false;
  }
  // "Choice A (answer)" says nothing
  if (h.layout === 'right in a heading' && h.heads === 'English, other words') return false;
  if (h.headed === 'two rows' && !/^(?:columns|marks behind|right and foils|truth)/.test(h.layout)) return false;
  if (choice && h.layout !== 'columns' && h.layout !== 'mixed' && /number from 0/.test(h.key)) return false;
  if (rowsJoined && h.parts !== 'none') return false;
  if (h.layout.startsWith('below') && (h.number === 'none' || h.number === 'codes')) return false;
  if (h.tail === 'sum' && (h.points === 'none' || h.heads === 'Estonian')) return false;
  if (h.layout.startsWith('option rows') && h.reasons !== 'none' && h.why !== 'none') return false;
  if (h.layout.startsWith('option rows') && h.number === 'labels') return false;
  if (h.layout.startsWith('pairs') && h.number === 'none') return false;
  return true;
}

/** Random habits that go together. @param chance numbers between 0 and 1 */
export function someHabits(chance: () => number): TableHabits {
  for (;;) {
    const h = Object.fromEntries(
      (Object.keys(dimensions) as TableDimension[]).map((d) => [d, pick(dimensions[d] as readonly string[], chance)]),
    ) as TableHabits;
    if (possible(h)) return h;
  }
}

/** Habits that hold every pair of habits that go together at least once. */
export function pairwise(seed: number): TableHabits[] {
  const chance = numbersFrom(seed);
  const dims = Object.keys(dimensions) as TableDimension[];
  const covered = new Set<string>();
  const pairsOf = (h: TableHabits): string[] => dims.flatMap((a, i) => dims.slice(i + 1).map((b) => `${a}=${h[a]}&${b}=${h[b]}`));
  const out: TableHabits[] = [];
  for (let fruitless = 0; fruitless < 60; ) {
    let best: { h: TableHabits; fresh: number } | null = null;
    for (let k = 0; k < 12; k++) {
      const h = someHabits(chance);
      const fresh = pairsOf(h).filter((p) => !covered.has(p)).length;
      if (!best || fresh > best.fresh) best = { h, fresh };
    }
    if (!best?.fresh) {
      fruitless++;
      continue;
    }
    fruitless = best.fresh < 2 ? fruitless + 1 : 0;
    for (const p of pairsOf(best.h)) covered.add(p);
    out.push(best.h);
  }
  return out;
}

/** An item as rows of cells by the name of their column. */
type Cells = Record<string, string>;
interface Put {
  rows: Cells[];
  gold: GoldItem;
}

/** A table of a writer. @param seed which items, and where chance decides */
export function put(h: TableHabits, seed: number): GeneratedTable {
  const chance = numbersFrom(seed * 7919 + 13);
  const w = languages[h.heads] as Heads;
  const items = meantBy(h, chance);
  const many = Math.max(3, ...items.map((i) => i.options.length));
  const puts = items.map((m, n) => ({ ...putItem(h, w, m, n, chance), m }));
  const columns = columnsOf(
    h,
    w,
    many,
    puts.some((p) => p.rows.some((r) => r['o5'])),
  );
  const rows: Row[] = [];
  const gold: GoldItem[] = [];
  puts.forEach((p, n) => {
    if (h.parts === 'rows between' && n === Math.floor(puts.length / 2)) rows.push(['Part two']);
    const common: Cells = {};
    if (h.number === 'figures' || h.number === 'labels') common['no'] = h.number === 'labels' ? `${n + 1}.` : String(n + 1);
    if (h.number === 'codes') common['no'] = `KB-${String(n + 11).padStart(3, '0')}`;
    if (h.points !== 'none') common['points'] = h.points === 'same' ? '1' : String(1 + (n % 3));
    const why = h.why === 'all' || (h.why === 'some' && n % 2 === 0) ? p.m.reason : '';
    if (why && h.layout !== 'pairs in rows') common['why'] = why;
    if (/time/.test(h.more)) common['time'] = String(pick([20, 30, 60], chance));
    if (/tag/.test(h.more)) common['tag'] = pick(['bread', 'sauces', 'hygiene'], chance);
    if (/author/.test(h.more)) Object.assign(common, { author: pick(['M. Okoro', 'L. Brandt'], chance), date: `2026-0${1 + (n % 9)}-1${n % 10}` });
    if (h.kinds !== 'none') common['kind'] = kindWord(h, p.gold.kind);
    p.rows.forEach((r, i) => {
      const own = i === 0 || (h.layout === 'pairs in rows' && h.number !== 'none') ? { ...(i === 0 ? common : { no: common['no'] ?? '' }), ...r } : r;
      rows.push(columns.map((c) => own[c.name] ?? ''));
    });
    gold.push({ ...p.gold, ...(h.points === 'some' && { points: 1 + (n % 3) }), ...(why && common['why'] && { feedback: why }) });
  });
  if (h.tail === 'sum') {
    const all = gold.reduce((sum, g) => sum + (g.points ?? 1), 0);
    rows.push(
      [],
      columns.map((c) => (c.name === 'question' ? `${gold.length} questions` : c.name === 'points' ? String(all) : '')),
    );
  }
  const head = headRows(h, columns);
  const at = starts[h.start] ?? 0;
  const shift = (r: readonly string[]): Row => [...Array.from({ length: at }, () => ''), ...r];
  const all = [...(titles[h.title] ?? []), ...head, ...rows, ...(tails[h.tail] ?? [])].map(shift);
  return { habits: h, sheet: { name: '', rows: all }, gold: { items: gold, diagnostics: [] } };
}

function meantBy(h: TableHabits, chance: () => number): readonly Meant[] {
  // counting from nought can only be told where a nought is
  const nought = h.key === 'number from 0' ? [pool.find((m) => m.key === 0) as Meant] : [];
  const choices = [
    ...nought,
    ...shuffled(
      pool.filter((m) => !nought.includes(m)),
      chance,
    ),
  ].slice(0, 7);
  if (h.layout.startsWith('truth'))
    return shuffled([...truths, ...truths.map((t) => ({ ...t, stem: t.stem.replace(/\.$/, ' in a kitchen by the sea.') }))], chance);
  if (h.layout === 'typed') return shorts;
  if (h.layout === 'mixed') return shuffled([...choices.slice(0, 4), ...truths.slice(0, 2), ...shorts.slice(0, 2)], chance);
  return choices;
}

interface ColumnOut {
  name: string;
  head: string;
  group?: string;
}
function columnsOf(h: TableHabits, w: Heads, many: number, _five: boolean): ColumnOut[] {
  const letters = [...'ABCDEF'];
  const option = (i: number): ColumnOut => ({ name: `o${i}`, head: w.option ? `${w.option} ${letters[i]}` : (letters[i] ?? ''), group: w.options });
  const mark = (i: number): ColumnOut => ({ name: `m${i}`, head: h.headed === 'two rows' ? (letters[i] ?? '') : w.right, group: w.right });
  const key: ColumnOut = { name: 'key', head: w.key };
  const range = Array.from({ length: many }, (_, i) => i);
  const withKey = (middle: ColumnOut[]): ColumnOut[] => (h.keyPlace === 'behind' ? [...middle, key] : [key, ...middle]);
  const body = ((): ColumnOut[] => {
    switch (h.layout) {
      case 'columns':
      case 'mixed':
        return withKey(range.map(option));
      case 'marks beside':
        return range.flatMap((i) => [option(i), mark(i)]);
      case 'marks in front':
        return range.flatMap((i) => [mark(i), option(i)]);
      case 'marks behind':
        return [...range.map(option), ...range.map(mark)];
      case 'right and foils':
        return [{ name: 'right', head: w.right }, ...range.slice(1).map((i) => ({ name: `w${i}`, head: `${w.wrong} ${i}` }))];
      case 'foils and right':
        return [...range.slice(1).map((i) => ({ name: `w${i}`, head: `${w.wrong} ${i}` })), { name: 'right', head: w.right }];
      case 'one cell, bars':
      case 'one cell, lines':
      case 'one cell, letters':
        return withKey([{ name: 'options', head: w.options }]);
      case 'option rows, blank':
      case 'option rows, again':
        return [{ name: 'o0', head: w.option || 'Option' }, { name: 'm0', head: w.right }, ...(h.reasons === 'none' ? [] : [{ name: 'of', head: w.why }])];
      case 'below, labels':
      case 'below, letters in front':
        return [{ name: 'm0', head: w.right }];
      case 'first is right':
        return range.map(option);
      case 'right in a heading':
        return range.map((i) => ({ ...option(i), head: i === 0 ? `${option(0).head} (${w.right.toLowerCase()})` : option(i).head }));
      case 'triples':
        return range.flatMap((i) => [option(i), mark(i), { name: `f${i}`, head: `${w.why} ${letters[i]}` }]);
      case 'option rows, counted':
        return [
          { name: 'n0', head: 'option_no' },
          { name: 'o0', head: w.option || 'Option' },
          { name: 'm0', head: w.right },
        ];
      case 'truth':
        return [{ name: 'key', head: w.truth }];
      case 'truth in two columns':
        return [
          { name: 't', head: w.true },
          { name: 'f', head: w.false },
        ];
      case 'numbers, tolerance':
        return [key, { name: 'tolerance', head: w.tolerance }];
      case 'numbers, bounds':
        return [
          { name: 'from', head: w.from },
          { name: 'to', head: w.to },
        ];
      case 'gaps':
        return [0, 1].map((i) => ({ name: `g${i}`, head: `${w.gap} ${i + 1}` }));
      case 'steps':
        return range.map((i) => ({ name: `s${i}`, head: `${w.step} ${i + 1}` }));
      case 'pairs in rows':
        return [
          { name: 'l', head: w.left },
          { name: 'r', head: w.partner },
        ];
      default:
        return [key, { name: 'also', head: w.accepted }];
    }
  })();
  const kind: ColumnOut[] = h.kinds === 'none' ? [] : [{ name: 'kind', head: h.heads === 'German' ? 'Art' : h.heads === 'Spanish' ? 'Tipo' : 'Type' }];
  const number: ColumnOut[] = h.number === 'none' ? [] : [{ name: 'no', head: w.no }];
  return [
    ...number,
    ...kind,
    { name: 'question', head: w.question },
    ...body,
    ...(h.points === 'none' ? [] : [{ name: 'points', head: w.points }]),
    ...(h.why === 'none' || h.layout === 'pairs in rows' ? [] : [{ name: 'why', head: w.why }]),
    ...(/time/.test(h.more) ? [{ name: 'time', head: w.time }] : []),
    ...(/tag/.test(h.more) ? [{ name: 'tag', head: w.tag }] : []),
    ...(/author/.test(h.more)
      ? [
          { name: 'author', head: 'Author' },
          { name: 'date', head: 'Created' },
        ]
      : []),
  ];
}

/** What the column of kinds says of a kind. */
function kindWord(h: TableHabits, kind: string): string {
  const german = h.heads === 'German';
  const words: Readonly<Record<string, readonly [string, string, string]>> = {
    'multiple-choice': ['multiple choice', 'Auswahl', 'MC'],
    'true-false': ['true/false', 'Richtig/Falsch', 'TF'],
    'short-answer': ['short answer', 'Kurzantwort', 'SA'],
    numeric: ['number', 'Zahl', 'NUM'],
    cloze: ['gaps', 'Lückentext', 'FIB'],
    ordering: ['ordering', 'Reihenfolge', 'ORD'],
    matching: ['matching', 'Zuordnung', 'MAT'],
  };
  return words[kind]?.[h.kinds === 'in codes' ? 2 : german ? 1 : 0] ?? '';
}

function headRows(h: TableHabits, columns: readonly ColumnOut[]): Row[] {
  const said: Row[] = h.layout === 'first is right' ? [['The first answer is always the correct one.']] : [];
  if (h.headed === 'no') return said;
  if (h.headed === 'two rows') {
    let group = '';
    const above = columns.map((c) => {
      const first = c.group !== group ? (c.group ?? '') : '';
      group = c.group ?? '';
      return first;
    });
    return [...said, above, columns.map((c) => (c.group && /^[omw]\d$/.test(c.name) ? ('ABCDEF'[Number(c.name.slice(1))] ?? '') : c.head))];
  }
  return [...said, columns.map((c) => c.head)];
}

/** Letters that a table gives for the options of one cell. */
const packed: Readonly<Record<string, (o: readonly string[]) => string>> = {
  'one cell, bars': (o) => o.join(' | '),
  'one cell, lines': (o) => o.join('\n'),
  'one cell, letters': (o) => o.map((t, i) => `${'abcdef'[i]}) ${t}`).join('  '),
};

function putItem(h: TableHabits, w: Heads, m: Meant, n: number, chance: () => number): Put {
  const [yes, no] = (truthWords[h.truth] ?? truthWords['words'])?.(w) ?? ['true', 'false'];
  if (m.kind === 'truth') {
    const cells: Cells = { question: m.stem, key: m.key ? yes : no, t: m.key ? 'x' : '', f: m.key ? '' : 'x' };
    return { rows: [cells], gold: { kind: 'true-false', stem: m.stem, key: m.key } };
  }
  if (m.kind === 'words') {
    const also = n % 2 ? `a ${String(m.key)}` : '';
    const typed = h.layout === 'typed';
    return {
      rows: [{ question: m.stem, key: String(m.key), ...(typed && { also }) }],
      gold: { kind: 'short-answer', stem: m.stem, key: [String(m.key), ...(typed && also ? [also] : [])] },
    };
  }
  const place = m.key as number;
  const { options } = m;
  const [right, wrong] = signs[h.sign] ?? ['x', ''];
  const gold: GoldItem = { kind: 'multiple-choice', stem: m.stem, options, key: [place] };
  const key = (keyWords[h.key] ?? keyWords['letter'])?.(place, options) ?? '';
  const own: Cells = Object.fromEntries(options.map((o, i) => [`o${i}`, o]));
  const marks: Cells = Object.fromEntries(options.map((_, i) => [`m${i}`, i === place ? right : wrong]));
  const first = [options[place] ?? '', ...options.filter((_, i) => i !== place)];
  const foils: Cells = { right: first[0] ?? '', ...Object.fromEntries(first.slice(1).map((o, i) => [`w${i + 1}`, o])) };
  const reasons = options.map((o, i) => (i % 2 ? '' : `Think of “${o}” again.`));
  switch (h.layout) {
    case 'marks beside':
    case 'marks in front':
    case 'marks behind':
      return { rows: [{ question: m.stem, ...own, ...marks }], gold };
    case 'right and foils':
    case 'foils and right':
      return { rows: [{ question: m.stem, ...foils }], gold: { ...gold, options: first, key: [0] } };
    case 'triples':
      return {
        rows: [{ question: m.stem, ...own, ...marks, ...Object.fromEntries(reasons.map((r, i) => [`f${i}`, r])) }],
        gold: { ...gold, optionFeedback: reasons.map((r) => r || null) },
      };
    case 'option rows, counted':
      return {
        rows: options.map((o, i) => ({ question: m.stem, n0: String(i + 1), o0: o, m0: i === place ? right : wrong })),
        gold,
      };
    case 'right in a heading':
    case 'first is right':
      return { rows: [{ question: m.stem, ...Object.fromEntries(first.map((o, i) => [`o${i}`, o])) }], gold: { ...gold, options: first, key: [0] } };
    case 'one cell, bars':
    case 'one cell, lines':
    case 'one cell, letters':
      return { rows: [{ question: m.stem, options: packed[h.layout]?.(options) ?? '', key }], gold };
    case 'option rows, blank':
    case 'option rows, again':
      return {
        rows: options.map((o, i) => ({
          question: i === 0 || h.layout === 'option rows, again' ? m.stem : '',
          o0: o,
          m0: i === place ? right : wrong,
          of: reasons[i] ?? '',
        })),
        gold: { ...gold, ...(h.reasons !== 'none' && { optionFeedback: reasons.map((r) => r || null) }) },
      };
    case 'below, labels':
      return { rows: [{ question: m.stem }, ...options.map((o, i) => ({ no: 'abcdef'[i] ?? '', question: o, m0: i === place ? right : wrong }))], gold };
    case 'below, letters in front':
      return { rows: [{ question: m.stem }, ...options.map((o, i) => ({ question: `${'abcdef'[i]}) ${o}`, m0: i === place ? right : wrong }))], gold };
    case 'numbers, tolerance':
    case 'numbers, bounds': {
      const value = 5 + Math.floor(chance() * 400) / 4;
      const slack = pick([0.5, 1, 2], chance);
      const stem = `How many grams of ${pick(['salt', 'yeast', 'sugar', 'butter'], chance)} are in recipe ${n + 1}?`;
      return {
        rows: [{ question: stem, key: String(value), tolerance: String(slack), from: String(value - slack), to: String(value + slack) }],
        gold: { kind: 'numeric', stem, key: [{ min: value - slack, max: value + slack }] },
      };
    }
    case 'gaps': {
      const [a = '', b = ''] = options;
      return {
        rows: [{ question: `In recipe ${n + 1} we use ____ before ____ is added.`, g0: a, g1: b }],
        gold: { kind: 'cloze', stem: `In recipe ${n + 1} we use [[1]] before [[2]] is added.`, key: [[a], [b]] },
      };
    }
    case 'steps':
      return {
        rows: [{ question: `Put the steps of recipe ${n + 1} in order.`, ...Object.fromEntries(options.map((o, i) => [`s${i}`, o])) }],
        gold: { kind: 'ordering', stem: `Put the steps of recipe ${n + 1} in order.`, sequence: options },
      };
    case 'pairs in rows': {
      const stem = `Match the words of list ${n + 1}.`;
      const partners = ['bake it', 'boil it', 'fry it', 'chill it', 'serve it'];
      return {
        rows: options.map((o, i) => ({ question: i === 0 ? stem : '', l: o, r: partners[i] ?? '' })),
        gold: { kind: 'matching', stem, pairs: options.map((o, i) => [o, partners[i] ?? '']), extra: [] },
      };
    }
    default:
      return { rows: [{ question: m.stem, ...own, key }], gold };
  }
}
