/**
 * Rich text: a sanitised XHTML fragment. A string without markup is plain text and stays so; a string holds markup
 * when it contains a tag of the allowed list. This file needs no parser, so that learners' pages can use it.
 */

const NAMES =
  'p br strong em u sub sup code pre ul ol li table thead tbody tr td th caption img a span blockquote math mi mn mo mrow msup msub msubsup mfrac msqrt mroot mtext mover munder munderover mtable mtr mtd mspace mstyle semantics b i h[1-6] div';
const TAG = new RegExp(`</?(${NAMES.replaceAll(' ', '|')})(\\s[^<>]*)?/?>`, 'i');

/** Whether a rich text holds markup; without, every character of it stands for itself. */
export const isMarkup = (rich: string): boolean => rich.includes('<') && TAG.test(rich);

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** Text made safe for XML and HTML, in content and in double-quoted attributes. */
export const escapeXml = (text: string): string => (/[&<>"]/.test(text) ? text.replace(/[&<>"]/g, (c) => ESCAPES[c] ?? c) : text);

/** The way back from `escapeXml`. */
export const unescapeXml = (text: string): string =>
  text
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&amp;/g, '&');

/** Plain text as rich text: itself, unless it looks like markup; then it is escaped inside a paragraph. */
export const richFromPlain = (text: string): string => (isMarkup(text) ? `<p>${escapeXml(text)}</p>` : text);

/** A rich text as an XHTML fragment, whether it had markup or not. Line breaks of plain text become `<br/>`. */
export const richToXhtml = (rich: string): string => (isMarkup(rich) ? rich : escapeXml(rich).replace(/\n/g, '<br/>'));
