/**
 * Builds QTI 1.2: items with `respcondition` scoring, in assessments or object banks, also by the Common Cartridge profile.
 * Element names and their order: IMS QTI ASI XML Binding 1.2.1, from memory. Scores are per cent, as importers commonly take them;
 * the points stand in the metadata.
 */
import { identifierOf } from '../identifiers.js';
import { inFigures } from '../../../language/decimal.js';
import type { Gap, Item, ItemOf, NumberAnswer, Option, QuizSet, TextAnswer } from '../../../item/model.js';
import { gapMarks, isGraded, letterOf, nameOf, rightsOf } from '../../../item/kinds.js';
import { isMarkup, richToXhtml } from '../../../item/richText.js';
import { truthWords } from '../../../language/truthWords.js';
import { el, type XmlElement } from '../../xml.js';
import { OWN_TOOL } from '../ownTool.js';
import { displayOrder } from '../../displayOrder.js';
import { runsOfParts } from '../runsOfParts.js';

/** Which profile of 1.2 is written: the plain one, whose metadata carries all of the model, or that of cartridges. */
export type Flavour = 'plain' | 'cartridge';

const material = (rich: string, attributes: Record<string, string> = {}): XmlElement =>
  el(
    'material',
    attributes,
    isMarkup(rich) || rich.includes('\n') ? el('mattext', { texttype: 'text/html' }, richToXhtml(rich)) : el('mattext', { texttype: 'text/plain' }, rich),
  );
const num = inFigures;
const percent = (credit: number): string => String(Math.round(credit * 1e7) / 1e5);

const equal = (respident: string, value: string, more: Record<string, string> = {}): XmlElement => el('varequal', { respident, ...more }, value);
const not = (test: XmlElement): XmlElement => el('not', {}, test);
const all = (...tests: XmlElement[]): XmlElement => (tests.length === 1 ? (tests[0] as XmlElement) : el('and', {}, tests));
const any = (...tests: XmlElement[]): XmlElement => (tests.length === 1 ? (tests[0] as XmlElement) : el('or', {}, tests));
const within = (respident: string, a: NumberAnswer): XmlElement =>
  a.min === a.max
    ? el('or', {}, equal(respident, num(a.min)), el('and', {}, el('vargte', { respident }, num(a.min)), el('varlte', { respident }, num(a.max))))
    : el('and', {}, el('vargte', { respident }, num(a.min)), el('varlte', { respident }, num(a.max)));

/** One condition: what it asks, what it scores (per cent), what it shows, and whether the next ones are looked at. */
const condition = (test: XmlElement, score: { action: 'Set' | 'Add'; credit: number } | null, shows: readonly string[], goesOn: boolean): XmlElement =>
  el(
    'respcondition',
    { continue: goesOn ? 'Yes' : 'No' },
    el('conditionvar', {}, test),
    score ? el('setvar', { varname: 'SCORE', action: score.action }, percent(score.credit)) : null,
    shows.map((linkrefid) => el('displayfeedback', { feedbacktype: 'Response', linkrefid })),
  );
const shows = (test: XmlElement, id: string): XmlElement => condition(test, null, [id], true);
const adds = (test: XmlElement, credit: number): XmlElement => condition(test, { action: 'Add', credit }, [], true);
const sets = (test: XmlElement, credit: number): XmlElement => condition(test, { action: 'Set', credit }, [], false);

interface Parts {
  /** What importers call the kind, and what the standard's metadata calls it. */
  type: string;
  questionType: string;
  profile?: string;
  body: XmlElement[];
  scoring: XmlElement[];
  /** Feedback of single options and answers: shown beside the scoring. */
  feedback: [id: string, rich: string, test: XmlElement][];
}

const label = (ident: string, rich: string, attributes: Record<string, string> = {}): XmlElement =>
  el('response_label', { ident, ...attributes }, material(rich));
const lid = (ident: string, cardinality: string, shuffle: boolean | undefined, labels: XmlElement[], lead: XmlElement | null = null): XmlElement =>
  el('response_lid', { ident, rcardinality: cardinality }, lead, el('render_choice', { shuffle: shuffle ? 'Yes' : 'No' }, labels));
const fib = (ident: string, fibtype: 'String' | 'Decimal', lead: XmlElement | null = null, rows?: number): XmlElement =>
  el(
    'response_str',
    { ident, rcardinality: 'Single' },
    lead,
    el('render_fib', { fibtype, prompt: 'Box', ...(rows && { rows, columns: 70 }) }, el('response_label', { ident: `${ident}_1`, rshuffle: 'No' })),
  );

const stemOf = (item: Item): XmlElement[] => (item.stem.trim() ? [material(item.stem)] : []);

function choice(item: ItemOf<'multiple-choice'>): Parts {
  const options = item.options.map((o, i) => ({ o, id: letterOf(i) }));
  return {
    type: 'multiple_choice_question',
    questionType: 'Multiple-choice',
    profile: 'cc.multiple_choice.v0p1',
    body: [
      ...stemOf(item),
      lid(
        'response',
        'Single',
        item.shuffle,
        options.map(({ o, id }) => label(id, o.content, o.pinned ? { rshuffle: 'No' } : {})),
      ),
    ],
    scoring: options.filter(({ o }) => o.credit !== 0).map(({ o, id }) => sets(equal('response', id), o.credit)),
    feedback: options.flatMap(({ o, id }): Parts['feedback'] => (o.feedback ? [[`option_${id}`, o.feedback, equal('response', id)]] : [])),
  };
}

function severalRight(item: ItemOf<'multiple-response'>): Parts {
  const options = item.options.map((o, i) => ({ o, id: letterOf(i), key: o.credit > 0 }));
  const keys = options.filter((x) => x.key).length || 1;
  const n = options.length;
  const scoring = ((): XmlElement[] => {
    switch (item.scoring) {
      case 'all-or-nothing':
        return [sets(all(...options.map((x) => (x.key ? equal('response', x.id) : not(equal('response', x.id))))), 1)];
      case 'per-option':
        return options.map((x) =>
          x.key ? adds(equal('response', x.id), 1 / n) : adds(all(not(el('unanswered', { respident: 'response' })), not(equal('response', x.id))), 1 / n),
        );
      case 'right-minus-wrong':
        return options.map((x) => adds(equal('response', x.id), x.key ? 1 / keys : -1 / (n - keys || 1)));
      case 'weights':
        return options.filter((x) => x.o.credit !== 0).map((x) => adds(equal('response', x.id), x.o.credit));
    }
  })();
  return {
    type: 'multiple_answers_question',
    questionType: 'Multiple-response',
    profile: 'cc.multiple_response.v0p1',
    body: [
      ...stemOf(item),
      lid(
        'response',
        'Multiple',
        item.shuffle,
        options.map(({ o, id }) => label(id, o.content, o.pinned ? { rshuffle: 'No' } : {})),
      ),
    ],
    scoring,
    feedback: options.flatMap(({ o, id }): Parts['feedback'] => (o.feedback ? [[`option_${id}`, o.feedback, equal('response', id)]] : [])),
  };
}

function trueFalse(item: ItemOf<'true-false'>, language: string | undefined): Parts {
  const words = truthWords(language);
  return {
    type: 'true_false_question',
    questionType: 'True/false',
    profile: 'cc.true_false.v0p1',
    body: [...stemOf(item), lid('response', 'Single', false, [label('true', words.true), label('false', words.false)])],
    scoring: [sets(equal('response', String(item.answer)), 1)],
    feedback: (['true', 'false'] as const).flatMap((t): Parts['feedback'] => {
      const text = item.optionFeedback?.[t];
      return text ? [[`option_${t}`, text, equal('response', t)]] : [];
    }),
  };
}

type Scored = { test: XmlElement; credit: number; feedback?: string | undefined };
const textTests = (respident: string, answers: readonly TextAnswer[], caseSensitive: boolean): Scored[] =>
  answers.map((a) => ({
    test: equal(respident, a.text.replace(/\s+/g, ' ').trim(), { case: caseSensitive ? 'Yes' : 'No' }),
    credit: a.credit,
    feedback: a.feedback,
  }));
const numberTests = (respident: string, answers: readonly NumberAnswer[]): Scored[] =>
  [...answers].sort((a, b) => b.credit - a.credit).map((a) => ({ test: within(respident, a), credit: a.credit, feedback: a.feedback }));
/** Answers with one credit are alternatives of one condition. */
function byCredit(tests: readonly Scored[]): { test: XmlElement; credit: number }[] {
  const groups = new Map<number, XmlElement[]>();
  for (const t of tests) if (t.credit !== 0) groups.set(t.credit, [...(groups.get(t.credit) ?? []), t.test]);
  return [...groups].sort((a, b) => b[0] - a[0]).map(([credit, list]) => ({ test: any(...list), credit }));
}
/** Feedback of the first answer that fits, as the scoring takes the first: the ones before it must not have fitted. */
const answerFeedback = (prefix: string, tests: readonly Scored[]): Parts['feedback'] =>
  tests.flatMap((t, i): Parts['feedback'] =>
    t.feedback ? [[`${prefix}_${i + 1}`, t.feedback, all(t.test, ...tests.slice(0, i).map((b) => not(b.test)))]] : [],
  );

function shortAnswer(item: ItemOf<'short-answer'>): Parts {
  const tests = textTests('response', item.answers, item.match.caseSensitive);
  return {
    type: 'short_answer_question',
    questionType: 'FIB-string',
    profile: 'cc.fib.v0p1',
    body: [...stemOf(item), fib('response', 'String')],
    scoring: byCredit(tests).map((c) => sets(c.test, c.credit)),
    feedback: answerFeedback('ANSWER', tests),
  };
}

function numeric(item: ItemOf<'numeric'>): Parts {
  const tests = numberTests('response', item.answers);
  return {
    type: 'numerical_question',
    questionType: 'FIB-numeric',
    body: [...stemOf(item), fib('response', 'Decimal'), ...(item.unit ? [material(item.unit, { label: 'unit' })] : [])],
    scoring: tests.filter((t) => t.credit !== 0).map((t) => sets(t.test, t.credit)),
    feedback: answerFeedback('ANSWER', tests),
  };
}

/** Gaps stand where they belong in a plain text. In a text with markup, which could not be cut there, `[1]` stands for them. Cartridges know one gap, drawn as a blank. */
function cloze(item: ItemOf<'cloze'>, flavour: Flavour): Parts {
  const total = item.gaps.reduce((s, g) => s + g.points, 0) || 1;
  const id = (i: number): string => `gap_${i + 1}`;
  const inText = !isMarkup(item.stem);
  const response = (g: Gap, i: number): XmlElement => {
    const lead = inText || flavour === 'cartridge' ? null : material(String(i + 1));
    if (g.kind === 'choice')
      return lid(
        id(i),
        'Single',
        false,
        g.options.map((o, k) => label(letterOf(k), o.content)),
        lead,
      );
    return fib(id(i), g.kind === 'number' ? 'Decimal' : 'String', lead);
  };
  const marks = gapMarks(item.stem);
  const at = new Map(item.gaps.map((g, i) => [g.id, i]));
  const body: XmlElement[] = [];
  if (flavour === 'cartridge') body.push(material(item.stem.replace(/\[\[[^\][]+\]\]/, '____')), ...item.gaps.map(response));
  else if (inText) {
    for (const [k, piece] of item.stem.split(/\[\[([^\][]+)\]\]/).entries()) {
      if (k % 2 === 0) {
        if (piece) body.push(el('material', {}, el('mattext', { texttype: 'text/plain' }, piece)));
      } else {
        const i = at.get(piece);
        const g = i === undefined ? undefined : item.gaps[i];
        if (g && i !== undefined) body.push(response(g, i));
      }
    }
  } else {
    body.push(material(item.stem.replace(/\[\[([^\][]+)\]\]/g, (_, m: string) => `[${(at.get(m) ?? 0) + 1}]`)));
    item.gaps.forEach((g, i) => marks.includes(g.id) && body.push(response(g, i)));
  }
  if (item.wordBank?.length) body.unshift(material(item.wordBank.join('\n'), { label: 'word-bank' }));
  const scoring: XmlElement[] = [];
  const feedback: Parts['feedback'] = [];
  item.gaps.forEach((g, i) => {
    const worth = g.points / total;
    const tests: Scored[] =
      g.kind === 'choice'
        ? g.options.map((o, k) => ({ test: equal(id(i), letterOf(k)), credit: o.credit, feedback: o.feedback }))
        : g.kind === 'number'
          ? numberTests(id(i), g.answers)
          : textTests(id(i), g.answers, g.match?.caseSensitive ?? false);
    // of answers that overlap the best counts: the others only where it did not fit
    byCredit(tests).forEach((c, k, groups) =>
      scoring.push(adds(g.kind === 'number' && k ? all(c.test, ...groups.slice(0, k).map((b) => not(b.test))) : c.test, c.credit * worth)),
    );
    feedback.push(...answerFeedback(`ANSWER_${i + 1}`, tests));
  });
  const only = item.gaps.length === 1 && item.gaps[0]?.kind === 'text';
  return {
    type: item.gaps.every((g) => g.kind === 'choice') ? 'multiple_dropdowns_question' : 'fill_in_multiple_blanks_question',
    questionType: 'FIB-string',
    ...(only && { profile: 'cc.fib.v0p1' }),
    body,
    scoring,
    feedback,
  };
}

function matching(item: ItemOf<'matching'>): Parts {
  const rights = rightsOf(item);
  const shown = displayOrder(rights.length);
  return {
    type: 'matching_question',
    questionType: 'Matching',
    body: [
      ...stemOf(item),
      ...item.pairs.map((p, i) =>
        lid(
          `left_${i + 1}`,
          'Single',
          item.shuffle,
          shown.map((k) => label(`R${k + 1}`, rights[k] ?? '')),
          material(p.left),
        ),
      ),
    ],
    scoring: item.pairs.map((p, i) => adds(equal(`left_${i + 1}`, `R${rights.indexOf(p.right) + 1}`), 1 / item.pairs.length)),
    feedback: [],
  };
}

function ordering(item: ItemOf<'ordering'>): Parts {
  return {
    type: 'ordering_question',
    questionType: 'Drag-and-drop',
    body: [
      ...stemOf(item),
      lid(
        'response',
        'Ordered',
        item.shuffle,
        displayOrder(item.sequence.length).map((i) => label(`S${i + 1}`, item.sequence[i] ?? '')),
      ),
    ],
    scoring: [sets(all(...item.sequence.map((_, i) => equal('response', `S${i + 1}`, { index: String(i + 1) }))), 1)],
    feedback: [],
  };
}

const essay = (item: ItemOf<'essay'>): Parts => ({
  type: 'essay_question',
  questionType: 'Essay',
  profile: 'cc.essay.v0p1',
  body: [...stemOf(item), fib('response', 'String', null, item.lines)],
  scoring: [],
  feedback: [],
});

function partsOf(item: Item, language: string | undefined, flavour: Flavour): Parts {
  switch (item.kind) {
    case 'multiple-choice':
      return choice(item);
    case 'multiple-response':
      return severalRight(item);
    case 'true-false':
      return trueFalse(item, language);
    case 'short-answer':
      return shortAnswer(item);
    case 'numeric':
      return numeric(item);
    case 'cloze':
      return cloze(item, flavour);
    case 'matching':
      return matching(item);
    case 'ordering':
      return ordering(item);
    case 'essay':
      return essay(item);
    case 'information':
      return { type: 'text_only_question', questionType: 'Information', body: stemOf(item), scoring: [], feedback: [] };
  }
}

type Field = readonly [label: string, entry: string];
const fields = (list: readonly Field[]): XmlElement =>
  el(
    'qtimetadata',
    {},
    list.map(([name, entry]) => el('qtimetadatafield', {}, el('fieldlabel', {}, name), el('fieldentry', {}, entry))),
  );

function metadata(item: Item, parts: Parts, flavour: Flavour): Field[] {
  if (flavour === 'cartridge') {
    return [
      ['cc_profile', parts.profile ?? 'cc.essay.v0p1'],
      ['cc_weighting', num(item.points)],
      ...(item.kind === 'essay'
        ? ([
            ['qmd_scoringpermitted', 'Yes'],
            ['qmd_computerscored', 'No'],
          ] as const)
        : []),
    ];
  }
  const { level = {} } = item;
  return [
    ['question_type', parts.type],
    ['points_possible', num(item.points)],
    ['qmd_questiontype', parts.questionType],
    ['qmd_weighting', num(item.points)],
    ['qmd_computerscored', isGraded(item) ? 'Yes' : 'No'],
    ['qmd_toolvendor', OWN_TOOL],
    ...(item.tags ?? []).map((t): Field => ['keyword', t]),
    ...(item.outcomes ?? []).map((o): Field => ['outcome', o]),
    ...(level.bloom ? [['bloom', level.bloom] as const] : []),
    ...(level.depth ? [['depth', String(level.depth)] as const] : []),
    ...(level.difficulty !== undefined ? [['difficulty', String(level.difficulty)] as const] : []),
    ...(item.required !== undefined ? [['required', item.required ? 'Yes' : 'No'] as const] : []),
    ...(item.bonus ? [['bonus', 'Yes'] as const] : []),
  ];
}

/** Seconds as a duration of ISO 8601. */
const duration = (seconds: number): string => `PT${num(seconds)}S`;
/** The ident of an item in QTI 1.2. */
export const itemIdent1 = (item: Item): string => `item-${item.id.replace(/[^A-Za-z0-9_.-]/g, '-')}`;

/** One item. */
export function buildItem1(item: Item, quiz: QuizSet, flavour: Flavour): XmlElement {
  const parts = partsOf(item, item.language ?? quiz.language, flavour);
  const { correct, incorrect, general } = item.feedback ?? {};
  const graded = isGraded(item);
  const flow = (rich: string): XmlElement => el('flow_mat', {}, material(rich));
  const texts: [string, string][] = [
    ...parts.feedback.map(([id, rich]): [string, string] => [id, rich]),
    ...(general ? [['general_fb', general] as [string, string]] : []),
    ...(correct && graded ? [['correct_fb', correct] as [string, string]] : []),
    ...(incorrect && graded ? [['general_incorrect_fb', incorrect] as [string, string]] : []),
  ];
  const scoring = rightAndWrong(parts.scoring, graded && correct ? 'correct_fb' : null, graded && incorrect ? 'general_incorrect_fb' : null, item);
  const conditions = [...(general ? [shows(el('other'), 'general_fb')] : []), ...parts.feedback.map(([id, , test]) => shows(test, id)), ...scoring];
  const hints = item.hints ?? [];
  const solution = item.kind === 'essay' ? item.modelAnswer : undefined;
  return el(
    'item',
    {
      ident: itemIdent1(item),
      title: item.title?.trim() ? item.title.replace(/\s+/g, ' ').trim() : nameOf(item),
      ...(flavour === 'plain' && item.label && { label: item.label }),
      ...(flavour === 'plain' && (item.language ?? quiz.language) && { 'xml:lang': item.language ?? quiz.language }),
    },
    flavour === 'plain' && item.timeLimit ? el('duration', {}, duration(item.timeLimit)) : null,
    el('itemmetadata', {}, fields(metadata(item, parts, flavour))),
    item.kind === 'essay' && item.rubric ? el('rubric', { view: 'Scorer' }, flow(item.rubric)) : null,
    el('presentation', {}, el('flow', {}, parts.body)),
    conditions.length || graded
      ? el(
          'resprocessing',
          {},
          el('outcomes', {}, el('decvar', { varname: 'SCORE', vartype: 'Decimal', defaultval: '0', minvalue: '0', maxvalue: '100' })),
          conditions,
        )
      : null,
    texts.map(([ident, rich]) => el('itemfeedback', { ident }, flow(rich))),
    hints.length
      ? el(
          'itemfeedback',
          { ident: 'hints' },
          el(
            'hint',
            { feedbackstyle: 'Multilevel' },
            hints.map((h) => el('hintmaterial', {}, flow(h))),
          ),
        )
      : null,
    solution ? el('itemfeedback', { ident: 'solution' }, el('solution', {}, el('solutionmaterial', {}, flow(solution)))) : null,
  );
}

/**
 * Shows what is said to right and to wrong answers. Where one condition earns everything by itself it stands there; where shares
 * are added up, everything is earned only if all the shares are, which a condition of its own asks for.
 */
function rightAndWrong(scoring: readonly XmlElement[], right: string | null, wrong: string | null, item: Item): XmlElement[] {
  if (!right && !wrong) return [...scoring];
  const test = fully(item);
  // where everything cannot be earned, every answer is short of it
  if (!test) return [...(wrong ? [shows(always, wrong)] : []), ...scoring];
  return [...(right ? [shows(test, right)] : []), ...(wrong ? [shows(not(test), wrong)] : []), ...scoring];
}

/** `other` holds only where no condition before it did. */
const always = any(el('unanswered', { respident: 'response' }), not(el('unanswered', { respident: 'response' })));

/** What has to hold for all points; null where that cannot be said. */
function fully(item: Item): XmlElement | null {
  const equals = (list: readonly Option[], respident: string, key: (o: Option) => boolean): XmlElement[] =>
    list.flatMap((o, i) => (key(o) ? [equal(respident, letterOf(i))] : []));
  switch (item.kind) {
    case 'multiple-choice':
      return any(...equals(item.options, 'response', (o) => o.credit >= 1));
    case 'multiple-response':
      return item.scoring === 'weights'
        ? weightsFully(item)
        : all(...item.options.map((o, i) => (o.credit > 0 ? equal('response', letterOf(i)) : not(equal('response', letterOf(i))))));
    case 'true-false':
      return equal('response', String(item.answer));
    case 'short-answer':
      return any(
        ...textTests('response', item.answers, item.match.caseSensitive)
          .filter((t) => t.credit >= 1)
          .map((t) => t.test),
      );
    case 'numeric':
      return any(
        ...numberTests('response', item.answers)
          .filter((t) => t.credit >= 1)
          .map((t) => t.test),
      );
    case 'cloze':
      return all(
        ...item.gaps.map((g, i) => {
          const id = `gap_${i + 1}`;
          if (g.kind === 'choice') return any(...equals(g.options, id, (o) => o.credit >= 1));
          const tests = g.kind === 'number' ? numberTests(id, g.answers) : textTests(id, g.answers, g.match?.caseSensitive ?? false);
          return any(...tests.filter((t) => t.credit >= 1).map((t) => t.test));
        }),
      );
    case 'matching': {
      const rights = rightsOf(item);
      return all(...item.pairs.map((p, i) => equal(`left_${i + 1}`, `R${rights.indexOf(p.right) + 1}`)));
    }
    case 'ordering':
      return all(...item.sequence.map((_, i) => equal('response', `S${i + 1}`, { index: String(i + 1) })));
    default:
      return null;
  }
}

/** The fewest sets of options whose weights come to everything: up to eight options each set is looked at, else the keys alone. */
function weightsFully(item: ItemOf<'multiple-response'>): XmlElement | null {
  const n = item.options.length;
  const chosen = (set: number): XmlElement[] =>
    item.options.map((_, i) => (set & (1 << i) ? equal('response', letterOf(i)) : not(equal('response', letterOf(i)))));
  if (n > 8) return all(...item.options.map((o, i) => (o.credit > 0 ? equal('response', letterOf(i)) : not(equal('response', letterOf(i))))));
  const sets_: XmlElement[] = [];
  for (let set = 1; set < 1 << n; set++) {
    const sum = item.options.reduce((s, o, i) => s + (set & (1 << i) ? o.credit : 0), 0);
    if (sum >= 1 - 1e-6) sets_.push(all(...chosen(set)));
  }
  return sets_.length ? any(...sets_) : null;
}

/** The file's root: an assessment with a section for each part, or an object bank. A cartridge's assessment has one section, as its profile wants. */
export function buildFile1(quiz: QuizSet, flavour: Flavour, as: 'test' | 'bank', schemaLocation: string): XmlElement {
  const item = (i: Item): XmlElement => buildItem1(i, quiz, flavour);
  const root = { xmlns: NAMESPACE, 'xmlns:xsi': 'http://www.w3.org/2001/XMLSchema-instance', 'xsi:schemaLocation': schemaLocation };
  if (as === 'bank') return el('questestinterop', root, el('objectbank', { ident: identifierOf(quiz, 'bank') }, quiz.items.map(item)));
  const body =
    flavour === 'cartridge'
      ? [el('section', { ident: identifierOf(quiz, 'root_section') }, quiz.items.map(item))]
      : runsOfParts(quiz).map(({ section, items }, i) =>
          el(
            'section',
            { ident: identifierOf(quiz, `section_${i + 1}`), ...(section?.title && { title: section.title }) },
            section?.instructions ? el('rubric', { view: 'Candidate' }, el('flow_mat', {}, material(section.instructions))) : null,
            section?.passage ? el('presentation_material', {}, el('flow_mat', {}, material(section.passage))) : null,
            items.map(item),
          ),
        );
  const about: Field[] =
    flavour === 'cartridge'
      ? [
          ['cc_profile', 'cc.exam.v0p1'],
          ['qmd_assessmenttype', 'Examination'],
          ['qmd_scoretype', 'Percentage'],
        ]
      : [
          ['qmd_assessmenttype', 'Assessment'],
          ['qmd_toolvendor', OWN_TOOL],
        ];
  return el('questestinterop', root, el('assessment', { ident: identifierOf(quiz, 'assessment'), title: quiz.title }, fields(about), body));
}
/** The XML namespace of QTI 1.2. */
export const NAMESPACE = 'http://www.imsglobal.org/xsd/ims_qtiasiv1p2';
