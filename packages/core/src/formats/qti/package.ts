/** Writes a set as a QTI content package (IMS Content Packaging 1.1): manifest, test, one file an item, pictures. */
import { zipSync, type Zippable } from 'fflate';
import type { Item, QuizSet } from '../../item/model.js';
import { keyProblem } from '../../item/kinds.js';
import { el, writeXml, type Naming, type XmlElement } from '../xml.js';
import { fileName, utf8, type Written } from '../format.js';
import { buildItem, buildTest, itemIdentifier, type Version } from './build.js';

const kebab = (name: string): string => name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`);
const HTML = new Set(['p', 'div', 'span']);
const KEPT_ATTRIBUTE = /^(xmlns|xsi:|xml:)/;

/** QTI 3.0 writes the names of 2.1 in kebab case, elements with `qti-` before them. */
const names30: Naming = {
  element: (n) => (HTML.has(n) ? n : n === 'feedbackContent' ? 'qti-content-body' : `qti-${kebab(n)}`),
  attribute: (n) => (KEPT_ATTRIBUTE.test(n) ? n : kebab(n)),
};
/** `feedbackContent` is 3.0's wrapper and stands for a plain division before. */
const names2x: Naming = { element: (n) => (n === 'feedbackContent' ? 'div' : n), attribute: (n) => n };

const v2 = (id: '2.1' | '2.2', short: string): Version => ({
  id,
  namespace: `http://www.imsglobal.org/xsd/imsqti_${short}`,
  schema: `http://www.imsglobal.org/xsd/qti/qti${short}/imsqti_${short}${id === '2.2' ? 'p2' : ''}.xsd`,
  templates: `http://www.imsglobal.org/question/qti_${short}/rptemplates/`,
  itemType: `imsqti_item_xml${short}`,
  testType: `imsqti_test_xml${short}`,
});
export const versions = {
  '2.1': v2('2.1', 'v2p1'),
  '2.2': v2('2.2', 'v2p2'),
  '3.0': {
    id: '3.0',
    namespace: 'http://www.imsglobal.org/xsd/imsqtiasi_v3p0',
    schema: 'https://purl.imsglobal.org/spec/qti/v3p0/schema/xsd/imsqti_asiv3p0_v1p0.xsd',
    templates: 'https://purl.imsglobal.org/spec/qti/v3p0/rptemplates/',
    itemType: 'imsqti_item_xmlv3p0',
    testType: 'imsqti_test_xmlv3p0',
  },
} as const satisfies Record<string, Version>;
export type VersionId = keyof typeof versions;

const namingOf = (v: Version): Naming => (v.id === '3.0' ? names30 : names2x);
const templateFile = (xml: string, v: Version): string => (v.id === '3.0' ? xml.replace(/(rptemplates\/(?:match_correct|map_response))(?=")/g, '$1.xml') : xml);

const extensionOf = (mediaType: string): string =>
  ({ 'image/png': 'png', 'image/jpeg': 'jpg', 'image/gif': 'gif', 'image/webp': 'webp', 'image/svg+xml': 'svg' })[mediaType] ?? 'bin';
const bytesOf = (base64: string): Uint8Array => Uint8Array.from(atob(base64), (c: string) => c.charCodeAt(0));

/** One item as an XML file. `base` leads from the item's folder to the package's root, for pictures. */
export function qtiItemXml(item: Item, quiz: QuizSet, versionId: VersionId, base = '../'): string {
  const v = versions[versionId];
  const section = quiz.sections?.find((s) => s.id === item.section);
  const xml = templateFile(writeXml(buildItem(item, v, quiz.language, section), namingOf(v)), v);
  return xml.replace(/src="asset:([0-9a-f]{64})"/g, (whole, hash: string) => {
    const a = quiz.assets?.[hash];
    return a ? `src="${base}media/${hash.slice(0, 16)}.${extensionOf(a.mediaType)}"` : whole;
  });
}

function manifest(quiz: QuizSet, items: readonly { item: Item; href: string; media: string[] }[], v: Version): XmlElement {
  const media = [...new Set(items.flatMap((i) => i.media))].sort();
  const mediaId = (href: string): string => `media-${media.indexOf(href) + 1}`;
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
      identifier: 'manifest',
    },
    el('metadata', {}, el('schema', {}, three ? 'QTI Package' : `QTIv${v.id} Package`), el('schemaversion', {}, three ? '3.0.0' : '1.0.0')),
    el('organizations'),
    el(
      'resources',
      {},
      el(
        'resource',
        { identifier: 'test', type: v.testType, href: 'test.xml' },
        el('file', { href: 'test.xml' }),
        items.map(({ item }) => el('dependency', { identifierref: itemIdentifier(item) })),
      ),
      items.map(({ item, href, media: used }) =>
        el(
          'resource',
          { identifier: itemIdentifier(item), type: v.itemType, href },
          el('file', { href }),
          used.map((m) => el('dependency', { identifierref: mediaId(m) })),
        ),
      ),
      media.map((href) => el('resource', { identifier: mediaId(href), type: 'webcontent', href }, el('file', { href }))),
    ),
  );
}

/** Items that may go: those with a complete key, in the set's order. */
export const deliverable = (quiz: QuizSet): Item[] => quiz.items.filter((i) => !keyProblem(i));

/** Writes the package as a zip. Items without a key stay behind, as `fitQti` says. Same set, same bytes. */
export function writeQtiPackage(quiz: QuizSet, versionId: VersionId): Written {
  const v = versions[versionId];
  const items = deliverable(quiz).map((item) => {
    const xml = qtiItemXml(item, quiz, versionId);
    return {
      item,
      href: `items/${itemIdentifier(item)}.xml`,
      xml,
      media: [...new Set(Array.from(xml.matchAll(/src="\.\.\/(media\/[^"]+)"/g), (m) => m[1] ?? ''))],
    };
  });
  const hrefs = new Map(items.map((i) => [i.item.id, i.href]));
  const files: Zippable = {
    'imsmanifest.xml': utf8(writeXml(manifest(quiz, items, v))),
    'test.xml': utf8(
      writeXml(
        buildTest(
          quiz,
          items.map((i) => i.item),
          v,
          (i) => hrefs.get(i.id) ?? '',
        ),
        namingOf(v),
      ),
    ),
  };
  for (const i of items) files[i.href] = utf8(i.xml);
  const used = new Set(items.flatMap((i) => i.media));
  for (const [hash, a] of Object.entries(quiz.assets ?? {})) {
    const path = `media/${hash.slice(0, 16)}.${extensionOf(a.mediaType)}`;
    if (used.has(path)) files[path] = bytesOf(a.data);
  }
  // A fixed date, so that the same set gives the same bytes; 1980 is the first that zip can hold.
  return { bytes: zipSync(files, { mtime: new Date(1980, 0, 2), level: 6 }), name: fileName(quiz.title, `-qti${versionId.replace('.', '')}.zip`) };
}
