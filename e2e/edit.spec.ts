/** Editing items in place: rich text, pictures, formulas, options, gaps, conversion, and what trying an answer offers. */
import { expect, test, type Page } from './test.js';
import { documentOf, newSet, signIn } from './people.js';

const DRAFT = `1. What is rye?
a) a grain *
b) a fish
c) a fat

2. What is a wild starter called?
Answer: levain

3. The dough rises because yeast makes gas.
Kind: essay

4. Put the steps in order.
1) mix
2) knead
3) bake
Kind: ordering

5. How many grams are a quarter of a kilo?
Answer: 250 g
`;
// A red dot: the smallest PNG.
const DOT = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8DwHwAFBQIAX8jx0gAAAABJRU5ErkJggg==';

test.beforeEach(async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
});
async function open(page: Page, title: string): Promise<{ id: string; item: (n: number) => Promise<Record<string, unknown>> }> {
  const id = await newSet(page, title, DRAFT);
  await page.getByRole('button', { name: 'Take 5 items to Check' }).click();
  await expect(page.getByRole('article')).toHaveCount(5);
  return { id, item: async (n) => (await documentOf(page, id)).set.items[n - 1] as unknown as Record<string, unknown> };
}
const goTo = async (page: Page, n: number): Promise<void> => {
  await page.getByRole('button', { name: new RegExp(`^Item ${n}:`) }).click();
  await page.keyboard.press('e');
  await expect(page.getByRole('region', { name: 'Edit the item' })).toBeVisible();
};

/** An editor of rich text hears of a caret that a key has moved in a task of its own: no hand is faster, a test is. */
const caretRead = (page: Page): Promise<void> => page.evaluate(() => new Promise<void>((done) => requestAnimationFrame(() => setTimeout(done, 50))));

test('rich text: bold, a list, a table, a formula, a picture that is described, sized and cropped', async ({ page }) => {
  const { item } = await open(page, 'Rich text');
  await goTo(page, 1);
  const question = page.getByRole('textbox', { name: 'Question', exact: true });
  await question.click();
  await page.keyboard.press('Control+End');
  await caretRead(page);
  await page.keyboard.type(' Be ');
  await page.keyboard.press('Control+b');
  await page.keyboard.type('exact');
  await page.keyboard.press('Control+b');
  await expect.poll(async () => (await item(1))['stem']).toBe('What is rye? Be <strong>exact</strong>');
  await page.keyboard.type(': ');
  await page.getByRole('button', { name: 'Formula', exact: true }).click();
  await page.getByRole('textbox', { name: 'TeX' }).fill('\\frac{1}{2}');
  await page.getByRole('button', { name: 'Insert' }).click();
  await expect.poll(async () => (await item(1))['stem']).toBe('What is rye? Be <strong>exact</strong>: \\(\\frac{1}{2}\\)');
  await expect(question.locator('math')).toBeVisible();
  // the visual field: typed as it is spoken
  await question.getByRole('button', { name: /^Formula/ }).click();
  const field = page.locator('math-field');
  await expect(field).toBeVisible();
  await field.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('x^2');
  await expect(page.getByRole('textbox', { name: 'TeX' })).toHaveValue('x^2');
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await expect.poll(async () => (await item(1))['stem']).toContain('\\(x^2\\)');
  await question.click();
  await page.keyboard.press('Control+End');
  await caretRead(page);
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await page.keyboard.type('one');
  await page.keyboard.press('Enter');
  await page.keyboard.type('two');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  await page.keyboard.type('flour');
  await page.getByRole('button', { name: 'Delete the column' }).click();
  await expect.poll(async () => (await item(1))['stem']).toMatch(/<ul><li>one<\/li><li>two<\/li><\/ul><table><tbody><tr><th><\/th><th><\/th><\/tr>/);

  await page.getByRole('button', { name: 'Delete the table' }).click();
  await page.getByLabel('Picture files').setInputFiles({ name: 'rye-field.png', mimeType: 'image/png', buffer: Buffer.from(DOT, 'base64') });
  await expect.poll(async () => (await item(1))['stem']).toContain(`<img src="data:image/png;base64,${DOT}"`);
  // the name of the file is no description
  expect((await item(1))['stem']).not.toContain('rye field');
  await question.locator('img[src]').click();
  await page.getByLabel('What it shows').fill('A field of rye');
  await page.getByLabel('Width').focus();
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await item(1))['stem']).toMatch(/alt="A field of rye" width="500"/);
  await page.getByRole('button', { name: 'Crop …' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Crop', exact: true }).click();
  await expect.poll(async () => (await item(1))['stem']).toMatch(/<img src="data:image\/png;base64,[^"]+" alt="A field of rye"\/>/);
  await page.keyboard.press('Escape');
  // and all of it in one look, with the formula drawn
  await expect(page.getByRole('article').first().locator('math')).toBeVisible();
});

test('options by keyboard and drag, with weights, feedback and a pinned place', async ({ page }) => {
  const { item } = await open(page, 'Options');
  const contents = async (): Promise<string[]> => ((await item(1))['options'] as { content: string }[]).map((o) => o.content);
  await goTo(page, 1);
  await page.getByLabel('Option B', { exact: true }).click();
  await page.keyboard.press('Enter');
  await page.keyboard.type('a stone');
  await expect.poll(contents).toEqual(['a grain', 'a fish', 'a stone', 'a fat']);
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(contents).toEqual(['a grain', 'a stone', 'a fish', 'a fat']);
  const [from, to] = [page.getByRole('button', { name: 'Drag option D' }), page.getByRole('button', { name: 'Drag option A' })];
  const [a, b] = [await from.boundingBox(), await to.boundingBox()];
  if (!a || !b) throw new Error('no handles');
  await page.mouse.move(a.x + 10, a.y + 10);
  await page.mouse.down();
  for (let i = 1; i <= 10; i++) await page.mouse.move(a.x + 10, a.y + 10 + ((b.y - a.y - 6) * i) / 10);
  await page.mouse.up();
  await expect.poll(contents).toEqual(['a fat', 'a grain', 'a stone', 'a fish']);
  await page.getByLabel('Some options earn a part').check();
  const share = page.getByLabel('Share of the points for option C, in per cent');
  // a test types into a field that it has not seen take the focus; a hand does not
  await share.click();
  await expect(share).toBeFocused();
  await share.fill('-25');
  await expect(share).toHaveValue('-25');
  await page.getByRole('button', { name: 'Feedback for option C' }).click();
  await page.getByRole('textbox', { name: 'Feedback for option C' }).fill('Stones do not grow.');
  await page.getByRole('button', { name: 'Option D keeps its place when options are shuffled' }).click();
  await expect
    .poll(async () => (await item(1))['options'])
    .toMatchObject([
      { content: 'a fat' },
      { content: 'a grain', credit: 1 },
      { content: 'a stone', credit: -0.25, feedback: 'Stones do not grow.' },
      { content: 'a fish', pinned: true },
    ]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('u');
  await expect.poll(async () => ((await item(1))['options'] as { pinned?: boolean }[])[3]?.pinned).toBeUndefined();
});

test('a question becomes a text with gaps; words become gaps; what a conversion loses is told first', async ({ page }) => {
  const { item } = await open(page, 'Gaps');
  await goTo(page, 3);
  await page.getByLabel('Make it').selectOption('gaps');
  await expect.poll(async () => (await item(3))['kind']).toBe('cloze');
  await page.getByRole('textbox', { name: 'Question', exact: true }).click();
  // select the word "yeast" wherever it stands
  await page.getByRole('textbox', { name: 'Question', exact: true }).evaluate((root) => {
    const walk = document.createTreeWalker(root, NodeFilter.SHOW_TEXT);
    for (let n = walk.nextNode(); n; n = walk.nextNode()) {
      const at = n.nodeValue?.indexOf('yeast') ?? -1;
      if (at < 0) continue;
      const range = document.createRange();
      range.setStart(n, at);
      range.setEnd(n, at + 5);
      getSelection()?.removeAllRanges();
      getSelection()?.addRange(range);
    }
  });
  await page.getByRole('button', { name: 'Make a gap of the marked words' }).click();
  await expect
    .poll(async () => (await item(3))['gaps'])
    .toMatchObject([
      { id: expect.any(String), kind: 'text' },
      { kind: 'text', answers: [{ text: 'yeast', credit: 1 }] },
    ]);
  await page.getByRole('button', { name: /Done/ }).click();
  // a choice as a typed answer: the options that go are named
  await goTo(page, 1);
  await page.getByLabel('Make it').selectOption('short answer');
  await expect(page.getByRole('dialog')).toContainText('This goes: the options B, C.');
  await page.getByRole('button', { name: 'Change the kind' }).click();
  await expect.poll(async () => await item(1)).toMatchObject({ kind: 'short-answer', answers: [{ text: 'a grain', credit: 1 }] });
  await page.keyboard.press('Escape');
});

test('trying an answer says why it does not count, and offers to let it', async ({ page }) => {
  const { item } = await open(page, 'Tried');
  await page.getByRole('button', { name: /^Item 2:/ }).click();
  await page.keyboard.press('t');
  const box = page.getByRole('region', { name: 'Try an answer' });
  await expect(box.getByLabel('Your answer')).toBeFocused();
  await page.keyboard.type('levian');
  await expect(box).toContainText('0 of 1 point');
  await expect(box).toContainText('One letter differs from “levain”.');
  await box.getByRole('button', { name: 'Allow one letter to differ' }).click();
  await expect(box).toContainText('1 of 1 point');
  await expect.poll(async () => (await item(2))['match']).toMatchObject({ spelling: 1 });
  await box.getByLabel('Your answer').fill('mother');
  await box.getByRole('button', { name: 'Accept “mother” as well' }).click();
  await expect(box).toContainText('Accepted as “mother”.');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Item 5:/ }).click();
  await page.keyboard.press('t');
  await box.getByLabel('Your answer').fill('1/4');
  await expect(box).toContainText('“1/4” is read as 0.25. Outside the key.');
  await box.getByLabel('Your answer').fill('255 g');
  await box.getByRole('button', { name: 'Accept 250 ± 5' }).click();
  await expect(box).toContainText('Within the key.');
});

test('steps, hints, parts with passages, and the rules of a typed answer', async ({ page }) => {
  const { id, item } = await open(page, 'All sorts');
  await goTo(page, 4);
  await page.getByRole('textbox', { name: 'Step 3' }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Step 4' })).toBeFocused();
  await page.keyboard.type('cool');
  await expect.poll(async () => (await item(4))['sequence']).toEqual(['mix', 'knead', 'bake', 'cool']);
  await page.getByRole('button', { name: 'Add a hint' }).click();
  await page.getByRole('textbox', { name: 'Hint 1' }).fill('Bread is eaten cold.');
  await expect.poll(async () => (await item(4))['hints']).toEqual(['Bread is eaten cold.']);
  await page.getByText('Part, tags and settings').click();
  await page.getByRole('button', { name: 'Make a new part' }).click();
  await page.getByLabel('Title of the part').fill('The oven');
  await page.getByRole('textbox', { name: 'Passage that its items are about' }).fill('The oven is hot.');
  await page.getByLabel('Tags').fill('order, oven');
  await page.getByLabel('Time limit, seconds').fill('90');
  await expect.poll(async () => (await documentOf(page, id)).set.sections).toMatchObject([{ title: 'The oven', passage: 'The oven is hot.' }]);
  await expect.poll(async () => await item(4)).toMatchObject({ tags: ['order', 'oven'], timeLimit: 90 });
  await page.getByRole('button', { name: /Done/ }).click();
  await expect(page.getByRole('heading', { name: 'The oven' })).toBeVisible();
  await goTo(page, 2);
  await page.getByLabel('Capital letters count').check();
  await page.getByLabel('Letters that may differ').selectOption('2');
  await page.getByRole('button', { name: 'Accept another' }).click();
  await page.keyboard.type('sourdough');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => await item(2))
    .toMatchObject({ answers: [{ text: 'levain' }, { text: 'sourdough' }], match: { caseSensitive: true, spelling: 2 } });
  await goTo(page, 5);
  await page.getByLabel('Tolerance of number 1').fill('2');
  await page.getByLabel('Unit').fill('grams');
  await expect.poll(async () => await item(5)).toMatchObject({ answers: [{ min: 248, max: 252 }], unit: 'grams' });
});
