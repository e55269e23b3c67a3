/** What axe says of a screen, in both themes: nothing. */
import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page } from './test.js';

/** What a theme changes: colours. All other rules are asked of the light one alone. */
const COLOURS = ['color-contrast', 'link-in-text-block'];

/** Looks at the screen in the light theme, then at its colours in the dark one. */
export async function clean(page: Page, what: string): Promise<void> {
  // in one go in the page itself: half as long as frame by frame, and no screen has a frame of another origin
  // and without the places of all that is right, which takes half of the time
  const axe = (): AxeBuilder => new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
  const light = await axe().withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']).analyze();
  await page.emulateMedia({ colorScheme: 'dark' });
  // colours go over from one to the other; what blinks for ever is not waited for
  await page.evaluate(() =>
    Promise.all(document.getAnimations().flatMap((a) => (a.effect?.getComputedTiming().endTime === Infinity ? [] : [a.finished.catch(() => undefined)]))),
  );
  const dark = await axe().withRules(COLOURS).analyze();
  await page.emulateMedia({ colorScheme: 'light' });
  const told = (theme: string, r: typeof light): string[] =>
    r.violations.map(
      (v) =>
        `${what}, ${theme}: ${v.id} ${v.nodes
          .map((n) => n.target.join(' '))
          .slice(0, 3)
          .join(' | ')}`,
    );
  expect([...told('light', light), ...told('dark', dark)]).toEqual([]);
}
