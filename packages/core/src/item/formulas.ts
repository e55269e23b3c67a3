/** TeX formulas in texts: `\(…\)` in a line, `\[…\]` in a line of their own. */
import temml from 'temml';
import { unescapeXml } from './markup.js';

export { numberOfTex, onlyFormula } from './typedFormula.js';

const FORMULA = /\\\(((?:(?!\\[()])[\s\S])*)\\\)|\\\[((?:(?!\\[[\]])[\s\S])*)\\\]/g;
/** Longer formulas are shown as their text: none on paper is as long, and setting one takes time and depth. */
const LONGEST = 5000;

/**
 * Replaces the formulas of a text.
 * @param draw gets the TeX, whether it stands in a line of its own, and the formula with its signs as it stands in the text
 */
export const replaceFormulas = (text: string, draw: (tex: string, display: boolean, whole: string) => string): string =>
  text.includes('\\')
    ? text.replace(FORMULA, (whole, inline: string | undefined, block: string | undefined) =>
        draw(unescapeXml(inline ?? block ?? ''), inline === undefined, whole),
      )
    : text;

/** A formula as MathML; null where it cannot be drawn, whatever is wrong with it. */
export function formulaMathMl(tex: string, display: boolean, options: { xml?: boolean; annotate?: boolean } = {}): string | null {
  if (tex.length > LONGEST) return null;
  try {
    return temml.renderToString(tex, { ...options, displayMode: display, throwOnError: true, trust: false });
  } catch {
    // mostly a ParseError; some typing errors ("x^") make the library itself fail, and deep nesting the stack
    return null;
  }
}

/** The formulas of a text that cannot be drawn, as TeX. */
export function brokenFormulas(text: string): string[] {
  const out: string[] = [];
  replaceFormulas(text, (tex, display, whole) => {
    if (formulaMathMl(tex, display) === null) out.push(tex);
    return whole;
  });
  return out;
}
