/** The assistant over HTTP: asked with one press, streamed and read as it comes, stopped, refused where the allowance ends, all of it in the log. */
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from './test.js';
import { newSet, signIn } from './people.js';

/** The stand-in of the worker's server. */
const standin = (page: Page): string => {
  const { port } = new URL(page.url());
  return `http://127.0.0.1:${Number(port) + 95}`;
};
const control = (page: Page, data: object) => page.request.put(`${standin(page)}/control`, { data });
const assistant = (page: Page) => page.getByRole('status', { name: 'The assistant' });
const PLAIN = { plain: true, wrongKeys: 0, oneSided: false, duplicate: false, lostNumber: false };

const wish = async (page: Page, title: string): Promise<string> => {
  await signIn(page);
  const id = await newSet(page, title, '');
  await page.goto(`/sets/${id}/draft/request`);
  await page.getByLabel('The topic').fill('Salt in bread');
  return id;
};
/** Opens how the assistant is set up, changes it, and goes back. */
const setUp = async (page: Page, change: () => Promise<void>): Promise<void> => {
  const back = page.url();
  await page.goto('/assistant');
  await page.getByText('Which assistant, and who may ask how much').click();
  await change();
  await page.getByRole('button', { name: 'Keep it so' }).click();
  await expect(page.getByText('Galley Assistant may be asked now.')).toBeVisible();
  await page.goto(back);
};

test('a topic becomes items: asked, streamed and read as it comes, put into the draft; the log holds it to the letter', async ({ page }) => {
  await wish(page, 'Salt by assistant');
  await control(page, { speed: 30, mistakes: { ...PLAIN, plain: false, wrongKeys: 1 }, seed: '3' });
  await expect(assistant(page)).toContainText(/It may need up to [\d.]+ EUR; you have [\d.]+ EUR left in this month\./);
  await page.getByRole('button', { name: 'Ask Galley Assistant' }).click();
  await expect(assistant(page)).toContainText('words so far');
  // items are read while the reply still comes
  await expect(page.getByText(/^[1-9]\d* read:/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await expect(assistant(page)).toContainText(/The reply has come\. [\d,]+ tokens, [\d.]+ EUR; [\d.]+ EUR left/);
  const reply = await page.getByLabel('The reply').inputValue();
  expect(reply.match(/\d\. /g)?.length ?? 0).toBeGreaterThan(3);
  await page.getByRole('button', { name: 'Put the reply into the draft' }).click();
  await page.getByRole('button', { name: /^Take \d+ items to Check/ }).click();
  await expect(page.getByRole('article').first()).toBeVisible();

  await page.goto('/assistant');
  const first = page.getByRole('list', { name: 'Requests' }).getByRole('listitem').first();
  await expect(first).toContainText('a draft for Salt by assistant');
  await first.getByRole('button', { name: 'What was sent' }).click();
  await expect(first.getByRole('region', { name: 'Sent' })).toContainText('Write items for a quiz on: Salt in bread');
  await expect(first.getByRole('region', { name: 'Came back' })).toContainText(reply.slice(0, 40).trim());
  const [csv] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Save as CSV' }).click()]);
  expect(readFileSync(await csv.path(), 'utf8')).toContain('M. Okafor,Salt by assistant,draft,galley-small,done');
});

test('stopped in the middle: what came stays; trouble is told, tried again, and nothing is paid for twice', async ({ page }) => {
  await wish(page, 'Stopped');
  await control(page, { speed: 120, mistakes: PLAIN });
  await page.getByRole('button', { name: 'Ask Galley Assistant' }).click();
  await expect(assistant(page)).toContainText('words so far');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(assistant(page)).toContainText('Stopped; what had come is kept.');
  expect((await page.getByLabel('The reply').inputValue()).length).toBeGreaterThan(0);
  await control(page, { speed: 0, mistakes: PLAIN, trouble: [{ kind: 'error', times: 2 }] });
  await page.getByRole('button', { name: 'Ask Galley Assistant' }).click();
  await expect(assistant(page)).toContainText('Trying again');
  await expect(assistant(page)).toContainText('It answered at try 3.');
  await control(page, { speed: 0, trouble: [{ kind: 'page' }] });
  await page.getByRole('button', { name: 'Ask Galley Assistant' }).click();
  await expect(assistant(page)).toContainText('answered with a page and no reply');
  await expect(assistant(page)).toContainText('0 tokens, 0.00 EUR');
});

test('an allowance that is used up: nothing is sent, what is left is said; copying goes on', async ({ page }) => {
  await wish(page, 'Used up');
  await setUp(page, async () => {
    await page.getByLabel('Each person’s allowance is counted in').selectOption('tokens');
    await page.getByLabel(/^In a month, each person may use/).fill('100');
  });
  await page.getByLabel('The topic').fill('Salt in bread');
  await expect(page.getByRole('button', { name: 'Ask Galley Assistant' })).toBeDisabled();
  await expect(assistant(page)).toContainText(/It may need [\d,]+ tokens, and you have \d+ tokens left of 100 tokens in this month/);
  await expect(page.getByRole('button', { name: 'Copy the request' })).toBeEnabled();
  await setUp(page, async () => {
    await page.getByLabel('Each person’s allowance is counted in').selectOption('money');
    await page.getByLabel(/^In a month, each person may use/).fill('5');
  });
});

test('a second opinion and a rework come back by themselves', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Fetched', '1. What feeds the yeast in a starter?\na) salt *\nb) sugars from the flour\nc) butter\n');
  await control(page, { speed: 0, mistakes: PLAIN });
  await page.getByRole('button', { name: /^Take (?:1 item|the item)/ }).click();
  await expect(page.getByRole('button', { name: /^Item 1: key A/ })).toBeVisible();
  await page.keyboard.press('w');
  await page.getByLabel(/^What is to become of/).selectOption('opinion');
  await page.getByRole('button', { name: 'Ask Galley Assistant' }).click();
  await expect(page.getByRole('region', { name: 'Second opinion' })).toContainText('B');
  await page.getByLabel(/^What is to become of/).selectOption('in another language');
  await page.getByRole('button', { name: 'Ask Galley Assistant' }).click();
  await expect(page.getByRole('region', { name: 'Proof' })).toContainText('los azúcares de la harina');
});

test('a draft asked for again, with a word on what was wrong, stands beside the first', async ({ page }) => {
  const id = await wish(page, 'Again');
  await control(page, { speed: 0, mistakes: PLAIN, seed: '2' });
  await page.getByRole('button', { name: 'Ask Galley Assistant' }).click();
  await expect(assistant(page)).toContainText('The reply has come.');
  await page.goto(`/sets/${id}/draft/compare`);
  await page.getByLabel('What was wrong with draft 1').fill('too easy');
  await page.getByRole('button', { name: 'Ask Galley Assistant' }).click();
  await expect(page.getByRole('button', { name: 'Take draft 2' })).toBeVisible();
  const requests = (await (await page.request.get(`/api/v1/sets/${id}/requests`)).json()) as { text: string; reply?: string }[];
  expect(requests.map((r) => [r.text.includes('too easy'), (r.reply ?? '').length > 50])).toEqual([
    [true, true],
    [false, true],
  ]);
});
