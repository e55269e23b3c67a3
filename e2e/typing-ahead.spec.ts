/** Typing ahead on a slow machine: what is typed at once after a key that makes, opens or leaves something is not lost and goes nowhere else. */
import type { Item } from '@zakuska/core';
import { documentOf, newSet, signIn } from './people.js';
import { expect, type Page, test } from './test.js';

/** So many times slower than the machine is. */
const SLOWER = 4;
async function slow(page: Page, times = SLOWER): Promise<void> {
  const line = await page.context().newCDPSession(page);
  await line.send('Emulation.setCPUThrottlingRate', { rate: times });
}
const itemsOf = async (page: Page, set: string): Promise<Item[]> => (await documentOf(page, set)).set.items;

test('an item of each kind that has rows is written without a pause', async ({ page }) => {
  await signIn(page);
  const set = await newSet(page, 'Typed ahead', '');
  await page.getByRole('link', { name: /^Check/ }).click();
  await expect(page.getByRole('button', { name: /^Add an item/ })).toBeVisible();
  await slow(page);
  const { keyboard } = page;
  /** The menu of kinds is waited for, as people do; nothing behind it is. */
  const add = async (kind: string, question: string): Promise<void> => {
    await keyboard.press('i');
    await expect(page.getByRole('menuitem', { name: 'Multiple choice' })).toBeFocused();
    await keyboard.type(kind);
    await keyboard.press('Enter');
    await keyboard.type(question);
    await expect(page.getByRole('textbox', { name: 'Question', exact: true })).toHaveText(question);
  };
  const rows = async (first: string, ...words: string[]): Promise<void> => {
    await page.getByRole('textbox', { name: first, exact: true }).click();
    await keyboard.press('Control+a');
    for (const [i, w] of words.entries()) {
      if (i) await keyboard.press('Enter');
      await keyboard.type(w);
    }
  };
  const done = async (): Promise<Item> => {
    await keyboard.press('Escape');
    await expect(page.getByRole('textbox', { name: 'Question', exact: true })).toHaveCount(0);
    return (await itemsOf(page, set)).at(-1) as Item;
  };

  await add('Multiple choice', 'Which one floats best?');
  await rows('Option A', 'a fish', 'a stone', 'a loaf of bread');
  const choice = await done();
  expect(choice).toMatchObject({ stem: 'Which one floats best?' });
  expect('options' in choice && choice.options.map((o) => o.content).filter(Boolean)).toEqual(['a fish', 'a stone', 'a loaf of bread']);

  await add('Ord', 'Put the steps in order, please.');
  await rows('Step 1', 'mix it well', 'let it rest', 'bake it dark');
  const order = await done();
  expect(order.kind === 'ordering' && order.sequence.filter(Boolean)).toEqual(['mix it well', 'let it rest', 'bake it dark']);

  await add('Matching', 'Match each with its pair.');
  await rows('Left side of pair 1', 'basil');
  await keyboard.press('Enter');
  await keyboard.type('dill');
  const pairs = await done();
  expect(pairs.kind === 'matching' && pairs.pairs.map((p) => p.left).filter(Boolean)).toEqual(['basil', 'dill']);

  await add('Short', 'What is a stock pot in French?');
  await page.getByRole('textbox', { name: 'Accepted answers 1' }).click();
  await keyboard.type('marmite');
  await page.getByRole('button', { name: 'Accept another' }).click();
  for (const word of ['faitout', 'a big pot']) {
    await keyboard.type(word);
    await keyboard.press('Enter');
  }
  const short = await done();
  expect(short.kind === 'short-answer' && short.answers.map((a) => a.text)).toEqual(['marmite', 'faitout', 'a big pot']);

  await add('Open', 'Why is the crust darker?');
  await rows('Model answer', 'Because sugar browns.');
  expect(await done()).toMatchObject({ kind: 'essay', modelAnswer: 'Because sugar browns.' });
});

test('a draft, words to find, translations and a learner’s answer', async ({ page }) => {
  await signIn(page);
  await slow(page);
  const { keyboard } = page;
  const draft = '1. Which is the right one?\na) rye\nb) oat *\n\n2. Is it so?\nAnswer: True';
  await page.getByRole('button', { name: 'New set' }).click();
  await expect(page.getByLabel('Title')).toBeFocused();
  await keyboard.type('A slow set');
  await keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Draft' })).toBeFocused();
  await keyboard.type(draft);
  await keyboard.press('Control+Enter');
  await expect(page.getByRole('article')).toHaveCount(2);
  const set = /sets\/([^/]+)/.exec(page.url())?.[1] ?? '';
  expect((await documentOf(page, set)).set.title).toBe('A slow set');
  expect((await itemsOf(page, set)).map((i) => i.stem)).toEqual(['Which is the right one?', 'Is it so?']);
  // words to find, and out again: no letter is taken for a shortcut
  await keyboard.press('/');
  await keyboard.type('so xcxc');
  await expect(page.getByLabel('Words in the items')).toHaveValue('so xcxc');
  expect((await documentOf(page, set)).reviews).toEqual({});

  await page.goto(`/sets/${set}/check/languages?in=es`);
  await page.getByRole('listitem', { name: 'Title of the set' }).click();
  const words = ['Un juego lento', 'Cuál es la buena', 'centeno', 'avena', 'Es así'];
  for (const w of words) {
    await keyboard.press('Enter');
    await keyboard.type(w);
  }
  await keyboard.press('Enter');
  await expect(page.getByText('5 made, 0 stale, 0 missing')).toBeVisible();
  const made = Object.values((await documentOf(page, set)).set.translations?.['es'] ?? {});
  expect(made.map((t) => t.text)).toEqual(expect.arrayContaining(words));

  await page.goto('/t/BREAD7');
  await page.getByLabel('Your name').click();
  await keyboard.type('Slow Hand');
  await page.getByRole('button', { name: 'Begin' }).click();
  for (let n = 0; n < 20; n++) {
    await expect(page.locator('.stem')).toBeVisible();
    const field = page.getByLabel('Your answer');
    if (await field.first().isVisible()) {
      await field.first().click();
      await keyboard.type('12 and more');
      await expect(field.first()).toHaveValue('12 and more');
      break;
    }
    await page.getByRole('button', { name: 'Next' }).click();
  }
});
