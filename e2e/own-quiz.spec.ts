/** The own quiz in full: a class with codes of its own, practice with hints, times, a lost line, reading aloud, the class at work. */
import type { Browser, Locator } from '@playwright/test';
import { expect, type Page, portsOf, test } from './test.js';
import { clean } from './clean.js';
import { newSet, signIn } from './people.js';

const DRAFT = `1. Which flour makes the strongest dough?
a) bread flour *
b) rice flour
Hint: It is milled from hard wheat.
Hint: Loaves are made of it.

2. Salt slows the yeast.
Answer: True

3. What makes dough rise?
Answer: yeast
`;

/** A set at Deliver, with the dialog of its rules open. */
async function atRules(page: Page, title: string, draft = DRAFT): Promise<void> {
  await signIn(page);
  await newSet(page, title, draft);
  await page.getByRole('button', { name: /Take \d items to Check/ }).click();
  await page.getByRole('link', { name: 'Go to Deliver' }).click();
  await page.getByRole('button', { name: 'Who, when and how …' }).click();
}
async function publish(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'Use these rules' }).click();
  await page.getByRole('button', { name: /^Publish/ }).click();
  await expect(page.getByRole('link', { name: 'At work' })).toBeVisible();
  const code = page.locator('[data-code]').first();
  return (await code.count()) ? (await code.innerText()).trim() : '';
}
const phone = async (browser: Browser, more: object = {}): Promise<Page> =>
  (await browser.newContext({ viewport: { width: 390, height: 844 }, ...more })).newPage();
const next = (page: Page): Promise<void> => page.getByRole('button', { name: 'Next' }).click();

test('a class gets codes of its own; one answer each, more time for one, keys when they are released', async ({ page, browser }) => {
  await atRules(page, 'Codes for a class');
  await page.getByLabel('Who comes in').selectOption('personal');
  await expect(page.getByText('Choose the class that takes it.')).toBeVisible();
  await page.getByRole('button', { name: 'Classes …' }).click();
  await page.getByRole('button', { name: 'New class' }).click();
  await page.getByLabel('Name of the class').fill('Bread, Monday');
  await page.getByLabel('People').fill('Ada Brandt\nÇelik, Béla; bela@saltmarsh.example\nAda Brandt');
  await expect(page.getByText('twice on the list')).toBeVisible();
  await page.getByRole('button', { name: 'Put them on the list' }).click();
  await page.getByLabel('Extra time of Béla Çelik, per cent').fill('50');
  await page.getByRole('button', { name: 'Keep the class' }).click();
  await page.getByLabel('Attempts a person').selectOption('1');
  await page.getByLabel('Minutes for an attempt').fill('20');
  await page.getByLabel('Right and wrong').selectOption('released');
  await page.getByLabel('The right answers').selectOption('released');
  await publish(page);
  await page.getByRole('button', { name: 'Codes' }).click();
  const people = page.getByRole('dialog', { name: /Who takes/ });
  await expect(people.getByRole('row')).toHaveCount(3);
  const codeOf = async (name: string): Promise<string> =>
    (
      await people
        .getByRole('row', { name: new RegExp(name) })
        .locator('td')
        .first()
        .innerText()
    ).trim();
  const [ada, bela] = [await codeOf('Ada'), await codeOf('Béla')];
  expect(ada).toMatch(/^[A-Z0-9]{8}$/);
  // a mail with a link of their own for who has an address; the mail server is a process of its own
  await expect(people.getByText('1 has no address in the class.')).toBeVisible();
  await people.getByRole('button', { name: 'Write to 1 person' }).click();
  await expect(people.getByRole('row', { name: /Béla/ })).toContainText('written to');
  const mails = await (await page.request.get(`http://127.0.0.1:${portsOf(test.info().parallelIndex).mail}/mails`)).json();
  expect(mails[0]).toMatchObject({ subject: 'Codes for a class', to: expect.stringContaining('bela@saltmarsh.example') });
  expect(mails[0].text).toContain(`/t/${bela}`);

  const one = await phone(browser);
  await one.goto(`/t/${ada}`);
  await expect(one.getByText('You are Ada Brandt.')).toBeVisible();
  await expect(one.getByText('You have 20 minutes.')).toBeVisible();
  await one.getByRole('button', { name: 'Begin' }).click();
  await expect(one.getByText(/^19:\d\d left|^20:00 left/).first()).toBeVisible();
  await one.getByLabel('rice flour').check();
  for (let i = 0; i < 3; i++) await next(one);
  await expect(one.getByText('2 questions have no answer yet.')).toBeVisible();
  await one.getByRole('button', { name: 'Hand in' }).click();
  await expect(one.getByText('0 of 3 points')).toBeVisible();
  await expect(one.getByText('You see more when your teacher releases it.')).toBeVisible();
  await expect(one.getByText('bread flour')).toHaveCount(0);

  const two = await phone(browser);
  await two.goto(`/t/${bela.toLowerCase()}`);
  await two.getByRole('button', { name: 'Begin' }).click();
  await expect(two.getByText(/^(?:29:\d\d|30:00) left/).first()).toBeVisible();

  // another phone with the same code goes no second time
  const again = await phone(browser);
  await again.goto(`/t/${ada}`);
  await again.getByRole('button', { name: 'Begin again' }).click();
  await expect(again.getByRole('alert')).toContainText('each person has one attempt');

  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Codes' }).click();
  await expect(people.getByRole('row', { name: /Ada/ })).toContainText('handed in');
  await expect(people.getByRole('row', { name: /Béla/ })).toContainText('under way');
  // unless it is arranged with them
  await people.getByRole('button', { name: 'Arrange with Ada Brandt' }).click();
  const arranging = page.getByRole('dialog', { name: 'Arrange with Ada Brandt' });
  await arranging.getByLabel('Attempts more than the others').fill('1');
  await arranging.getByRole('button', { name: 'Arrange', exact: true }).click();
  await expect(people.getByRole('row', { name: /Ada/ })).toContainText('1 more attempt');
  await again.getByRole('button', { name: 'Begin again' }).click();
  await expect(again.getByText('Question 1 of 3, 1 point')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Release to learners' }).click();
  await expect(page.getByRole('button', { name: 'Hide again' })).toBeVisible();
  await one.reload();
  await expect(one.getByText('Right: bread flour')).toBeVisible();
  for (const p of [one, two, again]) await p.context().close();
});

test('practice: a wrong answer brings a hint, the second one more, then the key; what it took is seen in Results', async ({ page, browser }) => {
  await atRules(page, 'Practice');
  await page.getByLabel('Mark each answer at once').check();
  await page.getByLabel('Tries for an item').selectOption('3');
  const code = await publish(page);
  const learner = await phone(browser);
  await learner.goto(`/t/${code}`);
  await expect(learner.getByText('Each answer is marked at once.')).toBeVisible();
  // what a phone fetches of script, as it is sent
  const scripts = await learner.evaluate(() =>
    (performance.getEntriesByType('resource') as PerformanceResourceTiming[]).filter((r) => r.name.endsWith('.js')).reduce((n, r) => n + r.encodedBodySize, 0),
  );
  expect(scripts).toBeGreaterThan(30_000);
  expect(scripts).toBeLessThan(82_000);
  await learner.getByLabel('Your name').fill('Mira Castel');
  await learner.getByRole('button', { name: 'Begin' }).click();
  await expect(learner.getByRole('button', { name: 'Check' })).toBeDisabled();
  await learner.getByLabel('rice flour').check();
  await learner.getByRole('button', { name: 'Check' }).click();
  await expect(learner.getByText('Not right yet.')).toBeVisible();
  await expect(learner.getByText('2 tries left')).toBeVisible();
  await expect(learner.getByText('It is milled from hard wheat.')).toBeVisible();
  await expect(learner.getByText('Loaves are made of it.')).toHaveCount(0);
  await learner.getByRole('button', { name: 'Hint' }).click();
  await expect(learner.getByText('Loaves are made of it.')).toBeVisible();
  await learner.reload();
  await expect(learner.getByText('Loaves are made of it.')).toBeVisible();
  await learner.getByLabel('bread flour').check();
  await learner.getByRole('button', { name: 'Check' }).click();
  await expect(learner.locator('.state.right')).toBeVisible();
  await expect(learner.getByLabel('rice flour')).toBeDisabled();
  await next(learner);
  await learner.getByRole('button', { name: 'Show the answer' }).click();
  await expect(learner.getByText('Right: True')).toBeVisible();
  await next(learner);
  await learner.getByLabel('Your answer').fill('yeast');
  await learner.getByRole('button', { name: 'Check' }).click();
  await expect(learner.locator('.state.right')).toBeVisible();
  await next(learner);
  await learner.getByRole('button', { name: 'Hand in' }).click();
  await expect(learner.getByText('2 of 3 points')).toBeVisible();
  await page.getByRole('link', { name: 'Results' }).last().click();
  await expect(page.getByText('3 tries, 2 hints, 1 right at once')).toBeVisible();
  await learner.context().close();
});

test('offline and back, all on one page: answers given before it was closed arrive after it, once', async ({ page, browser }) => {
  await atRules(page, 'Lost line');
  await page.getByLabel('Items', { exact: true }).selectOption('all');
  const code = await publish(page);
  const learner = await phone(browser);
  await learner.goto(`/t/${code}`);
  await learner.getByLabel('Your name').fill('Jonas Ferrow');
  await learner.getByRole('button', { name: 'Begin' }).click();
  await learner.getByLabel('bread flour').check();
  await expect(learner.getByRole('status').filter({ hasText: /^kept$/ })).toBeVisible();
  await expect.poll(() => learner.evaluate(async () => (await (await caches.open('learners')).keys()).length)).toBeGreaterThan(2);
  await learner.context().setOffline(true);
  await learner.getByLabel('True').check();
  await learner.getByLabel('Your answer').fill('yeast');
  await expect(learner.getByText('not sent yet: kept on this device')).toBeVisible();
  // loaded again without a connection the page is there, with the questions and all that was answered
  await learner.reload();
  await expect(learner.getByLabel('Your answer')).toHaveValue('yeast');
  await expect(learner.getByLabel('bread flour')).toBeChecked();
  await expect(learner.getByText('not sent yet: kept on this device')).toBeVisible();
  await next(learner);
  await learner.getByRole('button', { name: 'Hand in' }).click();
  await expect(learner.getByText(/No connection.*Trying again/)).toBeVisible();
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Open again' })).toBeVisible();
  await learner.context().setOffline(false);
  await expect(learner.getByText('3 of 3 points')).toBeVisible();
  await page.getByRole('link', { name: 'Results' }).last().click();
  await expect(page.getByRole('rowheader', { name: /Jonas Ferrow/ })).toHaveCount(1);
  await learner.context().close();
});

test('the page in another language, larger, read aloud part by part; the class at work is seen as it happens', async ({ page, browser }) => {
  await atRules(page, 'At work');
  await page.getByLabel('Minutes for an attempt').fill('30');
  const code = await publish(page);
  await page.getByRole('link', { name: 'At work' }).click();
  await expect(page.getByText('Nobody has begun yet.')).toBeVisible();

  const learner = await phone(browser);
  // a voice that says nothing: what it is given is kept
  await learner.addInitScript(() => {
    const said: { text: string; lang: string; rate: number }[] = [];
    Object.assign(window, { said });
    class Utterance {
      lang = '';
      rate = 1;
      onend: (() => void) | null = null;
      constructor(readonly text: string) {}
    }
    Object.defineProperty(window, 'SpeechSynthesisUtterance', { value: Utterance });
    Object.defineProperty(window, 'speechSynthesis', {
      value: {
        cancel: () => undefined,
        speak: (u: Utterance) => {
          said.push({ text: u.text, lang: u.lang, rate: u.rate });
          setTimeout(() => u.onend?.(), 30);
        },
      },
    });
  });
  await learner.goto(`/t/${code}`);
  await learner.getByLabel('Your name').fill('Ada Brandt');
  await learner.getByRole('button', { name: 'Begin' }).click();
  await learner.getByRole('button', { name: 'Reading' }).click();
  await learner.getByLabel('Text size').selectOption('1.5');
  await learner.getByLabel('Wider spacing').check();
  await learner.getByLabel('Read aloud: Speed').selectOption('0.8');
  await learner.getByLabel('This page in').selectOption('fr');
  await expect(learner.getByText('Question 1 sur 3, 1 point')).toBeVisible();
  await expect(learner.locator('html')).toHaveAttribute('lang', 'fr');
  await learner.getByRole('button', { name: 'Lire à voix haute' }).click();
  await expect(learner.getByRole('button', { name: 'Arrêter la lecture' })).toHaveCount(0);
  const said = await learner.evaluate(() => (window as unknown as { said: { text: string; rate: number }[] }).said);
  expect(said.map((s) => s.text)).toEqual(['Which flour makes the strongest dough?', 'bread flour', 'rice flour']);
  expect(said[0]?.rate).toBe(0.8);

  // once handed in, the person stands in the table of marks below as well
  const row = page.getByRole('row', { name: /Ada Brandt/ }).first();
  await expect(row).toContainText('at item 1');
  await learner.getByLabel('rice flour').check();
  await learner.getByRole('button', { name: 'Suivant' }).click();
  await expect(row).toContainText('at item 2');
  await expect(row.getByText('wrong')).toHaveCount(1);
  await row.getByRole('button', { name: '5 minutes more for Ada Brandt' }).click();
  await expect(row).toContainText(/3[45] minutes left/);
  await learner.reload();
  await expect(learner.getByText(/^reste 3[45]:/).first()).toBeVisible();
  // stopped for all: the learner hears of it within the time between two words to the server, and it goes on as it was
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(learner.getByRole('alert')).toContainText('Le quiz est en pause');
  await expect(learner.getByRole('button', { name: 'Suivant' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Go on', exact: true }).click();
  await expect(learner.getByRole('button', { name: 'Suivant' })).toBeVisible({ timeout: 30_000 });
  for (let i = 0; i < 2; i++) await learner.getByRole('button', { name: 'Suivant' }).click();
  await learner.getByRole('button', { name: 'Rendre' }).click();
  await expect(row).toContainText('handed in, 0 points');
  await learner.context().close();
});

const BY_HAND = `1. Put in order
Kind: ordering
1) knead
2) rest
3) bake

2. Match each grain with its use.
rye = dark bread
durum = pasta
rice = pudding

3. What is the derivative of \\(x^2\\)?
Answer: \\(2x\\)

4. Half a cup of three quarters of a litre: how many litres?
Answer: 0.375
`;
test('a time for each item; pieces and pairs are dragged, a formula and a number are typed as they look', async ({ page, browser }) => {
  await atRules(page, 'By hand', BY_HAND);
  await page.getByLabel('Seconds for each item').fill('300');
  await expect(page.getByLabel('Learners may go back')).not.toBeChecked();
  const code = await publish(page);
  const learner = await (await browser.newContext({ viewport: { width: 800, height: 900 } })).newPage();
  await learner.goto(`/t/${code}`);
  await expect(learner.getByText('Each question has its own time.')).toBeVisible();
  await learner.getByLabel('Your name').fill('Ada Brandt');
  await learner.getByRole('button', { name: 'Begin' }).click();
  await expect(learner.getByText(/^(?:5:00|4:\d\d) left for this question$/).first()).toBeVisible();

  const drag = async (from: Locator, to: Locator): Promise<void> => {
    const [a, b] = [await from.boundingBox(), await to.boundingBox()];
    if (!a || !b) throw new Error('nothing to drag');
    await learner.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
    await learner.mouse.down();
    await learner.mouse.move(a.x + a.width / 2, a.y + a.height / 2 + 12, { steps: 3 });
    await learner.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 12 });
    await learner.mouse.up();
  };
  /** What the device keeps of the answers: what is shown while something is dragged is not yet one. */
  const kept = (): Promise<string> =>
    learner.evaluate((at) => {
      const { responses } = JSON.parse(localStorage.getItem(at) ?? '{}') as { responses?: object };
      return JSON.stringify(Object.values(responses ?? {}));
    }, `take ${code.toUpperCase()}`);
  const pieces = learner.locator('.order li');
  await learner.waitForLoadState('networkidle');
  // a piece that was let go flies to its place, with another standing in for it meanwhile
  const settled = (): Promise<void> => expect(pieces).toHaveCount(3);
  for (const [to, piece] of ['knead', 'rest', 'bake'].entries())
    await expect(async () => {
      await settled();
      const now = (await pieces.allInnerTexts()).map((t) => t.trim());
      if (now[to] !== piece) await drag(pieces.nth(now.indexOf(piece)).locator('.grip'), pieces.nth(to));
      await settled();
      await expect(pieces.nth(to)).toHaveText(piece, { timeout: 2000 });
    }).toPass();
  // right as it was shuffled: said so
  const asItStands = learner.getByRole('button', { name: 'It is right as it stands' });
  if (await asItStands.isVisible()) await asItStands.click();
  await expect.poll(kept).toContain('["knead","rest","bake"]');
  await next(learner);

  for (const [left, right] of [
    ['rye', 'dark bread'],
    ['durum', 'pasta'],
    ['rice', 'pudding'],
  ] as const)
    await expect(async () => {
      await drag(learner.locator('.rights li', { hasText: right }), learner.locator('.pairs label', { hasText: left }));
      await expect(learner.getByLabel(left)).toHaveValue(right, { timeout: 2000 });
    }).toPass();
  for (const right of ['dark bread', 'pasta', 'pudding']) await expect.poll(kept).toContain(right);
  await next(learner);

  // the field takes keys a moment after it has the focus
  const field = learner.locator('math-field');
  const type = (keys: string, tex: RegExp): Promise<void> =>
    expect(async () => {
      await field.click();
      await learner.keyboard.press('Control+a');
      await learner.keyboard.type(keys, { delay: 30 });
      expect(await field.evaluate((f: HTMLElement & { value: string }) => f.value)).toMatch(tex);
    }).toPass();
  await type('2x', /^2x$/);
  // its keyboard keeps the width that it was opened with
  await field.evaluate((f: HTMLElement) => f.blur());
  await expect.poll(kept).toContain('2x');
  await clean(learner, 'a formula that is typed');
  await next(learner);
  await learner.getByRole('button', { name: 'Type it as a formula' }).click();
  await type('3/8', /^\\frac\{?3\}?\{?8\}?$/);
  await expect.poll(kept).toContain('3/8');
  await next(learner);
  await learner.getByRole('button', { name: 'Hand in' }).click();
  await expect(learner.locator('main')).toContainText('4 of 4 points (100 %)');
  await learner.context().close();
});
