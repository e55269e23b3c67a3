/** Names of languages. */

/** A language by its name. @param code BCP 47; what is none is the name itself @param inLanguage the language that names it (BCP 47) */
export function languageName(code: string, inLanguage = 'en'): string {
  try {
    return new Intl.DisplayNames([inLanguage], { type: 'language' }).of(code) ?? code;
  } catch {
    // no code at all: the person's own word
    return code;
  }
}
