/** Questions answered by choosing: which options are there, and which of them the marks and lines say. */
import { newId } from '../../item/ids.js';
import { byShares } from '../../item/scoring.js';
import { scorings, type Item, type Kind, type Option, type Scoring } from '../../item/model.js';
import { plainOption, readKey } from '../signatures/answers.js';
import { letterPlaces, romanValue } from '../../language/labels.js';
import { calledOf, keysAs, optionsFor } from './fixes.js';
import type { ItemBuilder, Key } from './itemBuilder.js';
import type { Entry } from '../model/outline.js';
import type { Stretch } from '../surface/stretch.js';
import { truth, truthNote } from '../../language/truths.js';
import { ALL_THAT_APPLY } from '../../language/words.js';

/** The scoring that a field names: "per option", "all or nothing". */
export const scoringNamed = (name: string): Scoring | undefined => scorings.find((s) => s === name.trim().toLowerCase().replace(/\s+/g, '-'));

/** "(50%) lentils", "100 % roasting": a share of the points in front of an option. */
const SHARE_IN_FRONT = /^\s*(?:[([]\s*([-−+]?\d{1,3}(?:[.,]\d{1,5})?)\s*%\s*[)\]]|([-−+]?\d{1,3}(?:[.,]\d{1,5})?)\s*%(?=\s))\s*[:–-]?\s*(?=\S)/;
const CREDIT = /\s*[([]\s*([-−]?\d+(?:[.,]\d+)?)\s*%\s*[)\]]\s*$/;
const PINNED = /\s*[([]\s*(?:stays last|fixed place|pinned)\s*[)\]]\s*$/i;

/** An option's words; notes of credit and place are taken off. */
export function optionText(m: ItemBuilder, e: Entry): Stretch {
  return ended(m, e).text;
}
interface Ended {
  text: Stretch;
  credit?: number;
  pinned?: boolean;
}
const shareOf = (said: string | undefined): number => Number((said ?? '').replace('−', '-').replace(',', '.')) / 100;
/**
 * The options with the share of the points that each has in front or in brackets behind. They are shares where every
 * option has one, something is left of its words, the best are worth all of the points (alone or together) and others none.
 */
function withShares(m: ItemBuilder): Ended[] | null {
  const { entries } = m.block;
  if (entries.length < 2 || m.keys.length || entries.some((e) => e.marked)) return null;
  for (const pattern of [SHARE_IN_FRONT, CREDIT]) {
    const out: Ended[] = [];
    for (const e of entries) {
      const text = m.stretch(e.pieces);
      const found = pattern.exec(text.text);
      const rest = found && (pattern === CREDIT ? text.slice(0, found.index) : text.slice(found[0].length)).trimmed();
      if (!found || !rest?.text) break;
      out.push({ text: rest, credit: shareOf(found[1] ?? found[2]) });
    }
    const credits = out.map((o) => o.credit ?? 0);
    const gain = credits.filter((c) => c > 0);
    const whole = credits.every((c) => Math.abs(c) <= 1) && (gain.includes(1) || Math.abs(gain.reduce((sum, c) => sum + c, 0) - 1) < 0.011);
    if (out.length === entries.length && whole && gain.length < credits.length) return out;
  }
  return null;
}
function ended(m: ItemBuilder, e: Entry): Ended {
  let text = m.stretch(e.pieces);
  let pinned: boolean | undefined;
  const ending = /[)\]]\s*$/.test(text.text);
  const pin = ending ? PINNED.exec(text.text) : null;
  if (pin && pin.index > 0) {
    pinned = true;
    text = text.slice(0, pin.index);
  }
  const part = ending ? CREDIT.exec(text.text) : null;
  // "(50 %)" is the credit of an option only where a key is marked as such; without, it is a part of the words
  const credit = part && part.index > 0 && e.marked ? shareOf(part[1]) : undefined;
  if (part && credit !== undefined && Math.abs(credit) <= 1) return { text: text.slice(0, part.index).trimmed(), credit, ...(pinned && { pinned }) };
  return { text: text.trimmed(), ...(pinned && { pinned }) };
}

const nameOfPlaces = (entries: readonly Entry[], places: readonly number[], between = ' '): string => places.map((i) => calledOf(entries[i], i)).join(between);

/** The places that marks beside the options and lines behind them say; a conflict leaves the key empty. */
function keyed(m: ItemBuilder, texts: readonly Stretch[]): number[] {
  const { entries } = m.block;
  const bullets = entries.every((e) => e.star);
  const isMarked = (e: Entry): boolean => e.marked || (Boolean(e.star) && !bullets);
  const marked = entries.flatMap((e, i) => (isMarked(e) ? [i] : []));
  const looks = texts.flatMap((t, i) => (t.look & m.manner.keyLook ? [i] : []));
  const byLook = !marked.length && looks.length > 0 && looks.length < entries.length;
  const readings: { places: number[]; line: number | 'listed'; key?: Key }[] = [];
  if (marked.length) readings.push({ places: marked, line: m.lineOf(entries[marked[0] ?? 0] as Entry) });
  else if (byLook) readings.push({ places: looks, line: m.lineOf(entries[looks[0] ?? 0] as Entry) });
  const plain = texts.map((t) => t.plain);
  for (const k of m.keys) {
    const r = readKey(
      k.text.plain,
      entries.map((e) => e.label),
      plain,
    );
    if (!r) continue;
    if ('unknown' in r) {
      // the reason behind a letter that is none of the options is kept all the same
      const behind = /^[([]?[A-Z][)\].]?\s*[–—-]\s+(?=\S.{8})/.exec(k.text.text);
      if (behind && !m.reason) m.reason = k.text.slice(behind[0].length).trimmed();
      const letter = /^(?:[A-Z]|\d{1,2})$/i.test(r.unknown);
      const to = entries[entries.length - 1]?.label.toUpperCase() || String.fromCharCode(64 + entries.length);
      m.doubt(
        'key-unknown-option',
        'error',
        letter
          ? `${m.name}: key ${r.unknown.toUpperCase()}, options ${(entries[0]?.label || 'A').toUpperCase()} to ${to}.`
          : `${m.name}: the key “${r.unknown}” is none of the options.`,
        k.line,
        optionsFor(m, k),
      );
      return [];
    }
    if ('conflict' in r) {
      m.doubt('key-conflict', 'error', `${m.name}: ${r.conflict}.`, k.line);
      return [];
    }
    if (r.reasonAt !== undefined && !m.reason) {
      // places in the collapsed words are those of the stretch unless it was wrapped over lines
      const at = k.text.text.length === k.text.plain.length ? r.reasonAt : Math.max(0, k.text.text.indexOf(k.text.plain.slice(r.reasonAt, r.reasonAt + 12)));
      m.reason = k.text.slice(at).trimmed();
    }
    readings.push({ places: r.places, line: k.line, key: k });
  }
  const first = readings[0];
  const other = readings.find((r) => r.places.join() !== first?.places.join());
  if (first && other) {
    const fixes = [first, other].flatMap((kept) => {
      const others = readings.filter((r) => r.places.join() !== kept.places.join());
      const keys = others.flatMap((r) => r.key ?? []);
      // a mark beside an option is not to be taken out by itself
      if (keys.length < others.length) return [];
      return keysAs(keys, nameOfPlaces(entries, kept.places, ', '), `Keep ${nameOfPlaces(entries, kept.places)}`);
    });
    const both = `${nameOfPlaces(entries, first.places)} and ${nameOfPlaces(entries, other.places)}`;
    m.doubt('key-conflict', 'error', `${m.name} has two keys: ${both}.`, other.line, fixes);
    return [];
  }
  return first?.places ?? [];
}

const KIND_NOTE =
  /\s*[([](?:multiple[- ]response|multiple[- ]choice|mehrfachauswahl|einfachauswahl|single choice|selección (?:múltiple|única)|opción múltiple|choix (?:multiple|unique)|scelta (?:multipla|singola)|múltipla escolha|meerkeuze|wielokrotny wybór|MCQ?|QCM)[)\]]\s*$/i;

/** A choice of one or several. */
export function choice(m: ItemBuilder, forced: Kind | undefined): Item {
  const { entries } = m.block;
  const shares = withShares(m);
  const ends = shares ?? entries.map((e) => ended(m, e));
  const texts = ends.map((e) => e.text);
  const places = keyed(m, texts);
  const options: Option[] = entries.map((e, i) => ({
    id: newId(),
    content: m.rich(texts[i] as Stretch, 'option'),
    credit: ends[i]?.credit ?? (places.includes(i) ? 1 : 0),
    ...(e.feedback.length && { feedback: m.rich(m.stretch(e.feedback), 'feedback') }),
    ...(ends[i]?.pinned && { pinned: true }),
  }));
  checkOptions(m, entries, options);
  const note = KIND_NOTE.exec(m.stem.text);
  if (note) m.stem = m.stem.slice(0, note.index);
  const one = /(?:choose|select|pick|tick|mark|give)\s+(?:only\s+)?(?:the\s+)?(?:one|1|best|single|correct answer\b)/i.test(m.stem.text);
  const full = options.filter((o) => o.credit === 1).length;
  const said = ALL_THAT_APPLY.test(m.stem.text) || (m.block.part.kind === 'multiple-response' && !one);
  const scored = m.block.fields.some((f) => f.name === 'scoring');
  const several = forced ? forced === 'multiple-response' : scored || full > 1 || (said && full !== 1) || (said && ALL_THAT_APPLY.test(m.stem.text));
  const common = { ...m.common(), stem: m.stemRich() };
  if (shares && !full) return { ...common, kind: 'multiple-response', ...byShares(options) };
  return several ? { ...common, kind: 'multiple-response', scoring: 'all-or-nothing', options } : { ...common, kind: 'multiple-choice', options };
}

/** The places that a label may have; a letter has one in each row of its script. */
const placesOf = (e: Entry): readonly number[] =>
  e.labels === 'number'
    ? [Number(e.label) - 1]
    : e.labels === 'roman'
      ? [romanValue(e.label.toUpperCase()) - 1]
      : e.label.length > 1
        ? [0]
        : letterPlaces(e.label);

function checkOptions(m: ItemBuilder, entries: readonly Entry[], options: readonly Option[]): void {
  if (entries.length === 1) m.doubt('option-single', 'warning', `${m.name} has one option only.`, m.lineOf(entries[0] as Entry));
  const seen = new Set<string>();
  entries.forEach((e, i) => {
    const content = options[i]?.content ?? '';
    // in short words case can be the very question ("T" and "t")
    const key = content
      .split(/\s+/)
      .map((w) => (w.length > 2 ? w.toLowerCase() : w))
      .join(' ')
      .replace(/[.;,]$/, '')
      .trim();
    if (!key) m.doubt('option-empty', 'warning', `${m.name}: option ${e.label.toUpperCase() || i + 1} is empty.`, m.lineOf(e));
    else if (seen.has(key)) m.doubt('option-duplicate', 'warning', `${m.name}: two options say “${plainOption(key).slice(0, 60)}”.`, m.lineOf(e));
    seen.add(key);
  });
  if (entries.some((e) => !e.label || e.labels === 'bullet')) return;
  const places = entries.map(placesOf);
  const jump = places.findIndex((p, i) => !p.includes(i) && (i === 0 || !p.some((x) => places[i - 1]?.includes(x - 1))));
  if (jump >= 0)
    m.doubt('option-label-gap', 'warning', `${m.name}: the option letters jump or repeat at ${entries[jump]?.label ?? ''}.`, m.lineOf(entries[jump] as Entry));
}

/** "True" and "False" as the two options. */
export function truthByOptions(m: ItemBuilder, truths: readonly boolean[]): Item {
  const { entries } = m.block;
  const texts = entries.map((e) => optionText(m, e));
  for (const t of texts) m.use(t, 'option');
  const said = m.keys.map((k) => truth(k.text.plain, true)).filter((t) => t !== null);
  const label = m.keys.some((k) => /^[A-Za-z]$/.test(k.text.plain)) && entries.every((e) => e.label);
  const places = said.length && !label && !entries.some((e) => e.marked) ? [truths.indexOf(said[0] ?? true)] : keyed(m, texts);
  const note = truthNote(m.stem.text);
  if (note) m.stem = m.stem.without(note.from, note.to);
  const feedback = Object.fromEntries(entries.flatMap((e, i) => (e.feedback.length ? [[String(truths[i]), m.rich(m.stretch(e.feedback), 'feedback')]] : [])));
  return {
    ...m.common(),
    stem: m.stemRich(),
    kind: 'true-false',
    answer: places.length === 1 ? (truths[places[0] ?? 0] ?? null) : null,
    ...(Object.keys(feedback).length && { optionFeedback: feedback }),
  };
}
