/** Draft: one correction moves all lines of its series, is told in a sentence and can be undone; what nearly was something else is said. */
import { expect, test } from './test.js';
import { documentOf, newSet, paste, signIn } from './people.js';

const DRAFT = `Words of week 3

- crumb: the inside of a loaf
- crust: the outside of a loaf
- poolish: a wet pre-ferment
- biga: a stiff pre-ferment

1. What happens first when bread is baked?
   the crust browns
   the loaf rises a last time
   the crumb sets

Key: 1 the loaf rises a last time
`;

test('one correction teaches, and is undone', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Words of week 3', DRAFT);
  await expect(page.getByText('2 questions read')).toBeVisible();
  await page.locator('.cm-line', { hasText: 'crumb: the inside' }).click();
  await page.keyboard.press('Alt+Enter');
  await expect(page.getByRole('menu', { name: 'Role of line 3' })).toBeVisible();
  await page.keyboard.press('q');
  await expect(page.getByText('3 further lines are read as “question” too.')).toBeVisible();
  await expect(page.getByText('5 questions read')).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByText('2 questions read')).toBeVisible();
  await expect(page.locator('.role-said')).toHaveCount(0);
});

test('a text without questions says so', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Minutes', 'Minutes of the meeting\n\nThe oven was repaired. Marta has the bill.\n');
  await expect(page.getByText('No question was found in this text.')).toBeVisible();
});

const SCENARIOS = `Scenario 1 – A guest complains about a cold soup.
Best response:
[ ] "So what?"
[X] "I will bring a hot one."

Scenario 2 – A guest asks about nuts.
Best response:
[ ] "I do not think so."
[X] "Let me ask the kitchen."
`;
test('a doubt shows both readings side by side, and one press decides', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Guests', SCENARIOS);
  await expect(page.getByText('2 questions read')).toBeVisible();
  const notes = page.locator('.note', { hasText: 'This line is read as more of the question above.' });
  await expect(notes).toHaveCount(2);
  await expect(notes.first().getByRole('button', { name: 'It is more of the question above' })).toBeVisible();
  await notes.first().getByRole('button', { name: 'It is no part of a question' }).click();
  await expect(notes).toHaveCount(0);
  await expect(page.locator('.role-said')).toHaveText(['aside']);
});

test('lines are shown as one question, and the rest is read like them', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Words of week 4', 'Words of week 4\n\n- crumb\nthe inside of a loaf\n- crust\nthe outside of a loaf\n- poolish\na wet pre-ferment\n');
  await expect(page.getByText('1 question read')).toBeVisible();
  await page.locator('.cm-line', { hasText: '- crumb' }).click();
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+End');
  await page.getByRole('button', { name: 'Show what these 2 lines are' }).click();
  await expect(page.getByRole('dialog', { name: 'Show what these lines are' })).toBeVisible();
  await page.getByLabel('Line 3 is').focus();
  await page.keyboard.press('q');
  await expect(page.getByLabel('Line 4 is')).toBeFocused();
  await page.keyboard.press('k');
  await page.getByRole('button', { name: 'Read the draft so' }).click();
  await expect(page.getByText('3 questions read')).toBeVisible();
  await expect(page.getByText(/^Read as you showed/)).toHaveText('Read as you showed, and 4 further lines like them: 3 questions.');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.locator('.role-said')).toHaveCount(0);
});

test('what an assistant hands out as JSON, or as the source of a page, is pasted as a draft', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Replies', '');
  const editor = page.getByRole('textbox', { name: 'Draft' });
  await paste(page, 'Here you are:\n```json\n[{"question": "Which is a grain?", "options": ["leek", "rye", "salt"], "answer": "rye"}]\n```\n');
  await expect(page.getByText('1 question in JSON was written out as a draft.')).toBeVisible();
  await expect(editor).toContainText('1. Which is a grain?');
  await expect(page.getByText('1 question read')).toBeVisible();
  await expect(page.getByText('1 with a key')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(editor).not.toContainText('Which is a grain?');
  await paste(page, '<ol>\n<li>What is a roux?\n<ul>\n<li>fat and flour <b>(correct)</b></li>\n<li>a fish</li>\n</ul>\n</li>\n</ol>');
  await expect(page.getByText('1 question read')).toBeVisible();
  await expect(page.getByText('1 with a key')).toBeVisible();
});

test('signs of a look stand for themselves in code, and come out as they were typed', async ({ page }) => {
  await signIn(page);
  const draft = '1. What does **this** print?\n```python\nprint(2**3**2)\n```\na) 64\nb) **512**\n\n2. What is rye?\na) a grain\nb) a fish\n';
  await newSet(page, 'Code', draft);
  await expect(page.getByText('2 questions read')).toBeVisible();
  const lines = page.locator('.cm-line');
  await expect(lines.nth(0)).toHaveText('1. What does this print?');
  await expect(lines.nth(2)).toHaveText('print(2**3**2)');
  await expect(lines.nth(5)).toHaveText('b) 512');
  // copied whole it is what was pasted
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe(draft);
});

test('in a long draft what is typed shows at once, and is taken once all of it was read', async ({ page }) => {
  await signIn(page);
  const loaf = (n: number): string => `${n}. Which loaf has number ${n}?\na) rye ${n} *\nb) wheat ${n}\nc) spelt ${n}`;
  const id = await newSet(page, 'Long', Array.from({ length: 200 }, (_, i) => loaf(i + 1)).join('\n\n'));
  await expect(page.getByRole('button', { name: 'Take 200 items to Check' })).toBeEnabled();
  const draft = page.getByRole('textbox', { name: 'Draft' });
  await draft.press('Control+End');
  await page.keyboard.type('\nd) barley loaf\n\n201. Is rye a grass? T', { delay: 30 });
  await expect(page.getByRole('region', { name: 'Reading of the line' })).toContainText('Starts with 201, the number that is due.');
  await page.getByRole('button', { name: 'Take 201 items to Check' }).click();
  await expect.poll(async () => (await documentOf(page, id)).set.items.length).toBe(201);
  const { items } = (await documentOf(page, id)).set;
  expect(items[199]).toMatchObject({ stem: 'Which loaf has number 200?', options: [{}, {}, {}, { content: 'barley loaf' }] });
});
