/** Deliver: what does not fit is seen, made to fit or left out, undone; files are rehearsed; a spreadsheet comes out. */
import { readFileSync } from 'node:fs';
import { expect, test } from './test.js';
import { newId, type QuizSet, writeQtiPackage } from '@zakuska/core';
import { allFormats } from '@zakuska/documents';
import { documentOf, newSet, signIn } from './people.js';

const DRAFT = `1. Which slow fermentation? Select all that apply.
a) cold *
b) salt *
c) sugar
Points: 2

2. Put the steps in order.
Kind: ordering
1. Mix
2. Rest
3. Bake

3. At how many °C does water boil?
Answer: 100 ± 1
`;

test('an item is made so as it is there, another left out, both undone; the file is rehearsed', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
  const id = await newSet(page, 'Fits and misfits', DRAFT);
  await page.getByRole('button', { name: 'Take 3 items to Check' }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.getByRole('link', { name: /^Deliver/ }).click();

  // the cell says it in a word, the panel whole, and what can be done
  const cell = page.getByRole('button', { name: /^Item 1, GIFT:/ });
  await expect(cell).toHaveText('percentages');
  await cell.click();
  const panel = page.getByRole('complementary', { name: 'GIFT' });
  await expect(panel).toContainText('its 2 points stay here and have to be set again there; each key earns its share');
  await panel.getByRole('button', { name: 'Change it in the set too' }).click();
  await expect(page.getByRole('row', { name: /Which slow fermentation/ }).getByText('fits')).not.toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Item 1, GIFT:/ })).toHaveCount(0);
  await expect(async () => expect((await documentOf(page, id)).set.items[0]).toMatchObject({ points: 1, scoring: 'weights' })).toPass();
  // the message that offers it is gone after ten seconds, which a slow machine has taken by now
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Item 1, GIFT:/ })).toHaveText('percentages');

  // a cartridge has no ranges: the item is left out
  await page.getByRole('button', { name: /^Item 3, Cartridge:/ }).click();
  const cartridge = page.getByRole('complementary', { name: 'Cartridge' });
  await expect(cartridge).toContainText('a range of numbers cannot be marked there');
  await cartridge.getByRole('button', { name: 'Leave it out' }).click();
  await expect(page.getByRole('row', { name: /does water boil/ })).toHaveCount(0);
  // by its own message: on a fast machine the one before is still there
  await page.getByRole('listitem').filter({ hasText: 'is left out' }).getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('row', { name: /does water boil/ })).toHaveCount(1);

  // every form of a file: written, rehearsed, saved; what was saved reads back
  const { set } = (await documentOf(page, id)) as { set: QuizSet };
  for (const [column, form, extension] of [
    ['QTI', 'QTI 1.2 package', '.zip'],
    ['Cartridge', 'Common Cartridge 1.1', '.imscc'],
    ['Table', 'XLSX, a row for each item', '.xlsx'],
    ['Paper', 'Web page, questions and key', '.html'],
  ] as const) {
    await page
      .getByRole('columnheader', { name: new RegExp(`^${column}`) })
      .getByRole('button')
      .click();
    await page.getByLabel('Form', { exact: true }).selectOption(form);
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: `Download ${form}` }).click()]);
    expect(file.suggestedFilename()).toContain(extension);
    await expect(page.getByRole('region', { name: 'Rehearsal' })).toContainText('every key marks as it should');
    const back = await allFormats.read(new Uint8Array(readFileSync(await file.path())), file.suggestedFilename());
    expect(back.set.items.length).toBeGreaterThanOrEqual(column === 'Cartridge' ? 2 : set.items.length);
  }

  // the answer sheet as a page is read as a photograph of it would be
  await page.getByLabel('Form', { exact: true }).selectOption('Web page, answer sheet');
  const [sheet] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download Web page, answer sheet' }).click()]);
  expect(sheet.suggestedFilename()).toMatch(/answer-sheet\.html$/);
  await expect(page.getByRole('region', { name: 'Read again' })).toContainText(`${set.items.length} questions`);
  await expect(page.getByRole('region', { name: 'Read again' })).not.toContainText('does not find it');

  // what people read is read again; without keys there is nothing to answer
  await page.getByLabel('Form', { exact: true }).selectOption('DOCX, questions and key');
  const [paper] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download DOCX, questions and key' }).click()]);
  expect(paper.suggestedFilename()).toContain('.docx');
  await expect(page.getByRole('region', { name: 'Read again' })).toContainText(
    `${set.items.length} questions and ${set.items.length} keys stand there as in the set`,
  );
});

test('the pages of a paper are looked at before they are printed: large print takes more, the answer sheet has a place for each item', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'On paper', DRAFT);
  await page.getByRole('button', { name: 'Take 3 items to Check' }).click();
  await page.getByRole('link', { name: /^Deliver/ }).click();
  await page
    .getByRole('columnheader', { name: /^Paper/ })
    .getByRole('button')
    .click();
  await page.getByLabel('Form', { exact: true }).selectOption('pdf-questions');
  await page.getByRole('button', { name: 'Look at the pages' }).click();
  const pages = page.getByRole('dialog', { name: 'The pages as they will be printed' });
  await expect(pages.getByText('It fits one page.')).toBeVisible();
  /** How much of the first page is not white: the pages are drawn, and large print has more ink. */
  const ink = (): Promise<number> =>
    pages.getByRole('img', { name: /^Page 1 of/ }).evaluate((c: HTMLCanvasElement) => {
      const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
      let dark = 0;
      for (let i = 0; i < data.length; i += 4) if ((data[i] ?? 255) < 128) dark++;
      return dark;
    });
  await expect.poll(ink).toBeGreaterThan(1000);
  const usual = await ink();
  await pages.getByLabel('Large print').check();
  await expect.poll(ink).toBeGreaterThan(usual * 1.3);
  await pages.getByLabel('Paper').selectOption('pdf-sheet');
  await expect(pages.getByLabel('Large print')).toHaveCount(0);
  const [file] = await Promise.all([page.waitForEvent('download'), pages.getByRole('button', { name: 'Download it' }).click()]);
  expect(file.suggestedFilename()).toBe('on-paper-answer-sheet.pdf');
});

test('a package of eleven hundred items is packed by several workers, and is the file that one makes', async ({ page }) => {
  await signIn(page);
  const id = await newSet(page, 'Eleven hundred', '');
  const { csrf } = (await (await page.request.get('/api/v1/session')).json()) as { csrf: string };
  const items = Array.from({ length: 1100 }, (_, n) => ({
    id: newId(),
    kind: 'true-false',
    stem: `Loaf ${n} is baked on day ${n % 7}.`,
    points: 1,
    answer: n % 2 === 0,
  }));
  for (const at of [0, 1]) {
    const operation = { type: 'insert', at: at * 550, items: items.slice(at * 550, at * 550 + 550) };
    const r = await page.request.post(`/api/v1/sets/${id}/operations`, {
      headers: { 'x-csrf-token': csrf },
      data: { base: at, operations: [{ id: newId(), operation }] },
    });
    expect(r.status()).toBe(200);
  }
  await page.goto(`/sets/${id}/deliver`);
  await page.getByRole('columnheader', { name: /^QTI/ }).getByRole('button').click();
  await page.getByLabel('Form', { exact: true }).selectOption('QTI 3.0 package');
  let helping = 0;
  page.context().on('request', (r) => {
    if (/helper\.worker/.test(r.url())) helping++;
  });
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download QTI 3.0 package' }).click()]);
  const { set } = (await documentOf(page, id)) as { set: QuizSet };
  expect(set.items).toHaveLength(1100);
  const alone = writeQtiPackage(set, '3.0').bytes;
  expect(Buffer.compare(readFileSync(await file.path()), alone)).toBe(0);
  expect(helping).toBeGreaterThan(0);
  await expect(page.getByRole('region', { name: 'Rehearsal' })).toContainText('every key marks as it should');
});

test('slides in the room: by keyboard, the key in the same place, notes in a window of their own', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'In the room', DRAFT);
  await page.getByRole('button', { name: 'Take 3 items to Check' }).click();
  await page.getByRole('link', { name: /^Deliver/ }).click();
  await page
    .getByRole('columnheader', { name: /^Slides/ })
    .getByRole('button')
    .click();
  await page.getByRole('button', { name: 'Show them here, full screen' }).click();
  const show = page.getByRole('dialog', { name: 'In the room, as slides' });
  await expect(show.getByRole('region', { name: /^Slide 1 of/ })).toContainText('In the room');
  await page.keyboard.press('PageDown');
  const slide = show.getByRole('region', { name: /^Slide/ });
  await expect(slide).toContainText('Which slow fermentation?');
  const places = () => slide.getByRole('listitem').evaluateAll((all) => all.map((el) => JSON.stringify(el.getBoundingClientRect())));
  const before = await places();
  expect(before).toHaveLength(3);
  const [other] = await Promise.all([page.waitForEvent('popup'), page.keyboard.press('w')]);
  await expect(other.getByText('Key: a) cold; b) salt')).toBeVisible();
  // the clicker is heard in either window
  await other.keyboard.press('PageDown');
  await expect(slide.getByRole('img', { name: 'key' })).toHaveCount(2);
  expect(await places()).toEqual(before);
  await other.close();
  await expect(show.getByRole('button', { name: 'Notes in your own window' })).toHaveAttribute('aria-pressed', 'false');
  await page.keyboard.press('3');
  await page.keyboard.press('Enter');
  await expect(slide).toContainText('does water boil');
  await page.keyboard.press('Escape');
  await expect(show).toBeHidden();
});
