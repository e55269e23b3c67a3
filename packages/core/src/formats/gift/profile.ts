/** What GIFT holds. Names and rules: the GIFT format description, "Format specification", from memory. */
import { holding, type Profile, type Step } from '../../fit/profile.js';
import { feedbackAtOptions, gapsInOrder, shares } from '../../fit/steps.js';
import { gapsApart, orderingAsMatching } from '../../fit/recast.js';
import { isMarkup, richFromPlain, richToPlain } from '../../item/richText.js';
import type { Item, TextAnswer } from '../../item/model.js';
import { blankAsGap } from '../blank.js';

/** The right sides of a matching are plain text in GIFT. */
const plainRights: Step = (item) => {
  if (item.kind !== 'matching' || ![...item.pairs.map((p) => p.right), ...item.extraRights].some(isMarkup)) return null;
  const plain = (s: string): string => (isMarkup(s) ? richFromPlain(richToPlain(s)) : s);
  return {
    item: { ...item, pairs: item.pairs.map((p) => ({ left: p.left, right: plain(p.right) })), extraRights: item.extraRights.map(plain) },
    fit: 'lost',
    brief: 'plain rights',
    message: 'right sides become plain text there',
  };
};

/** An arrow in a typed answer would make it a pair. */
const arrows: Step = (item) => {
  const texts = item.kind === 'short-answer' ? item.answers : item.kind === 'cloze' ? item.gaps.flatMap((g) => (g.kind === 'text' ? g.answers : [])) : [];
  if (!texts.some((a) => a.text.includes('->'))) return null;
  const drawn = (l: readonly TextAnswer[]): TextAnswer[] => l.map((a) => ({ ...a, text: a.text.replace(/->/g, '→') }));
  const next: Item =
    item.kind === 'short-answer'
      ? { ...item, answers: drawn(item.answers) }
      : item.kind === 'cloze'
        ? { ...item, gaps: item.gaps.map((g) => (g.kind === 'text' ? { ...g, answers: drawn(g.answers) } : g)) }
        : item;
  return { item: next, fit: 'adapted', brief: 'arrow drawn', message: 'the arrow -> in an accepted answer becomes →' };
};

/** Shares that importers with a fixed list know, in per cent; from memory. */
const KNOWN = [100, 90, 83.33333, 80, 75, 70, 66.66667, 60, 50, 40, 33.33333, 30, 25, 20, 16.66667, 14.28571, 12.5, 11.11111, 10, 5, 0];
/** Several importers refuse a share that is not on their list: it is written as it is, and told. */
const oddShares: Step = (item) => {
  const credits =
    item.kind === 'multiple-response'
      ? shares(item.options, item.scoring).map((o) => o.credit)
      : item.kind === 'multiple-choice'
        ? item.options.map((o) => o.credit)
        : item.kind === 'short-answer' || item.kind === 'numeric'
          ? item.answers.map((a) => a.credit)
          : [];
  const odd = credits.find((c) => !KNOWN.some((k) => Math.abs(k - Math.abs(c) * 100) < 0.01));
  if (odd === undefined) return null;
  return {
    item,
    fit: 'adapted',
    told: true,
    brief: 'odd share',
    message: `a share of ${Math.round(odd * 1e4) / 100} % is refused by importers that know a fixed list of shares`,
  };
};

export const giftProfile: Profile = {
  kinds: ['multiple-choice', 'multiple-response', 'true-false', 'short-answer', 'numeric', 'cloze', 'matching', 'essay', 'information'],
  recast: { ordering: orderingAsMatching, cloze: gapsApart, 'short-answer': blankAsGap, numeric: blankAsGap },
  holds: holding(['label', 'title', 'tags', 'feedback.general', 'optionFeedback', 'answerFeedback', 'section.title'], {
    'feedback.general': ['multiple-choice', 'multiple-response', 'true-false', 'short-answer', 'numeric', 'cloze', 'matching', 'essay'],
  }),
  ofSet: [],
  passageInFront: true,
  scoring: ['weights', 'right-minus-wrong'],
  credits: 'any',
  match: [],
  rich: true,
  pictures: true,
  refuses: (item) =>
    item.kind === 'multiple-choice' && item.options.length < 2
      ? 'a choice has at least two options there'
      : 'options' in item && item.options.some((o) => !o.content.trim())
        ? 'one of its options is empty'
        : item.kind === 'information' && !item.stem.trim()
          ? 'it has no text'
          : null,
  furtherSteps: [feedbackAtOptions, gapsInOrder, plainRights, arrows, oddShares],
};
