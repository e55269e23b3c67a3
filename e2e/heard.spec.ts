/** What a screen reader gets: the tree of each stage, and what is said when something happens that others see. */
import { newSet, signIn } from './people.js';
import { expect, type Page, test } from './test.js';

const DRAFT = '1. Which grain has no gluten?\na) rye\nb) rice *\nc) spelt\n\n2. Salt is sweet. (F)\n\n3. How many grams are a kilogram?\nAnswer: 1000 g';

/** Keeps the texts of live regions as they change, as a screen reader would speak them. */
async function listen(page: Page): Promise<() => Promise<string[]>> {
  await page.addInitScript(() => {
    const LIVE = '[role="status"], [role="alert"], [aria-live]:not([aria-live="off"])';
    const heard: string[] = [];
    Object.assign(globalThis, { heard });
    new MutationObserver((changes) => {
      for (const { target } of changes) {
        const e = target instanceof Element ? target : target.parentElement;
        const region = e?.closest(LIVE);
        const words = (region?.textContent ?? '').replace(/\s+/g, ' ').trim();
        if (words && heard.at(-1) !== words) heard.push(words);
      }
    }).observe(document, { subtree: true, childList: true, characterData: true });
  });
  return () => page.evaluate(() => (globalThis as unknown as { heard: string[] }).heard);
}

test('each stage has its landmarks, its heading and names for its lists; what is done is said', async ({ page }) => {
  const heard = await listen(page);
  const says = async (words: RegExp): Promise<void> => {
    await expect.poll(async () => (await heard()).some((h) => words.test(h)), { message: `“${words.source}” is said` }).toBe(true);
  };
  await signIn(page);
  await newSet(page, 'Heard', DRAFT);
  await says(/^3 questions · 3 options · 3 keys/);
  await page.getByRole('button', { name: 'Take 3 items to Check' }).click();
  await expect(page.getByRole('article')).toHaveCount(3);
  const stages = page.getByRole('navigation', { name: 'Stages' });
  await expect(page.locator('body')).toMatchAriaSnapshot(`
    - banner:
      - button "Skip to the content"
      - link "zakuska"
      - heading "Heard" [level=1]
    - navigation "Stages":
      - link "Draft 3 taken"
      - link "Check 0 of 3 checked"
      - link "Arrange one order"
      - link "Deliver –"
      - link "Results –"
    - region "Key strip":
      - group "Keys of the set":
        - 'button "Item 1: key B, not checked"'
        - 'button "Item 2: key F, not checked"'
        - 'button "Item 3: key 1000, not checked"'
    - region "Which items":
      - textbox "Words in the items"
      - combobox "State"
      - combobox "Kind"
    - main:
      - region "Items":
        - article "Item 1, not checked":
          - checkbox "Choose item 1"
          - list "Options":
            - listitem: A rye
            - listitem: "B , the key: rice"
            - listitem: C spelt
        - article "Item 2, not checked"
        - article "Item 3, not checked"
      - complementary "Findings"
    - contentinfo
  `);
  await expect(stages.getByRole('link', { name: /^Check/ })).toHaveAttribute('aria-current', /.+/);
  await page.keyboard.press('c');
  await says(/^1 of 3 checked\./);
  await expect(page.getByRole('article', { name: 'Item 1, checked' })).toBeVisible();
  await page.keyboard.press('x');
  await says(/^1 of 2 checked\./);
  await page.keyboard.press('u');
  await says(/^saved$/);

  await stages.getByRole('link', { name: /^Draft/ }).click();
  await expect(page.locator('body')).toMatchAriaSnapshot(`
    - main:
      - region "Draft text":
        - textbox "Draft"
    - region "Reading of the line"
    - contentinfo:
      - status: /3 questions · 3 options · 3 keys/
      - button /Take \\d items to Check/
  `);
  // a landmark with nothing in it only costs whoever walks through them
  await expect(page.getByRole('complementary')).toHaveCount(0);
  await stages.getByRole('link', { name: /^Arrange/ }).click();
  await expect(page.locator('body')).toMatchAriaSnapshot(`
    - navigation "Arrange":
      - link "Order"
    - main:
      - list "Items in order":
        - listitem:
          - checkbox "Choose item 1"
          - 'button "Move up: item 1" [disabled]'
          - 'button "Move down: item 1"'
  `);
  await stages.getByRole('link', { name: /^Deliver/ }).click();
  await expect(page.locator('body')).toMatchAriaSnapshot(`
    - main:
      - table "What each item becomes at each destination":
        - rowgroup:
          - row:
            - columnheader "Number"
            - columnheader "Item"
            - columnheader "Own quiz link and code":
              - button "Own quiz link and code" [pressed]
      - complementary "Own quiz":
        - heading "Own quiz" [level=2]
        - region "Before it goes"
        - combobox "Learners see after handing in"
        - button "Publish 3 items"
  `);
  await page.getByRole('button', { name: 'Publish 3 items' }).click();
  const code = (await page.locator('[data-code]').first().innerText()).trim();
  await stages.getByRole('link', { name: /^Results/ }).click();
  await expect(page.getByRole('main').getByRole('heading').first()).toBeVisible();

  // a learner: where one is, what is kept, and what came of it
  await page.goto(`/t/${code}`);
  await page.getByLabel('Your name').fill('Ada Brook');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.locator('body')).toMatchAriaSnapshot(`
    - main:
      - heading "Heard · Ada Brook" [level=1]
      - button "Not Ada Brook?"
      - paragraph: Question 1 of 3, 1 point
      - group "Which grain has no gluten?":
        - radio "rye"
        - radio "rice"
        - radio "spelt"
    - button "Back" [disabled]
    - status
    - button "Next"
  `);
  await page.getByRole('radio', { name: 'rice' }).check();
  await says(/^kept$/);
  await page.getByRole('button', { name: 'Next' }).click();
  await page.getByRole('radio', { name: 'False' }).check();
  await page.getByRole('button', { name: 'Next' }).click();
  await page.getByRole('textbox').fill('1000');
  await page.getByRole('button', { name: 'Next' }).click();
  await page.getByRole('button', { name: 'Hand in' }).click();
  await expect(page.getByRole('heading', { name: 'Handed in' })).toBeFocused();
  await expect(page.locator('body')).toMatchAriaSnapshot(`
    - main:
      - heading "Handed in" [level=2]
      - paragraph: 3 of 3 points (100 %)
  `);
});
