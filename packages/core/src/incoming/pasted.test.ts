import { keySign } from '../item/kinds.js';
import { fromHtml, isPageSource } from './pasted.js';
import { readDraft } from '../draft/read.js';

const read = (html: string) => readDraft(fromHtml(html).text).set.items;

test('numbers of lists are typed out, nested lists get letters', () => {
  const { text, formatted } = fromHtml(
    '<ol><li>Which is a grain?<ol><li>rye</li><li><b>salt</b></li></ol></li><li><p>Second?</p><ol type="A"><li>x</li><li>y</li></ol></li></ol>',
  );
  expect(text).toBe('1. Which is a grain?\n   a) rye\n   b) **salt**\n\n2. Second?\n   A) x\n   B) y');
  expect(formatted).toBe(true);
});

test.each([
  ['bold', '<b>b) two</b>'],
  ['a highlight', '<span style="background-color: #ffff00">b) two</span>'],
  ['a colour', '<span style="color:#c00000">b) two</span>'],
  ['underlining', '<u>b) two</u>'],
])('%s marks the key', (_, key) => {
  const [item] = read(`<p>1. Which?</p><p>a) one</p><p>${key}</p><p>c) three</p>`);
  expect(item && keySign(item)).toBe('B');
});

test('black on white is no mark, and an editor that wraps all in a bold element with normal weight is seen through', () => {
  const { text } = fromHtml('<b style="font-weight:normal"><p style="color:#000000;background:#fff">1. Plain?</p></b>');
  expect(text).toBe('1. Plain?');
});

test('sub- and superscripts, tables and pictures come along', () => {
  const { text, picturesLost } = fromHtml(
    '<p>H<sub>2</sub>O at 10<sup>3</sup></p><table><tr><th>No</th><th>Key</th></tr><tr><td>1</td><td>a|b</td></tr></table><img src="file:///x.png"><img alt="oven" src="data:image/png;base64,AAAA">',
  );
  expect(text).toContain('H<sub>2</sub>O at 10<sup>3</sup>');
  expect(text).toContain('| No | Key |\n| --- | --- |\n| 1 | a\\|b |');
  expect(text).toContain('<img src="data:image/png;base64,AAAA" alt="oven"/>');
  expect(picturesLost).toBe(1);
  expect(read('<p>1. H<sub>2</sub>O?</p><p>Answer: water</p>')[0]?.stem).toBe('H<sub>2</sub>O?');
});

test('a table of questions is read as one', () => {
  const [first] = read(
    '<table><tr><th>Question</th><th>A</th><th>B</th><th>Key</th></tr><tr><td>Hot?</td><td>yes</td><td>no</td><td>B</td></tr><tr><td>Cold?</td><td>yes</td><td>no</td><td>A</td></tr></table>',
  );
  expect(first && keySign(first)).toBe('B');
});

test('a picture of any size is a picture, in a line of its own or behind words', () => {
  const src = `data:image/png;base64,${'iVBORw0KGgo'.repeat(20_000)}`;
  const [a, b] = read(`<p>1. What is this? <img src="${src}" alt="a bowl"></p><p>Answer: a bowl</p><p>2. <img src="${src}" alt="x"></p><p>Answer: dough</p>`);
  expect(a?.stem).toBe(`What is this? <img src="${src}" alt="a bowl"/>`);
  expect(b?.stem).toBe(`<img src="${src}" alt="x"/>`);
  expect(b?.kind === 'short-answer' && b.answers.map((x) => x.text)).toEqual(['dough']);
});

test('pages of many makers: style sheets, boxes to tick, folded answers, lists of terms, running heads', () => {
  const sign = (html: string): string[] => read(html).map((i) => keySign(i));
  expect(
    sign(
      '<style>.c3{background-color:#00ff00}</style><ol start="1"><li>Rye?</li></ol><ol type="a"><li><span class="c3">a grain</span></li><li><span>a fish</span></li></ol>',
    ),
  ).toEqual(['A']);
  expect(
    sign('<fieldset><legend>1. Which?</legend><label><input type="radio"> one</label><br><label><input type="radio" checked> two</label></fieldset>'),
  ).toEqual(['B']);
  expect(sign('<ol><li>Which is a fat?<ul><li>butter</li><li>salt</li></ul><details><summary>Show answer</summary><p>butter</p></details></li></ol>')).toEqual([
    'A',
  ]);
  const [pairs] = read('<p>1. Match each word with its meaning.</p><dl><dt>bow</dt><dd>the front</dd><dt>stern</dt><dd>the back</dd></dl>');
  expect(pairs?.kind === 'matching' && pairs.pairs).toEqual([
    { left: 'bow', right: 'the front' },
    { left: 'stern', right: 'the back' },
  ]);
  expect(fromHtml('<div title="header"><p>Page 1</p></div><p>1. Q?</p>').text).toBe('1. Q?');
});

test('words that look like markup stay words', () => {
  const [item] = read('<p>1. What does &lt;b&gt; do?</p><p>a) *bold*</p><p>b) nothing *</p>');
  expect(item?.stem).toContain('&lt;b&gt;');
});

test('the source of a page is told from words with markup in them', () => {
  const list = '<ol>\n<li>What is a roux?\n<ul><li>fat and flour <b>(correct)</b></li><li>a fish</li></ul></li>\n</ol>';
  expect(isPageSource(list)).toBe(true);
  const [item] = read(list);
  expect(item).toMatchObject({
    stem: 'What is a roux?',
    options: [
      { content: 'fat and flour', credit: 1 },
      { content: 'a fish', credit: 0 },
    ],
  });
  for (const text of ['1. What does <b> do?\na) bold *', '<quiz><question/></quiz>', '<b>1. Is it?</b>\na) yes', '<p> is an element of a page. True or false?'])
    expect(isPageSource(text)).toBe(false);
});
