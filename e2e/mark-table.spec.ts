/** Tables of answers from elsewhere: a key row, a question that is skipped, two points for one; by the set; scores counted by hand. */
import { readFileSync } from 'node:fs';
import { expect, test } from './test.js';
import { copied, newSet, signIn } from './people.js';

const TABLE = `Timestamp,Your name,Which flour is strongest?,How hot is the oven (°C)?,Pick all that feed yeast,What did you like?
2026/11/02 9:00,ANSWER KEY,strong wheat,220,"sugar, flour",all
2026/11/02 9:05,Ada,Strong wheat,220 °C,"flour, sugar",all
2026/11/02 9:06,Otto,rye,220,sugar,bread
2026/11/02 9:07,Mia,strong wheat,200,"sugar, flour",
`;

test('a table with a key row: one question skipped, two points for one; scores, most missed, who is under half, the mean', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Mark a table' }).click();
  await page.getByLabel('Table of answers').setInputFiles({ name: 'week two.csv', mimeType: 'text/csv', buffer: Buffer.from(TABLE) });
  const scores = page.getByRole('region', { name: 'Scores of people' }).getByRole('row');
  await expect(scores).toHaveText(['Ada4', 'Otto1', 'Mia2']);
  await page.getByLabel('What did you like?: used as').selectOption('Not marked');
  await page.getByLabel('Pick all that feed yeast: points').fill('2');
  await page.keyboard.press('Tab');
  // Ada 1 + 1 + 2, Otto 0 + 1 + 0, Mia 1 + 0 + 2
  await expect(scores).toHaveText(['Ada4', 'Otto1', 'Mia3']);
  const outcome = page.getByRole('complementary', { name: 'Scores' });
  await expect(outcome.getByRole('status')).toHaveText('2.67 of 4 points on average, 3 people');
  await expect(outcome).toContainText('1 under half');
  await expect(outcome.getByRole('listitem').first()).toContainText('67 %');
  await outcome.getByRole('button', { name: 'Copy the scores' }).click();
  expect(await copied(page)).toBe('Name\tPoints\tOf\nAda\t4\t4\nOtto\t1\t4\nMia\t3\t4');
  const [file] = await Promise.all([page.waitForEvent('download'), outcome.getByRole('button', { name: 'Download CSV' }).click()]);
  expect(file.suggestedFilename()).toBe('week two scores.csv');
  expect(readFileSync(await file.path(), 'utf8')).toContain('Mia,3,4');
});

test('answers to a set that were collected elsewhere are marked by its keys', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Marked by the set', '1. How hot is the oven (°C)?\nAnswer: 200\n\n2. Which flour is strongest?\na) strong wheat\nb) rye *\n');
  await page.getByRole('button', { name: 'Take 2 items to Check' }).click();
  await page.getByRole('link', { name: /^Results/ }).click();
  await page.getByRole('link', { name: 'mark a table of answers' }).click();
  await page.getByLabel(/Or paste it/).fill('Name\tWhich flour is strongest?\tHow hot is the oven (°C)?\nAda\tstrong wheat\t220\nOtto\tb) rye\t200\n');
  await page.getByRole('button', { name: 'Mark what was pasted' }).click();
  await expect(page.getByRole('region', { name: 'Scores of people' }).getByRole('row')).toHaveText(['Ada0', 'Otto2']);
  // kept, it is a source of results like a quiz or a form: its answers can be decided on, and it can be removed
  await page.getByRole('button', { name: 'Keep in Results' }).click();
  const scores = page.getByRole('region', { name: 'Learners and items' }).getByRole('row');
  await expect(scores.filter({ hasText: 'Otto' }).getByRole('cell').last()).toHaveText('2');
  await page.getByRole('link', { name: 'Marking' }).click();
  await page.getByRole('navigation', { name: 'Items' }).getByRole('button', { name: /^1/ }).click();
  await page.getByRole('button', { name: 'Give everybody the points' }).click();
  await page.getByRole('button', { name: 'Mark all anew' }).click();
  await page.getByRole('link', { name: 'Back to Results' }).click();
  await expect(scores.filter({ hasText: 'Ada' }).getByRole('cell').last()).toHaveText('1');
  // a day that it was due, said afterwards, takes off what it costs
  await page.getByRole('button', { name: 'What counts …' }).click();
  const counts = page.getByRole('dialog', { name: 'Which answers count, and what is late' });
  await counts.getByLabel('Due', { exact: true }).fill('2026-01-01T12:00');
  await counts.getByLabel('Handing in later costs').fill('25');
  await counts.getByLabel('How often it is taken off').selectOption('per cent, once');
  await counts.getByRole('button', { name: 'Count them so' }).click();
  await expect(scores.filter({ hasText: 'Ada' }).getByRole('cell').last()).toHaveText('0.8');
  await expect(scores.filter({ hasText: 'Otto' })).toContainText('handed in late, 25 % off');
  await page.getByRole('button', { name: 'Remove this table …' }).click();
  await page.getByRole('button', { name: 'Remove it' }).click();
  await expect(page.getByText('No results yet')).toBeVisible();
});

test('a table without a set makes one of its columns and the key', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Mark a table' }).click();
  await page.getByLabel('Table of answers').setInputFiles({ name: 'week two.csv', mimeType: 'text/csv', buffer: Buffer.from(TABLE) });
  await expect(page.getByRole('region', { name: 'Scores of people' }).getByRole('row')).toHaveText(['Ada4', 'Otto1', 'Mia2']);
  await page.getByRole('button', { name: 'Keep as a new set' }).click();
  await expect(page.getByRole('heading', { name: 'week two' })).toBeVisible();
  const scores = page.getByRole('region', { name: 'Learners and items' }).getByRole('row');
  await expect(scores.filter({ hasText: 'Ada' }).getByRole('cell').last()).toHaveText('4');
  await page.getByRole('link', { name: /^Check/ }).click();
  await expect(page.getByText('Which flour is strongest?').first()).toBeVisible();
});
