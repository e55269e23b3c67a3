/** Changes that a profile asks for beyond single fields: one step each, in the order of `GENERAL`; further down those that single formats ask for. */
import { gapMarks } from '../item/kinds.js';
import { defaultMatch, type Item, type MatchRule, type Option, type Scoring } from '../item/model.js';
import { isMarkup, richFromPlain, richToPlain, richToXhtml } from '../item/richText.js';
import { changedFields } from '../item/sameness.js';
import { mapGaps } from './fields.js';
import type { Change, Step } from './profile.js';

const change = (fit: Change['fit'], brief: string, message: string, item: Item | null): Change | null => item && { item, fit, brief, message };

const HOW_SCORED: Record<Scoring, string> = {
  'all-or-nothing': 'counts only if all keys and nothing else are chosen',
  'per-option': 'gives a part for every option judged rightly',
  'right-minus-wrong': 'gives a part for each key and takes one for each wrong option',
  weights: 'each key earns its share and each wrong option takes one',
};
const BRIEF_SCORED: Record<Scoring, string> = {
  'all-or-nothing': 'all or nothing',
  'per-option': 'per option',
  'right-minus-wrong': 'right less wrong',
  weights: 'percentages',
};

/** Scoring of several right options that a destination has not: said in shares of single options where they say the same, else as its first way. */
const scored: Step = (item, _set, profile) => {
  if (item.kind !== 'multiple-response') return null;
  const known = profile.scoring ?? ['all-or-nothing'];
  if (known.includes(item.scoring)) return null;
  const scoring = known[0] ?? 'all-or-nothing';
  const plain = scoring !== 'weights' ? item.options.map((o) => ({ ...o, credit: o.credit > 0 ? 1 : 0 })) : shares(item.options, item.scoring);
  return change('adapted', BRIEF_SCORED[scoring], `${HOW_SCORED[scoring]} there`, { ...item, scoring, options: plain });
};
/** Options with the share that each adds or takes: exact for right minus wrong, the nearest thing for other ways. */
export function shares(list_: readonly Option[], scoring: Scoring): Option[] {
  const keys = list_.filter((o) => o.credit > 0).length || 1;
  const others = list_.length - keys || 1;
  const wrong = scoring === 'all-or-nothing' ? 1 : 1 / others;
  return list_.map((o) => ({ ...o, credit: scoring === 'weights' ? o.credit : o.credit > 0 ? 1 / keys : -wrong }));
}

const credited: Step = (item, _set, profile) => {
  const { credits = 'any' } = profile;
  if (credits === 'any') return null;
  const cut = (c: number): number => (credits === 'whole' && c < 1 ? 0 : Math.max(0, c));
  const of = <T extends { credit: number }>(l: readonly T[]): T[] => l.map((o) => (cut(o.credit) === o.credit ? o : { ...o, credit: cut(o.credit) }));
  // an accepted answer that earns nothing is none
  const accepted = <T extends { credit: number; feedback?: string | undefined }>(l: readonly T[]): T[] => of(l).filter((a) => a.credit > 0 || a.feedback);
  const next: Item | null =
    item.kind === 'multiple-choice' || (item.kind === 'multiple-response' && item.scoring === 'weights')
      ? { ...item, options: of(item.options) }
      : item.kind === 'short-answer'
        ? { ...item, answers: accepted(item.answers) }
        : item.kind === 'numeric'
          ? { ...item, answers: accepted(item.answers) }
          : item.kind === 'cloze'
            ? mapGaps(item, (g) =>
                g.kind === 'choice'
                  ? { ...g, options: of(g.options) }
                  : g.kind === 'text'
                    ? { ...g, answers: accepted(g.answers) }
                    : { ...g, answers: accepted(g.answers) },
              )
            : null;
  return credits === 'whole'
    ? change('lost', 'no part credit', 'answers that earn a part earn nothing there', next)
    : change('lost', 'none below 0', 'nothing is taken off for wrong answers there', next);
};

/** How each part of the rule is where a destination cannot be told of it, and what that means for learners. */
const STRICT: { name: keyof MatchRule; value: MatchRule[keyof MatchRule]; brief: string; message: string }[] = [
  { name: 'caseSensitive', value: false, brief: 'case ignored', message: 'capital letters do not count there' },
  { name: 'punctuation', value: 'keep', brief: 'strict', message: 'punctuation counts there' },
  { name: 'accents', value: 'keep', brief: 'strict', message: 'accents count there' },
  { name: 'numbersAsValues', value: false, brief: 'as written', message: 'a number counts only as it is written here (0.5 is not 1/2 there)' },
  { name: 'anyOrder', value: false, brief: 'in this order', message: 'the order of a list counts there' },
  { name: 'spelling', value: 0, brief: 'exact spelling', message: 'no letter may differ there' },
];
const matched = STRICT.map(
  ({ name, value, brief, message }): Step =>
    (item, _set, profile) => {
      if (profile.match?.includes(name)) return null;
      const strict = (rule: MatchRule): MatchRule => ({ ...rule, [name]: value });
      if (item.kind === 'short-answer') return item.match[name] === value ? null : change('lost', brief, message, { ...item, match: strict(item.match) });
      if (item.kind !== 'cloze' || !item.gaps.some((g) => g.kind === 'text' && (g.match ?? defaultMatch)[name] !== value)) return null;
      return change(
        'lost',
        brief,
        message,
        mapGaps(item, (g) => (g.kind === 'text' ? { ...g, match: strict(g.match ?? defaultMatch) } : g)),
      );
    },
);

/** A left side alone has nothing to mark; a right side alone is one more to choose from. */
const paired: Step = (item) => {
  if (item.kind !== 'matching' || item.pairs.every((p) => p.left && p.right)) return null;
  const pairs = item.pairs.filter((p) => p.left && p.right);
  return change('lost', 'pairs only', 'sides without a partner stay here', {
    ...item,
    pairs,
    extraRights: [...item.extraRights, ...item.pairs.filter((p) => !p.left && p.right).map((p) => p.right)],
  });
};

const RICH_LISTS = ['hints', 'extraRights', 'sequence'] as const;
/** An item with every rich text put through `f`. */
export function mapRich(item: Item, f: (rich: string) => string): Item {
  const out = { ...item } as Item & Record<string, unknown>;
  out.stem = f(item.stem);
  if (item.feedback) out.feedback = Object.fromEntries(Object.entries(item.feedback).map(([k, v]) => [k, v === undefined ? v : f(v)]));
  for (const name of RICH_LISTS) if (Array.isArray(out[name])) out[name] = (out[name] as string[]).map(f);
  for (const name of ['modelAnswer', 'rubric'] as const) if (typeof out[name] === 'string') out[name] = f(out[name]);
  const feedback = <T extends { feedback?: string | undefined }>(o: T): T => (o.feedback === undefined ? o : { ...o, feedback: f(o.feedback) });
  const option = (o: Option): Option => feedback({ ...o, content: f(o.content) });
  switch (out.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      out.options = out.options.map(option);
      break;
    case 'true-false':
      if (out.optionFeedback) out.optionFeedback = Object.fromEntries(Object.entries(out.optionFeedback).map(([k, v]) => [k, v === undefined ? v : f(v)]));
      break;
    case 'short-answer':
      out.answers = out.answers.map(feedback);
      break;
    case 'numeric':
      out.answers = out.answers.map(feedback);
      break;
    case 'cloze':
      out.gaps = out.gaps.map((g) =>
        g.kind === 'choice'
          ? { ...g, options: g.options.map(option) }
          : g.kind === 'text'
            ? { ...g, answers: g.answers.map(feedback) }
            : { ...g, answers: g.answers.map(feedback) },
      );
      break;
    case 'matching':
      out.pairs = out.pairs.map((p) => ({ left: f(p.left), right: f(p.right) }));
      break;
  }
  return out;
}
const someRich = (item: Item, test: (rich: string) => boolean): boolean => {
  let found = false;
  mapRich(item, (r) => {
    found ||= test(r);
    return r;
  });
  return found;
};

const PICTURE = /<img\b[^<>]*>/gi;
const altOf = (img: string): string => / alt="([^"]*)"/i.exec(img)?.[1] ?? '';
const pictured: Step = (item, _set, profile) => {
  if (profile.pictures === true || profile.pictures === 'apart' || !someRich(item, (r) => r.includes('<img'))) return null;
  const words = mapRich(item, (r) => (r.includes('<img') ? r.replace(PICTURE, altOf) : r));
  if (!profile.pictures) return change('lost', 'no pictures', 'pictures stay here; the words that describe them go', words);
  const shown = { ...words, stem: item.stem };
  return changedFields(item, shown).length ? change('lost', 'one picture', 'only the picture of the question goes; words describe the others', shown) : null;
};
/** A picture that a text names and the set has not cannot go anywhere. */
const present: Step = (item, set) => {
  const gone = (img: string): boolean => {
    const hash = /asset:([0-9a-f]{64})/.exec(img)?.[1];
    return hash !== undefined && !set.assets?.[hash];
  };
  if (!someRich(item, (r) => r.includes('asset:') && (r.match(PICTURE) ?? []).some(gone))) return null;
  return change(
    'lost',
    'picture missing',
    'a picture of it is missing in the set; the words that describe it go',
    mapRich(item, (r) => r.replace(PICTURE, (img) => (gone(img) ? altOf(img) : img))),
  );
};
/** A text without its look; with `first`, the first of its pictures stands behind it. */
function bare(rich: string, first: boolean): string {
  const picture = first ? rich.match(PICTURE)?.[0] : undefined;
  if (!picture) return richFromPlain(richToPlain(rich));
  const words = richFromPlain(richToPlain(rich.replace(PICTURE, '')));
  return `${words && `<p>${richToXhtml(words)}</p>`}${picture}`;
}
const plain: Step = (item, _set, profile) => {
  if (profile.rich || !someRich(item, isMarkup)) return null;
  const words = mapRich(item, (r) => bare(r, false));
  if (profile.pictures !== 'apart' && profile.pictures !== 'question')
    return change('lost', 'plain text', 'bold, lists and tables become plain text there', words);
  const shown = { ...words, stem: bare(item.stem, true) };
  if (profile.pictures === 'question') return change('lost', 'plain text', 'becomes plain text there, with one picture at most behind the question', shown);
  if ('options' in item && 'options' in shown) shown.options = shown.options.map((o, i) => ({ ...o, content: bare(item.options[i]?.content ?? '', true) }));
  return change('lost', 'plain text', 'becomes plain text there, with one picture at most behind the question and each option', shown);
};

/** What every profile but that of the set file asks, in this order. */
export const GENERAL: readonly Step[] = [paired, scored, credited, ...matched, present, pictured, plain];

/** A passage put in front of the question, for destinations that have no place for one. */
export const passageInFront: Step = (item, set) => {
  const passage = set.sections?.find((s) => s.id === item.section)?.passage;
  if (!passage) return null;
  const block = (rich: string): string =>
    /^\s*<(p|ul|ol|table|pre|blockquote)\b/.test(rich)
      ? rich
      : `<p>${isMarkup(rich) ? rich : richFromPlain(rich).replace(/[&<>]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[c] ?? c)}</p>`;
  return change('adapted', 'passage in front', 'the passage stands in front of the question there', { ...item, stem: block(passage) + block(item.stem) });
};

/** Feedback for right and wrong answers said at each option that has none of its own. */
export const feedbackAtOptions: Step = (item) => {
  const { correct, incorrect } = item.feedback ?? {};
  if (!correct && !incorrect) return null;
  const { correct: _c, incorrect: _i, ...rest } = item.feedback ?? {};
  const { feedback: _f, ...bare } = item;
  const base = Object.keys(rest).length ? { ...bare, feedback: rest } : bare;
  if (item.kind === 'true-false') {
    if (item.answer === null) return null;
    const of = (t: 'true' | 'false'): string | undefined => item.optionFeedback?.[t] ?? (String(item.answer) === t ? correct : incorrect);
    const optionFeedback = { ...(of('true') && { true: of('true') }), ...(of('false') && { false: of('false') }) };
    return change('adapted', 'at each option', 'right and wrong feedback goes to each option', { ...base, optionFeedback } as Item);
  }
  if (item.kind !== 'multiple-choice' && item.kind !== 'multiple-response') return null;
  const list_ = item.options.map((o) => {
    const text = o.feedback ?? ((item.kind === 'multiple-choice' ? o.credit >= 1 : o.credit > 0) ? correct : incorrect);
    return text ? { ...o, feedback: text } : o;
  });
  return change('adapted', 'at each option', 'right and wrong feedback goes to each option', { ...base, options: list_ } as Item);
};

/** Gaps in the order of the text, numbered from 1, without those that no marker names. */
export const gapsInOrder: Step = (item) => {
  if (item.kind !== 'cloze') return null;
  const marks = gapMarks(item.stem);
  if (marks.every((m, i) => m === String(i + 1)) && item.gaps.length === marks.length && item.gaps.every((g, i) => g.id === marks[i])) return null;
  const gaps = marks.flatMap((m, i) => item.gaps.filter((g) => g.id === m).map((g) => ({ ...g, id: String(i + 1) })));
  let n = 0;
  return change('adapted', 'gaps numbered', 'its gaps are numbered anew', { ...item, gaps, stem: item.stem.replace(/\[\[[^\][]+\]\]/g, () => `[[${++n}]]`) });
};

/** Points that are whole numbers between two. */
export const wholePoints =
  (least: number, most: number): Step =>
  (item) => {
    if (item.kind === 'information' || (Number.isInteger(item.points) && item.points <= most && item.points >= least)) return null;
    const points = Math.min(most, Math.max(least, Math.round(item.points)));
    return change(
      'lost',
      points === 1 ? '1 point' : `${points} points`,
      `its ${item.points} points become ${points} there: only whole numbers up to ${most} are possible`,
      { ...item, points },
    );
  };

/** The nearest of the times that may be given, in seconds from the shortest: at least as long as is wanted, else the longest. */
export const allowedTime =
  (times: readonly number[]): Step =>
  (item) => {
    if (item.timeLimit === undefined || times.includes(item.timeLimit)) return null;
    const wanted = item.timeLimit;
    const given = times.find((t) => t >= wanted) ?? times.at(-1) ?? wanted;
    return {
      item: { ...item, timeLimit: given },
      fit: 'adapted',
      brief: `${given} s`,
      message: `its ${wanted} seconds become ${given}: one of those that may be given there`,
    };
  };

/** The seconds that an item to choose in gets where it says nothing, at a destination that has no item without. */
export const usualTime =
  (seconds: number): Step =>
  (item) =>
    item.timeLimit !== undefined || !('options' in item)
      ? null
      : {
          item: { ...item, timeLimit: seconds },
          fit: 'adapted',
          brief: `${seconds} s`,
          message: `it gets ${seconds} seconds there: it has no time limit of its own`,
        };
