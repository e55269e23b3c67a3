/** Draft: one correction moves all lines of its series, is told in a sentence and can be undone; what nearly was something else is said. */
import { expect, test } from '@playwright/test';
import { newSet, signIn } from './people.js';

const DRAFT = `Words of week 3

- crumb: the inside of a loaf
- crust: the outside of a loaf
- poolish: a wet pre-ferment
- biga: a stiff pre-ferment

1. What happens first when bread is baked?
   the crust browns
   the loaf rises a last time
   the crumb sets

Key: 1 the loaf rises a last time
`;

test('one correction teaches, and is undone', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Words of week 3', DRAFT);
  await expect(page.getByText('2 questions read')).toBeVisible();
  await page.locator('.cm-line', { hasText: 'crumb: the inside' }).click();
  await page.keyboard.press('Alt+Enter');
  await expect(page.getByRole('menu', { name: 'Role of line 3' })).toBeVisible();
  await page.keyboard.press('q');
  await expect(page.getByText('3 further lines are read as “question” too.')).toBeVisible();
  await expect(page.getByText('5 questions read')).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByText('2 questions read')).toBeVisible();
  await expect(page.locator('.role-said')).toHaveCount(0);
});

test('a text without questions says so', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Minutes', 'Minutes of the meeting\n\nThe oven was repaired. Marta has the bill.\n');
  await expect(page.getByText('No question was found in this text.')).toBeVisible();
});
