/** What stands beside the items and lines on a desk, on a phone and a small screen at 200 %: it is never away. */
import { documentOf, newSet, signIn } from './people.js';
import { expect, test } from './test.js';

const DRAFT = `1. How hot is a fridge?
a) 12 °C
b) 4 °C *
c) 20 °C

2. What is rye?
a) a grain
b) a fish

4. Which of these are never salty?
a) always the sea *
b) butter
`;

test('doubts, findings and their fixes below the line and the item; the set is renamed by its title', async ({ page }) => {
  await signIn(page);
  const set = await newSet(page, 'Narrow', DRAFT);
  await page.setViewportSize({ width: 390, height: 844 });
  await expect(page.getByRole('button', { name: '2 doubts' })).toBeVisible();
  // the caret goes from doubt to doubt, and below the text stands what it is about
  await page.keyboard.press('F8');
  const doubts = page.getByRole('region', { name: 'Doubts of the line' });
  await expect(doubts).toContainText('Question 2 has no key.');
  await page.keyboard.press('F8');
  await expect(doubts).toContainText('Number jumps from 2 to 4.');
  await doubts.getByRole('button', { name: 'Make it 3' }).click();
  await expect(page.getByRole('textbox', { name: 'Draft' })).toContainText('3. Which of these are never salty?');
  await page.keyboard.press('Control+Enter');

  // the filter is folded, and stays in sight once something is chosen in it
  const state = page.getByLabel('State', { exact: true });
  await expect(state).toBeHidden();
  await page.getByRole('button', { name: 'Filter', exact: true }).click();
  await state.selectOption('with an error');
  await expect(page.getByText('1 of 3')).toBeVisible();
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('button', { name: 'Filter', exact: true }).click();
  await expect(state).toBeHidden();

  await page.getByRole('article').nth(1).click();
  const own = page.getByRole('article').nth(1).getByRole('region', { name: 'Findings of the item' });
  await expect(own).toContainText('no key');
  await page.getByRole('button', { name: /^\d+ findings?$/ }).click();
  const all = page.getByRole('dialog', { name: 'Findings' });
  await expect(all.getByRole('complementary', { name: 'Findings' })).toBeVisible();
  await all.getByText(/in other items/).click();
  await all.getByRole('button', { name: /^3 / }).first().click();
  await expect(all).toHaveCount(0);
  await expect(page.getByRole('article', { name: /^Item 3/ })).toBeInViewport();

  await page.getByRole('heading', { name: 'Narrow', exact: true }).click();
  await page.getByRole('dialog', { name: 'Rename the set' }).getByLabel('Title').fill('Narrow and long');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Narrow and long' })).toBeVisible();
  await expect.poll(async () => (await documentOf(page, set)).set.title).toBe('Narrow and long');
});
