/**
 * Builds QTI items and tests as trees in the names of QTI 2.1; names.ts turns them into those of 3.0.
 * Element names and templates: 1EdTech QTI Assessment, Section and Item Information Model 2.1, and QTI 3.0 ASI.
 */
import { identifierOf } from '../identifiers.js';
import { middleOf } from '../../../language/decimal.js';
import type { ChoiceItem, Gap, Item, ItemOf, NumberAnswer, Option, QuizSet, Section, TextAnswer } from '../../../item/model.js';
import { isGraded, letterOf, nameOf, rightsOf } from '../../../item/kinds.js';
import { richToPlain } from '../../../item/richText.js';
import { truthWords } from '../../../language/truthWords.js';
import { el, RawXml, type XmlElement } from '../../xml.js';
import { displayOrder } from '../../displayOrder.js';
import { OWN_TOOL } from '../ownTool.js';
import { runsOfParts } from '../runsOfParts.js';
import { blocks, hasBlocks, inline, xhtml } from './xhtml.js';

/** What differs between the versions of QTI 2 and 3: names, namespaces, schemas. */
export interface Version {
  id: '2.1' | '2.2' | '3.0';
  namespace: string;
  schema: string;
  /** Where a standard response-processing template stands, by its name. */
  template(name: string): string;
  itemType: string;
  testType: string;
}

/** As a float of XML Schema, which may have a power of ten. */
const num = String as (n: number) => string;
const value = (v: string): XmlElement => el('value', {}, v);
const float = (n: number): XmlElement => el('baseValue', { baseType: 'float' }, num(n));
const variable = (identifier: string): XmlElement => el('variable', { identifier });
const set = (identifier: string, expression: XmlElement): XmlElement => el('setOutcomeValue', { identifier }, expression);
const when = (...branches: [XmlElement | null, XmlElement][]): XmlElement =>
  el(
    'responseCondition',
    {},
    branches.map(([test, then], i) => (test ? el(i === 0 ? 'responseIf' : 'responseElseIf', {}, test, then) : el('responseElse', {}, then))),
  );
const within = (identifier: string, a: NumberAnswer): XmlElement =>
  el('and', {}, el('gte', {}, variable(identifier), float(a.min)), el('lte', {}, variable(identifier), float(a.max)));

interface Entry {
  key: string;
  value: number;
  caseSensitive?: boolean;
}
interface Declared {
  cardinality: 'single' | 'multiple' | 'ordered';
  baseType: 'identifier' | 'string' | 'float' | 'directedPair';
  correct?: string[];
  mapping?: { entries: Entry[]; lower?: number; upper?: number };
}
const declare = (identifier: string, d: Declared): XmlElement =>
  el(
    'responseDeclaration',
    { identifier, cardinality: d.cardinality, baseType: d.baseType },
    d.correct?.length ? el('correctResponse', {}, d.correct.map(value)) : null,
    d.mapping
      ? el(
          'mapping',
          {
            ...(d.mapping.lower !== undefined && { lowerBound: num(d.mapping.lower) }),
            ...(d.mapping.upper !== undefined && { upperBound: num(d.mapping.upper) }),
            defaultValue: '0',
          },
          d.mapping.entries.map((e) =>
            el('mapEntry', { mapKey: e.key, mappedValue: num(e.value), ...(e.caseSensitive !== undefined && { caseSensitive: e.caseSensitive }) }),
          ),
        )
      : null,
  );

const outcome = (identifier: string, baseType: string, dflt?: string, more: Record<string, string> = {}, cardinality = 'single'): XmlElement =>
  el('outcomeDeclaration', { identifier, cardinality, baseType, ...more }, dflt === undefined ? null : el('defaultValue', {}, value(dflt)));

/** An item's declarations, body and scoring, before they are put together. */
interface Parts {
  responses: XmlElement[];
  body: (XmlElement | RawXml)[];
  /** A standard template that scores the item alone, where one does. */
  template?: 'match_correct' | 'map_response';
  /** The same scoring as rules. */
  rules: XmlElement[];
}

const mapped = (rules: XmlElement[] = [set('SCORE', el('mapResponse', { identifier: 'RESPONSE' }))]): Pick<Parts, 'template' | 'rules'> => ({
  template: 'map_response',
  rules,
});
const matched = (points: number): Pick<Parts, 'template' | 'rules'> => ({
  ...(points === 1 && { template: 'match_correct' as const }),
  rules: [
    when([el('match', {}, variable('RESPONSE'), el('correct', { identifier: 'RESPONSE' })), set('SCORE', float(points))], [null, set('SCORE', float(0))]),
  ],
});

const stemBlocks = (stem: string): RawXml[] => (stem.trim() ? [blocks(stem)] : []);
/** The prompt inside the interaction, or the stem as blocks before it where a prompt could not hold it. */
function prompted(stem: string, make: (prompt: XmlElement | null) => XmlElement): (XmlElement | RawXml)[] {
  return hasBlocks(stem) ? [blocks(stem), make(null)] : [make(stem.trim() ? el('prompt', {}, inline(stem)) : null)];
}

function choice(item: ChoiceItem): Parts {
  const single = item.kind === 'multiple-choice';
  const p = item.points;
  const keyed = item.options.map((o, i) => ({ id: letterOf(i), o, key: single ? o.credit >= 1 : o.credit > 0 }));
  const body = prompted(item.stem, (prompt) =>
    el(
      'choiceInteraction',
      { responseIdentifier: 'RESPONSE', shuffle: item.shuffle ?? false, maxChoices: single ? 1 : 0 },
      prompt,
      keyed.map(({ id, o }) => el('simpleChoice', { identifier: id, ...(o.pinned && { fixed: true }) }, inline(o.content))),
    ),
  );
  const correct = keyed.filter((k) => k.key).map((k) => k.id);
  const n = item.options.length;
  const keys = correct.length || 1;
  const weight = (k: (typeof keyed)[number]): number => {
    if (single || item.scoring === 'weights') return k.o.credit;
    if (item.scoring === 'per-option') return (k.key ? 1 : -1) / n;
    return k.key ? 1 / keys : -1 / (n - keys || 1);
  };
  const simple = single ? item.options.every((o) => o.credit === 0 || o.credit === 1) : item.scoring === 'all-or-nothing';
  const cardinality = single ? 'single' : 'multiple';
  if (simple) return { responses: [declare('RESPONSE', { cardinality, baseType: 'identifier', correct })], body, ...matched(p) };
  const perOption = !single && item.scoring === 'per-option';
  const entries = keyed.map((k) => ({ key: k.id, value: weight(k) * p })).filter((e) => e.value !== 0);
  const mapping = perOption ? { entries } : { entries, lower: 0, upper: p };
  const responses = [declare('RESPONSE', { cardinality, baseType: 'identifier', correct, mapping })];
  if (!perOption) return { responses, body, ...mapped() };
  const left = ((n - correct.length) / n) * p; // for distractors rightly not chosen
  const rules = [
    when(
      [el('isNull', {}, variable('RESPONSE')), set('SCORE', float(0))],
      [null, set('SCORE', el('sum', {}, el('mapResponse', { identifier: 'RESPONSE' }), float(left)))],
    ),
  ];
  return { responses, body, rules };
}

function trueFalse(item: ItemOf<'true-false'>, words: { true: string; false: string }): Parts {
  return {
    responses: [declare('RESPONSE', { cardinality: 'single', baseType: 'identifier', correct: [String(item.answer)] })],
    body: prompted(item.stem, (prompt) =>
      el(
        'choiceInteraction',
        { responseIdentifier: 'RESPONSE', shuffle: false, maxChoices: 1 },
        prompt,
        el('simpleChoice', { identifier: 'true' }, words.true),
        el('simpleChoice', { identifier: 'false' }, words.false),
      ),
    ),
    ...matched(item.points),
  };
}

const textEntries = (answers: readonly TextAnswer[], caseSensitive: boolean, points: number): Entry[] => {
  const seen = new Set<string>();
  return answers.flatMap((a) => {
    const same = caseSensitive ? a.text : a.text.toLowerCase();
    if (seen.has(same)) return [];
    seen.add(same);
    return [{ key: a.text, value: a.credit * points, caseSensitive }];
  });
};

const entry = (identifier: string, length?: number): XmlElement =>
  el('textEntryInteraction', { responseIdentifier: identifier, ...(length && { expectedLength: length }) });
const longest = (answers: readonly TextAnswer[]): number => Math.max(15, ...answers.map((a) => Math.ceil((a.text.length + 5) / 10) * 10));

function shortAnswer(item: ItemOf<'short-answer'>): Parts {
  const entries = textEntries(item.answers, item.match.caseSensitive, item.points);
  return {
    responses: [
      declare('RESPONSE', {
        cardinality: 'single',
        baseType: 'string',
        correct: item.answers
          .filter((a) => a.credit >= 1)
          .slice(0, 1)
          .map((a) => a.text),
        mapping: { entries, lower: 0, upper: item.points },
      }),
    ],
    body: [...stemBlocks(item.stem), el('p', { class: 'answer' }, entry('RESPONSE', longest(item.answers)))],
    ...mapped(),
  };
}

function numeric(item: ItemOf<'numeric'>): Parts {
  const best = [...item.answers].sort((a, b) => b.credit - a.credit);
  return {
    responses: [declare('RESPONSE', { cardinality: 'single', baseType: 'float', correct: best.slice(0, 1).map((a) => num(middleOf(a))) })],
    body: [...stemBlocks(item.stem), el('p', { class: 'answer' }, entry('RESPONSE', 15), item.unit ? ` ${item.unit}` : null)],
    rules: [
      when(...best.map((a): [XmlElement, XmlElement] => [within('RESPONSE', a), set('SCORE', float(a.credit * item.points))]), [null, set('SCORE', float(0))]),
    ],
  };
}

/** The identifier that a gap's response goes by. */
export const gapId = (index: number): string => `RESPONSE_${index + 1}`;

function cloze(item: ItemOf<'cloze'>): Parts {
  const total = item.gaps.reduce((sum, g) => sum + g.points, 0) || 1;
  const worth = (g: Gap): number => (item.points * g.points) / total;
  const interaction = (g: Gap, id: string): XmlElement =>
    g.kind === 'choice'
      ? el(
          'inlineChoiceInteraction',
          { responseIdentifier: id, shuffle: false },
          g.options.map((o, i) => el('inlineChoice', { identifier: letterOf(i) }, richToPlain(o.content))),
        )
      : entry(id, g.kind === 'number' ? 15 : longest(g.answers));
  const add = (e: XmlElement): XmlElement => set('SCORE', el('sum', {}, variable('SCORE'), e));
  const byId = new Map(item.gaps.map((g, i) => [g.id, { g, id: gapId(i) }]));
  const content: (RawXml | XmlElement)[] = [];
  const stem = hasBlocks(item.stem) ? xhtml(item.stem) : `<p>${xhtml(item.stem)}</p>`;
  // The stem's markup is text here and the interactions are elements, so the pieces between the gaps stay raw.
  for (const [i, piece] of stem.split(/\[\[([^\][]+)\]\]/).entries()) {
    if (i % 2 === 0) content.push(new RawXml(piece));
    else {
      const found = byId.get(piece);
      content.push(found ? interaction(found.g, found.id) : new RawXml('_____'));
    }
  }
  if (item.wordBank?.length)
    content.unshift(
      el(
        'ul',
        { class: 'word-bank' },
        item.wordBank.map((w) => el('li', {}, w)),
      ),
    );
  return {
    responses: item.gaps.map((g, i) => {
      if (g.kind === 'choice')
        return declare(gapId(i), {
          cardinality: 'single',
          baseType: 'identifier',
          correct: g.options.flatMap((o, n) => (o.credit >= 1 ? [letterOf(n)] : [])),
          mapping: { entries: g.options.flatMap((o, n) => (o.credit ? [{ key: letterOf(n), value: o.credit * worth(g) }] : [])) },
        });
      if (g.kind === 'number') {
        const a = g.answers.find((x) => x.credit >= 1);
        return declare(gapId(i), { cardinality: 'single', baseType: 'float', ...(a && { correct: [num(middleOf(a))] }) });
      }
      return declare(gapId(i), {
        cardinality: 'single',
        baseType: 'string',
        correct: g.answers
          .filter((a) => a.credit >= 1)
          .slice(0, 1)
          .map((a) => a.text),
        mapping: { entries: textEntries(g.answers, g.match?.caseSensitive ?? false, worth(g)) },
      });
    }),
    body: content,
    rules: item.gaps.flatMap((g, i) =>
      g.kind === 'number'
        ? [
            when(
              ...[...g.answers]
                .sort((a, b) => b.credit - a.credit)
                .map((a): [XmlElement, XmlElement] => [within(gapId(i), a), add(float(a.credit * worth(g)))]),
            ),
          ]
        : // a gap left empty has no mapped value in some players, so it is asked for first
          [when([el('not', {}, el('isNull', {}, variable(gapId(i)))), add(el('mapResponse', { identifier: gapId(i) }))])],
    ),
  };
}

function matching(item: ItemOf<'matching'>): Parts {
  const { pairs } = item;
  const rights = rightsOf(item);
  const key = pairs.map((p, i) => `L${i + 1} R${rights.indexOf(p.right) + 1}`);
  return {
    responses: [
      declare('RESPONSE', {
        cardinality: 'multiple',
        baseType: 'directedPair',
        correct: key,
        mapping: { entries: key.map((k) => ({ key: k, value: item.points / pairs.length })), lower: 0, upper: item.points },
      }),
    ],
    body: prompted(item.stem, (prompt) =>
      el(
        'matchInteraction',
        { responseIdentifier: 'RESPONSE', shuffle: item.shuffle ?? false, maxAssociations: pairs.length },
        prompt,
        el(
          'simpleMatchSet',
          {},
          pairs.map((p, i) => el('simpleAssociableChoice', { identifier: `L${i + 1}`, matchMax: 1 }, inline(p.left))),
        ),
        el(
          'simpleMatchSet',
          {},
          displayOrder(rights.length).map((i) => el('simpleAssociableChoice', { identifier: `R${i + 1}`, matchMax: pairs.length }, inline(rights[i] ?? ''))),
        ),
      ),
    ),
    ...mapped(),
  };
}

function ordering(item: ItemOf<'ordering'>): Parts {
  return {
    responses: [declare('RESPONSE', { cardinality: 'ordered', baseType: 'identifier', correct: item.sequence.map((_, i) => `S${i + 1}`) })],
    body: prompted(item.stem, (prompt) =>
      el(
        'orderInteraction',
        { responseIdentifier: 'RESPONSE', shuffle: item.shuffle ?? false },
        prompt,
        displayOrder(item.sequence.length).map((i) => el('simpleChoice', { identifier: `S${i + 1}` }, inline(item.sequence[i] ?? ''))),
      ),
    ),
    ...matched(item.points),
  };
}

/** What only the person sees who marks: a block that is shown to scorers. */
const forScorer = (kind: 'model-answer' | 'rubric', rich: string | undefined, version: Version): XmlElement | null =>
  rich
    ? el(
        'rubricBlock',
        { view: 'scorer', ...(version.id === '3.0' && { use: 'scoring' }), class: kind },
        version.id === '3.0' ? el('contentBody', {}, blocks(rich)) : blocks(rich),
      )
    : null;

function essay(item: ItemOf<'essay'>, version: Version): Parts {
  return {
    responses: [declare('RESPONSE', { cardinality: 'single', baseType: 'string' })],
    body: [
      ...prompted(item.stem, (prompt) =>
        el('extendedTextInteraction', { responseIdentifier: 'RESPONSE', ...(item.lines && { expectedLines: item.lines }) }, prompt),
      ),
      ...[forScorer('model-answer', item.modelAnswer, version), forScorer('rubric', item.rubric, version)].filter((x) => x !== null),
    ],
    rules: [],
  };
}

function partsOf(item: Item, version: Version, language?: string): Parts {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return choice(item);
    case 'true-false':
      return trueFalse(item, truthWords(language));
    case 'short-answer':
      return shortAnswer(item);
    case 'numeric':
      return numeric(item);
    case 'cloze':
      return cloze(item);
    case 'matching':
      return matching(item);
    case 'ordering':
      return ordering(item);
    case 'essay':
      return essay(item, version);
    case 'information':
      return { responses: [], body: stemBlocks(item.stem), rules: [] };
  }
}

/** Feedback and hints of an item: what they need declared, the rules that show them, and their texts. */
interface ShownPart {
  responses: XmlElement[];
  outcomes: XmlElement[];
  body: XmlElement[];
  rules: XmlElement[];
  modal: XmlElement[];
}

function shownParts(item: Item): ShownPart {
  const out: ShownPart = { responses: [], outcomes: [], body: [], rules: [], modal: [] };
  const show = (identifier: string, id: string, rich: string): number =>
    out.modal.push(el('modalFeedback', { outcomeIdentifier: identifier, identifier: id, showHide: 'show' }, el('feedbackContent', {}, blocks(rich))));
  const named = (name: string): XmlElement => el('baseValue', { baseType: 'identifier' }, name);
  const { correct, incorrect, general } = item.feedback ?? {};
  if ((correct || incorrect) && isGraded(item)) {
    out.outcomes.push(outcome('FEEDBACK', 'identifier'));
    out.rules.push(
      when([el('gte', {}, variable('SCORE'), float(worthOf(item) - 1e-6)), set('FEEDBACK', named('correct'))], [null, set('FEEDBACK', named('incorrect'))]),
    );
    if (correct) show('FEEDBACK', 'correct', correct);
    if (incorrect) show('FEEDBACK', 'incorrect', incorrect);
  }
  if (general) {
    out.outcomes.push(outcome('FEEDBACK_GENERAL', 'identifier'));
    out.rules.push(set('FEEDBACK_GENERAL', named('general')));
    show('FEEDBACK_GENERAL', 'general', general);
  }
  const perOption: [string, string][] =
    item.kind === 'multiple-choice' || item.kind === 'multiple-response'
      ? item.options.flatMap((o, i): [string, string][] => (o.feedback ? [[letterOf(i), o.feedback]] : []))
      : item.kind === 'true-false'
        ? (['true', 'false'] as const).flatMap((t): [string, string][] => (item.optionFeedback?.[t] ? [[t, item.optionFeedback[t]]] : []))
        : [];
  if (perOption.length) {
    out.outcomes.push(outcome('FEEDBACK_OPTION', 'identifier', undefined, {}, item.kind === 'multiple-response' ? 'multiple' : 'single'));
    out.rules.push(set('FEEDBACK_OPTION', variable('RESPONSE')));
    for (const [id, rich] of perOption) show('FEEDBACK_OPTION', id, rich);
  }
  const answered = (responseId: string, outcomeId: string, answers: readonly Answered[], caseSensitive: boolean): void => {
    if (!answers.some((a) => a.feedback)) return;
    out.outcomes.push(outcome(outcomeId, 'identifier'));
    out.rules.push(
      when(
        ...answers.map((a, i): [XmlElement, XmlElement] => {
          const test =
            'min' in a
              ? within(responseId, a)
              : 'id' in a
                ? el('match', {}, variable(responseId), named(letterOf(i)))
                : el('stringMatch', { caseSensitive }, variable(responseId), el('baseValue', { baseType: 'string' }, a.text));
          return [test, set(outcomeId, named(`answer_${i + 1}`))];
        }),
      ),
    );
    answers.forEach((a, i) => a.feedback && show(outcomeId, `answer_${i + 1}`, a.feedback));
  };
  if (item.kind === 'short-answer') answered('RESPONSE', 'FEEDBACK_ANSWER', item.answers, item.match.caseSensitive);
  if (item.kind === 'numeric') answered('RESPONSE', 'FEEDBACK_ANSWER', bestFirst(item.answers), false);
  if (item.kind === 'cloze')
    item.gaps.forEach((g, i) =>
      answered(
        gapId(i),
        `FEEDBACK_ANSWER_${i + 1}`,
        g.kind === 'choice' ? g.options : g.kind === 'number' ? bestFirst(g.answers) : g.answers,
        g.kind === 'text' && (g.match?.caseSensitive ?? false),
      ),
    );
  // Hints are asked for by buttons of their own. Asking does not end the item, which is why it is adaptive then.
  const hints = (item.hints ?? []).map((rich, i) => ({ rich, id: `HINT_${i + 1}` }));
  for (const { rich, id } of hints) {
    out.responses.push(el('responseDeclaration', { identifier: id, cardinality: 'single', baseType: 'boolean' }));
    out.outcomes.push(outcome(`SHOW_${id}`, 'identifier'));
    out.rules.push(when([variable(id), set(`SHOW_${id}`, named('hint'))]));
    show(`SHOW_${id}`, 'hint', rich);
  }
  if (hints.length) {
    out.body.push(
      el(
        'p',
        { class: 'hints' },
        hints.map((h, i) => el('endAttemptInteraction', { responseIdentifier: h.id, title: hints.length > 1 ? `Hint ${i + 1}` : 'Hint' })),
      ),
    );
    const [first, ...more] = hints.map((h) => variable(h.id));
    const asked = more.length ? el('or', {}, first, more) : first;
    if (asked) out.rules.push(when([asked, set('completionStatus', named('incomplete'))], [null, set('completionStatus', named('completed'))]));
  }
  return out;
}
type Answered = TextAnswer | NumberAnswer | Option;
/** The order in which ranges are tried: what earns most first, so that a range around a better one is for the rest. */
const bestFirst = <T extends { credit: number }>(answers: readonly T[]): T[] => [...answers].sort((a, b) => b.credit - a.credit);
/** The scale that an item is scored on: its points. One that is worth nothing is scored as if it were worth one, and weighs nothing in the test. */
const worthOf = (item: Item): number => item.points || (isGraded(item) ? 1 : 0);

/** An identifier that XML takes: the item's id behind a letter. */
export const itemIdentifier = (item: Item): string => `item-${item.id.replace(/[^A-Za-z0-9_.-]/g, '-')}`;

/** One assessment item. */
export function buildItem(whole: Item, version: Version, setLanguage?: string, section?: Section): XmlElement {
  const language = whole.language ?? setLanguage;
  const item: Item = { ...whole, points: worthOf(whole) };
  const parts = partsOf(item, version, language);
  const shown = shownParts(item);
  const graded = isGraded(item);
  const passage = section?.passage ? el('div', { class: 'passage' }, blocks(section.passage)) : null;
  const rules = [...parts.rules, ...shown.rules];
  const body = [...parts.body, ...shown.body];
  return el(
    'assessmentItem',
    {
      xmlns: version.namespace,
      'xmlns:xsi': 'http://www.w3.org/2001/XMLSchema-instance',
      'xsi:schemaLocation': `${version.namespace} ${version.schema}`,
      identifier: itemIdentifier(item),
      title: item.title?.trim() ? item.title.replace(/\s+/g, ' ').trim() : nameOf(item),
      ...(item.label && { label: item.label }),
      adaptive: Boolean(item.hints?.length),
      timeDependent: false,
      toolName: OWN_TOOL,
      toolVersion: '1',
      ...(language && { 'xml:lang': language }),
    },
    [...parts.responses, ...shown.responses],
    outcome('SCORE', 'float', '0', { normalMaximum: num(item.points), ...(item.kind === 'essay' && version.id === '3.0' && { externalScored: 'human' }) }),
    outcome('MAXSCORE', 'float', num(item.kind === 'information' ? 0 : item.points)),
    shown.outcomes,
    el('itemBody', {}, passage, body.some((b) => b instanceof RawXml) ? el('div', {}, body) : body),
    parts.template && !shown.rules.length
      ? el('responseProcessing', { template: version.template(parts.template) })
      : graded || rules.length
        ? el('responseProcessing', {}, rules)
        : null,
    shown.modal,
  );
}

/** The test that holds the items in order; one section for each part of the set. */
export function buildTest(quiz: QuizSet, version: Version, hrefOf: (item: Item) => string): XmlElement {
  return el(
    'assessmentTest',
    {
      xmlns: version.namespace,
      'xmlns:xsi': 'http://www.w3.org/2001/XMLSchema-instance',
      'xsi:schemaLocation': `${version.namespace} ${version.schema}`,
      identifier: identifierOf(quiz, 'test'),
      title: quiz.title,
    },
    outcome('SCORE', 'float', '0'),
    el(
      'testPart',
      { identifier: 'part', navigationMode: 'nonlinear', submissionMode: 'simultaneous' },
      runsOfParts(quiz).map((g, i) =>
        el(
          'assessmentSection',
          { identifier: identifierOf(quiz, `section-${i + 1}`), title: g.section?.title ?? quiz.title, visible: Boolean(g.section?.title) },
          g.section?.instructions
            ? el(
                'rubricBlock',
                { view: 'candidate', ...(version.id === '3.0' && { use: 'instructions' }) },
                version.id === '3.0' ? el('contentBody', {}, blocks(g.section.instructions)) : blocks(g.section.instructions),
              )
            : null,
          g.items.map((item) =>
            el(
              'assessmentItemRef',
              {
                identifier: itemIdentifier(item),
                href: hrefOf(item),
                ...(item.required !== undefined && { required: item.required }),
                ...(item.bonus && { category: 'bonus' }),
              },
              item.timeLimit ? el('timeLimits', { maxTime: num(item.timeLimit) }) : null,
              item.points === 0 && isGraded(item) ? el('weight', { identifier: 'WEIGHT', value: '0' }) : null,
            ),
          ),
        ),
      ),
    ),
    el('outcomeProcessing', {}, set('SCORE', el('sum', {}, el('testVariables', { variableIdentifier: 'SCORE', weightIdentifier: 'WEIGHT' })))),
  );
}
