/** Papers in TeX written out as drafts. Accents and dashes by Lamport, LaTeX, 2nd ed., 2.2 and 3.2 (from memory). All content is made up. */
import fc from 'fast-check';
import { runs } from '../../item/runs.js';
import { readDraft } from '../../draft/read.js';
import { utf8 } from '../encoding.js';
import { coreFormats } from '../index.js';
import { writtenOut } from '../writtenOut.js';
import { draftOfTex, isTex } from './tex.js';

const lines = (tex: string): string[] => draftOfTex(tex).trim().split('\n').filter(Boolean);
const list = (inner: string): string => `\\begin{questions}\n${inner}\n\\end{questions}`;

test('commands that name questions, choices and solutions', () => {
  expect(
    lines(
      list(`\\question[2] Which flour has most gluten?\n\\begin{choices}\n\\choice rice\n\\CorrectChoice wheat % strong\n\\end{choices}
\\begin{solution}Its proteins form it.\\end{solution}\n\\question What is fat and flour?\n\\begin{solution}\nroux\n\\end{solution}
\\question Rye is a \\fillin[grain] of the north.`),
    ),
  ).toEqual([
    '1. Which flour has most gluten? (2 points)',
    'a) rice',
    'b) wheat *',
    'Feedback: Its proteins form it.',
    '2. What is fat and flour?',
    'Answer: roux',
    '3. Rye is a {grain} of the north.',
  ]);
});

test('lists within lists, under headings, with a preamble', () => {
  const tex = `\\documentclass[12pt]{article}\\usepackage{enumitem}
\\title{Week 3}\\begin{document}\\maketitle
\\section*{Doughs}
\\begin{enumerate}
\\item Which leavens?\\vspace{2mm}
  \\begin{enumerate}[label=(\\alph*)]
  \\item salt
  \\item \\textbf{soda}
  \\end{enumerate}
\\item At which temperature does egg white set?
  \\begin{itemize}\\item $40\\,^\\circ$C \\item \\textbf{$62\\,^\\circ$C}\\end{itemize}
\\end{enumerate}
\\end{document}`;
  expect(lines(tex)).toEqual([
    '# Doughs',
    '1. Which leavens?',
    'a) salt',
    'b) **soda**',
    '2. At which temperature does egg white set?',
    'a) \\(40\\,^\\circ\\)C',
    'b) **\\(62\\,^\\circ\\)C**',
  ]);
  const { set, looks } = readDraft(draftOfTex(tex), { keysFrom: 'bold' });
  expect(looks).toContainEqual(expect.objectContaining({ look: 'bold', one: 2 }));
  expect(set.items.map((i) => ('options' in i ? i.options.map((o) => o.credit) : []))).toEqual([
    [0, 1],
    [0, 1],
  ]);
});

test.each([
  ["cr\\`eme br\\^ul\\'ee", 'crème brûlée'],
  ['gar\\c{c}on, \\"Ol', 'garçon, Öl'],
  ["``ready'' -- almost --- now", '“ready” – almost — now'],
  ['50\\,\\% of 5\\$ \\& more', '50 % of 5$ & more'],
  ['H\\textsubscript{2}O, x\\textsuperscript{2}', 'H<sub>2</sub>O, x<sup>2</sup>'],
  ['\\emph{al dente}, \\underline{firm}', '*al dente*, <u>firm</u>'],
  ['the \\textsc{Roux} {\\bfseries base}', 'the Roux base'],
  ['so \\ldots\\ and on', 'so … and on'],
])('%s', (tex, said) => expect(lines(list(`\\question ${tex}`))).toEqual([`1. ${said}`]));

test('what is no such paper stays as it is', () => {
  expect(isTex('1. What does \\item do?\na) lists\nb) sets')).toBe(false);
  expect(writtenOut('1. What is \\(\\frac{1}{2}\\)?\na) half\nb) \\begin{matrix} 1 \\end{matrix}')).toBeNull();
  expect(writtenOut('\\begin{document}\\item\\end{document}')).toBeNull();
});

test('a file is read so', async () => {
  const { set } = await coreFormats.read(utf8(list('\\question Rye?\n\\begin{choices}\\CorrectChoice grain\\choice fish\\end{choices}')), 'paper.tex');
  expect(set.items.map((i) => [i.stem, 'options' in i && i.options.map((o) => `${o.credit > 0 ? '*' : ''}${o.content}`)])).toEqual([
    ['Rye?', ['*grain', 'fish']],
  ]);
});

test('random papers: as many questions and options as were written, the keys where they were', () => {
  const word = fc.constantFrom('rye', 'oat', 'spelt', 'an egg', 'half $x^2$', '\\textbf{salt}', '50\\,\\%');
  const question = fc.record({ stem: word, options: fc.array(word, { minLength: 2, maxLength: 5 }), key: fc.nat(4) });
  fc.assert(
    fc.property(fc.array(question, { minLength: 1, maxLength: 6 }), (qs) => {
      const tex = list(
        qs
          .map(
            (q) =>
              `\\question What is ${q.stem}?\n\\begin{choices}\n${q.options.map((o, i) => `\\${i === q.key % q.options.length ? 'CorrectChoice' : 'choice'} ${o}`).join('\n')}\n\\end{choices}`,
          )
          .join('\n\n'),
      );
      const { items } = readDraft(draftOfTex(tex)).set;
      expect(items.map((i) => ('options' in i ? i.options.map((o) => o.credit > 0) : []))).toEqual(
        qs.map((q) => q.options.map((_, i) => i === q.key % q.options.length)),
      );
    }),
    { numRuns: runs(200) },
  );
});

test('broken sources end, and say what they hold', () => {
  for (const tex of [
    '\\begin{questions}\\question{',
    `\\begin{questions}${'\\item {'.repeat(5000)}`,
    '\\question\\begin{choices}\\choice\\choice',
    '$'.repeat(20000),
  ])
    expect(typeof draftOfTex(tex)).toBe('string');
});
