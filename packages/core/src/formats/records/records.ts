/**
 * Questions as records of names and values (JSON, RFC 8259; or one record on each line), as programs keep them and
 * chat assistants hand them out: nobody agreed on the names, so they are told by what they mean and become the
 * columns of a table. What the columns are is then weighed like that of any other table.
 */
import { letterOf } from '../../item/kinds.js';
import { ANSWER, FEEDBACK, HINT, POINTS, QUESTION, TAGS } from '../../language/words.js';
import type { TableSheet } from '../table/mapping.js';

type Fields = Record<string, unknown>;
const isRecord = (v: unknown): v is Fields => typeof v === 'object' && v !== null && !Array.isArray(v);

/** The words of a name: "correctAnswer" and "correct_answer" are "correct answer". */
const wordsOf = (name: string): string =>
  name
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{L})(\d)/gu, '$1 $2')
    .replace(/[_.\s-]+/g, ' ')
    .trim()
    .toLowerCase();

const named = (words: string): RegExp => new RegExp(`^(?:${words})$`, 'iu');
const ASKED = named(`(?:${QUESTION}|q|prompt|stem|statement|task|front)(?: (?:text|stem|body|html|title|statement|content))?`);
const OFFERED = named(
  '(?:answer |response )?(?:options?|choices?|alternatives?|opciones|optionen|antwortmöglichkeiten|choix|propositions|opzioni|opções|opties|opcje|варианты|варіанти|seçenekler)|possible answers|all answers',
);
/** "A", "option a", "choice 2": one option by itself. */
const ONE_OFFERED = named('(?:(?:option|choice|alternative|opción|antwort|opzione|opção|optie|вариант|seçenek|answer) )?([a-h]|[1-8])');
const WRONG = named('(?:wrong|incorrect|false|bad) ?(?:answers?|options?|choices?|responses?)?|distractors?|foils?');
const RIGHT = named(
  `(?:${ANSWER}|right|correct|key|a|back|solution)s?|(?:correct|right|accepted|expected|model) (?:answers?|options?|choices?|response|value|keys?)|(?:${ANSWER}|correct|key)(?: (?:answers?|options?|choices?))?(?: (?:index|idx|indices|indexes|letters?|ids?|key|text|value|number))`,
);
const COUNTED_FROM_ZERO = /(?:^| )(?:index|idx|indices|indexes)$/;
const RIGHT_FLAG = named('(?:is )?(?:correct|right|true|key|answer)(?: answer)?');
const SHARE_FLAG = named('(?:score|weight|fraction|credit|grade|percent)');
const PAIRED = named('(?:matching |correct )?(?:pairs?|matches)');
const REASON = named(`(?:${FEEDBACK}|general feedback|explanations?|rationale|reason|why)`);
const OTHERS: readonly (readonly [heading: string, names: RegExp])[] = [
  ['Explanation', REASON],
  ['Hint', named(`(?:${HINT})s?`)],
  ['Points', named(`(?:${POINTS}|marks?|score|points? value|weight|max (?:score|points))`)],
  ['Tags', named(`(?:${TAGS}|topics?|category|tags?|subject|labels?)`)],
  ['Type', named('(?:question |item )?(?:type|kind|format)')],
  ['Difficulty', named('difficulty(?: level)?')],
];

/** What a value says in words: itself, or the words that stand in it under a name of their own. */
function words(v: unknown): string {
  if (typeof v === 'string') return v.trim();
  if (typeof v === 'number' || typeof v === 'boolean') return String(v);
  if (!isRecord(v)) return '';
  for (const [name, inner] of Object.entries(v))
    if (/(?:^| )(?:text|content|value|label|title|html|body|option|answer|choice|name|statement|description)$/.test(wordsOf(name))) {
      const said = words(inner);
      if (said && !(/^(?:label|name|value)$/i.test(name) && said.length < 3 && Object.keys(v).length > 1 && words(without(v, name)))) return said;
    }
  return '';
}
const without = (v: Fields, name: string): Fields => Object.fromEntries(Object.entries(v).filter(([k]) => k !== name));

interface Offered {
  text: string;
  /** What its record calls it: "B", "opt2". */
  id: string;
  right?: boolean;
  reason?: string;
}
/** The options that a value gives: a list of words or of records, or words by letter. */
function optionsIn(v: unknown): Offered[] {
  if (isRecord(v)) return Object.entries(v).flatMap(([id, inner]) => (words(inner) ? [{ ...optionOf(inner), id }] : []));
  if (!Array.isArray(v)) return [];
  return v.flatMap((one: unknown) => {
    // [{"A": "salt"}, {"B": "yeast"}]
    const only = isRecord(one) && Object.keys(one).length === 1 ? Object.entries(one)[0] : undefined;
    if (only && /^[A-Ha-h1-9]$/.test(only[0])) return [{ text: words(only[1]), id: only[0] }];
    const o = optionOf(one);
    return o.text ? [o] : [];
  });
}
function optionOf(v: unknown): Offered {
  const out: Offered = { text: words(v), id: '' };
  if (isRecord(v))
    for (const [name, inner] of Object.entries(v)) {
      const n = wordsOf(name);
      if (RIGHT_FLAG.test(n) && (typeof inner === 'boolean' || /^(?:true|false|yes|no)$/i.test(words(inner)))) out.right = /^(?:true|yes)$/i.test(words(inner));
      else if (SHARE_FLAG.test(n) && Number.isFinite(Number(words(inner)))) out.right = Number(words(inner)) > 0;
      else if (REASON.test(n)) out.reason = words(inner);
      else if (/^(?:id|key|letter|label|option|identifier)$/.test(n) && words(inner) !== out.text) out.id = words(inner);
    }
  // "B) yeast": the letter is a label
  const label = /^\(?([A-Ha-h1-9])[).:]\s+(?=\S)/.exec(out.text);
  return label ? { ...out, id: out.id || (label[1] ?? ''), text: out.text.slice(label[0].length) } : out;
}

/** A record as columns: options by number, the key as letters where it names options. */
interface Row {
  asked: string;
  options: Offered[];
  pairs: [string, string][];
  key: string[];
  /** The key is the place of an option, counted from 0, or nobody says from where. */
  places: { from: 'zero' | 'unsaid'; at: number[] } | null;
  more: Map<string, string>;
}
const listOf = (v: unknown): unknown[] => (Array.isArray(v) ? v : [v]);

function rowOf(record: Fields): Row {
  const row: Row = { asked: '', options: [], pairs: [], key: [], places: null, more: new Map() };
  const wrong: string[] = [];
  const fields = Object.entries(record).map(([name, v]) => [wordsOf(name), v] as const);
  const offered = fields.some(([n, v]) => OFFERED.test(n) && optionsIn(v).length > 1);
  for (const [name, v] of fields) {
    const one = ONE_OFFERED.exec(name);
    if (ASKED.test(name) && !row.asked) row.asked = words(v);
    else if (OFFERED.test(name)) row.options.push(...optionsIn(v));
    else if (WRONG.test(name)) wrong.push(...listOf(v).map(words));
    else if (PAIRED.test(name) && pairsIn(v).length) row.pairs = pairsIn(v);
    else if (one?.[1] && name !== 'a' && words(v)) row.options.push({ ...optionOf(v), id: one[1] });
    else if (RIGHT.test(name)) {
      // a list of records that say of themselves whether they are right is one of options
      const all = optionsIn(v);
      if (!offered && Array.isArray(v) && all.length > 1 && all.some((o) => o.right !== undefined)) row.options.push(...all);
      else if (typeof v === 'number' || (Array.isArray(v) && v.length > 0 && v.every((x) => typeof x === 'number')))
        row.places = { from: COUNTED_FROM_ZERO.test(name) ? 'zero' : 'unsaid', at: listOf(v) as number[] };
      else row.key.push(...listOf(v).map(words).filter(Boolean));
    } else for (const [heading, pattern] of OTHERS) if (pattern.test(name)) row.more.set(heading, listOf(v).map(words).filter(Boolean).join(', '));
  }
  // "a": the answer beside wrong ones, or the first of several options
  const a = fields.find(([n]) => n === 'a');
  if (a && row.options.length) row.options.unshift({ ...optionOf(a[1]), id: 'a' });
  if (wrong.length && !row.options.length)
    row.options = [...row.key.map((text) => ({ text, id: '', right: true })), ...wrong.map((text) => ({ text, id: '', right: false }))];
  return row;
}

function pairsIn(v: unknown): [string, string][] {
  if (isRecord(v)) return Object.entries(v).map(([left, right]) => [left, words(right)]);
  return listOf(v).flatMap((p): [string, string][] => {
    const sides = (Array.isArray(p) ? p : isRecord(p) ? Object.values(p) : []).map(words).filter(Boolean);
    return sides.length === 2 ? [[sides[0] ?? '', sides[1] ?? '']] : [];
  });
}

/** Words as they are compared: without blanks around them and the full stops at their end. */
function plain(s: string): string {
  const said = s.trim().toLowerCase();
  let end = said.length;
  while (end > 0 && said[end - 1] === '.') end--;
  return said.slice(0, end).trimEnd();
}
/** The key of a row as its cell says it: letters of options, or words. */
function keyCell(row: Row, zero: boolean | null): string {
  const { options, key, places } = row;
  const letters = (at: readonly number[]): string => at.map(letterOf).join(', ');
  const flagged = options.flatMap((o, i) => (o.right ? [i] : []));
  if (flagged.length) return letters(flagged);
  if (places && options.length) {
    const from = places.from === 'zero' ? true : zero;
    const at = from === null ? [] : places.at.map((n) => (from ? n : n - 1));
    return at.length && at.every((i) => options[i]) ? letters(at) : '';
  }
  const said = places ? places.at.map(String) : key;
  const found = said.map((k) => {
    const byWords = options.findIndex((o) => plain(o.text) === plain(k));
    return byWords >= 0
      ? byWords
      : options.findIndex((o, i) => (o.id ? o.id.toLowerCase() : letterOf(i).toLowerCase()) === plain(k).replace(/^(?:option|choice) /, ''));
  });
  if (options.length && found.length && found.every((i) => i >= 0)) return letters(found);
  return said.map((k) => (/^(?:true|false)$/i.test(k) ? k.toUpperCase() : k)).join(' / ');
}
/** Whether bare places count from 0: one is 0, or none is as large as its list; null where both could be. */
function fromZero(rows: readonly Row[]): boolean | null {
  const bare = rows.flatMap((r) => (r.places?.from === 'unsaid' && r.options.length ? r.places.at.map((at) => ({ at, of: r.options.length })) : []));
  if (bare.some((b) => b.at === 0)) return true;
  return bare.some((b) => b.at === b.of) ? false : null;
}

/** All lists of records in a value, with the name that each stands under. */
function listsIn(v: unknown, name = '', depth = 0): { name: string; records: Fields[] }[] {
  if (depth > 5) return [];
  if (Array.isArray(v)) {
    const records = v.filter(isRecord);
    return records.length && records.length === v.length
      ? [{ name, records }, ...records.flatMap((r) => listsIn(Object.values(r).filter(Array.isArray), name, depth + 1))]
      : v.flatMap((x: unknown) => listsIn(x, name, depth + 1));
  }
  if (!isRecord(v)) return [];
  const inner = Object.entries(v);
  // {"q1": {…}, "q2": {…}}
  const own = inner.length > 1 && inner.every(([, x]) => isRecord(x)) ? [{ name, records: inner.map(([, x]) => x as Fields) }] : [];
  return [...own, ...inner.flatMap(([k, x]) => listsIn(x, k, depth + 1))];
}

/** The first fence of three backticks: what stands between its lines. */
function fenced(text: string): string | undefined {
  const open = text.indexOf('```');
  const from = open < 0 ? -1 : text.indexOf('\n', open);
  const to = from < 0 ? -1 : text.indexOf('```', from);
  return to < 0 ? undefined : text.slice(from + 1, to);
}
/** What stands in a text as JSON: all of it, what a fence or words around it hold, or a record on each line. Undefined where there is none. */
function parsed(text: string): unknown {
  const whole = text.trim().replace(/^\uFEFF/, '');
  const open = whole.search(/[[{]/);
  const close = Math.max(whole.lastIndexOf(']'), whole.lastIndexOf('}'));
  for (const candidate of [whole, fenced(whole), open >= 0 && close > open ? whole.slice(open, close + 1) : undefined]) {
    if (!candidate || !/^\s*[[{]/.test(candidate)) continue;
    try {
      return JSON.parse(candidate) as unknown;
    } catch {
      // not by itself: the next way
    }
  }
  const lines = whole.split('\n').flatMap((l) => l.trim() || []);
  if (lines.length < 2 || !lines.every((l) => l.startsWith('{'))) return undefined;
  try {
    return lines.map((l) => JSON.parse(l.endsWith(',') ? l.slice(0, -1) : l) as unknown);
  } catch {
    return undefined;
  }
}

/** So many of the records of a list must ask something. */
const MOST = 0.6;

/**
 * The questions that stand in a text as records, as a table with headings; null where there are none.
 * Never throws; looks at nothing twice, so that time grows with the text.
 */
export function recordsIn(text: string): TableSheet | null {
  if (!/[[{]/.test(text.slice(0, 2000)) || !/"\s*:/.test(text)) return null;
  const lists = listsIn(parsed(text)).map((l) => ({ ...l, rows: l.records.map(rowOf) }));
  const asking = (rows: readonly Row[]): number =>
    rows.filter((r) => r.asked && (r.options.length || r.pairs.length || r.key.length || r.places || /[?？]|_{2,}/.test(r.asked))).length;
  const best = lists.filter((l) => asking(l.rows) > 0 && asking(l.rows) >= l.rows.length * MOST).sort((a, b) => asking(b.rows) - asking(a.rows))[0];
  if (!best) return null;
  const zero = fromZero(best.rows);
  const most = Math.max(...best.rows.map((r) => Math.max(r.options.length, r.pairs.length)));
  const noted = best.rows.some((r) => r.options.some((o) => o.reason));
  const more = OTHERS.map(([heading]) => heading).filter((h) => best.rows.some((r) => r.more.has(h) || (h === 'Type' && r.pairs.length)));
  const numbers = Array.from({ length: most }, (_, i) => i);
  const head = ['Question', ...numbers.flatMap((i) => [`Option ${letterOf(i)}`, ...(noted ? [`Feedback ${letterOf(i)}`] : [])]), 'Correct answer', ...more];
  const rows = best.rows.map((r) => [
    r.asked,
    ...numbers.flatMap((i) => {
      const pair = r.pairs[i];
      return [r.options[i]?.text ?? (pair ? pair.join(' = ') : ''), ...(noted ? [r.options[i]?.reason ?? ''] : [])];
    }),
    keyCell(r, zero),
    ...more.map((h) => r.more.get(h) ?? (h === 'Type' && r.pairs.length ? 'matching' : '')),
  ]);
  return { name: '', rows: [head, ...rows] };
}
