/** What is wrong with a screen: nothing, says axe, and nothing in its colours in both themes, in forced colours, and in how it is laid out from a small phone to a large desk. */
import { AxeBuilder } from '@axe-core/playwright';
import { faint } from './contrast.js';
import { lostInForcedColours } from './forcedColours.js';
import { laidOut } from './layout.js';
import { expect, type Page } from './test.js';

type Theme = 'light' | 'dark';
/** What a theme changes: colours. All other rules are asked of the light one alone. */
const COLOURS = ['color-contrast', 'link-in-text-block'];
/** What axe says of colours takes most of all time: in each run it judges a quarter of the screens, in one theme, after our own look at the contrast of all; by command (ZAKUSKA_THEMES=both) all in both. */
const NONE: readonly Theme[] = [];
const judgedNow = (): readonly Theme[] =>
  process.env['ZAKUSKA_THEMES'] === 'both'
    ? ['light', 'dark']
    : (([...Array.from({ length: 6 }, () => NONE), ['light'], ['dark']] as const)[Math.floor(Math.random() * 8)] ?? NONE);

/** Each run looks at a quarter of the screens, at random; by command at all. */
const leftOut = (): boolean => process.env['ZAKUSKA_THEMES'] !== 'both' && Math.random() < 3 / 4;

/** Looks at the screen as it is, in both themes and at all widths. */
export async function clean(page: Page, what: string): Promise<void> {
  if (leftOut()) return;
  const judged = judgedNow();
  // in one go in the page itself: half as long as frame by frame, and no screen has a frame of another origin
  // and without the places of all that is right, which takes half of the time
  const axe = (): AxeBuilder => new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
  const told: string[] = [];
  const tell = (theme: Theme, { violations }: { violations: { id: string; nodes: { target: unknown[] }[] }[] }): void => {
    for (const v of violations) {
      const places = v.nodes.slice(0, 3).map((n) => n.target.join(' '));
      told.push(`${what}, ${theme}: ${v.id} ${places.join(' | ')}`);
    }
  };
  const all = axe().withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']);
  tell('light', await (judged.includes('light') ? all : all.disableRules(COLOURS)).analyze());
  told.push(...(await faint(page)).map((f) => `${what}, light: ${f}`));
  await page.emulateMedia({ colorScheme: 'dark' });
  // colours go over from one to the other; what blinks for ever is not waited for
  await page.evaluate(() =>
    Promise.all(document.getAnimations().flatMap((a) => (a.effect?.getComputedTiming().endTime === Infinity ? [] : [a.finished.catch(() => undefined)]))),
  );
  if (judged.includes('dark')) tell('dark', await axe().withRules(COLOURS).analyze());
  told.push(...(await faint(page)).map((f) => `${what}, dark: ${f}`));
  await page.emulateMedia({ colorScheme: 'light' });
  told.push(...(await lostInForcedColours(page)).map((f) => `${what}, forced colours: ${f}`));
  expect([...told, ...(await laidOut(page, what))]).toEqual([]);
}
