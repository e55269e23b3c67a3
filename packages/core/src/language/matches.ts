/**
 * All matches of a pattern in a text, in order. Says the same as `text.matchAll(find)`, which makes a pattern of its own for each
 * call: for lines of a draft that costs more than the search.
 * @param find a global pattern
 */
export function matchesOf(find: RegExp, text: string): RegExpExecArray[] {
  const out: RegExpExecArray[] = [];
  find.lastIndex = 0;
  for (let m = find.exec(text); m; m = find.exec(text)) {
    out.push(m);
    if (m[0] === '') find.lastIndex += find.unicode && (text.codePointAt(m.index) ?? 0) > 0xffff ? 2 : 1;
  }
  return out;
}
