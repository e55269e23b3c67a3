/** The list of sets: into the bin with what hangs on it said before, back again, and gone for good. */
import { expect, test } from './test.js';
import { newSet, signIn } from './people.js';

test('a set goes into the bin, comes back by Undo and from the bin, and goes for good when a person says so', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'For the bin', '1. Salt is salt.\na) yes *\nb) no\n');
  await page.getByRole('button', { name: /Take 1 item/ }).click();
  await page.goto('/');
  const row = page.getByRole('row', { name: /For the bin/ });
  const away = async (): Promise<void> => {
    await page.getByRole('button', { name: 'More for “For the bin”' }).click();
    await page.getByRole('menuitem', { name: 'Put into the bin' }).click();
  };
  await away();
  await expect(page.getByText('You can take it back for 30 days.')).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(row).toBeVisible();

  await away();
  await page.getByRole('button', { name: 'Into the bin' }).click();
  await expect(row).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row).toBeVisible();

  await away();
  await page.getByRole('button', { name: 'Into the bin' }).click();
  await page.getByText(/^Bin, /).click();
  const binned = page.getByRole('listitem').filter({ hasText: 'For the bin' });
  await expect(binned).toContainText('goes for good on');
  await binned.getByRole('button', { name: 'Take back' }).click();
  await expect(row).toBeVisible();

  await away();
  await page.getByRole('button', { name: 'Into the bin' }).click();
  await page.getByText(/^Bin, /).click();
  await binned.getByRole('button', { name: 'Delete for good' }).click();
  await expect(page.getByText('This cannot be undone.')).toBeVisible();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete for good' }).click();
  await expect(binned).toHaveCount(0);
});

test('what learners answered is said before a set goes, and stays with it', async ({ page }) => {
  await signIn(page);
  await page.getByRole('button', { name: 'More for “Starters and proofing”' }).click();
  await page.getByRole('menuitem', { name: 'Put into the bin' }).click();
  await expect(page.getByText(/3\d responses of learners will be out of sight with it/)).toBeVisible();
  await page.getByRole('button', { name: 'Into the bin' }).click();
  await page.goto('/t/BREAD7');
  await expect(page.getByRole('alert')).toContainText('No quiz has this entry code');
  await page.goto('/');
  await page.getByText(/^Bin, /).click();
  await page.getByRole('listitem').filter({ hasText: 'Starters and proofing' }).getByRole('button', { name: 'Take back' }).click();
  await page.getByRole('link', { name: 'Starters and proofing' }).click();
  await expect(page.getByText(/3\d responses/).first()).toBeVisible();
});
