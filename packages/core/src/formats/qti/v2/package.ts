/** Writes a set as a QTI content package (IMS Content Packaging 1.1): manifest, test, one file an item, pictures. */
import { identifierOf } from '../identifiers.js';
import { fitSet } from '../../../fit/fit.js';
import type { Profile } from '../../../fit/profile.js';
import type { Item, QuizSet, Section } from '../../../item/model.js';
import { keyProblem } from '../../../item/kinds.js';
import { richToPlain } from '../../../item/richText.js';
import { el, writeXml, type Naming, type XmlElement } from '../../xml.js';
import { fileName, type Written } from '../../format.js';
import type { Chore, Helpers } from '../../helpers.js';
import { utf8 } from '../../encoding.js';
import { remembered } from '../../../language/remembered.js';
import { archiveOf, type PackedFile, packer } from '../../archive.js';
import { bytesOf, extensionOf } from '../../pictures.js';
import { qti2Profile } from '../profile.js';
import { buildItem, buildTest, itemIdentifier, type Version } from './build.js';

const kebab = (name: string): string => name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`);
const HTML = new Set(['p', 'div', 'span', 'ul', 'li']);
const KEPT_ATTRIBUTE = /^(xmlns|xsi:|xml:)/;

/** QTI 3.0 writes the names of 2.1 in kebab case, elements with `qti-` before them. */
const names30: Naming = {
  element: remembered((n) => (HTML.has(n) ? n : n === 'feedbackContent' ? 'qti-content-body' : `qti-${kebab(n)}`)),
  attribute: remembered((n) => (KEPT_ATTRIBUTE.test(n) ? n : kebab(n))),
};
/** `feedbackContent` is 3.0's wrapper and stands for a plain division before. */
const names2x: Naming = { element: (n) => (n === 'feedbackContent' ? 'div' : n), attribute: (n) => n };

const v2 = (id: '2.1' | '2.2', short: string): Version => ({
  id,
  namespace: `http://www.imsglobal.org/xsd/imsqti_${short}`,
  schema: `http://www.imsglobal.org/xsd/qti/qti${short}/imsqti_${short}${id === '2.2' ? 'p2' : ''}.xsd`,
  template: (name) => `http://www.imsglobal.org/question/qti_${short}/rptemplates/${name}`,
  itemType: `imsqti_item_xml${short}`,
  testType: `imsqti_test_xml${short}`,
});
/** The versions that are written. */
export const versions = {
  '2.1': v2('2.1', 'v2p1'),
  '2.2': v2('2.2', 'v2p2'),
  '3.0': {
    id: '3.0',
    namespace: 'http://www.imsglobal.org/xsd/imsqtiasi_v3p0',
    schema: 'https://purl.imsglobal.org/spec/qti/v3p0/schema/xsd/imsqti_asiv3p0_v1p0.xsd',
    template: (name) => `https://purl.imsglobal.org/spec/qti/v3p0/rptemplates/${name}.xml`,
    itemType: 'imsqti_item_xmlv3p0',
    testType: 'imsqti_test_xmlv3p0',
  },
} as const satisfies Record<string, Version>;
/** One of them. */
export type VersionId = keyof typeof versions;

const namingOf = (v: Version): Naming => (v.id === '3.0' ? names30 : names2x);

/** Pictures of the set as paths of the package; `base` leads from the file's folder to the package's root. */
function withMedia(xml: string, paths: Readonly<Record<string, string>>, base: string): { xml: string; media: string[] } {
  if (!xml.includes('"asset:')) return { xml, media: [] };
  const media = new Set<string>();
  const out = xml.replace(/src="asset:([0-9a-f]{64})"/g, (whole, hash: string) => {
    const path = paths[hash];
    if (!path) return whole;
    media.add(path);
    return `src="${base}${path}"`;
  });
  return { xml: out, media: [...media] };
}

const itemXml = (item: Item, language: string | undefined, v: Version, section: Section | undefined): string =>
  writeXml(buildItem(item, v, language, section), namingOf(v));
const hrefOf = (item: Item): string => `items/${itemIdentifier(item)}.xml`;

/** One item as an XML file, as it stands in a folder of a package. */
export const qtiItemXml = (item: Item, quiz: QuizSet, versionId: VersionId): string =>
  withMedia(
    itemXml(
      item,
      quiz.language,
      versions[versionId],
      quiz.sections?.find((s) => s.id === item.section),
    ),
    mediaPaths(quiz),
    '../',
  ).xml;

const LOM = 'http://ltsc.ieee.org/xsd/LOM';
const langString = (text: string, language?: string): XmlElement => el('string', language ? { language } : {}, text);
const vocabulary = (name: string, value: string): XmlElement => el(name, {}, el('source', {}, 'LOMv1.0'), el('value', {}, value));
const taxon = (scheme: string, entry: string): XmlElement =>
  el('taxonPath', {}, el('source', {}, langString(scheme)), el('taxon', {}, el('entry', {}, langString(entry))));

/**
 * What the manifest says of the whole (IEEE 1484.12.3, `general`): the title where no test bears it; the language where an item has one
 * of its own, else the items say it (a set without one is undetermined, BCP 47 `und`); the description, in plain words. Null where it says nothing.
 */
export function aboutSet(quiz: QuizSet, titled: boolean): XmlElement | null {
  const general = [
    titled ? el('title', {}, langString(quiz.title, quiz.language)) : null,
    quiz.items.some((i) => i.language) ? el('language', {}, quiz.language ?? 'und') : null,
    quiz.description ? el('description', {}, langString(richToPlain(quiz.description), quiz.language)) : null,
  ];
  return general.some(Boolean) ? el('lom', { xmlns: LOM }, el('general', {}, general)) : null;
}

/** What has no place in an item itself, as the description of its resource: IEEE 1484.12.3, the XML binding of LOM. */
function description(item: Item, language?: string): XmlElement | null {
  const { tags = [], outcomes = [], level = {} } = item;
  if (!tags.length && !outcomes.length && !Object.keys(level).length) return null;
  const paths = [
    ...(level.bloom ? [taxon('Bloom', level.bloom)] : []),
    ...(level.depth ? [taxon('Depth of knowledge', String(level.depth))] : []),
    ...(level.difficulty !== undefined ? [taxon('Difficulty 0 to 1', String(level.difficulty))] : []),
  ];
  return el(
    'metadata',
    {},
    el(
      'lom',
      { xmlns: LOM },
      tags.length
        ? el(
            'general',
            {},
            tags.map((t) => el('keyword', {}, langString(t, language))),
          )
        : null,
      paths.length ? el('classification', {}, vocabulary('purpose', 'educational level'), paths) : null,
      outcomes.map((o) => el('classification', {}, vocabulary('purpose', 'educational objective'), el('description', {}, langString(o, language)))),
    ),
  );
}

/** What the items of a part of a package are packed from. */
interface PartOfItems {
  version: VersionId;
  items: readonly Item[];
  sections: readonly Section[];
  language?: string | undefined;
  /** Paths of the set's pictures, by their hashes. */
  media: Readonly<Record<string, string>>;
}
/** A packed item, with the pictures that it shows. */
interface PackedItem {
  file: PackedFile;
  media: string[];
}
/** Items that are packed one after the other, and share their codes. Bytes hang on it: it is the same on all machines. */
const PART = 500;

/** Packs the items of a part; parts know nothing of one another. */
export const itemsChore: Chore<PartOfItems, PackedItem[]> = {
  id: 'qti-items',
  run({ version, items, sections, language, media }) {
    const v = versions[version];
    const pack = packer();
    const byId = new Map(sections.map((s) => [s.id, s]));
    return items.map((item) => {
      const named = withMedia(itemXml(item, language, v, byId.get(item.section ?? '')), media, '../');
      return { file: pack(hrefOf(item), utf8(named.xml)), media: named.media };
    });
  },
};

interface WrittenItem {
  item: Item;
  href: string;
  media: string[];
}

function manifest(quiz: QuizSet, items: readonly WrittenItem[], ofTest: readonly string[] | null, v: Version): XmlElement {
  const media = [...new Set([...(ofTest ?? []), ...items.flatMap((i) => i.media)])].sort();
  const mediaIds = new Map(media.map((href, i) => [href, `media-${i + 1}`]));
  const three = v.id === '3.0';
  const ns = three ? 'http://www.imsglobal.org/xsd/qti/qtiv3p0/imscp_v1p1' : 'http://www.imsglobal.org/xsd/imscp_v1p1';
  return el(
    'manifest',
    {
      xmlns: ns,
      'xmlns:xsi': 'http://www.w3.org/2001/XMLSchema-instance',
      'xsi:schemaLocation': three
        ? `${ns} https://purl.imsglobal.org/spec/qti/v3p0/schema/xsd/imsqtiv3p0_imscpv1p2_v1p0.xsd`
        : `${ns} http://www.imsglobal.org/xsd/imscp_v1p1.xsd`,
      identifier: identifierOf(quiz, 'manifest'),
    },
    el(
      'metadata',
      {},
      el('schema', {}, three ? 'QTI Package' : `QTIv${v.id} Package`),
      el('schemaversion', {}, three ? '3.0.0' : '1.0.0'),
      aboutSet(quiz, !ofTest),
    ),
    el('organizations'),
    el(
      'resources',
      {},
      ofTest &&
        el(
          'resource',
          { identifier: identifierOf(quiz, 'test'), type: v.testType, href: 'test.xml' },
          el('file', { href: 'test.xml' }),
          items.map(({ item }) => el('dependency', { identifierref: itemIdentifier(item) })),
          ofTest.map((m) => el('dependency', { identifierref: mediaIds.get(m) ?? '' })),
        ),
      items.map(({ item, href, media: used }) =>
        el(
          'resource',
          { identifier: itemIdentifier(item), type: v.itemType, href },
          description(item, quiz.language),
          el('file', { href }),
          used.map((m) => el('dependency', { identifierref: mediaIds.get(m) ?? '' })),
        ),
      ),
      media.map((href) => el('resource', { identifier: mediaIds.get(href) ?? '', type: 'webcontent', href }, el('file', { href }))),
    ),
  );
}

/** Items that have a complete key, or need none, in the set's order. */
export const itemsWithKey = (quiz: QuizSet): Item[] => quiz.items.filter((i) => !keyProblem(i));

/** Pictures of a set that some written texts name, by their path in a package. */
export function mediaFiles(quiz: QuizSet, used: ReadonlySet<string>): Record<string, Uint8Array> {
  const files: Record<string, Uint8Array> = {};
  for (const [hash, path] of Object.entries(mediaPaths(quiz))) {
    const a = quiz.assets?.[hash];
    if (a && used.has(path)) files[path] = bytesOf(a.data);
  }
  return files;
}
/** Where pictures of a set lie in the package, by the hashes of their bytes. */
export const mediaPaths = ({ assets = {} }: QuizSet): Record<string, string> =>
  Object.fromEntries(Object.entries(assets).map(([hash, { mediaType }]) => [hash, `media/${hash.slice(0, 16)}.${extensionOf(mediaType)}`]));

/** A package that is to be written, and its items in parts. */
function begin(whole: QuizSet, version: VersionId, profile: Profile): { quiz: QuizSet; media: Record<string, string>; parts: PartOfItems[] } {
  const { set: quiz } = fitSet(whole, profile);
  const { sections = [], language } = quiz;
  const media = mediaPaths(quiz);
  const parts: PartOfItems[] = [];
  for (let i = 0; i < quiz.items.length; i += PART) parts.push({ version, items: quiz.items.slice(i, i + PART), sections, language, media });
  return { quiz, media, parts };
}

/** The package of items that are packed. */
function finish({ quiz, media }: ReturnType<typeof begin>, versionId: VersionId, as: 'test' | 'bank', packed: readonly PackedItem[]): Written {
  const v = versions[versionId];
  const pack = packer();
  const items = quiz.items.map((item, i): WrittenItem => ({ item, href: hrefOf(item), media: packed[i]?.media ?? [] }));
  const test = as === 'bank' ? null : withMedia(writeXml(buildTest(quiz, v, hrefOf), namingOf(v)), media, '');
  const used = new Set([...(test?.media ?? []), ...items.flatMap((i) => i.media)]);
  const bytes = archiveOf([
    pack('imsmanifest.xml', utf8(writeXml(manifest(quiz, items, test?.media ?? null, v)))),
    ...(test ? [pack('test.xml', utf8(test.xml))] : []),
    ...packed.map((p) => p.file),
    ...Object.entries(mediaFiles(quiz, used)).map(([path, data]) => pack(path, data)),
  ]);
  return { bytes, name: fileName(quiz.title, `-qti${versionId.replace('.', '')}${as === 'bank' ? '-bank' : ''}.zip`) };
}

/**
 * Writes the package as a zip, of what `fitSet` makes of the set. Same set, same bytes.
 * @param as a test with its items, or the items alone for a bank
 */
export function writeQtiPackage(whole: QuizSet, versionId: VersionId, profile: Profile = qti2Profile, as: 'test' | 'bank' = 'test'): Written {
  const begun = begin(whole, versionId, profile);
  return finish(
    begun,
    versionId,
    as,
    begun.parts.flatMap((part) => itemsChore.run(part)),
  );
}

/** The same, to the byte, with the items packed by helpers; a package of a single part is packed here. */
export async function shareQtiPackage(
  whole: QuizSet,
  helpers: Helpers,
  versionId: VersionId,
  profile: Profile = qti2Profile,
  as: 'test' | 'bank' = 'test',
): Promise<Written> {
  const begun = begin(whole, versionId, profile);
  const { parts } = begun;
  const packed = await Promise.all(parts.map((part) => (parts.length > 1 ? helpers.do(itemsChore, part) : itemsChore.run(part))));
  return finish(begun, versionId, as, packed.flat());
}
