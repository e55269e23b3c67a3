/** TeX in texts as MathML. What draws formulas is fetched when the first one is shown. */
import { escapeXml, isMarkup } from '@zakuska/core/markup';
import { useEffect, useState } from 'react';

type Tools = typeof import('@zakuska/core/formulas');
let loaded: Tools | null = null;
let loading: Promise<void> | undefined;
const load = (): Promise<void> => (loading ??= import('@zakuska/core/formulas').then((tools) => void (loaded = tools)));

export const hasFormula = (text: string): boolean => text.includes('\\(') || text.includes('\\[');

/**
 * A text with formulas as safe HTML, once they can be shown; null where it has none, and until then. A formula that cannot be drawn
 * stands as its text.
 * @param text sanitised already where it holds markup
 */
export function useFormulas(text: string): string | null {
  const has = hasFormula(text);
  const [ready, setReady] = useState(loaded !== null);
  useEffect(() => {
    // without what draws them (no connection) formulas stay as their text
    if (has && !ready)
      void load().then(
        () => setReady(true),
        () => (loading = undefined),
      );
  }, [has, ready]);
  if (!has || !ready || !loaded) return null;
  const { replaceFormulas, formulaMathMl } = loaded;
  const html = isMarkup(text) ? text : escapeXml(text).replace(/\n/g, '<br/>');
  return replaceFormulas(html, (tex, display, whole) => formulaMathMl(tex, display) ?? `<code class="formula-text">${whole}</code>`);
}
