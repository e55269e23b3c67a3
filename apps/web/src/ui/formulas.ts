/** TeX in texts as MathML. What draws formulas is fetched when the first one is shown. */
import { escapeXml, isMarkup } from '@zakuska/core/markup';
import { useLater } from './useLater.js';

/** What draws formulas. */
const drawing = () => import('@zakuska/core/formulas');

export const hasFormula = (text: string): boolean => text.includes('\\(') || text.includes('\\[');

/**
 * A text with formulas as safe HTML, once they can be shown; null where it has none, and until then. A formula that cannot be drawn
 * stands as its text.
 * @param text sanitised already where it holds markup
 */
export function useFormulas(text: string): string | null {
  // without what draws them (no connection) formulas stay as their text
  const tools = useLater(drawing, hasFormula(text));
  if (!tools) return null;
  const { replaceFormulas, formulaMathMl } = tools;
  const html = isMarkup(text) ? text : escapeXml(text).replace(/\n/g, '<br/>');
  return replaceFormulas(html, (tex, display, whole) => formulaMathMl(tex, display) ?? `<code class="formula-text">${whole}</code>`);
}
