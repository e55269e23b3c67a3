/** Versions: thirty items with duplicates among them, three versions of eight by blueprint, each to GIFT with its own key, drawn again the same. */
import { readFileSync } from 'node:fs';
import { type Drawn, goingSet, type QuizSet } from '@zakuska/core';
import { allFormats } from '@zakuska/documents';
import { connectService, documentOf, newSet, signIn, takeInLms } from './people.js';
import { expect, test } from './test.js';

const TOPICS = ['Yeast', 'Heat', 'Safety'];
/** Twenty-seven questions on three outcomes, and three of them again in other words. */
const question = (n: number, lead = 'Which'): string =>
  `${n + 1}. ${lead} step ${n * 7} of recipe ${n * 13} in book ${n * 3} comes first?\na) knead ${n * 11}${n % 3 === 0 ? ' *' : ''}\nb) rest ${n * 17}${n % 3 === 1 ? ' *' : ''}\nc) bake ${n * 23}${n % 3 === 2 ? ' *' : ''}\nOutcomes: ${TOPICS[n % 3] ?? ''}\n`;
const DRAFT = [
  ...Array.from({ length: 27 }, (_, n) => question(n)),
  ...[2, 9, 16].map((n, k) => question(n, 'Tell which').replace(/^\d+/, String(28 + k))),
].join('\n');

test('three versions of eight by blueprint, without repeats; each to GIFT with its own key; drawn again the same; undone', async ({ page }) => {
  await signIn(page);
  const id = await newSet(page, 'A pool', DRAFT);
  await page.getByRole('button', { name: 'Take 30 items to Check' }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.getByRole('link', { name: /^Arrange/ }).click();
  await page.getByRole('link', { name: /^Versions/ }).click();
  await expect(page.getByText('6 items ask nearly the same as another')).toBeVisible();

  await page.getByLabel('Versions', { exact: true }).fill('3');
  await page.getByLabel('Items in each').fill('8');
  await page.getByLabel('Items in common').selectOption('none');
  await page.getByRole('button', { name: 'A row for each outcome' }).click();
  await page.getByLabel('Row 1: how many').fill('12');
  await expect(page.getByRole('alert')).toContainText('Row 1 asks for 12 items of outcome “Heat”');
  await page.getByLabel('Row 1: how many').fill('3');
  await page.getByLabel('Row 2: how many').fill('3');
  await page.getByLabel('Row 3: how many').fill('2');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.getByLabel('Seed', { exact: true }).fill('7');
  await page.getByRole('button', { name: 'Draw versions' }).click();
  await expect(page.getByText('3 versions drawn.')).toBeVisible();

  // nothing comes twice, in any words
  const drawnIn = async (): Promise<Drawn> => {
    let found: Drawn | undefined;
    await expect(async () => {
      found = ((await documentOf(page, id)) as { drawn?: Drawn }).drawn;
      expect(found).toBeDefined();
    }).toPass();
    return found as Drawn;
  };
  const drawn = await drawnIn();
  const { set } = (await documentOf(page, id)) as { set: QuizSet };
  const recipe = (itemId: string): string | undefined => /recipe (\d+)/.exec(set.items.find((i) => i.id === itemId)?.stem ?? '')?.[1];
  const recipes = drawn.versions.flatMap((v) => v.items.map(recipe));
  expect(recipes.length).toBe(24);
  expect(new Set(recipes).size).toBe(24);
  for (const row of ['3 items of outcome “Heat”', '3 items of outcome “Safety”', '2 items of outcome “Yeast”'])
    await expect(page.getByRole('row', { name: row }).getByRole('cell')).toHaveText(Array.from({ length: 3 }, () => row.slice(0, 1)));

  // each version goes out with its own key
  for (const { name, items } of drawn.versions) {
    await page.getByRole('link', { name: `Deliver ${name}` }).click();
    await expect(page.getByLabel('What goes out')).toHaveValue(name);
    await page.getByRole('button', { name: /^GIFT/ }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Download GIFT' }).click();
    const file = await download;
    const written = await allFormats.read(new Uint8Array(readFileSync(await file.path())), file.suggestedFilename());
    expect(file.suggestedFilename()).toContain(`version-${name.toLowerCase()}`);
    expect(written.set.items.map((i) => /recipe (\d+)/.exec(i.stem)?.[1])).toEqual(items.map(recipe));
    for (const item of written.set.items) {
      const before = set.items.find((i) => i.stem === item.stem);
      const key = (i: typeof before): (string | undefined)[] => (i && 'options' in i ? i.options.filter((o) => o.credit > 0).map((o) => o.content) : []);
      expect(key(item)).toEqual(key(before));
    }
    await page.goBack();
    await expect(page.getByRole('link', { name: `Deliver ${name}` })).toBeVisible();
  }

  // the same seed draws the same; another shows what would change, and changes nothing until it is taken
  await page.getByRole('button', { name: 'Draw again' }).click();
  await expect(page.getByText('Drawn again, the versions are the same.')).toBeVisible();
  await page.getByLabel('Seed', { exact: true }).fill('8');
  await page.getByRole('button', { name: 'Draw again' }).click();
  await expect(page.getByText(/^A: \d+ come in, \d+ go out$/)).toBeVisible();
  expect((await drawnIn()).versions).toEqual(drawn.versions);
  await page.getByRole('button', { name: 'Keep the old ones' }).click();

  // one item exchanged by hand, with what breaks a rule said so
  await page.getByRole('button', { name: 'Item 1 of version A: exchange' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('goes out. What comes in?')).toBeVisible();
  await dialog.getByText(/that break a rule/).click();
  await expect(dialog.getByText(/stands in version/).first()).toBeVisible();
  await dialog.locator('ul button').first().click();
  await expect(async () => expect((await drawnIn()).versions[0]?.items[0]).not.toBe(drawn.versions[0]?.items[0])).toPass();
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(async () => expect((await drawnIn()).versions).toEqual(drawn.versions)).toPass();
});

test('a version is published by itself, or one of all for each learner; an item that is gone is told', async ({ page, browser }) => {
  await signIn(page);
  const id = await newSet(page, 'Two versions', Array.from({ length: 6 }, (_, n) => question(n)).join('\n'));
  await page.getByRole('button', { name: 'Take 6 items to Check' }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.goto(`/sets/${id}/arrange/versions`);
  await page.getByRole('button', { name: 'Draw versions' }).click();
  await expect(page.getByText('2 versions drawn.')).toBeVisible();
  await page.getByRole('link', { name: 'Deliver B' }).click();
  await page.getByRole('button', { name: 'Publish 3 items' }).click();
  await expect(page.getByText(/version B ·/)).toBeVisible();
  const { drawn } = (await documentOf(page, id)) as unknown as { drawn: Drawn };

  // both by one code: each learner gets one, and the next gets the other
  await page.goto(`/sets/${id}/deliver`);
  await page.getByLabel('Each learner gets one of the versions A, B').check();
  await page.getByRole('button', { name: 'Publish 2 versions' }).click();
  const card = page.locator('section', { has: page.getByRole('list', { name: 'Versions' }) }).last();
  const code = await card.locator('[data-code]').innerText();
  const stems: string[] = [];
  for (const name of ['Ada', 'Béla']) {
    const learner = await (await browser.newContext()).newPage();
    await learner.goto(`/t/${code}`);
    await learner.getByLabel('Your name').fill(name);
    await learner.getByRole('button', { name: 'Begin' }).click();
    stems.push(await learner.locator('.stem').first().innerText());
    await learner.context().close();
  }
  const opens = drawn.versions.map(({ items: [first] }) => first);
  const asked = ((await documentOf(page, id)) as { set: QuizSet }).set.items.filter((i) => opens.includes(i.id)).map((i) => i.stem);
  expect(stems.sort()).toEqual(asked.sort());

  // taken out of the set, an item is missed by its version
  await page.goto(`/sets/${id}/arrange`);
  const { set } = (await documentOf(page, id)) as { set: QuizSet };
  const at = set.items.findIndex((i) => i.id === drawn.versions[1]?.items[0]);
  await page.getByRole('button', { name: `Take out: item ${at + 1}` }).click();
  await page.getByRole('link', { name: /^Versions/ }).click();
  await expect(page.getByText('Version B held 1 item that is no longer in the set.')).toBeVisible();
});

test('two versions to two groups of a course at once; a learner of the right group takes theirs, one of the other is turned away', async ({
  page,
  browser,
}) => {
  await signIn(page);
  const id = await newSet(page, 'For two groups', Array.from({ length: 6 }, (_, n) => question(n)).join('\n'));
  await page.getByRole('button', { name: 'Take 6 items to Check' }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.goto(`/sets/${id}/arrange/versions`);
  await page.getByLabel('Items in common').selectOption('none');
  await page.getByRole('button', { name: 'Draw versions' }).click();
  await expect(page.getByText('2 versions drawn.')).toBeVisible();
  await page
    .getByRole('link', { name: /^Deliver/ })
    .first()
    .click();
  await connectService(page, 'Course LMS', 'harbour');
  const panel = page.getByRole('region', { name: 'All versions' });
  await panel.getByLabel('Version A: for').selectOption('Morning group');
  await panel.getByLabel('Version B: for').selectOption('Evening group');
  await panel.getByRole('button', { name: 'Push A, B' }).click();
  await expect(page.getByText('3 arrived.')).toHaveCount(2);
  await expect(page.getByText(/every key marks as it should/)).toHaveCount(2);
  const links = await page.getByRole('link', { name: 'Open the quiz' }).evaluateAll((all) => all.map((a) => (a as HTMLAnchorElement).href));
  const learner = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  const document = (await documentOf(page, id)) as { set: QuizSet; drawn?: Drawn };
  for (const link of new Set(links)) {
    await learner.goto(link);
    const group = await learner.getByText(/^For the \w+ group\.$/).innerText();
    const [name, other, version] = group.includes('Morning') ? (['Ada Brandt', 'Mira Castel', 'A'] as const) : (['Mira Castel', 'Ada Brandt', 'B'] as const);
    const set = goingSet(document as never, version) as QuizSet;
    expect(await takeInLms(learner, link, name, set.items, true)).toContain('(100 %)');
    await learner.goto(link);
    await learner.getByLabel('Your name').fill(other);
    await learner.getByRole('button', { name: 'Hand in' }).click();
    await expect(learner.getByText(`${other} is not in it.`)).toBeVisible();
  }
});
