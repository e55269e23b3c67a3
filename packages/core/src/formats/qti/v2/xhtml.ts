/** Rich text as XHTML for QTI 2.x and 3.0: formulas as MathML, and nothing that the standard's content model has not. */
import { formulaMathMl, replaceFormulas } from '../../../item/formulas.js';
import { isMarkup, richToXhtml } from '../../../item/richText.js';
import { RawXml } from '../../xml.js';

/** A formula as MathML that carries its TeX; the formula as it stands where it is no TeX that can be set. */
const mathMl = (tex: string, display: boolean, whole: string): string =>
  formulaMathMl(tex, display, { xml: true, annotate: true })?.replace(/ (class|style)="[^"]*"/g, '') ?? whole;

/** A rich text as an XHTML fragment of QTI. */
export function xhtml(rich: string): string {
  let x = replaceFormulas(richToXhtml(rich), mathMl);
  // QTI has no u: underlining is a look, said by a class
  if (x.includes('<u>')) x = x.replace(/<u>/g, '<span class="underline">').replace(/<\/u>/g, '</span>');
  return x;
}

const BLOCK = /<(p|ul|ol|table|pre|blockquote)\b/i;
/** Whether a rich text has elements that stand on lines of their own. */
export const hasBlocks = (rich: string): boolean => isMarkup(rich) && BLOCK.test(rich);
/** A rich text as XML to stand within a line. */
export const inline = (rich: string): RawXml => new RawXml(xhtml(rich));
/** Blocks: what already has block markup as it is, all else in a paragraph. */
export const blocks = (rich: string): RawXml => new RawXml(hasBlocks(rich) ? xhtml(rich) : `<p>${xhtml(rich)}</p>`);
