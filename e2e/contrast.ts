/** Whether words can be told from what they stand on: the contrast of WCAG 2.2 (1.4.3, with relative luminance as defined there), asked of every text. */
import type { Page } from '@playwright/test';

/** Texts of too little contrast as colours now are, in words. Runs in the page. */
function faintIn(): string[] {
  type Colour = [number, number, number, number];
  const ink = new OffscreenCanvas(1, 1).getContext('2d', { willReadFrequently: true });
  const known = new Map<string, Colour>();
  // whatever CSS writes colours in, a canvas says them in sRGB
  const read = (css: string): Colour => {
    let c = known.get(css);
    if (!c && ink) {
      ink.clearRect(0, 0, 1, 1);
      ink.fillStyle = css;
      ink.fillRect(0, 0, 1, 1);
      const [r = 0, g = 0, b = 0, a = 0] = ink.getImageData(0, 0, 1, 1).data;
      c = [r, g, b, a / 255];
      known.set(css, c);
    }
    return c ?? [0, 0, 0, 0];
  };
  const over = (top: Colour, below: Colour): Colour => {
    const part = (i: 0 | 1 | 2): number => top[i] * top[3] + below[i] * (1 - top[3]);
    return [part(0), part(1), part(2), 1];
  };
  const luminance = (c: Colour): number => {
    const part = (i: 0 | 1 | 2): number => {
      const v = c[i] / 255;
      return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
    };
    return 0.2126 * part(0) + 0.7152 * part(1) + 0.0722 * part(2);
  };
  /** The colour below an element; null where a picture or a run of colours is, which axe judges. */
  const grounds = new Map<Element, Colour | null>();
  const groundOf = (e: Element | null): Colour | null => {
    if (!e) return [255, 255, 255, 1];
    if (grounds.has(e)) return grounds.get(e) ?? null;
    const s = getComputedStyle(e);
    const own = read(s.backgroundColor);
    const below = own[3] === 1 && s.backgroundImage === 'none' ? own : groundOf(e.parentElement);
    const made = s.backgroundImage !== 'none' || Number(s.opacity) < 1 || s.position === 'absolute' ? (own[3] === 1 ? own : null) : below && over(own, below);
    grounds.set(e, made);
    return made;
  };
  const out = new Set<string>();
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let n = walk.nextNode(); n; n = walk.nextNode()) {
    const words = n.nodeValue?.trim();
    const e = n.parentElement;
    if (!words || !e || !e.checkVisibility({ opacityProperty: true, visibilityProperty: true }) || e.closest(':disabled, [aria-disabled="true"], svg, [inert]'))
      continue;
    const ground = groundOf(e);
    if (!ground) continue;
    const s = getComputedStyle(e);
    const [light, dark] = [luminance(over(read(s.color), ground)), luminance(ground)].sort((a, b) => b - a) as [number, number];
    const ratio = (light + 0.05) / (dark + 0.05);
    const px = Number.parseFloat(s.fontSize);
    const large = px >= 24 || (px >= 18.66 && Number(s.fontWeight) >= 700);
    if (ratio < (large ? 3 : 4.5) - 0.005) out.add(`contrast ${ratio.toFixed(2)}: ${e.tagName.toLowerCase()} “${words.slice(0, 40)}”`);
  }
  return [...out];
}

/** Texts of too little contrast on a screen, in the theme that it has. */
export const faint = (page: Page): Promise<string[]> => page.evaluate(faintIn);
