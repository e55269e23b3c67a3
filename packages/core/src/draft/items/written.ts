/** Questions answered in writing: true or false, gaps, numbers, words, essays. */
import { newId } from '../../item/ids.js';
import { defaultMatch, matchRule, type Fix, type Gap, type Item, type Kind, type NumberAnswer, type TextAnswer } from '../../item/model.js';
import { parseNumber } from '../../language/numbers.js';
import { plainOption, readNumber, wordings } from '../signatures/answers.js';
import { BLANK, BRACED, BRACKETED, hasBlank, WRITE_ON } from '../../language/blanks.js';
import { keysAs, truthFixes } from './fixes.js';
import type { Key, ItemBuilder } from './itemBuilder.js';
import { EMPHASIS, KEY_LOOKS, Stretch } from '../surface/stretch.js';
import { matchesOf } from '../../language/matches.js';
import { ONE_IN_BRACKETS, RING_OR_CROSS, truth, truthKey, truthLetters, truthNote, truthSides } from '../../language/truths.js';
import { pattern } from '../../language/labels.js';
import { asksForMore, ESSAY_WORDS, FALSE, TRUE, VARIES } from '../../language/words.js';

/** Makes the item of a question without options. `forced` is a kind that the draft names outright. */
export function written(m: ItemBuilder, said: Kind | undefined, forced?: Kind): Item {
  const key = m.keys[0];
  const value = key?.text.plain ?? '';
  const model = m.block.fields.find((f) => f.name === 'model');
  if (forced === 'true-false' || (!forced && isTruth(m, value, said))) return trueFalse(m, key);
  if (forced === 'cloze') return cloze(m);
  const choices = forced ? null : choicesWithin(m);
  if (choices) return choices;
  if (!forced && hasGaps(m, said, value)) return cloze(m);
  if (WRITE_ON.test(m.stem.text)) m.stem = m.stem.slice(0, m.stem.text.search(WRITE_ON)).trimmed();
  const varies = VARIES.test(value);
  // which of them, and how many, only a person can tell
  const some = SOME_OF.test(value);
  const asks = asksForMore(m.stem.text) || ESSAY_WORDS.test(m.stem.text);
  const long = value.split(/\s+/).length > 6;
  const essay =
    forced === 'essay' ||
    (!forced && (varies || some || model !== undefined || m.block.fields.some((f) => f.name === 'rubric') || said === 'essay' || (asks && (!value || long))));
  if (essay) {
    const modelAnswer = key && !varies ? m.rich(key.text, 'key') : '';
    return { ...m.common(), stem: m.stemRich(), kind: 'essay', ...(modelAnswer && { modelAnswer }) };
  }
  const tail = value || forced ? null : (ARROW_TAIL.exec(m.stem.text) ?? /\s*[=≈]\s*([^=]{1,40})$/.exec(m.stem.text));
  let answer = key?.text;
  if (tail && (tail[1] ?? '').trim()) {
    answer = m.stem.slice(tail.index + tail[0].length - (tail[1]?.length ?? 0)).trimmed();
    m.use(answer, 'key');
    m.stem = m.stem.slice(0, tail.index).trimmed();
  }
  if (answer && !forced && !m.reason && key) answer = withoutReason(m, answer);
  return numberOrWords(m, answer, forced);
}

/** "Any two of salt, sugar, yeast", "e.g. light": answers of which some are to be given, or that others may stand beside. From memory. */
const SOME_OF =
  /^(?:e\.\s?g\.|for example|np\.|na przykład|z\.\s?B\.|zum Beispiel|p\.\s?ej\.|por ejemplo|par ex(?:emple|\.)|ad es(?:empio|\.)|per esempio|por ex(?:emplo|\.)|bijv(?:oorbeeld|\.)|např\.|napr\.|например|наприклад|örneğin|t\.\s?ex\.|f\.\s?eks\.|for eksempel|till exempel|esim\.)[\s:,]+(?=\S)|^(?:any|at least)(?: (?:one|two|three|four|five|[1-9])(?: (?:points?|answers?|examples?|reasons?))?)?\s*(?:of|from|:)\s*(?=\S)/i;

/** An answer behind an arrow; what else it holds is part of it. */
const ARROW_TAIL = /\s*(?:[-–—=]>|→|⇒)\s*((?:(?![-–—=]>|→|⇒).){1,80})$/u;

/** "54 cm² – Multiply the length by the width.": what stands behind a dash is a reason where the answer in front of it is brief. */
function withoutReason(m: ItemBuilder, answer: Stretch): Stretch {
  const sum = /^(.{1,40}?\S)\s*\(([^()]*(?:=|→)[^()]*)\)\s*$/su.exec(answer.text);
  if (sum && readNumber(sum[1] ?? '', m.manner.decimalComma) !== null && readNumber(answer.plain, m.manner.decimalComma) === null) {
    const at = (sum[0] ?? '').lastIndexOf('(');
    m.reason = answer.slice(at + 1, answer.text.lastIndexOf(')')).trimmed();
    return answer.slice(0, at).trimmed();
  }
  // "crust - mantle - core" is a row of things
  if (!/[.?!]/.test(answer.text) && answer.text.split(/\s[–—-]\s/u).length > 3) return answer;
  const cut = /^(\S|\S.{0,60}?\S)\s+[–—-]\s+(\S.{7,})$/su.exec(answer.text) ?? /^(.{1,40}?[^\d\s])(?<!(?:^|\s)\p{L})[.;]\s+(\p{Lu}.{12,})$/su.exec(answer.text);
  const said = cut?.[1] ?? '';
  const number = readNumber(said, m.manner.decimalComma) !== null;
  if (!cut || (!number && said.split(/\s+/).length > 5) || (cut[2] ?? '').split(/\s+/).length < (number ? 2 : 3)) return answer;
  m.reason = answer.slice(cut[0].length - (cut[2]?.length ?? 0)).trimmed();
  return answer.slice(0, said.length).trimmed();
}

/** Whether a statement is called true or false, by a note, a part, or a key that is nothing else. */
function isTruth(m: ItemBuilder, value: string, said: Kind | undefined): boolean {
  if (m.keys.some((k) => k.truth !== undefined) || truthNote(m.stem.text) || RING_OR_CROSS.test(m.stem.text)) return true;
  const inline = truthKey(m.stem.text);
  const stem = m.stem.text
    .slice(0, inline?.from)
    .replace(WRITE_ON, '')
    .replace(/(?:_{2,}|\(\s*\)|\[\s*\])\s*$/, '');
  if (said === 'true-false' && asksForMore(stem) && !(value && truthIn(m, firstWord(value)) !== null)) return false;
  const blankInside = stem.replace(/^\s*(?:_{2,}|\(\s*\)|\[\s*\])\s*/, '').search(BLANK) >= 0;
  if (said === 'true-false') return !blankInside && !(value && truth(firstWord(value), true) === null && (value.length > 1 || /[?]\s*$/.test(stem)));
  if (inline && !blankInside) return true;
  // "5. The earth is flat." with the key F: a statement and no question, answered by one letter
  if (value.length === 1 && truth(value, true) !== null && !/[?¿]/.test(stem) && !blankInside) return true;
  return (
    value.length > 1 &&
    truth(firstWord(value), false) !== null &&
    /^[\p{L} ]+$/u.test(firstWord(value)) &&
    !blankInside &&
    !/^(?:what|which|who|where|when|how|why)\b/i.test(stem)
  );
}
/** A word or two for true or false. */
const TRUTH_FIRST = pattern(`^(?:not true|${FALSE}|${TRUE})(?![\\p{L}\\p{M}])`);
const firstWord = (v: string): string => {
  return TRUTH_FIRST.exec(v)?.[0] ?? /^[([]?\s*(\p{L}+)/u.exec(v)?.[1] ?? v;
};

/** The truth value of a word, in the letters of the part where it names them. */
function truthIn(m: ItemBuilder, word: string): boolean | null {
  const letters = m.block.part.truths ?? m.manner.truths;
  const at = letters ? letters.indexOf(word.toUpperCase()) : -1;
  return at < 0 ? truth(word, true) : at === 0;
}

/** One of the letters that the part gives for true and false, behind a statement. */
function ownTruthKey(text: string, letters: readonly [string, string] | null | undefined): ReturnType<typeof truthKey> {
  const m = letters ? /(?:\s{2,}|\t|(?<=[.!?])\s|\s*[([]\s*)(\p{L})\s*[)\]]?\s*$/u.exec(text) : null;
  const at = m && letters ? letters.indexOf((m[1] ?? '').toUpperCase()) : -1;
  return m && m.index > 0 && at >= 0 ? { from: m.index, to: text.length, value: at === 0 } : null;
}

/** A text as a pattern that finds just it: what a draft says may be a sign of patterns, such as +. */
const literal = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&');

/** Looks that mark what was circled. */
const STANDS_OUT = KEY_LOOKS & ~EMPHASIS;
/** Which of true and false stands out in a note with both: "**True** / False". */
function circledIn(note: Stretch): boolean | null {
  const [a, b] = truthSides(note.text) ?? [];
  if (!a || !b) return null;
  const [one, other] = [a, b].map((s) => (note.slice(s.from, s.to).look & STANDS_OUT) > 0);
  return one === other ? null : one ? a.value : b.value;
}

function trueFalse(m: ItemBuilder, key: Key | undefined): Item {
  const note = truthNote(m.stem.text);
  // "Σωστό ή λάθος: … (Λ)": the letters that the two words start with
  const named = note ? truthLetters(m.stem.text.slice(note.from, note.to).replace(/\s*:\s*$/, '')) : null;
  let circled = note ? circledIn(m.stem.slice(note.from, note.to)) : null;
  if (note && circled !== null) m.use(m.stem.slice(note.from, note.to), 'key');
  if (note) m.stem = m.stem.without(note.from, note.to);
  const own = m.block.part.truths ?? m.manner.truths ?? named;
  const [yes, no] = (own ?? []).map(literal);
  const choose = own ? new RegExp(`\\s*[([]?\\s*(?:${yes}\\s*[/|]\\s*${no}|${no}\\s*[/|]\\s*${yes})\\s*[)\\]]?\\s*$`, 'u').exec(m.stem.text) : null;
  if (choose && choose.index > 0) m.stem = m.stem.slice(0, choose.index);
  const ring = ONE_IN_BRACKETS.exec(m.stem.text);
  if (ring && ring.index > 0) {
    circled = ring[1] !== undefined;
    m.use(m.stem.slice(ring.index), 'key');
    m.stem = m.stem.slice(0, ring.index).trimmed();
  }
  const both = /\s?[([☐□○]?\s{0,4}[TVRWP]\s{0,4}[)\]]?\s{0,4}[/|]?\s{0,4}[([☐□○]?\s{0,4}[FY]\s{0,4}[)\]]\s{0,4}$/u.exec(m.stem.text);
  if (both && both.index > 0 && /[)\]]/.test(both[0])) m.stem = m.stem.slice(0, both.index);
  const boxes = /^(?:_{2,}|\[\s*\]|\(\s+\)|☐)\s*/u.exec(m.stem.text);
  if (boxes) m.stem = m.stem.slice(boxes[0].length);
  const line = /\s*(?:_{2,}|\.{5,}|…{2,}|\[\s*\]|\(\s*\)|（\s*）|☐(?:\s*\p{L}+\s*☐\s*\p{L}+)?)\s*$/u.exec(m.stem.text);
  if (line && line.index > 0) m.stem = m.stem.slice(0, line.index);
  const inline = truthKey(m.stem.text) ?? ownTruthKey(m.stem.text, own);
  if (inline) {
    const reasonAt = inline.reason;
    m.use(m.stem.slice(inline.from, reasonAt), 'key');
    if (reasonAt !== undefined && !m.reason) m.reason = m.stem.slice(reasonAt).trimmed();
    m.stem = m.stem.slice(0, inline.from).trimmed();
    const choice = truthNote(m.stem.text);
    if (choice) m.stem = m.stem.without(choice.from, choice.to);
  }
  const why = m.reason || !m.keys.some((k) => k.truth !== undefined) ? null : /(?<=[.!])\s*\(([^()]{4,160})\)\s*$/.exec(m.stem.text);
  if (why && why.index > 0) {
    const from = why.index + why[0].indexOf('(') + 1;
    m.reason = m.stem.slice(from, from + (why[1]?.length ?? 0)).trimmed();
    m.stem = m.stem.slice(0, why.index).trimmed();
  }
  // "F  The sun cools the sea. – It warms it.": what is right instead
  const instead = !m.reason && m.keys.some((k) => k.truth === false) ? /(?<=[.!])\s+(?:[–—]\s+|\p{Lu}\p{L}{4,14}:\s+)(\S.{3,160})$/u.exec(m.stem.text) : null;
  if (instead) {
    m.reason = m.stem.slice(m.stem.text.length - (instead[1]?.length ?? 0)).trimmed();
    m.stem = m.stem.slice(0, instead.index).trimmed();
  }
  let fromKey: boolean | null = null;
  if (key) {
    const value = key.text.plain;
    const first = firstWord(value);
    fromKey = key.truth ?? truthIn(m, first);
    const rest = value.slice(value.indexOf(first) + first.length).replace(/^[\s.,;:)\]–—=(-]+/, '');
    if (/^[TFVRtfvr](?:[\s,;]+[TFVRtfvr])+$/.test(value)) {
      m.doubt('key-conflict', 'error', `${m.name}: the key “${value.slice(0, 30)}” says more than one thing.`, key.line, truthFixes([key]));
      return { ...m.common(), stem: m.stemRich(), kind: 'true-false', answer: null };
    }
    if (key.truth === undefined && fromKey !== null && rest && !m.reason) m.reason = key.text.slice(key.text.text.indexOf(rest.slice(0, 8))).trimmed();
    else if (key.truth === undefined && fromKey === null && value)
      m.doubt('key-unknown-option', 'error', `${m.name}: the key “${value.slice(0, 40)}” says neither true nor false.`, key.line, truthFixes([key]));
  }
  const common = { ...m.common(), stem: m.stemRich() };
  const others = m.keys.filter((k) => k !== key).map((k) => k.truth ?? truthIn(m, firstWord(k.text.plain)));
  const values = [circled, inline?.value, fromKey, ...others].filter((v): v is boolean => v !== null && v !== undefined);
  if (values.some((v) => v !== values[0])) {
    // what the statement itself says is not to be taken out by itself
    const fixes = inline || circled !== null ? [] : truthFixes(m.keys);
    m.doubt('key-conflict', 'error', `${m.name} is called true in one place and false in another.`, m.keys[m.keys.length - 1]?.line, fixes);
    return { ...common, kind: 'true-false', answer: null };
  }
  return { ...common, kind: 'true-false', answer: values[0] ?? null };
}

/** Of keys that say different things, one for each to keep. */
const oneOf = (keys: readonly Key[]): Fix[] =>
  keys.flatMap((kept) =>
    keysAs(
      keys.filter((k) => k !== kept),
      kept.text.plain,
      `Keep “${kept.text.plain.slice(0, 30)}”`,
    ),
  );

/** Answers with their credit: "levain (50 %)". */
const PARTIAL = /\s*\(\s*(-?\d+(?:[.,]\d+)?)\s*%\s*\)\s*$/;
function credited(text: string): { text: string; credit: number } {
  const m = PARTIAL.exec(text);
  const credit = m && m.index > 0 ? Number((m[1] ?? '').replace(',', '.')) / 100 : Number.NaN;
  // more than all of it is no share, but words of the answer
  return m && Math.abs(credit) <= 1 ? { text: text.slice(0, m.index), credit } : { text, credit: 1 };
}
const QUOTED = /^"([^"]*)"((?:\s*\(\s*-?\d+(?:[.,]\d+)?\s*%\s*\))?)$/;
/** Accepted wordings; one stands in quotes where it holds a sign that would part it: `biga / "a / b" (50 %)`. */
function textAnswers(value: Stretch): TextAnswer[] {
  if (value.text.length > 4000 || !/(?:^|[/|]\s*)"[^"]*"\s*(?:\([^)]*\)\s*)?(?:$|[/|])/.test(value.text)) return wordings(value.plain).map(credited);
  // signs within quotes part nothing
  const parts: Stretch[] = [];
  let from = 0;
  let quoted = false;
  for (let i = 0; i <= value.text.length; i++) {
    const c = value.text[i];
    if (c === '"') quoted = !quoted;
    if (i < value.text.length && (quoted || (c !== '/' && c !== '|'))) continue;
    parts.push(value.slice(from, i).trimmed());
    from = i + 1;
  }
  return parts.flatMap((p) => {
    const said = QUOTED.exec(p.text);
    if (!said) return wordings(p.plain).map(credited);
    return [{ text: p.slice(1, 1 + (said[1]?.length ?? 0)).plain, credit: credited(`x${said[2] ?? ''}`).credit }];
  });
}

/** A tick and a score behind an answer, as on a marked paper. */
const GRADED = /(?<=\S)\s*[✓✔✅√]\s*(?:\d{1,2}\s?\/\s?\d{1,2})?$/u;
function numberOrWords(m: ItemBuilder, answer: Stretch | undefined, forced: Kind | undefined): Item {
  const graded = answer ? GRADED.exec(answer.text) : null;
  if (answer && graded) answer = answer.slice(0, graded.index).trimmed();
  const value = answer?.plain ?? '';
  const all = m.keys;
  const tolerance = m.block.tolerance ? parseNumber(m.words(m.stretch(m.block.tolerance), 'key'), m.manner.decimalComma) : null;
  const numbers =
    forced === 'short-answer'
      ? []
      : (all.length > 1 ? all.map((k) => k.text.plain) : numberParts(value)).map((v) => ({
          ...credited(v),
          read: readNumber(credited(v).text, m.manner.decimalComma),
        }));
  if (numbers.length && numbers.every((n) => n.read)) {
    const unit = numbers.map((n) => n.read?.unit).find(Boolean);
    m.answerFeedback = forced !== undefined;
    const answers: NumberAnswer[] = numbers.map((n, i) => ({
      min: (n.read?.min ?? 0) - (tolerance ?? 0),
      max: (n.read?.max ?? 0) + (tolerance ?? 0),
      credit: n.credit,
      ...(forced && all.length === numbers.length && all[i]?.feedback && { feedback: m.rich(all[i].feedback, 'feedback') }),
    }));
    const same = all.length > 1 && answers.some((a) => a.min !== answers[0]?.min || a.max !== answers[0]?.max) && !m.block.row && !forced;
    if (same) m.doubt('key-conflict', 'error', `${m.name} has two keys: ${all.map((k) => k.text.plain).join(' and ')}.`, all[all.length - 1]?.line, oneOf(all));
    return {
      ...m.common(),
      stem: m.stemRich(),
      kind: 'numeric',
      answers: same ? [] : all.length > 1 ? answers.slice(0, forced || m.block.row ? undefined : 1) : answers,
      ...(unit && { unit }),
    };
  }
  if (forced === 'numeric') {
    if (value) m.doubt('key-missing', 'error', `${m.name}: “${value.slice(0, 40)}” is no number.`, m.keys[0]?.line);
    return { ...m.common(), stem: m.stemRich(), kind: 'numeric', answers: [] };
  }
  const stem = m.stemRich();
  m.answerFeedback = forced !== undefined;
  const of = (k: Key): TextAnswer[] => textAnswers(k.text).map((a) => (k.feedback && forced ? { ...a, feedback: m.rich(k.feedback, 'feedback') } : a));
  const answers = m.block.row || forced ? all.flatMap(of) : answer ? textAnswers(answer) : [];
  const [first, second] = all;
  const conflict =
    !m.block.row &&
    !forced &&
    first &&
    second &&
    !textAnswers(second.text).some((a) => textAnswers(first.text).some((x) => x.text.toLowerCase() === a.text.toLowerCase()));
  if (conflict)
    m.doubt(
      'key-conflict',
      'error',
      `${m.name} has two keys: “${first.text.plain.slice(0, 30)}” and “${second.text.plain.slice(0, 30)}”.`,
      second.line,
      oneOf(all),
    );
  return { ...m.common(), stem, kind: 'short-answer', match: matchOf(m), answers: conflict ? [] : answers };
}
/** Several numbers that are all right: "4 or -4", "1/2; 0.5". A lone comma may part decimals and parts nothing here. */
const numberParts = (value: string): string[] => (value ? value.split(/\s*;\s*|\s+(?:or|oder|ou|o|of|lub|или|або|veya)\s+|\s+\/\s+/) : []);

/** The matching rule that a field says: "Match: case, accents ignored, spelling 1". */
function matchOf(m: ItemBuilder): Extract<Item, { kind: 'short-answer' }>['match'] {
  const f = m.block.fields.find((x) => x.name === 'match');
  return f ? ruleNamed(m.stretch(f.pieces).plain) : { ...defaultMatch };
}
/** The matching rule that words name ("exact spelling", "ignore case"); the usual one where they name none. */
export function ruleNamed(words: string): typeof defaultMatch {
  const spelling = /spelling (\d)/.exec(words)?.[1];
  return matchRule.parse({
    caseSensitive: /\bcase\b/.test(words),
    ...(/punctuation ignored/.test(words) && { punctuation: 'ignore' }),
    ...(/accents ignored/.test(words) && { accents: 'ignore' }),
    ...(/numbers as written/.test(words) && { numbersAsValues: false }),
    ...(/order kept/.test(words) && { anyOrder: false }),
    ...(spelling && { spelling: Number(spelling) }),
  });
}

// ── gaps ──

/** Whether the stem has blanks within it, or answers in their place. */
function hasGaps(m: ItemBuilder, said: Kind | undefined, value: string): boolean {
  const t = m.stem.text;
  if (BRACED.test(t) || /\[\[\d+\]\]/.test(t)) return true;
  if ((said === 'cloze' || m.manner.bracketGaps) && !value && BRACKETED.test(t)) return true;
  if (!hasBlank(t)) return false;
  // a question with only a line to write on is answered in words
  return !(WRITE_ON.test(t) && /(?:[?:!)]\s*|\p{L}\.\s+)(?:_{3,}|\.{5,}|…{2,})[\s_.…]*$/u.test(t)) || t.replace(WRITE_ON, '').search(BLANK) >= 0;
}

/** Words to choose from within a sentence: "(kneaded / whipped)", "[wet | clean]". */
const CHOICES = /[([{]\s*([^()[\]{}/|]{1,40}(?:[/|][^()[\]{}/|]{1,40}){1,5})[)\]}]/gu;
/** Notes in brackets with a stroke that are nothing to choose from: what is true or false, fractions, "and/or". */
const NO_CHOICE = /^\s*(?:\p{L}\s*[/|]\s*\p{L}|\d+\s*\/\s*\d+|and\s*\/\s*or|\p{L}{1,3}\/\p{L}{1,2})\s*$/iu;
/** A mark in front of or behind the right word. */
const STARRED = /^[*✓✔](?=\s*\S)|(?<=\S)\s?[*✓✔]$/u;
const starless = (w: Stretch): Stretch => {
  const mark = STARRED.exec(w.text);
  return !mark ? w : (mark.index === 0 ? w.slice(1) : w.slice(0, mark.index)).trimmed();
};
/** A sentence with words to choose from in brackets as a cloze of choices: where a key or a mark says one of each, or where nothing else is asked. Null where there are none. */
function choicesWithin(m: ItemBuilder): Item | null {
  const arrow = m.keys.length ? null : /\s*(?:→|->|=>|⇒|➜)\s*(\S.{0,60})$/u.exec(m.stem.text);
  const t = m.stem.text.slice(0, arrow?.index);
  // behind a question they are options of the whole
  if (t.length > 4000 || !/[/|]/.test(t) || hasBlank(t) || /[?？][^?？]*[)\]]\s*$/.test(t)) return null;
  const found = matchesOf(CHOICES, t).filter(
    (g) => !NO_CHOICE.test(g[1] ?? '') && g[0].split(/[/|]/).some((w) => truth(w.replace(/[([{}\])]/g, ''), true) === null),
  );
  if (!found.length) return null;
  const each = found.map((g) => m.stem.slice(g.index + 1, g.index + g[0].length - 1).split(/[/|]/g));
  const key = m.keys[0]?.text.plain ?? arrow?.[1] ?? '';
  const said = key
    ? found.length === 1
      ? [key]
      : splitKey(
          key,
          found.map(() => ({ label: '' })),
        )
    : [];
  const looks = each.map((words) => words.map((w) => (w.look & KEY_LOOKS) !== 0 || STARRED.test(w.text)));
  const marked = looks.every((own) => own.filter(Boolean).length === 1);
  const places = each.map((words, i) =>
    key ? words.findIndex((w) => plainOption(starless(w).plain) === plainOption(said[i] ?? '')) : marked ? (looks[i]?.indexOf(true) ?? -1) : -1,
  );
  const told = places.every((p) => p >= 0);
  // in square brackets they may be wordings to accept
  if (!told && (key || /[?？]\s*$/.test(t) || BRACED.test(t) || found.some((g) => !g[0].startsWith('(')))) return null;
  if (arrow) {
    m.use(m.stem.slice(arrow.index), 'key');
    m.stem = m.stem.slice(0, arrow.index).trimmed();
  }
  const parts: Stretch[] = [];
  let at = 0;
  const gaps = found.map((g, i): Gap => {
    const id = String(i + 1);
    parts.push(m.stem.slice(at, g.index), new Stretch(`[[${id}]]`, []));
    at = g.index + g[0].length;
    const options = (each[i] ?? []).map((w, k) => ({
      id: newId(),
      content: m.rich(starless(w), 'option'),
      credit: k === places[i] ? 1 : 0,
    }));
    return { id, kind: 'choice', points: 1, options };
  });
  parts.push(m.stem.slice(at));
  m.stem = glued(parts).trimmed();
  return { ...m.common(), stem: m.stemRich(), kind: 'cloze', gaps };
}

interface GapFound {
  from: number;
  to: number;
  /** The answer in its place. */
  inner: [number, number] | null;
  /** A label that the key uses: "(a) ____". */
  label: string;
}
function gapsIn(m: ItemBuilder, said: Kind | undefined, value: string): GapFound[] {
  const t = m.stem.text;
  const out: GapFound[] = [];
  const brackets = !value && (said === 'cloze' || m.manner.bracketGaps || BRACED.test(t));
  const find = new RegExp(`\\{([^{}]{1,400})\\}|${BLANK.source}${brackets ? `|${BRACKETED.source}` : ''}`, 'gi');
  for (const g of t.matchAll(find)) {
    const inner = g[1] ?? g[2];
    const at = inner === undefined ? -1 : g.index + g[0].indexOf(inner);
    const label = inner === undefined ? (/(?:^|\s)[([]?([a-h]|\d{1,2})[)\].]\s*$/.exec(t.slice(Math.max(0, g.index - 8), g.index)) ?? null) : null;
    const own = label && inKey(label[1] ?? '', value) ? label : null;
    const lead = own ? own[0].trimStart().length : 0;
    out.push({ from: g.index - lead, to: g.index + g[0].length, inner: inner === undefined ? null : [at, at + inner.length], label: own?.[1] ?? '' });
  }
  return out;
}
const inKey = (label: string, value: string): boolean => new RegExp(`(?:^|[\\s,;(])${label}[).:=\\s–-]`, 'i').test(value);

function cloze(m: ItemBuilder): Item {
  const all = m.keys;
  const key = all[0];
  let value = key?.text.plain ?? '';
  const said = m.noted ?? m.kindSaid();
  // "She ______ (be) at home. → is"
  const arrow = value ? null : /\s*(?:→|->|=>|⇒|➜)\s*(\S.{0,60})$/u.exec(m.stem.text);
  if (arrow && hasBlank(m.stem.text.slice(0, arrow.index))) {
    value = arrow[1] ?? '';
    m.use(m.stem.slice(arrow.index), 'key');
    m.stem = m.stem.slice(0, arrow.index).trimmed();
  }
  // an answer in square brackets at the end belongs to the blank before it: "… is ____ %. [76]"
  const behind = value ? null : /\s*\[([^\][]{1,80})\]\s*[.]?\s*$/.exec(m.stem.text);
  if (behind && hasBlank(m.stem.text.slice(0, behind.index))) {
    value = behind[1] ?? '';
    m.use(m.stem.slice(behind.index), 'key');
    m.stem = m.stem.slice(0, behind.index).trimmed();
  }
  const found = gapsIn(m, said, value);
  const open = found.filter((g) => !g.inner);
  const rows = m.block.row && all.length > 1;
  const values =
    rows && open.length === all.length && open.length > 1
      ? all.map((k) => k.text.plain)
      : open.length === 1
        ? [rows ? all.map((k) => k.text.plain).join(' | ') : value.replace(/^\(?[1a][.)]\s+/, '')]
        : fewer(splitKey(value, open), value, open.length);
  const parts: Stretch[] = [];
  const gaps: Gap[] = [];
  let at = 0;
  let next = 0;
  found.forEach((g, i) => {
    const id = String(i + 1);
    const inner = g.inner ? m.stem.slice(...g.inner).trimmed() : null;
    if (inner) m.use(inner, 'key');
    const value = (values[inner ? -1 : next] ?? '').trim();
    if (!inner) next++;
    const answer = inner ?? new Stretch(value, []);
    parts.push(m.stem.slice(at, g.from), new Stretch(`[[${id}]]`, []));
    at = g.to;
    gaps.push(gapOf(m, id, answer, i));
  });
  parts.push(m.stem.slice(at));
  m.stem = glued(parts).trimmed();
  const unanswered = gaps.filter((g) => g.kind !== 'choice' && !g.answers.length);
  if (unanswered.length && unanswered.length < gaps.length)
    m.doubt('gap-without-answer', 'error', `${m.name}: blank ${unanswered.map((g) => g.id).join(', ')} has no answer.`);
  else if (unanswered.length)
    m.doubt(value ? 'gap-without-answer' : 'key-missing', 'error', `${m.name} has no answer for its blank${gaps.length > 1 ? 's' : ''}.`);
  else if (value && open.length > 0 && values.length > open.length) m.doubt('key-conflict', 'error', `${m.name} has more answers than blanks.`);
  const stem = m.stemRich();
  return { ...m.common(), stem, kind: 'cloze', gaps };
}
/** Stretches one behind the other, nothing between. */
function glued(parts: readonly Stretch[]): Stretch {
  let text = '';
  const runs: Stretch['runs'][number][] = [];
  for (const p of parts) {
    for (const r of p.runs) runs.push({ ...r, at: r.at + text.length });
    text += p.text;
  }
  return new Stretch(text, runs);
}

const creditOf = (s: Stretch): { words: Stretch; credit: number } => {
  const { text, credit } = credited(s.text);
  return { words: s.slice(0, text.length), credit };
};

/** A gap: options where one is starred, a number, or accepted wordings. What a "Gap 2:" line says goes on top. */
function gapOf(m: ItemBuilder, id: string, answer: Stretch, index: number): Gap {
  const field = m.block.fields.find((f) => f.name === 'gap' && m.stretch(f.pieces).plain.startsWith(`${index + 1}:`));
  const more = field ? m.words(m.stretch(field.pieces), 'field').slice(String(index + 1).length + 1) : '';
  const points = Number(/(\d+(?:\.\d+)?) points?/.exec(more)?.[1] ?? 1);
  const listed = answer.split(/\|/g);
  if ((listed.length > 1 && listed.some((o) => o.text.startsWith('*'))) || /\bchoice\b/.test(more)) {
    return {
      id,
      kind: 'choice',
      points,
      options: listed.map((o) => {
        const { words, credit } = creditOf(o.slice(o.text.startsWith('*') ? 1 : 0).trimmed());
        return { id: newId(), content: m.rich(words, 'option'), credit: o.text.startsWith('*') ? credit : 0 };
      }),
    };
  }
  const quoted = answer.text.startsWith('"');
  const numbers = quoted
    ? []
    : listed
        .map(creditOf)
        .map((n) => ({ ...n, value: n.words.plain.replace(/^=\s*/, ''), number: readNumber(n.words.plain.replace(/^=\s*/, ''), m.manner.decimalComma) }));
  const exact = listed.length > 1 || parseNumber(numbers[0]?.value ?? '', m.manner.decimalComma) !== null || /^=|±|–|\bto\b/.test(answer.text);
  if ((numbers.length && exact && numbers.every((n) => n.number)) || (/\bnumber\b/.test(more) && !listed.length)) {
    const answers = numbers.map((n) => ({ min: n.number?.min ?? 0, max: n.number?.max ?? 0, credit: n.credit, text: n.value }));
    return { id, kind: 'number', points, answers };
  }
  return { id, kind: 'text', points, answers: answer.text ? textAnswers(answer) : [], ...(RULE_WORDS.test(more) && { match: ruleNamed(more) }) };
}
const RULE_WORDS = /\b(?:case|ignored|spelling|as written|order kept|plain match)\b/;

/** Fewer answers than blanks fill them in order. */
function fewer(found: string[], value: string, gaps: number): string[] {
  if (found.length || !value) return found;
  const parts = value.split(/\s*[;,]\s*/).filter(Boolean);
  return parts.length < gaps ? parts : found;
}

/** The answers of several blanks in one key: "1) rye 2) water", "rye; water", "rye, water". */
function splitKey(key: string, gaps: readonly { label: string }[]): string[] {
  const n = gaps.length;
  if (!key || n === 0) return [];
  const labelled = Array.from(key.matchAll(/(?:^|[\s,;]+)[([]?(\d{1,2}|[a-h])[)\].:=]\s*(.*?)(?=(?:[\s,;]+[([]?(?:\d{1,2}|[a-h])[)\].:=]\s)|$)/gi));
  if (labelled.length === n && labelled[0]?.index === 0) {
    const byLabel = gaps.map((g) => labelled.find((l) => g.label && l[1]?.toLowerCase() === g.label.toLowerCase())?.[2]);
    return (byLabel.every((v) => v !== undefined) ? (byLabel as string[]) : labelled.map((l) => l[2] ?? '')).map((s) => s.replace(/[,;]\s*$/, '').trim());
  }
  for (const sign of [
    /\s*;\s*/,
    /\s*[,،]\s+(?!\d{3}\b)|\s*,(?=\p{L})/u,
    /\s+[–—-]\s+/,
    /\s+\/\s+/,
    /\s*\|\s*/,
    /\s+(?:and|y|et|und|e|en|i|и|та|ve)\s+|\s*,\s*/u,
    /\s{2,}/,
  ]) {
    const parts = key.split(sign);
    if (parts.length === n) return withoutNumbers(parts, gaps);
  }
  return inCounting(key, n);
}

const COUNTED = /^\s*[([]?(\d{1,2}|[a-h])[)\]]?[.):=]?\s+(?=\S)/i;
/** "1 yeast", "2 gluten": numbers without a sign that are the labels of the blanks, or count them from one, are none of the answers. */
function withoutNumbers(parts: string[], gaps: readonly { label: string }[]): string[] {
  const found = parts.map((p) => COUNTED.exec(p));
  const labels = found.map((m) => m?.[1]?.toLowerCase() ?? '');
  const named = gaps.every((g, i) => g.label !== '' && g.label.toLowerCase() === labels[i]);
  return named ? parts.map((p, i) => p.slice(found[i]?.[0].length ?? 0)) : parts;
}
/** "1 bones 2 vegetables 3 sieve": as many numbers as blanks, counted from one, part the answers; none where they do not. */
function inCounting(key: string, n: number): string[] {
  const out: string[] = [];
  let from = 0;
  for (let i = 1; i <= n; i++) {
    const at = i === 1 ? (/^\s*\(?1\)?\s+(?=\S)/.exec(key)?.[0].length ?? -1) : key.slice(from).search(new RegExp(`\\s\\(?${i}\\)?\\s+\\p{L}`, 'u'));
    if (at < 0) return [];
    if (i === 1) from = at;
    else {
      out.push(key.slice(from, from + at).trim());
      from += at + (/^\s\(?\d+\)?\s+/.exec(key.slice(from + at))?.[0].length ?? 0);
    }
  }
  out.push(key.slice(from).trim());
  return out.length === n && out.every(Boolean) ? out : [];
}
