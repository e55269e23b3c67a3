/** A draft with formatting is pasted; the set is opened as text, edited and taken back; help and readings are at hand. */
import { expect, test } from './test.js';
import { documentOf, newSet, signIn } from './people.js';

const HTML = `<ol><li><p>Which flour takes up most water?</p><ol type="a"><li>wheat</li><li><b>rye</b></li><li>maize</li></ol></li>
<li><p>Which gas leavens a sponge, CO<sub>2</sub> aside?</p><ol type="a"><li><b>steam</b></li><li>helium</li></ol></li></ol>`;

test('a paste with formatting keeps list numbers, bold keys and subscripts', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
  const id = await newSet(page, 'Pasted from a document', '');
  await page.evaluate(async (html) => {
    await navigator.clipboard.write([
      new ClipboardItem({ 'text/html': new Blob([html], { type: 'text/html' }), 'text/plain': new Blob(['Which flour?'], { type: 'text/plain' }) }),
    ]);
  }, HTML);
  await page.getByRole('textbox', { name: 'Draft' }).click();
  await page.keyboard.press('Control+v');
  // bold is drawn; where somebody writes, its signs are there
  const rye = page.locator('.cm-line', { hasText: 'rye' });
  await expect(rye).toHaveText('b) rye');
  await expect(rye.getByText('rye', { exact: true })).toHaveCSS('font-weight', '750');
  await expect(page.locator('.cm-line', { hasText: 'Which gas' })).toHaveText('2. Which gas leavens a sponge, CO2 aside?');
  await rye.click();
  await expect(rye).toHaveText('b) **rye**');
  // the line under the caret says what it was read as, and why
  await expect(page.getByLabel('Reading of the line')).toContainText('Starts with B, the letter that is due.');
  await page.getByRole('button', { name: 'Notation' }).click();
  await expect(page.getByRole('dialog', { name: 'The notation' })).toContainText('Answers in braces in their place');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Yes, bold marks the keys' }).click();
  await expect(page.getByText('2 with a key')).toBeVisible();
  await page.getByRole('button', { name: 'Take 2 items to Check' }).click();
  await expect(page.getByText('CO2 aside')).toBeVisible();
  const { set } = await documentOf(page, id);
  expect(set.items.map((i) => ('options' in i ? i.options.map((o) => o.credit) : []))).toEqual([
    [0, 1, 0],
    [1, 0],
  ]);
  expect(set.items[1]?.stem).toContain('<sub>2</sub>');
});

test('a set is opened as text, edited with find and replace and taken back; unchanged items keep ids and checks', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
  const id = await newSet(
    page,
    'Edited as text',
    '1. What feeds a starter?\na) salt\nb) flour *\n\n2. True or false: Salt is sweet.\nAnswer: false\n\n3. A dough rests ____ hours.\nAnswer: 8\n',
  );
  await page.getByRole('button', { name: 'Take 3 items to Check' }).click();
  // the first is checked
  await expect(page.getByRole('article').first()).toContainText('What feeds a starter?');
  await page.keyboard.press('c');
  await expect(page.getByRole('link', { name: /^Check/ })).toContainText('1 of 3 checked');
  // the page shows it before the server has it
  await expect.poll(async () => Object.keys((await documentOf(page, id)).reviews)).toHaveLength(1);
  const before = await documentOf(page, id);
  await page.getByRole('link', { name: 'Edit as text' }).click();
  const text = page.getByRole('textbox', { name: 'Set as text' });
  await expect(text).toContainText('2. Salt is sweet.');
  await expect(page.getByText('3 unchanged')).toBeVisible();
  await text.click();
  await page.keyboard.press('Control+f');
  await page.getByPlaceholder('Find').fill('sweet');
  await page.getByPlaceholder('Replace').fill('bitter');
  await page.getByRole('button', { name: 'replace all', exact: true }).click();
  await page.keyboard.press('Escape');
  await text.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('\n4. Name a rye bread.\nAnswer: pumpernickel');
  await expect(page.getByText('2 unchanged · 1 changed · 1 new')).toBeVisible();
  // what was typed outlives a reload
  await expect(page.getByText('kept in this browser')).toBeVisible();
  await page.reload();
  await expect(page.getByText('2 unchanged · 1 changed · 1 new')).toBeVisible();
  await expect(text).toContainText('pumpernickel');
  await page.getByRole('button', { name: 'Use this text' }).click();
  await expect(page.getByText('Name a rye bread.')).toBeVisible();
  await expect(page.getByText('saved')).toBeVisible();
  const after = await documentOf(page, id);
  expect(after.set.items.slice(0, 3).map((i) => i.id)).toEqual(before.set.items.map((i) => i.id));
  expect(after.set.items[0]).toEqual(before.set.items[0]);
  expect(after.set.items[1]).toMatchObject({ stem: 'Salt is bitter.', answer: false });
  expect(after.set.items[3]).toMatchObject({ kind: 'short-answer', answers: [{ text: 'pumpernickel' }] });
  expect(after.reviews).toEqual(before.reviews);
});

test('the page of the notation reads what is typed', async ({ page }) => {
  await signIn(page);
  await page.goto('/notation');
  const box = page.getByRole('textbox', { name: 'Ordering' });
  await expect(box).toBeVisible();
  const section = page.getByRole('region', { name: 'Ordering' });
  await expect(section).toContainText('Ordering');
  await box.fill('1. Hot or cold?\nA) hot\nB) cold');
  await expect(section).toContainText('no key');
  await expect(section).toContainText('Question 1 has no key.');
  await section.getByRole('button', { name: 'As it was' }).click();
  await expect(section).toContainText('prove');
});
