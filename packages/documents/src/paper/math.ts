/** A formula of TeX in the parts that Office Open XML sets formulas of (ECMA-376 part 1, 22.1), by way of MathML. */
import { formulaMathMl } from '@zakuska/core';
import { DOMParser, type Element, type Node } from '@xmldom/xmldom';
import {
  Math as OfficeMath,
  type MathComponent,
  MathFraction,
  MathLimitLower,
  MathLimitUpper,
  MathRadical,
  MathRun,
  MathSubScript,
  MathSubSuperScript,
  MathSum,
  MathSuperScript,
} from 'docx';

const ELEMENT = 1;
const elementsOf = (n: Node): Element[] => Array.from(n.childNodes).filter((c) => c.nodeType === ELEMENT) as Element[];

function parts(e: Element): MathComponent[] {
  const children = elementsOf(e);
  const part = (i: number): MathComponent[] => (children[i] ? parts(children[i]) : []);
  const all = (): MathComponent[] => children.flatMap(parts);
  switch (e.localName) {
    case 'mi':
    case 'mn':
    case 'mo':
    case 'mtext':
      return [new MathRun((e.textContent ?? '').replace(/[\u2061-\u2064\u200b]/g, ''))];
    case 'mspace':
      return [new MathRun(' ')];
    case 'mfrac':
      return [new MathFraction({ numerator: part(0), denominator: part(1) })];
    case 'msup':
      return [new MathSuperScript({ children: part(0), superScript: part(1) })];
    case 'msub':
      return [new MathSubScript({ children: part(0), subScript: part(1) })];
    case 'msubsup':
      return [new MathSubSuperScript({ children: part(0), subScript: part(1), superScript: part(2) })];
    case 'msqrt':
      return [new MathRadical({ children: all() })];
    case 'mroot':
      return [new MathRadical({ children: part(0), degree: part(1) })];
    case 'munderover':
      return children[0]?.textContent?.trim() === '∑'
        ? [new MathSum({ children: [], subScript: part(1), superScript: part(2) })]
        : [new MathLimitUpper({ children: [new MathLimitLower({ children: part(0), limit: part(1) })], limit: part(2) })];
    case 'munder':
      return [new MathLimitLower({ children: part(0), limit: part(1) })];
    case 'mover':
      return [new MathLimitUpper({ children: part(0), limit: part(1) })];
    case 'mtable':
      // the library has no matrices: rows behind one another, parted as they are read aloud
      return children.flatMap((row, i) => [
        ...(i ? [new MathRun('; ')] : []),
        ...elementsOf(row).flatMap((cell, k) => [...(k ? [new MathRun(', ')] : []), ...parts(cell)]),
      ]);
    case 'annotation':
    case 'mphantom':
      return [];
    default:
      return all();
  }
}

/** The formula; null where it cannot be drawn. */
export function officeMath(tex: string, display: boolean): OfficeMath | null {
  const mathMl = formulaMathMl(tex, display, { xml: true });
  if (mathMl === null) return null;
  const root = new DOMParser({ onError: () => undefined }).parseFromString(mathMl, 'text/xml').documentElement;
  const children = root ? parts(root) : [];
  return children.length ? new OfficeMath({ children }) : null;
}
