/** What shows where the system paints over all colours: states that are told by a ground alone would be lost. */
import type { Page } from '@playwright/test';

/** What of a screen is lost in forced colours, in words; empty where nothing is. */
export async function lostInForcedColours(page: Page): Promise<string[]> {
  await page.emulateMedia({ forcedColors: 'active' });
  const lost = await page.evaluate(() => {
    const STATES =
      '[data-highlighted], [aria-pressed="true"], [aria-selected="true"], [aria-current]:not([aria-current="false"]), [role="tab"][data-state="active"]';
    const nameOf = (e: Element): string => `${e.tagName.toLowerCase()} “${(e.getAttribute('aria-label') ?? e.textContent ?? '').trim().slice(0, 40)}”`;
    const out: string[] = [];
    for (const e of document.querySelectorAll(STATES))
      if (e.checkVisibility() && getComputedStyle(e).outlineStyle === 'none') out.push(`its state does not show: ${nameOf(e)}`);
    // a bar is a box with a width of its own and nothing in it, on a ground
    const probe = document.createElement('span');
    probe.style.color = 'Canvas';
    document.body.append(probe);
    const ground = getComputedStyle(probe).color;
    probe.remove();
    // (one without a class is of the formula editor)
    for (const e of document.querySelectorAll<HTMLElement>('[class][style*="width"]')) {
      if (e.children.length || e.textContent || !e.style.width.endsWith('%') || e.getBoundingClientRect().width < 4 || !e.checkVisibility()) continue;
      if (getComputedStyle(e).backgroundColor === ground) out.push(`a bar does not show: ${e.className}`);
    }
    const focused = document.activeElement;
    if (
      focused &&
      focused !== document.body &&
      focused.matches(':focus-visible') &&
      !focused.matches('[role="dialog"], [tabindex="-1"], textarea, input, select, [contenteditable]')
    ) {
      const { outlineStyle } = getComputedStyle(focused);
      if (outlineStyle === 'none') out.push(`where the keyboard is does not show: ${nameOf(focused)}`);
    }
    return out;
  });
  await page.emulateMedia({ forcedColors: 'none' });
  return [...new Set(lost)];
}
