/** Writes GIFT: plain text, one question after another, answers in braces. One file a set. */
import type { Item, ItemOf, NumberAnswer, Option, QuizSet, TextAnswer } from '../../item/model.js';
import { gapMarks, keyProblem } from '../../item/kinds.js';
import { isMarkup, richToXhtml, richToPlain } from '../../item/richText.js';
import { fileName, utf8, type FitNote, type Written } from '../format.js';

/** The signs that GIFT gives a meaning, each kept literal by a backslash before it. */
const escapeGift = (text: string): string => text.replace(/[\\~=#{}:]/g, '\\$&').replace(/\r?\n/g, '\\n');

/** A text with its format mark. "->" would make an answer a pair and "//" a comment, so these go as HTML. */
function rich(text: string): string {
  if (isMarkup(text)) return `[html]${escapeGift(text)}`;
  if (text.includes('->') || /^\s*(\[|%)/.test(text) || text.includes('//')) {
    return `[html]${escapeGift(richToXhtml(text))

      .replace(/\/\//g, '/&\\#47;')
      .replace(/^(\[html\])\[/, '$1&\\#91;')}`;
  }
  return escapeGift(text.trim());
}

const feedbackOf = (text: string | undefined): string => (text ? `#${rich(text)}` : '');
const percent = (credit: number): string => {
  const p = Math.round(credit * 1e7) / 1e5;
  return `%${p}%`;
};

/** Feedback that GIFT ties to single answers only: the item's right and wrong feedback goes to each option. */
const optionFeedback = (item: Item, o: Option): string | undefined => o.feedback ?? (o.credit >= 1 ? item.feedback?.correct : item.feedback?.incorrect);

const choice = (item: ItemOf<'multiple-choice'>): string =>
  item.options
    .map((o) => `\t${o.credit === 1 ? '=' : o.credit === 0 ? '~' : `~${percent(o.credit)}`}${rich(o.content)}${feedbackOf(optionFeedback(item, o))}`)
    .join('\n');

function responseWeights(item: ItemOf<'multiple-response'>): number[] {
  if (item.scoring === 'weights') return item.options.map((o) => o.credit);
  const keys = item.options.filter((o) => o.credit > 0).length || 1;
  const others = item.options.length - keys || 1;
  // All or nothing has no percentages of its own: one wrong option takes everything.
  const wrong = item.scoring === 'all-or-nothing' ? 1 : 1 / others;
  return item.options.map((o) => (o.credit > 0 ? 1 / keys : -wrong));
}

/** What a learner types is no HTML; an arrow in it would make the answer a pair. */
const typed = (text: string): string => escapeGift(text.trim().replace(/->/g, '→'));
const texts = (answers: readonly TextAnswer[]): string =>
  answers.map((a) => `\t=${a.credit === 1 ? '' : percent(a.credit)}${typed(a.text)}${feedbackOf(a.feedback)}`).join('\n');

const numberOf = (a: NumberAnswer): string => (a.min === a.max ? String(a.min) : `${a.min}..${a.max}`);
const numbers = (answers: readonly NumberAnswer[]): string =>
  answers.length === 1 && answers[0]?.credit === 1 && !answers[0].feedback
    ? numberOf(answers[0])
    : `\n${answers.map((a) => `\t=${a.credit === 1 ? '' : percent(a.credit)}${numberOf(a)}${feedbackOf(a.feedback)}`).join('\n')}\n`;

/** The question text and the braces of one GIFT question, or several where the format needs them. */
function blocks(item: Item): { stem: string; answer: string | null; after?: string; part?: string }[] {
  const general = item.feedback?.general ? `\n\t####${rich(item.feedback.general)}` : '';
  const inBraces = (lines: string): string => `{\n${lines}${general}\n}`;
  const stem = rich(item.stem);
  switch (item.kind) {
    case 'multiple-choice':
      return [{ stem, answer: inBraces(choice(item)) }];
    case 'multiple-response': {
      const w = responseWeights(item);
      return [
        { stem, answer: inBraces(item.options.map((o, i) => `\t~${percent(w[i] ?? 0)}${rich(o.content)}${feedbackOf(optionFeedback(item, o))}`).join('\n')) },
      ];
    }
    case 'true-false': {
      const wrong = item.optionFeedback?.[item.answer ? 'false' : 'true'] ?? item.feedback?.incorrect;
      const right = item.optionFeedback?.[item.answer ? 'true' : 'false'] ?? item.feedback?.correct;
      const tail = right ? `#${wrong ? rich(wrong) : ''}#${rich(right)}` : feedbackOf(wrong);
      return [{ stem, answer: `{${item.answer ? 'TRUE' : 'FALSE'}${tail}${general}}` }];
    }
    case 'short-answer':
      return [{ stem, answer: inBraces(texts(item.answers)) }];
    case 'numeric':
      return [{ stem, answer: `{#${numbers(item.answers)}${general}}` }];
    case 'cloze':
      return gapMarks(item.stem).map((id, n, all) => {
        const gap = item.gaps.find((g) => g.id === id);
        const [before = '', after = ''] = item.stem.split(`[[${id}]]`);
        const others = (s: string): string => s.replace(/\[\[[^\]]*\]\]/g, '_____');
        const answer = !gap
          ? ''
          : gap.kind === 'choice'
            ? gap.options.map((o) => `${o.credit === 1 ? '=' : '~'}${rich(o.content)}`).join(' ')
            : gap.kind === 'text'
              ? gap.answers.map((a) => `=${a.credit === 1 ? '' : percent(a.credit)}${typed(a.text)}`).join(' ')
              : `#${gap.answers.map((a) => (gap.answers.length > 1 ? `=${numberOf(a)}` : numberOf(a))).join(' ')}`;
        const html = isMarkup(item.stem) ? '[html]' : '';
        const part = all.length > 1 ? String(n + 1) : undefined;
        return {
          // a gap at the very end would be no missing word there: its blank is written out, and it is a short answer
          stem: html + escapeGift(others(before)) + (after.trim() ? '' : '_____'),
          answer: `{${answer}${general}}`,
          after: escapeGift(others(after)),
          ...(part && { part }),
        };
      });
    case 'matching': {
      const pairs = item.pairs.filter((p) => p.right).map((p) => `\t=${rich(p.left)} -> ${rich(p.right)}`);
      return [{ stem, answer: inBraces([...pairs, ...item.extraRights.map((r) => `\t= -> ${rich(r)}`)].join('\n')) }];
    }
    case 'ordering':
      return [{ stem, answer: inBraces(item.sequence.map((s, i) => `\t=${i + 1} -> ${rich(s)}`).join('\n')) }];
    case 'essay':
      return [{ stem, answer: `{${general}}` }];
    case 'information':
      return [{ stem, answer: null }];
  }
}

/** What an item becomes in GIFT. `set` tells whether the item has a passage. */
export function fitGift(item: Item, set?: QuizSet): FitNote[] {
  const notes: FitNote[] = [];
  const say = (fit: FitNote['fit'], message: string): number => notes.push({ item: item.id, fit, message });
  if (!mayGo(item)) {
    say('impossible', `it has ${keyProblem(item)?.message ?? 'no key'}`);
    return notes;
  }
  if (item.points !== 1 && item.kind !== 'information') say('lost', `GIFT has no points: ${item.points} are set again there`);
  if (item.hints?.length) say('lost', 'hints stay here');
  if (item.timeLimit) say('lost', 'the time limit stays here');
  if (item.kind === 'multiple-response' && item.scoring === 'all-or-nothing')
    say('adapted', 'percentages: a part of the keys earns a part, one wrong option takes it');
  if (item.kind === 'multiple-response' && item.scoring === 'per-option') say('adapted', 'percentages: wrong options take from the right ones');
  if (item.kind === 'ordering') say('adapted', 'as matching of places and steps');
  if (item.kind === 'cloze') {
    const n = gapMarks(item.stem).length;
    if (n > 1) say('adapted', `${n} questions, one for each gap`);
    if (/\]\]\s*$/.test(item.stem)) say('adapted', 'as a short answer, since the gap ends the text');
  }
  const accepted = item.kind === 'short-answer' ? item.answers : item.kind === 'cloze' ? item.gaps.flatMap((g) => (g.kind === 'text' ? g.answers : [])) : [];
  if (accepted.some((a) => a.text.includes('->'))) say('adapted', 'the arrow -> in an accepted answer becomes →');
  if (item.kind === 'information' && item.feedback) say('lost', 'feedback stays here');
  if (item.kind === 'numeric' && item.unit) say('lost', `the unit ${item.unit} is not accepted behind the number`);
  if ((item.feedback?.correct || item.feedback?.incorrect) && item.kind !== 'true-false') {
    if (item.kind === 'multiple-choice' || item.kind === 'multiple-response') say('adapted', 'right and wrong feedback goes to each option');
    else say('lost', 'right and wrong feedback stay here');
  }
  if (item.kind === 'essay' && (item.modelAnswer || item.rubric)) say('lost', 'model answer and rubric stay here');
  if (set?.sections?.some((s) => s.id === item.section && s.passage)) say('lost', 'the passage stays here');
  return notes;
}

const mayGo = (item: Item): boolean => !keyProblem(item) && (item.kind !== 'multiple-choice' || item.options.length > 1);

/** Writes a set as GIFT. Items without a key stay behind, as `fitGift` says. Same set, same text. */
export function giftText(set: QuizSet): string {
  const out: string[] = [`// ${set.title.replace(/\s+/g, ' ')}`];
  for (const item of set.items.filter(mayGo)) {
    for (const b of blocks(item)) {
      const title = item.title ?? (item.label ? `${item.label}` : '');
      const name = title || b.part ? `::${escapeGift(richToPlain(title) + (b.part ? ` ${title ? '(' : ''}gap ${b.part}${title ? ')' : ''}` : ''))}::` : '';
      const marks = [`[id:${item.id}${b.part ? `-${b.part}` : ''}]`, ...(item.tags ?? []).map((t) => `[tag:${t.replace(/[\]\\\n]/g, ' ').trim()}]`)];
      out.push(`// ${marks.join(' ')}\n${name}${b.stem}${b.answer === null ? '' : (b.after === undefined ? ' ' : '') + b.answer}${b.after ?? ''}`);
    }
  }
  return `${out.join('\n\n')}\n`;
}

export const writeGift = (set: QuizSet): Written => ({ bytes: utf8(giftText(set)), name: fileName(set.title, '.gift.txt') });
