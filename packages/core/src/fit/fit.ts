/**
 * Makes items so that a destination can hold them, and says what that changes. A writer writes what comes out of here and nothing
 * else, so what is said beforehand is what happens: reading the file back gives `Fit.items`.
 */
import { gapMarks, keyProblem } from '../item/kinds.js';
import {
  defaultMatch,
  type Gap,
  type Item,
  type MatchRule,
  type NumberAnswer,
  type Option,
  type QuizSet,
  type Scoring,
  type Section,
  type TextAnswer,
} from '../item/model.js';
import { isMarkup, richFromPlain, richToPlain } from '../item/richText.js';
import { changedFields, sectionOf, tidyRich } from '../item/sameness.js';
import { type Change, everything, type HeldField, holds, type Profile, type Step } from './profile.js';

/** How an item fares at a destination. No note: it fits as it is. */
export interface FitNote {
  item: string;
  /** adapted: said in another way; lost: something does not go with it; impossible: the item stays behind. */
  fit: 'adapted' | 'lost' | 'impossible';
  /** In a few words, for a cell of a table. */
  brief: string;
  message: string;
  /** Nothing that a learner sees or that changes a mark: notes of the teacher's own. */
  minor?: boolean;
}

/** Whether something changes that a learner would meet. */
export const matters = (f: Fit): boolean => f.notes.some((n) => !n.minor);

export interface Fit {
  /** The item as the destination holds it; several where it has to be split; none where it stays behind. */
  items: Item[];
  notes: FitNote[];
  /** The fields that differ when it is read back, as `changedFields` names them; `section` for those of its part; `item` where it is split or stays behind. */
  losses: string[];
}

// ── single fields ──

interface FieldRow {
  has(item: Item, set: QuizSet): boolean;
  without(item: Item): Item;
  brief: string;
  message: string | ((item: Item) => string);
  minor?: true;
}
const minor = (row: FieldRow): FieldRow => ({ ...row, minor: true });
const drop =
  (name: keyof Item) =>
  (item: Item): Item => {
    const { [name]: _dropped, ...rest } = item;
    return rest as Item;
  };
const some = (name: 'title' | 'label' | 'timeLimit' | 'required' | 'shuffle' | 'bonus', brief: string, message: string): FieldRow => ({
  has: (i) => i[name] !== undefined,
  without: drop(name),
  brief,
  message,
});
const list = (name: 'hints' | 'tags' | 'outcomes', brief: string, message: string): FieldRow => ({
  has: (i) => !!i[name]?.length,
  without: drop(name),
  brief,
  message,
});
const own = (name: string, brief: string, message: FieldRow['message']): FieldRow => ({
  has: (i) => name in i && (i as unknown as Record<string, unknown>)[name] !== undefined,
  without: drop(name as keyof Item),
  brief,
  message,
});
const said = (which: 'correct' | 'incorrect' | 'general', brief: string, message: string): FieldRow => ({
  has: (i) => !!i.feedback?.[which],
  without: (i) => {
    const { [which]: _dropped, ...feedback } = i.feedback ?? {};
    const { feedback: _whole, ...rest } = i;
    return (Object.keys(feedback).length ? { ...rest, feedback } : rest) as Item;
  },
  brief,
  message,
});
const answersOf = (item: Item): readonly { feedback?: string | undefined }[] =>
  item.kind === 'short-answer' || item.kind === 'numeric'
    ? item.answers
    : item.kind === 'cloze'
      ? item.gaps.flatMap((g): { feedback?: string | undefined }[] => (g.kind === 'choice' ? g.options : g.answers))
      : [];
const silent = <T extends { feedback?: string | undefined }>(list_: readonly T[]): T[] => list_.map(({ feedback: _f, ...rest }) => rest as unknown as T);
const options = (item: Item): readonly Option[] => (item.kind === 'multiple-choice' || item.kind === 'multiple-response' ? item.options : []);
const mapGaps = (item: Item, f: (g: Gap) => Gap): Item => (item.kind === 'cloze' ? { ...item, gaps: item.gaps.map(f) } : item);
const ofSection = (name: 'title' | 'instructions' | 'passage', brief: string, message: string): FieldRow => ({
  has: (i, set) => !!sectionOf(i, set)?.[name],
  // the section is cut down for all its items together, in `fitSet`
  without: (i) => i,
  brief,
  message,
});

const FIELDS: Record<HeldField, FieldRow> = {
  points: {
    has: (i) => i.points !== 1 && i.kind !== 'information',
    without: (i) => ({ ...i, points: 1 }),
    brief: 'no points',
    message: (i) => `its ${i.points} points stay here and have to be set again there`,
  },
  label: minor(some('label', 'no number', 'its own number stays here')),
  title: minor(some('title', 'no title', 'its title stays here')),
  hints: list('hints', 'no hints', 'hints stay here'),
  tags: minor(list('tags', 'no tags', 'tags stay here')),
  outcomes: minor(list('outcomes', 'no outcomes', 'outcomes stay here')),
  level: minor(own('level', 'no level', 'its level stays here')),
  bonus: some('bonus', 'no bonus', 'counts as a plain item there, not as a bonus'),
  required: some('required', 'as set there', 'whether it must be answered is set there'),
  shuffle: some('shuffle', 'order as here', 'is not shuffled there'),
  timeLimit: some('timeLimit', 'no time limit', 'the time limit stays here'),
  'feedback.correct': said('correct', 'no feedback', 'feedback for right answers stays here'),
  'feedback.incorrect': said('incorrect', 'no feedback', 'feedback for wrong answers stays here'),
  'feedback.general': said('general', 'no feedback', 'feedback stays here'),
  optionFeedback: {
    has: (i) => options(i).some((o) => o.feedback) || (i.kind === 'true-false' && !!i.optionFeedback),
    without: (i) =>
      i.kind === 'true-false' ? drop('optionFeedback' as keyof Item)(i) : { ...(i as Extract<Item, { options: Option[] }>), options: silent(options(i)) },
    brief: 'no feedback',
    message: 'feedback of single options stays here',
  },
  answerFeedback: {
    has: (i) => answersOf(i).some((a) => a.feedback),
    without: (i) =>
      i.kind === 'short-answer'
        ? { ...i, answers: silent<TextAnswer>(i.answers) }
        : i.kind === 'numeric'
          ? { ...i, answers: silent<NumberAnswer>(i.answers) }
          : mapGaps(i, (g) =>
              g.kind === 'choice'
                ? { ...g, options: silent(g.options) }
                : g.kind === 'text'
                  ? { ...g, answers: silent(g.answers) }
                  : { ...g, answers: silent(g.answers) },
            ),
    brief: 'no feedback',
    message: 'feedback of single answers stays here',
  },
  pinned: {
    has: (i) => options(i).some((o) => o.pinned),
    without: (i) => ({ ...(i as Extract<Item, { options: Option[] }>), options: options(i).map(({ pinned: _p, ...o }) => o) }),
    brief: 'none stays put',
    message: 'no option keeps its place when options are shuffled there',
  },
  unit: own('unit', 'no unit', (i) => `the unit ${i.kind === 'numeric' ? (i.unit ?? '') : ''} stays here`),
  wordBank: {
    has: (i) => i.kind === 'cloze' && !!i.wordBank?.length,
    without: drop('wordBank' as keyof Item),
    brief: 'no word list',
    message: 'the list of words to choose from stays here',
  },
  gapPoints: {
    has: (i) => i.kind === 'cloze' && new Set(i.gaps.map((g) => g.points)).size > 1,
    without: (i) => mapGaps(i, (g) => ({ ...g, points: 1 })),
    brief: 'gaps alike',
    message: 'all gaps count the same there',
  },
  modelAnswer: minor(own('modelAnswer', 'no model answer', 'the model answer stays here')),
  rubric: minor(own('rubric', 'no rubric', 'the rubric stays here')),
  lines: minor(own('lines', 'size as there', 'the number of lines to write on stays here')),
  'section.title': minor(ofSection('title', 'no part', 'the title of its part stays here')),
  'section.instructions': ofSection('instructions', 'no instructions', 'the instructions of its part stay here'),
  'section.passage': ofSection('passage', 'no passage', 'the passage stays here'),
};
const FIELD_ROWS = Object.entries(FIELDS) as [HeldField, FieldRow][];
const SECTION_FIELDS = ['title', 'instructions', 'passage'] as const;

// ── what applies to all formats alike ──

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

const PICTURE = /<img\b[^>]*>/gi;
const altOf = (img: string): string => / alt="([^"]*)"/i.exec(img)?.[1] ?? '';
const pictured: Step = (item, _set, profile) =>
  profile.pictures || !someRich(item, (r) => r.includes('<img'))
    ? null
    : change(
        'lost',
        'no pictures',
        'pictures stay here; the words that describe them go',
        mapRich(item, (r) => (r.includes('<img') ? r.replace(PICTURE, altOf) : r)),
      );
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
const plain: Step = (item, _set, profile) =>
  profile.rich || !someRich(item, isMarkup)
    ? null
    : change(
        'lost',
        'plain text',
        'bold, lists and tables become plain text there',
        mapRich(item, (r) => richFromPlain(richToPlain(r))),
      );

const GENERAL: readonly Step[] = [paired, scored, credited, ...matched, present, pictured, plain];

// ── the whole ──

/** What an item becomes at a destination. */
export function fit(item: Item, profile: Profile, set: QuizSet): Fit {
  const notes: FitNote[] = [];
  const note = (f: FitNote['fit'], brief: string, message: string, isMinor?: boolean): void =>
    void notes.push({ item: item.id, fit: f, brief, message, ...(isMinor && { minor: true }) });
  const stays = (brief: string, message: string): Fit => {
    note('impossible', brief, message);
    return { items: [], notes: notes.slice(-1), losses: ['item'] };
  };
  if (!profile.keyless) {
    const none = keyProblem(item);
    if (none) return stays('no key', `it has ${none.message}`);
  }
  const recast = (i: Item, depth: number): Item[] | string => {
    const as = profile.recast?.[i.kind];
    if (!as) return profile.kinds.includes(i.kind) ? [i] : 'there is nothing of its kind there';
    const made = as.make(i, set);
    if (typeof made === 'string' || made[0] === i || depth > 3) return made;
    note('adapted', as.brief, as.message);
    const out: Item[] = [];
    for (const m of made) {
      const next = m.kind === i.kind ? [m] : recast(m, depth + 1);
      if (typeof next === 'string') return next;
      out.push(...next);
    }
    return out;
  };
  const first = profile.passageInFront ? passageInFront(item, set, profile) : null;
  if (first) note(first.fit, first.brief, first.message);
  const items = recast(first?.item ?? item, 0);
  if (typeof items === 'string') return stays('cannot go', items);
  const seen = new Set<string>();
  const done: Item[] = [];
  for (const start of items) {
    let now = start;
    const apply = (c: Change | null): void => {
      if (!c) return;
      const same = seen.has(c.message) || !changedFields(now, c.item).length;
      now = c.item;
      if (same) return;
      note(c.fit, c.brief, c.message, c.minor);
      seen.add(c.message);
    };
    for (const step of profile.also ?? []) apply(step(now, set, profile));
    for (const [field, row] of FIELD_ROWS) {
      if (holds(profile, field, now.kind) || !row.has(now, set)) continue;
      if (field === 'section.passage' && profile.passageInFront) continue;
      const message = typeof row.message === 'string' ? row.message : row.message(now);
      if (field === 'section.title' || field === 'section.instructions' || field === 'section.passage') {
        if (!seen.has(message)) note('lost', row.brief, message, row.minor);
        seen.add(message);
      } else apply({ item: row.without(now), fit: 'lost', brief: row.brief, message, ...(row.minor && { minor: true }) });
    }
    if (profile !== everything) for (const step of GENERAL) apply(step(now, set, profile));
    const refused = tooMuch(now, profile) ?? profile.refuses?.(now) ?? null;
    if (refused) return stays('cannot go', refused);
    done.push(now);
  }
  // numbers of the gaps that were taken apart: items of one gap only are whole again
  const one = done.length === 1 ? done[0] : undefined;
  const losses = one ? (one === item ? [] : changedFields(item, one)) : ['item'];
  const section = item.section === undefined ? undefined : set.sections?.find((s) => s.id === item.section);
  if (one && section && profile !== everything) {
    const kept = heldSection(section, profile);
    const there = sectionOf(item, { ...set, sections: kept ? [kept] : [] });
    if (JSON.stringify(there) !== JSON.stringify(sectionOf(item, set))) {
      losses.push('section');
      const reworded = SECTION_FIELDS.some((n) => n !== 'title' && kept?.[n] && tidyRich(kept[n]) !== tidyRich(section[n] ?? ''));
      if (reworded) note('lost', 'plain text', 'the text of its part becomes plain text there');
    }
  }
  return { items: done, notes, losses };
}

function tooMuch(item: Item, { most }: Profile): string | null {
  if (!most) return null;
  const long = options(item);
  if (most.options && long.length > most.options) return `it has ${long.length} options; ${most.options} are possible there`;
  if (most.question && richToPlain(item.stem).length > most.question) return `its question has more than ${most.question} characters`;
  const option = most.option ? long.find((o) => richToPlain(o.content).length > (most.option ?? 0)) : undefined;
  return option ? `an option has more than ${most.option} characters` : null;
}

/** A part as a destination holds it: what it has a place for, in words where it has no more; null where nothing is left. */
function heldSection(s: Section, profile: Profile): Section | null {
  const plain_ = (name: (typeof SECTION_FIELDS)[number], text: string): string => (profile.rich || name === 'title' ? text : richFromPlain(richToPlain(text)));
  const kept = Object.fromEntries(SECTION_FIELDS.flatMap((n) => (s[n] && profile.holds[`section.${n}`] ? [[n, plain_(n, s[n])]] : [])));
  return Object.keys(kept).length ? { id: s.id, ...kept } : null;
}

/** A whole set as a destination holds it, with what becomes of each item, in their order. */
export function fitSet(set: QuizSet, profile: Profile): { set: QuizSet; fits: Fit[] } {
  const fits = set.items.map((i) => fit(i, profile, set));
  const sections = (set.sections ?? []).flatMap((s): Section[] => {
    const kept = heldSection(s, profile);
    return kept ? [kept] : [];
  });
  const known = new Set(sections.map((s) => s.id));
  const items = fits.flatMap((f) => f.items).map((i) => (i.section === undefined || known.has(i.section) ? i : drop('section')(i)));
  const { sections: _all, ...rest } = set;
  return { set: { ...rest, items, ...(sections.length && { sections }) }, fits };
}

/** A passage put in front of the question, for destinations that have no place for one. */
const passageInFront: Step = (item, set) => {
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
