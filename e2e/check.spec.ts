/** Check by keyboard only: twenty drafted items with eight planted faults, two of them wrong keys that the source contradicts. */
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from './test.js';
import { documentOf, newSet, signIn } from './people.js';

const demo = (name: string): string => readFileSync(new URL(`../apps/server/demo/${name}`, import.meta.url), 'utf8');

/** A set of the demo's drafted items in Check, with the demo's notes as its source. */
async function sourdough(page: Page, title: string): Promise<string> {
  await signIn(page);
  const id = await newSet(page, title, demo('sourdough-week-two.txt'));
  const { csrf } = (await (await page.request.get('/api/v1/session')).json()) as { csrf: string };
  const made = await page.request.post(`/api/v1/sets/${id}/sources`, {
    headers: { 'x-csrf-token': csrf },
    data: { name: 'Notes', mediaType: 'text/plain', text: demo('sourdough-notes.source.txt') },
  });
  expect(made.status()).toBe(201);
  await page.getByRole('button', { name: 'Take 20 items to Check' }).click();
  await page.reload();
  await expect(page.getByRole('article')).toHaveCount(20);
  await expect(page.getByRole('complementary', { name: 'Findings' })).toContainText('The source says otherwise');
  return id;
}
test.beforeEach(({ context }) => context.grantPermissions(['clipboard-read', 'clipboard-write']));

test('twenty items with eight faults are made right by keyboard alone', async ({ page }) => {
  const id = await sourdough(page, 'By keyboard');
  const findings = page.getByRole('complementary', { name: 'Findings' });
  const now = page.locator('article[aria-current=true]');
  const press = async (...keys: string[]): Promise<void> => {
    for (const k of keys) await page.keyboard.press(k);
  };
  // all eight are told: five as findings, two as contradicted keys, one as not found
  await expect(findings).toContainText('The source says otherwise than the key of 4, 15');
  await expect(findings).toContainText('Not found in the source: 12, 13, 14, 16');
  await expect(findings).toContainText('10 The item has no key.');
  await expect(findings).toContainText('Items 5 and 20 ask nearly the same.');
  await expect(findings).toContainText('3 findings in other items');

  // the wrong keys: the sentence that says otherwise, then the right key
  await press('g');
  await expect(now).toHaveAccessibleName('Item 4, not checked');
  await expect(now).toContainText('The source says otherwise');
  await expect(now).toContainText('The starter is fed twice a day when it stands at room temperature.');
  await expect(now).toContainText('Notes, paragraph 4');
  await press('3');
  await expect(now).toContainText('The source says so');
  await press('g', 'g', 'g', 'g');
  await expect(now).toHaveAccessibleName('Item 15, not checked');
  await expect(now).toContainText('The oven is heated to 250 °C');
  await press('4');
  await expect(findings).not.toContainText('The source says otherwise');
  // what no sentence supports: the height above the sea is left out
  await press('k');
  await expect(now).toContainText('Not found in the source');
  await press('x');
  await expect(findings).toContainText('Not found in the source: 12, 13, 16');
  // no key
  await press('n');
  await expect(now).toHaveAccessibleName('Item 10, error');
  await press('2');
  await expect(now).toContainText('The source says so');
  // mended: the word that is easily missed
  await press('f');
  await expect(now).toHaveAccessibleName('Item 12, not checked');
  await press('m');
  await expect(now).toContainText('Which of these does NOT make the dough stronger?');
  // options that overlap: edited in place
  await press('f');
  await expect(now).toHaveAccessibleName('Item 13, not checked');
  await expect(findings).toContainText('Options A and B have values in common.');
  await press('e');
  await expect(page.getByRole('textbox', { name: 'Question', exact: true })).toBeFocused();
  for (let i = 0; i < 30 && !(await page.getByRole('textbox', { name: 'Option B', exact: true }).evaluate((e) => e === document.activeElement)); i++)
    await press('Tab');
  await press('Control+a');
  await page.keyboard.type('3 to 4 times a week');
  await press('Escape');
  await expect(findings).not.toContainText('values in common');
  // the key that is much the longest is set aside with a reason
  await press('f');
  await expect(now).toHaveAccessibleName('Item 16, not checked');
  await press('d');
  await page.keyboard.type('it is explained in the notes');
  await press('Enter');
  await expect(findings).toContainText('1 set aside');
  await expect(findings).not.toContainText('in other items');
  // the second of two that ask the same is left out
  await press(...Array.from({ length: 4 }, () => 'j'), 'x');
  await expect(findings).not.toContainText('ask nearly the same');
  // and everything is checked, one key an item
  await press(...Array.from({ length: 20 }, () => 'k'));
  for (let i = 0; i < 25 && !(await page.getByText('18 checked · 0 not yet').isVisible()); i++) {
    await press('o', 'c');
  }
  await expect(page.getByText('18 checked · 0 not yet')).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: 'saved' })).toBeVisible();
  const { set, reviews, dismissed } = await documentOf(page, id);
  const key = (n: number): string[] => {
    const item = set.items[n - 1];
    return item && 'options' in item ? item.options.flatMap((o) => (o.credit > 0 ? [o.content] : [])) : [];
  };
  expect([key(4), key(10), key(15)]).toEqual([['twice a day'], ['four to five hours'], ['250 °C']]);
  expect(Object.values(reviews).filter((r) => r.state === 'left-out')).toHaveLength(2);
  expect(Object.values(dismissed ?? {})).toEqual(['it is explained in the notes']);

  // a checked item that is changed is open again, and undo checks it again
  await press(...Array.from({ length: 20 }, () => 'k'), '2');
  await expect(page.getByText('17 checked · 1 not yet')).toBeVisible();
  await press('u');
  await expect(page.getByText('18 checked · 0 not yet')).toBeVisible();
});

test('the place of a sentence opens in the source, and a key is looked up in the person’s own search engine', async ({ page }) => {
  await sourdough(page, 'With its source');
  await page.keyboard.press('g');
  await page.getByRole('button', { name: 'Notes, paragraph 4' }).click();
  await expect(page.getByRole('region', { name: 'Text of Notes' }).locator('mark')).toHaveText(
    'The starter is fed twice a day when it stands at room temperature.',
  );
  await page.getByRole('button', { name: 'Close the sources' }).click();
  await page.getByRole('button', { name: 'How it is checked' }).click();
  await page.getByLabel('Where you look things up').fill('https://search.example/?q={query}');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByRole('link', { name: 'Look it up' })).toHaveAttribute('href', /^https:\/\/search\.example\/\?q=How%20often%20is%20the%20starter/);
});

test('thresholds, rules and the level of the readers change what is found', async ({ page }) => {
  await sourdough(page, 'With other limits');
  const findings = page.getByRole('complementary', { name: 'Findings' });
  await page.getByRole('button', { name: '16 The key is the longest option' }).or(findings.getByText('3 findings in other items')).first().click();
  await expect(findings).toContainText('The key is the longest option');
  await page.getByRole('button', { name: 'How it is checked' }).click();
  await page.getByText(/^The \d+ rules/).click();
  await page.getByRole('checkbox', { name: /^The key is the longest option/ }).uncheck();
  await page.getByLabel('School year of its readers').fill('1');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(findings).not.toContainText('The key is the longest option');
  await expect(findings).toContainText('(meant for year 1)');
  await findings.getByText('(meant for year 1)').click();
  await expect(findings.getByRole('table')).toContainText('Gunning fog');
  // the workspace is shared with the other tests
  await page.getByRole('button', { name: 'How it is checked' }).click();
  await page.getByText(/^The \d+ rules/).click();
  await page.getByRole('checkbox', { name: /^The key is the longest option/ }).check();
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(findings).toContainText('The key is the longest option');
});

test('items are filtered, chosen and changed together; found and replaced; history leads back', async ({ page }) => {
  const id = await sourdough(page, 'Many at once');
  await page.getByLabel('Kind').selectOption('true or false');
  await expect(page.getByRole('article')).toHaveCount(4);
  await expect(page.getByText('4 of 20')).toBeVisible();
  await page.locator('main').click({ position: { x: 5, y: 400 } });
  await page.keyboard.press('a');
  await expect(page.getByText('4 items chosen')).toBeVisible();
  await page.keyboard.press('b');
  await page.getByLabel('Points of each').fill('2');
  await expect(page.getByText('Changes 4 of 4.')).toBeVisible();
  await page.getByRole('button', { name: /^Change Ctrl/ }).click();
  await page.keyboard.press('b');
  await page.getByLabel('What').selectOption('Tags');
  await page.getByLabel('Tags to add').fill('truth, week two');
  await page.getByRole('button', { name: /^Change Ctrl/ }).click();
  await page.getByRole('button', { name: 'Copy' }).click();
  await expect(page.getByText('4 items copied, behind the last of them.')).toBeVisible();
  await page.getByRole('button', { name: 'Choose none' }).click();
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(page.getByRole('article')).toHaveCount(24);
  const items = async () => (await documentOf(page, id)).set.items;
  await expect.poll(async () => (await items()).filter((i) => i.points === 2 && i.tags?.join() === 'truth,week two').length).toBe(8);

  // find and replace, one place left as it is
  await page.keyboard.press('r');
  await page.getByRole('textbox', { name: 'Find' }).fill('refrigerator');
  await page.getByRole('textbox', { name: 'Replace with' }).fill('fridge');
  await expect(page.getByText('1 of 1 place.')).toBeVisible();
  await page.getByRole('textbox', { name: 'Find' }).fill('starter');
  await expect(page.getByRole('list', { name: 'Places' })).toContainText('starterfridge');
  const places = page.getByRole('list', { name: 'Places' }).getByRole('checkbox');
  const n = await places.count();
  expect(n).toBeGreaterThan(4);
  await places.first().uncheck();
  await page.getByRole('textbox', { name: 'Replace with' }).fill('levain');
  await page.getByRole('button', { name: 'Replace', exact: true }).click();
  await expect(page.getByRole('article').first()).toContainText('sourdough starter');
  await expect.poll(async () => JSON.stringify(await items()).match(/levain/g)?.length).toBe(n - 1);

  // history: named, then back, and undone
  await page.keyboard.press('h');
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: /^Tags of 4 items/ }).click();
  await dialog.getByLabel('Name of this point').fill('Before the copies');
  await dialog.getByRole('button', { name: 'Name', exact: true }).click();
  await expect(dialog.getByText('Before the copies', { exact: true })).toBeVisible();
  await expect(dialog).toContainText('added');
  await expect(dialog.locator('ins').filter({ hasText: 'levain' }).first()).toBeVisible();
  await dialog.getByRole('button', { name: 'Go back to this' }).click();
  await expect(page.getByRole('article')).toHaveCount(20);
  await expect.poll(async () => JSON.stringify(await items()).includes('levain')).toBe(false);
  await page.keyboard.press('u');
  await expect(page.getByRole('article')).toHaveCount(24);
});

test('the preview shows the learner’s page on a phone and a desk, marks it, and leaves no trace', async ({ page }) => {
  const id = await sourdough(page, 'Previewed');
  const attempts: string[] = [];
  page.on('request', (r) => r.url().includes('/api/v1/take') && attempts.push(r.url()));
  await page.keyboard.press('p');
  const frame = page.frameLocator('iframe[title="The learner\'s page"]');
  await expect(frame.getByText('Question 1 of 20')).toBeVisible();
  expect((await page.locator('iframe').boundingBox())?.width).toBeLessThan(400);
  await frame.getByLabel('wild yeast and lactic acid bacteria').check();
  // keys never go into the learner's page
  expect(await frame.locator('html').evaluate((e) => /credit|"answer"/.test(e.innerHTML))).toBe(false);
  await page.getByRole('button', { name: 'Desk' }).click();
  expect((await page.locator('iframe').boundingBox())?.width).toBeGreaterThan(900);
  for (let i = 0; i < 20; i++) await frame.getByRole('button', { name: 'Next' }).click();
  await frame.getByRole('button', { name: 'Hand in' }).click();
  await expect(frame.locator('.score')).toHaveText('1 of 20 points (5 %)');
  expect(attempts).toEqual([]);
  const set = (await (await page.request.get(`/api/v1/sets/${id}`)).json()) as { responses: number; deliveries: number };
  expect([set.responses, set.deliveries]).toEqual([0, 0]);
  expect(await page.evaluate(() => Object.keys(localStorage).filter((k) => k.startsWith('take')))).toEqual([]);
});

test('of a set of 300 items those in sight are drawn, wherever one goes', async ({ page }) => {
  await signIn(page);
  const draft = Array.from({ length: 300 }, (_, i) => `${i + 1}. Which loaf has number ${i + 1}?\na) rye ${i} *\nb) wheat ${i}\nc) spelt ${i}`).join('\n\n');
  const id = await newSet(page, 'Three hundred', draft);
  await page.getByRole('button', { name: 'Take 300 items to Check' }).click();
  const now = page.locator('article[aria-current=true]');
  await expect(now).toHaveAccessibleName('Item 1, not checked');
  const drawn = async (): Promise<number> => page.getByRole('article').count();
  expect(await drawn()).toBeLessThan(40);
  await expect(now).toHaveAttribute('aria-setsize', '300');
  // on and on by the keyboard, and in one go by the strip
  for (let i = 0; i < 12; i++) await page.keyboard.press('j');
  await expect(now).toHaveAccessibleName('Item 13, not checked');
  await expect(now).toBeInViewport();
  await page.getByRole('group', { name: 'Keys of the set' }).evaluate((e) => e.scrollTo(1e6, 0));
  await page.getByRole('button', { name: 'Item 299: key A, not checked' }).click();
  await expect(now).toHaveAccessibleName('Item 299, not checked');
  await expect(now).toBeInViewport();
  expect(await drawn()).toBeLessThan(40);
  await page.keyboard.press('2');
  await expect.poll(async () => (await documentOf(page, id)).set.items[298]).toMatchObject({ options: [{ credit: 0 }, { credit: 1 }, { credit: 0 }] });
  // what is open under it stays although it is scrolled away
  await page.keyboard.press('e');
  await expect(page.getByRole('textbox', { name: 'Question', exact: true })).toBeFocused();
  // what opened comes into view some frames later, and a hand that scrolls goes on after that
  await expect(async () => {
    await page.getByRole('main').evaluate((e) => e.scrollTo(0, 0));
    await expect(page.getByRole('article', { name: 'Item 1,' })).toBeInViewport({ timeout: 1000 });
  }).toPass();
  await page.keyboard.type(' Say it.');
  await expect.poll(async () => JSON.stringify((await documentOf(page, id)).set.items[298])).toContain('Say it.');
  // the order: from row to row and a row moved
  await page.getByRole('link', { name: /^Arrange/ }).click();
  const rows = page.getByRole('list', { name: 'Items in order' }).locator('[data-row]');
  await rows.first().focus();
  for (let i = 0; i < 60; i++) await page.keyboard.press('ArrowDown');
  await expect(page.locator('[data-row]:focus')).toContainText('number 61?');
  await page.keyboard.press('Alt+ArrowDown');
  await expect(page.locator('[data-row]:focus')).toContainText('number 61?');
  await expect.poll(async () => (await documentOf(page, id)).set.items[61]?.stem).toContain('number 61?');
  // the table of what fits where
  await page.getByRole('link', { name: /^Deliver/ }).click();
  await expect(page.getByRole('row', { name: /Which loaf has number 1\?/ })).toBeVisible();
  expect(await page.getByRole('row').count()).toBeLessThan(80);
  await page.getByRole('main').evaluate((e) => e.scrollTo(0, 1e6));
  await expect(page.getByRole('row', { name: /number 300\?/ })).toBeVisible();
});
