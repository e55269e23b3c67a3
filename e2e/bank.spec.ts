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
  await documentOf(page, other);

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

test('asked nearly the same: told while an item is written, told apart or joined; a view kept; all that was found drawn from', async ({ page }) => {
  await signIn(page);
  const kelp = (end: string): string =>
    `1. Which salt is the best for the long ferment of cabbage${end}\na) salt without additives *\nb) iodised salt\nc) smoked salt\n`;
  const first = await newSet(page, 'Kraut, first', kelp('?'));
  await page.getByRole('button', { name: /^Take 1 item/ }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  const second = await newSet(page, 'Kraut, second', kelp(' here?'));
  await page.getByRole('button', { name: /^Take 1 item/ }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.keyboard.press('e');
  const told = page.getByRole('complementary', { name: 'Findings' }).getByText('Asked nearly so already');
  await expect(told).toBeVisible();
  await expect(page.getByRole('link', { name: 'Kraut, first' })).toBeVisible();

  // joined in the bank: one wording, and the copy knows where from
  await page.goto('/bank');
  await page.getByRole('link', { name: 'Asked nearly the same' }).click();
  const group = page.getByRole('region', { name: /: asked 2 times$/ }).filter({ hasText: 'Kraut, first' });
  await expect(group.getByRole('article')).toHaveCount(2);
  await group.getByRole('button', { name: 'Not the same' }).click();
  await expect(group).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(group).toHaveCount(1);
  await group.getByRole('article').filter({ hasText: 'Kraut, first' }).getByRole('button', { name: 'Keep this wording for both' }).click();
  await expect(page.getByText('1 item joined.')).toBeVisible();
  await expect(group).toHaveCount(0);
  const [kept, joined] = [
    ((await documentOf(page, first)) as { set: QuizSet }).set.items[0],
    ((await documentOf(page, second)) as { set: QuizSet }).set.items[0],
  ];
  expect(joined).toMatchObject({ stem: kept?.stem, takenFrom: { set: first, item: kept?.id } });

  // changed at its origin: told at the copy, and taken
  await page.goto(`/sets/${first}/check`);
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.keyboard.press('e');
  await page.getByRole('textbox', { name: 'Question' }).click();
  await page.keyboard.press('End');
  await page.keyboard.type(' Think of the colour.');
  await page.getByRole('button', { name: /^Done/ }).click();
  await expect.poll(async () => ((await documentOf(page, first)) as { set: QuizSet }).set.items[0]?.stem).toContain('colour');
  await page.goto(`/sets/${second}/check`);
  await page.getByRole('button', { name: '1 item changed where taken from' }).click();
  await expect(page.getByRole('region', { name: 'There now' })).toContainText('Think of the colour.');
  await page.getByRole('button', { name: 'Take the newer' }).click();
  await expect(page.getByRole('article').first()).toContainText('Think of the colour.');

  // a view by name
  await page.goto('/bank?q=ferment');
  await page.getByRole('button', { name: 'Keep this view' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Ferments');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.goto('/bank');
  await page.getByRole('link', { name: 'Ferments' }).click();
  await expect(page.getByLabel('Find')).toHaveValue('ferment');
  await page.getByRole('button', { name: 'Forget the view “Ferments”' }).click();
  await expect(page.getByRole('link', { name: 'Ferments' })).toHaveCount(0);

  // a sample set, and all of it as a pool
  await page.goto('/');
  await page.getByRole('button', { name: 'Sample sets' }).click();
  await page.getByLabel('Outcome').selectOption('Cold chain');
  await page.getByRole('button', { name: 'Take “Clean and cold”' }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.goto('/bank?outcome=Cold+chain');
  const status = page.getByRole('region', { name: 'Items found' }).getByRole('status');
  await expect(status).toHaveText('4 items found');
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Difficulty' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Difficulty' }).click();
  await expect(page).toHaveURL(/sort=difficulty/);
  await page.getByRole('checkbox', { name: 'Choose all that were found' }).check();
  await page.getByRole('button', { name: /Draw versions of them/ }).click();
  await page.getByRole('dialog').getByLabel('Title').fill('Cold pool');
  await page.getByRole('button', { name: 'On to the versions' }).click();
  await page.getByRole('button', { name: 'Draw versions' }).click();
  await expect(page.getByText('2 versions drawn.')).toBeVisible();
});
