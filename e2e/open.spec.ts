/** Files are opened: dropped on the page, their keys asked for once, their columns agreed on, their pages marked. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, type Page, test } from './test.js';
import { richToPlain } from '@zakuska/core';
import { documentOf, newSet, signIn } from './people.js';

const corpus = path.join(import.meta.dirname, '../packages/documents/corpus');
const qti = path.join(import.meta.dirname, '../packages/core/corpus/files');

/** Drops files on the page as a person does. */
async function drop(page: Page, files: readonly { name: string; bytes: Buffer }[]): Promise<void> {
  const data = await page.evaluateHandle(
    (list) => {
      const t = new DataTransfer();
      for (const f of list) t.items.add(new File([Uint8Array.from(atob(f.data), (c) => c.charCodeAt(0))], f.name));
      return t;
    },
    files.map((f) => ({ name: f.name, data: f.bytes.toString('base64') })),
  );
  await page.dispatchEvent('body', 'dragenter', { dataTransfer: data });
  await expect(page.getByText('Let go to open the files')).toBeVisible();
  await page.dispatchEvent('body', 'drop', { dataTransfer: data });
}
const file = (...at: string[]): { name: string; bytes: Buffer } => ({ name: at[at.length - 1] ?? '', bytes: readFileSync(path.join(...at)) });

test('a DOCX with bold keys is dropped, the one question answered, and all keys are there', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
  const id = await newSet(page, 'From a word processor', '');
  await drop(page, [file(corpus, 'twenty', 'twenty.docx')]);
  await expect(page.getByText('20 questions read')).toBeVisible();
  // the lines that say an answer in words have their keys; bold is not believed unasked
  await expect(page.getByText('6 with a key')).toBeVisible();
  await expect(page.getByLabel('Where the keys are')).toContainText('Are the bold options the keys? 12 of 14 questions have exactly one, 2 have several.');
  await page.getByRole('button', { name: 'Yes, bold marks the keys' }).click();
  await expect(page.getByText('20 with a key')).toBeVisible();
  // the answer stays over a reload
  await expect(page.getByText('saved')).toBeVisible();
  await page.reload();
  await expect(page.getByText('20 with a key')).toBeVisible();
  await page.getByRole('button', { name: 'Take 20 items to Check' }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  const twenty = JSON.parse(readFileSync(path.join(corpus, 'twenty.json'), 'utf8')) as { stem: string; key?: number[] }[];
  const { set } = await documentOf(page, id);
  expect(
    set.items.map((i) => [richToPlain(i.stem).replace('’', "'"), 'options' in i ? i.options.flatMap((o, n) => (o.credit > 0 ? [n] : [])) : undefined]),
  ).toEqual(twenty.map((q) => [q.stem, q.key]));
});

test('a foreign CSV is mapped: a wrong column is put right, the mapping kept and known again', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
  const id = await newSet(page, 'From a sheet', '');
  const table = [
    'Ref;Sisältö;Vaihtoehto;Vaihtoehto;Vaihtoehto;Oikea;Owner',
    'k1;What feeds a starter?;salt;flour;butter;2;MK',
    'k2;Which is a pulse?;lentil;rice;;1;JT',
    'k3;Which loaf is flat?;bun;roll;pita;9;JT',
  ].join('\n');
  const sheet = { name: 'kysymykset.csv', bytes: Buffer.from(table) };
  await drop(page, [sheet]);
  const dialog = page.getByRole('dialog', { name: 'The columns of kysymykset.csv' });
  await expect(dialog).toBeVisible();
  // nothing known in these headings: the person says what the columns are
  await dialog.getByLabel('Headings in row').selectOption('0');
  await dialog.getByLabel('Column A is').selectOption('not used');
  await dialog.getByLabel('Column B is').selectOption('question');
  for (const c of ['C', 'D', 'E']) await dialog.getByLabel(`Column ${c} is`).selectOption('option');
  await dialog.getByLabel('Column F is').selectOption('key');
  await dialog.getByLabel('Column G is').selectOption('not used');
  await dialog.getByLabel('The key names options').selectOption('by number (1, 2)');
  await expect(dialog.getByRole('status')).toContainText('3 items');
  await dialog.getByText('1 to look at').click();
  await expect(dialog.getByText('Row 4: the key “9” is none of its 3 options.')).toBeVisible();
  await dialog.getByLabel('Name for this mapping').fill('The Finnish sheet');
  await dialog.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('Kept as “The Finnish sheet”')).toBeVisible();
  await dialog.getByRole('button', { name: /These columns are right: 3 items/ }).click();
  await page.getByRole('button', { name: 'Take what was read' }).click();
  await expect(page.getByRole('article').first()).toContainText('What feeds a starter?');
  const { set } = await documentOf(page, id);
  expect(set.items.map((i) => ('options' in i ? i.options.map((o) => `${o.content}${o.credit > 0 ? '*' : ''}`).join() : ''))).toEqual([
    'salt,flour*,butter',
    'lentil*,rice',
    'bun,roll,pita',
  ]);
  // one step takes them out again
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await documentOf(page, id)).set.items.length).toBe(0);
  await drop(page, [sheet]);
  await expect(page.getByText('recognised: “The Finnish sheet”')).toBeVisible();
  await expect(page.getByRole('button', { name: /3 items/ })).toBeEnabled();
});

test('a region of a PDF page becomes draft text, another a picture with its words', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
  const id = await newSet(page, 'From a worksheet', '');
  await drop(page, [file(corpus, 'given', 'doc-29-map-scan-picture-only.pdf')]);
  await expect(page.getByText('Page 1: a picture without text')).toBeVisible();
  const frame = page.locator('[data-page="1"]');
  const mark = async (from: [number, number], to: [number, number]): Promise<void> => {
    const b = await frame.boundingBox();
    if (!b) throw new Error('no page');
    await page.mouse.move(b.x + b.width * from[0], b.y + b.height * from[1]);
    await page.mouse.down();
    await page.mouse.move(b.x + b.width * to[0], b.y + b.height * to[1], { steps: 6 });
    await page.mouse.up();
  };
  await mark([0.08, 0.14], [0.6, 0.27]);
  await expect(page.getByRole('button', { name: 'No text here' })).toBeDisabled();
  await page.getByRole('button', { name: 'Take it as a picture' }).click();
  await page.getByLabel('What does it show?').fill('A question about contour lines, with options a to c');
  await page.getByRole('button', { name: 'Take the picture' }).click();
  await expect(page.getByText('1 question read')).toBeVisible();
  await expect(page.getByRole('img', { name: 'A question about contour lines' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Draft' }).press('Control+End');
  await page.keyboard.type('a) a\nb) b\nc) c\nAnswer: a\n');
  await expect(page.getByText('1 with a key')).toBeVisible();

  // the picture's words and width can be changed in the item; its data stay out of sight
  await page.getByRole('button', { name: 'Take 1 item to Check' }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.keyboard.press('e');
  await page.getByRole('textbox', { name: 'Question', exact: true }).locator('img[src]').click();
  await page.getByLabel('Width').focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText('500 px')).toBeVisible();
  await expect
    .poll(async () => (await documentOf(page, id)).set.items[0]?.stem)
    .toContain('alt="A question about contour lines, with options a to c" width="500"/>');
  await page.goto(`/sets/${id}/draft`);
  await expect(page.getByText('1 question read')).toBeVisible();

  await drop(page, [file(corpus, 'habits', 'two-columns.pdf')]);
  await expect(page.getByText('7 questions read')).toBeVisible();
  await expect(page.getByRole('combobox', { name: 'Source' })).toContainText('two-columns.pdf');
  await expect(page.locator('[data-page="1"] canvas')).toBeVisible();
  await page.getByRole('button', { name: 'Mark the whole page' }).first().click();
  await page.getByRole('button', { name: 'Put its text into the draft' }).click();
  await expect(page.getByText('13 questions read')).toBeVisible();
});

test('a package comes with a report, item by item, and straight to items', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
  const id = await newSet(page, 'From a package', '');
  await drop(page, [file(qti, 'qti-32-v30-hottext-hotspot.zip')]);
  const dialog = page.getByRole('dialog', { name: /^Open qti-32/ });
  await expect(dialog).toContainText('2 items are of a sort that is not held here and left out');
  await dialog.getByText('Item by item').click();
  await dialog.getByRole('button', { name: /^Take \d+ items?$/ }).click();
  await expect(page.getByRole('article').first()).toBeVisible();
  expect((await documentOf(page, id)).set.items.length).toBeGreaterThan(0);
});

test('many files at once become sets; one that is broken does not stop the others, and one too large is refused with its size', async ({ page }) => {
  await signIn(page);
  await drop(page, [
    file(corpus, 'habits', 'bold-auto.docx'),
    { name: 'broken.docx', bytes: file(corpus, 'habits', 'bold-auto.docx').bytes.subarray(0, 3000) },
    { name: 'huge.txt', bytes: Buffer.alloc(10_600_000, 'a') },
    file(corpus, 'given', 'table-01-ladder-letters.csv'),
    file(qti, 'qti-17-v21-test-weights.zip'),
  ]);
  const dialog = page.getByRole('dialog', { name: 'Open 5 files' });
  await expect(dialog.getByText('This archive is broken or cut off')).toBeVisible();
  await expect(dialog.getByText('This file has 10.6 MB; files of up to 10.5 MB are opened.')).toBeVisible();
  await expect(dialog.getByText('1 table waits for you to look at the columns.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Look at the columns' }).click();
  await page.getByRole('button', { name: 'Agreed: 8 items' }).click();
  await page.getByRole('dialog', { name: 'Open 5 files' }).getByRole('button', { name: 'Take what was read' }).click();
  const report = page.getByRole('dialog', { name: 'Open 5 files' });
  await expect(report.getByRole('link')).toHaveCount(3);
  await expect(report.getByText('8 items taken')).toBeVisible();
  await report.getByRole('link', { name: 'Open “table-01-ladder-letters”' }).click();
  await expect(page.getByRole('link', { name: /^Check/ })).toContainText('0 of 8 checked');
});

test('a transcript is kept as a source with its times beside the draft; a private address is not fetched', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
  await newSet(page, 'With a source', '1. What feeds a starter?\na) flour *\nb) salt\n');
  await page.getByRole('button', { name: 'Sources' }).click();
  await page
    .getByLabel('Source files')
    .setInputFiles({ name: 'talk.vtt', mimeType: 'text/vtt', buffer: Buffer.from('WEBVTT\n\n01:05.000 --> 01:09.000\nA starter feeds on flour and water.\n') });
  await expect(page.getByRole('region', { name: 'Text of talk.vtt' })).toContainText('1:05');
  await expect(page.getByRole('region', { name: 'Text of talk.vtt' })).toContainText('A starter feeds on flour and water.');
  await page.getByRole('button', { name: 'Add an address' }).click();
  await page.getByLabel('Address').fill('http://127.0.0.1/secret');
  await page.getByRole('button', { name: 'Fetch the page' }).click();
  await expect(page.getByText('lies inside a private network')).toBeVisible();
});
