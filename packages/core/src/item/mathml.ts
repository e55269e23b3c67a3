/** Formulas from MathML. */
import { decodeHTML } from 'entities';
import { MathMLToLaTeX } from 'mathml-to-latex';

/** A `math` element as TeX: the TeX that it carries as an annotation, else converted; '' where it cannot be converted. */
export function texOfMathML(math: string): string {
  const note = /<(?:\w+:)?annotation\b(?=[^<>]*tex)[^<>]*>((?:(?!<\/?(?:\w+:)?annotation\b)[\s\S])*)<\/(?:\w+:)?annotation>/i.exec(math)?.[1];
  try {
    return note ? decodeHTML(note).trim() : MathMLToLaTeX.convert(decodeHTML(math)).trim();
  } catch {
    return '';
  }
}
