/** TeX in texts as MathML. Temml is fetched when the first formula is shown. */
import { escapeXml, isMarkup, unescapeXml } from '@zakuska/core/markup';
import { useEffect, useState } from 'react';

type Render = (tex: string, display: boolean) => string;
let loaded: Render | null = null;
let loading: Promise<void> | undefined;
const load = (): Promise<void> =>
  (loading ??= import('temml').then(({ default: temml }) => {
    loaded = (tex, displayMode) => temml.renderToString(tex, { displayMode, throwOnError: false, trust: false });
  }));

const FORMULA = /\\\(([\s\S]*?)\\\)|\\\[([\s\S]*?)\\\]/g;
export const hasFormula = (text: string): boolean => text.includes('\\(') || text.includes('\\[');

/** A formula as MathML; its TeX where it cannot be shown (yet). */
const formulaHtml = (tex: string, display: boolean): string => loaded?.(tex, display) ?? escapeXml(tex);
const formulasIn = (html: string): string =>
  html.replace(FORMULA, (_, inline: string | undefined, block: string | undefined) => formulaHtml(unescapeXml(inline ?? block ?? ''), inline === undefined));

/**
 * A text with formulas as safe HTML, once they can be shown; null where it has none, and until then.
 * @param text sanitised already where it holds markup
 */
export function useFormulas(text: string): string | null {
  const has = hasFormula(text);
  const [ready, setReady] = useState(loaded !== null);
  useEffect(() => {
    if (has && !ready) void load().then(() => setReady(true));
  }, [has, ready]);
  if (!has || !ready) return null;
  return formulasIn(isMarkup(text) ? text : escapeXml(text).replace(/\n/g, '<br/>'));
}
