/**
 * Answers that are formulas: whether what somebody typed is the same formula, however it was written. TeX has many ways to say one thing
 * (`\frac12`, `\dfrac{1}{2}`; `x^2_1`, `x_1^{2}`); they are brought to one. Nothing is calculated: `a+b` is not `b+a`.
 */

/** A longer formula is compared sign by sign. */
const LONGEST = 2000;

/** The TeX of a text that is one formula and nothing else (`\(…\)` or `\[…\]`); null of any other. */
export function onlyFormula(text: string): string | null {
  const s = text.trim();
  const inline = s.startsWith('\\(') && s.endsWith('\\)');
  if ((!inline && !(s.startsWith('\\[') && s.endsWith('\\]'))) || s.length < 5) return null;
  const tex = s.slice(2, -2);
  if (tex.includes(inline ? '\\)' : '\\]')) return null;
  // a blank behind a backslash is a command, and stays with it
  const kept = tex.trim();
  return kept.endsWith('\\') && !tex.endsWith('\\') ? `${kept} ` : kept || null;
}

/** Whether learners are asked for a formula: every accepted answer of an item, or of a gap, is one. */
export const asksFormula = (of: { kind: string; answers?: readonly object[] }): boolean => {
  const accepted = (of.kind === 'short-answer' || of.kind === 'text' ? (of.answers ?? []) : []) as readonly { text: string; credit: number }[];
  const right = accepted.filter((a) => a.credit > 0);
  return right.length > 0 && right.every((a) => onlyFormula(a.text) !== null);
};

/** How many arguments a command takes. TeXbook and amsmath, from memory. */
const ARGUMENTS: Readonly<Record<string, number>> = {
  '\\frac': 2,
  '\\binom': 2,
  '\\sqrt': 1,
  '\\vec': 1,
  '\\overline': 1,
  '\\hat': 1,
  '\\bar': 1,
  '^': 1,
  _: 1,
};
/** Other ways to write the same. */
const SAME: Readonly<Record<string, string>> = {
  '\\dfrac': '\\frac',
  '\\tfrac': '\\frac',
  '\\cfrac': '\\frac',
  '\\dbinom': '\\binom',
  '\\tbinom': '\\binom',
  '\\overrightarrow': '\\vec',
  '\\times': '\\cdot',
  '\\ast': '\\cdot',
  '*': '\\cdot',
  '·': '\\cdot',
  '×': '\\cdot',
  '⋅': '\\cdot',
  '÷': '\\div',
  '\\leq': '\\le',
  '\\leqslant': '\\le',
  '≤': '\\le',
  '\\geq': '\\ge',
  '\\geqslant': '\\ge',
  '≥': '\\ge',
  '\\neq': '\\ne',
  '≠': '\\ne',
  '±': '\\pm',
  '∞': '\\infty',
  π: '\\pi',
  '−': '-',
  '–': '-',
  '\\to': '\\rightarrow',
  '→': '\\rightarrow',
  '\\lbrack': '[',
  '\\rbrack': ']',
  '\\lparen': '(',
  '\\rparen': ')',
  '\\vert': '|',
  '\\mid': '|',
  '\\degree': '\\circ',
  '°': '\\circ',
  '\\%': '%',
  '\\exponentialE': 'e',
  '\\imaginaryI': 'i',
  '\\differentialD': 'd',
  '\\varnothing': '\\emptyset',
};
/** What changes how a formula looks and not what it says. */
const LOOK = new Set(
  '\\left \\right \\big \\Big \\bigl \\bigr \\Bigl \\Bigr \\displaystyle \\textstyle \\limits \\nolimits \\quad \\qquad \\, \\; \\: \\! \\> ~'.split(' '),
).add('\\ ');
/** What sets its argument in another type: the argument stays. */
const TYPE = new Set('\\text \\textrm \\mathrm \\mathit \\mathbf \\mathsf \\rm \\operatorname \\mathop \\placeholder'.split(' '));
const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹';

/** The signs of a formula, as commands and single characters. */
function signsOf(tex: string): string[] {
  const out: string[] = [];
  for (const sign of tex.match(/\\[A-Za-z]+|\\[^]|[^]/gu) ?? []) {
    if (/^\s$/.test(sign) || LOOK.has(sign)) continue;
    const raised = RAISED.indexOf(sign);
    if (raised >= 0 && sign.length === 1) out.push('^', String(raised));
    else out.push(Object.hasOwn(SAME, sign) ? (SAME[sign] as string) : sign);
  }
  return out;
}

/** A formula in the one way in which formulas are compared. Of the same formula the same, and of what it gives the same again. */
export function canonicalTex(tex: string): string {
  if (tex.length > LONGEST) return tex.replace(/\s+/g, '');
  const signs = signsOf(tex);
  let at = 0;
  /** Up to a closing brace, or the end. */
  const group = (): string[] => {
    const out: string[] = [];
    while (at < signs.length && signs[at] !== '}') out.push(...one());
    return out;
  };
  /** What stands next, as it is written; braces that only keep together are left out. */
  const one = (): string[] => {
    const sign = signs[at++] ?? '';
    if (sign === '{') {
      const inside = group();
      at++;
      return inside;
    }
    if (TYPE.has(sign)) return at < signs.length && signs[at] !== '}' ? one() : [];
    const takes = Object.hasOwn(ARGUMENTS, sign) ? (ARGUMENTS[sign] as number) : 0;
    let written = sign;
    if (sign === '\\sqrt' && signs[at] === '[') {
      const end = signs.indexOf(']', at);
      if (end > 0) {
        written += `[${signs.slice(at + 1, end).join('')}]`;
        at = end + 1;
      }
    }
    for (let n = 0; n < takes; n++) written += `{${at < signs.length && signs[at] !== '}' ? spaced(one()) : ''}}`;
    return [written];
  };
  const all: string[] = [];
  while (at < signs.length) {
    all.push(...group());
    // a brace that closes nothing
    at++;
  }
  return spaced(all);
}

/** Joined: indices before powers, a comma between figures as the point that it is, a blank only where a letter follows a command. */
function spaced(written: readonly string[]): string {
  const sorted = written.slice();
  for (let i = 0; i + 1 < sorted.length; i++)
    if (sorted[i]?.startsWith('^{') && sorted[i + 1]?.startsWith('_{')) [sorted[i], sorted[i + 1]] = [sorted[i + 1] as string, sorted[i] as string];
  return sorted
    .join('\u0000')
    .replace(/(\\[A-Za-z]+)\u0000(?=[A-Za-z])/g, '$1 ')
    .replaceAll('\u0000', '')
    .replace(/(?<=\d),(?=\d)/g, '.');
}

/**
 * Whether what was typed, as a formula or as plain signs, is the formula of a key.
 * @param key  TeX
 * @param fold brings letters to one case, where case does not matter
 */
export const sameFormula = (given: string, key: string, fold: (s: string) => string = (s) => s): boolean =>
  fold(canonicalTex(onlyFormula(given) ?? given)) === fold(canonicalTex(key));

/**
 * A number that was typed as a formula, as numbers are typed: `\frac{3}{4}` is 3/4, `2{,}5\cdot10^{3}` is 2,5 × 10^3. What is no such
 * number stays TeX.
 */
export function numberOfTex(tex: string): string {
  const s = canonicalTex(tex.replaceAll('{,}', '\u0001')).replaceAll('\u0001', ',');
  const plain = s
    .replace(/^(-?)(\d+)\\frac\{(\d+)\}\{(\d+)\}$/, '$1$2 $3/$4')
    .replace(/^(-?)\\frac\{(\d+(?:[.,]\d+)?)\}\{(\d+(?:[.,]\d+)?)\}$/, '$1$2/$3')
    .replace(/\\cdot\s?10\^\{(-?\d+)\}$/, ' × 10^$1');
  return /[\\{}]/.test(plain) ? tex : plain;
}
