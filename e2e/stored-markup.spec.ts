/**
 * What somebody wrote to do harm, in every text of a set and every field that a screen offers: nothing of it runs, opens a dialog, leads
 * anywhere or is fetched from elsewhere, for teachers and for learners. The strings are of the usual kinds (OWASP, cross-site scripting
 * filter evasion; from memory).
 */
import { type Item, newId } from '@zakuska/core';
import { signIn } from './people.js';
import { expect, type Page, test } from './test.js';

const RUN = 'window.harmed=1';
const ATTACKS = [
  `<img src=x onerror="${RUN}">`,
  `"><script>${RUN}</script>`,
  `<svg/onload=${RUN}>`,
  `[press](javascript:${RUN}) <a href="javascript:${RUN}">press</a>`,
  `![a](https://harm.example/a.png) <img src="https://harm.example/b.png">`,
  `<iframe srcdoc="<script>parent.${RUN}</script>"></iframe>`,
  `$\\href{javascript:${RUN}}{x}$ $\\includegraphics{https://harm.example/c.png}$`,
  `</title></textarea></style><details open ontoggle=${RUN}>`,
];
const all = ATTACKS.join(' ');
const [ONE = '', TWO = ''] = ATTACKS;

/** Items of kinds with many texts, each text an attack. */
const ITEMS: Item[] = [
  ...ATTACKS.map(
    (stem, i): Item => ({
      id: newId(),
      kind: 'multiple-choice',
      stem,
      points: 1,
      tags: [ONE],
      options: [
        { id: newId(), content: stem, credit: 1, feedback: TWO },
        { id: newId(), content: `${i} ${ONE}`, credit: 0 },
      ],
    }),
  ),
  { id: newId(), kind: 'short-answer', stem: all, points: 1, answers: [{ text: `rye ${ONE}`, credit: 1 }] } as unknown as Item,
  {
    id: newId(),
    kind: 'matching',
    stem: all,
    points: 1,
    pairs: [
      { left: `rye ${ONE}`, right: `oats ${TWO}` },
      { left: 'b', right: `barley ${all.slice(0, 200)}` },
    ],
  } as unknown as Item,
  { id: newId(), kind: 'ordering', stem: all, points: 1, sequence: [`a ${ONE}`, `b ${TWO}`, 'c'] } as unknown as Item,
];

/** Asks the server as who is signed in on a page. */
async function asker(page: Page): Promise<{ post: (path: string, data: object) => Promise<Record<string, string>>; workspace: string }> {
  const session = (await (await page.request.get('/api/v1/session')).json()) as { csrf: string; workspaces: { id: string }[] };
  return {
    workspace: session.workspaces[0]?.id ?? '',
    post: async (path, data) => {
      const r = await page.request.post(`/api/v1/${path}`, { headers: { 'x-csrf-token': session.csrf }, data });
      expect({ path, said: r.ok() ? '' : await r.text() }).toEqual({ path, said: '' });
      return (await r.json().catch(() => ({}))) as Record<string, string>;
    },
  };
}
/** Watches a page: what it fetches elsewhere, what it opens, what throws. */
function watched(page: Page): string[] {
  const told: string[] = [];
  page.on('dialog', (d) => {
    // leaving a page with something unsaved is asked by ours
    if (d.type() !== 'beforeunload') told.push(`dialog ${d.message()}`);
    void d.dismiss();
  });
  page.on('request', (r) => {
    // words that are looked for go to our own server, whatever they are
    if (new URL(r.url()).hostname.endsWith('harm.example')) told.push(`fetched ${r.url()}`);
  });
  page.on('pageerror', (e) => told.push(`threw ${e.message}`));
  page.on('popup', (p) => told.push(`opened ${p.url()}`));
  return told;
}
async function unharmed(page: Page, told: readonly string[], where: string): Promise<void> {
  expect({ where, told, harmed: await page.evaluate(() => (window as { harmed?: number }).harmed ?? 0) }).toEqual({ where, told: [], harmed: 0 });
  // what is shown as markup is made of what is allowed
  const strange = await page.evaluate(() =>
    Array.from(document.querySelectorAll('*')).flatMap((e) =>
      Array.from(e.attributes)
        .filter((a) => /^on/i.test(a.name) || (/^(?:href|src|action|formaction|xlink:href)$/i.test(a.name) && /^\s*(?:javascript|data:text)/i.test(a.value)))
        .map((a) => `${e.tagName} ${a.name}=${a.value}`),
    ),
  );
  expect({ where, strange }).toEqual({ where, strange: [] });
}
/** Types an attack into every field for text that can be seen. */
async function typeEverywhere(page: Page): Promise<number> {
  const fields = page.locator('input[type=text]:visible, input[type=search]:visible, input:not([type]):visible, textarea:visible');
  const n = await fields.count();
  for (let i = 0; i < n; i++) {
    const field = fields.nth(i);
    if (!(await field.isEditable().catch(() => false))) continue;
    await field.fill(all.slice(0, 400)).catch(() => undefined);
  }
  return n;
}

test('attack strings in every text of a set, and in every field, do nothing to teachers', async ({ page }) => {
  test.setTimeout(300_000);
  await signIn(page);
  const told = watched(page);
  const { post, workspace } = await asker(page);
  await post(`workspaces/${workspace}/folders`, { name: ONE });
  const { id: set = '' } = await post(`workspaces/${workspace}/sets`, { title: `${TWO} ${ONE}` });
  const operations = [{ id: newId(), operation: { type: 'insert', at: 0, items: ITEMS } }];
  await post(`sets/${set}/operations`, { base: 0, operations });
  await post(`sets/${set}/sources`, { name: ONE, mediaType: 'text/plain', text: all });
  const { code = '' } = await post(`sets/${set}/deliveries`, { shows: 'answers', title: TWO });
  await post(`take/${code}/attempts`, { id: newId(), token: newId() + newId(), name: ONE });

  let fields = 0;
  for (const at of [
    '/',
    ...['draft', 'draft/words', 'draft/request', 'draft/source', 'check', 'check/languages', 'arrange', 'arrange/versions', 'deliver', 'results', 'text'].map(
      (stage) => `/sets/${set}/${stage}`,
    ),
    '/bank',
    '/bank/near',
    '/people',
    '/progress',
    '/assistant',
    '/table',
    '/account',
    '/administration',
    '/administration?part=log',
    '/administration?part=state',
    '/administration?part=workspace',
  ]) {
    await page.goto(at);
    await page.waitForLoadState('networkidle').catch(() => undefined);
    await page.waitForTimeout(400);
    await unharmed(page, told, at);
    fields += await typeEverywhere(page);
    await page.waitForTimeout(400);
    await unharmed(page, told, `${at}, typed`);
  }
  expect(fields).toBeGreaterThan(10);

  // the item that is worked on, and the page as the learner has it
  await page.goto(`/sets/${set}/check`);
  await expect(page.getByRole('article').first()).toBeVisible();
  for (const key of ['e', 'Escape', 't', 'Escape', 'h', 'Escape', 'p', 'Escape', 'r']) {
    await page.keyboard.press(key);
    await page.waitForTimeout(300);
    await unharmed(page, told, `check, ${key}`);
  }
});

test('attack strings in a quiz do nothing to learners', async ({ page, browser }) => {
  test.setTimeout(120_000);
  await signIn(page);
  const { post, workspace } = await asker(page);
  const { id = '' } = await post(`workspaces/${workspace}/sets`, { title: ONE });
  const items = ITEMS.map((i) => ({ ...i, id: newId() }));
  await post(`sets/${id}/operations`, { base: 0, operations: [{ id: newId(), operation: { type: 'insert', at: 0, items } }] });
  const { code = '' } = await post(`sets/${id}/deliveries`, { shows: 'answers', title: TWO });
  const theirs = await (await browser.newContext()).newPage();
  const told = watched(theirs);
  await theirs.goto(`/t/${code}`);
  await unharmed(theirs, told, 'the welcome');
  await theirs.getByLabel('Your name').fill(ONE);
  await theirs.getByRole('button', { name: 'Begin' }).click();
  const next = theirs.getByRole('button', { name: 'Next' });
  for (let n = 1; n <= ITEMS.length; n++) {
    await expect(next).toBeVisible();
    await unharmed(theirs, told, `question ${n}`);
    await theirs
      .getByRole('radio')
      .first()
      .check({ timeout: 500 })
      .catch(() => undefined);
    await typeEverywhere(theirs);
    await next.click();
  }
  await unharmed(theirs, told, 'before handing in');
  await theirs.getByRole('button', { name: 'Hand in' }).click();
  await expect(theirs.getByRole('heading', { name: 'Handed in' })).toBeVisible();
  await theirs.waitForTimeout(1500);
  await unharmed(theirs, told, 'handed in');
});
