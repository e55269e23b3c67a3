/**
 * When two items are the same question with the same key, although they are not written alike: what a trip through a file is
 * compared by. Option and gap ids and the place in a draft do not count.
 */
import type { Gap, Item, MatchRule, NumberAnswer, Option, QuizSet, TextAnswer } from './model.js';
import { defaultMatch } from './model.js';
import { gapMarks, nameOf } from './kinds.js';
import { isMarkup, richToXhtml, unescapeXml } from './markup.js';
import { parseNumber } from '../language/numbers.js';
import { answerParts } from './typedText.js';
import { settledScoring } from './scoring.js';
import { tightAround } from './strip.js';

const BLOCKS = 'p|ul|ol|li|table|thead|tbody|tr|td|th|caption|pre|blockquote';
const BLOCK_TAG = new RegExp(`(</?(?:${BLOCKS})(?:\\s[^<>]*)?>)`);
const ONE_PARAGRAPH = /^<p>((?:(?!<\/?p[\s>])[\s\S])*)<\/p>$/;

/**
 * A rich text in one writing: white space collapsed outside `pre`, a lone paragraph without its tags, markup only where there is some.
 * What it says and how it looks is unchanged.
 */
export function tidyRich(rich: string): string {
  // most texts are words with a blank between them
  if (!/[<>&"\u0000\t-\r]| {2}/.test(rich)) return rich.trim();
  let x = richToXhtml(rich.replace(/\r\n?/g, '\n'));
  const kept: string[] = [];
  x = x.replace(/<pre>(?:(?!<\/?pre>)[\s\S])*<\/pre>/g, (p) => `\u0000${kept.push(p) - 1}\u0000`);
  x = x.replace(/[ \t\n\r\f]+/g, ' ');
  for (const mark of [/(<br\/>)/, BLOCK_TAG, /(\u0000\d+\u0000)/]) x = tightAround(x, mark);
  x = x.trim();
  for (let one = ONE_PARAGRAPH.exec(x); one; one = ONE_PARAGRAPH.exec(x)) x = (one[1] ?? '').trim();
  if (!kept.length && !isMarkup(x)) {
    const text = unescapeXml(x);
    return isMarkup(text) ? `<p>${x}</p>` : text;
  }
  return x.replace(/&quot;(?![^<>]*>)/g, '"').replace(/\u0000(\d+)\u0000/g, (_, i: string) => kept[Number(i)] ?? '');
}

const text = (s: string): string => s.replace(/\s+/g, ' ').trim();
const some = <T>(list: readonly T[] | undefined): T[] | undefined => (list?.length ? [...list] : undefined);
const rich = (s: string | undefined): string | undefined => (s && tidyRich(s)) || undefined;
const round = (n: number): number => Math.round(n * 1e6) / 1e6;

const option = (o: Option): object => ({ content: rich(o.content) ?? '', credit: round(o.credit), feedback: rich(o.feedback), pinned: o.pinned || undefined });

/** Accepted answers, those that earn most first, without those that say nothing new: the same text again, under the rule. */
const texts = (answers: readonly TextAnswer[], rule: MatchRule): object[] => {
  const seen = new Set<string>();
  const kept = answers.flatMap((a) => {
    const t = text(a.text);
    const same = rule.caseSensitive ? t : t.toLowerCase();
    if (!t || seen.has(same) || (a.credit === 0 && !a.feedback)) return [];
    seen.add(same);
    return [{ text: t, credit: round(a.credit), feedback: rich(a.feedback) }];
  });
  return kept.sort((a, b) => b.credit - a.credit);
};

/** A matching rule, but for what makes no difference to these answers. */
export function ruleFor(rule: MatchRule, answers: readonly TextAnswer[]): MatchRule {
  const any = (f: (t: string) => boolean): boolean => answers.some((a) => (a.credit !== 0 || a.feedback) && f(a.text));
  return {
    ...rule,
    caseSensitive: rule.caseSensitive && any((t) => t.toLowerCase() !== t.toUpperCase()),
    numbersAsValues: any((t) => parseNumber(t) !== null) ? rule.numbersAsValues : true,
    anyOrder: any((t) => answerParts(t).length > 1) ? rule.anyOrder : true,
  };
}

/**
 * Accepted ranges as the marks that they give: for each credit, the highest first, the stretches that earn at least that much.
 * Ranges that meet are one; a range inside one of higher credit says nothing.
 */
export function settledRanges(answers: readonly NumberAnswer[]): NumberAnswer[] {
  // words that nobody would be told, because better ranges lie over theirs, are none
  const told = answers.some((a) => a.feedback) ? stretches(answers) : [];
  if (told.some((a) => a.feedback)) return told;
  const out: NumberAnswer[] = [];
  let covered: { min: number; max: number }[] = [];
  for (const credit of [...new Set(answers.map((a) => a.credit))].filter((c) => c > 0).sort((a, b) => b - a)) {
    const level: { min: number; max: number }[] = [];
    for (const { min, max } of answers.filter((a) => a.credit >= credit).sort((a, b) => a.min - b.min)) {
      const last = level[level.length - 1];
      if (last && min <= last.max) last.max = Math.max(last.max, max);
      else level.push({ min, max });
    }
    for (const r of level) if (!covered.some((c) => c.min === r.min && c.max === r.max)) out.push({ ...r, credit });
    covered = level;
  }
  return out;
}

/** Ranges as neighbouring stretches, each with what its numbers earn and are told: of ranges over one another the best counts, of equal ones the first. */
function stretches(answers: readonly NumberAnswer[]): NumberAnswer[] {
  const ends = [...new Set(answers.flatMap((a) => [a.min, a.max]))].sort((a, b) => a - b);
  const points = ends.flatMap((e, i) => (i ? [((ends[i - 1] ?? e) + e) / 2, e] : [e]));
  const best = points.map((x) => answers.filter((a) => x >= a.min && x <= a.max).sort((a, b) => b.credit - a.credit)[0]);
  return runsOf(
    points.map((_, i) => (best[i] ? JSON.stringify([best[i].credit, best[i].feedback ?? '']) : '')),
    ends,
  ).map(({ from, min, max }) => {
    const { credit = 0, feedback } = best[from] ?? {};
    return { min, max, credit, ...(feedback && { feedback }) };
  });
}

/**
 * Runs of equal signs over figures and the open stretches between them, in turn (figure, stretch, figure …); an empty sign is no run.
 * Of two runs that meet at a figure the one that it belongs to stands in front, so that as ranges, of which the first counts, they say
 * of every number what they said before.
 * @returns for each run the place of its first point and the figures at its ends
 */
export function runsOf(signs: readonly string[], figures: readonly number[]): { from: number; min: number; max: number }[] {
  const out: { from: number; min: number; max: number }[] = [];
  let before: (typeof out)[number] | undefined;
  for (let i = 0; i < signs.length; i++) {
    if (!signs[i]) continue;
    let to = i;
    while (to + 1 < signs.length && signs[to + 1] === signs[i]) to++;
    const run = { from: i, min: figures[i >> 1] ?? 0, max: figures[(to + 1) >> 1] ?? 0 };
    // it starts at a figure, and the one before it only leads there
    if (i % 2 === 0 && before?.max === run.min) out.splice(out.indexOf(before), 0, run);
    else out.push(run);
    before = run;
    i = to;
  }
  return out;
}

/** Gap points in the smallest whole numbers of the same proportion, where there are such; else as shares of the largest. */
export function gapShares(points: readonly number[]): number[] {
  const least = Math.min(...points.filter((p) => p > 0));
  if (!Number.isFinite(least)) return points.map(() => 1);
  for (let k = 1; k <= 24; k++) {
    const scaled = points.map((p) => (p / least) * k);
    if (scaled.every((s) => Math.abs(s - Math.round(s)) < 1e-3)) return scaled.map(Math.round);
  }
  return points.map((p) => round(p / Math.max(...points)));
}

const gap = (g: Gap, points: number): object => {
  switch (g.kind) {
    case 'choice':
      return { kind: g.kind, points, options: g.options.map(option) };
    case 'number':
      return { kind: g.kind, points, answers: ranges(g.answers) };
    case 'text': {
      const rule = ruleFor(g.match ?? defaultMatch, g.answers);
      return { kind: g.kind, points, match: rule, answers: texts(g.answers, rule) };
    }
  }
};
const ranges = (answers: readonly NumberAnswer[]): object[] =>
  settledRanges(answers).map((a) => ({
    min: a.min,
    max: a.max,
    credit: round(a.credit),
    feedback: rich(a.feedback),
  }));

const SHUFFLED = new Set<Item['kind']>(['multiple-choice', 'multiple-response', 'matching', 'ordering']);
/** A title that only repeats the beginning of the question says nothing. */
function ownTitle(item: Item): string | undefined {
  const t = item.title && text(item.title);
  if (!t) return undefined;
  const { title: _title, ...untitled } = item;
  return t === nameOf(untitled as Item) ? undefined : t;
}

/** Right sides without a partner, whose order does not matter; one that has a partner elsewhere is no further choice. */
function distractors(item: Extract<Item, { kind: 'matching' }>): string[] {
  const partners = new Set(item.pairs.map((p) => tidyRich(p.right)));
  return [...new Set(item.extraRights.map(tidyRich))].filter((r) => r && !partners.has(r)).sort();
}

/** An item in one writing, field by field; items are the same when these are equal. Undefined stands for "none". */
export function canonical(item: Item): Record<string, unknown> {
  const common = {
    kind: item.kind,
    label: item.label,
    title: ownTitle(item),
    stem: tidyRich(item.stem),
    points: item.kind === 'information' ? undefined : round(item.points),
    'feedback.correct': rich(item.feedback?.correct),
    'feedback.incorrect': rich(item.feedback?.incorrect),
    'feedback.general': rich(item.feedback?.general),
    hints: some(item.hints?.map(tidyRich)),
    tags: some(item.tags?.map(text)),
    outcomes: some(item.outcomes?.map(text)),
    level: item.level && Object.keys(item.level).length ? { ...item.level } : undefined,
    bonus: item.bonus || undefined,
    required: item.required,
    // absent and false: the order stays
    shuffle: (SHUFFLED.has(item.kind) && item.shuffle) || undefined,
    timeLimit: item.timeLimit,
    language: item.language,
  };
  switch (item.kind) {
    case 'multiple-choice':
      return { ...common, options: item.options.map(option) };
    case 'multiple-response': {
      const { scoring, options } = settledScoring(item);
      return { ...common, scoring, options: options.map(option) };
    }
    case 'true-false':
      return { ...common, answer: item.answer, optionFeedback: { true: rich(item.optionFeedback?.true), false: rich(item.optionFeedback?.false) } };
    case 'short-answer': {
      const rule = ruleFor(item.match, item.answers);
      return { ...common, match: rule, answers: texts(item.answers, rule) };
    }
    case 'numeric':
      return { ...common, answers: ranges(item.answers), unit: item.unit || undefined };
    case 'cloze': {
      const order = gapMarks(item.stem);
      const gaps = order.flatMap((id) => item.gaps.find((g) => g.id === id) ?? []);
      const shares = gapShares(gaps.map((g) => g.points));
      let n = 0;
      return {
        ...common,
        stem: tidyRich(item.stem.replace(/\[\[[^\][]+\]\]/g, () => `[[${++n}]]`)),
        gaps: gaps.map((g, i) => gap(g, shares[i] ?? 1)),
        wordBank: some(item.wordBank?.map(text)),
      };
    }
    case 'matching':
      return { ...common, pairs: item.pairs.map((p) => [tidyRich(p.left), tidyRich(p.right)]), extraRights: some(distractors(item)) };
    case 'ordering':
      return { ...common, sequence: item.sequence.map(tidyRich) };
    case 'essay':
      return { ...common, modelAnswer: rich(item.modelAnswer), rubric: rich(item.rubric), lines: item.lines };
    case 'information':
      return common;
  }
}

const equal = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** The fields in which two items differ, by their names in the model (`feedback.general` for one text); `kind` alone where that differs. */
export function changedFields(a: Item, b: Item): string[] {
  if (a.kind !== b.kind) return ['kind'];
  const x = canonical(a);
  const y = canonical(b);
  return [...new Set([...Object.keys(x), ...Object.keys(y)])].filter((k) => !equal(x[k], y[k])).sort();
}

/** What a part of a set says, by its place among the items: for comparing sets whose sections have other ids. */
export const sectionOf = (item: Item, set: QuizSet): { title?: string; instructions?: string; passage?: string } | undefined => {
  const s = set.sections?.find((x) => x.id === item.section);
  if (!s) return undefined;
  const instructions = rich(s.instructions);
  const passage = rich(s.passage);
  return { ...(s.title && { title: text(s.title) }), ...(instructions && { instructions }), ...(passage && { passage }) };
};
