/** Arrange: a part made of chosen items, changed, moved; items by drag and keyboard; numbers; all of it undone. And the checking divided. */
import type { QuizSet, SetDocument } from '@zakuska/core';
import { colleague, documentOf, newSet, signIn } from './people.js';
import { expect, test } from './test.js';

const DRAFT = ['rye', 'oat', 'rice', 'salt', 'corn', 'milk'].map((w, n) => `${n + 1}. Is ${w} a grain?\na) yes *\nb) no\n`).join('\n');
const word = (stem: string): string => /^Is (\w+)/.exec(stem)?.[1] ?? stem;

test('a part is made, given points and a passage, moved past others; items go in and out by drag and keys; numbered; undone', async ({ page }) => {
  await signIn(page);
  const id = await newSet(page, 'Grains in parts', DRAFT);
  await page.getByRole('button', { name: 'Take 6 items to Check' }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.getByRole('link', { name: /^Arrange/ }).click();
  const set = async (): Promise<QuizSet> => (await documentOf(page, id)).set;
  const words = async (): Promise<string> => (await set()).items.map((i) => word(i.stem)).join(' ');

  // Check shows the same words until Arrange is there
  await expect(page.getByRole('list', { name: 'Items in order' })).toBeVisible();
  // by key and by pointer chosen, made a part by key
  await page.getByText('Is oat a grain?').click();
  await page.keyboard.press('s');
  await page.getByRole('checkbox', { name: 'Choose item 4' }).check();
  await page.getByRole('button', { name: /Make a part of them/ }).click();
  await page.getByLabel('Title of the part').fill('Grains of the field');
  await page.getByRole('textbox', { name: 'Instructions of the part' }).click();
  await page.keyboard.type('Choose one.');
  await page.getByLabel('Its items keep their order').check();
  await page.getByRole('button', { name: 'Make the part' }).click();
  const head = page.getByRole('heading', { name: 'Grains of the field' });
  await expect(head).toBeVisible();
  await expect(page.getByText('2 items, 2 points, with instructions')).toBeVisible();
  await expect.poll(words).toBe('rye oat salt rice corn milk');

  await page.getByRole('button', { name: 'Change the part: Grains of the field' }).click();
  await page.getByLabel('Points of each question').fill('3');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('2 items, 6 points, with instructions')).toBeVisible();
  await expect
    .poll(async () => (await set()).sections)
    .toMatchObject([{ title: 'Grains of the field', instructions: expect.stringContaining('Choose one.'), keepOrder: true }]);

  await page.getByRole('button', { name: 'Move the part up: Grains of the field' }).click();
  await expect.poll(words).toBe('oat salt rye rice corn milk');

  // by keyboard: down over the edge, out of the part
  await page.getByText('Is salt a grain?').click();
  await page.keyboard.press('Alt+ArrowDown');
  await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(words).toBe('oat rye rice salt corn milk');
  await expect(page.getByText('1 item, 3 points, with instructions')).toBeVisible();

  // by drag: the last one in front of the second
  const grip = await page.getByRole('listitem').filter({ hasText: 'Is milk' }).getByTitle('Drag, or Alt ↑ ↓').boundingBox();
  const onto = await page.getByText('Is rye a grain?').boundingBox();
  if (!grip || !onto) throw new Error('nothing to drag');
  await page.mouse.move(grip.x + 8, grip.y + 8);
  await page.mouse.down();
  await page.mouse.move(grip.x + 12, grip.y - 20, { steps: 4 });
  await page.mouse.move(onto.x + 40, onto.y + 8, { steps: 10 });
  await page.mouse.up();
  await expect.poll(words).toBe('oat milk rye rice salt corn');

  await page.getByRole('button', { name: 'Numbers' }).click();
  await page.getByRole('menuitem', { name: 'Number them through' }).click();
  await expect.poll(async () => (await set()).items.map((i) => i.label).join()).toBe('1,2,3,4,5,6');
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(words).toBe('oat rye rice salt corn milk');

  await page.getByRole('button', { name: 'Dissolve the part: Grains of the field' }).click();
  await expect(head).toHaveCount(0);
  await expect.poll(async () => (await set()).sections).toBeUndefined();
  expect((await set()).items.length).toBe(6);
});

test('the checking is divided; each sees their stretch, and how far the others are', async ({ page, browser }) => {
  await signIn(page);
  const id = await newSet(page, 'Grains for two', DRAFT);
  await page.getByRole('button', { name: 'Take 6 items to Check' }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.getByRole('button', { name: 'Divide the checking' }).click();
  await page.getByRole('checkbox', { name: /Brandt/ }).check();
  await page.getByRole('checkbox', { name: /Okafor/ }).check();
  await expect(page.getByText('3 items, from 1 to 3')).toBeVisible();
  await page.getByRole('button', { name: 'Divide', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Who checks what' })).toBeVisible();
  await expect.poll(async () => ((await documentOf(page, id)) as SetDocument).work?.map((w) => w.items.length)).toEqual([3, 3]);

  const other = await colleague(browser);
  await other.goto(`/sets/${id}/check`);
  await other.getByLabel('Who checks').selectOption('mine to check');
  await expect(other.getByRole('article')).toHaveCount(3);
  await expect(other.getByRole('button', { name: /^Mark as checked/ }).first()).toBeVisible();
  for (let n = 0; n < 3; n++) {
    await other
      .getByRole('button', { name: /^Mark as checked/ })
      .first()
      .click();
    await expect(other.getByText(`${n + 1} checked`)).toBeVisible();
  }
  await expect.poll(async () => Object.keys((await documentOf(page, id)).reviews).length).toBe(3);
  await page.reload();
  await page.getByRole('button', { name: 'Who checks what' }).click();
  const line = (name: string) => page.getByRole('dialog').getByRole('listitem').filter({ hasText: name });
  await expect(line('L. Brandt')).toContainText('through');
  await expect(line('M. Okafor')).toContainText('0 of 3');
  await line('M. Okafor').getByRole('button', { name: 'Show them' }).click();
  await expect(page.getByRole('article')).toHaveCount(3);
});
