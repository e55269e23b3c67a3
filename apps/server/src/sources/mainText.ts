/** The text of a web page without what stands around it. */
import { decodePage, fromHtml } from '@zakuska/core';
import { Readability } from '@mozilla/readability';
import { parseHTML } from 'linkedom';

/** Deeper pages are no articles, and what looks for one takes time with the square of the depth. */
const DEEPEST = 200;

/** How deep the elements of a page are nested, by its tags alone: elements that close themselves count too little to matter. */
export function depthOf(html: string): number {
  let depth = 0;
  let deepest = 0;
  for (const m of html.matchAll(/<(\/?)([a-z][a-z0-9-]*)/gi)) {
    if (/^(?:area|base|br|col|embed|hr|img|input|link|meta|source|track|wbr|p|li|td|tr|th|dd|dt|option)$/i.test(m[2] ?? '')) continue;
    depth = Math.max(0, depth + (m[1] ? -1 : 1));
    deepest = Math.max(deepest, depth);
  }
  return deepest;
}

const bareText = (html: string): string =>
  html
    .replace(/<(script|style)\b(?:(?!<\/\1\b)[\s\S])*/gi, ' ')
    .replace(/<[^<>]*>/g, ' ')
    .replace(/[ \t]+/g, ' ')
    .replace(/\n\s*\n/g, '\n\n')
    .trim();

function articleOf(html: string): { title?: string | null | undefined; content?: string | null | undefined } | null {
  try {
    const { document } = parseHTML(html);
    return new Readability(document as unknown as ConstructorParameters<typeof Readability>[0]).parse();
  } catch {
    // a page without a body is none to the library
    return null;
  }
}

export function mainText({ body, charset }: { body: Uint8Array; charset?: string | undefined }): { title: string; text: string } {
  const html = decodePage(body, charset);
  if (depthOf(html) > DEEPEST) return { title: '', text: bareText(html) };
  const article = articleOf(html);
  return { title: article?.title?.trim() ?? '', text: fromHtml(article?.content ?? html).text.trim() };
}
