/** A set goes to a form service, is filled in there, comes back, grows: real pages on both sides. */
import { readFileSync } from 'node:fs';
import { fitSet, type Item, mark, piecesOf, type QuizSet, rightResponse, serviceOf, wrongResponse } from '@zakuska/core';
import fc from 'fast-check';
import { pointsOf, type Answer, type Entry } from '../apps/standins/src/forms/marking.js';
import { anyGraded } from '../packages/core/src/item/arbitrary.js';
import { entryOf } from '../packages/core/src/services/forms.js';
import { connectService, documentOf, fillForm, newSet, signIn } from './people.js';
import { expect, portsOf, test } from './test.js';

const DRAFT = readFileSync(new URL('./fixtures/twenty.txt', import.meta.url), 'utf8');
const MORE = Array.from({ length: 5 }, (_, n) => `${n + 1}. Is bowl ${n + 1} clean?\na) yes *\nb) no\n`).join('\n');
const service = serviceOf('forms') as NonNullable<ReturnType<typeof serviceOf>>;

test('20 items to a new form, filled in right and wrong, pulled into Results; five more added without touching the first', async ({ page, browser }, info) => {
  await signIn(page);
  const id = await newSet(page, 'Braising quiz', DRAFT);
  await page.getByRole('button', { name: 'Take 20 items to Check' }).click();
  await expect(page.getByRole('article')).toHaveCount(20);
  await page.getByRole('link', { name: /^Deliver/ }).click();
  await connectService(page, 'Online form', 'slipway');

  const { set } = await documentOf(page, id);
  const goes = fitSet(set, service.profile).set.items;
  const count = piecesOf(set, service).pieces.length;
  const items = new Set(piecesOf(set, service).pieces.map((p) => p.item)).size;
  await page.getByLabel('Title of the new form').fill('Braising, Thursday');
  await page.getByText('How it is set').click();
  await page.getByLabel('After sending, a person sees').selectOption('the score and each answer');
  await page.getByRole('button', { name: `Push ${items} items to a new form` }).click();
  await expect(page.getByText(`${count} arrived.`)).toBeVisible();
  await expect(page.getByText(/Rehearsed on what arrived with \d+ responses: every key marks as it should/)).toBeVisible();
  const place = page.getByRole('region', { name: 'Braising, Thursday at Online form' });
  await expect(place.getByRole('img', { name: /QR code/ })).toBeVisible();
  const link = (await place.getByRole('link', { name: 'Open the form' }).getAttribute('href')) ?? '';
  expect(link).toContain(`:${portsOf(info.parallelIndex).forms}/f/`);

  // two people at the service, one of them half right: its scores are ours
  const graded = goes.filter((i) => rightResponse(i));
  const maximum = graded.reduce((s, i) => s + i.points, 0);
  const half = graded.filter((_, n) => n % 2 === 0).reduce((s, i) => s + i.points, 0);
  const asked = goes.filter((i) => i.kind !== 'information');
  const learner = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  expect(await fillForm(learner, link, 'Ada Brandt', asked, () => true)).toBe(`${maximum} of ${maximum} points`);
  const even = (n: number): boolean => graded.indexOf(asked[n] as Item) % 2 === 0;
  expect(await fillForm(learner, link, 'Otto Finch', asked, even)).toBe(`${half} of ${maximum} points`);
  await place.getByRole('button', { name: 'Fetch responses' }).click();
  await expect(place.getByText('2 responses')).toBeVisible();
  await place.getByRole('link', { name: 'Results' }).click();
  await expect(page.getByRole('row', { name: /Ada Brandt/ })).toContainText(String(maximum));
  await expect(page.getByRole('row', { name: /Otto Finch/ })).toContainText(String(half));
  await expect(page.getByText('given other points')).toHaveCount(0);

  // five more from the draft; the form is brought up to date
  await page.getByRole('link', { name: /^Draft/ }).click();
  await page.getByRole('textbox', { name: 'Draft' }).click();
  await page.keyboard.press('Control+End');
  await page.evaluate((t) => navigator.clipboard.writeText(t), `\n\n${MORE}`);
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: /Take \d+ items? to Check/ }).click();
  await page.getByRole('button', { name: 'Add the 5 new ones' }).click();
  await page.getByRole('link', { name: /^Deliver/ }).click();
  await page
    .getByRole('columnheader', { name: /^Online form/ })
    .getByRole('button')
    .click();
  await expect(place.getByText('5 not there')).toBeVisible();
  await expect(page.getByText(`5 new, ${items} as there already`)).toBeVisible();
  await page.getByRole('button', { name: 'Bring Braising, Thursday up to date' }).click();
  await expect(page.getByText(`5 arrived, ${count} as before.`)).toBeVisible();
  await expect(page.getByText('All of it stands there as it is here')).toBeVisible();
  await learner.goto(link);
  await expect(learner.locator('section[data-entry]')).toHaveCount(asked.length + 5);

  // the colleague's copy, without answers
  const copyLink = (await place.getByRole('link', { name: 'Copy for a colleague' }).getAttribute('href')) ?? '';
  await learner.goto(copyLink);
  await learner.getByRole('button', { name: 'Make my copy' }).click();
  await expect(learner.getByRole('heading', { name: 'Braising, Thursday (copy)' })).toBeVisible();
});

test('what a person chooses goes, what was refused at the sign-in is said', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Bowls', MORE);
  await page.getByRole('button', { name: 'Take 5 items to Check' }).click();
  await page.getByRole('link', { name: /^Deliver/ }).click();
  await page
    .getByRole('columnheader', { name: /^Online form/ })
    .getByRole('button')
    .click();
  if (await page.getByRole('button', { name: 'Connect Online form' }).isVisible()) {
    await page.getByRole('button', { name: 'Connect Online form' }).click();
    await page.getByRole('button', { name: 'Do not allow' }).click();
    await expect(page.getByText('Online form was not connected: it was refused there.')).toBeVisible();
    await connectService(page, 'Online form', 'slipway');
  }
  await page.getByLabel('Is bowl 2 clean?').uncheck();
  await expect(page.getByText('4 of 5 items go')).toBeVisible();
  await page.getByRole('button', { name: 'Push 4 items to a new form' }).click();
  await expect(page.getByText('4 arrived.')).toBeVisible();
});

/** An entry with ids, as the service keeps it, and an answer to it that is right or wrong. */
function kept(item: Item, right: boolean): { entry: Entry; answer: Answer | undefined } | null {
  const body = entryOf(item, () => undefined) as Record<string, unknown>;
  const list = (name: string): { id: string; text: string; column?: unknown }[] =>
    ((body[name] ?? []) as (string | { text: string; column?: number })[]).map((o, i) =>
      typeof o === 'string' ? { id: `${name}${i}`, text: o } : { ...o, id: `${name}${i}` },
    );
  const columns = list('columns');
  const entry = {
    ...body,
    id: 'e',
    options: list('options'),
    columns,
    rows: list('rows').map((r) => ({ ...r, column: columns[Number(r.column)]?.id })),
  } as unknown as Entry;
  const r = right ? rightResponse(item) : wrongResponse(item);
  if (!r) return null;
  if ('options' in r && 'options' in item) {
    const ids = r.options.map((o) => `options${item.options.findIndex((x) => x.id === o)}`);
    return { entry, answer: item.kind === 'multiple-choice' ? ids[0] : ids };
  }
  if ('pairs' in r && item.kind === 'matching') {
    const texts = [...new Set([...item.pairs.map((p) => p.right), ...item.extraRights])];
    return { entry, answer: Object.fromEntries(r.pairs.flatMap((p, i) => (p === null ? [] : [[`rows${i}`, `columns${texts.indexOf(p)}`]]))) };
  }
  return 'text' in r ? { entry, answer: r.text } : null;
}

test('the form service, which marks by itself, gives the core’s marks for 600 random items, answered right and wrong', () => {
  fc.assert(
    fc.property(anyGraded, fc.boolean(), (item, right) => {
      const set: QuizSet = { title: 'T', items: [item] };
      for (const { content } of piecesOf(set, service).pieces) {
        const there = kept(content, right);
        if (!there) continue;
        const r = right ? rightResponse(content) : wrongResponse(content);
        expect(pointsOf(there.entry, there.answer)).toBeCloseTo(mark(content, r).points, 3);
      }
    }),
    { numRuns: 600 },
  );
});
