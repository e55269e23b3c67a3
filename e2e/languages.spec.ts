/** A second language: typed side by side, out as XLIFF and in again, stale after an edit, delivered; learners choose. */
import { readFileSync, writeFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from './test.js';
import { copied, documentOf, newSet, signIn, routesHold } from './people.js';

const DRAFT = `1. What feeds a **starter**?
a) salt
b) flour *

2. Dough rests in the {fridge}.
`;
/** What stands in each source, and what its target is to say; codes by their elements. */
const SPANISH: readonly (readonly [RegExp, string])[] = [
  [/^Two tongues$/, 'Dos lenguas'],
  [/^What feeds a (<g [^>]*>)starter<\/g>\?$/, '¿Qué alimenta la $1masa madre</g>?'],
  [/^salt$/, 'sal'],
  [/^flour$/, 'harina'],
  [/^Dough rests in the (<x [^>]*>)\.$/, 'La masa reposa en el $1.'],
  [/^fridge$/, 'frigorífico'],
];
/** A target behind each source, as the tool of a translator would put it. */
const filledIn = (xliff: string): string =>
  xliff.replace(/(<source[^>]*>)([^]*?)<\/source>/g, (whole, _, source: string) => {
    const [en, es] = SPANISH.find(([pattern]) => pattern.test(source)) ?? [];
    return en && es ? `${whole}<target xml:lang="es">${source.replace(en, es)}</target>` : whole;
  });
const begin = async (page: Page): Promise<string> => {
  await signIn(page);
  const id = await newSet(page, 'Two tongues', DRAFT);
  await page.getByRole('button', { name: 'Take 2 items to Check' }).click();
  await page.getByRole('link', { name: 'Languages' }).click();
  await page.getByLabel('Language').selectOption('Spanish');
  return id;
};
const texts = (page: Page) => page.getByRole('list', { name: 'Texts and their translations into Spanish' });
const progress = (page: Page) => page.getByRole('status').filter({ hasText: 'missing' });

test('typed one after the other by keyboard; a code that is lost is told; checked, undone', async ({ page }) => {
  const id = await begin(page);
  await expect(progress(page)).toHaveText('0 checked, 0 made, 0 stale, 6 missing');
  await page.getByRole('listitem', { name: 'Title of the set' }).click();
  await page.keyboard.press('Enter');
  for (const words of ['Dos lenguas', '¿Qué alimenta la <1>masa madre</1>?', 'sal', 'harina']) {
    await page.keyboard.insertText(words);
    await page.keyboard.press('Enter');
  }
  // the gap may stand elsewhere, but not be lost
  await page.keyboard.insertText('La masa reposa en el');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Code 1 (the gap [[1]]) is missing.');
  await page.keyboard.insertText(' <1/>.');
  await page.keyboard.press('Enter');
  await page.keyboard.insertText('frigorífico');
  await page.keyboard.press('Enter');
  await expect(progress(page)).toHaveText('0 checked, 6 made, 0 stale, 0 missing');
  await expect.poll(async () => Object.keys((await documentOf(page, id)).set.translations?.['es'] ?? {}).length).toBe(6);
  await page.getByRole('listitem', { name: 'Title of the set' }).click();
  for (let i = 0; i < 3; i++) await page.keyboard.press('c');
  await expect(progress(page)).toHaveText('3 checked, 3 made, 0 stale, 0 missing');
  await page.keyboard.press('u');
  await expect(progress(page)).toHaveText('2 checked, 4 made, 0 stale, 0 missing');
});

test('XLIFF out, filled in by a script, in again; an edit makes its own texts stale; learners choose and change over', async ({ page, browser }) => {
  const id = await begin(page);
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'XLIFF 1.2' }).click()]);
  const out = readFileSync(await file.path(), 'utf8');
  const filled = filledIn(out);
  const back = test.info().outputPath('back.xlf');
  // one code is lost on the way
  writeFileSync(back, filled.replace(/<target([^>]*)>¿Qué alimenta la <g [^>]*>masa madre<\/g>/, '<target$1>¿Qué alimenta la masa madre'));
  await page.getByLabel('Take in what came back').setInputFiles(back);
  const returned = page.getByRole('region', { name: 'What came back' });
  await expect(returned).toContainText('5 texts to take in, 1 not taken');
  await expect(returned).toContainText('Question 1, question: not taken: code 1 (<strong>) is missing');
  await returned.getByRole('button', { name: 'Take in 5 texts' }).click();
  await expect(progress(page)).toHaveText('0 checked, 5 made, 0 stale, 1 missing');
  writeFileSync(back, filled);
  await page.getByLabel('Take in what came back').setInputFiles(back);
  await expect(returned).toContainText('1 text to take in, 5 as before');
  await returned.getByRole('button', { name: 'Take in 1 text' }).click();
  await expect(texts(page)).toContainText('¿Qué alimenta la <1>masa madre</1>?');

  // an edit of one option: its translation is stale, nothing else
  await page.getByRole('link', { name: 'Back to Check' }).click();
  await page.getByRole('article').first().click();
  await page.keyboard.press('e');
  await page.getByRole('textbox', { name: 'Option A' }).fill('sea salt');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Languages' }).click();
  await expect(progress(page)).toHaveText('0 checked, 5 made, 1 stale, 0 missing');
  await page.getByLabel('Shown').selectOption('missing and stale');
  await expect(texts(page).getByRole('listitem')).toHaveCount(1);
  await expect(texts(page)).toContainText('stale: the original has changed');
  await page.keyboard.press('c');
  await expect(progress(page)).toHaveText('1 checked, 5 made, 0 stale, 0 missing');

  // out in both; then to learners, who choose
  await page.getByRole('link', { name: 'Deliver in Spanish' }).click();
  await expect(page.getByLabel('In which language')).toHaveValue('es');
  await page.getByLabel('In which language').selectOption('+es');
  await page.getByRole('columnheader', { name: /^GIFT/ }).getByRole('button').click();
  const [gift] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: /Download GIFT/ }).click()]);
  expect(readFileSync(await gift.path(), 'utf8')).toMatch(/flour \/ harina/);
  await expect(page.getByText(/every key marks as it should/)).toBeVisible();
  await page.getByLabel('In which language').selectOption('');
  await page
    .getByRole('columnheader', { name: /^Own quiz/ })
    .getByRole('button')
    .click();
  await page.getByLabel('Spanish').check();
  await page.getByRole('button', { name: 'Publish 2 items' }).click();
  const code = await page.locator('[data-code]').first().textContent();
  const learner = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await learner.goto(`/t/${code ?? ''}`);
  await learner.getByRole('button', { name: 'español' }).click();
  // the page speaks the language of the quiz
  await learner.getByLabel('Tu nombre').fill('Ada');
  await learner.getByRole('button', { name: 'Empezar' }).click();
  await expect(learner.getByText('¿Qué alimenta la masa madre?')).toBeVisible();
  await learner.getByText('harina').click();
  await learner.getByRole('button', { name: 'Siguiente' }).click();
  await learner.getByRole('textbox').fill('frigorífico');
  // the other language in the middle of it: what was answered stays
  await learner.getByRole('button', { name: /English|as written/ }).click();
  await expect(learner.getByText('Dough rests in the')).toBeVisible();
  await expect(learner.getByRole('textbox')).toHaveValue('frigorífico');
  await learner.getByRole('button', { name: 'Next' }).click();
  await learner.getByRole('button', { name: 'Hand in' }).click();
  await expect(learner.getByText('2 of 2 points')).toBeVisible();
  expect(Object.keys((await documentOf(page, id)).set.translations ?? {})).toEqual(['es']);
});

test('an assistant’s Spanish goes beside the original; an item refused stays without', async ({ page }) => {
  const id = await begin(page);
  await page.getByRole('button', { name: 'Ask an assistant' }).click();
  await expect(page.getByLabel('Which language')).toHaveValue('es');
  // that the request is kept with the set is heard late: what was decided on the reply meanwhile stays
  await page.route(/\/requests$/, async (r) => {
    if (r.request().method() === 'POST') await new Promise((done) => setTimeout(done, 4000));
    await r.continue();
  });
  await routesHold(page);
  const kept = page.waitForResponse((r) => r.url().endsWith('/requests') && r.request().method() === 'POST');
  await page.getByRole('button', { name: 'Copy the request' }).click();
  await expect(page.getByText('The request is copied.')).toBeVisible();
  const signs = [...(await copied(page)).matchAll(/^\d\. \((\w+)\)/gm)].map((m) => m[1] ?? '');
  await page
    .getByLabel('The reply')
    .fill(`1. (${signs[0] ?? ''}) ¿Qué alimenta la **masa madre**?\na) sal\nb) harina *\n\n2. (${signs[1] ?? ''}) La masa reposa en el {frigorífico}.\n`);
  const proof = page.getByRole('region', { name: 'Proof' });
  await proof.getByRole('button', { name: 'Take it' }).first().click();
  await expect(proof.getByRole('button', { name: 'Keep 1 item beside the original' })).toBeVisible();
  await kept;
  await proof.getByRole('button', { name: 'Keep 1 item beside the original' }).click();
  await expect(progress(page)).toHaveText('0 checked, 3 made, 0 stale, 3 missing');
  await expect(texts(page)).toContainText('harina');
  const { set } = await documentOf(page, id);
  expect(set.items[0]).toMatchObject({ options: [{ content: 'salt' }, { content: 'flour', credit: 1 }] });
});
