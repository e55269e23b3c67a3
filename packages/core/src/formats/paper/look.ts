/** How a paper is set: for all, or for who reads better with larger or wider type. */
import { z } from 'zod';

/** How a paper is set. */
export const paperLook = z.strictObject({
  /** Large print: at least 16 points (common practice, no source). */
  large: z.boolean().default(false),
  columns: z.union([z.literal(1), z.literal(2)]).default(1),
  /** Wider spaces between letters, words and lines, for who reads with dyslexia. */
  wide: z.boolean().default(false),
});
/** How a paper is set. */
export type PaperLook = z.infer<typeof paperLook>;
/** A paper as most people read it. */
export const usualLook: PaperLook = paperLook.parse({});
