/** Dialects of QTI as files of the field have them, and the interpreter against the standard's own words. */
import { strToU8, zipSync } from 'fflate';
import type { Item } from '../../item/model.js';
import { childOf, readXml, type XmlNode } from '../xmlTree.js';
import { Conditions } from './v1/conditions.js';
import { Processing } from './v2/processing.js';
import { readQti } from './read.js';

const read = (text: string): Item[] => readQti(strToU8(text), 'a.xml').set.items;
const item2 = (inside: string, rules = '', declarations = ''): string =>
  `<assessmentItem identifier="i" title="t" adaptive="false" timeDependent="false">${declarations}<outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float"/><itemBody>${inside}</itemBody>${rules}</assessmentItem>`;
const choice =
  '<choiceInteraction responseIdentifier="RESPONSE" maxChoices="1" shuffle="false"><prompt>Which?</prompt><simpleChoice identifier="A">flour</simpleChoice><simpleChoice identifier="B">salt</simpleChoice></choiceInteraction>';
const declared = (correct: string, more = ''): string =>
  `<responseDeclaration identifier="RESPONSE" cardinality="single" baseType="identifier"><correctResponse><value>${correct}</value></correctResponse>${more}</responseDeclaration>`;
const MATCH = '<responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/match_correct"/>';
const MAP = '<responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/map_response"/>';
const item1 = (
  conditions: string,
  response = '<response_lid ident="R" rcardinality="Single"><render_choice><response_label ident="a"><material><mattext>flour</mattext></material></response_label><response_label ident="b"><material><mattext>salt</mattext></material></response_label></render_choice></response_lid>',
  stem = 'Which?',
): string =>
  `<questestinterop><item ident="i"><presentation><material><mattext>${stem}</mattext></material>${response}</presentation><resprocessing><outcomes><decvar varname="SCORE"/></outcomes>${conditions}</resprocessing></item></questestinterop>`;
const keyOf = (item: Item | undefined): unknown => (item && 'options' in item ? item.options.map((o) => o.credit) : null);

test.each<[string, string]>([
  ['by template', item2(choice, MATCH, declared('A'))],
  ['without any processing', item2(choice, '', declared('A'))],
  ['in a namespace with a prefix', item2(choice, MATCH, declared('A')).replace(/<(\/?)([a-z])/gi, '<$1q:$2')],
  [
    'by rules',
    item2(
      choice,
      '<responseProcessing><responseCondition><responseIf><match><variable identifier="RESPONSE"/><baseValue baseType="identifier">A</baseValue></match><setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue></responseIf></responseCondition></responseProcessing>',
      declared('A'),
    ),
  ],
  ['by mapping', item2(choice, MAP, declared('A', '<mapping defaultValue="0"><mapEntry mapKey="A" mappedValue="1"/></mapping>'))],
  [
    '3.0',
    item2(choice, MATCH, declared('A'))
      .replace(
        /<(\/?)(assessmentItem|responseDeclaration|correctResponse|value|outcomeDeclaration|itemBody|choiceInteraction|prompt|simpleChoice|responseProcessing)\b/g,
        (_, s: string, n: string) => `<${s}qti-${n.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)}`,
      )
      .replace(/responseIdentifier/g, 'response-identifier')
      .replace(/baseType/g, 'base-type'),
  ],
  ['1.2 with Set', item1('<respcondition><conditionvar><varequal respident="R">a</varequal></conditionvar><setvar action="Set">1</setvar></respcondition>')],
  [
    '1.2 with Add and CDATA',
    item1(
      '<respcondition continue="Yes"><conditionvar><varequal respident="R">a</varequal></conditionvar><setvar action="Add">1</setvar></respcondition>',
      undefined,
      '<![CDATA[Which?]]>',
    ),
  ],
  [
    '1.2 with not',
    item1('<respcondition><conditionvar><not><varequal respident="R">b</varequal></not></conditionvar><setvar action="Set">1</setvar></respcondition>'),
  ],
  [
    '1.2 cut off behind the scoring',
    item1('<respcondition><conditionvar><varequal respident="R">a</varequal></conditionvar><setvar>1</setvar></respcondition>').replace(
      '</resprocessing></item></questestinterop>',
      '',
    ),
  ],
])('the key of a choice, %s', (_name, file) => {
  const [item] = read(file);
  expect(item).toMatchObject({ kind: 'multiple-choice', stem: 'Which?' });
  expect(keyOf(item)).toEqual([1, 0]);
});

test('several versions in one package, no manifest: all come in, and a broken file costs itself alone', () => {
  const zip = zipSync({
    'a.xml': strToU8(item1('<respcondition><conditionvar><varequal respident="R">a</varequal></conditionvar><setvar>1</setvar></respcondition>')),
    'b/b.xml': strToU8(item2(choice, MATCH, declared('B'))),
    'c.xml': strToU8('<!DOCTYPE x [<!ENTITY a "b">]><assessmentItem identifier="c">&a;</assessmentItem>'),
    'page.html': strToU8('<p>1. Not a question</p>'),
  });
  const { set, diagnostics } = readQti(zip, 'a.zip');
  expect(set.items.map(keyOf)).toEqual([
    [1, 0],
    [0, 1],
  ]);
  expect(diagnostics.map((d) => d.message).join()).toMatch(/c\.xml/);
});

test('scoring that the model cannot say is found by answering, and told', () => {
  const rules = `<responseProcessing><responseCondition><responseIf><match><variable identifier="RESPONSE"/><baseValue baseType="string">levain</baseValue></match><setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue></responseIf><responseElseIf><patternMatch pattern="lev.*"><variable identifier="RESPONSE"/></patternMatch><setOutcomeValue identifier="SCORE"><baseValue baseType="float">0.5</baseValue></setOutcomeValue></responseElseIf></responseCondition></responseProcessing>`;
  const { diagnostics } = readQti(
    strToU8(
      item2(
        '<p>Name it.</p><p><textEntryInteraction responseIdentifier="RESPONSE"/></p>',
        rules,
        '<responseDeclaration identifier="RESPONSE" cardinality="single" baseType="string"/>',
      ),
    ),
    'a.xml',
  );
  expect(diagnostics.map((d) => [d.code, d.message])).toEqual([
    ['scoring-adapted', expect.stringMatching(/“levain zzz not this” earns 0\.5 of 1 in the file and 0 here/)],
  ]);
});

test('a key that the mapping contradicts is an error and no key', () => {
  const { set, diagnostics } = readQti(
    strToU8(item2(choice, MAP, declared('B', '<mapping defaultValue="0"><mapEntry mapKey="A" mappedValue="1"/></mapping>'))),
    'a.xml',
  );
  expect(keyOf(set.items[0])).toEqual([0, 0]);
  expect(diagnostics[0]).toMatchObject({ code: 'key-conflict', severity: 'error' });
});

test.each<[string, string, unknown]>([
  ['range', '<vargte respident="R">4</vargte><varlte respident="R">5</varlte>', [{ min: 4, max: 5, credit: 1 }]],
  [
    'value or range',
    '<or><varequal respident="R">4.5</varequal><and><vargte respident="R">4</vargte><varlte respident="R">5</varlte></and></or>',
    [{ min: 4, max: 5, credit: 1 }],
  ],
])('a number in 1.2: %s', (_name, test_, answers) => {
  const [item] = read(
    item1(
      `<respcondition><conditionvar>${test_}</conditionvar><setvar>1</setvar></respcondition>`,
      '<response_str ident="R" rcardinality="Single"><render_fib fibtype="Decimal"/></response_str>',
    ),
  );
  expect(item).toMatchObject({ kind: 'numeric', answers });
});

const typed = (processing: string): string =>
  item2(
    '<p>Pi? <textEntryInteraction responseIdentifier="RESPONSE"/></p>',
    `<responseProcessing><responseCondition><responseIf>${processing}<setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue></responseIf></responseCondition></responseProcessing>`,
    '<responseDeclaration identifier="RESPONSE" cardinality="single" baseType="float"><correctResponse><value>3.14</value></correctResponse></responseDeclaration>',
  );
test.each<[string, string, number, number]>([
  [
    'around the correct response',
    '<equal toleranceMode="absolute" tolerance="0.01 0.01"><variable identifier="RESPONSE"/><correct identifier="RESPONSE"/></equal>',
    3.13,
    3.15,
  ],
  [
    'around a value that stands first',
    '<equal toleranceMode="absolute" tolerance="0.1 0.2"><baseValue baseType="float">3</baseValue><variable identifier="RESPONSE"/></equal>',
    2.9,
    3.2,
  ],
  [
    'around the response, when that stands first',
    '<equal toleranceMode="absolute" tolerance="0.1 0.2"><variable identifier="RESPONSE"/><baseValue baseType="float">3</baseValue></equal>',
    2.8,
    3.1,
  ],
  ['relative', '<equal toleranceMode="relative" tolerance="10"><baseValue baseType="float">50</baseValue><variable identifier="RESPONSE"/></equal>', 45, 55],
  [
    'rounded to two places',
    '<equalRounded roundingMode="decimalPlaces" figures="2"><variable identifier="RESPONSE"/><correct identifier="RESPONSE"/></equalRounded>',
    3.135,
    3.145,
  ],
])('a number in 2.x with its tolerance %s', (_name, processing, min, max) => {
  const [item] = read(typed(processing));
  const answers = item && item.kind === 'numeric' ? item.answers : item?.kind === 'cloze' && item.gaps[0]?.kind === 'number' ? item.gaps[0].answers : [];
  expect(answers).toHaveLength(1);
  expect(answers[0]?.min).toBeCloseTo(min, 9);
  expect(answers[0]?.max).toBeCloseTo(max, 9);
});

// choice_multiple of the QTI 2.1 Implementation Guide: hydrogen and oxygen make water; values from memory.
test('the guide’s example of a mapping: H 1, O 1, Cl −1, anything else −2, between 0 and 2', () => {
  const p = new Processing(
    readXml(
      item2(
        '',
        MAP,
        '<responseDeclaration identifier="RESPONSE" cardinality="multiple" baseType="identifier"><mapping lowerBound="0" upperBound="2" defaultValue="-2"><mapEntry mapKey="H" mappedValue="1"/><mapEntry mapKey="O" mappedValue="1"/><mapEntry mapKey="Cl" mappedValue="-1"/></mapping></responseDeclaration>',
      ),
    ).root,
  );
  const score = (...r: string[]): number => p.score({ RESPONSE: r }).score;
  expect([score('H', 'O'), score('H'), score('H', 'Cl'), score('H', 'O', 'Cl'), score('He'), score('H', 'O', 'He'), score()]).toEqual([2, 1, 0, 1, 0, 0, 0]);
});

// Expressions as QTI 2.1, "Expressions", defines them.
const float = (x: number): string => `<baseValue baseType="float">${x}</baseValue>`;
const string = (x: string): string => `<baseValue baseType="string">${x}</baseValue>`;
const ids = (...x: string[]): string => `<multiple>${x.map((i) => `<baseValue baseType="identifier">${i}</baseValue>`).join('')}</multiple>`;
const order = (...x: string[]): string => ids(...x).replace(/multiple/g, 'ordered');
test.each<[string, string, boolean]>([
  ['match of containers ignores order', `<match>${ids('a', 'b')}${ids('b', 'a')}</match>`, true],
  ['match of ordered containers does not', `<match>${order('a', 'b')}${order('b', 'a')}</match>`, false],
  ['a container twice holds twice', `<match>${ids('a', 'a')}${ids('a', 'b')}</match>`, false],
  ['member', `<member><baseValue baseType="identifier">a</baseValue>${ids('b', 'a')}</member>`, true],
  ['contains', `<contains>${ids('a', 'b', 'c')}${ids('c', 'a')}</contains>`, true],
  ['contains in order', `<contains>${order('a', 'b', 'c')}${order('c', 'a')}</contains>`, false],
  ['equal exact', `<equal toleranceMode="exact">${float(2)}${float(2)}</equal>`, true],
  ['equal absolute', `<equal toleranceMode="absolute" tolerance="0.5 1">${float(10)}${float(11)}</equal>`, true],
  ['equal absolute, below', `<equal toleranceMode="absolute" tolerance="0.5 1">${float(10)}${float(9.4)}</equal>`, false],
  ['equal relative', `<equal toleranceMode="relative" tolerance="5">${float(200)}${float(210)}</equal>`, true],
  ['equal relative without its bound', `<equal toleranceMode="relative" tolerance="5" includeUpperBound="false">${float(200)}${float(210)}</equal>`, false],
  ['equalRounded to 3 significant figures', `<equalRounded roundingMode="significantFigures" figures="3">${float(3.175)}${float(3.183)}</equalRounded>`, true],
  ['equalRounded to 2 decimal places', `<equalRounded roundingMode="decimalPlaces" figures="2">${float(1.684)}${float(1.686)}</equalRounded>`, false],
  ['stringMatch', `<stringMatch caseSensitive="false">${string('Levain')}${string('levain')}</stringMatch>`, true],
  ['stringMatch, capitals count', `<stringMatch caseSensitive="true">${string('Levain')}${string('levain')}</stringMatch>`, false],
  ['substring', `<substring caseSensitive="false">${string('LAIN')}${string('a plain loaf')}</substring>`, true],
  ['patternMatch is of the whole', `<patternMatch pattern="[0-9]+ ?g">${string('500 grams')}</patternMatch>`, false],
  ['patternMatch', `<patternMatch pattern="[0-9]+ ?g">${string('500 g')}</patternMatch>`, true],
  [
    'anyN',
    `<anyN min="2" max="2"><baseValue baseType="boolean">true</baseValue><baseValue baseType="boolean">true</baseValue><baseValue baseType="boolean">false</baseValue></anyN>`,
    true,
  ],
  [
    'round 6.5 is 7, −6.5 is −6',
    `<and><equal toleranceMode="exact"><round>${float(6.5)}</round>${float(7)}</equal><equal toleranceMode="exact"><round>${float(-6.5)}</round>${float(-6)}</equal></and>`,
    true,
  ],
  ['truncate −6.8 is −6', `<equal toleranceMode="exact"><truncate>${float(-6.8)}</truncate>${float(-6)}</equal>`, true],
  ['integerModulus', `<equal toleranceMode="exact"><integerModulus>${float(7)}${float(3)}</integerModulus>${float(1)}</equal>`, true],
  ['division by zero is NULL', `<isNull><divide>${float(1)}${float(0)}</divide></isNull>`, true],
  ['index', `<match><index n="2">${order('a', 'b')}</index><baseValue baseType="identifier">b</baseValue></match>`, true],
  ['delete', `<match><delete><baseValue baseType="identifier">a</baseValue>${ids('a', 'b', 'a')}</delete>${ids('b')}</match>`, true],
  ['an empty container is NULL', `<isNull><multiple/></isNull>`, true],
  ['comparing with NULL is not true', `<gt><null/>${float(1)}</gt>`, false],
])('%s', (_name, expression, holds) => {
  const rules = `<responseProcessing><responseCondition><responseIf>${expression}<setOutcomeValue identifier="SCORE">${float(1)}</setOutcomeValue></responseIf></responseCondition></responseProcessing>`;
  expect(new Processing(readXml(item2('', rules)).root).score({}).score).toBe(holds ? 1 : 0);
});

test('rules that are not known are named, and a pattern that could take for ever matches nothing', () => {
  const p = new Processing(
    readXml(
      item2(
        '',
        `<responseProcessing><customOperator/><responseCondition><responseIf><patternMatch pattern="(a+)+b">${string('a'.repeat(200))}</patternMatch><setOutcomeValue identifier="SCORE">${float(1)}</setOutcomeValue></responseIf></responseCondition></responseProcessing>`,
      ),
    ).root,
  );
  expect(p.score({}).score).toBe(0);
  expect(p.unknown).toEqual(['customOperator']);
});

test('conditions of 1.2: the first that holds ends them unless it says to go on; Add goes on by custom of the field', () => {
  const scored = (conditions: string, answer: string): number =>
    new Conditions(childOf(readXml(item1(conditions)).root, 'item') as XmlNode).score({ R: [answer] }).score;
  const when = (id: string, x: number, action: string, more = ''): string =>
    `<respcondition${more}><conditionvar><varequal respident="R">${id}</varequal></conditionvar><setvar action="${action}">${x}</setvar></respcondition>`;
  expect(scored(when('a', 1, 'Set') + when('a', 5, 'Set'), 'a')).toBe(1);
  expect(scored(when('a', 1, 'Set', ' continue="Yes"') + when('a', 5, 'Set'), 'a')).toBe(5);
  expect(scored(when('a', 1, 'Add') + when('a', 5, 'Add'), 'a')).toBe(6);
  expect(scored(when('a', 4, 'Set', ' continue="Yes"') + when('a', 2, 'Divide'), 'a')).toBe(2);
  expect(scored(`${when('a', 1, 'Set')}<respcondition><conditionvar><other/></conditionvar><setvar action="Set">-1</setvar></respcondition>`, 'b')).toBe(-1);
});

test('what a resource says of its item counts where the file begins it, though another resource lists the file before', () => {
  const lom = (word: string): string => `<metadata><lom><general><keyword><string>${word}</string></keyword></general></lom></metadata>`;
  const package2 = (resources: string): Item[] =>
    readQti(
      zipSync({
        'imsmanifest.xml': strToU8(`<manifest identifier="m"><resources>${resources}</resources></manifest>`),
        'a.xml': strToU8(item2(choice, MATCH, declared('A'))),
        'b.xml': strToU8(item2(choice, MATCH, declared('B'))),
      }),
      'a.zip',
    ).set.items;
  const whole = `<resource identifier="w" type="imsqti_test_xmlv2p1" href="test.xml">${lom('whole')}<file href="test.xml"/><file href="a.xml"/><file href="b.xml"/></resource>`;
  const one = `<resource identifier="a" type="imsqti_item_xmlv2p1" href="a.xml">${lom('own')}<file href="a.xml"/></resource>`;
  expect(package2(whole + one).map((i) => i.tags)).toEqual([['own'], ['whole']]);
  expect(package2(one + whole).map((i) => i.tags)).toEqual([['own'], ['whole']]);
});
