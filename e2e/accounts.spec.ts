/** People: an account by mail, a forgotten password, codes beside it, members by invitation, what happened, and leaving. */
import type { Browser } from '@playwright/test';
import { Secret, TOTP } from 'otpauth';
import { signIn } from './people.js';
import { expect, type Page, portsOf, test } from './test.js';

const PASSWORD = 'seven loaves under a tin moon';

/** The link of the last mail to somebody with a subject. */
async function linkTo(page: Page, email: string, subject: RegExp): Promise<string> {
  let link = '';
  await expect(async () => {
    const mails = (await (await page.request.get(`http://127.0.0.1:${portsOf(test.info().parallelIndex).mail}/mails`)).json()) as {
      to: string;
      subject: string;
      text: string;
    }[];
    link = /http\S+\/link\/\S+/.exec(mails.find((m) => m.to.includes(email) && subject.test(m.subject))?.text ?? '')?.[0] ?? '';
    expect(link).not.toBe('');
  }).toPass({ timeout: 30_000 });
  return link;
}
const somebody = async (browser: Browser): Promise<Page> => (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();

/** Makes an account by the form and the mail; leaves the page on its sets. */
async function makeAccount(page: Page, email: string, name: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'Make an account' }).click();
  await page.getByLabel('Address').fill(email);
  await page.getByRole('button', { name: 'Send the link' }).click();
  await expect(page.getByRole('status')).toContainText('on its way');
  await page.goto(await linkTo(page, email, /Your account/));
  await page.getByLabel('Your name').fill(name);
  await page.getByLabel('Password').fill('password123');
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByRole('alert')).toContainText('guessed soon');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByRole('heading', { name: 'Sets', exact: true })).toBeVisible();
}

test('an account by mail; codes beside the password; a forgotten password; and its end', async ({ page }) => {
  const email = 'nell.ashby@saltmarsh.example';
  await makeAccount(page, email, 'Nell Ashby');
  await page.getByRole('button', { name: 'Nell Ashby' }).click();
  await page.getByRole('menuitem', { name: 'Your account' }).click();
  await expect(page.getByText('The address is confirmed')).toBeVisible();

  // the device shows codes; the browser is asked for one the next time
  await page.getByRole('button', { name: 'Ask for codes' }).click();
  await page.getByRole('dialog').getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Go on' }).click();
  const shown = page.getByRole('dialog').locator('p.font-mono');
  const secret = Secret.fromBase32(((await shown.textContent()) ?? '').replace(/\s/g, ''));
  const code = (): string => new TOTP({ secret }).generate();
  await page.getByRole('dialog').getByLabel('Code').fill(code());
  await page.getByRole('button', { name: 'Ask for codes from now on' }).click();
  const spares = page.getByRole('list', { name: 'Spare codes' }).getByRole('listitem');
  await expect(spares).toHaveCount(10);
  const spare = (await spares.first().textContent()) ?? '';
  await page.getByRole('button', { name: 'I have them' }).click();
  await expect(page.getByText('10 spare codes left')).toBeVisible();

  // forgotten: a new one by mail; the code is asked for all the same
  await page.getByRole('button', { name: 'Nell Ashby' }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await page.getByRole('button', { name: 'I forgot my password' }).click();
  await page.getByLabel('Address').fill(email);
  await page.getByRole('button', { name: 'Send the link' }).click();
  const link = await linkTo(page, email, /new password/);
  await page.goto(link);
  await page.getByLabel('New password').fill('another tin of quiet rye');
  await page.getByRole('button', { name: 'Keep the new password' }).click();
  await page.getByLabel('Address').fill(email);
  await page.getByLabel('Password').fill('another tin of quiet rye');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.getByLabel('Code').fill('000000');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('not right');
  await page.getByLabel('Code').fill(spare);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Sets', exact: true })).toBeVisible();
  // the link is good once
  await page.goto(link);
  await expect(page.getByRole('alert')).toContainText('used already');

  await page.goto('/account');
  await page.getByRole('button', { name: 'Delete the account …' }).click();
  await expect(page.getByRole('dialog')).toContainText('“Nell Ashby” goes with it');
  await page.getByRole('dialog').getByLabel('Password').fill('another tin of quiet rye');
  await page.getByRole('button', { name: 'Delete for good' }).click();
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
});

test('colleagues come by invitation, get a role, are found in the log, and go; two workspaces side by side', async ({ page, browser }) => {
  await signIn(page);
  await page.goto('/administration');
  await page.getByLabel('Mail addresses').fill('Otto Finch <otto.finch@saltmarsh.example>, l.brandt@saltmarsh.example; nonsense@');
  await expect(page.getByRole('alert')).toContainText('No address: nonsense@');
  await page.getByLabel('Mail addresses').fill('Otto Finch <otto.finch@saltmarsh.example>, l.brandt@saltmarsh.example');
  await page.getByRole('region', { name: 'Invite people' }).getByLabel('Role').selectOption('marker');
  await page.getByRole('button', { name: 'Invite 2 people' }).click();
  await expect(page.getByText('l.brandt@saltmarsh.example: a member already.')).toBeVisible();

  // Otto has an account of his own already
  const his = await somebody(browser);
  await makeAccount(his, 'otto@saltmarsh.example', 'Otto Finch');
  await his.goto(await linkTo(page, 'otto.finch@', /Invitation to Saltmarsh/));
  await expect(his.getByText('as marker: marks answers too')).toBeVisible();
  await his.getByRole('button', { name: 'Join as Otto Finch' }).click();
  await expect(his.getByRole('heading', { name: 'Sets', exact: true })).toBeVisible();
  await his.getByRole('button', { name: 'Workspace Otto Finch' }).click();
  await his.getByRole('menuitemradio', { name: 'Saltmarsh Cookery School' }).click();
  await his.getByRole('link', { name: 'Knife skills' }).click();
  await expect(his.getByRole('navigation', { name: 'Stages' })).toBeVisible();
  // a marker reads, and changes nothing
  await his.getByRole('link', { name: /^Draft/ }).click();
  await expect(his.getByRole('textbox', { name: 'Draft' })).toHaveAttribute('contenteditable', 'false');

  await page.reload();
  await page.getByLabel('Role of Otto Finch').selectOption('editor');
  await expect(page.getByLabel('Role of Otto Finch')).toHaveValue('editor');
  await page.getByRole('tab', { name: 'What happened' }).click();
  await page.getByLabel('What', { exact: true }).selectOption('role changed');
  const row = page.getByRole('row').nth(1);
  await expect(row).toContainText('M. Okafor');
  await expect(row).toContainText('otto@saltmarsh.example');
  await expect(row).toContainText('marker');
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'As a table (CSV)' }).click()]);
  expect(download.suggestedFilename()).toBe('what-happened.csv');

  await page.getByRole('tab', { name: 'Members' }).click();
  await page.getByRole('button', { name: 'Remove Otto Finch' }).click();
  await page.getByRole('dialog').getByLabel('Their sets and folders go to').selectOption({ label: 'L. Brandt' });
  await page.getByRole('button', { name: 'Remove from the workspace' }).click();
  await expect(page.getByLabel('Role of Otto Finch')).toBeHidden();
  await his.reload();
  await expect(his.getByRole('heading', { name: 'This set is not here' })).toBeVisible();
  // the last owner stays
  await page.getByLabel('Role of M. Okafor').selectOption('editor');
  await expect(page.getByText('Nobody else is an owner of this workspace.')).toBeVisible();
});
