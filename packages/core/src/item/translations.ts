/** Translations of the texts of a set, kept beside them. */
import { z } from 'zod';

/** The schema of a text in another language. */
export const translation = z.object({
  text: z.string(),
  /** Of the original that it was made from: another one makes it stale. */
  print: z.string().max(40),
  state: z.enum(['made', 'checked']),
  /** Who made it, or what: a name, "XLIFF". */
  by: z.string().max(200).optional(),
});
/** A text in another language. */
export type Translation = z.infer<typeof translation>;

/** The schema of a language as translations name it (BCP 47). */
export const languageTag = z.string().min(2).max(35);

/** The schema of all translations of a set: by language (BCP 47), then by the id of the unit. */
export const translations = z.record(languageTag, z.record(z.string().max(600), translation));
/** All translations of a set: by language (BCP 47), then by the id of the unit. */
export type Translations = z.infer<typeof translations>;
