/** The whole job by keyboard alone, from a messy draft on the clipboard to a quiz that is published, where little of a screen is left. */
import { readFileSync } from 'node:fs';
import { documentOf, signIn } from './people.js';
import { expect, type Page, test } from './test.js';

const DRAFT = readFileSync(new URL('./fixtures/messy.txt', import.meta.url), 'utf8');
/** From "New set" to twenty checked items with points, that must be answered, shuffled. */
const MOST_ACTIONS = 25;

/** A person at the keyboard: each key, and each value that is typed, is one action. */
class Typist {
  actions = 0;
  constructor(private readonly page: Page) {}
  async press(...keys: string[]): Promise<void> {
    for (const key of keys) {
      this.actions++;
      await this.page.keyboard.press(key);
    }
  }
  async type(words: string): Promise<void> {
    this.actions++;
    await this.page.keyboard.type(words);
  }
  /** Tab until what has the focus is called so. */
  async tabTo(name: RegExp): Promise<void> {
    const focused = (): Promise<string> =>
      this.page.evaluate(() => {
        const e = document.activeElement as HTMLElement | null;
        return e?.getAttribute('aria-label') ?? (e as HTMLInputElement | null)?.labels?.[0]?.textContent ?? e?.textContent ?? '';
      });
    for (let n = 0; n < 120; n++) {
      if (name.test((await focused()).trim())) return;
      await this.press('Tab');
    }
    throw new Error(`No Tab leads to ${String(name)}.`);
  }
  /** An action by its name, from any place. */
  async palette(words: string): Promise<void> {
    await this.press('Control+k');
    await expect(this.page.getByPlaceholder(/Type a few letters/)).toBeFocused();
    await this.type(words);
    await this.press('Enter');
  }
}

for (const [where, width, height] of [
  ['a tablet upright', 768, 1024],
  ['1280 × 800 at 200 %', 640, 400],
] as const)
  test(`pasted, checked and published by keyboard, on ${where}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await signIn(page);
    await page.evaluate((t) => navigator.clipboard.writeText(t), DRAFT);
    const hands = new Typist(page);
    await hands.press('n');
    await expect(page.getByLabel('Title')).toBeFocused();
    await hands.type(`By hand on ${width}`);
    await hands.press('Enter');
    await expect(page.getByRole('textbox', { name: 'Draft' })).toBeFocused();
    await hands.press('Control+v');
    await expect(page.getByRole('button', { name: 'Take 20 items to Check' })).toBeEnabled();
    await hands.press('Control+Enter');
    await expect(page.getByRole('article').first()).toBeVisible();
    // the one that has no key yet
    await hands.press('n', '2');
    await hands.press('a', 'b');
    await expect(page.getByLabel('Points of each')).toBeFocused();
    await hands.type('2');
    await hands.press('Tab', 'ArrowDown', 'Tab', 'ArrowDown');
    await expect(page.getByLabel('Must be answered')).toHaveValue('yes');
    await expect(page.getByRole('dialog').getByLabel('Options', { exact: true })).toHaveValue('yes');
    await hands.press('Control+Enter');
    await hands.press('Shift+C');
    await expect(page.getByText('20 checked · 0 not yet')).toBeVisible();
    const set = /sets\/([^/]+)/.exec(page.url())?.[1] ?? '';
    const { set: made, reviews } = await documentOf(page, set);
    expect(made.items.map((i) => [i.points, i.required, reviews[i.id]?.state])).toEqual(Array.from({ length: 20 }, () => [2, true, 'checked']));
    expect(made.items.filter((i) => i.kind === 'multiple-choice').every((i) => i.shuffle)).toBe(true);
    expect(hands.actions).toBeLessThanOrEqual(MOST_ACTIONS);

    await hands.palette('Go to Deliver');
    await expect(page.getByRole('heading', { name: 'Own quiz' })).toBeVisible();
    await hands.tabTo(/^Publish 20 items/);
    await hands.press('Enter');
    await expect(page.getByText('Entry code', { exact: true })).toBeVisible();
    await hands.tabTo(/^Copy link/);
    await hands.press('Enter');
    const link = await page.evaluate(() => navigator.clipboard.readText());
    expect((await page.request.get(link)).ok()).toBe(true);
  });
