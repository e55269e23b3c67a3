/** How a screen is laid out at a width: nothing scrolls sideways, lies over something else or is cut off, and there is one main region. */
import type { Page } from '@playwright/test';

/** From a small phone to a large desk; 640 is what a screen of 1280 leaves at 200 %. In each run every screen is looked at in both widths of the first row and in one of each other row; by command (ZAKUSKA_THEMES=both) in all. */
const WIDTHS = [
  [320, 1280],
  [390, 640],
  [768, 2560],
] as const;
const widthsNow = (): readonly number[] =>
  process.env['ZAKUSKA_THEMES'] === 'both' ? WIDTHS.flat() : [...WIDTHS[0], ...WIDTHS.slice(1).map((two) => two[Math.floor(Math.random() * 2)] ?? two[0])];

/** What is wrong with the layout as it stands, in words; empty where nothing is. Runs in the page. */
function faultsIn(): string[] {
  const SLACK = 3;
  type Box = { left: number; top: number; right: number; bottom: number };
  const visible = (e: Element): boolean => e.checkVisibility({ opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true });
  const dialogs = [...document.querySelectorAll<HTMLElement>('[role="dialog"], [role="alertdialog"], [role="menu"], [role="listbox"]')].filter(visible);
  const top = dialogs.findLast((d) => !dialogs.some((o) => o !== d && d.contains(o))) ?? document.body;
  const out: string[] = [];
  const over = document.documentElement.scrollWidth - innerWidth;
  if (over > 0) {
    const farthest = [...document.querySelectorAll('body *')].reduce((a, b) => (b.getBoundingClientRect().right > a.getBoundingClientRect().right ? b : a));
    out.push(`scrolls sideways by ${over}, as far as ${farthest.tagName.toLowerCase()} ${farthest.className}`);
  }
  if (document.querySelectorAll('main').length !== 1) out.push('not one main region');

  const meet = (a: Box, b: Box): Box => ({
    left: Math.max(a.left, b.left),
    top: Math.max(a.top, b.top),
    right: Math.min(a.right, b.right),
    bottom: Math.min(a.bottom, b.bottom),
  });
  const wide = (b: Box): number => b.right - b.left;
  const high = (b: Box): number => b.bottom - b.top;
  const styles = new Map<Element, CSSStyleDeclaration>();
  const styleOf = (e: Element): CSSStyleDeclaration => {
    const known = styles.get(e) ?? getComputedStyle(e);
    styles.set(e, known);
    return known;
  };
  /** What of a box shows, and whether it is cut where nobody can scroll to the rest. */
  const shownOf = (box: Box, from: Element): { box: Box; cut: boolean } => {
    let shown = box;
    let cut = false;
    let movesX = false;
    let movesY = false;
    for (let e: Element | null = from; e && e !== document.documentElement; e = e.parentElement) {
      const s = styleOf(e);
      if (s.overflowX !== 'visible' || s.overflowY !== 'visible') {
        const r = e.getBoundingClientRect();
        const scrollsX = s.overflowX === 'auto' || s.overflowX === 'scroll';
        const scrollsY = s.overflowY === 'auto' || s.overflowY === 'scroll';
        if (!scrollsX && s.overflowX !== 'visible' && !movesX && (box.left < r.left - SLACK || box.right > r.right + SLACK)) cut = true;
        if (!scrollsY && s.overflowY !== 'visible' && !movesY && (box.top < r.top - SLACK * 2 || box.bottom > r.bottom + SLACK * 2)) cut = true;
        movesX ||= scrollsX;
        movesY ||= scrollsY;
        shown = meet(shown, r);
      }
      if (s.position === 'fixed') {
        if (!movesX && (box.left < -SLACK || box.right > innerWidth + SLACK)) cut = true;
        if (!movesY && (box.top < -SLACK || box.bottom > innerHeight + SLACK)) cut = true;
        break;
      }
    }
    if (!movesX && (box.left < -SLACK || box.right > innerWidth + SLACK)) cut = true;
    return { box: meet(shown, { left: 0, top: 0, right: innerWidth, bottom: innerHeight }), cut };
  };
  /** What stays in its place over what scrolls below it may lie over that. */
  const layerOf = (e: Element): Element | null => {
    for (let x: Element | null = e; x; x = x.parentElement) if (/^(?:fixed|sticky)$/.test(styleOf(x).position)) return x;
    return null;
  };
  const unseen = (e: Element): boolean => {
    for (let x: Element | null = e; x && x !== document.body; x = x.parentElement) {
      const s = styleOf(x);
      if ((s.clipPath !== 'none' && s.position === 'absolute') || x.tagName === 'CANVAS') return true;
    }
    return false;
  };
  const nameOf = (e: Element, words: string): string => `${e.tagName.toLowerCase()} “${words.trim().replace(/\s+/g, ' ').slice(0, 40)}”`;

  interface Thing {
    name: string;
    element: Element;
    box: Box;
    layer: Element | null;
  }
  const texts: Thing[] = [];
  const walk = document.createTreeWalker(top, NodeFilter.SHOW_TEXT);
  for (let n = walk.nextNode(); n; n = walk.nextNode()) {
    const words = n.nodeValue ?? '';
    const e = n.parentElement;
    const folded = e instanceof HTMLDetailsElement && !e.open;
    if (
      !words.trim() ||
      !e ||
      folded ||
      !visible(e) ||
      unseen(e) ||
      /^(?:OPTION|STYLE|SCRIPT|TEXTAREA)$/.test(e.tagName) ||
      e.closest('svg, math, math-field, .katex')
    )
      continue;
    const range = document.createRange();
    range.selectNodeContents(n);
    for (const r of range.getClientRects()) {
      if (r.width < 1 || r.height < 1) continue;
      const { box, cut } = shownOf(r, e);
      // the whole of it is told to who points at it or listens
      if (cut && !e.closest('[title], [aria-label]')) out.push(`cut: ${nameOf(e, words)}`);
      if (wide(box) > SLACK && high(box) > SLACK) texts.push({ name: nameOf(e, words), element: e, box, layer: layerOf(e) });
    }
  }
  const controls: Thing[] = [];
  for (const e of top.querySelectorAll<HTMLElement>('a[href], button, input, select, textarea, [role="checkbox"], [role="tab"]')) {
    if (!visible(e) || unseen(e)) continue;
    const { box, cut } = shownOf(e.getBoundingClientRect(), e);
    const name = nameOf(e, e.getAttribute('aria-label') ?? e.textContent ?? '');
    if (cut) out.push(`cut: ${name}`);
    if (wide(box) > SLACK && high(box) > SLACK) controls.push({ name, element: e, box, layer: layerOf(e) });
  }
  for (const things of [texts, controls]) {
    things.sort((a, b) => a.box.top - b.box.top);
    things.forEach((a, i) => {
      for (let k = i + 1; k < things.length; k++) {
        const b = things[k] as Thing;
        if (b.box.top >= a.box.bottom) break;
        const both = meet(a.box, b.box);
        if (wide(both) <= SLACK || high(both) <= SLACK + 1 || a.layer !== b.layer || a.element.contains(b.element) || b.element.contains(a.element)) continue;
        out.push(`over one another: ${a.name} and ${b.name}`);
      }
    });
  }
  return [...new Set(out)];
}

/** What is wrong with the layout of a screen at each of the widths; the page is as wide as before afterwards. */
export async function laidOut(page: Page, what: string): Promise<string[]> {
  const before = page.viewportSize() ?? { width: 1280, height: 800 };
  const out: string[] = [];
  for (const width of widthsNow()) {
    await page.setViewportSize({ width, height: before.height });
    // what measures itself is drawn once more when it has been told
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done, 40)))));
    out.push(...(await page.evaluate(faultsIn)).map((f) => `${what}, ${width} px: ${f}`));
  }
  await page.setViewportSize(before);
  return out;
}
