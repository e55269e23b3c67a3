/** A learner's evening: slips of the author, a server in trouble, and a computer that others use too. */
import { expect, type Page, test } from './test.js';
import { newSet, routesHold, signIn } from './people.js';

const DRAFT = `1. What is \\(x^\\) for x = 2?
a) four *
b) five

2. Put in order.
1) Mix
2) Rest

3. What makes dough rise?
Answer: yeast
`;

async function published(page: Page, shows: string): Promise<string> {
  await signIn(page);
  await newSet(page, 'Evening quiz', DRAFT);
  await page.getByRole('button', { name: /Take \d items to Check/ }).click();
  await expect(page.getByText('The formula “x^” cannot be drawn; learners see its text.').first()).toBeVisible();
  await page.getByRole('link', { name: 'Go to Deliver' }).click();
  await page.getByLabel('Learners see after handing in').selectOption({ label: shows });
  await expect(page.getByText('1 item has a formula that cannot be drawn')).toBeVisible();

  await page.getByRole('button', { name: /^Publish/ }).click();
  return (await page.locator('[data-code]').first().innerText()).trim();
}
const enter = async (page: Page, code: string, name: string): Promise<void> => {
  await page.goto(`/t/${code}`);
  await page.getByLabel('Your name').fill(name);
  await page.getByRole('button', { name: 'Begin' }).click();
};

test('a formula that cannot be drawn stands as its text, and the server in trouble only delays', async ({ page }) => {
  const code = await published(page, 'the score, with right and wrong and feedback');
  await page.goto(`/t/${code}`);
  await expect(page.getByText('You have one attempt.')).toBeVisible();
  await enter(page, code, 'Ada Brandt');
  await expect(page.locator('.stem')).toContainText('\\(x^\\)');
  await page.getByLabel('four').check();
  await page.getByRole('button', { name: 'Next' }).click();
  await page.getByRole('button', { name: 'Next' }).click();
  await page.getByLabel('Your answer').fill('yeast');
  await page.getByRole('button', { name: 'Next' }).click();
  let failures = 0;
  await page.route('**/submit', (route) => (failures++ < 2 ? route.fulfill({ status: 500, body: '{}' }) : route.continue()));
  await routesHold(page);
  await page.getByRole('button', { name: 'Hand in' }).click();
  await expect(page.getByText(/does not answer well just now.*Trying again in/)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Handed in' })).toBeVisible();
  // nobody of that name gets the questions again
  await page.getByRole('button', { name: 'Not Ada Brandt?' }).click();
  await page.getByRole('button', { name: 'Start anew' }).click();
  await page.getByLabel('Your name').fill('ada brandt');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('alert')).toContainText('has handed in already');
});

test('the next pupil at a shared computer starts clean, and who was there before goes on by name', async ({ page }) => {
  const code = await published(page, 'the score only');
  await enter(page, code, 'Mira Castel');
  await page.getByLabel('five').check();
  await page.getByRole('button', { name: 'Not Mira Castel?' }).click();
  await expect(page.getByText('What Mira Castel has answered stays here')).toBeVisible();
  await page.getByRole('button', { name: 'Start anew' }).click();
  await expect(page.getByLabel('Your name')).toHaveValue('');
  await page.getByLabel('Your name').fill('Jonas Ferrow');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByLabel('five')).not.toBeChecked();
  await expect(page.getByText('Mira')).toHaveCount(0);
  await page.getByRole('button', { name: 'Next' }).click();
  await page.getByRole('button', { name: 'It is right as it stands' }).click();
  await page.reload();
  await expect(page.getByRole('button', { name: 'It is right as it stands' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Not Jonas Ferrow?' }).click();
  await page.getByRole('button', { name: 'Start anew' }).click();
  await page.getByLabel('Your name').fill('mira castel');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByLabel('five')).toBeChecked();
});
