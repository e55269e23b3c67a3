/** Drafts with known readings: a random or a pairwise covering choice of habits, put to paper. Development only. */
import { numbersFrom } from '../../item/shuffle.js';
import * as habits from './habits.js';
import type { Meant, Words } from './habits.js';

const dimensions = {
  language: Object.keys(habits.languages),
  question: Object.keys(habits.questionLabels),
  option: Object.keys(habits.optionLabels),
  layout: Object.keys(habits.layouts),
  key: [...habits.keys],
  reason: [...habits.reasons],
  points: [...habits.points],
  head: Object.keys(habits.heads),
  between: Object.keys(habits.betweens),
  tail: Object.keys(habits.tails),
  others: ['none', 'truths', 'words'],
  slip: Object.keys(habits.slips),
} as const;
export type Dimension = keyof typeof dimensions;
/** One habit of each dimension. */
export type WriterHabits = Record<Dimension, string>;
const names = Object.keys(dimensions) as Dimension[];

/** What the draft means, as the scorer compares it. */
export interface Gold {
  items: { kind: string; stem: string; options?: readonly string[]; key: unknown; points?: number; feedback?: string }[];
  diagnostics?: string[];
}
export interface Generated {
  habits: WriterHabits;
  text: string;
  gold: Gold;
}

const pick = <T>(all: readonly T[], chance: () => number): T => all[Math.floor(chance() * all.length)] as T;

const LABELLED = /^(?:A\)|A\.|a\)|\(a\)|\[A\]|A -|①)$/;
/** Whether habits go together: nobody could read a key by letters where options have none, or tell a list of keys without numbers. */
export function possible(h: WriterHabits): boolean {
  const labelled = LABELLED.test(h.option);
  const list = h.key.startsWith('list');
  const row = h.layout === 'row' || h.layout === 'indented row' || h.layout === 'columns';
  if (/^(?:behind$|behind, both|in brackets|list)/.test(h.key) && !labelled) return false;
  if (h.key === 'filled box' && h.option !== 'box' && h.option !== 'ring') return false;
  if ((h.option === 'box' || h.option === 'ring') && /star in front|bold|star behind|tick behind/.test(h.key)) return false;
  if (list && h.question === 'none') return false;
  if (h.key === 'list, letters' && (h.others !== 'none' || h.option === '①')) return false;
  if (h.option === '①' && /behind, both|in brackets|list/.test(h.key)) return false;
  // bare options side by side, or among other kinds, are anybody's guess
  if (h.option === 'bare' && (row || h.others !== 'none' || h.between === 'tight' || h.question === 'none')) return false;
  if (h.option === 'bullet' && (row || h.key === 'star in front')) return false;
  if (h.question === 'none' && (h.between === 'tight' || h.others !== 'none' || h.key === 'in brackets')) return false;
  if (h.question === 'dash' && h.option === 'bullet') return false;
  if (h.others !== 'none' && !(list || h.key.startsWith('behind'))) return false;
  if (h.reason !== 'none' && (list || h.key === 'none' || h.key === 'in brackets')) return false;
  if (h.reason === 'arrow' && !h.key.startsWith('behind')) return false;
  if (h.points === 'in front' && (h.question === 'none' || h.question === 'word alone')) return false;
  if (h.points === 'behind' && h.key === 'in brackets') return false;
  // words that no list knows must come again to be found out
  if (h.language === 'none' && (h.key === 'word behind' || h.others !== 'none' || /list, (?:letters|row|dashes)/.test(h.key))) return false;
  if (h.language === 'none' && h.reason === 'line' && !h.key.startsWith('behind')) return false;
  if (h.slip === 'small letters' && (h.option === 'a)' || h.option === '(a)')) return false;
  if (h.slip === 'double blanks' && row) return false;
  return true;
}

/** Habits that go together, by chance. */
export function someHabits(chance: () => number, clean = false): WriterHabits {
  for (;;) {
    const h = Object.fromEntries(names.map((d) => [d, pick(dimensions[d], chance)])) as WriterHabits;
    if (clean) h.slip = 'none';
    if (possible(h)) return h;
  }
}

/** Choices of habits in which every pair that can stand together does so at least once. */
export function pairwise(seed: number): WriterHabits[] {
  const chance = numbersFrom(seed);
  const candidates = Array.from({ length: 6000 }, () => someHabits(chance));
  const pairsOf = (h: WriterHabits): string[] => names.flatMap((a, i) => names.slice(i + 1).map((b) => `${a}=${h[a]}|${b}=${h[b]}`));
  const open = new Set(candidates.flatMap(pairsOf));
  const out: WriterHabits[] = [];
  while (open.size) {
    let best = candidates[0] as WriterHabits;
    let most = 0;
    for (let i = 0; i < 400; i++) {
      const h = pick(candidates, chance);
      const n = pairsOf(h).reduce((sum, p) => sum + Number(open.has(p)), 0);
      if (n > most) [best, most] = [h, n];
    }
    // the last few pairs are looked for one by one
    if (!most) best = candidates.find((h) => pairsOf(h).some((p) => open.has(p))) ?? best;
    for (const p of pairsOf(best)) open.delete(p);
    out.push(best);
  }
  return out;
}

const LETTERS = 'ABCDEFGH';
function letterOf(h: WriterHabits, i: number): string {
  if (h.option === '①') return String.fromCharCode(0x2460 + i);
  const l = LETTERS[i] ?? '';
  return h.option === 'a)' || h.option === '(a)' ? l.toLowerCase() : l;
}
const saidKey = (q: Meant, h: WriterHabits, w: Words): string =>
  q.kind === 'choice' ? letterOf(h, q.key as number) : q.kind === 'truth' ? (q.key ? w.true : w.false) : String(q.key);

/** Puts questions to paper. */
export function put(h: WriterHabits, seed: number): Generated {
  const chance = numbersFrom(seed);
  const w = habits.languages[h.language] as Words;
  const count = 4 + Math.floor(chance() * 5);
  const from = Math.floor(chance() * habits.pool.length);
  const questions: Meant[] = Array.from({ length: count }, (_, i) => habits.pool[(from + i) % habits.pool.length] as Meant);
  if (h.others === 'truths') questions.push(...habits.truths);
  if (h.others === 'words') questions.push(...habits.shorts);
  const gold: Gold = { items: [] };
  const slip = habits.slips[h.slip] ?? ((l: string) => l);
  const body = questions.map((q, i) => {
    const n = i + 1;
    const worth = h.points === 'none' ? 1 : 2 + (i % 2);
    const amount = `(${worth} ${w.points})`;
    const label = (habits.questionLabels[h.question] as (n: number, w: Words) => string)(n, w);
    let stem = q.stem;
    if (h.points === 'behind') stem += ` ${amount}`;
    if (h.points === 'in front') stem = `${amount} ${stem}`;
    if (h.key === 'in brackets') stem += ` (${saidKey(q, h, w)})`;
    if (q.kind === 'truth') stem = `${h.points === 'in front' ? `${amount} ` : ''}${w.true}/${w.false}: ${q.stem}${h.points === 'behind' ? ` ${amount}` : ''}`;
    const lines = [`${label}${stem}`];
    if (q.kind === 'choice') {
      const options = q.options.map((o, k) => {
        const right = k === q.key;
        let front = (habits.optionLabels[h.option] as (i: number) => string)(k);
        let words = o;
        if (right)
          switch (h.key) {
            case 'star behind':
              words += ' *';
              break;
            case 'tick behind':
              words += ' ✓';
              break;
            case 'arrow':
              words += ' <--';
              break;
            case 'word behind':
              words += ` (${w.correct})`;
              break;
            case 'star in front':
              front = `*${front}`;
              break;
            case 'filled box':
              front = h.option === 'box' ? '[x] ' : '● ';
              break;
            case 'bold':
              return `**${front}${words}**`;
          }
        return `${front}${words}`;
      });
      lines.push(...(habits.layouts[h.layout] as (o: readonly string[]) => string[])(options));
    }
    const text = q.kind === 'choice' ? (q.options[q.key as number] ?? '') : saidKey(q, h, w);
    if (h.key === 'behind') lines.push(`${w.answer}: ${saidKey(q, h, w)}`);
    if (h.key === 'behind, text') lines.push(`${w.answer}: ${text}`);
    if (h.key === 'behind, both') lines.push(`${w.answer}: ${q.kind === 'choice' ? `${saidKey(q, h, w)}) ${text}` : text}`);
    if (h.reason === 'line') lines.push(`${w.why}: ${q.reason}`);
    if (h.reason === 'arrow') lines.push(`→ ${q.reason}`);
    gold.items.push({
      kind: q.kind === 'choice' ? 'multiple-choice' : q.kind === 'truth' ? 'true-false' : 'short-answer',
      stem: q.stem,
      ...(q.kind === 'choice' && { options: q.options }),
      key: h.key === 'none' ? (q.kind === 'choice' ? [] : null) : q.kind === 'choice' ? [q.key] : q.kind === 'truth' ? q.key : [q.key],
      ...(h.points !== 'none' && { points: worth }),
      ...(h.reason !== 'none' && { feedback: q.reason }),
    });
    return lines.join('\n');
  });
  let text = habits.heads[h.head] ?? '';
  body.forEach((b, i) => {
    text += b + '\n';
    if (i + 1 < body.length) text += (habits.betweens[h.between] as (n: number) => string)(i + 1);
  });
  if (h.key.startsWith('list')) text += `\n${list(questions, h, w)}\n`;
  text += habits.tails[h.tail] ?? '';
  if (h.key === 'none') gold.diagnostics = gold.items.map((_, i) => `key-missing@${i + 1}`);
  return {
    habits: h,
    text: text
      .split('\n')
      .map((l) => slip(l, chance))
      .join('\n'),
    gold,
  };
}

function list(questions: readonly Meant[], h: WriterHabits, w: Words): string {
  const said = questions.map((q) => saidKey(q, h, w));
  switch (h.key) {
    case 'list, row':
      return `${w.list}: ${said.map((s, i) => `${i + 1}. ${s}`).join('  ')}`;
    case 'list, dashes':
      return `${w.list}\n${said.map((s, i) => `${i + 1}-${s}`).join(', ')}`;
    case 'list, table':
      return `${w.list}\n\n| ${w.question} | ${w.answer} |\n|---|---|\n${said.map((s, i) => `| ${i + 1} | ${s} |`).join('\n')}`;
    case 'list, letters':
      return `${w.list}: ${said.join('').toUpperCase()}`;
    default:
      return `${w.list}\n${said.map((s, i) => `${i + 1}. ${s}`).join('\n')}`;
  }
}
