/** Fits, files and rehearsals of a set, away from the page. */
import {
  bytesOf,
  correctedImporter,
  destinations,
  fileName,
  fillingOf,
  type Fit,
  fitSet,
  type Importer,
  type ImporterCorrection,
  type ImporterSheet,
  deckOf,
  picturesApart,
  piecesOf,
  type Profile,
  profileOf,
  type QuizSet,
  type ReadBack,
  readImporter,
  type Rehearsal,
  rehearse,
  serviceOf,
  setLosses,
  type SetLoss,
  type Settings,
} from '@zakuska/core';
import { allFormats, fillTemplate } from '@zakuska/documents';
import { expose } from 'comlink';
import { helpers } from '../worker/helpers.js';

export interface Made {
  bytes: Uint8Array;
  name: string;
  mediaType: string;
  /** What answering the file showed; of what people read, what reading it again did. */
  rehearsal?: Rehearsal;
  readBack?: ReadBack;
}

/** A service's import template that the workspace keeps. */
export interface KeptTemplate {
  id: string;
  name: string;
  fileName: string;
  /** The file, base64. */
  data: string;
  correction?: ImporterCorrection | undefined;
}
const tables = (bytes: Uint8Array, name: string) => allFormats.tables(bytes, name);
const understoodOf = async ({ data, fileName }: Pick<KeptTemplate, 'data' | 'fileName'>): Promise<ImporterSheet> =>
  readImporter(await tables(bytesOf(data), fileName));

/** What a template can hold, worked out once for each. */
const profiles = new Map<string, Promise<Profile>>();
const profileFor = (t: KeptTemplate): Promise<Profile> => {
  const key = `${t.id} ${t.data.length} ${JSON.stringify(t.correction ?? null)}`;
  const known = profiles.get(key) ?? understoodOf(t).then((u) => fillingOf(t.correction ? correctedImporter(u, t.correction) : u).profile);
  profiles.set(key, known);
  return known;
};

/** By destination: what becomes of each item, and what of the set itself stays behind. */
export interface Fits {
  items: Record<string, Fit[]>;
  ofSet: Record<string, SetLoss[]>;
}

/** Something that goes: an item of the set, or one of several that it becomes. */
export interface Going {
  key: string;
  item: string;
  name: string;
  print: string;
}

const remote = {
  /** What each item becomes at each destination, in the form chosen for it, and what of the set itself stays behind. */
  async fits(set: QuizSet, forms: Readonly<Record<string, string>>, templates: readonly KeptTemplate[]): Promise<Fits> {
    const profiles = [
      ...destinations.map((d) => [d.id, profileOf(d, forms[d.id])] as const),
      ...(await Promise.all(templates.map(async (t) => [t.id, await profileFor(t)] as const))),
    ];
    return {
      items: Object.fromEntries(profiles.map(([id, profile]) => [id, fitSet(set, profile).fits])),
      ofSet: Object.fromEntries(profiles.map(([id, profile]) => [id, setLosses(set, profile)])),
    };
  },
  /** What a template asks for, as it is understood. */
  async understand(file: Pick<KeptTemplate, 'data' | 'fileName'>): Promise<Importer> {
    return (await understoodOf(file)).importer;
  },
  /** A template filled with the set, read back and answered. */
  async fill(given: QuizSet, t: KeptTemplate): Promise<Made> {
    const set = picturesApart(given);
    const { bytes, rehearsal } = await fillTemplate(bytesOf(t.data), t.fileName, set, tables, t.correction);
    const ending = /\.[^.]+$/.exec(t.fileName)?.[0].toLowerCase() ?? '.csv';
    const mediaType = ending === '.xlsx' ? 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet' : 'text/csv';
    return { bytes, name: fileName(`${set.title} ${t.name}`, ending), mediaType, rehearsal };
  },
  /** What of a set goes to a service, item by item, with a print that changes with what goes. */
  pieces(set: QuizSet, service: string, settings: Settings): Going[] {
    const known = serviceOf(service);
    return known ? piecesOf(set, known, settings).pieces.map(({ key, item, name, print }) => ({ key, item, name, print })) : [];
  },
  /** A set as slides to be shown in the room. */
  slides: deckOf,
  /** Writes a file, reads it back and answers it. */
  async make(given: QuizSet, formatId: string): Promise<Made> {
    const set = picturesApart(given);
    const format = allFormats.byId(formatId);
    if (!format?.write) throw new Error(`There is no format ${formatId}.`);
    const { bytes, name } = await (format.share?.(set, helpers) ?? format.write(set));
    if (format.readBack) return { bytes, name, mediaType: format.mediaType, readBack: await format.readBack(bytes, set) };
    const { played } = await allFormats.play(bytes, name, format.id === 'text' ? 'draft' : undefined);
    return { bytes, name, mediaType: format.mediaType, rehearsal: rehearse(played, set, format.profile) };
  },
};
export type Deliverer = typeof remote;
expose(remote);
