/** The sheet that readers of documents write on: labels typed out, looks as marks of the notation, tables as tables or as what they stand for. */
import fc from 'fast-check';
import { runs } from '../item/runs.js';
import { type Look, Sheet, standsOut } from './sheet.js';

const written = (write: (s: Sheet) => void): string => {
  const sheet = new Sheet();
  write(sheet);
  return sheet.finish().text;
};
/** A table of plain cells; a line break in a cell begins a line, words between stars are bold. */
const table = (rows: readonly (readonly string[])[], headed = false): string =>
  written((s) =>
    s.table(rows, headed, (cell: string) => {
      cell.split('\n').forEach((line, i) => {
        if (i > 0) s.newline();
        const bold = /^\*(.*)\*$/.exec(line);
        s.words(bold?.[1] ?? line, { strong: Boolean(bold) });
      });
    }),
  );

// forms of colours: CSS Color Module Level 4, sections 5 and 6; the limit of what stands out: common practice, no source
test.each([
  ['#ff0000', true],
  ['#f00', true],
  ['#FF0000CC', true],
  ['rgb(0, 128, 0)', true],
  ['rgb(0 128 0)', true],
  ['rgba(200, 0, 0, 0.5)', true],
  ['green', true],
  ['DarkRed', true],
  ['#000', false],
  ['#333333', false],
  ['#808080', false],
  ['rgb(40,40,60)', false],
  ['rgba(255, 0, 0, 0)', false],
  ['black', false],
  ['LightGray', false],
  ['windowtext', false],
  ['inherit', false],
  ['transparent', false],
  ['', false],
  ['#12', false],
  ['rgb(a, b, c)', false],
])('the colour “%s” stands out: %s', (colour, yes) => expect(standsOut(colour)).toBe(yes));

describe('words and their looks', () => {
  test.each<[string, string, Look, string]>([
    ['bold', 'rye', { strong: true }, '**rye**'],
    ['slanted', 'rye', { em: true }, '*rye*'],
    ['underlined', 'rye', { under: true }, '<u>rye</u>'],
    ['marked', 'rye', { highlight: true }, '<mark>rye</mark>'],
    ['below the line', '2', { sub: true }, '<sub>2</sub>'],
    ['above the line', '3', { sup: true }, '<sup>3</sup>'],
    ['bold and slanted', 'rye', { strong: true, em: true }, '***rye***'],
    ['blanks stay outside of the marks', ' rye  bread ', { strong: true }, 'of ** rye'],
    ['a sign alone shows no look', '–', { strong: true }, 'of –'],
    ['a tag in the words is words', '<b>', {}, 'of \\<b>'],
    ['control signs go', 'r\u0001ye', {}, 'of rye'],
  ])('%s', (what, words, look, result) => {
    const text = written((s) => {
      s.words('of ');
      s.words(words, look);
    });
    expect(text).toBe(what.startsWith('blanks') ? 'of  **rye  bread**' : result.startsWith('of') ? result : `of ${result}`);
  });
  test('a colour marks where few words have it, and is how the text is printed where most have', () => {
    const lines = (red: number): string =>
      written((s) => {
        for (let i = 0; i < 6; i++) {
          if (i > 0) s.newline();
          s.words('flour', i < red ? { colour: '#c00000' } : {});
        }
      });
    expect(lines(1)).toBe('<ink>flour</ink>\nflour\nflour\nflour\nflour\nflour');
    expect(lines(5)).not.toContain('<ink>');
  });
  test('formatted: only where more is said than by the plain words', () => {
    const plain = new Sheet();
    plain.words('flour');
    expect(plain.finish()).toEqual({ text: 'flour', formatted: false });
    const bold = new Sheet();
    bold.words('flour', { strong: true });
    expect(bold.finish().formatted).toBe(true);
  });
  test('a picture keeps its words, without what would end them', () =>
    expect(written((s) => s.picture('asset:1', 'a "loaf"\n<cut>'))).toBe('<img src="asset:1" alt="a  loaf   cut"/>'));
});

describe('lines', () => {
  test('labels, headings, gaps', () =>
    expect(
      written((s) => {
        s.heading(2);
        s.words('Bread', { strong: true });
        s.label('1.', 0);
        s.words('Which grain?');
        s.label('a)', 1);
        s.words('rye');
        s.label('2.', 0);
        s.words('Which fat?');
        s.outside();
        s.words('The end.');
      }),
    ).toBe('## Bread\n1. Which grain?\n   a) rye\n\n2. Which fat?\n\nThe end.'));
  test.each([
    ['a word parted at the end of a line is joined', 'ferment-', 'ation takes time', 'fermentation\ntakes time'],
    ['a name with a capital is not', 'Baden-', 'Baden lies there', 'Baden-\nBaden lies there'],
    ['nor a dash behind a blank', 'rye -', 'a grain', 'rye -\na grain'],
  ])('%s', (_what, above, below, result) =>
    expect(
      written((s) => {
        s.words(above);
        s.newline();
        s.words(below);
        s.joinHyphen();
      }),
    ).toBe(result),
  );
});

describe('tables', () => {
  test.each<[string, string[][], boolean, string]>([
    [
      'headed',
      [
        ['Grain', 'Use'],
        ['rye', 'bread'],
      ],
      true,
      '| Grain | Use |\n| --- | --- |\n| rye | bread |',
    ],
    [
      'not headed',
      [
        ['rye', 'bread'],
        ['oat', 'porridge'],
      ],
      false,
      '| rye | bread |\n| oat | porridge |',
    ],
    [
      'a bold first row heads it',
      [
        ['*Grain*', '*Use*'],
        ['rye', 'bread'],
        ['oat', 'porridge'],
      ],
      false,
      '| **Grain** | **Use** |\n| --- | --- |\n| rye | bread |\n| oat | porridge |',
    ],
    [
      'a bar in a cell, two lines in a cell',
      [
        ['a|b', 'x\ny'],
        ['c', 'd'],
      ],
      false,
      '| a\\|b | x<br/>y |\n| c | d |',
    ],
    [
      'empty rows and columns go',
      [
        ['rye', '', 'bread'],
        ['', '', ''],
        ['oat', '', 'porridge'],
      ],
      false,
      '| rye | bread |\n| oat | porridge |',
    ],
    ['one column is layout', [['Which grain?'], ['rye\noat']], false, 'Which grain?\nrye\noat'],
    [
      'options side by side are lines',
      [
        ['a) rye', 'b) oat'],
        ['c) wheat', 'd) rice'],
      ],
      false,
      'a) rye\nb) oat\nc) wheat\nd) rice',
    ],
    [
      'a question with its options, labels in front',
      [
        ['1', 'Which grain?'],
        ['a', 'rye'],
        ['b', 'oat'],
      ],
      false,
      '1. Which grain?\na) rye\nb) oat',
    ],
    [
      'boxes in front',
      [
        ['', 'Which grains?'],
        ['☑', 'rye'],
        ['☐', 'oat'],
      ],
      false,
      'Which grains?\n☑ rye\n☐ oat',
    ],
    [
      'the same letter twice is a table',
      [
        ['a', 'rye'],
        ['a', 'oat'],
      ],
      false,
      '| a | rye |\n| a | oat |',
    ],
  ])('%s', (_what, rows, headed, result) => expect(table(rows, headed)).toBe(result));
});

test('no word is lost, whatever is written in whatever order', () => {
  const word = fc.stringMatching(/^[a-z]{2,8}$/);
  const step = fc.oneof(
    fc.record({
      do: fc.constant('words' as const),
      word,
      look: fc.record({ strong: fc.boolean(), em: fc.boolean(), under: fc.boolean(), colour: fc.constantFrom('', '#c00') }),
    }),
    fc.record({ do: fc.constantFrom('newline' as const, 'gap' as const, 'outside' as const) }),
    fc.record({ do: fc.constant('heading' as const), level: fc.integer({ min: -1, max: 9 }) }),
    fc.record({ do: fc.constant('label' as const), depth: fc.integer({ min: -1, max: 12 }) }),
    fc.record({ do: fc.constant('table' as const), rows: fc.array(fc.array(word, { maxLength: 4 }), { maxLength: 4 }), headed: fc.boolean() }),
  );
  fc.assert(
    fc.property(fc.array(step, { maxLength: 20 }), (steps) => {
      const words: string[] = [];
      const text = written((s) => {
        for (const x of steps) {
          if (x.do === 'words') {
            words.push(x.word);
            s.words(x.word, x.look);
            s.words(' ');
          } else if (x.do === 'heading') s.heading(x.level);
          else if (x.do === 'label') s.label('-', x.depth);
          else if (x.do === 'table') {
            words.push(...x.rows.flat());
            s.table(x.rows, x.headed, (cell) => s.words(cell));
            s.newline();
          } else s[x.do]();
        }
      });
      expect(text.replace(/<\/?(?:u|ink)>/g, ' ').match(/[a-z]{2,}/g) ?? []).toEqual(words);
    }),
    { numRuns: runs(300) },
  );
});
