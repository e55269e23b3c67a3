/** A formula of TeX in the parts that Office Open XML sets formulas of (ECMA-376 part 1, 22.1), by way of MathML. */
import { formulaMathMl, type PaperRun } from '@zakuska/core';
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
/** Signs of function application and the like. */
const INVISIBLE = /[\u2061-\u2064\u200b]/g;
const elementsOf = (n: Node): Element[] => Array.from(n.childNodes).filter((c) => c.nodeType === ELEMENT) as Element[];

/** A formula as MathML; null where it cannot be drawn. */
function rootOf(tex: string, display: boolean): Element | null {
  const mathMl = formulaMathMl(tex, display, { xml: true });
  return mathMl === null ? null : new DOMParser({ onError: () => undefined }).parseFromString(mathMl, 'text/xml').documentElement;
}

function parts(e: Element): MathComponent[] {
  const children = elementsOf(e);
  const part = (i: number): MathComponent[] => (children[i] ? parts(children[i]) : []);
  const all = (): MathComponent[] => children.flatMap(parts);
  switch (e.localName) {
    case 'mi':
    case 'mn':
    case 'mo':
    case 'mtext':
      return [new MathRun((e.textContent ?? '').replace(INVISIBLE, ''))];
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
  const root = rootOf(tex, display);
  const children = root ? parts(root) : [];
  return children.length ? new OfficeMath({ children }) : null;
}

/** A formula in one line of words: powers and indices high and low, fractions with a stroke; its TeX where it cannot be drawn. */
export function linearMath(tex: string): PaperRun[] {
  const root = rootOf(tex, false);
  return root ? joined(linear(root)) : [{ is: 'text', text: tex, code: true }];
}
const text = (t: string): PaperRun[] => (t ? [{ is: 'text', text: t }] : []);
const plain = (runs: readonly PaperRun[]): string => runs.map((r) => (r.is === 'text' ? r.text : '')).join('');
/** In brackets, unless it is one sign or one number. */
const grouped = (runs: PaperRun[]): PaperRun[] => (/^[\p{L}\p{N}.,]*$/u.test(plain(runs)) ? runs : [...text('('), ...runs, ...text(')')]);
const lifted = (runs: readonly PaperRun[], look: 'sub' | 'sup'): PaperRun[] => text(plain(runs)).map((r) => ({ ...r, [look]: true }) as PaperRun);
/** Runs of one look beside one another as one. */
const joined = (runs: readonly PaperRun[]): PaperRun[] =>
  runs.reduce<PaperRun[]>((out, r) => {
    const last = out.at(-1);
    if (last?.is === 'text' && r.is === 'text' && last.sub === r.sub && last.sup === r.sup) last.text += r.text;
    else out.push({ ...r });
    return out;
  }, []);
function linear(e: Element): PaperRun[] {
  const children = elementsOf(e);
  const part = (i: number): PaperRun[] => (children[i] ? linear(children[i]) : []);
  switch (e.localName) {
    case 'mi':
    case 'mn':
    case 'mtext':
      return text((e.textContent ?? '').replace(INVISIBLE, ''));
    case 'mo': {
      const sign = (e.textContent ?? '').replace(INVISIBLE, '');
      return text(/^[=<>≤≥≠≈+−±×·→⇒∈]$/.test(sign) ? ` ${sign} ` : sign);
    }
    case 'mspace':
      return text(' ');
    case 'mfrac':
      return [...grouped(part(0)), ...text('/'), ...grouped(part(1))];
    case 'msup':
      return [...part(0), ...lifted(part(1), 'sup')];
    case 'msub':
    case 'munder':
      return [...part(0), ...lifted(part(1), 'sub')];
    case 'msubsup':
    case 'munderover':
      return [...part(0), ...lifted(part(1), 'sub'), ...lifted(part(2), 'sup')];
    case 'msqrt':
      return [...text('√'), ...grouped(children.flatMap(linear))];
    case 'mroot':
      return [...lifted(part(1), 'sup'), ...text('√'), ...grouped(part(0))];
    case 'mtr':
      return [...children.flatMap((c, i) => [...(i ? text(', ') : []), ...linear(c)]), ...text('; ')];
    case 'annotation':
    case 'mphantom':
      return [];
    default:
      return children.flatMap(linear);
  }
}
