/** The quick pass over plain XML against the full parser (npm saxes 6, which its makers test with the W3C conformance suite): the same element, or none. */
import { readdirSync, readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import { utf8 } from './encoding.js';
import { brokenCopy, random } from './fuzz.js';
import { runs } from '../item/runs.js';
import { plainXml } from './plainXml.js';
import { decodeXml, looksLikeXml, readAnyXml, readXml } from './xmlTree.js';

const folders = ['files', 'faults', 'xliff'].map((f) => new URL(`../../corpus/${f}/`, import.meta.url));
const given = folders.flatMap((folder) =>
  readdirSync(folder)
    .filter((name) => /\.\w+$/.test(name))
    .map((name) => ({ name, bytes: new Uint8Array(readFileSync(new URL(name, folder))) }))
    .flatMap(({ name, bytes }) =>
      bytes[0] === 0x50 ? Object.entries(unzipSync(bytes)).map(([inner, b]) => ({ name: `${name}/${inner}`, bytes: b })) : [{ name, bytes }],
    )
    .filter(({ bytes }) => looksLikeXml(bytes))
    .map(({ name, bytes }) => ({ name, text: decodeXml(bytes) })),
);

/** What the quick pass gives must be what the full parser gives, and that without a word of complaint. */
function agree(text: string): boolean {
  const quick = plainXml(text);
  if (quick) expect({ root: quick, problems: [] }).toEqual(readAnyXml(text));
  return quick !== null;
}

test('every given file is read the same by both; the quick pass takes what is well-formed and has no DTD', () => {
  const complained = (text: string): boolean => {
    try {
      return readAnyXml(text).problems.length > 0;
    } catch {
      return true;
    }
  };
  expect(given.length).toBeGreaterThan(60);
  const left = given.filter(({ text }) => !agree(text) && !complained(text)).map((f) => f.name);
  for (const name of left) expect(given.find((f) => f.name === name)?.text).toMatch(/<!DOCTYPE|<\?(?!xml )|[\uD800-\uDFFF]/);
  expect(left.length).toBeLessThan(given.length / 5);
});

test('files broken at random are read the same by both, or left to the full parser', () => {
  const rnd = random(22);
  let taken = 0;
  for (let n = 0; n < runs(3000); n++) {
    const text = decodeXml(brokenCopy(utf8(given[Math.floor(rnd() * given.length)]?.text ?? ''), rnd));
    if (agree(text)) taken++;
  }
  expect(taken).toBeGreaterThan(0);
});

test.each([
  [
    'all sorts of things',
    '<?xml version="1.0" encoding="UTF-8"?>\n<!-- a -->\n<q:a x:b="1" c=\'2\'\n d = "" ><b/>t<!--c-->u<![CDATA[<v>]]>w</q:a >\n<!-- b -->\n',
  ],
  ['references', '<a b="&lt;&#10;&#x41;">&amp;&nbsp;&eacute;&#128512;</a>'],
  [
    'indents of every depth',
    `<a>${Array.from({ length: 80 }, (_, depth) => `\n${' '.repeat(depth)}<b>\n${' '.repeat(depth)}</b><c>\n${' '.repeat(depth)}.</c>`).join('')}\n</a>\n`,
  ],
  ['indents of tabs, and of two lines', '<a>\n\t<b/>\n\n  <b/>\n \n<b/></a>\n  '],
  ['an attribute less than a space away from the end', '<a b="1"><c d="2" ></c><e ></e ></a>'],
  ['line ends of other systems', '<a>\r\n<b\r>\r</b>\n</a>'],
  ['a mark of byte order', '\uFEFF<a>\uFEFF</a>'],
  ['names of QTI 3', '<qti-choice-interaction max-choices="1" data-x-y="2" xml:lang="de" xmlns:x="u"><qti-prompt/></qti-choice-interaction>'],
  ['letters of other scripts', '<a b="ключ">Τιμή – 漢字</a>'],
])('%s: taken by the quick pass', (_, text) => {
  expect(agree(text)).toBe(true);
});

test.each([
  ['', 'nothing'],
  ['text', 'no element'],
  ['<a>', 'not closed'],
  ['<a></b>', 'closed by another name'],
  ['<ab></a>', 'closed by the beginning of its name'],
  ['<a></ab>', 'closed by more than its name'],
  ['<a/><b/>', 'two roots'],
  ['<a/>x', 'text behind the root'],
  ['x<a/>', 'text before the root'],
  ['<a>]]></a>', 'an end of CDATA in text'],
  ['<a b="1"c="2"/>', 'no space between attributes'],
  ['<a b=1/>', 'a value without quotes'],
  ['<a b/>', 'an attribute without a value'],
  ['<a b="<"/>', 'a bracket in a value'],
  ['<a b="1" b="2"/>', 'an attribute twice'],
  ['<a xmlns:b="1" xmlns:b="2"/>', 'a name space twice'],
  ['<a x:b="1" b="2"/>', 'an attribute twice, but for its prefix'],
  ['<a>&</a>', 'a reference cut off'],
  ['<a>&nothing;</a>', 'a name that stands for nothing'],
  ['<a>&#0;</a>', 'a number of no sign'],
  ['<a>&#xD800;</a>', 'half a sign'],
  ['<a>\u0001</a>', 'a forbidden sign'],
  ['<a><!-- a -- b --></a>', 'two hyphens in a comment'],
  ['<a><!-- a', 'a comment cut off'],
  ['<a><![CDATA[x]]</a>', 'CDATA cut off'],
  ['<![CDATA[x]]><a/>', 'CDATA before the root'],
  ['<!DOCTYPE a><a/>', 'a DTD'],
  ['<a><?php x ?></a>', 'an instruction'],
  ['<?xml version="1.1"?><a/>', 'XML 1.1, whose line ends are others'],
  [' <?xml version="1.0"?><a/>', 'a declaration behind a space'],
  ['<a b="x\ny"/>', 'a line end in a value'],
  ['<a / >', 'a space behind the slash'],
  ['< a/>', 'a space before the name'],
  ['<a constructor="1" toString="2"/>', 'names that every object has'],
])('%j (%s) is left to the full parser', (text) => {
  expect(plainXml(text)).toBeNull();
});

test('what is nested deeper than is read is left to the full parser', () => {
  const deep = (levels: number): string => `${'<a>'.repeat(levels)}${'</a>'.repeat(levels)}`;
  expect(plainXml(deep(201))).toBeNull();
  expect(agree(deep(200))).toBe(true);
});

test('entities of its own are refused wherever they are written', () => {
  for (const text of ['<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>', '<a><!-- <!ENTITY b "c"> --></a>', '<a><![CDATA[<!ENTITY]]></a>'])
    expect(() => readXml(text)).toThrow('defines entities of its own');
});
