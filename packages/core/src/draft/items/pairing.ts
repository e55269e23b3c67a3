/** Questions that ask to match two sides or to put steps in order. */
import type { Item } from '../../item/model.js';
import { plainOption } from '../signatures/answers.js';
import { optionText } from './choice.js';
import { bareLetter, lettered, letterPlace, LETTERS, loosely, numbered, plainSigns } from '../../language/labels.js';
import type { ItemBuilder } from './itemBuilder.js';
import type { Stretch } from '../surface/stretch.js';

interface Side {
  label: string;
  text: Stretch;
}

/** A side without the line to write on and without its label. */
function side(s: Stretch): Side {
  let t = s.trimmed();
  const lead = /^(?:(?:[•·●○]\s*)+|[_\s]*_{2,}\s*|\(\s{0,4}\)\s+|\[\s*\]\s*)/.exec(t.text);
  if (lead) t = t.slice(lead[0].length);
  const tail = /\s*(?:(?:\s*[•·●○])+|_{2,}|\.{5,}|\(\s*\)|\[\s*\])\s*$/.exec(t.text);
  if (tail && tail.index > 0) t = t.slice(0, tail.index);
  const n = numbered(t.text);
  if (n && n.form !== 'word') return { label: n.label, text: t.slice(n.at).trimmed() };
  const l = lettered(t.text);
  if (l && l.at < t.text.length) return { label: l.letter.toUpperCase(), text: t.slice(l.at).trimmed() };
  return { label: '', text: t };
}

/** Labels without a sign ("1 whisk", "A cutting"), where all sides have one. */
function bare(sides: Side[]): void {
  const found = sides.map((s) => (s.label ? null : (loosely(s.text.text) ?? bareLetter(s.text.text))));
  const labels = new Set(found.map((f) => (f && 'number' in f ? f.label : f?.letter)));
  if (sides.length < 2 || !found.every(Boolean) || labels.size !== sides.length) return;
  sides.forEach((s, i) => {
    const f = found[i];
    if (f) Object.assign(s, { label: 'number' in f ? f.label : f.letter.toUpperCase(), text: s.text.slice(f.at).trimmed() });
  });
}

const SIDES = new RegExp(`(?<![\\p{L}\\d])([${LETTERS}]|\\d{1,2})\\s*(?:[-–—:=.)→>]+\\s*|\\s+)?\\(?([${LETTERS}]|\\d{1,2})\\)?(?=[\\s,;.)]|$)`, 'gu');
/** Which right side a key gives to which left one: "1-C, 2-A", "1: C; 2: A", "1C 2A". */
function keyPairs(m: ItemBuilder): Map<string, string> {
  const said = new Map<string, string>();
  for (const k of m.keys)
    for (const p of plainSigns(k.text.plain).matchAll(SIDES)) {
      const [a, b] = [(p[1] ?? '').toUpperCase(), (p[2] ?? '').toUpperCase()];
      if (/\d/.test(a) !== /\d/.test(b)) said.set(a, b);
    }
  return said;
}
/** Keys that are only letters in the order of the left sides: "C, A, D, B". */
function keyRow(m: ItemBuilder, lefts: number): string[] {
  const each = m.keys.map((k) => k.text.plain.trim());
  if (each.length > 1 && each.length === lefts && each.every((k) => /^\p{L}$/u.test(k))) return each.map((k) => k.toUpperCase());
  for (const k of m.keys) {
    const letters = k.text.plain.match(/(?<![\p{L}])[A-Za-zА-Яа-я](?![\p{L}])/gu) ?? [];
    if (letters.length === lefts && /^[\s\p{L},;.–-]+$/u.test(k.text.plain) && k.text.plain.replace(/[^\p{L}]/gu, '').length === lefts)
      return letters.map((l) => l.toUpperCase());
  }
  return [];
}

const EXTRA_TOLD =
  /not needed|extra|too many|left over|more than|not be used|one (?:letter|answer|option|description|word|definition) (?:is|will)|überzählig|zu viel|bleibt übrig|sobra|de trop|intrus|avanza|di troppo|te veel|over\b|лишн|зайв|fazla/i;

/** A key in the words of the sides: "incisors–cutting, molars–grinding". The place of the right side of each left one; null where it names not all. */
function byWords(m: ItemBuilder, lefts: readonly Side[], rights: readonly Side[]): number[] | null {
  const plain = (s: Side): string => plainOption(s.text.plain);
  const left = lefts.map(plain);
  const right = rights.map(plain);
  for (const k of m.keys) {
    const out = left.map(() => -1);
    for (const part of k.text.plain.split(/\s*[,;]\s*|\s{3,}/)) {
      // a hyphen may stand within a side: "poach – pot-au-feu"
      const cut = /\s+[–—-]\s+|\s*(?:=|→|->|:)\s*/.exec(part) ?? /\s*[–—-]\s*/.exec(part);
      const sides = cut ? [part.slice(0, cut.index), part.slice(cut.index + cut[0].length)].map(plainOption) : [plainOption(part)];
      const at = left.indexOf(sides[0] ?? '');
      const said = sides[1] ?? '';
      const holding = right.flatMap((r, i) => (said && ` ${r} `.includes(` ${said} `) ? [i] : []));
      const to = right.includes(said) ? right.indexOf(said) : holding.length === 1 ? (holding[0] ?? -1) : -1;
      if (at >= 0 && to >= 0) out[at] = to;
    }
    if (out.length && out.every((p) => p >= 0)) return out;
  }
  return null;
}

/** Pairs as they stand, or a labelled left and a labelled right list with a key. */
export function matching(m: ItemBuilder): Item {
  const b = m.block;
  const numbers = b.entries.filter((e) => e.labels === 'number');
  const letters = b.entries.filter((e) => e.labels === 'letter');
  const listed = b.pairs.length === 0;
  const other = b.entries.filter((e) => e.labels === 'bullet' || e.labels === 'none');
  const lefts: Side[] = listed ? numbers.map((e) => ({ label: e.label, text: side(optionText(m, e)).text })) : b.pairs.map((p) => side(m.stretch(p.left)));
  bare(lefts);
  const rights: Side[] = listed
    ? [...letters, ...other].map((e) => ({ label: e.label.toUpperCase(), text: optionText(m, e) }))
    : b.pairs.map((p) => side(m.stretch(p.right)));
  if (!listed) bare(rights);
  const stem = m.stemRich();
  const common = { ...m.common(), stem };
  const rich = (s: Side | undefined): string => (s ? m.rich(s.text, 'pair') : '');
  const unbalanced = (left: string): void => m.doubt('match-unbalanced', 'error', `${m.name}: “${left}” has no other side.`);
  const extras = [
    ...(listed ? [] : [...letters, ...other].map((e) => m.rich(optionText(m, e), 'pair'))),
    ...b.fields
      .filter((f) => f.name === 'extra')
      .flatMap((f) =>
        m
          .stretch(f.pieces)
          .split(/\|/g)
          .map((e) => m.rich(e, 'pair')),
      ),
  ];
  const labelled =
    rights.filter((r) => r.label && r.text.text).length >= 2 &&
    lefts.some((l) => l.label && l.text.text) &&
    rights.filter((r) => r.label).length >= rights.filter((r) => r.text.text).length;
  if (!labelled) {
    // a key that says what belongs together, and no labels that it could mean: nobody knows the pairs
    const told = byWords(m, lefts, rights);
    if (told) {
      const used = new Set(told);
      return {
        ...common,
        kind: 'matching',
        pairs: lefts.map((l, i) => ({ left: rich(l), right: rich(rights[told[i] ?? -1]) })),
        extraRights: [
          ...rights
            .filter((_, i) => !used.has(i))
            .map(rich)
            .filter(Boolean),
          ...extras,
        ],
      };
    }
    const unread = m.keys.find((k) => keyPairs(m).size > 0 || /\p{L}/u.test(k.text.plain));
    const pairs = lefts.map((l, i) => ({ left: rich(l), right: unread ? '' : rich(rights[i]) }));
    if (unread) {
      m.doubt('key-unknown-option', 'error', `${m.name}: the key “${unread.text.plain.slice(0, 40)}” names sides that have no such labels.`, unread.line);
      return { ...common, kind: 'matching', pairs: pairs.filter((p) => p.left), extraRights: [...rights.map(rich).filter(Boolean), ...extras] };
    }
    // under a kind that is named, a row is a pair, though a side may be empty still
    const named = m.block.kind === 'matching' && m.block.fields.some((f) => f.name === 'kind');
    const missing = pairs.find((p) => p.left && !p.right);
    if (missing) unbalanced(missing.left);
    const loose = pairs.filter((p) => !p.left && p.right).map((p) => p.right);
    if (loose.length && !EXTRA_TOLD.test(m.stem.text) && !extras.length)
      m.doubt('match-unbalanced', 'warning', `${m.name}: “${loose[0] ?? ''}” has no other side.`);
    return { ...common, kind: 'matching', pairs: named ? pairs : pairs.filter((p) => p.left), extraRights: [...(named ? [] : loose), ...extras] };
  }
  const said = keyPairs(m);
  const full = lefts.filter((l) => l.text.text);
  const row = said.size ? [] : keyRow(m, full.length);
  // "A-3": the key may name the right side first
  const swapped = said.size > 0 && ![...said.keys()].some((k) => full.some((l, i) => (l.label || String(i + 1)) === k));
  const key = swapped ? new Map([...said].map(([a, c]) => [c, a])) : said;
  const used = new Set<string>();
  const pairs = full.map((l, i) => {
    const label = row[i] ?? key.get((l.label || String(i + 1)).toUpperCase());
    const right = rights.find((r) => r.label.toUpperCase() === label && r.text.text);
    if (right) used.add(right.label);
    return { left: rich(l), right: rich(right) };
  });
  const extraRights = [...rights.filter((r) => r.text.text && !used.has(r.label)).map(rich), ...extras];
  const open = pairs.find((p) => !p.right);
  const labels = new Set(rights.map((r) => r.label.toUpperCase()));
  const unknown = [...key.values()].find((v) => !labels.has(v)) ?? row.find((v) => !labels.has(v));
  if (unknown) m.doubt('key-unknown-option', 'error', `${m.name}: the key names ${unknown}, which is not there.`);
  else if (!key.size && !row.length) m.doubt('key-missing', 'error', `${m.name} has no key that says what belongs together.`);
  else if (open) unbalanced(open.left);
  return { ...common, kind: 'matching', pairs, extraRights };
}

/** A step with nothing in it yet, in the notation. */
export const EMPTY_STEP = '(empty)';

/** What parts things on one line that are to be put in order. */
const IN_LINE = /\s*[,;|>→]\s*|\s+[/–—-]\s+/g;
/** Where the sentence ends that asks to put in order. */
const ASKED = /[:.?](?=\s)(?!.*[:.?]\s)/su;
/** "Arrange by weight: pound, ounce, ton" with the key "ounce, pound, ton", or "knead (2), weigh (1), bake (3)": the things of the question, each once, in the order that is said. Null for anything else. */
export function orderingInLine(m: ItemBuilder): Item | null {
  const key = m.keys.length === 1 ? m.keys[0]?.text : undefined;
  const lastColon = m.stem.text.lastIndexOf(':');
  const colon = lastColon < 0 && key ? m.stem.text.search(ASKED) : lastColon;
  if (colon < 0 || m.stem.text.length - colon > 400) return null;
  // a full stop ends the sentence, not the last thing
  const end = m.stem.text.replace(/(?<=[^.])\.\s*$/, '').length;
  const steps = m.stem.slice(colon + 1, end).split(IN_LINE);
  const ranked = m.keys.length || steps.length < 3 ? null : withRanks(steps);
  if (ranked) {
    for (const { said } of ranked) m.use(said, 'key');
    m.stem = m.stem.slice(0, colon + 1);
    const sequence = [...ranked].sort((a, b) => a.rank - b.rank).map((s) => m.rich(s.text, 'step'));
    return { ...m.common(), stem: m.stemRich(), kind: 'ordering', sequence };
  }
  if (!key) return null;
  const texts = steps.map((s) => plainOption(s.plain));
  const places = key.split(IN_LINE).map((s) => texts.indexOf(plainOption(s.plain)));
  if (steps.length < 3 || places.length !== steps.length || places.some((at) => at < 0) || new Set(places).size < places.length) return null;
  const sequence = places.map((at) => m.rich(steps[at] as Stretch, 'step'));
  m.stem = m.stem.slice(0, colon + 1);
  return { ...m.common(), stem: m.stemRich(), kind: 'ordering', sequence };
}

const RANK_BEHIND = /\s*[([](\d{1,2})[)\]]\s*$/;
/** "Knead (2)", "Weigh (1)": the steps without the numbers behind them, and those numbers; null where these do not name each place once. */
function withRanks(steps: readonly Stretch[]): { text: Stretch; rank: number; said: Stretch }[] | null {
  const out = steps.flatMap((s) => {
    const found = RANK_BEHIND.exec(s.text);
    return found ? [{ text: s.slice(0, found.index).trimmed(), rank: Number(found[1]), said: s.slice(found.index) }] : [];
  });
  const all = out.length > 1 && out.length === steps.length && out.every((_, i) => out.some((s) => s.rank === i + 1));
  return all ? out : null;
}

/** Steps as they stand, or shuffled ones with a key like "C, A, D, B". Null where it is none. */
export function ordering(m: ItemBuilder, forced: boolean): Item | null {
  const { entries } = m.block;
  const whole = entries.map((e) => optionText(m, e));
  const ranked = forced || m.keys.length ? null : withRanks(whole);
  for (const { said } of ranked ?? []) m.use(said, 'key');
  const steps = ranked?.map((s) => s.text) ?? whole;
  const stepText = (at: number): string => {
    const text = steps[at] as Stretch;
    return forced && text.text === EMPTY_STEP ? '' : m.rich(text, 'step');
  };
  const letters = entries.every((e) => e.labels === 'letter');
  const key = m.keys[0]?.text.plain ?? '';
  const said =
    /^(?:[A-Za-zА-Яа-я]{2,}|\d{2,9})$/u.test(key) && key.length === entries.length
      ? [...key]
      : (key.match(/(?<![\p{L}\d])(?:\d{1,2}|[A-Za-zА-Яа-я])(?![\p{L}\d])/gu) ?? []);
  const texts = steps.map((t) => plainOption(t.plain));
  const byText = key.split(/\s*(?:[,;>→|]|->|–|\s[-/]\s)\s*/).map((t) => texts.indexOf(plainOption(t)));
  const labelled = said.map((s) =>
    entries.findIndex((e, i) => (e.label ? e.label.toUpperCase() === s.toUpperCase() : (/\d/.test(s) ? Number(s) - 1 : letterPlace(s)) === i)),
  );
  // numbers for blanks in front say which step each line is: "4, 1, 2, 3"
  const ranks = entries.every((e) => e.form === 'box' && !e.label) && /^[\d\s,;.–-]+$/.test(key) ? said.map(Number) : [];
  const byRank = ranks.map((_, i) => ranks.indexOf(i + 1));
  const places =
    ranks.length === entries.length && byRank.every((p) => p >= 0)
      ? byRank
      : byText.length === entries.length && byText.every((p) => p >= 0)
        ? byText
        : labelled;
  const named = places.length === entries.length && new Set(places).size === entries.length && places.every((p) => p >= 0);
  // lettered steps are shuffled: without a key nobody knows their order
  if (!named && !ranked && letters && !forced && (!key || places.length < 2)) {
    if (key || m.keys.length) return null;
    const stem = m.stemRich();
    m.doubt('key-missing', 'error', `${m.name} has no key that says the order.`);
    return { ...m.common(), stem, kind: 'ordering', sequence: entries.map((_, i) => stepText(i)) };
  }
  if (!named && key) m.doubt('key-conflict', 'error', `${m.name}: the key “${key.slice(0, 40)}” does not name each step once.`, m.keys[0]?.line);
  // numbers in front that are no row of their own say the order: "(3) Bake the loaf. (1) Mix."
  const numbers = entries.map((e) => (e.labels === 'number' ? Number(e.label) : 0));
  const rises = numbers.every((n, i) => i === 0 || n > (numbers[i - 1] ?? 0));
  const byNumber = !key && !rises && new Set(numbers).size === entries.length && numbers.every((n) => n >= 1 && n <= entries.length);
  const order = named
    ? places
    : ranked
      ? entries.map((_, i) => ranked.findIndex((s) => s.rank === i + 1))
      : byNumber
        ? entries.map((_, i) => numbers.indexOf(i + 1))
        : entries.map((_, i) => i);
  return {
    ...m.common(),
    stem: m.stemRich(),
    kind: 'ordering',
    sequence: order.map(stepText),
  };
}
