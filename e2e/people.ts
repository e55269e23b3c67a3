/** What people do in the tests: a teacher signs in, a learner answers here or in the LMS. */
import { type Browser, expect, type Page } from '@playwright/test';
import { type Item, letterOf, richToPlain, type Response, rightResponse, type SetDocument, wrongResponse } from '@zakuska/core';

/** Signed in, on the list of sets. By the form only where the form is meant: drawn for each test it took a minute of all. */
export async function signIn(page: Page): Promise<void> {
  const demo: unknown = await (await page.request.get('/api/v1/session/demo')).json();
  expect((await page.request.post('/api/v1/session', { data: demo })).ok()).toBe(true);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Sets' })).toBeVisible();
}

/** Routes that were just set: the page heeds them a moment later, and on a busy machine a request went past them. */
export async function routesHold(page: Page): Promise<void> {
  await page.route('**/held-back', (r) => r.abort());
  const tried = (): Promise<string> =>
    page.evaluate(() =>
      fetch('/held-back').then(
        () => 'went past',
        () => 'held back',
      ),
    );
  await expect.poll(tried).toBe('held back');
}

/** L. Brandt of the demo, an editor, in a browser of her own. */
export async function colleague(browser: Browser): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await page.goto('/');
  await page.getByLabel('Address').fill('l.brandt@saltmarsh.example');
  await page.getByLabel('Password').fill('rye and salt');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Sets' })).toBeVisible();
  return page;
}

/** Starts a set, puts a draft in and takes its items. Leaves the page on Check. */
export async function newSet(page: Page, title: string, draft: string): Promise<string> {
  if (new URL(page.url()).pathname !== '/') await page.goto('/');
  await page.getByRole('button', { name: 'New set' }).click();
  await page.getByLabel('Title').fill(title);
  await page.getByRole('button', { name: 'Start the set' }).click();
  await expect(page.getByRole('textbox', { name: 'Draft' })).toBeVisible();
  await paste(page, draft);
  return /sets\/([^/]+)/.exec(page.url())?.[1] ?? '';
}

export async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((t) => navigator.clipboard.writeText(t), text);
  await page.getByRole('textbox', { name: 'Draft' }).click();
  await page.keyboard.press('Control+v');
  // the clipboard is read beside the keys: who leaves the page before it was, has pasted nothing
  if (text.trim()) await expect(page.getByRole('textbox', { name: 'Draft' })).not.toHaveText('');
}

/** The set as the server has it, once the page that has it open has sent what was done there. */
export async function documentOf(page: Page, set: string): Promise<SetDocument> {
  if (page.url().includes(`/sets/${set}`))
    await page
      .getByRole('status')
      .filter({ hasText: /^\s*saved/ })
      .waitFor()
      // a page that cannot save is asked as it is
      .catch(() => undefined);
  const r = await page.request.get(`/api/v1/sets/${set}`);
  return ((await r.json()) as { document: SetDocument }).document;
}

export const answerTo = (item: Item, right: boolean): Response | null => (right ? rightResponse(item) : wrongResponse(item));

/** Fills in one item on a learner's page of the own delivery. */
async function fillOwn(page: Page, item: Item, r: Response): Promise<void> {
  if ('options' in r && 'options' in item)
    for (const o of item.options.filter((x) => r.options.includes(x.id))) await page.getByLabel(richToPlain(o.content), { exact: true }).check();
  else if ('truth' in r) await page.getByLabel(r.truth ? 'True' : 'False', { exact: true }).check();
  else if ('text' in r) await page.getByLabel('Your answer').fill(r.text);
  else if ('gaps' in r) for (const [i, text] of Object.values(r.gaps).entries()) await page.getByLabel(`Gap ${i + 1}`).fill(text);
  else if ('pairs' in r && item.kind === 'matching')
    for (const [i, right] of r.pairs.entries()) await page.getByLabel(item.pairs[i]?.left ?? '').selectOption(right ?? '');
  else if ('order' in r) {
    for (const [to, piece] of r.order.entries()) {
      for (let tries = 0; tries < 20; tries++) {
        const now = await page.locator('.order li').allInnerTexts();
        const at = now.findIndex((t) => t.trim() === piece);
        if (at <= to) break;
        await page.getByRole('button', { name: `Move up: ${piece}`, exact: true }).click();
      }
    }
    // an order that stood so from the start is an answer once the learner says so
    const asItIs = page.getByRole('button', { name: 'It is right as it stands' });
    if (await asItIs.isVisible()) await asItIs.click();
  }
}

/** A learner takes the quiz by its code and hands in; gives what the result page says. */
export async function takeOwn(page: Page, code: string, name: string, items: readonly Item[], right: boolean): Promise<string> {
  await page.goto(`/t/${code}`);
  await page.getByLabel('Your name').fill(name);
  await page.getByRole('button', { name: 'Begin' }).click();
  for (const item of items) {
    await expect(page.locator('.stem')).toContainText(richToPlain(item.stem).split('[[')[0]?.trim() ?? '');
    const r = answerTo(item, right);
    if (r) await fillOwn(page, item, r);
    else if (item.kind === 'essay') await page.getByLabel('Your answer').fill('Steam escapes and the air shrinks.');
    await page.getByRole('button', { name: 'Next' }).click();
  }
  await expect(page.getByText('Every question has an answer.')).toBeVisible();
  await page.getByRole('button', { name: 'Hand in' }).click();
  await expect(page.getByRole('heading', { name: 'Handed in' })).toBeVisible();
  return page.locator('.score').innerText();
}

/** A learner takes the quiz in the simulated LMS; gives what its result page says. */
export async function takeInLms(page: Page, link: string, name: string, items: readonly Item[], right: boolean): Promise<string> {
  await page.goto(link);
  await page.getByLabel('Your name').fill(name);
  for (const [n, item] of items.entries()) {
    const field = (suffix: string) => page.locator(`[name="q${n}.${suffix}"]`);
    const r = answerTo(item, right);
    if (!r) continue;
    if ('options' in r && 'options' in item)
      for (const [i, o] of item.options.entries()) if (r.options.includes(o.id)) await page.locator(`[name="q${n}.RESPONSE"][value="${letterOf(i)}"]`).check();
    if ('truth' in r) await page.locator(`[name="q${n}.RESPONSE"][value="${String(r.truth)}"]`).check();
    if ('text' in r) await field('RESPONSE').fill(r.text);
    if ('gaps' in r) for (const [i, text] of Object.values(r.gaps).entries()) await field(`RESPONSE_${i + 1}`).fill(text);
    if ('pairs' in r) for (const [i, text] of r.pairs.entries()) if (text) await field(`RESPONSE|L${i + 1}`).selectOption({ label: text });
    if ('order' in r && item.kind === 'ordering')
      for (const [place, text] of r.order.entries()) await field(`RESPONSE#S${item.sequence.indexOf(text) + 1}`).selectOption(String(place + 1));
  }
  await page.getByRole('button', { name: 'Hand in' }).click();
  return page.locator('.total').innerText();
}

/** Fills in a form of the simulated form service, item by item in its order; gives what the page says then. */
export async function fillForm(page: Page, link: string, name: string, items: readonly Item[], right: (n: number) => boolean): Promise<string> {
  await page.goto(link);
  await page.getByLabel('Your name').fill(name);
  const entries = page.locator('section[data-entry]');
  for (const [n, item] of items.entries()) {
    const entry = entries.nth(n);
    const r = answerTo(item, right(n));
    if (!r) continue;
    if ('options' in r && 'options' in item)
      for (const o of item.options.filter((x) => r.options.includes(x.id))) await entry.getByLabel(richToPlain(o.content), { exact: true }).check();
    if ('text' in r) await entry.getByRole('textbox').fill(r.text);
    if ('pairs' in r && item.kind === 'matching')
      for (const [i, text] of r.pairs.entries())
        if (text) await entry.getByLabel(`${richToPlain(item.pairs[i]?.left ?? '')}: ${richToPlain(text)}`, { exact: true }).check();
  }
  await page.getByRole('button', { name: 'Send' }).click();
  return page.locator('.score').innerText();
}

/** Connects a service under the demo account that its page names, unless an earlier test has. */
export async function connectService(page: Page, name: string, password: string): Promise<void> {
  await page
    .getByRole('columnheader', { name: new RegExp(`^${name}`) })
    .getByRole('button')
    .click();
  const connect = page.getByRole('button', { name: `Connect ${name}` });
  const connected = page.getByText(/^Connected as M. Okafor/);
  await expect(connect.or(connected)).toBeVisible();
  if (await connected.isVisible()) return;
  await connect.click();
  await page.getByLabel('User name').fill('m.okafor');
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in and allow' }).click();
  await expect(connected).toBeVisible();
}

/** What the page put into the clipboard. */
export const copied = (page: Page): Promise<string> => page.evaluate(() => navigator.clipboard.readText());
