// npm run screenshots: one current picture of each main view, from the demo, into docs/screenshots.
import path from 'node:path';
import { chromium } from '@playwright/test';
import { build, root } from './install.mjs';
import { recreate } from './pg.mjs';
import { finish, start, startAll } from './services.mjs';

await build();
const databaseUrl = recreate('zakuska_screenshots');
await finish(start('apps/server/dist/demo/main.js', [], { DATABASE_URL: databaseUrl }));
const all = await startAll({ databaseUrl, port: 3400, lmsPort: 3450, env: { LOG_LEVEL: 'error' } });
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run'],
});
try {
  const context = async (theme, viewport = { width: 1280, height: 800 }) => {
    const page = await (await browser.newContext({ viewport, colorScheme: theme, locale: 'en-GB', reducedMotion: 'reduce' })).newPage();
    const shot = async (name) => {
      await page.waitForLoadState('networkidle').catch(() => undefined);
      await page.waitForTimeout(500);
      await page.screenshot({ path: path.join(root, 'docs/screenshots', `${name}.png`) });
    };
    const open = async (title, stage) => {
      await page.goto(all.url);
      const href = await page.getByRole('link', { name: title }).getAttribute('href');
      await page.goto(all.url + href.replace(/\/\w+$/, `/${stage}`));
      await page.locator('main').waitFor();
    };
    const signIn = async () => {
      await page.goto(all.url);
      await page.getByRole('button', { name: 'Sign in with the demo account' }).click();
      await page.getByRole('heading', { name: 'Sets' }).waitFor();
    };
    return { page, shot, open, signIn };
  };
  const light = await context('light');
  await light.page.goto(all.url);
  await light.signIn();
  await light.shot('sets');
  await light.open('Knife skills', 'draft');
  await light.page.getByText('9 questions read').waitFor();
  await light.page.getByText('boning knife').click();
  await light.shot('draft');
  await light.open('Sourdough, week two', 'draft/source');
  await light.page.getByRole('article').nth(2).waitFor();
  await light.shot('drafter');
  await light.open('Words on the menu', 'text');
  await light.page.getByText('20 unchanged').waitFor();
  await light.shot('text');
  await light.page.goto(`${all.url}/notation`);
  await light.page.getByRole('heading', { name: 'The notation' }).waitFor();
  await light.open('Sourdough, week two', 'check');
  await light.page.getByRole('complementary', { name: 'Findings' }).getByText('The source says otherwise').waitFor();
  await light.page.keyboard.press('g');
  await light.shot('check');
  await light.page.getByRole('button', { name: /^Item 1:/ }).click();
  for (const key of ['s', 'j', 's', 'j', 's', 'w']) await light.page.keyboard.press(key);
  const asked = await light.page.getByRole('region', { name: 'Text of the request' }).innerText();
  const given = asked.slice(asked.lastIndexOf('The items:') + 10).trim();
  await light.page
    .getByLabel('The reply')
    .fill(
      given
        .replace('Which two kinds of living things are in a sourdough starter?', 'Which living things live in a sourdough starter?')
        .replace('the acids of the bacteria *', 'the acids of the bacteria')
        .replace('the gas of the yeast', 'the gas of the yeast *'),
    );
  await light.page.getByRole('region', { name: 'Proof' }).waitFor();
  await light.page.getByRole('region', { name: 'Proof' }).scrollIntoViewIfNeeded();
  await light.shot('rework');
  await light.open('Sourdough, week two', 'check');
  await light.page.getByRole('complementary', { name: 'Findings' }).getByText('The source says otherwise').waitFor();
  await light.page.getByRole('button', { name: /^Item 13:/ }).click();
  await light.page.keyboard.press('e');
  await light.page.getByRole('textbox', { name: 'Question', exact: true }).waitFor();
  await light.shot('editor');
  await light.open('Sourdough, week two', 'check/languages?in=es');
  await light.page.getByRole('listitem', { name: 'Title of the set' }).click();
  await light.page.keyboard.press('Enter');
  for (const words of [
    'Masa madre, segunda semana',
    '¿Qué dos clases de seres vivos hay en una masa madre?',
    'levaduras silvestres y bacterias lácticas',
    'mohos y levaduras silvestres',
    'bacterias lácticas y algas',
  ]) {
    await light.page.keyboard.insertText(words);
    await light.page.keyboard.press('Enter');
  }
  await light.shot('languages');
  await light.open('Knife skills', 'draft/request');
  await light.page.getByLabel('The topic').fill('Salt in bread');
  await light.page.getByRole('button', { name: /^Ask / }).click();
  await light.page.getByText(/^The reply has come/).waitFor();
  await light.shot('assistant');
  await light.page.goto(`${all.url}/administration`);
  await light.page.getByLabel('Mail addresses').fill('Pia Kessler <p.kessler@saltmarsh.example>');
  await light.page.getByLabel('Role', { exact: true }).selectOption('marker');
  await light.page.getByRole('button', { name: 'Invite', exact: true }).click();
  await light.page.getByRole('list', { name: 'Invitations that are open' }).waitFor();
  await light.shot('administration');
  await light.open('Stocks and sauces', 'arrange');
  await light.shot('arrange');
  await light.page.getByRole('link', { name: /^Versions/ }).click();
  await light.page.getByLabel('Versions', { exact: true }).fill('3');
  await light.page.getByLabel('Items in each').fill('8');
  await light.page.getByLabel('Seed', { exact: true }).fill('7');
  await light.page.getByRole('button', { name: 'Draw versions' }).click();
  await light.page.getByText('3 versions drawn.').waitFor();
  await light.page.getByText('3 versions drawn.').waitFor({ state: 'detached' });
  await light.shot('versions');
  await light.page.goto(`${all.url}/bank?q=salt`);
  await light.page
    .getByRole('checkbox', { name: /^Choose/ })
    .nth(1)
    .check();
  await light.page
    .getByRole('checkbox', { name: /^Choose/ })
    .nth(3)
    .check();
  await light.shot('bank');
  await light.open('Starters and proofing', 'deliver');
  await light.page.getByText('BREAD7', { exact: true }).waitFor();
  await light.shot('deliver');
  await light.page
    .getByRole('columnheader', { name: /^Online form/ })
    .getByRole('button')
    .click();
  await light.page.getByRole('button', { name: 'Connect Online form' }).click();
  await light.page.getByLabel('User name').fill('m.okafor');
  await light.page.getByLabel('Password').fill('slipway');
  await light.page.getByRole('button', { name: 'Sign in and allow' }).click();
  await light.page.getByText(/^All \d+ items go/).waitFor();
  await light.page.getByRole('button', { name: /^Push \d+ items/ }).click();
  await light.page.getByText(/\d+ arrived\./).waitFor();
  await light.page.waitForTimeout(5000);
  await light.shot('form');
  await light.page.goto(`${all.lmsUrl}/tools?address=${encodeURIComponent(`${all.url}/course/register`)}`);
  await light.page.getByRole('button', { name: 'Register a tool' }).click();
  await light.page.getByRole('button', { name: /^Register 127/ }).click();
  await light.page.getByText('is registered').waitFor();
  await light.page.goto(`${all.lmsUrl}/course/bread`);
  await light.page.getByRole('button', { name: 'Add from Zakuska' }).click();
  await light.page.getByText('Safe hands, safe kitchen').waitFor();
  await light.shot('course');
  await light.open('Starters and proofing', 'results');
  await light.page.getByText('reliability (α)').waitFor();
  await light.shot('results');
  const dark = await context('dark');
  await dark.signIn();
  await dark.open('Starters and proofing', 'results/marking');
  await dark.page.getByRole('navigation', { name: 'Items' }).getByRole('button', { name: /^14/ }).click();
  await dark.page.keyboard.press('j');
  await dark.page.keyboard.press('j');
  await dark.page.keyboard.press('1');
  await dark.page.keyboard.press('k');
  await dark.page.getByRole('region', { name: 'About to be decided' }).waitFor();
  await dark.shot('marking');
  const phone = await context('light', { width: 390, height: 844 });
  await phone.page.goto(`${all.url}/t/BREAD7`);
  await phone.page.getByLabel('Your name').fill('Lena B.');
  await phone.page.getByRole('button', { name: 'Begin' }).click();
  for (let i = 0; i < 3; i++) {
    await phone.page.getByRole('radio').first().check();
    await phone.page.getByRole('button', { name: 'Next' }).click();
  }
  await phone.page.getByText('moving it to 8 °C').click();
  await phone.shot('take');
} finally {
  await browser.close();
  await all.stop();
}
