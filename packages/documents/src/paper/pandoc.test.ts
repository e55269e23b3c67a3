/**
 * Papers as DOCX, web page and Markdown, read by pandoc (Debian, a reader that is not ours): the same questions, answers and keys, in their order. Sets by chance
 * are not tried so: as plain text pandoc puts table cells of several lines side by side.
 */
import { execFileSync } from 'node:child_process';
import { bothPapers, fitSet, type Item, keyPaper, type Paper, printedProfile, questionPaper, type QuizSet, readBackOf } from '@zakuska/core';
import { allFormats } from '../index.js';

const there = ((): boolean => {
  try {
    execFileSync('pandoc', ['--version'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
})();

/** What pandoc does not find of a paper, or not in its place. */
async function differences(given: QuizSet, form: string, paper: (set: QuizSet) => Paper): Promise<unknown> {
  const { set } = fitSet(given, printedProfile);
  const { bytes } = (await allFormats.byId(form)?.write?.(given)) ?? { bytes: new Uint8Array() };
  const from = form.startsWith('markdown') ? 'commonmark_x' : (form.split('-')[0] as string);
  const text = execFileSync('pandoc', ['-f', from, '-t', 'plain', '--wrap=none'], { input: bytes, encoding: 'utf8', maxBuffer: 2 ** 26 });
  return readBackOf(text, paper(set), set).differences;
}

const items: Item[] = [
  ...['rye', 'spelt', 'durum'].map(
    (word, n): Item => ({
      id: word,
      kind: 'multiple-choice',
      stem: `Which loaf is of ${word}?`,
      points: 1,
      options: ['dark', 'light', 'flat'].map((content, i) => ({ id: content, content: `the ${content} one, ${n}`, credit: i === n ? 1 : 0 })),
      feedback: { general: `It is in chapter ${n + 2}.` },
    }),
  ),
  { id: 't', kind: 'true-false', stem: 'Salt slows yeast.', points: 1, answer: true },
  {
    id: 'm',
    kind: 'matching',
    stem: 'Match.',
    points: 2,
    pairs: [
      { left: 'oven', right: 'bakes' },
      { left: 'dough', right: 'rises' },
    ],
    extraRights: ['sings'],
  },
  { id: 'o', kind: 'ordering', stem: 'Put in order.', points: 1, sequence: ['knead', 'rest', 'bake'] },
  { id: 'n', kind: 'numeric', stem: 'How many grams?', points: 1, unit: 'g', answers: [{ min: 500, max: 510, credit: 1 }] },
];

(there ? test : test.skip)('a set of many kinds', async () => {
  const set = { title: 'Bread', items };
  for (const form of ['docx', 'html', 'markdown']) {
    expect([form, await differences(set, `${form}-questions`, questionPaper)]).toEqual([form, []]);
    expect([form, await differences(set, `${form}-key`, keyPaper)]).toEqual([form, []]);
  }
  expect(await differences(set, 'docx-paper', bothPapers)).toEqual([]);
  // what is not there is missed
  expect(await differences(set, 'docx-questions', bothPapers)).not.toEqual([]);
});
