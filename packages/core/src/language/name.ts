/** Names of languages. */

/** A language by its English name. */
export function languageName(code: string): string {
  try {
    return new Intl.DisplayNames(['en'], { type: 'language' }).of(code) ?? code;
  } catch {
    // no code at all: the person's own word
    return code;
  }
}
