/** The bank: items found across sets by words and filters, a link that shows the same, chosen by keyboard and taken into a set. */
import type { QuizSet } from '@zakuska/core';
import { documentOf, newSet, signIn } from './people.js';
import { expect, test } from './test.js';

test('found across sets, narrowed, chosen by keyboard, taken into a new set and one that is there; a link shows the same view', async ({ page }) => {
  await signIn(page);
  await newSet(
    page,
    'Kelp and dulse',
    '1. Which seaweed is red?\na) dulse *\nb) kelp\nOutcomes: Seaweeds\n\n2. True or false: Kelp is dried in the sun. Answer: true\nOutcomes: Seaweeds\n',
  );
  await page.getByRole('button', { name: 'Take 2 items to Check' }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  const other = await newSet(page, 'Broths of the sea', '1. Which seaweed goes into dashi?\na) kelp *\nb) dulse\nc) laver\n');
  await page.getByRole('button', { name: /^Take 1 item/ }).click();
  await expect(page.getByRole('article').first()).toBeVisible();

  await page.goto('/');
  await page.getByRole('link', { name: 'Bank: all items' }).click();
  const found = page.getByRole('region', { name: 'Items found' });
  await page.getByLabel('Find').fill('seaweeds');
  await page.getByLabel('Find').press('Enter');
  await expect(found.getByRole('status')).toHaveText('2 items found');
  await page.getByLabel('Find').fill('kelp');
  await page.getByLabel('Find').press('Enter');
  await expect(found.getByRole('status')).toHaveText('3 items found');
  await page.getByRole('checkbox', { name: /Multiple choice/ }).check();
  await expect(found.getByRole('status')).toHaveText('2 items found');
  // the counts of the other kinds say what they would add
  await expect(page.getByRole('checkbox', { name: /True or false 1/ })).toBeVisible();

  // the address is the view
  const same = await page.context().newPage();
  await same.goto(page.url());
  await expect(same.getByRole('region', { name: 'Items found' }).getByRole('status')).toHaveText('2 items found');
  await expect(same.getByLabel('Find')).toHaveValue('kelp');
  await same.close();

  // by keyboard: choose, go on, choose, take
  await page.getByRole('complementary', { name: 'The item' }).click();
  await page.keyboard.press('x');
  await page.keyboard.press('j');
  await page.keyboard.press('x');
  await expect(page.getByText('2 items chosen')).toBeVisible();
  await page.keyboard.press('t');
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Title').fill('Seaweeds, both');
  await dialog.getByRole('button', { name: 'Take 2' }).click();
  await page.getByRole('button', { name: 'Open it' }).click();
  await expect(page.getByRole('heading', { name: 'Seaweeds, both' })).toBeVisible();
  const taken = /sets\/([^/]+)/.exec(page.url())?.[1] ?? '';
  const { set } = (await documentOf(page, taken)) as { set: QuizSet };
  expect(set.items.map((i) => i.stem).toSorted()).toEqual(['Which seaweed goes into dashi?', 'Which seaweed is red?']);
  // copies: the others keep theirs
  const before = ((await documentOf(page, other)) as { set: QuizSet }).set.items;
  expect(before.length).toBe(1);
  expect(set.items.some((i) => i.id === before[0]?.id)).toBe(false);

  // into a set that is there, behind what it has
  await page.goto('/bank?q=dried');
  await page.getByRole('checkbox', { name: 'Choose “Kelp is dried in the sun.”' }).check();
  await page.getByRole('button', { name: /Take into a set/ }).click();
  await dialog.getByLabel('Into').selectOption({ label: 'Broths of the sea: 1 item' });
  await dialog.getByRole('button', { name: 'Take 1' }).click();
  await expect(page.getByText('Taken into “Broths of the sea”.')).toBeVisible();
  expect(((await documentOf(page, other)) as { set: QuizSet }).set.items.map((i) => i.kind)).toEqual(['multiple-choice', 'true-false']);

  await page.goto('/bank?q=anvils');
  await expect(page.getByRole('heading', { name: 'Nothing like it' })).toBeVisible();
  await page.getByRole('button', { name: 'Show everything' }).last().click();
  await expect(page.getByRole('heading', { name: 'Nothing like it' })).toHaveCount(0);
});
