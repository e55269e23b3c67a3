/** A foreign import template: understood, corrected, kept as a destination, filled, read back. */
import { readFileSync } from 'node:fs';
import { newSet, signIn } from './people.js';
import { expect, test } from './test.js';

const DRAFT = `1. Which one feeds yeast?
a) salt
b) sugar *
c) ash

2. Which pan for crêpes, when the batter is thin, the stove is old and the cook has no patience at all?
a) flat *
b) deep

3. What colour is beetroot?
Answer: red
`;
const TEMPLATE = 'Ask;Option 1;Option 2;Option 3;Right reply;Shelf\nup to 80 characters;;;;number of the right option;\nSample?;one;two;three;2;A\n';

test('from a sheet of a service that nobody knows to a file that it takes', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Yeast', DRAFT);
  await page.getByRole('button', { name: 'Take 3 items to Check' }).click();
  await page.getByRole('link', { name: /^Deliver/ }).click();
  await page.getByRole('button', { name: 'Add a service by its import template' }).click();
  const dialog = page.getByRole('dialog');
  const file = dialog.getByLabel('Template (CSV, TSV or XLSX)');
  await file.setInputFiles({ name: 'shapes.csv', mimeType: 'text/csv', buffer: Buffer.from('Colour;Shape\nred;round\n') });
  await expect(dialog.getByRole('alert')).toContainText('no row of this template names columns that hold questions');
  await file.setInputFiles({ name: 'pantry_game.csv', mimeType: 'text/csv', buffer: Buffer.from(TEMPLATE.replace('Ask', 'Question')) });
  await expect(dialog.getByText('questions up to 80 characters')).toBeVisible();
  await expect(dialog.getByLabel('Column 5, Right reply')).toHaveValue('key');
  await expect(dialog.getByLabel('The right option is told by')).toHaveValue('number');
  // the person knows better: letters, and the shelf is for tags
  await dialog.getByLabel('The right option is told by').selectOption('its letter');
  await dialog.getByLabel('Column 6, Shelf').selectOption('tags');
  await expect(dialog.getByLabel('Name of the destination')).toHaveValue('pantry game');
  await dialog.getByLabel('Name of the destination').fill('Pantry game');
  await dialog.getByRole('button', { name: 'Keep as a destination' }).click();

  const panel = page.getByRole('complementary', { name: 'Pantry game' });
  await expect(page.getByRole('button', { name: /^Item 2, Pantry game: its question has \d+ characters; 80 are possible there/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Item 3, Pantry game: / })).toHaveText('cannot go');
  const [saved] = await Promise.all([page.waitForEvent('download'), panel.getByRole('button', { name: 'Download it filled' }).click()]);
  expect(saved.suggestedFilename()).toBe('yeast-pantry-game.csv');
  expect(readFileSync(await saved.path(), 'utf8')).toBe(
    'Question;Option 1;Option 2;Option 3;Right reply;Shelf\nup to 80 characters;;;;number of the right option;\nWhich one feeds yeast?;salt;sugar;ash;B;\n',
  );
  await expect(panel.getByRole('region', { name: 'Rehearsal' })).toContainText('every key marks as it should');

  // it is there for every set of the workspace, can be corrected and removed, and the removal undone
  await page.reload();
  await page
    .getByRole('columnheader', { name: /^Pantry game/ })
    .getByRole('button')
    .click();
  await panel.getByRole('button', { name: 'Its columns' }).click();
  await expect(dialog.getByLabel('Column 6, Shelf')).toHaveValue('tags');
  await page.keyboard.press('Escape');
  await panel.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByRole('columnheader', { name: /^Pantry game/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('columnheader', { name: /^Pantry game/ })).toHaveCount(1);
});
