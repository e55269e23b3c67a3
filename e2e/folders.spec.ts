/** Folders of sets by keyboard and by drag; a set shared with a colleague who may only read; a copy by a link. */
import { colleague, newSet, signIn } from './people.js';
import { expect, test } from './test.js';

test('a folder is made, filled by drag and by menu, renamed by keyboard, moved, and deleted without a set being lost', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Rye test', '1. Is rye a grain?\na) yes *\nb) no\n');
  await page.goto('/');
  await page.getByRole('button', { name: 'New folder' }).click();
  await page.getByLabel('Name').fill('Autumn');
  await page.getByRole('button', { name: 'Make the folder' }).click();
  await expect(page.getByRole('heading', { name: 'Autumn' })).toBeVisible();
  await expect(page.getByText('No sets here')).toBeVisible();
  const folder = (name: string) => page.getByRole('treeitem', { name: new RegExp(`^${name}`) });
  await folder('All sets').click();

  // by drag, from the grip of the line
  const row = page.getByRole('row', { name: /Rye test/ });
  await row.hover();
  const grip = await row.getByTitle('Drag into a folder').boundingBox();
  const onto = await folder('Autumn').boundingBox();
  if (!grip || !onto) throw new Error('nothing to drag');
  await page.mouse.move(grip.x + 8, grip.y + 8);
  await page.mouse.down();
  await page.mouse.move(grip.x - 40, grip.y + 20, { steps: 4 });
  await page.mouse.move(onto.x + 60, onto.y + 14, { steps: 10 });
  await page.mouse.up();
  await expect(page.getByText('The set is in “Autumn” now.')).toBeVisible();
  await expect(folder('Autumn')).toHaveAccessibleName('Autumn, 1 set');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(folder('Autumn')).toHaveAccessibleName('Autumn, 0 sets');

  // by menu
  await row.getByRole('button', { name: /^More for/ }).click();
  await page.getByRole('menuitem', { name: 'Move to a folder' }).click();
  await page.getByLabel('Into').selectOption('Autumn');
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  await expect(row).toContainText('Autumn');

  // by keyboard: the tree is one tab stop, arrows go, F2 renames
  await folder('All sets').focus();
  await page.keyboard.press('ArrowDown');
  await expect(folder('Autumn')).toBeFocused();
  await page.keyboard.press('F2');
  await page.getByRole('textbox', { name: 'Name' }).fill('Autumn term');
  await page.keyboard.press('Enter');
  await expect(folder('Autumn term')).toBeVisible();
  await folder('Autumn term').focus();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/folder=/);
  await expect(page.getByRole('heading', { name: 'Autumn term' })).toBeVisible();

  // into another one, never into itself
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  await expect(page.getByLabel('Into').locator('option', { hasText: 'Autumn term' })).toBeDisabled();
  await page.getByLabel('Into').selectOption('Kitchen Safety');
  await page.getByRole('dialog').getByRole('button', { name: 'Move', exact: true }).click();
  await expect(page.getByText('Kitchen Safety /')).toBeVisible();

  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByText('What is in it, 1 set, moves up: into “Kitchen Safety”. No set is deleted.')).toBeVisible();
  await page.getByRole('button', { name: 'Delete the folder' }).click();
  await expect(page.getByRole('heading', { name: 'Kitchen Safety' })).toBeVisible();
  await expect(row).toBeVisible();

  // renamed, copied, found by words
  await row.getByRole('button', { name: /^More for/ }).click();
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByRole('textbox', { name: 'Title' }).fill('Rye, tested');
  await page.keyboard.press('Enter');
  const renamed = page.getByRole('row', { name: /Rye, tested/ });
  await renamed.getByRole('button', { name: /^More for/ }).click();
  await page.getByRole('menuitem', { name: 'Make a copy' }).click();
  await expect(page.getByText('“Rye, tested, copy” is there.')).toBeVisible();
  await folder('All sets').click();
  await page.getByLabel('Find a set').fill('safety rye');
  await expect(page.getByRole('row', { name: /Rye, tested/ })).toHaveCount(2);
  await expect(page.getByRole('row', { name: /Stocks/ })).toHaveCount(0);
});

test('a set is shared with a colleague who may only read; others do not see it; a link gives a copy', async ({ page, browser }) => {
  await signIn(page);
  const id = await newSet(page, 'Exam in May', '1. Is salt a grain?\na) yes\nb) no *\n\n2. Is rye a grain?\na) yes *\nb) no\n');
  await page.getByRole('button', { name: 'Take 2 items to Check' }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  const other = await colleague(browser);
  await expect(other.getByRole('row', { name: /Exam in May/ })).toBeVisible();

  await page.goto('/');
  const more = page.getByRole('button', { name: 'More for “Exam in May”' });
  await more.click();
  await page.getByRole('menuitem', { name: 'Share' }).click();
  await page.getByLabel('Only who is named here').check();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('row', { name: /Exam in May/ }).getByLabel('Shared with some only')).toBeVisible();
  await other.goto(`/sets/${id}/check`);
  await expect(other.getByText('This set is not here, or you may not see it.')).toBeVisible();

  await more.click();
  await page.getByRole('menuitem', { name: 'Share' }).click();
  await page.getByLabel('Name a person or group').selectOption({ label: 'L. Brandt, l.brandt@saltmarsh.example' });
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = await page.getByLabel('Link to a copy').inputValue();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);

  // she reads and cannot change
  await other.goto(`/sets/${id}/check`);
  await expect(other.getByRole('article').first()).toBeVisible();
  await expect(other.getByRole('button', { name: /^Mark as checked/ })).toHaveCount(0);
  await other.keyboard.press('2');
  const csrf = ((await (await other.request.get('/api/v1/session')).json()) as { csrf: string }).csrf;
  const refused = await other.request.post(`/api/v1/sets/${id}/operations`, { headers: { 'x-csrf-token': csrf }, data: { base: 1, operations: [] } });
  expect(refused.status()).toBe(403);

  // and takes a copy by the link
  await other.goto(link);
  await expect(other.getByText('M. Okafor gives you a copy of this set with 2 items.')).toBeVisible();
  await other.getByRole('button', { name: 'Take the copy' }).click();
  await expect(other.getByRole('article')).toHaveCount(2);
  await expect(other.getByRole('button', { name: /^Mark as checked/ }).first()).toBeVisible();
});
