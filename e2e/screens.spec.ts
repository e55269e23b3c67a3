/** Every screen: axe finds nothing in either theme, and from 320 to 2560 px nothing scrolls sideways, is cut off or lies over something else. */
import path from 'node:path';
import { clean } from './clean.js';
import { faint } from './contrast.js';
import { laidOut } from './layout.js';
import { expect, type Page, test } from './test.js';
import { colleague, signIn } from './people.js';

const corpus = path.join(import.meta.dirname, '../packages/documents/corpus');

/** Opens a stage of a set by its title. */
const opener =
  (page: Page) =>
  async (title: string, stage: string): Promise<void> => {
    await page.goto('/');
    const href = (await page.getByRole('link', { name: title }).getAttribute('href')) ?? '';
    await page.goto(href.replace(/\/\w+$/, `/${stage}`));
  };

// the slowest of all: each walk on a worker of its own
test.describe.configure({ mode: 'parallel' });
test('nothing is wrong with any screen of drafting', async ({ page }) => {
  test.setTimeout(1_200_000);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await clean(page, 'sign-in');
  await signIn(page);
  await clean(page, 'sets');
  await page.getByRole('button', { name: 'New set' }).click();
  await clean(page, 'new set');
  await page.keyboard.press('Escape');
  const open = opener(page);
  await open('Knife skills', 'draft');
  await expect(page.getByText('9 questions read')).toBeVisible();
  await clean(page, 'draft');
  await page.getByRole('textbox', { name: 'Draft' }).press('Alt+Enter');
  await clean(page, 'role menu');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Notation' }).click();
  await expect(page.getByRole('dialog', { name: 'The notation' })).toBeVisible();
  await clean(page, 'notation, at hand');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Sources' }).click();
  await expect(page.getByRole('region', { name: 'Sources' })).toBeVisible();
  await clean(page, 'sources');
  await page.getByLabel('Files to open').setInputFiles(path.join(corpus, 'given/table-29-water-all-columns.xlsx'));
  await expect(page.getByText('8 items', { exact: true })).toBeVisible();
  await clean(page, 'columns of a table');
  await page.keyboard.press('Escape');
  await page.getByLabel('Files to open').setInputFiles(['habits/bold-auto.docx', 'habits/two-columns.pdf'].map((f) => path.join(corpus, f)));
  await expect(page.getByRole('button', { name: 'Take what was read' })).toBeEnabled();
  await clean(page, 'opening files');
  await page.keyboard.press('Escape');
  await page.goto('/assistant');
  await page.getByText('Which assistant, and who may ask how much').click();
  await clean(page, 'assistant');
  await open('Sourdough, week two', 'check/languages?in=es');
  await page.getByRole('listitem', { name: 'Title of the set' }).click();
  await page.keyboard.press('Enter');
  await clean(page, 'languages');
  await open('Sourdough, week two', 'draft/request');
  await page.getByLabel('The topic').fill('Salt');
  await page.getByText('Outcomes, levels of thinking').click();
  await expect(page.getByText(/characters, about/)).toBeVisible();
  await clean(page, 'asking for a draft');
  await page.getByLabel('The reply').fill('1. Is salt a mineral?\nAnswer: true');
  await page.getByRole('button', { name: 'Keep it to compare' }).click();
  await page.getByRole('link', { name: /draft.* kept/ }).click();
  await expect(page.getByRole('table')).toBeVisible();
  await clean(page, 'drafts side by side');
  await open('Words on the menu', 'text');
  await expect(page.getByText('20 unchanged')).toBeVisible();
  await clean(page, 'text');
  await page.goto('/notation');
  await expect(page.getByRole('heading', { name: 'The notation' })).toBeVisible();
  await clean(page, 'notation');
});

test('nothing is wrong with any screen of checking, arranging and the bank', async ({ page }) => {
  test.setTimeout(1_200_000);
  await signIn(page);
  const open = opener(page);
  await open('Scaling recipes', 'check');
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.keyboard.press('e');
  await expect(page.getByRole('textbox', { name: 'Question', exact: true })).toBeVisible();
  await page.getByText('Part, tags and settings').click();
  await clean(page, 'check, editing');
  await page.getByRole('textbox', { name: 'Question', exact: true }).click();
  await page.getByRole('button', { name: 'Formula', exact: true }).click();
  await expect(page.locator('math-field')).toBeVisible();
  await clean(page, 'formula');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await page.getByRole('button', { name: /Done/ }).click();
  await page.keyboard.press('t');
  await clean(page, 'check, trying');
  await open('Scaling recipes', 'check');
  await expect(page.getByRole('article').first()).toBeVisible();
  await page.keyboard.press('w');
  await page.getByLabel('The reply').fill('1. How many grams are 2 kilograms?\nAnswer: 2000 g');
  await expect(page.getByText(/the reply|Nothing in the reply|proposal/).last()).toBeVisible();
  await clean(page, 'rework');
  await open('Sourdough, week two', 'check');
  await expect(page.getByRole('complementary', { name: 'Findings' }).getByText('The source says otherwise')).toBeVisible();
  await page.getByText(/^Reads like year/).click();
  await page.getByLabel('Mark hard words and long sentences').check();
  await page.locator('main').click({ position: { x: 4, y: 300 } });
  await page.keyboard.press('g');
  await expect(page.getByRole('region', { name: 'What the source says' })).toBeVisible();
  await clean(page, 'check, with evidence');
  for (const [key, name] of [
    ['h', 'History of the set'],
    ['r', 'Find and replace'],
    ['b', 'Change 1 item'],
    ['p', 'As learners see it'],
    ['?', 'Shortcuts'],
    ['F1', 'Help: Check'],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page.getByRole('dialog', { name })).toBeVisible();
    if (key === 'h') await page.getByRole('button', { name: /^The beginning/ }).click();
    await clean(page, name);
    await page.keyboard.press('Escape');
  }
  await clean(page, 'chosen items');
  await page.getByRole('button', { name: 'Choose none' }).click();
  await page.getByRole('button', { name: 'How it is checked' }).click();
  await page.getByText(/^The \d+ rules/).click();
  await clean(page, 'how it is checked');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await expect(page.getByPlaceholder(/Type a few letters/)).toBeVisible();
  await clean(page, 'palette');
  await page.keyboard.press('Escape');
  await open('Stocks and sauces', 'arrange');
  await expect(page.getByRole('list', { name: 'Items in order' })).toBeVisible();
  await clean(page, 'arrange');
  await page.getByRole('link', { name: /^Versions/ }).click();
  await page.getByRole('button', { name: 'Draw versions' }).click();
  await expect(page.getByText('2 versions drawn.')).toBeVisible();
  await clean(page, 'versions');
  await page.getByRole('button', { name: 'Item 1 of version A: exchange' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  await clean(page, 'exchange');
  await page.keyboard.press('Escape');
  await page.goto('/bank?q=salt');
  await expect(page.getByRole('region', { name: 'Items found' }).getByRole('listitem').first()).toBeVisible();
  await page
    .getByRole('checkbox', { name: /^Choose/ })
    .first()
    .check();
  await clean(page, 'bank');
  await page.getByRole('button', { name: /Take into a set/ }).click();
  await clean(page, 'taking');
  await page.keyboard.press('Escape');
  await page.goto('/bank/near');
  await expect(page.getByRole('article').first()).toBeVisible();
  await clean(page, 'asked nearly the same');
  await page.goto('/?folder=none');
  await page.getByRole('treeitem', { name: /^Bread and Dough/ }).click();
  await page
    .getByRole('checkbox', { name: /^Choose “/ })
    .first()
    .check();
  await clean(page, 'a folder with a set chosen');
  await page.getByRole('button', { name: 'More for “Stocks and sauces”' }).click();
  await page.getByRole('menuitem', { name: 'Share' }).click();
  await expect(page.getByRole('button', { name: 'Save' })).toBeVisible();
  await clean(page, 'sharing');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Sample sets' }).click();
  await expect(page.getByRole('button', { name: 'Take “The first loaf”' })).toBeVisible();
  await clean(page, 'samples');
  await page.keyboard.press('Escape');
});

test('nothing is wrong with any screen of delivery and results', async ({ page }) => {
  test.setTimeout(1_200_000);
  await signIn(page);
  const open = opener(page);
  await open('Starters and proofing', 'deliver');
  await expect(page.getByText('BREAD7', { exact: true })).toBeVisible();
  await clean(page, 'deliver');
  await page.getByRole('button', { name: 'Who, when and how …' }).click();
  await page.getByLabel('Mark each answer at once').check();
  await clean(page, 'rules of a quiz');
  await page.getByLabel('Who comes in').selectOption('personal');
  await page.getByRole('button', { name: 'Classes …' }).click();
  await page.getByRole('button', { name: 'New class' }).click();
  await page.getByLabel('People').fill('Ada Brandt\nBéla Çelik');
  await page.getByRole('button', { name: 'Put them on the list' }).click();
  await clean(page, 'class');
  await page.getByRole('dialog', { name: 'New class' }).getByRole('button', { name: 'Cancel' }).click();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.goto(`${page.url().split('?')[0] ?? ''}?to=paper`);
  await page.getByLabel('Form', { exact: true }).selectOption('pdf-questions');
  await page.getByRole('button', { name: 'Look at the pages' }).click();
  await expect(page.getByText(/It fits/)).toBeVisible();
  await clean(page, 'pages');
  await page.keyboard.press('Escape');
  await page.goto(`${page.url().split('?')[0] ?? ''}?to=slides`);
  await page.getByRole('button', { name: 'Show them here, full screen' }).click();
  await expect(page.getByRole('region', { name: /^Slide 1 of/ })).toBeVisible();
  await page.keyboard.press('1');
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('img', { name: 'key' }).first()).toBeVisible();
  await clean(page, 'slides');
  await page.keyboard.press('Escape');
  await page.goto('/table');
  await page.getByLabel(/Or paste it/).fill('Name\tWhich?\tHow hot?\nKey\trye\t220\nAda\tRye\t220\nOtto\toat\t100');
  await clean(page, 'a table to mark');
  await page.getByRole('button', { name: 'Mark what was pasted' }).click();
  await expect(page.getByText('points on average')).toBeVisible();
  await clean(page, 'a marked table');
  await open('Starters and proofing', 'results');
  await expect(page.getByText('reliability (α)')).toBeVisible();
  await clean(page, 'results');
  for (const view of ['Scores', 'Groups', 'To talk over']) {
    await page.getByRole('button', { name: view, exact: true }).click();
    await clean(page, view);
  }
  await page.getByRole('button', { name: 'Learners and items' }).click();
  await page.getByRole('button', { name: 'Ada Brandt', exact: true }).click();
  await clean(page, 'a paper');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Hand over …' }).click();
  await page.getByLabel('Headings and rows of your sheet').fill('Name\tPoints\nAda Brandt\t\n');
  await clean(page, 'results handed over');
  await page.keyboard.press('Escape');
  await page.goto(`${page.url().split('?')[0] ?? ''}?live=1`);
  await expect(page.getByRole('region', { name: 'Class at work' })).toBeVisible();
  await clean(page, 'class at work');
  await page.goto('/people?words=Ada');
  await expect(page.getByRole('table')).toBeVisible();
  await clean(page, 'what is kept of people');
  await open('Starters and proofing', 'results/marking');
  await expect(page.getByRole('list', { name: 'Rubric' })).toBeVisible();
  await clean(page, 'an essay to mark');
  await page.getByRole('navigation', { name: 'Items' }).getByRole('button', { name: /^14/ }).click();
  await page.keyboard.press('1');
  await expect(page.getByRole('region', { name: 'About to be decided' })).toBeVisible();
  await clean(page, 'answers put together');
  await page.getByRole('button', { name: 'Discard' }).click();
  await page.getByRole('button', { name: /^What was decided/ }).click();
  await clean(page, 'what was decided');
  await open('Starters and proofing', 'results/sheets');
  await expect(page.getByRole('main')).toBeVisible();
  await clean(page, 'answer sheets');
});

test('nothing is wrong with any screen of learners', async ({ page }) => {
  test.setTimeout(1_200_000);
  await page.goto('/t');
  await page.getByRole('button', { name: 'Reading' }).click();
  await clean(page, 'enter');
  await page.goto('/t/BREAD7');
  await page.getByLabel('Your name').fill('Axe');
  await clean(page, 'welcome');
  await page.getByRole('button', { name: 'Begin' }).click();
  for (let i = 0; i < 20; i++) {
    await expect(page.locator('.stem')).toBeVisible();
    if ([0, 5, 7, 11, 16, 17, 19].includes(i)) await clean(page, `question ${i + 1}`);
    await page.getByRole('button', { name: 'Next' }).click();
  }
  await clean(page, 'before handing in');
  await page.getByRole('button', { name: 'Hand in' }).click();
  await expect(page.getByRole('heading', { name: 'Handed in' })).toBeVisible();
  await clean(page, 'outcome');
});

test('nothing is wrong with learners’ pages at 200 %, where half of a small screen is left', async ({ page }) => {
  await page.setViewportSize({ width: 640, height: 400 });
  await page.goto('/t/BREAD7');
  await page.getByLabel('Your name').fill('Zoom');
  await clean(page, 'welcome at 200 %');
  await page.getByRole('button', { name: 'Begin' }).click();
  for (let i = 0; i < 20; i++) {
    await expect(page.locator('.stem')).toBeVisible();
    if ([0, 11, 17].includes(i)) await clean(page, `question ${i + 1} at 200 %`);
    const over = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
    expect([i, over <= 0]).toEqual([i, true]);
    await page.getByRole('button', { name: 'Next' }).click();
  }
  await clean(page, 'before handing in at 200 %');
});

test('what is planted is found: words cut off, things over one another, too wide, too faint', async ({ page }) => {
  await page.setContent(`<main>
    <p style="width: 60px; overflow: hidden; white-space: nowrap">Words that are too long</p>
    <button style="position: absolute; left: 0; top: 100px">One button</button>
    <button style="position: absolute; left: 20px; top: 105px">Another button</button>
    <p style="margin-top: 150px; color: #999; background: #fff">Faint words</p>
    <div style="width: 3000px">Far out</div>
  </main>`);
  expect(await faint(page)).toEqual([expect.stringMatching(/^contrast 2\.8\d: p “Faint words”/)]);
  const found = await laidOut(page, 'planted');
  for (const what of ['scrolls sideways by', 'cut: p “Words that are too long”', 'over one another: button “One button” and button “Another button”'])
    expect(found.some((f) => f.startsWith('planted, 320 px: ') && f.includes(what))).toBe(true);
});

test('nothing is wrong with any screen of accounts and administration', async ({ page, browser }) => {
  test.setTimeout(600_000);
  await page.goto('/');
  await page.getByRole('button', { name: 'Make an account' }).click();
  await clean(page, 'a link for an account');
  await page.goto('/link/nowhere');
  await expect(page.getByRole('alert')).toContainText('leads nowhere');
  await clean(page, 'a link that leads nowhere');
  await signIn(page);
  await page.goto('/administration');
  await page.getByLabel('Mail addresses').fill('pia.kessler@saltmarsh.example');
  await page.getByRole('button', { name: 'Invite', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Invitations that are open' })).toBeVisible();
  await clean(page, 'members');
  await page.getByRole('button', { name: 'Remove L. Brandt' }).click();
  await clean(page, 'removing a member');
  await page.keyboard.press('Escape');
  for (const [part, seen] of [
    ['What happened', 'Filter'],
    ['How it stands', 'What is kept'],
    ['The workspace', 'Delete the workspace'],
  ] as const) {
    await page.getByRole('tab', { name: part }).click();
    await expect(page.getByRole(part === 'What happened' ? 'search' : 'region', { name: seen })).toBeVisible();
    await clean(page, part);
  }
  const hers = await colleague(browser);
  await hers.goto('/account');
  await expect(hers.getByRole('region', { name: 'Codes beside the password' })).toBeVisible();
  await clean(hers, 'account');
  await hers.getByRole('button', { name: 'Ask for codes' }).click();
  await hers.getByRole('dialog').getByLabel('Password').fill('rye and salt');
  await hers.getByRole('button', { name: 'Go on' }).click();
  await expect(hers.getByRole('img', { name: 'The secret as a QR code' })).toBeVisible();
  await clean(hers, 'a device for codes');
});
