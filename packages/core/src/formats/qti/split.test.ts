/**
 * Items that ask several things: "composite items" of the QTI 2.1 implementation guide (named from memory), an item each here. What each
 * answer earns is held against the file's own rules, played as a whole.
 */
import type { Item } from '../../item/model.js';
import { coreFormats } from '../index.js';
import { utf8 } from '../encoding.js';

interface Asked {
  id: string;
  prompt?: string;
  ahead?: string;
  options: [string, string];
  right: 0 | 1;
}
const GRAIN: Asked = { id: 'R1', prompt: 'Which grain is it?', options: ['rye', 'oat'], right: 0 };
const STRONG: Asked = { id: 'R2', prompt: 'How strong is it?', options: ['weak', 'strong'], right: 1 };
const when = (r: Asked, then: string): string =>
  `<responseCondition><responseIf><match><variable identifier="${r.id}"/><correct identifier="${r.id}"/></match>${then}</responseIf></responseCondition>`;
const plus = (n: number): string =>
  `<setOutcomeValue identifier="SCORE"><sum><variable identifier="SCORE"/><baseValue baseType="float">${n}</baseValue></sum></setOutcomeValue>`;
const each = (asked: readonly Asked[]): string => asked.map((r, n) => when(r, plus(n + 1))).join('');

function file(asked: readonly Asked[], { intro = '', behind = '', rules = each(asked), more = '' } = {}): string {
  return `<?xml version="1.0"?><assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="two" title="Flour" adaptive="false" timeDependent="false">
${asked.map((r) => `<responseDeclaration identifier="${r.id}" cardinality="single" baseType="identifier"><correctResponse><value>${r.id}${r.right}</value></correctResponse></responseDeclaration>`).join('')}
<outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float"><defaultValue><value>0</value></defaultValue></outcomeDeclaration>
<outcomeDeclaration identifier="FEEDBACK" cardinality="multiple" baseType="identifier"/>
<itemBody>${intro}${asked
    .map(
      (r) =>
        `${r.ahead ?? ''}<choiceInteraction responseIdentifier="${r.id}" shuffle="false" maxChoices="1">${r.prompt ? `<prompt>${r.prompt}</prompt>` : ''}${r.options
          .map((o, n) => `<simpleChoice identifier="${r.id}${n}">${o}</simpleChoice>`)
          .join('')}</choiceInteraction>`,
    )
    .join('')}${behind}</itemBody><responseProcessing>${rules}</responseProcessing>${more}</assessmentItem>`;
}
const read = async (xml: string) => {
  const { set, diagnostics } = await coreFormats.read(utf8(xml), 'two.xml');
  return { items: set.items, sections: set.sections, told: diagnostics.map((d) => `${d.severity} ${d.code}`) };
};
const brief = (i: Item): unknown => [i.stem, i.points, 'options' in i ? i.options.map((o) => `${o.credit > 0 ? '*' : ''}${o.content}`).join(' ') : i.kind];

test('two choices, each with its prompt and its points; what stands above both is their passage', async () => {
  const { items, sections, told } = await read(file([GRAIN, STRONG], { intro: '<p>Read the label.</p>' }));
  expect(items.map(brief)).toEqual([
    ['Which grain is it?', 1, '*rye oat'],
    ['How strong is it?', 2, 'weak *strong'],
  ]);
  expect(sections?.map((s) => s.passage)).toEqual(['Read the label.']);
  expect(new Set(items.map((i) => i.section)).size).toBe(1);
  expect(told).toEqual(['info item-apart', 'info item-apart']);
  expect(new Set(items.map((i) => i.id)).size).toBe(2);
});

test('without prompts the paragraph ahead is the question, and what is left behind goes to the last', async () => {
  const bare = ({ prompt, ...r }: Asked): Asked => ({ ...r, ahead: `<p>${prompt ?? ''}</p>` });
  const { items, sections } = await read(file([bare(GRAIN), bare(STRONG)], { intro: '<p>Read the label.</p>', behind: '<p>Think of bread.</p>' }));
  expect(items.map((i) => i.stem)).toEqual(['Which grain is it?', '<p>How strong is it?</p><p>Think of bread.</p>']);
  expect(sections?.[0]?.passage).toBe('Read the label.');
  const alone = await read(file([bare(GRAIN), bare(STRONG)]));
  expect(alone.items[0]?.stem).toBe('Which grain is it?');
  expect(alone.sections).toBeUndefined();
});

test('points for all of them together only are shared out, and it is told', async () => {
  const both = `<responseCondition><responseIf><and>${[GRAIN, STRONG].map((r) => `<match><variable identifier="${r.id}"/><correct identifier="${r.id}"/></match>`).join('')}</and>${plus(3)}</responseIf></responseCondition>`;
  const { items, told } = await read(file([GRAIN, STRONG], { rules: both }));
  expect(items.map(brief)).toEqual([
    ['Which grain is it?', 1.5, '*rye oat'],
    ['How strong is it?', 1.5, 'weak *strong'],
  ]);
  expect(told).toEqual(['warning item-apart', 'warning item-apart']);
});

test('what is shown for one is not shown for the other', async () => {
  const set = (id: string): string =>
    `<setOutcomeValue identifier="FEEDBACK"><multiple><variable identifier="FEEDBACK"/><baseValue baseType="identifier">${id}</baseValue></multiple></setOutcomeValue>`;
  const rules = when(GRAIN, plus(1) + set('f1')) + when(STRONG, plus(1) + set('f2'));
  const modal = (id: string, text: string): string => `<modalFeedback outcomeIdentifier="FEEDBACK" identifier="${id}" showHide="show">${text}</modalFeedback>`;
  const { items } = await read(file([GRAIN, STRONG], { rules, more: modal('f1', 'Rye it is.') + modal('f2', 'Very strong.') }));
  expect(items.map((i) => JSON.stringify([i.feedback, 'options' in i && i.options.map((o) => o.feedback ?? '')]))).toEqual([
    expect.stringContaining('Rye it is.'),
    expect.stringContaining('Very strong.'),
  ]);
  expect(JSON.stringify(items[0])).not.toContain('Very strong.');
  expect(JSON.stringify(items[1])).not.toContain('Rye it is.');
});

test('a choice and an essay below it; a choice beside a gap stays one that is not held, and is told', async () => {
  const essay = '<extendedTextInteraction responseIdentifier="R3" expectedLines="4"><prompt>Say why.</prompt></extendedTextInteraction>';
  const { items } = await read(file([GRAIN], { behind: essay }));
  expect(items.map((i) => [i.kind, i.stem])).toEqual([
    ['multiple-choice', 'Which grain is it?'],
    ['essay', 'Say why.'],
  ]);
  const gap = await read(file([GRAIN], { behind: '<p>It is <textEntryInteraction responseIdentifier="R3"/>.</p>' }));
  expect([gap.items.length, gap.told]).toEqual([0, ['error kind-unsupported']]);
});

describe('QTI 1.2', () => {
  const label = (id: string, text: string): string => `<response_label ident="${id}"><material><mattext>${text}</mattext></material></response_label>`;
  const lid = (id: string, question: string, options: readonly string[]): string =>
    `<response_lid ident="${id}" rcardinality="Single"><material><mattext>${question}</mattext></material><render_choice>${options.map((o, n) => label(`${id}${n}`, o)).join('')}</render_choice></response_lid>`;
  const add = (id: string, value: string, n: number): string =>
    `<respcondition continue="Yes"><conditionvar><varequal respident="${id}">${value}</varequal></conditionvar><setvar action="Add" varname="SCORE">${n}</setvar></respcondition>`;
  const item = (lids: string, rules: string): string =>
    `<questestinterop><item ident="i1" title="Flour"><presentation><material><mattext>Read the label.</mattext></material>${lids}</presentation>
<resprocessing><outcomes><decvar varname="SCORE" vartype="Decimal" defaultval="0" maxvalue="3"/></outcomes>${rules}</resprocessing></item></questestinterop>`;

  test('two choices with options of their own are two items', async () => {
    const { items, sections, told } = await read(
      item(lid('R1', 'Which grain?', ['rye', 'oat']) + lid('R2', 'How strong?', ['weak', 'strong']), add('R1', 'R10', 1) + add('R2', 'R21', 2)),
    );
    expect(items.map(brief)).toEqual([
      ['Which grain?', 1, '*rye oat'],
      ['How strong?', 2, 'weak *strong'],
    ]);
    expect(sections?.[0]?.passage).toBe('Read the label.');
    expect(told).toEqual(['info item-apart', 'info item-apart']);
  });
  test('with the same options they are rows to match, as before', async () => {
    const { items } = await read(item(lid('R1', 'rye', ['dark', 'light']) + lid('R2', 'wheat', ['dark', 'light']), add('R1', 'R10', 1) + add('R2', 'R21', 1)));
    expect(items.map((i) => i.kind === 'matching' && i.pairs)).toEqual([
      [
        { left: 'rye', right: 'dark' },
        { left: 'wheat', right: 'light' },
      ],
    ]);
  });
});
