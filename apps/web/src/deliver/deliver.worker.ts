/** Fits, files and rehearsals of a set, away from the page. */
import { destinations, type Fit, fitSet, piecesOf, profileOf, type QuizSet, type Rehearsal, rehearse, serviceOf } from '@zakuska/core';
import { allFormats } from '@zakuska/documents';
import { expose } from 'comlink';

export interface Made {
  bytes: Uint8Array;
  name: string;
  mediaType: string;
  rehearsal: Rehearsal;
}

/** Something that goes: an item of the set, or one of several that it becomes. */
export interface Going {
  key: string;
  item: string;
  name: string;
  print: string;
}

const remote = {
  /** What each item becomes at each destination, in the form chosen for it. */
  fits(set: QuizSet, forms: Readonly<Record<string, string>>): Record<string, Fit[]> {
    return Object.fromEntries(destinations.map((d) => [d.id, fitSet(set, profileOf(d, forms[d.id])).fits]));
  },
  /** What of a set goes to a service, item by item, with a print that changes with what goes. */
  pieces(set: QuizSet, service: string): Going[] {
    const known = serviceOf(service);
    return known ? piecesOf(set, known.profile).pieces.map(({ key, item, name, print }) => ({ key, item, name, print })) : [];
  },
  /** Writes a file, reads it back and answers it. */
  async make(set: QuizSet, formatId: string): Promise<Made> {
    const format = allFormats.byId(formatId);
    if (!format?.write) throw new Error(`There is no format ${formatId}.`);
    const { bytes, name } = await format.write(set);
    const { played } = await allFormats.play(bytes, name, format.id === 'text' ? 'draft' : undefined);
    return { bytes, name, mediaType: format.mediaType, rehearsal: rehearse(played, set, format.profile) };
  },
};
export type Deliverer = typeof remote;
expose(remote);
