/** What is kept of learners: somebody is found wherever they are, and forgotten; answers have a day on which they go. */
import { expect, test } from './test.js';
import { newSet, signIn } from './people.js';

test('somebody asks to be forgotten: found by name, deleted after a look at what goes, with a record that names nobody; a day is set for the others', async ({
  page,
  browser,
}) => {
  await signIn(page);
  const set = await newSet(page, 'To be forgotten', '1. Is rye a grain?\na) yes *\nb) no');
  await page.getByRole('button', { name: 'Take 1 item to Check' }).click();
  await page.getByRole('link', { name: 'Go to Deliver' }).click();
  await page.getByRole('button', { name: /^Publish/ }).click();
  await expect(page.getByRole('link', { name: 'At work' })).toBeVisible();
  const [{ code }] = (await (await page.request.get(`/api/v1/sets/${set}/deliveries`)).json()) as [{ code: string }];
  for (const name of ['Quirin Feldmann', 'Wanda Quist']) {
    const learner = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
    await learner.goto(`/t/${code}`);
    await learner.getByLabel('Your name').fill(name);
    await learner.getByRole('button', { name: 'Begin' }).click();
    await learner.getByLabel('yes', { exact: true }).check();
    await learner.getByRole('button', { name: 'Next' }).click();
    await learner.getByRole('button', { name: 'Hand in' }).click();
    await expect(learner.getByRole('heading', { name: 'Handed in' })).toBeVisible();
    await learner.context().close();
  }
  await page.goto(`/sets/${set}/results`);
  await page.getByRole('button', { name: 'Quirin Feldmann', exact: true }).click();
  await page.getByRole('link', { name: /Delete what is kept of them/ }).click();
  const found = page.getByRole('table');
  await expect(found.getByRole('row')).toHaveCount(2);
  await expect(found).toContainText('answers given here');
  await page.getByRole('button', { name: /Delete what is ticked/ }).click();
  const asked = page.getByRole('dialog', { name: 'Delete what is kept of Quirin Feldmann?' });
  await expect(asked).toContainText('1 attempt with its answers');
  await asked.getByLabel(/^Why/).fill('Letter of 12 November');
  await asked.getByRole('button', { name: 'Delete for good' }).click();
  await expect(page.getByText('Nothing is kept of “Quirin Feldmann”.')).toBeVisible();
  await expect(page.getByRole('list', { name: 'Deletions' })).toContainText('1 attempt with its answers: Letter of 12 November');
  await expect(page.getByRole('list', { name: 'Deletions' })).not.toContainText('Quirin');

  await page.goto(`/sets/${set}/results`);
  await expect(page.getByRole('button', { name: 'Wanda Quist', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Quirin Feldmann', exact: true })).toBeHidden();
  await page.getByRole('button', { name: 'Keep until …' }).click();
  const until = page.getByRole('dialog', { name: 'Until when these answers are kept' });
  await until.getByLabel('Keep until').fill('2020-01-01T08:00');
  await until.getByRole('button', { name: 'Keep until then' }).click();
  await expect(page.getByText('This day is past.')).toBeVisible();
  await until.getByLabel('Keep until').fill(`${new Date().getFullYear() + 1}-07-31T08:00`);
  await until.getByRole('button', { name: 'Keep until then' }).click();
  await expect(page.getByRole('button', { name: /^Kept until .*31/ })).toBeVisible();
});
