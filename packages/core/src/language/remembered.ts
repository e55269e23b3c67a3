/** A function of a text that keeps what it found, for the same is asked of many cells, names and words. @param most so many are kept before it starts anew */
export function remembered<T>(find: (text: string) => T, most = 5000): (text: string) => T {
  const kept = new Map<string, T>();
  return (text) => {
    const before = kept.get(text);
    if (before !== undefined) return before;
    const found = find(text);
    if (kept.size >= most) kept.clear();
    kept.set(text, found);
    return found;
  };
}
