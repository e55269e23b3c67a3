/** Draft help without an assistant: items from a source with the sentence of each, and items from a list of words. */
import { expect, test } from './test.js';
import { documentOf, newSet, signIn } from './people.js';

const NOTES = `Stocks at the school

A white stock simmers for 90 minutes at 92 °C. A brown stock is made from roasted bones. It simmers for 6 hours in a tall pot.

Bones give gelatine, which sets a stock when it cools. Fish bones are cooked for 20 minutes only, because longer cooking makes the stock bitter. Salt is never added to a stock.

A roux is a mixture of flour and fat that thickens sauces and soups. The kitchen was built by Ottoline Marsh in 1974. As shown above, this takes 12 minutes.`;

test('a pasted text becomes items, each with its sentence; one is left out by its key; the text stays as a source', async ({ page }) => {
  await signIn(page);
  const set = await newSet(page, 'Stocks by computation', '');
  await page.goto(`/sets/${set}/draft`);
  await page.getByRole('link', { name: 'from a source' }).click();
  await page.getByLabel('How many: Multiple choice').fill('2');
  await page.getByLabel('How many: True or false').fill('2');
  await page.getByLabel('How many: Number').fill('1');
  await page.getByLabel('How many: Short answer').fill('1');
  await page.getByLabel('The text').fill(NOTES);
  const drafted = page.getByRole('region', { name: 'Drafted items' });
  await expect(drafted.getByRole('article').nth(3)).toBeVisible();
  await expect(drafted.getByText('Drafting …')).toHaveCount(0);
  const count = await drafted.getByRole('article').count();
  // the sentence stands beside every item, from the source; what hangs on a page is not asked
  const quotes = await drafted.locator('blockquote').allInnerTexts();
  expect(quotes).toHaveLength(count);
  for (const q of quotes) expect(NOTES).toContain(q.replace(/\s*\((?:paragraph|pasted).*$/s, ''));
  expect(quotes.join(' ')).not.toContain('As shown above');
  await expect(drafted.getByText(/“It” stands for “A brown stock”/)).toHaveCount(quotes.filter((q) => q.startsWith('It simmers')).length);
  await drafted.getByRole('article').first().click();
  await page.keyboard.press('n');
  await page.getByRole('button', { name: `Put ${count - 1} items into the draft` }).click();
  await expect(page.getByText(`${count - 1} questions read`)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Sources (1)' })).toBeVisible();
  await page.getByRole('button', { name: `Take ${count - 1} items to Check` }).click();
  await expect(page.getByRole('button', { name: /^Item 1: key/ })).toBeVisible();
  const { set: content } = await documentOf(page, set);
  // the evidence went along
  for (const item of content.items) expect(item.feedback?.general).toMatch(/^“.+” \(pasted text, paragraph \d+\)$/);
});

test('20 words to 20 items; a meaning is chosen, another written; what cannot be asked is told', async ({ page }) => {
  await signIn(page);
  const set = await newSet(page, 'Words of the kitchen', '');
  await page.goto(`/sets/${set}/draft/words`);
  const words =
    'knead, simmer, braise, roux, whisk, blanch, poach, sieve, gluten, yeast, ladle, broth, grate, mince, batter, glaze, marinade, skillet, colander';
  await page.getByLabel('The words').fill(`${words}\nautolyse – a rest of flour and water before the salt`);
  const drafted = page.getByRole('region', { name: 'Drafted items' });
  await expect(page.getByRole('button', { name: 'Put 20 items into the draft' })).toBeEnabled();
  await expect(drafted.getByText('Which word means “a rest of flour and water before the salt”?')).toBeVisible();
  // another meaning, and one's own
  const poach = page.getByLabel('Meaning of poach');
  await expect(poach.locator('option:checked')).toContainText('cook in a simmering liquid');
  await poach.selectOption({ label: 'verb: hunt illegally' });
  await expect(drafted.getByText('Which word means “hunt illegally”?')).toBeVisible();
  await poach.selectOption('in my own words …');
  await page.getByLabel('What poach means, in your own words').fill('to cook just below the boil');
  await expect(drafted.getByText('Which word means “to cook just below the boil”?')).toBeVisible();
  // in another way
  await page.getByLabel('Ask by').selectOption('all of these in turn');
  await expect(drafted.getByText(/^What does “braise” mean\?/)).toBeVisible();
  await page.getByLabel('Answered').selectOption('to match');
  await expect(page.getByRole('button', { name: /^Put [34] items into the draft/ })).toBeEnabled();
  await expect(drafted.getByText(/^yeast: its meaning names it/)).toBeVisible();
  await page.getByLabel('Answered').selectOption('to choose');
  await expect(page.getByRole('button', { name: 'Put 20 items into the draft' })).toBeEnabled();
  await page.getByRole('button', { name: 'Put 20 items into the draft' }).click();
  await expect(page.getByText('20 questions read')).toBeVisible();
  await page.getByRole('button', { name: 'Take 20 items to Check' }).click();
  const { set: content } = await documentOf(page, set);
  expect(content.items).toHaveLength(20);
  expect(content.items.every((i) => i.kind === 'multiple-choice' && i.options.filter((o) => o.credit === 1).length === 1)).toBe(true);
});
