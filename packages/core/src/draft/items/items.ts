/** From blocks to items: which kind a question is, and what its notes and fields say. */
import { keyProblem } from '../../item/kinds.js';
import type { Fix, Item, Kind } from '../../item/model.js';
import { keyFixes } from './fixes.js';
import { parseNumber } from '../../language/numbers.js';
import { choice, optionText, truthByOptions } from './choice.js';
import { ItemBuilder, type WritingHabits, type Problem, type Used } from './itemBuilder.js';
import { matching, ordering, orderingInLine } from './pairing.js';
import { hasBlank } from '../../language/blanks.js';
import type { Line } from '../surface/lines.js';
import type { Block, Listed } from '../model/outline.js';
import { fillsBlank } from '../signatures/bracketEnd.js';
import { pattern } from '../../language/labels.js';
import { pointsNote } from '../../language/points.js';
import { settingsOf } from './settings.js';
import { Stretch } from '../surface/stretch.js';
import { truth } from '../../language/truths.js';
import { kindNamed } from '../signatures/headings.js';
import { ANSWER, ESSAY_WORDS, INFORMATION, KIND_NAME, LEVEL, KIND_NAME_ORDER, POINTS } from '../../language/words.js';
import { written } from './written.js';
import { matchesOf } from '../../language/matches.js';

/** An item with what became of its characters and what is doubtful about it, counted from the block's first line. */
export interface Built {
  item: Item;
  problems: readonly Problem[];
  used: readonly Used[];
}

/** Makes the item of a block. Offsets in what it returns count from the block's first character. */
export function build(block: Block, lines: readonly Line[], draft: string, listed: Listed | undefined, manner: WritingHabits): Built {
  const m = new ItemBuilder(block, lines, draft, listed, manner);
  takeNotes(m);
  pointsBehindKeys(m);
  notesToMarkers(m);
  const item = withFields(m, kindOf(m));
  const none = keyProblem(item);
  const told = m.problems.some((p) => /^(?:key-conflict|key-unknown-option|gap-without-answer|key-missing|match-unbalanced)$/.test(p.code));
  if (none && !told) m.doubt(none.code, 'error', `${m.name} has ${none.message}.`, undefined, keyFixes(m, item));
  if (!m.stem.text.trim() && block.entries.length) m.doubt('stem-empty', 'error', `${m.name} has options and no question.`);
  return { item, problems: m.problems, used: m.used };
}

const ANSWER_BEHIND = new RegExp(
  `\\s*[([{]\\s*(?:(?:${ANSWER})\\s*[:=]|(?:ans|resp|r[ée]p|risp|antw|lös|odp|отв|відп|key|sol)\\.)\\s*([^()[\\]{}]{1,160})[)\\]}]\\s*$`,
  'iu',
);
/** Such an answer at the end of a text: where it begins, and its words. */
function answerInBrackets(text: string): { at: number; from: number; words: string } | null {
  const found = /[)\]}]\s*$/.test(text) ? ANSWER_BEHIND.exec(text.slice(-400)) : null;
  if (!found) return null;
  const words = found[1] ?? '';
  const at = text.length - found[0].length;
  return { at, from: at + found[0].indexOf(words, 1), words };
}
/** "… cheese:            Key: b", "… tzatziki. Answer: béchamel": a word for the answer behind the question. */
const TAIL_ANSWER = new RegExp(`(?:\\s{3,}|(?<=[.?!])\\s+)(?:${ANSWER})\\s*[:=]\\s*([^:]{1,80})$`, 'iu');
/** "Convert 350 °F to °C. Accept 176 to 177.": what is accepted, behind the question. */
const ACCEPT_BEHIND =
  /(?<=[.?!:_°\p{L}])\s+(?:accept(?:ed)?|allow|akzeptiert|zulässig|se acepta|accepter|accettare|aceitar|goed|допускается)\s*:?\s+(\d[^?]{0,40})$/iu;
/** "[Sam: maybe with a graph]" at the end of a stem. */
const SAID = /\s*\[\p{Lu}[\p{L}.]{1,14}:\s[^\]]{2,200}\]\s*$/u;
/** What stands in brackets behind a question, or anywhere at the end of one with a blank. */
const KEY_BEHIND = /(?<=[?.:_])\s*\(([^()]{1,80})\)\s*$/;
const KEY_BEHIND_GAP = /\s*\(([^()]{1,80})\)\s*$/;
/** A blank at the end, or in a sentence that ends, and something in brackets behind. */
const KEY_BEHIND_LINE = /(?<=(?:_{3}|\.{5}|…)\s{0,3}\.?|[_.…]{3}[^_…]{1,80}[.?!])\s*\(([^()]{1,60})\)\s*\.?\s*$/;
/** "Which vitamin …? [20s]". */
const SECONDS =
  /(?<=[?.:!])\s*(?:\[\s*|\(\s*(?=[^)]*\p{L}{2}))(\d{1,3})\s?(?:s|secs?|seconds?|sek(?:unden)?|seg(?:undos)?|sec(?:ondes?|ondi)?|с|сек)\.?\s*[)\]]\s*$/iu;
/** Points without a word, behind a question or in front of it: "[2]", "(1,0)", "(2,0) –". */
const BARE_POINTS = /\s*[([](\d{1,2}(?:[.,]\d{1,2})?)[)\]]\s*$/;
const BARE_POINTS_AHEAD = /^\s*[([](\d{1,2}(?:[.,]\d{1,2})?)[)\]]\s*[–—:.-]\s*(?=\S)/u;
/** "(1,0)" behind a question. */
const DECIMAL_POINTS = /\s*[([](\d{1,2}[.,]\d{1,2})[)\]]\s*$/;
/** "Options:" between a question and its options on the same line. */
const OPTIONS_FOLLOW =
  /(?<=[?.:!…_])\s+(?:(?:answer )?options|choices|opciones|opzioni|op[çc][õo]es|alternativas?|optionen|antwort(?:en|möglichkeiten)|propositions|choix|opties|odpowiedzi|warianty|варианты(?: ответов?)?|варіанти(?: відповідей)?|seçenekler|şıklar)\s*:\s*$/iu;
const BONUS = /^[([]?\s*bonus(?: question)?\s*[)\]]?\s*[:.–-]?\s*/i;
/** Marks that assistants leave for their sources: "【4†source】", "[^3]", "[12]" behind a sentence. */
const CITATION = /\s*(?:【[^】]{1,40}】|\[\^\d{1,3}\]|\[\d{1,3}\](?=\s*$)|\(\[[^\]]{1,60}\]\[\d{1,2}\]\))/gu;

/** What markers are told not to take, behind a key: "evaporation (accept: evaporating; reject: boiling)". From memory. */
const REFUSED =
  /(?:\s*[([;]\s*|[,.]\s+|\s+[–—-]\s+)(?:reject|refuse|ignore|do(?: not|n't) (?:accept|credit|allow)|not accept(?:ed)?|no (?:se )?acepta[rn]?|(?:ne pas|refuser) (?:accepter)?|nicht (?:akzeptieren|gelten lassen|richtig)|non accettare|não aceitar|niet goed(?: rekenen)?|nie uznajemy|не принимать|не зараховувати)\s*[:=]?\s+[^()[\]]{1,120}(?=[)\]]?\s*$)/iu;
/** How the points of a key are shared out: "(1 mark for 150/2.5, 1 for the unit)". */
const SHARED = pattern(
  `\\s*[([]\\s*(?:(?:po|je|à|a)\\s+)?\\d{1,2}(?:[.,]\\d)?\\s*(?:${POINTS})\\s+(?:for|each|per|für|pour|por|za|per|voor|за)(?![\\p{L}])[^()[\\]]{0,100}[)\\]]\\s*$`,
);
/** Notes to whoever marks leave the keys; they are told as set aside. */
function notesToMarkers(m: ItemBuilder): void {
  for (const k of m.keys)
    for (const note of [SHARED, REFUSED]) {
      const found = k.text.text.length < 400 ? note.exec(k.text.text) : null;
      if (!found || found.index === 0) continue;
      m.setAside(k.text.slice(found.index, found.index + found[0].length));
      k.text = k.text.without(found.index, found.index + found[0].length).trimmed();
    }
}

/** Points, "Bonus", the key in brackets behind the question and marks of sources leave the stem. */
function takeNotes(m: ItemBuilder): void {
  // what the authors say to each other is no part of the question
  for (let note = SAID.exec(m.stem.text); note && note.index > 0; note = SAID.exec(m.stem.text)) m.stem = m.stem.slice(0, note.index).trimmed();
  const behind = answerInBrackets(m.stem.text);
  if (behind) takeKey(m, behind.from, behind.words, behind.at);
  // "Rationale: rub until dry. (Correct: C)"
  for (const f of m.keys.length ? [] : m.block.fields.filter((x) => x.name === 'feedback')) {
    const s = m.stretch(f.pieces).trimmed();
    const said = answerInBrackets(s.text);
    if (!said || said.at === 0) continue;
    const key = s.slice(said.from, said.from + said.words.length).trimmed();
    m.use(s.slice(said.at), 'key');
    m.keys.push({ text: key, line: f.line - m.block.line, feedback: null });
    m.ends.set(f, said.at);
  }
  const tail = m.keys.length ? null : TAIL_ANSWER.exec(m.stem.text.slice(-200));
  if (tail?.[1]) takeKey(m, m.stem.text.length - tail[1].length, tail[1], m.stem.text.length - tail[0].length);
  const accepted = m.keys.length || m.block.entries.length ? null : ACCEPT_BEHIND.exec(m.stem.text.slice(-80));
  if (accepted?.[1]) takeKey(m, m.stem.text.length - accepted[1].length, accepted[1].replace(/\.\s*$/, ''), m.stem.text.length - accepted[0].length);
  // no answer is written so where the others are points: "… (atmosfera) (1,0)"
  barePoints(m, DECIMAL_POINTS);
  const open = !m.keys.length && !m.block.entries.length;
  const said = m.manner.bracketKeys && open ? (hasBlank(m.stem.text) ? KEY_BEHIND_GAP : KEY_BEHIND).exec(m.stem.text) : null;
  // one question alone that ends so: where else would its answer stand
  const alone = said || !open ? null : KEY_BEHIND_LINE.exec(m.stem.text);
  const found = said ?? (fillsBlank(alone?.[1]) ? alone : null);
  if (found && !pointsNote(found[0]) && !ESSAY_WORDS.test(found[0])) {
    const from = found.index + found[0].indexOf('(') + 1;
    const brackets = m.stem.slice(from - 1, found.index + found[0].length);
    takeKey(m, from, found[1] ?? '', found.index);
    if (found === alone)
      m.doubt(
        'key-unsure',
        'warning',
        `${m.name}: “${found[1]}” in brackets behind the blank was read as its answer.`,
        0,
        onLineOfItsOwn(brackets, found[1] ?? ''),
      );
  }
  barePoints(m, BARE_POINTS);
  if (m.block.entries.length) m.stem = m.stem.slice(0, OPTIONS_FOLLOW.exec(m.stem.text)?.index);
  const p = pointsNote(m.stem.text);
  if (p) {
    m.points = p.points;
    m.stem = m.stem.without(p.from, p.to);
    if (p.from === 0) m.stem = m.stem.slice(/^\s*[:.–—-]\s+/.exec(m.stem.text)?.[0].length ?? 0);
  }
  const seconds = SECONDS.exec(m.stem.text);
  if (seconds) {
    m.seconds = Number(seconds[1]);
    m.stem = m.stem.slice(0, seconds.index);
  }
  if (m.block.bonus) m.bonus = true;
  const bonus = BONUS.exec(m.stem.text);
  if (bonus && bonus[0].length < m.stem.text.length && (/[\])]/.test(bonus[0]) || /[:.–-]\s*$/.test(bonus[0]))) {
    m.bonus = true;
    m.stem = m.stem.slice(bonus[0].length);
  }
  m.stem = withoutCitations(kindNote(m, m.stem));
}

/** Takes points without a word off the stem, where the draft has them so. @param behind finds them at the end */
function barePoints(m: ItemBuilder, behind: RegExp): void {
  const bare = m.manner.bracketPoints || m.block.sub ? behind.exec(m.stem.text) : null;
  const ahead = m.manner.bracketPoints && !bare ? BARE_POINTS_AHEAD.exec(m.stem.text) : null;
  const found = bare && bare.index > 0 ? bare : ahead;
  if (!found) return;
  m.points = Number((found[1] ?? '').replace(',', '.'));
  m.stem = found === bare ? m.stem.slice(0, found.index) : m.stem.slice(found[0].length);
}

/** "pocheren, bakken (2 pt)": points behind a key are those of the question. */
function pointsBehindKeys(m: ItemBuilder): void {
  for (const k of m.keys) {
    const p = pointsNote(k.text.text);
    if (!p || p.from === 0 || p.to < k.text.text.length || !/[)\]]\s*$/.test(k.text.text)) continue;
    m.points ??= p.points;
    k.text = k.text.slice(0, p.from).trimmed();
  }
}

/** Puts a key that stands in brackets on a line of its own. */
function onLineOfItsOwn(brackets: Stretch, key: string): Fix[] {
  const [first, last] = [brackets.runs[0], brackets.runs[brackets.runs.length - 1]];
  return first && last ? [{ label: 'It is the answer', edits: [{ from: first.from, to: last.from + last.length, insert: `\nAnswer: ${key.trim()}` }] }] : [];
}
/** Words of the stem from a column on are its key; the stem ends at `end`. */
function takeKey(m: ItemBuilder, from: number, words: string, end: number): void {
  const key = m.stem.slice(from, from + words.length).trimmed();
  m.use(key, 'key');
  m.keys.push({ text: key, line: 0, feedback: null });
  m.stem = m.stem.slice(0, end).trimmed();
}

/** "(Multiple choice, 2 points)" in front of or behind a stem: only names of kinds, points and levels, nothing that speaks to learners. */
function kindNote(m: ItemBuilder, stem: Stretch): Stretch {
  const lead = /^[([]([^)\]]{1,60})[)\]]\s*[:.–—-]?\s*/.exec(stem.text);
  const tail = /\s*[([]([^)\]]{1,60})[)\]]\s*[:.]?\s*$/.exec(stem.text);
  const note = [lead, tail].find((n) => n && n[0].length < stem.text.length && n[1] && noteSays(m, n[1], n === lead));
  if (!note) return stem;
  return note.index === 0 ? stem.slice(note[0].length) : stem.slice(0, note.index);
}
function noteSays(m: ItemBuilder, note: string, ahead: boolean): boolean {
  const points = /^(\d+(?:[.,]\d+)?)\s*(.+)$/;
  const parts = note.split(/\s*[,;|·–—]\s*/);
  const kinds = parts.map((p) => KIND_NAME.exec(p.trim()));
  const levels = parts.map((p) => LEVEL.test(p.trim()));
  const amounts = parts.map((p) => (pointsNote(`(${p.trim()})`) ? points.exec(p.trim()) : null));
  // behind a question "(hard)" alone could be its answer
  const named = kinds.some(Boolean) || (levels.some(Boolean) && (ahead || amounts.some(Boolean)));
  if (!named || !parts.every((_, i) => kinds[i] ?? amounts[i] ?? levels[i])) return false;
  const place = kinds.find(Boolean)?.slice(1).findIndex(Boolean) ?? -1;
  m.noted = KIND_NAME_ORDER[place];
  m.level = parts
    .filter((_, i) => levels[i])
    .map((p) =>
      p
        .replace(/^[^\p{L}]+/u, '')
        .trim()
        .toLowerCase(),
    );
  const amount = amounts.find(Boolean)?.[1];
  if (amount) m.points = Number(amount.replace(',', '.'));
  return true;
}
/** A stretch without marks of sources that chat assistants leave behind: "[1]", "【4†source】". */
export function withoutCitations(s: Stretch): Stretch {
  if (!/[【[]/.test(s.text)) return s;
  let out = s;
  for (const c of matchesOf(CITATION, s.text).reverse()) {
    if (/^\s*\[\d/.test(c[0]) && s.text.slice(0, c.index).search(/_{2,}/) >= 0) continue;
    const tail = out.slice(c.index + c[0].length);
    const head = out.slice(0, c.index);
    out =
      /^[\s.,;:!?)]/.test(tail.text) || !tail.text
        ? new Stretch(head.text + tail.text, [...head.runs, ...tail.runs.map((r) => ({ ...r, at: r.at + head.text.length }))])
        : Stretch.join([head, tail.trimmed()]);
  }
  return out.trimmed();
}

function kindOf(m: ItemBuilder): Item {
  const b = m.block;
  const said = m.noted ?? m.kindSaid();
  const info = INFORMATION.exec(m.stem.text);
  if (b.kind === 'information' || (info && !b.entries.length && !b.keys.length)) {
    if (info) m.stem = m.stem.slice(info[0].length);
    return { ...m.common(), points: 0, kind: 'information', stem: m.stemRich() };
  }
  const forced = b.fields.find((f) => f.name === 'kind');
  const named = forced ? kindNamed(m.stretch(forced.pieces).plain) : undefined;
  return byKind(m, named ?? b.kind, said);
}
function byKind(m: ItemBuilder, forced: Kind | undefined, said: Kind | undefined): Item {
  const b = m.block;
  if (forced === 'information') return { ...m.common(), points: 0, kind: 'information', stem: m.stemRich() };
  if (forced === 'essay') return written(m, 'essay', 'essay');
  const numbers = b.count.number > 0 && b.count.letter > 0;
  if (forced === 'matching' || b.pairs.length || (said === 'matching' && (numbers || b.count.number + b.count.letter > 1) && !asChoice(m))) return matching(m);
  if (forced === 'ordering' || (said === 'ordering' && b.entries.length >= 2)) {
    const order = ordering(m, forced === 'ordering');
    if (order) return order;
  }
  if (forced === 'cloze') return written(m, 'cloze', 'cloze');
  // lettered lines to write on are no options
  const write = forced === undefined && b.entries.length > 0 && b.entries.every((e) => /^[_.…\s]*$/.test(optionText(m, e).text));
  if (write) b.entries = [];
  if (b.entries.length && forced !== 'short-answer' && forced !== 'numeric') {
    const truths = b.entries.map((e) => truth(optionText(m, e).plain, e.form === 'box' && b.entries.length === 2));
    const two = b.entries.length === 2 && truths[0] !== null && truths[1] !== null && truths[0] !== truths[1];
    if ((two && forced !== 'multiple-choice' && forced !== 'multiple-response') || (forced === 'true-false' && two))
      return truthByOptions(m, truths as boolean[]);
    // a key that names each one once, and not in the order of the lines, is no choice
    const order = !forced && said !== 'multiple-response' && namesAllOutOfOrder(m) ? ordering(m, false) : null;
    if (order) return order;
    if (b.entries.length) return choice(m, forced);
  }
  return (forced === undefined && !b.entries.length && orderingInLine(m)) || written(m, said, forced);
}

function namesAllOutOfOrder(m: ItemBuilder): boolean {
  const named = m.keys.length === 1 ? (m.keys[0]?.text.plain.match(/(?<![\p{L}\d])(?:\d{1,2}|[A-Za-z])(?![\p{L}\d])/gu) ?? []).map((x) => x.toUpperCase()) : [];
  const count = m.block.entries.length;
  if (count < 3 || named.length !== count || new Set(named).size < count || !/^[\s\p{L}\d,;>→–-]+$/u.test(m.keys[0]?.text.plain ?? '')) return false;
  return named.some((x, i) => i > 0 && (/^\d/.test(x) ? Number(x) < Number(named[i - 1]) : x < (named[i - 1] ?? '')));
}
/** Whether a question that says "match" is answered by one letter all the same. */
const asChoice = (m: ItemBuilder): boolean =>
  m.block.count.number === 0 && m.keys.length === 1 && /^\s*[([]?[A-Za-z][)\].]?\s*$/.test(m.keys[0]?.text.text ?? '');

/** What the field lines of a block say, on top of an item. */
function withFields(m: ItemBuilder, item: Item): Item {
  const b = m.block;
  const feedback: { correct?: string; incorrect?: string; general?: string } = {};
  const more: Record<string, unknown> = {};
  const add = (name: string, values: string[]): void => void (more[name] = [...((more[name] as string[] | undefined) ?? []), ...values]);
  for (const f of b.fields) {
    const s = withoutCitations(m.stretch(f.pieces).trimmed().slice(0, m.ends.get(f)).trimmed());
    const v = s.plain;
    if (!v) continue;
    const line = f.line - b.line;
    switch (f.name) {
      case 'feedback': {
        const text = m.rich(s, 'feedback');
        feedback.general = feedback.general ? `${feedback.general} ${text}` : text;
        break;
      }
      case 'correct':
      case 'incorrect':
        feedback[f.name] = m.rich(s, 'feedback');
        break;
      case 'hint':
        add('hints', [m.rich(s, 'field')]);
        break;
      case 'points': {
        m.use(s, 'field');
        const n = parseNumber(/[\d.,/]+/.exec(v)?.[0] ?? '', m.manner.decimalComma);
        if (n === null || n < 0) m.doubt('points-invalid', 'warning', `${m.name}: “${v}” is no number of points.`, line);
        else m.points = n;
        break;
      }
      case 'tags':
        m.use(s, 'field');
        add(
          'tags',
          s.split(/[,;#]/g).map((t) => t.plain),
        );
        break;
      case 'outcomes':
        m.use(s, 'field');
        add(
          'outcomes',
          s.split(/;/g).map((t) => t.plain),
        );
        break;
      default:
        settingsOf(m, item, f.name, s, more, line);
    }
  }
  for (const k of m.keys) if (k.feedback && !m.answerFeedback) feedback.general = [feedback.general, m.rich(k.feedback, 'feedback')].filter(Boolean).join(' ');
  if (m.reason && !feedback.general) {
    const text = withoutCitations(m.reason.trimmed())
      .rich.replace(/^\((.*)\)$/su, '$1')
      .replace(/^([^()]*)\)$/su, '$1');
    if (text) feedback.general = text;
  }
  const points = m.points ?? b.part.points ?? (b.part.questions === 1 ? b.part.total : undefined);
  return {
    ...item,
    ...(points !== undefined && item.kind !== 'information' && { points }),
    ...(Object.keys(feedback).length && { feedback }),
    ...more,
    ...(m.level.length > 0 && { tags: [...new Set([...((more['tags'] as string[] | undefined) ?? []), ...m.level])] }),
    ...(m.seconds && { timeLimit: m.seconds }),
    ...(m.bonus && { bonus: true }),
  };
}
