/**
 * The canonical notation: how a set is written as text, in the way that a careful person would type it. The draft reader
 * reads it back without loss; `takeBack` gives what was read its old identity again.
 */
import { writtenNumber } from '../../language/decimal.js';
import { parseFragment, type DefaultTreeAdapterMap } from 'parse5';
import { letterOf } from '../../item/kinds.js';
import { defaultMatch, type Item, type MatchRule, type NumberAnswer, type QuizSet, type Section, type TextAnswer, UNTITLED } from '../../item/model.js';
import { isMarkup, richToXhtml } from '../../item/richText.js';
import { readNumber } from '../../draft/signatures/answers.js';
import { lineText } from '../../draft/surface/lines.js';
import { NO_PART, UNTITLED_PART } from '../../draft/model/outline.js';
import { EMPTY_STEP } from '../../draft/items/pairing.js';
import { DraftReader, readDraft } from '../../draft/read.js';
import type { Diagnostic } from '../../item/model.js';

/**
 * How much is spelt out: 0 what a person would write, 1 the kind and the points named, 2 also every sign escaped that
 * could be read as more than itself. Each item is written as plainly as it can be read back.
 */
type Care = 0 | 1 | 2;

/** A set as text. `readDraft` reads it back; `takeBack` also restores ids. */
export function writeNotation(set: QuizSet): string {
  const care = set.items.map((): Care => 0);
  for (let round = 0; ; round++) {
    const text = textOf(set, care);
    if (round === 6) return text;
    const read = readDraft(text, set.language ? { language: set.language } : {}).set;
    let sure = true;
    set.items.forEach((item, i) => {
      const back = read.items[i];
      if (back && look(item) === look(back)) return;
      care[i] = Math.min(2, (care[i] ?? 0) + 1) as Care;
      sure = false;
    });
    if (sure && read.items.length === set.items.length) return text;
    // what follows a misread item may be misread because of it
    if (read.items.length !== set.items.length) care.fill(Math.min(2, round + 1) as Care);
  }
}
function textOf(set: QuizSet, care: readonly Care[]): string {
  const out: string[] = [];
  if (set.title && set.title !== UNTITLED) out.push(`# ${inline(set.title, 2)}`, '');
  if (set.language) out.push(`Language: ${set.language}`, '');
  if (set.description) out.push(`Description: ${inline(set.description, 1)}`, '');
  let section: string | undefined;
  set.items.forEach((item, i) => {
    if (item.section !== section) {
      section = item.section;
      out.push(...heading(set.sections?.find((s) => s.id === section)), '');
    }
    out.push(...itemLines(item, i + 1, care[i] ?? 0), '');
  });
  return `${out.join('\n').trimEnd()}\n`;
}

function heading(s: Section | undefined): string[] {
  if (!s) return [`## ${NO_PART}`];
  const out = [`## ${s.title ? inline(s.title, 0) : UNTITLED_PART}`];
  if (s.instructions) out.push(`Instructions: ${inline(s.instructions, 1)}`);
  if (s.passage) out.push(`Passage: ${inline(s.passage, 1)}`);
  return out;
}

/** One item as lines, `number` printed in front. */
function itemLines(item: Item, number: number, care: Care): string[] {
  const stem = item.kind === 'cloze' ? clozeStem(item, care) : inline(item.stem, care);
  // a number of its own is printed as such, unless that made the reader doubt
  const printed = care < 2 && /^[1-9]\d{0,2}$/.test(item.label ?? '') ? String(item.label) : String(number);
  const out = [`${printed}. ${stem}`.trimEnd()];
  const field = (name: string, value: string | number | undefined): void => void (value !== undefined && value !== '' && out.push(`${name}: ${value}`));
  if (care > 0 || item.kind === 'information') field('Kind', item.kind);
  out.push(...ownLines(item, care));
  if (item.points !== (item.kind === 'information' ? 0 : 1) || care > 0) field('Points', item.points);
  if (item.label !== undefined && item.label !== printed) field('Label', inline(item.label, care));
  if (item.title) field('Item title', inline(item.title, care));
  if (item.feedback?.general !== undefined) field('Feedback', inline(item.feedback.general, care));
  if (item.feedback?.correct !== undefined) field('If correct', inline(item.feedback.correct, care));
  if (item.feedback?.incorrect !== undefined) field('If incorrect', inline(item.feedback.incorrect, care));
  for (const h of item.hints ?? []) field('Hint', inline(h, care));
  if (item.tags?.length) field('Tags', item.tags.map((t) => listed(t, care)).join('; '));
  if (item.outcomes?.length) field('Outcome', item.outcomes.map((t) => listed(t, care)).join('; '));
  field('Bloom', item.level?.bloom);
  field('Depth', item.level?.depth);
  if (item.level?.difficulty !== undefined) field('Difficulty', item.level.difficulty);
  if (item.bonus) field('Bonus', 'yes');
  if (item.required !== undefined) field('Required', item.required ? 'yes' : 'no');
  if (item.shuffle !== undefined) field('Shuffle', item.shuffle ? 'yes' : 'no');
  if (item.timeLimit !== undefined) field('Time', `${item.timeLimit} s`);
  return out;
}

const percent = (credit: number): string => `(${Number((credit * 100).toFixed(6))} %)`;

/** The lines of an item that only its kind has. */
function ownLines(item: Item, care: Care): string[] {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response': {
      const out = item.options.flatMap((o, i) => {
        const label = item.options.length > 26 ? '-' : `${letterOf(i)})`;
        const pinned = o.pinned ? ' (stays last)' : '';
        const part = o.credit !== 0 && o.credit !== 1 ? ` ${percent(o.credit)}` : '';
        return [
          `${label} ${inline(o.content, care)}${part}${pinned}${o.credit === 0 ? '' : ' *'}`,
          ...(o.feedback === undefined ? [] : [`   -> ${inline(o.feedback, care)}`]),
        ];
      });
      if (item.kind === 'multiple-response' && item.scoring !== 'all-or-nothing') out.push(`Scoring: ${item.scoring.replace(/-/g, ' ')}`);
      return out;
    }
    case 'true-false': {
      const f = item.optionFeedback;
      if (!f || (f.true === undefined && f.false === undefined)) return item.answer === null ? [] : [`Answer: ${String(item.answer)}`];
      const side = (value: boolean, feedback: string | undefined): string[] => [
        `${value ? 'A) True' : 'B) False'}${item.answer === value ? ' *' : ''}`,
        ...(feedback === undefined ? [] : [`   -> ${inline(feedback, care)}`]),
      ];
      return [...side(true, f.true), ...side(false, f.false)];
    }
    case 'short-answer': {
      const own = item.answers.some((a) => a.feedback !== undefined);
      const answers = own
        ? item.answers.flatMap((a) => [`Answer: ${answerText(a, care)}`, ...(a.feedback === undefined ? [] : [`-> ${inline(a.feedback, care)}`])])
        : item.answers.length
          ? [`Answer: ${item.answers.map((a) => answerText(a, care)).join(' / ')}`]
          : [];
      return [...answers, ...ruleLine(item.match)];
    }
    case 'numeric': {
      const own = item.answers.some((a) => a.feedback !== undefined);
      const unit = item.unit === undefined ? '' : inline(item.unit, care);
      if (own || (care > 0 && item.answers.length > 1))
        return [
          ...item.answers.flatMap((a) => [`Answer: ${numberText(a)}`, ...(a.feedback === undefined ? [] : [`-> ${inline(a.feedback, care)}`])]),
          ...(unit ? [`Unit: ${unit}`] : []),
        ];
      const behind = unit && care === 0 && item.answers.length === 1 && item.answers[0]?.credit === 1;
      return [
        ...(item.answers.length ? [`Answer: ${item.answers.map(numberText).join(' / ')}${behind ? ` ${unit}` : ''}`] : []),
        ...(unit && !behind ? [`Unit: ${unit}`] : []),
      ];
    }
    case 'cloze': {
      const bank = item.wordBank?.length ? [`Word bank: ${item.wordBank.map((w) => inline(w, care)).join(' | ')}`] : [];
      const more = item.gaps.flatMap((g, i) => {
        const notes = [
          ...(g.points === 1 ? [] : [`${g.points} points`]),
          ...(g.kind === 'text' && g.match ? [ruleWords(g.match) || 'plain match'] : []),
          ...(g.kind === 'choice' && !g.options.some((o) => o.credit !== 0) ? ['choice'] : []),
          ...(g.kind === 'number' && !g.answers.length ? ['number'] : []),
        ];
        return notes.length ? [`Gap ${i + 1}: ${notes.join(', ')}`] : [];
      });
      return [...bank, ...more];
    }
    case 'matching': {
      const blank = (s: string): string => inline(s, care) || '____';
      const extra = item.extraRights.length ? [`Extra: ${item.extraRights.map((e) => inline(e, care)).join(' | ')}`] : [];
      return [...item.pairs.map((p) => `${blank(p.left)} -> ${blank(p.right)}`), ...extra];
    }
    case 'ordering':
      return item.sequence.map((s) => `- ${inline(s, care) || EMPTY_STEP}`);
    case 'essay':
      return [
        ...(item.modelAnswer === undefined ? [] : [`Model answer: ${inline(item.modelAnswer, care)}`]),
        ...(item.rubric === undefined ? [] : [`Rubric: ${inline(item.rubric, care)}`]),
        ...(item.lines === undefined ? [] : [`Lines: ${item.lines}`]),
      ];
    default:
      return [];
  }
}

/** The differences of a matching rule from the usual one, in words; empty where there is none. */
function ruleWords(rule: MatchRule): string {
  return [
    rule.caseSensitive ? 'case' : '',
    rule.punctuation === 'ignore' ? 'punctuation ignored' : '',
    rule.accents === 'ignore' ? 'accents ignored' : '',
    rule.numbersAsValues ? '' : 'numbers as written',
    rule.anyOrder ? '' : 'order kept',
    rule.spelling ? `spelling ${rule.spelling}` : '',
  ]
    .filter(Boolean)
    .join(', ');
}
const ruleLine = (rule: MatchRule): string[] => {
  const words = ruleWords(rule);
  return words ? [`Match: ${words}`] : [];
};

const PLAIN_ANSWER = /^[\p{L}\p{N}](?:[\p{L}\p{N} '’-]*[\p{L}\p{N}])?$/u;
/** An accepted wording; in quotes where its signs could part it. */
function answerText(a: TextAnswer, care: Care): string {
  const plain = care === 0 && PLAIN_ANSWER.test(a.text) && !/\s(?:or|and|ou|oder|oppure|lub|или|або|veya|\d+ %)\s/i.test(a.text);
  const words = plain ? a.text : `"${escaped(a.text, 2)}"`;
  return a.credit === 1 ? words : `${words} ${percent(a.credit)}`;
}
/** Without the signs that thousands could be read from. */
const decimal = (n: number): string => {
  const s = writtenNumber(n);
  return /^-?\d{1,3}\.\d{3}$/.test(s) ? `${s}0` : s;
};
function numberText(a: NumberAnswer): string {
  const range = a.min === a.max ? decimal(a.min) : `${decimal(a.min)} to ${decimal(a.max)}`;
  const read = a.text === undefined ? null : readNumber(a.text, false);
  const words = a.text !== undefined && read?.min === a.min && read.max === a.max ? a.text : range;
  return a.credit === 1 ? words : `${words} ${percent(a.credit)}`;
}
/** A tag or an outcome within its list. */
const listed = (text: string, care: Care): string => inline(text, care).replace(/\\.|&#\d+;|[,;#]/g, (c) => (c.length > 1 ? c : `\\${c}`));

/** Stands for a gap while the text around it is written: a private character each. */
const GAP = 0xf100;

function clozeStem(item: Extract<Item, { kind: 'cloze' }>, care: Care): string {
  const gaps = new Map(item.gaps.map((g) => [g.id, g]));
  // markers stay out of reach while the text around them is written
  const marked = item.stem.replace(/\[\[([^\][]+)\]\]/g, (whole, id: string) =>
    gaps.has(id) ? String.fromCharCode(GAP + [...gaps.keys()].indexOf(id)) : whole,
  );
  return inline(marked, care).replace(/[\uf100-\uf4ff]/g, (c) => {
    const g = item.gaps[c.charCodeAt(0) - GAP];
    if (!g) return '____';
    if (g.kind === 'choice')
      return g.options.length
        ? `{${g.options.map((o) => `${o.credit === 0 ? '' : '*'}${inline(o.content, Math.max(care, 1) as Care).replace(/[|*]/g, (c) => (c === '*' ? c : `\\${c}`))}${o.credit === 0 || o.credit === 1 ? '' : ` ${percent(o.credit)}`}`).join(' | ')}}`
        : '____';
    if (!g.answers.length) return '____';
    if (g.kind === 'number') return `{${g.answers.map((a) => `=${numberText(a)}`).join(' | ')}}`;
    return `{${g.answers.map((a) => answerText(a, /^[-\d.,/]/.test(a.text) ? 2 : care)).join(' | ')}}`;
  });
}

// ── inline text ──

type Node = DefaultTreeAdapterMap['childNode'];
const LIGHT: Record<string, [string, string]> = {
  strong: ['**', '**'],
  em: ['*', '*'],
  u: ['<u>', '</u>'],
  sub: ['<sub>', '</sub>'],
  sup: ['<sup>', '</sup>'],
};

/** Rich text on one line: light marks where they read back, XHTML where there is no lighter form. */
function inline(rich: string, care: Care): string {
  if (!isMarkup(rich))
    return rich.includes('\n')
      ? rich
          .split('\n')
          .map((l) => escaped(l, care))
          .join('<br/>')
      : escaped(rich, care);
  const light = care < 2 ? lightly(parseFragment(rich).childNodes, care) : null;
  if (light !== null && sameRich(lineRich(light), rich)) return light;
  const block = /^<(?:p|ul|ol|table|blockquote|pre|math|a|span)\b/.test(rich) ? rich : `<p>${rich}</p>`;
  // code keeps its lines and its indentation, as references that stand in one line
  return block
    .split(/(<pre\b(?:(?!<\/pre>)[\s\S])*<\/pre>)/)
    .map((piece, i) =>
      i % 2 ? piece.replace(/\n[ \t]*| {2,}|\t/g, (blank) => blank.replace(/[\n\t ]/g, (c) => `&#${c.charCodeAt(0)};`)) : piece.replace(/\s+/g, ' '),
    )
    .join('');
}
const lineRich = (text: string): string => {
  const set = new DraftReader().read(`1. ${text}\nKind: essay\n`).set;
  return set.items[0]?.stem ?? '';
};
function lightly(nodes: readonly Node[], care: Care): string | null {
  let out = '';
  for (const n of nodes) {
    if ('value' in n) {
      const words = n.value.replace(/\s+/g, ' ');
      out += `${words.startsWith(' ') ? ' ' : ''}${escaped(words, care)}${words.length > 1 && words.endsWith(' ') ? ' ' : ''}`;
      continue;
    }
    if (!('tagName' in n)) continue;
    if (n.tagName === 'br') {
      out += '<br/>';
      continue;
    }
    const marks = LIGHT[n.tagName];
    const inside = marks ? lightly(n.childNodes, care) : null;
    if (!marks || inside === null || !inside.trim()) return null;
    out += `${marks[0]}${inside}${marks[1]}`;
  }
  return out;
}

/** Plain words, with the signs escaped that the reader would take for marks. */
function escaped(text: string, care: Care): string {
  const words = text.replace(/\s+/g, ' ').trim();
  if (care === 2)
    // a letter by itself at the end may be a tick, where other lines end so as well
    return words.replace(/\\\(.*?\\\)|\\\[.*?\\\]|[!-/:-@[-`{-~0-9]|(?<=\s)[xX]$/g, (c) =>
      c.length > 1 ? c : /[()[\]xX]/.test(c) ? `&#${c.charCodeAt(0)};` : `\\${c}`,
    );
  const own = lineText(words);
  const plain = own.text === words && !own.runs.some((r) => r.look) && !/[{}|]/.test(words);
  return plain ? words : words.replace(/\\\(.*?\\\)|\\\[.*?\\\]|[\\`*_<&${}|]/g, (c) => (c.length > 1 ? c : `\\${c}`));
}

// ── back ──

const tidyRich = (rich: string | undefined): string => {
  const x = richToXhtml(rich ?? '')
    .replace(/&quot;/g, '"')
    .replace(/<br\s*\/>/g, '<br/>')
    .replace(/\s+/g, ' ')
    .trim();
  const sole = /^<p>((?:(?!<\/?p[ >]).)*)<\/p>$/.exec(x);
  return (sole?.[1] ?? x).trim();
};
const sameRich = (a: string, b: string): boolean => tidyRich(a) === tidyRich(b);

/** All that an item says, as one string: two items with the same look differ at most in ids, number, white space and language, for which text has no place. */
export function look(item: Item): string {
  const { id: _, section: _s, source: _o, label, language: _l, ...rest } = item;
  const words = JSON.stringify(rest, (key, value: unknown) => {
    if (key === 'id' || value === undefined) return undefined;
    if (typeof value === 'string') return tidyRich(value);
    if (Array.isArray(value) && !value.length && /^(?:hints|tags|outcomes|wordBank)$/.test(key)) return undefined;
    if (value && typeof value === 'object' && !Array.isArray(value) && !Object.keys(value).length) return undefined;
    if (key === 'match') return { ...defaultMatch, ...(value as object) };
    return value;
  });
  const gaps = item.kind === 'cloze' ? item.gaps.map((g) => g.id) : [];
  // gaps are named by their place; a number's text only counts where it says another value
  return `${named(label)}${sorted(words.replace(/\[\[([^\][]+)\]\]/g, (whole, id: string) => (gaps.includes(id) ? `[[#${gaps.indexOf(id)}]]` : whole)))}`;
}
const named = (label: string | undefined): string => (label === undefined || /^\d+$/.test(label) ? '' : `${label}\u0001`);
/** The same JSON with its keys in order, and without texts of numbers. */
const sorted = (json: string): string =>
  JSON.stringify(JSON.parse(json), (_, value: unknown) => {
    if (!value || typeof value !== 'object' || Array.isArray(value)) return value;
    const entries = Object.entries(value).filter(([k]) => !(k === 'text' && 'min' in value));
    return Object.fromEntries(entries.sort(([a], [b]) => (a < b ? -1 : 1)));
  });

/** What taking a text back gives: the set, with the ids of the items that it was written from where they are those, and its doubts. */
export interface TakenBack {
  set: QuizSet;
  diagnostics: Diagnostic[];
  /** Items of the new set that are unchanged, changed and new; and how many old ones are gone. */
  same: number;
  changed: number;
  added: number;
  removed: number;
}

/**
 * Reads a set that was edited as text. An item that says what an old one said is that very item, ids and all; one that
 * was changed keeps the id of the item it was made from; sections keep theirs by title.
 */
export function takeBack(old: QuizSet, text: string): TakenBack {
  const { set: read, diagnostics } = readDraft(text, old.language ? { language: old.language } : {});
  return identified(old, read, diagnostics);
}

/** The same of a text that was read already, in the language of the old set. */
export function identified(old: QuizSet, read: QuizSet, diagnostics: Diagnostic[]): TakenBack {
  const byLook = new Map<string, Item[]>();
  for (const i of old.items) {
    const own = look(i);
    const all = byLook.get(own);
    if (all) all.push(i);
    else byLook.set(own, [i]);
  }
  const partner = new Map<Item, Item>();
  const taken = new Set<Item>();
  for (const i of read.items) {
    const same = byLook.get(look(i))?.shift();
    if (!same) continue;
    partner.set(i, same);
    taken.add(same);
  }
  const unchanged = new Set(partner.keys());
  // a changed item stands between the neighbours that it had, or has most of its words
  const free = old.items.filter((i) => !taken.has(i));
  read.items.forEach((item, at) => {
    if (partner.has(item)) return;
    const best = free
      .map((f) => ({ f, likeness: likeness(f, item) + (neighbours(old, f, read, at, partner) ? 0.4 : 0) }))
      .sort((a, b) => b.likeness - a.likeness)[0];
    if (!best || best.likeness < 0.35) return;
    partner.set(item, best.f);
    free.splice(free.indexOf(best.f), 1);
  });
  const sections = sectionsBack(old, read);
  const items = read.items.map((item) => {
    const before = partner.get(item);
    const { source: _, label, ...words } = item;
    const section = item.section === undefined ? undefined : sections.ids.get(item.section);
    const home = section === undefined ? {} : { section };
    if (!before) return { ...words, ...(label !== undefined && { label }), ...home } as Item;
    const { section: _before, ...kept } = before;
    if (unchanged.has(item)) return sameHome(before, section) ? before : ({ ...kept, ...home } as Item);
    return {
      ...withIds(words as Item, before),
      ...(before.label !== undefined && label !== undefined && { label }),
      ...home,
      ...(before.language && { language: before.language }),
      id: before.id,
    } as Item;
  });
  const set: QuizSet = { ...old, title: read.title === UNTITLED ? old.title : sameRich(read.title, old.title) ? old.title : read.title, items };
  if (sections.list.length) set.sections = sections.list;
  else delete set.sections;
  if (read.description !== undefined && !sameRich(read.description, old.description ?? '')) set.description = read.description;
  return {
    set,
    diagnostics,
    same: unchanged.size,
    changed: partner.size - unchanged.size,
    added: read.items.length - partner.size,
    removed: old.items.length - partner.size,
  };
}
const sameHome = (item: Item, section: string | undefined): boolean => item.section === section;

function sectionsBack(old: QuizSet, read: QuizSet): { ids: Map<string, string>; list: Section[] } {
  const ids = new Map<string, string>();
  const list: Section[] = [];
  const free = [...(old.sections ?? [])];
  for (const s of read.sections ?? []) {
    const at = free.findIndex((f) => (f.title === undefined) === (s.title === undefined) && sameRich(f.title ?? '', s.title ?? ''));
    const before = at >= 0 ? free.splice(at, 1)[0] : undefined;
    const keep = (a: string | undefined, b: string | undefined): string | undefined => (a !== undefined && b !== undefined && sameRich(a, b) ? a : b);
    const section: Section = { id: before?.id ?? unused(s.id, old, list) };
    const title = keep(before?.title, s.title);
    const instructions = keep(before?.instructions, s.instructions);
    const passage = keep(before?.passage, s.passage);
    if (title !== undefined) section.title = title;
    if (instructions !== undefined) section.instructions = instructions;
    if (passage !== undefined) section.passage = passage;
    // a text has no place for it, and takes nothing from it
    if (before?.keepOrder) section.keepOrder = true;
    ids.set(s.id, section.id);
    list.push(section);
  }
  // sections that hold no item are not written and stay
  const empty = free.filter((f) => !old.items.some((i) => i.section === f.id));
  return { ids, list: [...list, ...empty] };
}
const unused = (id: string, old: QuizSet, list: readonly Section[]): string => {
  let n = 1;
  let name = id;
  while (old.sections?.some((s) => s.id === name) || list.some((s) => s.id === name)) name = `s${++n}`;
  return name;
};

const wordsOf = (i: Item): Set<string> =>
  new Set(
    look(i)
      .toLowerCase()
      .match(/[\p{L}\p{N}]{2,}/gu) ?? [],
  );
function likeness(a: Item, b: Item): number {
  const [x, y] = [wordsOf(a), wordsOf(b)];
  let n = 0;
  for (const w of x) if (y.has(w)) n++;
  return n / Math.max(1, Math.max(x.size, y.size));
}
/** Whether an item stands where the old one stood: behind or before the same unchanged item. */
function neighbours(old: QuizSet, was: Item, read: QuizSet, at: number, partner: ReadonlyMap<Item, Item>): boolean {
  const place = old.items.indexOf(was);
  const of = (i: number): Item | undefined => {
    const item = read.items[i];
    return item && partner.get(item);
  };
  const before = of(at - 1);
  const after = of(at + 1);
  return (
    (before !== undefined && old.items[place - 1] === before) ||
    (after !== undefined && old.items[place + 1] === after) ||
    (read.items.length === 1 && old.items.length === 1)
  );
}
/** Options of a changed item keep their ids where their words stayed, else by place. */
function withIds(item: Item, before: Item): Item {
  if (!('options' in item) || !('options' in before)) return item;
  const free = [...before.options];
  const ids = item.options.map((o) => {
    const at = free.findIndex((f) => sameRich(f.content, o.content));
    return at >= 0 ? (free.splice(at, 1)[0]?.id ?? null) : null;
  });
  return {
    ...item,
    options: item.options.map((o, i) => ({
      ...o,
      id: ids[i] ?? (item.options.length === before.options.length ? (free.find((f) => f === before.options[i])?.id ?? o.id) : o.id),
    })),
  };
}
