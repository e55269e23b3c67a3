/** Numbers as people write them. */
import { shifted } from './decimal.js';

/** Whether a language (BCP 47) parts decimals with a comma; false where none is said. Common practice, no source. */
export const writesDecimalComma = (language: string | undefined): boolean => language !== undefined && !/^(en|ja|zh|ko|th|he)/.test(language);

const SUPERSCRIPT = '⁰¹²³⁴⁵⁶⁷⁸⁹';
const VULGAR: Record<string, string> = {
  '½': '1/2',
  '⅓': '1/3',
  '⅔': '2/3',
  '¼': '1/4',
  '¾': '3/4',
  '⅕': '1/5',
  '⅖': '2/5',
  '⅗': '3/5',
  '⅘': '4/5',
  '⅙': '1/6',
  '⅚': '5/6',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
};

/** Figures of other scripts (Arabic, Persian, Devanagari, Bengali, full width) as 0 to 9, with the Arabic decimal sign as a comma. */
const westernDigits = (s: string): string =>
  s
    .replace(/[٠-٩۰-۹०-९০-৯０-９]/g, (c) => String((c.codePointAt(0) ?? 0) - (ZEROS.findLast((z) => z <= (c.codePointAt(0) ?? 0)) ?? 0)))
    .replace(/٫/g, ',')
    .replace(/٬/g, ' ');
const ZEROS = [0x660, 0x6f0, 0x966, 0x9e6, 0xff10] as const;

/** The value of digits with separators: "1,250", "1 250", "1.250,5", "12,5"; null where it is no number. */
function plainNumber(s: string, decimalComma: boolean): number | null {
  if (/^\d+$/.test(s)) return Number(s);
  if (/^\d{1,3}([ '’]\d{3})+([.,]\d+)?$/.test(s)) return Number(s.replace(/[ '’]/g, '').replace(',', '.'));
  if (/^\d{1,3}(,\d{3})+\.\d+$/.test(s)) return Number(s.replace(/,/g, ''));
  if (/^\d{1,3}(\.\d{3})+,\d+$/.test(s)) return Number(s.replace(/\./g, '').replace(',', '.'));
  if (/^\d{1,3}(,\d{3})+$/.test(s) && !s.startsWith('0') && (!decimalComma || s.split(',').length > 2)) return Number(s.replace(/,/g, ''));
  if (/^\d{1,3}(\.\d{3}){2,}$/.test(s) || (decimalComma && /^[1-9]\d{0,2}\.\d{3}$/.test(s))) return Number(s.replace(/\./g, ''));
  if (/^\d*[.,]\d+$/.test(s) || /^\d+[.,]$/.test(s)) return Number(s.replace(',', '.'));
  return null;
}

/**
 * The value of a number written in any usual way: `12.5`, `12,5`, `1 250`, `1,250`, `3/4`, `1 1/2`, `½`, `75 %` (0.75),
 * `2.5 × 10^3`, `2.5e3`, `−4`, `٣٫٥`. Null where the text is not one number and nothing else.
 * @param decimalComma whether a comma parts the decimals where it could also part thousands ("1,250")
 */
export function parseNumber(text: string, decimalComma = false): number | null {
  const value = valueOf(text, decimalComma);
  return value !== null && Number.isFinite(value) ? value : null;
}
function valueOf(text: string, decimalComma: boolean): number | null {
  let s = westernDigits(text)
    .trim()
    .replace(/[\u2212\u2013\u2012]/g, '-')
    .replace(/[\u00a0\u202f\u2009]/g, ' ');
  if (!s || s.length > 60) return null;
  let sign = 1;
  // bounded: 60 characters
  const signed = /^([+-])\s*(.*)$/.exec(s);
  if (signed) {
    if (signed[1] === '-') sign = -1;
    s = signed[2] ?? '';
  }
  let places = 0;
  // bounded: 60 characters
  const percent = /^(.*?)\s*([%٪‰])$/.exec(s);
  if (percent) {
    places = percent[2] === '‰' ? -3 : -2;
    s = percent[1] ?? '';
  }
  // bounded: 60 characters
  const power = /^(.*?)\s*(?:[×x·*]\s*10\s*(?:\^\s*([+-]?\d{1,3})|([⁻]?[⁰¹²³⁴⁵⁶⁷⁸⁹]+))|e([+-]?\d{1,3}))$/i.exec(s);
  if (power) {
    const raised = power[3]?.replace(/[⁰¹²³⁴⁵⁶⁷⁸⁹]/g, (c) => String(SUPERSCRIPT.indexOf(c))).replace('⁻', '-');
    places += Number(power[2] ?? raised ?? power[4]);
    s = power[1] ?? '';
  }
  const last = VULGAR[s.slice(-1)];
  if (last) s = `${s.slice(0, -1).trim()} ${last}`.trim();
  const fraction = /^(?:(\d+)\s+)?(\d+(?:[.,]\d+)?)\s*[/⁄]\s*(\d+(?:[.,]\d+)?)$/.exec(s);
  if (fraction) {
    const top = plainNumber(fraction[2] ?? '', decimalComma);
    const below = plainNumber(fraction[3] ?? '', decimalComma);
    if (top === null || !below) return null;
    return sign * (Number(fraction[1] ?? 0) + top / below) * 10 ** places;
  }
  const value = plainNumber(s, decimalComma);
  if (value === null) return null;
  // 12.5 % is 0.125 and not 0.12500000000000003: the point is moved in decimal
  return sign * (places ? shifted(value, places) : value);
}
