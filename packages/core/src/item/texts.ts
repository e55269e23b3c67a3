/** All texts of an item that people read, each with the name of its place: searched, replaced and changed in form by one walk. */
import { letterOf } from './kinds.js';
import type { Item, Option } from './model.js';

/** Where a text of an item stands, by name and sort. */
export interface Place {
  /** For the person: "Option B". */
  name: string;
  part: 'stem' | 'option' | 'answer' | 'feedback' | 'hint' | 'other';
  /** The place within its item, the same as long as the option or the gap is the same: "option.o1.feedback". */
  key: string;
  /** Whether the text may hold markup; accepted answers, units and words of a bank are plain. */
  rich: boolean;
}
type Change = (text: string, place: Place) => string;

const place = (key: string, name: string, part: Place['part'], rich = true): Place => ({ key, name, part, rich });

const options = (list: readonly Option[], of: string, at: string, f: Change): Option[] =>
  list.map((o, i) => ({
    ...o,
    content: f(o.content, place(`${at}option.${o.id}`, `${of} ${letterOf(i)}`, 'option')),
    ...(o.feedback !== undefined && {
      feedback: f(o.feedback, place(`${at}option.${o.id}.feedback`, `Feedback of ${of.toLowerCase()} ${letterOf(i)}`, 'feedback')),
    }),
  }));
const answers = <T extends { feedback?: string | undefined }>(list: readonly T[], at: string, f: Change): T[] =>
  list.map((a, i) => ({
    ...a,
    ...('text' in a && !('min' in a) && { text: f(String(a.text), place(`${at}answer.${i}`, 'Accepted answer', 'answer', false)) }),
    ...(a.feedback !== undefined && { feedback: f(a.feedback, place(`${at}answer.${i}.feedback`, 'Feedback of an answer', 'feedback')) }),
  }));

function own(item: Item, f: Change): Partial<Item> {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return { options: options(item.options, 'Option', '', f) } as Partial<Item>;
    case 'true-false':
      return item.optionFeedback
        ? ({
            optionFeedback: Object.fromEntries(
              Object.entries(item.optionFeedback).map(([k, v]) => [k, f(v, place(`truth.${k}.feedback`, `Feedback of ${k}`, 'feedback'))]),
            ),
          } as Partial<Item>)
        : {};
    case 'short-answer':
    case 'numeric':
      return { answers: answers<(typeof item.answers)[number]>(item.answers, '', f) } as Partial<Item>;
    case 'cloze':
      return {
        gaps: item.gaps.map((g) =>
          g.kind === 'choice'
            ? { ...g, options: options(g.options, `Gap ${g.id}, choice`, `gap.${g.id}.`, f) }
            : g.kind === 'text'
              ? { ...g, answers: answers(g.answers, `gap.${g.id}.`, f) }
              : { ...g, answers: answers(g.answers, `gap.${g.id}.`, f) },
        ),
        ...(item.wordBank && { wordBank: item.wordBank.map((w, i) => f(w, place(`bank.${i}`, 'Word bank', 'other', false))) }),
      } as Partial<Item>;
    case 'matching':
      return {
        pairs: item.pairs.map((p, i) => ({
          left: f(p.left, place(`pair.${i}.left`, `Left side ${i + 1}`, 'option')),
          right: f(p.right, place(`pair.${i}.right`, `Right side ${i + 1}`, 'option')),
        })),
        extraRights: item.extraRights.map((r, i) => f(r, place(`extra.${i}`, 'Right side without a partner', 'option'))),
      } as Partial<Item>;
    case 'ordering':
      return { sequence: item.sequence.map((s, i) => f(s, place(`step.${i}`, `Step ${i + 1}`, 'option'))) } as Partial<Item>;
    case 'essay':
      return {
        ...(item.modelAnswer !== undefined && { modelAnswer: f(item.modelAnswer, place('model', 'Model answer', 'other')) }),
        ...(item.rubric !== undefined && { rubric: f(item.rubric, place('rubric', 'Rubric', 'other')) }),
      } as Partial<Item>;
    case 'information':
      return {};
  }
}

const FEEDBACK = { correct: 'Feedback when right', incorrect: 'Feedback when wrong', general: 'Feedback' } as const;

/** The item with every text that people read put through `f`. */
export function mapTexts(item: Item, f: Change): Item {
  const head = {
    ...item,
    ...(item.title !== undefined && { title: f(item.title, place('title', 'Title', 'other', false)) }),
    stem: f(item.stem, place('stem', item.kind === 'information' ? 'Text' : 'Question', 'stem')),
    ...own(item, f),
  };
  const feedback = item.feedback
    ? Object.fromEntries(Object.entries(item.feedback).map(([k, v]) => [k, f(v, place(`feedback.${k}`, FEEDBACK[k as keyof typeof FEEDBACK], 'feedback'))]))
    : undefined;
  return {
    ...head,
    ...(feedback && { feedback }),
    ...(item.hints && { hints: item.hints.map((h, i) => f(h, place(`hint.${i}`, `Hint ${i + 1}`, 'hint'))) }),
  } as Item;
}

/** The fields in which `after` differs from `before`, as one change; null where nothing differs. */
export function changeTo(before: Item, after: Item): { type: 'change'; id: string; set: Record<string, unknown> } | null {
  const was = before as unknown as Record<string, unknown>;
  const set = Object.fromEntries(Object.entries(after).filter(([k, v]) => JSON.stringify(v) !== JSON.stringify(was[k])));
  return Object.keys(set).length ? { type: 'change', id: before.id, set } : null;
}
