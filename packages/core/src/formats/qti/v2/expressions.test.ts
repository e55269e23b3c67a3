/**
 * Every operator, by the wording of its definition in the QTI 2.1 Information Model, section "Expressions" (1EdTech; from memory):
 * what it gives, what NULL does, and what order and kind of container mean.
 */
import { readXml } from '../../xmlTree.js';
import { evaluate, operators, type Scope } from './expressions.js';
import { type Value } from './values.js';

const NAMES: Readonly<Record<string, Value>> = {
  X: { cardinality: 'single', base: 'float', items: [6.8] },
  N: { cardinality: 'single', base: 'integer', items: [-7] },
  TOL: { cardinality: 'single', base: 'float', items: [2] },
  BAG: { cardinality: 'multiple', base: 'identifier', items: ['a', 'b', 'a'] },
  ROW: { cardinality: 'ordered', base: 'identifier', items: ['a', 'b', 'c', 'b'] },
  FIGURES: { cardinality: 'multiple', base: 'float', items: [3, 4, 5] },
  PAIRS: { cardinality: 'multiple', base: 'pair', items: ['a b', 'c d'] },
  EMPTY: { cardinality: 'single', base: 'string', items: [''] },
  NONE: null,
};
const scope: Scope = {
  value: (n) => evaluate(n, scope) ?? null,
  variable: (id) => NAMES[id] ?? null,
  correct: (id) => (id === 'X' ? { cardinality: 'single', base: 'float', items: [7] } : null),
  dflt: (id) => (id === 'X' ? { cardinality: 'single', base: 'float', items: [0] } : null),
  mapResponse: (id) => (id === 'BAG' ? { cardinality: 'single', base: 'float', items: [1.5] } : null),
};
const of = (xml: string): unknown => {
  const v = evaluate(readXml(xml).root, scope);
  return v === null || v === undefined ? v : v.cardinality === 'single' ? v.items[0] : v.items;
};
const n = (x: number | string): string => `<baseValue baseType="float">${x}</baseValue>`;
const i = (x: number): string => `<baseValue baseType="integer">${x}</baseValue>`;
const s = (x: string): string => `<baseValue baseType="string">${x}</baseValue>`;
const id = (x: string): string => `<baseValue baseType="identifier">${x}</baseValue>`;
const pair = (x: string): string => `<baseValue baseType="pair">${x}</baseValue>`;
const v = (x: string): string => `<variable identifier="${x}"/>`;
const yes = '<baseValue baseType="boolean">true</baseValue>';
const no = '<baseValue baseType="boolean">false</baseValue>';
const none = '<null/>';

const cases: [string, unknown][] = [
  [n('2.50'), 2.5],
  [n('two'), null],
  [i(3), 3],
  ['<baseValue baseType="integer">2.5</baseValue>', null],
  [s(' a b '), ' a b '],
  [id(' a '), 'a'],
  ['<baseValue baseType="directedPair"> a   b </baseValue>', 'a b'],
  ['<baseValue baseType="boolean">1</baseValue>', true],
  ['<baseValue>x</baseValue>', 'x'],
  [v('X'), 6.8],
  [v('UNKNOWN'), null],
  ['<correct identifier="X"/>', 7],
  ['<correct identifier="N"/>', null],
  ['<default identifier="X"/>', 0],
  ['<mapResponse identifier="BAG"/>', 1.5],
  [none, null],
  ['<mathConstant name="pi"/>', Math.PI],
  ['<mathConstant name="e"/>', Math.E],
  ['<mathConstant name="phi"/>', null],
  [`<isNull>${none}</isNull>`, true],
  [`<isNull>${v('EMPTY')}</isNull>`, true],
  [`<isNull>${v('NONE')}</isNull>`, true],
  [`<isNull>${v('X')}</isNull>`, false],
  [`<isNull>${n(0)}</isNull>`, false],
  [`<not>${yes}</not>`, false],
  [`<not>${no}</not>`, true],
  [`<not>${none}</not>`, null],
  [`<and>${yes}${yes}</and>`, true],
  [`<and>${yes}${no}</and>`, false],
  [`<and>${yes}${none}</and>`, false],
  [`<or>${no}${yes}</or>`, true],
  [`<or>${no}${none}</or>`, false],
  [`<anyN min="1" max="2">${yes}${no}${yes}</anyN>`, true],
  [`<anyN min="1" max="1">${yes}${no}${yes}</anyN>`, false],
  [`<anyN min="2" max="3">${yes}${no}${no}</anyN>`, false],
  [`<anyN min="TOL" max="3">${yes}${yes}${no}</anyN>`, true],
  [`<anyN>${no}</anyN>`, true],
  [`<match>${id('a')}${id('a')}</match>`, true],
  [`<match>${id('a')}${id('b')}</match>`, false],
  [`<match>${id('a')}${none}</match>`, null],
  [`<match>${pair('a b')}${pair('b a')}</match>`, true],
  [`<match><baseValue baseType="directedPair">a b</baseValue><baseValue baseType="directedPair">b a</baseValue></match>`, false],
  [`<match>${v('BAG')}<multiple>${id('b')}${id('a')}${id('a')}</multiple></match>`, true],
  [`<match>${v('BAG')}<multiple>${id('b')}${id('b')}${id('a')}</multiple></match>`, false],
  [`<match>${v('BAG')}<multiple>${id('b')}${id('a')}</multiple></match>`, false],
  [`<match>${v('ROW')}<ordered>${id('a')}${id('b')}${id('c')}${id('b')}</ordered></match>`, true],
  [`<match>${v('ROW')}<ordered>${id('b')}${id('a')}${id('c')}${id('b')}</ordered></match>`, false],
  [`<match>${n(5)}${s('5')}</match>`, true],
  [`<stringMatch caseSensitive="true">${s('Rye')}${s('rye')}</stringMatch>`, false],
  [`<stringMatch caseSensitive="false">${s('Rye')}${s('rye')}</stringMatch>`, true],
  [`<stringMatch caseSensitive="true" substring="true">${s('dark rye')}${s('rye')}</stringMatch>`, true],
  [`<stringMatch caseSensitive="true">${none}${s('rye')}</stringMatch>`, null],
  [`<substring caseSensitive="true">${s('rye')}${s('dark rye')}</substring>`, true],
  [`<substring caseSensitive="true">${s('dark rye')}${s('rye')}</substring>`, false],
  [`<substring caseSensitive="false">${s('RYE')}${s('dark rye')}</substring>`, true],
  [`<patternMatch pattern="[a-c]+">${s('abc')}</patternMatch>`, true],
  [`<patternMatch pattern="[a-c]+">${s('abcd')}</patternMatch>`, false],
  [`<patternMatch pattern="a|b">${s('b')}</patternMatch>`, true],
  [`<patternMatch pattern="(a+)+">${s('aaa')}</patternMatch>`, false],
  [`<patternMatch pattern="(">${s('a')}</patternMatch>`, false],
  [`<patternMatch pattern="a">${none}</patternMatch>`, null],
  [`<equal toleranceMode="exact">${n(3)}${i(3)}</equal>`, true],
  [`<equal>${n(3)}${n(3.1)}</equal>`, false],
  [`<equal toleranceMode="absolute" tolerance="0.5">${n(3)}${n(3.5)}</equal>`, true],
  [`<equal toleranceMode="absolute" tolerance="0.5">${n(3)}${n(2.5)}</equal>`, true],
  [`<equal toleranceMode="absolute" tolerance="0.5">${n(3)}${n(3.6)}</equal>`, false],
  [`<equal toleranceMode="absolute" tolerance="0.5 1">${n(3)}${n(4)}</equal>`, true],
  [`<equal toleranceMode="absolute" tolerance="0.5 1">${n(3)}${n(2)}</equal>`, false],
  [`<equal toleranceMode="absolute" tolerance="0.5" includeUpperBound="false">${n(3)}${n(3.5)}</equal>`, false],
  [`<equal toleranceMode="absolute" tolerance="0.5" includeLowerBound="false">${n(3)}${n(2.5)}</equal>`, false],
  [`<equal toleranceMode="absolute" tolerance="0.5" includeLowerBound="false">${n(3)}${n(3.5)}</equal>`, true],
  [`<equal toleranceMode="absolute" tolerance="TOL">${n(3)}${n(5)}</equal>`, true],
  [`<equal toleranceMode="relative" tolerance="10">${n(200)}${n(220)}</equal>`, true],
  [`<equal toleranceMode="relative" tolerance="10">${n(200)}${n(221)}</equal>`, false],
  [`<equal toleranceMode="relative" tolerance="10">${n(-200)}${n(-181)}</equal>`, true],
  [`<equal toleranceMode="exact">${none}${n(1)}</equal>`, null],
  // the standard's own examples: 1.56 to two significant figures is 1.6; 3.175 and 3.183 to two places are 3.18
  [`<equalRounded roundingMode="significantFigures" figures="2">${n(1.56)}${n(1.6)}</equalRounded>`, true],
  [`<equalRounded roundingMode="significantFigures" figures="3">${n(3.175)}${n(3.183)}</equalRounded>`, true],
  [`<equalRounded roundingMode="significantFigures" figures="4">${n(3.175)}${n(3.183)}</equalRounded>`, false],
  [`<equalRounded roundingMode="decimalPlaces" figures="2">${n(1.684)}${n(1.678)}</equalRounded>`, true],
  [`<equalRounded roundingMode="decimalPlaces" figures="2">${n(1.68572)}${n(1.69)}</equalRounded>`, true],
  [`<equalRounded roundingMode="decimalPlaces" figures="2">${n(1.68432)}${n(1.69)}</equalRounded>`, false],
  [`<equalRounded roundingMode="decimalPlaces" figures="2">${none}${n(1)}</equalRounded>`, null],
  [`<lt>${n(1)}${n(2)}</lt>`, true],
  [`<lt>${n(2)}${n(2)}</lt>`, false],
  [`<lte>${n(2)}${n(2)}</lte>`, true],
  [`<lte>${n(3)}${n(2)}</lte>`, false],
  [`<gt>${n(2)}${n(2)}</gt>`, false],
  [`<gt>${n(3)}${n(2)}</gt>`, true],
  [`<gte>${n(2)}${n(2)}</gte>`, true],
  [`<gte>${n(1)}${n(2)}</gte>`, false],
  [`<gte>${none}${n(2)}</gte>`, null],
  [`<sum>${n(1)}${n(2)}${v('FIGURES')}</sum>`, 15],
  [`<sum>${n(1)}${none}</sum>`, null],
  [`<sum>${s('a')}</sum>`, null],
  [`<product>${n(2)}${v('FIGURES')}</product>`, 120],
  [`<min>${v('FIGURES')}${n(9)}</min>`, 3],
  [`<max>${v('FIGURES')}${n(9)}</max>`, 9],
  [`<max>${none}</max>`, null],
  [`<subtract>${n(2)}${n(5)}</subtract>`, -3],
  [`<divide>${n(1)}${n(4)}</divide>`, 0.25],
  [`<divide>${n(1)}${n(0)}</divide>`, null],
  [`<power>${n(2)}${n(10)}</power>`, 1024],
  [`<power>${n(-1)}${n(0.5)}</power>`, null],
  [`<integerDivide>${i(7)}${i(2)}</integerDivide>`, 3],
  [`<integerDivide>${v('N')}${i(2)}</integerDivide>`, -4],
  [`<integerDivide>${i(7)}${i(0)}</integerDivide>`, null],
  [`<integerModulus>${i(7)}${i(2)}</integerModulus>`, 1],
  [`<integerModulus>${v('N')}${i(2)}</integerModulus>`, 1],
  [`<round>${n(6.49)}</round>`, 6],
  [`<round>${n(6.5)}</round>`, 7],
  [`<round>${n(-6.5)}</round>`, -6],
  [`<round>${n(-6.51)}</round>`, -7],
  [`<truncate>${v('X')}</truncate>`, 6],
  [`<truncate>${n(-6.8)}</truncate>`, -6],
  [`<truncate>${none}</truncate>`, null],
  [`<roundTo roundingMode="decimalPlaces" figures="1">${n(6.85)}</roundTo>`, 6.9],
  [`<roundTo roundingMode="significantFigures" figures="1">${n(685)}</roundTo>`, 700],
  [`<integerToFloat>${i(3)}</integerToFloat>`, 3],
  [`<multiple>${id('a')}${none}${v('BAG')}</multiple>`, ['a', 'a', 'b', 'a']],
  [`<ordered>${id('b')}${id('a')}</ordered>`, ['b', 'a']],
  ['<multiple/>', null],
  [`<containerSize>${v('BAG')}</containerSize>`, 3],
  [`<containerSize>${none}</containerSize>`, 0],
  [`<member>${id('b')}${v('BAG')}</member>`, true],
  [`<member>${id('c')}${v('BAG')}</member>`, false],
  [`<member>${pair('b a')}${v('PAIRS')}</member>`, true],
  [`<member>${none}${v('BAG')}</member>`, null],
  [`<contains>${v('BAG')}<multiple>${id('a')}${id('a')}</multiple></contains>`, true],
  [`<contains>${v('BAG')}<multiple>${id('b')}${id('b')}</multiple></contains>`, false],
  [`<contains>${v('ROW')}<ordered>${id('b')}${id('c')}</ordered></contains>`, true],
  [`<contains>${v('ROW')}<ordered>${id('a')}${id('c')}</ordered></contains>`, false],
  [`<contains>${v('ROW')}<ordered>${id('b')}${id('c')}${id('b')}</ordered></contains>`, true],
  [`<contains>${none}${v('BAG')}</contains>`, null],
  [`<delete>${id('a')}${v('BAG')}</delete>`, ['b']],
  [`<delete>${id('c')}${v('BAG')}</delete>`, ['a', 'b', 'a']],
  [`<delete>${none}${v('BAG')}</delete>`, null],
  [`<index n="1">${v('ROW')}</index>`, 'a'],
  [`<index n="4">${v('ROW')}</index>`, 'b'],
  [`<index n="5">${v('ROW')}</index>`, null],
  [`<index n="TOL">${v('ROW')}</index>`, 'b'],
];
test.each(cases)('%s', (xml, value) => {
  const got = of(xml);
  if (typeof value === 'number') expect(got).toBeCloseTo(value, 12);
  else expect(got).toEqual(value);
});

test('every operator has a case', () => {
  const names = new Set(cases.flatMap(([xml]) => [...xml.matchAll(/<(\w+)/g)].map((m) => m[1])));
  expect(Object.keys(operators).filter((o) => !names.has(o))).toEqual([]);
});

test('what is no operator gives nothing, also by the names that every object has', () => {
  expect(of('<customOperator/>')).toBeUndefined();
  expect(of('<toString/>')).toBeUndefined();
});
