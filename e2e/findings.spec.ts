/** Findings beside the items: gone through by keyboard, put right, set aside with a reason, undone. */
import { expect, test } from './test.js';
import { documentOf, newSet, signIn } from './people.js';

const DRAFT = `1. What is a poolish?
a) an oven
b) a wet pre-ferment of equal weights of flour and water *
c) a knife

2. Which of these breads is flat?
a) pita *
b) brioche
c) baguette

3. How hot is a fridge?
a) 12 °C
b) 4 °C *
c) 20 °C

4. What is rye?
a) grain
b) fish
`;

test('findings are gone through by keyboard, fixed, set aside and taken back in', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
  const id = await newSet(page, 'With findings', DRAFT);
  await page.getByRole('button', { name: 'Take 4 items to Check' }).click();
  const findings = page.getByRole('complementary', { name: 'Findings' });
  await expect(findings).toContainText('The key B is much longer than the other options.');
  await expect(findings).toContainText('1 error elsewhere');
  // on to the next item with a finding; item 2 has none
  await page.keyboard.press('f');
  await expect(findings).toContainText('The options are numbers that stand in no order.');
  await findings.getByRole('button', { name: 'Put them in order' }).click();
  await expect(findings).not.toContainText('stand in no order');
  const options = async (): Promise<string[]> => {
    const item = (await documentOf(page, id)).set.items[2];
    return item && 'options' in item ? item.options.map((o) => `${o.content}${o.credit > 0 ? '*' : ''}`) : [];
  };
  await expect.poll(options).toEqual(['4 °C*', '12 °C', '20 °C']);
  await page.keyboard.press('u');
  await expect(findings).toContainText('stand in no order');
  await findings.getByRole('button', { name: 'Set aside' }).click();
  await page.getByLabel('Why it is all right').fill('the order is the trap');
  await page.keyboard.press('Enter');
  await expect(findings).not.toContainText('stand in no order');
  // it stays aside over a reload
  await expect(page.getByText('saved')).toBeVisible();
  await page.reload();
  await findings.getByText('1 set aside').click();
  await expect(findings).toContainText('Numbers out of order: How hot is a fridge? (the order is the trap)');
  await findings.getByRole('button', { name: 'Take back in' }).click();
  await expect(findings.getByText('1 set aside')).toBeHidden();
  await page.keyboard.press('n');
  await expect(findings).toContainText('The item has no key.');
});
