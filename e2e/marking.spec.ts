/** Once answers are in: both spellings accepted for everybody at once, an item left out after the fact, essays by rubric and keyboard. */
import type { Browser } from '@playwright/test';
import { expect, type Page, test } from './test.js';
import { newSet, signIn } from './people.js';

const DRAFT = `1. What do sunlit jars lose?
Answer: hue / tint

2. Which of these is a grain?
a) rye *
b) cod

3. Explain why a dough rests. (3 points)
Rubric: It relaxes (2 points); in own words (1 point)
`;

/** Somebody answers the three items on a phone; gives their page with what they see afterwards. */
async function answers(browser: Browser, code: string, name: string, word: string, option: string, essay: string): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await page.goto(`/t/${code}`);
  await page.getByLabel('Your name').fill(name);
  await page.getByRole('button', { name: 'Begin' }).click();
  await page.getByLabel('Your answer').fill(word);
  await page.getByRole('button', { name: 'Next' }).click();
  await page.getByLabel(option, { exact: true }).check();
  await page.getByRole('button', { name: 'Next' }).click();
  await page.getByLabel('Your answer').fill(essay);
  await page.getByRole('button', { name: 'Next' }).click();
  await page.getByRole('button', { name: 'Hand in' }).click();
  await expect(page.getByRole('heading', { name: 'Handed in' })).toBeVisible();
  return page;
}

test('a spelling is accepted for all at once, an item is dropped, essays are marked by keys; scores as counted by hand', async ({ page, browser }) => {
  await signIn(page);
  const set = await newSet(page, 'Marked afterwards', DRAFT);
  await page.getByRole('button', { name: 'Take 3 items to Check' }).click();
  await page.getByRole('link', { name: 'Go to Deliver' }).click();
  await page.getByRole('button', { name: /^Publish/ }).click();
  await expect(page.getByRole('link', { name: 'At work' })).toBeVisible();
  const deliveries = (await (await page.request.get(`/api/v1/sets/${set}/deliveries`)).json()) as { code: string }[];
  const code = deliveries[0]?.code ?? '';
  const ada = await answers(browser, code, 'Ada', 'color', 'rye', 'The gluten relaxes.');
  const ben = await answers(browser, code, 'Ben', 'Colour', 'cod', 'So.');
  await page.goto(`/sets/${set}/results`);
  const scores = page.getByRole('region', { name: 'Learners and items' }).getByRole('row');
  const score = (name: string) => scores.filter({ hasText: name }).getByRole('cell').last();
  await expect(score('Ada')).toHaveText('1');
  await expect(score('Ben')).toHaveText('0');

  await page.getByRole('link', { name: 'Marking' }).click();
  // the essays wait, so they come first: two criteria, a comment, and on to the next
  await expect(page.getByRole('heading', { name: 'Ada' })).toBeVisible();
  await page.keyboard.press('2');
  await page.keyboard.press('0');
  await page.keyboard.press('c');
  await page.keyboard.type('Say it in your own words.');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Ben' })).toBeVisible();
  await page.keyboard.press('0');
  await page.keyboard.press('1');
  await page.keyboard.press('Enter');
  await expect(page.getByText('2 of 2, all are marked')).toBeVisible();

  // both spellings, by keys; then the second item is dropped
  const items = page.getByRole('navigation', { name: 'Items' });
  await items.getByRole('button', { name: /^1/ }).click();
  await expect(page.getByRole('region', { name: 'Answers' }).getByRole('row')).toHaveCount(3);
  await page.keyboard.press('1');
  await page.keyboard.press('1');
  const waiting = page.getByRole('region', { name: 'About to be decided' });
  await expect(waiting.getByRole('status')).toHaveText('2 decisions: 2 people get other points, the mean changes by +1.');
  await items.getByRole('button', { name: /^2/ }).click();
  await page.getByRole('button', { name: 'Leave this item out' }).click();
  // Ada had the point of item 2, so that nothing changes for her
  await expect(waiting.getByRole('status')).toHaveText('3 decisions: 1 person gets other points, the mean changes by +0.5.');
  await waiting.getByRole('button', { name: 'Show who' }).click();
  await expect(waiting.getByRole('listitem')).toHaveText(['Ben: 1 → 2']);
  await page.keyboard.press('Control+Enter');
  await expect(waiting).toBeHidden();

  await page.getByRole('link', { name: 'Back to Results' }).click();
  // Ada 1 + 2 of 4, Ben 1 + 1
  await expect(score('Ada')).toHaveText('3');
  await expect(score('Ben')).toHaveText('2');
  await expect(scores.first()).toContainText('of 4');
  for (const [learner, points] of [
    [ada, '3 of 4'],
    [ben, '2 of 4'],
  ] as const) {
    await learner.reload();
    await expect(learner.getByText(points).first()).toBeVisible();
  }

  // the history says who did what, and all of it can be undone
  await page.getByRole('link', { name: 'Marking' }).click();
  await page.getByRole('button', { name: 'What was decided (5)' }).click();
  const history = page.getByRole('listitem').filter({ hasText: 'M. Okafor' });
  await expect(history).toHaveCount(5);
  await history.filter({ hasText: 'Item 2 is left out' }).getByRole('button', { name: 'Take back' }).click();
  await expect(history.filter({ hasText: 'taken back by M. Okafor' })).toHaveCount(1);
  await page.getByRole('link', { name: 'Back to Results' }).click();
  await expect(score('Ada')).toHaveText('4');
});
