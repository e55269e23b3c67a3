/**
 * Builds QTI items and tests as trees in the names of QTI 2.1; names.ts turns them into those of 3.0.
 * Element names and templates: 1EdTech QTI Assessment, Section and Item Information Model 2.1, and QTI 3.0 ASI.
 */
import type { ChoiceItem, Gap, Item, ItemOf, NumberAnswer, QuizSet, Section, TextAnswer } from '../../item/model.js';
import { isGraded, keyProblem, letterOf, nameOf } from '../../item/kinds.js';
import { isMarkup, richToPlain, richToXhtml } from '../../item/richText.js';
import { truthWords } from '../../item/truthWords.js';
import { el, RawXml, type XmlElement } from '../xml.js';

export interface Version {
  id: '2.1' | '2.2' | '3.0';
  namespace: string;
  schema: string;
  /** Where the standard response-processing templates stand; the template's name follows. */
  templates: string;
  itemType: string;
  testType: string;
}

const inline = (rich: string): RawXml => new RawXml(richToXhtml(rich));
/** Blocks: what already has block markup as it is, all else in a paragraph. */
const blocks = (rich: string): RawXml => new RawXml(/<(p|ul|ol|table|pre|blockquote)\b/i.test(rich) && isMarkup(rich) ? rich : `<p>${richToXhtml(rich)}</p>`);
const hasBlocks = (rich: string): boolean => isMarkup(rich) && /<(p|ul|ol|table|pre|blockquote)\b/i.test(rich);

const num = (n: number): string => String(Number(n.toPrecision(15)));
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

/** The prompt inside the interaction, or the stem as blocks before it where a prompt could not hold it. */
function prompted(stem: string, make: (prompt: XmlElement | null) => XmlElement): (XmlElement | RawXml)[] {
  return hasBlocks(stem) ? [blocks(stem), make(null)] : [make(el('prompt', {}, inline(stem)))];
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
    body: [blocks(item.stem), el('p', {}, entry('RESPONSE', longest(item.answers)))],
    ...mapped(),
  };
}

function numeric(item: ItemOf<'numeric'>): Parts {
  const best = [...item.answers].sort((a, b) => b.credit - a.credit);
  return {
    responses: [declare('RESPONSE', { cardinality: 'single', baseType: 'float', correct: best.slice(0, 1).map((a) => num((a.min + a.max) / 2)) })],
    body: [blocks(item.stem), el('p', {}, entry('RESPONSE', 15), item.unit ? ` ${item.unit}` : null)],
    rules: [
      when(...best.map((a): [XmlElement, XmlElement] => [within('RESPONSE', a), set('SCORE', float(a.credit * item.points))]), [null, set('SCORE', float(0))]),
    ],
  };
}

/** The identifier that a gap's response goes by. */
const gapId = (index: number): string => `RESPONSE_${index + 1}`;

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
  const xhtml = hasBlocks(item.stem) ? item.stem : `<p>${richToXhtml(item.stem)}</p>`;
  // The stem's markup is text here and the interactions are elements, so the pieces between the gaps stay raw.
  for (const [i, piece] of xhtml.split(/\[\[([^\][]+)\]\]/).entries()) {
    if (i % 2 === 0) content.push(new RawXml(piece));
    else {
      const found = byId.get(piece);
      content.push(found ? interaction(found.g, found.id) : new RawXml('_____'));
    }
  }
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
        return declare(gapId(i), { cardinality: 'single', baseType: 'float', ...(a && { correct: [num((a.min + a.max) / 2)] }) });
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
  const pairs = item.pairs.filter((p) => p.left && p.right);
  const rights = [...new Set([...pairs.map((p) => p.right), ...item.extraRights])];
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
        { responseIdentifier: 'RESPONSE', shuffle: item.shuffle ?? true, maxAssociations: pairs.length },
        prompt,
        el(
          'simpleMatchSet',
          {},
          pairs.map((p, i) => el('simpleAssociableChoice', { identifier: `L${i + 1}`, matchMax: 1 }, inline(p.left))),
        ),
        el(
          'simpleMatchSet',
          {},
          rights.map((r, i) => el('simpleAssociableChoice', { identifier: `R${i + 1}`, matchMax: pairs.length }, inline(r))),
        ),
      ),
    ),
    ...mapped(),
  };
}

/** Steps in an order that is not the key's but always the same: players that do not shuffle must not show the key. */
const displayOrder = (n: number): number[] => {
  const order = Array.from({ length: n }, (_, i) => i);
  return n < 3 ? order.reverse() : [...order.filter((i) => i % 2), ...order.filter((i) => i % 2 === 0)];
};

function ordering(item: ItemOf<'ordering'>): Parts {
  return {
    responses: [declare('RESPONSE', { cardinality: 'ordered', baseType: 'identifier', correct: item.sequence.map((_, i) => `S${i + 1}`) })],
    body: prompted(item.stem, (prompt) =>
      el(
        'orderInteraction',
        { responseIdentifier: 'RESPONSE', shuffle: true },
        prompt,
        displayOrder(item.sequence.length).map((i) => el('simpleChoice', { identifier: `S${i + 1}` }, inline(item.sequence[i] ?? ''))),
      ),
    ),
    ...matched(item.points),
  };
}

function essay(item: ItemOf<'essay'>): Parts {
  return {
    responses: [declare('RESPONSE', { cardinality: 'single', baseType: 'string' })],
    body: prompted(item.stem, (prompt) =>
      el('extendedTextInteraction', { responseIdentifier: 'RESPONSE', ...(item.lines && { expectedLines: item.lines }) }, prompt),
    ),
    rules: [],
  };
}

function partsOf(item: Item, language?: string): Parts {
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
      return essay(item);
    case 'information':
      return { responses: [], body: [blocks(item.stem)], rules: [] };
  }
}

/** The feedback of an item: outcomes, rules that set them, and the texts that they show. */
function feedbackParts(item: Item): { outcomes: XmlElement[]; rules: XmlElement[]; modal: XmlElement[] } {
  const outcomes: XmlElement[] = [];
  const rules: XmlElement[] = [];
  const modal: XmlElement[] = [];
  const show = (identifier: string, id: string, rich: string): number =>
    modal.push(el('modalFeedback', { outcomeIdentifier: identifier, identifier: id, showHide: 'show' }, el('feedbackContent', {}, blocks(rich))));
  const { correct, incorrect, general } = item.feedback ?? {};
  if ((correct || incorrect) && isGraded(item)) {
    outcomes.push(outcome('FEEDBACK', 'identifier'));
    const id = (name: string): XmlElement => set('FEEDBACK', el('baseValue', { baseType: 'identifier' }, name));
    rules.push(when([el('gte', {}, variable('SCORE'), float(item.points)), id('correct')], [null, id('incorrect')]));
    if (correct) show('FEEDBACK', 'correct', correct);
    if (incorrect) show('FEEDBACK', 'incorrect', incorrect);
  }
  if (general) {
    outcomes.push(outcome('FEEDBACK_GENERAL', 'identifier'));
    rules.push(set('FEEDBACK_GENERAL', el('baseValue', { baseType: 'identifier' }, 'general')));
    show('FEEDBACK_GENERAL', 'general', general);
  }
  const perOption: [string, string][] =
    item.kind === 'multiple-choice' || item.kind === 'multiple-response'
      ? item.options.flatMap((o, i): [string, string][] => (o.feedback ? [[letterOf(i), o.feedback]] : []))
      : item.kind === 'true-false'
        ? (['true', 'false'] as const).flatMap((t): [string, string][] => (item.optionFeedback?.[t] ? [[t, item.optionFeedback[t]]] : []))
        : [];
  if (perOption.length) {
    outcomes.push(outcome('FEEDBACK_OPTION', 'identifier', undefined, {}, item.kind === 'multiple-response' ? 'multiple' : 'single'));
    rules.push(set('FEEDBACK_OPTION', variable('RESPONSE')));
    for (const [id, rich] of perOption) show('FEEDBACK_OPTION', id, rich);
  }
  return { outcomes, rules, modal };
}

/** An identifier that XML takes: the item's id behind a letter. */
export const itemIdentifier = (item: Item): string => `item-${item.id.replace(/[^A-Za-z0-9_.-]/g, '-')}`;

/** One assessment item. */
export function buildItem(item: Item, version: Version, language?: string, section?: Section): XmlElement {
  const parts = partsOf(item, language);
  const fb = feedbackParts(item);
  const graded = isGraded(item);
  const passage = section?.passage ? el('div', { class: 'passage' }, blocks(section.passage)) : null;
  const useTemplate = parts.template && !fb.rules.length;
  const rules = [...parts.rules, ...fb.rules];
  return el(
    'assessmentItem',
    {
      xmlns: version.namespace,
      'xmlns:xsi': 'http://www.w3.org/2001/XMLSchema-instance',
      'xsi:schemaLocation': `${version.namespace} ${version.schema}`,
      identifier: itemIdentifier(item),
      title: item.title ? richToPlain(item.title) : nameOf(item),
      ...(item.label && { label: item.label }),
      adaptive: false,
      timeDependent: false,
      ...(language && { 'xml:lang': language }),
    },
    parts.responses,
    outcome('SCORE', 'float', '0', { normalMaximum: num(item.points), ...(item.kind === 'essay' && version.id === '3.0' && { externalScored: 'human' }) }),
    outcome('MAXSCORE', 'float', num(item.kind === 'information' ? 0 : item.points)),
    fb.outcomes,
    el('itemBody', {}, passage, parts.body.some((b) => b instanceof RawXml) ? el('div', {}, parts.body) : parts.body),
    useTemplate
      ? el('responseProcessing', { template: version.templates + parts.template })
      : graded || rules.length
        ? el('responseProcessing', {}, rules)
        : null,
    fb.modal,
  );
}

/** The test that holds the items in order; one section for each part of the set. */
export function buildTest(quiz: QuizSet, items: readonly Item[], version: Version, hrefOf: (item: Item) => string): XmlElement {
  const groups: { section: Section | undefined; items: Item[] }[] = [];
  for (const item of items) {
    const section = quiz.sections?.find((s) => s.id === item.section);
    const last = groups[groups.length - 1];
    if (last && last.section === section) last.items.push(item);
    else groups.push({ section, items: [item] });
  }
  return el(
    'assessmentTest',
    {
      xmlns: version.namespace,
      'xmlns:xsi': 'http://www.w3.org/2001/XMLSchema-instance',
      'xsi:schemaLocation': `${version.namespace} ${version.schema}`,
      identifier: 'test',
      title: quiz.title,
    },
    outcome('SCORE', 'float', '0'),
    el(
      'testPart',
      { identifier: 'part', navigationMode: 'nonlinear', submissionMode: 'simultaneous' },
      groups.map((g, i) =>
        el(
          'assessmentSection',
          { identifier: `section-${i + 1}`, title: g.section?.title ?? quiz.title, visible: Boolean(g.section) },
          g.section?.instructions
            ? el(
                'rubricBlock',
                { view: 'candidate', ...(version.id === '3.0' && { use: 'instructions' }) },
                version.id === '3.0' ? el('contentBody', {}, blocks(g.section.instructions)) : blocks(g.section.instructions),
              )
            : null,
          g.items.map((item) => el('assessmentItemRef', { identifier: itemIdentifier(item), href: hrefOf(item), ...(item.required && { required: true }) })),
        ),
      ),
    ),
    el('outcomeProcessing', {}, set('SCORE', el('sum', {}, el('testVariables', { variableIdentifier: 'SCORE' })))),
  );
}
