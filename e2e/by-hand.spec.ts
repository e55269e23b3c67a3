/** Items written by hand, without a draft: from an empty Check, from the keyboard, and from Arrange. */
import { expect, test } from './test.js';
import { documentOf, newSet, signIn } from './people.js';

test('a set is written by hand: the first item in an empty Check, the second by keys, the third from Arrange', async ({ page }) => {
  await signIn(page);
  const id = await newSet(page, 'By hand', '');
  await page.getByRole('link', { name: /^Check/ }).click();
  await page.getByRole('button', { name: /^Add an item/ }).click();
  await page.getByRole('menuitem', { name: 'True or false' }).click();
  const question = page.getByRole('textbox', { name: 'Question', exact: true });
  await question.fill('Salt slows down yeast.');
  await page.keyboard.press('Escape');
  await page.keyboard.press('1');
  await expect.poll(async () => (await documentOf(page, id)).set.items).toMatchObject([{ kind: 'true-false', stem: 'Salt slows down yeast.', answer: true }]);

  await page.keyboard.press('i');
  await expect(page.getByRole('menuitem', { name: 'Multiple choice' })).toBeFocused();
  await page.keyboard.type('Num');
  await expect(page.getByRole('menuitem', { name: 'Number' })).toBeFocused();
  await page.keyboard.press('Enter');
  await question.fill('How many grams has a kilo?');
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await documentOf(page, id)).set.items.map((i) => i.kind)).toEqual(['true-false', 'numeric']);
  await expect(page.getByRole('article', { name: 'Item 2, error' })).toContainText('How many grams has a kilo?');

  await page.getByRole('link', { name: /^Arrange/ }).click();
  await page.getByRole('button', { name: /^Add an item/ }).click();
  await page.getByRole('menuitem', { name: 'Open question' }).click();
  await question.fill('Why is the crust darker?');
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await documentOf(page, id)).set.items.at(-1)).toMatchObject({ kind: 'essay', stem: 'Why is the crust darker?' });
  await page.keyboard.press('u');
  await page.keyboard.press('u');
  await expect.poll(async () => (await documentOf(page, id)).set.items).toHaveLength(2);
});

test('past what every page begins with, by keyboard', async ({ page }) => {
  await signIn(page);
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Starters and proofing' }).first()).toBeVisible();
  await page.keyboard.press('Tab');
  const skip = page.getByRole('button', { name: 'Skip to the content' });
  await expect(skip).toBeFocused();
  await expect(skip).toBeInViewport();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('main')).toBeFocused();
});
