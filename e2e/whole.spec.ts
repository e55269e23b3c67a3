/** The whole job through the real interface: from a pasted draft to quizzes that mark themselves, here and in the LMS. */
import { readFileSync } from 'node:fs';
import { expect, test } from './test.js';
import { unzipSync } from 'fflate';
// The independent GIFT grammar of npm gift-pegjs.
import gift from 'gift-pegjs';
import { connectService, documentOf, newSet, takeInLms, takeOwn } from './people.js';

const DRAFT = readFileSync(new URL('./fixtures/twenty.txt', import.meta.url), 'utf8');

test('from pasted text to a quiz that marks itself', async ({ page, browser }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Sign in with the demo account' }).click();
  await expect(page.getByRole('heading', { name: 'Sets' })).toBeVisible();
  const set = await newSet(page, 'Thursday quiz', DRAFT);

  // The margin says what every line is; an override changes it and can be taken back.
  await expect(page.getByText('20 questions read')).toBeVisible();
  await expect(page.getByText('20 with a key')).toBeVisible();
  const margin = page.locator('.cm-roles');
  await expect(margin.getByText('aside', { exact: true }).first()).toBeVisible();
  await expect(margin.getByText('A ✓', { exact: true }).first()).toBeVisible();
  await margin.getByText('C', { exact: true }).first().click(); // "c) sirloin"
  await page.getByRole('menuitemradio', { name: 'Set aside' }).click();
  await expect(page.getByText(/3 lines set aside|4 lines set aside|5 lines set aside/)).toBeVisible();
  await margin.locator('.role-said').click();
  await page.getByRole('menuitem', { name: 'Let the reader decide' }).click();
  await expect(margin.locator('.role-said')).toHaveCount(0);

  await page.getByRole('button', { name: 'Take 20 items to Check' }).click();
  await expect(page.getByRole('article')).toHaveCount(20);

  // Keys and edits by keyboard
  await page.keyboard.press('2');
  const first = page.getByRole('article').first();
  await expect(page.getByRole('button', { name: 'Item 1: key B, not checked' })).toBeVisible();
  await page.keyboard.press('u');
  await expect(page.getByRole('button', { name: 'Item 1: key A, not checked' })).toBeVisible();
  await page.keyboard.press('e');
  await first.getByRole('textbox', { name: 'Question', exact: true }).fill('Which cut is best for a long, slow braise?');
  await first.getByRole('textbox', { name: 'Feedback when wrong' }).fill('Think of the muscle that works most.');
  await page.keyboard.press('Escape');
  await expect(first).toContainText('Which cut is best for a long, slow braise?');
  for (let i = 0; i < 20; i++) await page.keyboard.press('c');
  await expect(page.getByText('20 checked · 0 not yet')).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: 'saved' })).toBeVisible();
  await page.reload();
  await expect(page.getByText('20 checked · 0 not yet')).toBeVisible();
  await expect(page.getByRole('article').first()).toContainText('Which cut is best for a long, slow braise?');
  const { items } = (await documentOf(page, set)).set;

  // Files
  await page.getByRole('link', { name: /^Deliver/ }).click();
  const download = async (column: RegExp, button: RegExp): Promise<Buffer> => {
    await page.getByRole('columnheader', { name: column }).getByRole('button').click();
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button }).click()]);
    return readFileSync(await file.path());
  };
  const giftFile = (await download(/^GIFT/, /Download GIFT/)).toString('utf8');
  // 20 items, of which the one with two gaps becomes two questions; the grammar reads every one of them.
  expect(gift.parse(giftFile)).toHaveLength(21);
  await expect(page.getByText(/Rehearsed on the file with \d+ responses: every key marks as it should/)).toBeVisible();
  await page.getByRole('columnheader', { name: /^QTI/ }).getByRole('button').click();
  for (const version of ['2.1', '3.0']) {
    await page.getByLabel('Form', { exact: true }).selectOption(`QTI ${version} package`);
    const files = unzipSync(await download(/^QTI/, new RegExp(`Download QTI ${version}`)));
    await expect(page.getByText(`-qti${version.replace('.', '')}.zip`, { exact: false }).first()).toBeVisible();
    await expect(page.getByRole('region', { name: 'Rehearsal' })).toContainText('100 %');
    expect(Object.keys(files).filter((f) => f.startsWith('items/'))).toHaveLength(20);
    expect(files['imsmanifest.xml']).toBeDefined();
  }

  // The LMS: connect once, push, take it there
  await connectService(page, 'Course LMS', 'harbour');
  await expect(page.getByText('Connected as M. Okafor, Harbour LMS.')).toBeVisible();
  await page.getByRole('button', { name: 'Push 20 items to a new quiz in Bread and Dough' }).click();
  await expect(page.getByText('20 arrived.')).toBeVisible();
  // what arrived was read back and answered
  await expect(page.getByText(/Rehearsed on what arrived with \d+ responses: every key marks as it should/)).toBeVisible();
  const link = (await page.getByRole('link', { name: 'Open the quiz' }).getAttribute('href')) ?? '';
  const learner = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  expect(await takeInLms(learner, link, 'Ada', items, true)).toContain('(100 %)');
  expect(await takeInLms(learner, link, 'Otto', items, false)).toContain('(0 %)');

  // The own delivery
  await page
    .getByRole('columnheader', { name: /^Own quiz/ })
    .getByRole('button')
    .click();
  await page.getByRole('button', { name: 'Publish 20 items' }).click();
  const code = await page.locator('[data-code]').innerText();
  await expect(page.getByRole('img', { name: /QR code/ })).toBeVisible();
  const seen: string[] = [];
  learner.on(
    'response',
    (r) =>
      void (
        r.url().includes('/api/') &&
        r.text().then(
          (t) => seen.push(t),
          () => undefined,
        )
      ),
  );
  expect(await takeOwn(learner, code, 'Ada Brandt', items, true)).toContain('(100 %)');
  // No key may have reached the learner's browser before handing in: neither credits nor feedback.
  const before = seen.filter((t) => !t.includes('"shows":"score","points"')).join('\n');
  expect(before).not.toMatch(/credit|"answer|"sequence|Think of the muscle|plant residue/);
  const other = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  expect(await takeOwn(other, code, 'Otto Finch', items, false)).toContain('(0 %)');

  await page
    .getByRole('link', { name: /^Results/ })
    .first()
    .click();
  await expect(page.getByRole('row', { name: /Ada Brandt/ })).toContainText('22');
  await expect(page.getByRole('row', { name: /Otto Finch/ })).toContainText('0');
  // to the gradebook of the course, with the teacher's agreement
  await page.getByRole('button', { name: 'Send scores' }).click();
  const dialog = page.getByRole('dialog', { name: 'Send scores to a gradebook' });
  await expect(dialog.getByLabel('Ada Brandt in the gradebook')).toHaveValue(/./);
  const book = (await dialog.getByRole('link', { name: 'Open the gradebook' }).getAttribute('href')) ?? '';
  await dialog.getByRole('button', { name: 'Send 2 scores' }).click();
  await expect(page.getByText('2 scores stand in Bread and Dough now.')).toBeVisible();
  await learner.goto(book);
  await expect(learner.getByRole('row', { name: /Ada Brandt/ })).toContainText('22');

  await page.getByRole('button', { name: /^Item 2:/ }).click();
  await expect(page.getByRole('complementary', { name: 'Item 2' })).toContainText('50 %');
});
