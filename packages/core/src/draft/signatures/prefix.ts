/** What may stand in front of a question's number: a line to write on, a letter or truth value on that line or in the margin, points. */

export interface Prefix {
  /** Column behind it; the line's first column where there is none. */
  at: number;
  /** A key that stands there: columns of its words. */
  key?: [number, number];
  /** "T  F" to circle. */
  truths?: true;
  /** Points that stand there: columns of the number. */
  points?: [number, number];
  /** A line or a bracket to write on. */
  blank?: true;
}

const FILLED = /^(?:[([]\s*([A-Za-zБВНП]|true|false)\s*[)\]]|_+\s*([A-Za-zБВНП]{1,5})\s*_+)\s*(?=\(?\d{1,3}\s*[.)](?!\d))/u;
const MARGIN = /^([TFVRWtfvrw]|[A-Ea-e]|true|false)(?:\s{1,12}|\t)(?=\d{1,3}\s?[.)]\s)/i;
/** A letter of any language, with wide space: "I" for igaz, "S" for sant; "Q  1." is a number. */
const MARGIN_WIDE = /^(?![QX])(\p{Lu})(?:\s{2,12}|\t)(?=\d{1,3}\s?[.)]\s)/u;
/** In front of a letter only with wide space, and not where the letter could go on from it. */
const MARGIN_LETTER = /^([TFVRП])(?:\s{2,12}|\t)(?=\(?[a-z]\)\s)/;
const BARE_POINTS = /^(\d{1,2})\s?(?:p|P|pts?|pkt|punt(?:en)?|Pkt|Punkte?|marks?)\.?(?:\s+|\t+)(?=\d{1,3}(?:[\s.)]|\t))/u;
const POINTS = /^[[(]\s*(\d{1,2})\s*(?:p|pts?|points?|marks?|pkt|Pkt\.?)?\s*[\])]\s+(?=(?:\d{1,3}\s*[.)]|bonus))/i;
const BLANK = /^(?:_{2,}|\.{4,}|…{2,}|\[\s{0,6}\]|\(\s{1,6}\)|[☐□])\s*(?=\(?(?:\d{1,3}|[A-Za-z])\s?[.)]|\d{1,3}\s{2})/u;
const TRUTHS =
  /^[([]?\s*(?:T\s{0,5}[/|]?\s{0,5}F|V\s{0,4}[/|]?\s{0,4}F|R\s{0,4}[/|]?\s{0,4}F|W\s?\/\s?F|P\s?\/\s?F|D\s?\/\s?Y|True\s*\/?\s*False|J\s?\/\s?[ON]|В\s?\/\s?Н)\s*[)\]]?\s+(?=\(?\d{1,3}\s*[.)](?!\d))/u;

/** Reads what stands in front of a number from a column on. */
export function prefixOf(line: string, start: number): Prefix {
  const text = line.slice(start, start + 80);
  if (!/^[([_.…☐□\p{L}\d]/u.test(text) || !/\d|[A-Za-z][.)]/.test(text)) return { at: start };
  let m = FILLED.exec(text) ?? MARGIN.exec(text) ?? MARGIN_WIDE.exec(text) ?? MARGIN_LETTER.exec(text);
  const word = m?.[1] ?? m?.[2];
  if (m && word) {
    const from = start + m[0].indexOf(word);
    return { at: start + m[0].length, key: [from, from + word.length] };
  }
  m = POINTS.exec(text) ?? BARE_POINTS.exec(text);
  if (m) {
    const from = start + m[0].indexOf(m[1] ?? '');
    return { at: start + m[0].length, points: [from, from + (m[1]?.length ?? 0)] };
  }
  m = BLANK.exec(text);
  if (m) return { at: start + m[0].length, blank: true };
  m = TRUTHS.exec(text);
  if (m) return { at: start + m[0].length, truths: true };
  return { at: start };
}
