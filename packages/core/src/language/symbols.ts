/** Signs of symbol fonts that word processors print boxes, ticks and arrows with, as characters that stand for themselves. */

// The usual picture fonts' code points, from memory.
const WINGDINGS: Record<number, string> = {
  0x6c: '●',
  0x6e: '■',
  0x6f: '☐',
  0x70: '☐',
  0x71: '☐',
  0x72: '☐',
  0x73: '◆',
  0x9f: '•',
  0xa1: '○',
  0xa3: '○',
  0xa7: '•',
  0xa8: '☐',
  0xd8: '➢',
  0xdf: '←',
  0xe0: '→',
  0xe1: '↑',
  0xe2: '↓',
  0xe8: '→',
  0xf0: '→',
  0xfb: '✗',
  0xfc: '✓',
  0xfd: '☒',
  0xfe: '☑',
};
const WINGDINGS2: Record<number, string> = { 0x4f: '✗', 0x50: '✓', 0x51: '☒', 0x52: '☑', 0x53: '☒', 0x54: '☒', 0xa3: '☐', 0x97: '●', 0x9a: '○' };
const SYMBOL: Record<number, string> = {
  0xb0: '°',
  0xb1: '±',
  0xb2: '″',
  0xb3: '≥',
  0xb4: '×',
  0xb7: '•',
  0xb8: '÷',
  0xb9: '≠',
  0xbb: '≈',
  0xa3: '≤',
  0xa5: '∞',
  0xae: '→',
  0xac: '←',
  0xd6: '√',
  0xde: '⇒',
  0x61: 'α',
  0x62: 'β',
  0x63: 'χ',
  0x64: 'δ',
  0x65: 'ε',
  0x66: 'φ',
  0x67: 'γ',
  0x68: 'η',
  0x69: 'ι',
  0x6a: 'ϕ',
  0x6b: 'κ',
  0x6c: 'λ',
  0x6d: 'μ',
  0x6e: 'ν',
  0x6f: 'ο',
  0x70: 'π',
  0x71: 'θ',
  0x72: 'ρ',
  0x73: 'σ',
  0x74: 'τ',
  0x75: 'υ',
  0x77: 'ω',
  0x78: 'ξ',
  0x79: 'ψ',
  0x7a: 'ζ',
  0x44: 'Δ',
  0x46: 'Φ',
  0x47: 'Γ',
  0x4c: 'Λ',
  0x50: 'Π',
  0x51: 'Θ',
  0x53: 'Σ',
  0x57: 'Ω',
  0x58: 'Ξ',
  0x59: 'Ψ',
};
const FONTS: readonly [RegExp, Record<number, string>][] = [
  [/^wingdings 2$/i, WINGDINGS2],
  [/^(?:wingdings|opensymbol|starsymbol)$/i, WINGDINGS],
  [/^symbol$/i, SYMBOL],
];

/** Words printed in a symbol font; of another font they come back as they are. */
export function fromSymbolFont(words: string, font: string): string {
  // a letter of the private area without a known font is most likely of the commonest one
  const table = FONTS.find(([name]) => name.test(font))?.[1] ?? (/[\uf020-\uf0ff]/.test(words) ? WINGDINGS : undefined);
  if (!table) return words;
  const known = FONTS.some(([name]) => name.test(font));
  const ownCharacters = /^(?:opensymbol|starsymbol)$/i.test(font);
  return Array.from(words, (c) => {
    const code = c.codePointAt(0) ?? 0;
    // symbol fonts lie in the private area from F000 on; their letters are used without it too
    if (code >= 0xf020 && code <= 0xf0ff) return table[code - 0xf000] ?? '•';
    if (!known) return c;
    return ownCharacters || code > 0xff ? c : (table[code] ?? c);
  }).join('');
}

const BOXES: Record<string, string> = { þ: '☑', ý: '☒', '¨': '☐' };
/**
 * A line copied from a page whose boxes and ticks were letters of a symbol font, with signs that stand for themselves.
 * Every sign takes the place of one character, so that columns stay what they are.
 */
export function withSigns(line: string): string {
  if (!/[þý¨\uf020-\uf0ff]/.test(line)) return line;
  return line
    .replace(/(^\s*|\s{2}|\t)([þý¨])(?=\s)/g, (_, lead: string, c: string) => lead + (BOXES[c] ?? c))
    .replace(/[\uf020-\uf0ff]/g, (c, at: number) => {
      const sign = WINGDINGS[c.charCodeAt(0) - 0xf000] ?? '•';
      // a tick in front of words stands where the others have an empty box
      return sign === '✓' && !line.slice(0, at).trim() ? '☑' : sign;
    });
}
