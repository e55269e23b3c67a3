/** From a course of the simulated LMS: a set is chosen there, a learner is launched into the quiz, the grade arrives (LTI 1.3 Advantage). */
import type { Page } from '@playwright/test';
import { newSet, signIn } from './people.js';
import { expect, portsOf, test } from './test.js';

const DRAFT = `1. Which flour is for rye bread?
a) rye *
b) oat

2. Salt dissolves in water. (True)
`;

/** Opens the link of a course as somebody. */
async function openAs(page: Page, lms: string, title: string, who: string): Promise<void> {
  await page.goto(`${lms}/course/bread`);
  await page.getByRole('link', { name: title }).click();
  await page.getByLabel('Who are you?').selectOption(who);
  await page.getByRole('button', { name: 'Open' }).click();
}

test('registered, chosen from inside the course, answered by name, graded there', async ({ page, browser }, info) => {
  const lms = `http://127.0.0.1:${portsOf(info.parallelIndex).lms}`;
  await signIn(page);
  await newSet(page, 'Flour and salt', DRAFT);
  await page.getByRole('button', { name: 'Take 2 items to Check' }).click();
  await expect(page.getByRole('article')).toHaveCount(2);

  // the platform is registered by the address that Deliver shows
  await page.getByRole('link', { name: /^Deliver/ }).click();
  await page.getByRole('button', { name: 'Open quizzes inside courses (LTI 1.3)' }).click();
  const address = await page.getByRole('dialog').locator('code').first().innerText();
  await page.goto(`${lms}/tools`);
  await page.getByLabel('Registration address of a tool').fill(address);
  await page.getByRole('button', { name: 'Register a tool' }).click();
  await page.getByRole('button', { name: /^Register 127\.0\.0\.1/ }).click();
  await expect(page.getByText('Harbour LMS is registered.')).toBeVisible();

  // the teacher chooses the set from inside the course
  await page.goto(`${lms}/course/bread`);
  await page.getByRole('button', { name: 'Add from Zakuska' }).first().click();
  await expect(page.getByRole('heading', { name: 'Choose a quiz for Bread and Dough' })).toBeVisible();
  await page.getByLabel('Find a set').fill('flour and');
  await page.getByRole('button', { name: 'Choose Flour and salt' }).click();
  await expect(page).toHaveURL(`${lms}/course/bread`);
  await expect(page.getByRole('link', { name: 'Flour and salt' })).toBeVisible();

  // a learner is known by name, and what is begun on one device goes on on another
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await openAs(phone, lms, 'Flour and salt', 'Ada Brandt');
  await expect(phone.getByText('You are Ada Brandt.')).toBeVisible();
  expect(phone.url()).not.toContain('launch');
  await phone.getByRole('button', { name: 'Begin' }).click();
  await phone.getByLabel('rye', { exact: true }).check();
  await phone.getByRole('button', { name: 'Next' }).click();
  await expect(phone.getByText(/kept/).first()).toBeVisible();
  await phone.waitForTimeout(1500);
  const desk = await (await browser.newContext()).newPage();
  await openAs(desk, lms, 'Flour and salt', 'Ada Brandt');
  await desk.getByRole('button', { name: 'Go on' }).click();
  await expect(desk.getByLabel('rye', { exact: true })).toBeChecked();
  await desk.getByRole('button', { name: 'Next' }).click();
  await desk.getByLabel('False', { exact: true }).check();
  await desk.getByRole('button', { name: 'Next' }).click();
  await desk.getByRole('button', { name: 'Hand in' }).click();
  await expect(desk.getByText('1 of 2').first()).toBeVisible();

  // the grade is in the course, and the teacher who opens the link there comes to the results
  await expect(async () => {
    await page.goto(`${lms}/course/bread`);
    await expect(page.getByRole('columnheader', { name: 'Flour and salt (of 2)' })).toBeVisible();
    await expect(page.getByRole('row', { name: /^Ada Brandt .*\b1$/ })).toBeVisible({ timeout: 500 });
  }).toPass();
  await openAs(page, lms, 'Flour and salt', 'Mary Okafor (teaches)');
  await expect(page.getByRole('row', { name: /Ada Brandt/ })).toBeVisible();
  const course = page.getByRole('region', { name: 'In courses' });
  await expect(course.getByText('one score has arrived')).toBeVisible();
  await course.getByRole('button', { name: 'Who has not handed in?' }).click();
  await expect(course.getByText('28 of 29 have not:')).toBeVisible();
});
