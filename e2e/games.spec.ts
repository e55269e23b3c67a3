/** A set goes into a game, is shortened on the way, is played by two and comes back: real pages on both sides. */
import type { Page } from '@playwright/test';
import { newSet, signIn } from './people.js';
import { expect, portsOf, test } from './test.js';

const LONG = `Which of the following describes best what a cook means by the word “mise en place” when a new colleague asks for it ${'very '.repeat(12)}early?`;
const DRAFT = `1. Which flour is for rye bread?
a) rye *
b) oat
c) corn

2. ${LONG}
a) all is ready before cooking *
b) the table is laid

3. Salt dissolves in water. (True)

4. Name a root vegetable.
Answer: carrot
`;

/** A player answers the round that is on. */
async function answer(player: Page, question: RegExp, choice: string): Promise<void> {
  await expect(player.locator('.ask')).toHaveText(question);
  await player.getByRole('button', { name: choice, exact: true }).click();
  await expect(player.getByText(/Your answer has arrived|Right:|Not right/)).toBeVisible();
}

test('a set becomes a game with 20 seconds for all, played by two, and what they got comes back', async ({ page, browser }, info) => {
  await signIn(page);
  await newSet(page, 'Kitchen words', DRAFT);
  await page.getByRole('button', { name: 'Take 4 items to Check' }).click();
  await expect(page.getByRole('article')).toHaveCount(4);
  await page.getByRole('link', { name: /^Deliver/ }).click();
  await page
    .getByRole('columnheader', { name: /^Class game/ })
    .getByRole('button')
    .click();
  await page.getByRole('button', { name: 'Connect Class game' }).click();
  await page.getByLabel('User name').fill('m.okafor');
  await page.getByLabel('Password').fill('ladle');
  await page.getByRole('button', { name: 'Sign in and allow' }).click();

  // one is too long: it is shortened with the count beside it; one cannot be played: it stays here
  const panel = page.getByRole('complementary', { name: 'Class game' });
  await panel.getByRole('button', { name: /its question has \d+ characters; 160 are possible there/ }).click();
  await expect(panel.getByText(/^\d+ of 160 characters$/)).toBeVisible();
  await expect(panel.getByRole('button', { name: 'Use the shorter words' })).toBeDisabled();
  await panel.getByLabel('Question, shorter').fill('What does “mise en place” mean?');
  await expect(panel.getByText('31 of 160 characters')).toBeVisible();
  await panel.getByRole('button', { name: 'Use the shorter words' }).click();
  await expect(panel.getByText('All 3 items go')).toBeVisible();
  await expect(panel.getByText('one stays here')).toBeVisible();
  await panel.getByText('How it is set').click();
  await panel.getByLabel('Time for a question').selectOption('20 seconds for all');
  await panel.getByRole('button', { name: 'Push 3 items to a new game' }).click();
  await expect(panel.getByText('3 arrived.')).toBeVisible();
  await expect(panel.getByText(/every key marks as it should/)).toBeVisible();
  const place = panel.getByRole('region', { name: 'Kitchen words at Class game' });
  const hostLink = (await place.getByRole('link', { name: 'Play it with a class' }).getAttribute('href')) ?? '';
  const there = `http://127.0.0.1:${portsOf(info.parallelIndex).games}`;
  expect(hostLink.startsWith(there)).toBe(true);

  // played by two
  const context = await browser.newContext();
  const host = await context.newPage();
  await host.goto(hostLink);
  await expect(host.getByText('20 s')).toHaveCount(3);
  await host.getByRole('button', { name: 'Play it now' }).click();
  const code = await host.locator('.code').innerText();
  const join = async (name: string): Promise<Page> => {
    const player = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
    await player.goto(`${there}/join`);
    await player.getByLabel('Code').fill(code);
    await player.getByLabel('Your name').fill(name);
    await player.getByRole('button', { name: 'Join' }).click();
    await expect(player.getByText('It begins soon.')).toBeVisible();
    return player;
  };
  const ada = await join('Ada Brandt');
  const otto = await join('Otto Finch');
  await expect(host.getByText('2 players: Ada Brandt, Otto Finch')).toBeVisible();
  await host.getByRole('button', { name: 'Begin' }).click();
  for (const [question, right, wrong] of [
    [/rye bread/, 'rye', 'oat'],
    [/mise en place/, 'all is ready before cooking', 'the table is laid'],
    [/Salt dissolves/, 'True', 'False'],
  ] as const) {
    await answer(ada, question, right);
    await answer(otto, question, wrong);
    const next = host.getByRole('button', { name: /Next question|End the game/ });
    await next.click();
  }
  await expect(ada.getByRole('heading', { name: 'It is over' })).toBeVisible();

  // and back
  await place.getByRole('button', { name: 'Fetch responses' }).click();
  await expect(place.getByText('2 responses')).toBeVisible();
  await place.getByRole('link', { name: 'Results' }).click();
  await expect(page.getByRole('row', { name: /Ada Brandt/ })).toContainText('3');
  await expect(page.getByRole('row', { name: /Otto Finch/ })).toContainText('0');
  await context.close();
});
