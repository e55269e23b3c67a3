/** Writes QTI 1.2 content packages and Common Cartridges: manifest, one file with all items, pictures. */
import { identifierOf } from '../identifiers.js';
import { fitSet } from '../../../fit/fit.js';
import type { QuizSet } from '../../../item/model.js';
import { richToPlain } from '../../../item/richText.js';
import { packArchive } from '../../archive.js';
import { fileName, type Written } from '../../format.js';
import { utf8 } from '../../encoding.js';
import { el, writeXml, type XmlElement } from '../../xml.js';
import { buildFile1, type Flavour, NAMESPACE } from './build.js';
import { aboutSet, mediaFiles, mediaPaths } from '../v2/package.js';
import { cartridgeProfile, qti12BankProfile, qti12Profile } from '../profile.js';

/** Versions of Common Cartridge that are written. */
export type CartridgeVersion = '1.1' | '1.2' | '1.3';
type As = 'test' | 'bank';

/** Pictures as paths: in escaped HTML their quotes are escaped too. */
function withMedia(xml: string, quiz: QuizSet, base: string): { xml: string; media: string[] } {
  if (!xml.includes('asset:')) return { xml, media: [] };
  const media = new Set<string>();
  const paths = mediaPaths(quiz);
  const out = xml.replace(/asset:([0-9a-f]{64})/g, (whole, hash: string) => {
    const path = paths[hash];
    if (!path) return whole;
    media.add(path);
    return base + path;
  });
  return { xml: out, media: [...media].sort() };
}

function file(quiz: QuizSet, flavour: Flavour, as: As, schema: string): { xml: string; media: string[] } {
  return withMedia(writeXml(buildFile1(quiz, flavour, as, `${NAMESPACE} ${schema}`)), quiz, flavour === 'cartridge' ? '$IMS-CC-FILEBASE$/' : '');
}

const resources = (quiz: QuizSet, type: string, href: string, media: readonly string[]): XmlElement =>
  el(
    'resources',
    {},
    el(
      'resource',
      { identifier: identifierOf(quiz, 'questions'), type, href },
      el('file', { href }),
      media.map((_, i) => el('dependency', { identifierref: `media-${i + 1}` })),
    ),
    media.map((path, i) => el('resource', { identifier: `media-${i + 1}`, type: 'webcontent', href: path }, el('file', { href: path }))),
  );

function pack(name: string, manifest: XmlElement, href: string, xml: string, quiz: QuizSet, media: readonly string[]): Written {
  const files: Record<string, Uint8Array> = { 'imsmanifest.xml': utf8(writeXml(manifest)), [href]: utf8(xml) };
  Object.assign(files, mediaFiles(quiz, new Set(media)));
  return { bytes: packArchive(files), name };
}

/** A QTI 1.2 package of what `fitSet` makes of the set. Same set, same bytes. */
export function writeQti12(whole: QuizSet, as: As = 'test'): Written {
  const { set: quiz } = fitSet(whole, as === 'test' ? qti12Profile : qti12BankProfile);
  const { xml, media } = file(quiz, 'plain', as, 'http://www.imsglobal.org/xsd/ims_qtiasiv1p2p1.xsd');
  const ns = 'http://www.imsglobal.org/xsd/imscp_v1p1';
  const manifest = el(
    'manifest',
    {
      xmlns: ns,
      'xmlns:xsi': 'http://www.w3.org/2001/XMLSchema-instance',
      'xsi:schemaLocation': `${ns} http://www.imsglobal.org/xsd/imscp_v1p1.xsd`,
      identifier: identifierOf(quiz, 'manifest'),
    },
    el('metadata', {}, el('schema', {}, 'IMS Content'), el('schemaversion', {}, '1.1.3'), aboutSet(quiz, as === 'bank')),
    el('organizations'),
    resources(quiz, 'imsqti_xmlv1p2', 'questions.xml', media),
  );
  return pack(fileName(quiz.title, as === 'test' ? '-qti12.zip' : '-qti12-bank.zip'), manifest, 'questions.xml', xml, quiz, media);
}

/** A Common Cartridge with one assessment or question bank, of what `fitSet` makes of the set. Same set, same bytes. */
export function writeCartridge(whole: QuizSet, version: CartridgeVersion, as: As = 'test'): Written {
  const { set: quiz } = fitSet(whole, cartridgeProfile);
  const v = `v${version.replace('.', 'p')}`;
  const { xml, media } = file(quiz, 'cartridge', as, `http://www.imsglobal.org/profile/cc/cc${v}/cc${v}_qtiasiv1p2p1_v1p0.xsd`);
  const ns = `http://www.imsglobal.org/xsd/imscc${v}/imscp_v1p1`;
  const words = (text: string): XmlElement => el('lomimscc:string', { language: quiz.language ?? 'en' }, text);
  const lom = `http://ltsc.ieee.org/xsd/imscc${v}/LOM/manifest`;
  const manifest = el(
    'manifest',
    {
      xmlns: ns,
      'xmlns:lomimscc': lom,
      'xmlns:xsi': 'http://www.w3.org/2001/XMLSchema-instance',
      'xsi:schemaLocation': `${ns} http://www.imsglobal.org/profile/cc/cc${v}/cc${v}_imscp_v1p2_v1p0.xsd`,
      identifier: identifierOf(quiz, 'manifest'),
    },
    el(
      'metadata',
      {},
      el('schema', {}, 'IMS Common Cartridge'),
      el('schemaversion', {}, `${version}.0`),
      el(
        'lomimscc:lom',
        {},
        el(
          'lomimscc:general',
          {},
          el('lomimscc:title', {}, words(quiz.title)),
          quiz.description ? el('lomimscc:description', {}, words(richToPlain(quiz.description))) : null,
        ),
      ),
    ),
    el(
      'organizations',
      {},
      // a bank is no page of the course, so only a test stands in its outline
      as === 'test'
        ? el(
            'organization',
            { identifier: identifierOf(quiz, 'outline'), structure: 'rooted-hierarchy' },
            el(
              'item',
              { identifier: 'root' },
              el('item', { identifier: 'page-1', identifierref: identifierOf(quiz, 'questions') }, el('title', {}, quiz.title)),
            ),
          )
        : null,
    ),
    resources(
      quiz,
      as === 'test' ? `imsqti_xmlv1p2/imscc_xml${v}/assessment` : `imsqti_xmlv1p2/imscc_xml${v}/question-bank`,
      'questions/assessment.xml',
      media,
    ),
  );
  return pack(
    fileName(quiz.title, as === 'test' ? `-cc${version.replace('.', '')}.imscc` : `-cc${version.replace('.', '')}-bank.imscc`),
    manifest,
    'questions/assessment.xml',
    xml,
    quiz,
    media,
  );
}
