/** What stands at the ends of texts, taken off in linear time: patterns such as `\s*,\s*` and `[.:]+$` are quadratic in long runs. */

/** A text without the signs at its end. @param sign matches one sign */
export function stripEnd(text: string, sign: RegExp): string {
  let end = text.length;
  while (end > 0 && sign.test(text.charAt(end - 1))) end--;
  return text.slice(0, end);
}

/** The parts of a list, without the white space around them. */
export const partsOf = (text: string, separator: string | RegExp): string[] => text.split(separator).map((part) => part.trim());

/**
 * A text without white space before and behind each mark.
 * @param mark matches a mark, with the whole of it as its only group
 */
export function tightAround(text: string, mark: RegExp): string {
  const parts = text.split(mark);
  const last = parts.length - 1;
  return parts
    .map((part, i) => {
      if (i % 2) return part;
      const begun = i ? part.trimStart() : part;
      return i < last ? begun.trimEnd() : begun;
    })
    .join('');
}
