/** Answer sheets from paper: printed, filled in, photographed; doubtful marks are asked by key; scores as counted by hand. */
import { readFileSync } from 'node:fs';
import { sheetOf } from '@zakuska/core';
import { expect, test } from './test.js';
import { documentOf, newSet, signIn } from './people.js';
import { clean } from './clean.js';
import { photograph, printedSheet } from './photographs.js';
import { drawnPages } from '../packages/documents/src/testing/poppler.js';

const DRAFT = `1. Which flour has the most gluten?
A) rye
B) oat
C) wheat
Answer: C

2. Salt slows yeast down.
Answer: True

3. At how many degrees does a plain loaf bake?
Answer: 220

4. Which grain has no gluten?
A) rice
B) spelt
C) barley
D) rye
Answer: A

5. What is the French word for bread?
Answer: pain
`;

test('sheets are photographed, doubtful marks looked at by key, and everybody has the points of what they marked', async ({ page }) => {
  await signIn(page);
  const id = await newSet(page, 'Bread on paper', DRAFT);
  await page.getByRole('button', { name: 'Take 5 items to Check' }).click();
  await expect(page.getByRole('article')).toHaveCount(5);
  const { set } = await documentOf(page, id);
  const [first] = sheetOf(set).pages;
  if (!first) throw new Error('no page');
  const paper = printedSheet(set);
  const file = (name: string, answers: Record<string, string>, shot: Parameters<typeof photograph>[3]) => ({
    name,
    mimeType: 'image/bmp',
    buffer: photograph(paper, first, answers, shot),
  });
  await page.goto(`/sets/${id}/results`);
  await page.getByRole('link', { name: 'read answer sheets' }).click();
  await page
    .getByLabel('Pictures of answer sheets')
    .setInputFiles([
      file('one.bmp', { '1': 'C', '2': 'true', '3': '220', '4': 'A', '5': 'written' }, { turned: 9, shadow: 0.7, seed: 3 }),
      file('two.bmp', { '1': 'B', '2': 'false', '3': '180', '4': 'A,D' }, { turned: 184, slant: 0.1, seed: 4 }),
      file('three.bmp', { '1': 'C' }, { bent: 1.5, from: 90, seed: 5 }),
      { name: 'holiday.bmp', mimeType: 'image/bmp', buffer: Buffer.from('no picture at all') },
    ]);
  const pictures = page.getByRole('list', { name: 'Pictures' });
  await expect(pictures.getByRole('listitem')).toHaveCount(4);
  await expect(pictures.getByRole('alert')).toContainText('This is no picture that the browser can open');
  await expect(page.getByRole('status').filter({ hasText: 'left: 1 picture that was not read, 2 marks to look at, 3 sheets without a name' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep in Results' })).toBeDisabled();
  await clean(page, 'answer sheets, to look at');
  await page.getByRole('button', { name: 'Leave out holiday.bmp' }).click();

  // whoever goes elsewhere is asked, since nothing is kept yet
  await page.getByRole('link', { name: 'Back to Results' }).click();
  await page.getByRole('dialog', { name: 'Leave the sheets?' }).getByRole('button', { name: 'Stay here' }).click();

  // what is written is typed; of two circles one key says which is meant, and that can be taken back
  const looking = page.getByRole('region', { name: 'To look at' });
  await expect(looking.getByRole('heading', { name: 'Question 5, one.bmp' })).toBeVisible();
  await page.keyboard.type('pain');
  await page.keyboard.press('Enter');
  await expect(looking.getByText('More than one circle is filled in.')).toBeVisible();
  await page.keyboard.press('a');
  await expect(looking.getByText('Nothing is left to look at.')).toBeVisible();
  await looking.getByRole('button', { name: 'Back to the last one' }).click();
  await expect(looking.getByRole('heading', { name: 'Question 4, two.bmp' })).toBeVisible();
  await page.keyboard.press('d');
  for (const [picture, name] of [
    ['one.bmp', 'Ada Brandt'],
    ['two.bmp', 'Otto Finch'],
    ['three.bmp', 'Zoë Field'],
  ] as const)
    await page.getByLabel(`Name on ${picture}`).fill(name);
  await expect(page.getByRole('status').filter({ hasText: '3 people' })).toBeVisible();
  await page.getByRole('button', { name: 'Keep in Results' }).click();

  // Ada: all five; Otto: none, since it was D; Zoë: the first
  await page.getByRole('button', { name: 'Learners and items' }).click();
  await expect(page.getByRole('row', { name: /^Ada Brandt/ })).toContainText('5');
  await expect(page.getByRole('row', { name: /^Otto Finch/ })).toContainText('0');
  await expect(page.getByRole('row', { name: /^Zoë Field/ })).toContainText('1');
});

test('sheets for a class have the name on them, and are known by their code when they are read', async ({ page }) => {
  await signIn(page);
  const { csrf, workspaces } = (await (await page.request.get('/api/v1/session')).json()) as { csrf: string; workspaces: { id: string }[] };
  const members = [{ name: 'Zoë Field' }, { name: 'Otto Finch' }];
  const made = await page.request.post(`/api/v1/workspaces/${workspaces[0]?.id}/classes`, {
    headers: { 'x-csrf-token': csrf },
    data: { name: 'Bread, on Mondays', members },
  });
  expect(made.status()).toBe(201);
  const id = await newSet(page, 'Bread for a class', DRAFT.replace(/\n5\.[^]*/, ''));
  await page.getByRole('button', { name: 'Take 4 items to Check' }).click();
  await expect(page.getByRole('article')).toHaveCount(4);
  const { set } = await documentOf(page, id);
  const [first] = sheetOf(set).pages;
  await page.goto(`/sets/${id}/deliver?to=paper`);
  await page.getByLabel('Form', { exact: true }).selectOption('pdf-sheet');
  await page.getByLabel('For', { exact: true }).selectOption({ label: 'each of Bread, on Mondays (2)' });
  await page.getByRole('button', { name: 'Look at the pages' }).click();
  await expect(page.getByText('It fits 2 pages.')).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download PDF, answer sheet' }).click()]);
  const papers = drawnPages(readFileSync(await download.path()), 200);
  expect(papers).toHaveLength(2);

  await page.goto(`/sets/${id}/results/sheets`);
  const photos = papers.map((paper, n) => ({
    name: `${n + 1}.bmp`,
    mimeType: 'image/bmp',
    buffer: photograph(paper, first!, n ? { '1': 'C', '2': 'true' } : { '1': 'A', '4': 'A', '3': '220' }, { turned: 4 - 6 * n, seed: n + 20 }),
  }));
  await page.getByLabel('Pictures of answer sheets').setInputFiles(photos.reverse());
  await expect(page.getByLabel('Name on 2.bmp')).toHaveValue('Otto Finch');
  await expect(page.getByLabel('Name on 1.bmp')).toHaveValue('Zoë Field');
  await page.getByRole('button', { name: 'Keep in Results' }).click();
  await expect(page.getByRole('row', { name: /^Otto Finch/ })).toContainText('2');
  await expect(page.getByRole('row', { name: /^Zoë Field/ })).toContainText('2');
});
