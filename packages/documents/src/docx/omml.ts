/** Formulas of Office Open XML (ECMA-376 part 1, 22.1) as TeX. */
import { childOf, childrenOf, textOf, type XmlNode } from '@zakuska/core';
import { val } from '../val.js';
import { texSigns } from '../texSigns.js';

const FUNCTIONS = /^(?:sin|cos|tan|cot|sec|csc|arcsin|arccos|arctan|sinh|cosh|tanh|log|ln|lg|exp|lim|max|min|sup|inf|det|gcd|deg|dim|ker)$/;
const NARY: Record<string, string> = { '∑': '\\sum', '∏': '\\prod', '∫': '\\int', '∬': '\\iint', '∮': '\\oint', '⋃': '\\bigcup', '⋂': '\\bigcap' };
const ACCENTS: Record<string, string> = {
  '\u0302': '\\hat',
  '\u0303': '\\tilde',
  '\u0304': '\\bar',
  '\u0305': '\\bar',
  '¯': '\\bar',
  '\u0307': '\\dot',
  '\u0308': '\\ddot',
  '\u20d7': '\\vec',
  '→': '\\vec',
  '\u20d6': '\\overleftarrow',
};

/** A group in braces. */
const braced = (n: XmlNode | undefined): string => `{${n ? inside(n) : ''}}`;
const script = (base: string): string => (/^(?:[A-Za-z0-9]|\\[A-Za-z]+)$/.test(base) ? base : base ? `{${base}}` : '{}');
const inside = (n: XmlNode): string => joined(childrenOf(n).map(tex));
/** Pieces of TeX one behind the other; a command is kept apart from a letter that follows. */
const joined = (pieces: readonly string[]): string =>
  pieces.reduce((all, p) => (/\\[A-Za-z]+$/.test(all) && /^[A-Za-z]/.test(p) ? `${all} ${p}` : all + p), '');

function tex(n: XmlNode): string {
  const props = childOf(n, `${n.name}Pr`);
  const e = (): XmlNode | undefined => childOf(n, 'e');
  const body = (): string => {
    const one = e();
    return one ? inside(one) : '';
  };
  switch (n.name) {
    case 'r': {
      const words = childrenOf(n, 't').map(textOf).join('');
      const style = childOf(childOf(n, 'rPr') ?? n, 'sty')?.attributes['val'];
      const plain = childOf(childOf(n, 'rPr') ?? n, 'nor') !== undefined || style === 'p';
      if (FUNCTIONS.test(words.trim())) return `\\${words.trim()} `;
      return plain && /[\p{L}]{2,}/u.test(words) ? `\\text{${words.replace(/[{}\\]/g, '')}}` : texSigns(words);
    }
    case 'f': {
      const [a, b] = [braced(childOf(n, 'num')), braced(childOf(n, 'den'))];
      const type = val(props, 'type');
      return type === 'lin' || type === 'skw' ? `${a}/${b}` : type === 'noBar' ? `\\binom${a}${b}` : `\\frac${a}${b}`;
    }
    case 'sSup':
      return `${script(body())}^${braced(childOf(n, 'sup'))}`;
    case 'sSub':
      return `${script(body())}_${braced(childOf(n, 'sub'))}`;
    case 'sSubSup':
      return `${script(body())}_${braced(childOf(n, 'sub'))}^${braced(childOf(n, 'sup'))}`;
    case 'sPre':
      return `{}_${braced(childOf(n, 'sub'))}^${braced(childOf(n, 'sup'))}${body()}`;
    case 'rad': {
      const degree = childOf(n, 'deg');
      const d = degree ? inside(degree) : '';
      return `\\sqrt${d && val(props, 'degHide') !== '1' && val(props, 'degHide') !== 'on' ? `[${d}]` : ''}{${body()}}`;
    }
    case 'nary': {
      const sign = val(props, 'chr') ?? '∫';
      const [sub, sup] = [childOf(n, 'sub'), childOf(n, 'sup')].map((x) => (x ? inside(x) : ''));
      return `${NARY[sign] ?? texSigns(sign)}${sub ? `_{${sub}}` : ''}${sup ? `^{${sup}}` : ''} ${body()}`;
    }
    case 'd': {
      const open = val(props, 'begChr') ?? '(';
      const close = val(props, 'endChr') ?? ')';
      const bar = val(props, 'sepChr') ?? '|';
      const side = (c: string): string =>
        c === ''
          ? '.'
          : c === '{' || c === '}'
            ? `\\${c}`
            : c === '⌊'
              ? '\\lfloor '
              : c === '⌋'
                ? '\\rfloor '
                : c === '‖'
                  ? '\\|'
                  : c === '⟨'
                    ? '\\langle '
                    : c === '⟩'
                      ? '\\rangle '
                      : c;
      return `\\left${side(open)}${childrenOf(n, 'e').map(inside).join(bar)}\\right${side(close)}`;
    }
    case 'func': {
      const name = childOf(n, 'fName');
      const said = name ? inside(name).trim() : '';
      return `${said}${/[A-Za-z]$/.test(said) ? ' ' : ''}${body()}`;
    }
    case 'acc':
      return `${ACCENTS[val(props, 'chr') ?? '\u0302'] ?? '\\hat'}{${body()}}`;
    case 'bar':
      return `${val(props, 'pos') === 'top' ? '\\overline' : '\\underline'}{${body()}}`;
    case 'groupChr':
      return `${val(props, 'pos') === 'top' ? '\\overbrace' : '\\underbrace'}{${body()}}`;
    case 'limLow':
      return `${body()}_${braced(childOf(n, 'lim'))}`;
    case 'limUpp':
      return `${body()}^${braced(childOf(n, 'lim'))}`;
    case 'm':
      return `\\begin{matrix}${childrenOf(n, 'mr')
        .map((row) => childrenOf(row, 'e').map(inside).join(' & '))
        .join(' \\\\ ')}\\end{matrix}`;
    case 'eqArr':
      return `\\begin{aligned}${childrenOf(n, 'e').map(inside).join(' \\\\ ')}\\end{aligned}`;
    case 'phant':
      return '';
    case 'borderBox':
      return `\\boxed{${body()}}`;
    case 'ins':
    case 'box':
    case 'e':
    case 'num':
    case 'den':
    case 'sub':
    case 'sup':
    case 'lim':
    case 'deg':
    case 'fName':
    case 'oMath':
      return inside(n);
    default:
      return '';
  }
}

/** The TeX of an `m:oMath`; '' where it holds nothing. */
export const texOfOmml = (math: XmlNode): string => inside(math).replace(/\s+/g, ' ').trim();
