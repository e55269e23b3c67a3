/** Which of several languages is spoken to somebody. */

/** The first of some languages that is spoken, in whatever variety it is asked for; undefined where none is. @param wanted BCP 47, the best first */
export function firstSpoken<L extends string>(wanted: readonly (string | null | undefined)[], spoken: readonly L[]): L | undefined {
  for (const w of wanted) {
    const base = w?.toLowerCase().split('-')[0];
    const found = spoken.find((s) => s === base);
    if (found !== undefined) return found;
  }
  return undefined;
}
