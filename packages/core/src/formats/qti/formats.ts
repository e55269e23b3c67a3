/** QTI and Common Cartridge as formats: one reader for all versions, a writer for each. */
import { looksLikeZip } from '../archive.js';
import type { Format } from '../format.js';
import { playQti } from './play.js';
import { cartridgeProfile, qti12BankProfile, qti12Profile, qti2BankProfile, qti2Profile } from './profile.js';
import { looksLikeQti, openQti, readQti } from './read.js';
import { type CartridgeVersion, writeCartridge, writeQti12 } from './v1/package.js';
import { shareQtiPackage, type VersionId, writeQtiPackage } from './v2/package.js';

const qti = (version: VersionId, as: 'test' | 'bank' = 'test', profile = as === 'bank' ? qti2BankProfile : qti2Profile): Format => ({
  id: `qti${version.replace('.', '')}${as === 'bank' ? '-bank' : ''}`,
  name: as === 'bank' ? `QTI ${version} items for a bank` : `QTI ${version} package`,
  extension: '.zip',
  mediaType: 'application/zip',
  write: (set) => writeQtiPackage(set, version, profile, as),
  share: (set, helpers) => shareQtiPackage(set, helpers, version, profile, as),
  profile,
});

const cartridge = (version: CartridgeVersion, as: 'test' | 'bank'): Format => ({
  id: `cc${version.replace('.', '')}${as === 'bank' ? '-bank' : ''}`,
  name: `Common Cartridge ${version}${as === 'bank' ? ' question bank' : ''}`,
  extension: '.imscc',
  mediaType: 'application/zip',
  write: (set) => writeCartridge(set, version, as),
  profile: cartridgeProfile,
});

export const qtiFormats: readonly Format[] = [
  {
    id: 'qti',
    name: 'QTI, any version',
    extension: '.zip',
    mediaType: 'application/zip',
    // an archive that is nothing else is opened to look for questions in it
    recognises: ({ bytes }) => (looksLikeQti(bytes) ? 0.9 : looksLikeZip(bytes) ? 0.5 : 0),
    read: readQti,
    play: (bytes, name) => {
      const { items, profile } = openQti(bytes, name);
      return { played: playQti(items), profile };
    },
  },
  { id: 'qti12', name: 'QTI 1.2 package', extension: '.zip', mediaType: 'application/zip', write: (set) => writeQti12(set), profile: qti12Profile },
  {
    id: 'qti12-bank',
    name: 'QTI 1.2 item bank',
    extension: '.zip',
    mediaType: 'application/zip',
    write: (set) => writeQti12(set, 'bank'),
    profile: qti12BankProfile,
  },
  ...(['2.1', '2.2', '3.0'] as const).map((v) => qti(v)),
  ...(['2.1', '2.2', '3.0'] as const).map((v) => qti(v, 'bank')),
  ...(['1.1', '1.2', '1.3'] as const).flatMap((v) => [cartridge(v, 'test'), cartridge(v, 'bank')]),
];
