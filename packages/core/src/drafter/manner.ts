/** Whether a text tells, argues, or instructs: what it says of its subject can be asked for by itself in the first case only. */
import type { SentenceIndex } from '../source/sentences.js';

/** How a text speaks: of a subject, for a view, or of how something is used. */
export type Manner = 'tells' | 'argues' | 'instructs';

/** Words of an argument; from memory. */
const ARGUES =
  /(?<!\p{L})(?:however|therefore|thus|hence|indeed|clearly|of course|argue[sd]?|claim(?:s|ed)?|moreover|surely|in other words|rather than|we|our|us)(?!\p{L})/iu;
/** Words of what tells how to use a program; from memory. */
const INSTRUCTS =
  /(?<!\p{L})(?:click\p{Ll}*|buttons?|menus?|dialogs?|command[ -]?line|scripts?|director(?:y|ies)|files?|filename|options?|parameters?|arguments?|installed|install|run|running|select|configured?|variables?|functions?|packages?|users?|default|server|settings?)(?!\p{L})/iu;

/**
 * Shares of sentences with such words from which on a text argues or instructs. Measured on the texts of `corpus/drafter/judged.md`: words of
 * an argument stand in 0.13 to 0.34 of the sentences of 13 essays and in at most 0.10 of 40 other texts; words of use in 0.21 to 0.54 of
 * 14 manuals (one history of a program among them) and in at most 0.18 of the others.
 */
const ARGUING = 0.18;
const INSTRUCTING = 0.2;
/** In fewer sentences a share says nothing. */
const FEWEST = 40;

/** How indexed English sources speak. */
export function mannerOf({ sentences }: SentenceIndex): Manner {
  if (sentences.length < FEWEST) return 'tells';
  // of what is a sentence: headings and cells of tables have few words
  const whole = sentences.filter((s) => s.tokens.length > 4);
  const share = (words: RegExp): number => whole.filter((s) => words.test(s.text)).length / Math.max(1, whole.length);
  return share(ARGUES) >= ARGUING ? 'argues' : share(INSTRUCTS) >= INSTRUCTING ? 'instructs' : 'tells';
}

/** What is to be known of items of such a text, for the person; nothing for one that tells. */
export const cautions: Readonly<Record<Manner, string | undefined>> = {
  tells: undefined,
  argues: 'This source argues more than it tells, so only its numbers, years and names are asked for; see whether each item is a fact.',
  instructs: 'This source tells how something is used. Items of such texts need a closer look: about three in five can stay as they are.',
};
