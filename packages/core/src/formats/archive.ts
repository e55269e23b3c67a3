/** Zip archives: read with bounds that no hostile archive gets past, written so that the same files give the same bytes. */
import { Inflate, inflateSync } from 'fflate';
import { ReadError } from '../item/readError.js';
import { Codes, crc32, deflate } from './deflate.js';
import { decodeText } from './encoding.js';

/** Bounds of what an archive may unpack to: number of files, bytes of one and of all, and times its own size. */
export interface ArchiveLimits {
  /** Entries that are not folders. */
  files: number;
  /** Bytes of one file and of all together, unpacked. */
  file: number;
  total: number;
  /** How many times its packed size all may unpack to, once that is over a megabyte. */
  ratio: number;
}
/** The bounds that hold for files of people; common practice, no source. */
export const archiveLimits: ArchiveLimits = { files: 20_000, file: 100e6, total: 300e6, ratio: 200 };

/** Whether bytes begin as a ZIP archive does (PKWARE APPNOTE 4.3.7 and, for an empty one, 4.3.16). */
export const looksLikeZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b && (bytes[2] === 3 || bytes[2] === 5);

const megabytes = (n: number): string => `${Math.round(n / 1e6)} MB`;

/**
 * The files of an archive by their paths, with forward slashes, in the order of its directory. Folders are left out; so is every entry whose path would lead
 * out of the archive. APPNOTE.TXT of the zip format: end record 0x06054b50, directory entries 0x02014b50, local headers 0x04034b50.
 * @throws ReadError for what is no zip, is cut off, is encrypted, or is too large unpacked
 */
export function openArchive(bytes: Uint8Array, limits: ArchiveLimits = archiveLimits): Map<string, Uint8Array> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const broken = (): ReadError => new ReadError('this archive is broken or cut off; copy or export it again');
  let end = bytes.length - 22;
  while (end >= 0 && view.getUint32(end, true) !== 0x06054b50) {
    end--;
    if (bytes.length - end > 65_600) break;
  }
  if (end < 0 || view.getUint32(end, true) !== 0x06054b50) throw broken();
  const count = view.getUint16(end + 10, true);
  let at = view.getUint32(end + 16, true);
  if (at === 0xffffffff || count === 0xffff) throw new ReadError(`this archive holds more than ${limits.files} files`);
  const out = new Map<string, Uint8Array>();
  let packed = 0;
  let total = 0;
  for (let i = 0; i < count; i++) {
    if (at + 46 > bytes.length || view.getUint32(at, true) !== 0x02014b50) throw broken();
    const flags = view.getUint16(at + 8, true);
    const method = view.getUint16(at + 10, true);
    const size = view.getUint32(at + 20, true);
    const unpacked = view.getUint32(at + 24, true);
    const nameLength = view.getUint16(at + 28, true);
    const local = view.getUint32(at + 42, true);
    const rawName = bytes.subarray(at + 46, at + 46 + nameLength);
    at += 46 + nameLength + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
    const path = safePath(decodeText(rawName));
    if (path === null) continue;
    if (flags & 1) throw new ReadError('this archive is protected by a password; save it without one');
    if (out.size >= limits.files) throw new ReadError(`this archive holds more than ${limits.files} files`);
    if (local + 30 > bytes.length || view.getUint32(local, true) !== 0x04034b50) throw broken();
    const from = local + 30 + view.getUint16(local + 26, true) + view.getUint16(local + 28, true);
    if (from + size > bytes.length) throw broken();
    packed += size;
    total += unpacked;
    // entries that lie over one another pack more than the archive holds
    if (packed > bytes.length + 1000) throw broken();
    if (unpacked > limits.file) throw new ReadError(`“${path}” would unpack to more than ${megabytes(limits.file)}`);
    if (total > limits.total || (total > 1e6 && total > packed * limits.ratio))
      throw new ReadError(`this archive would unpack to ${megabytes(total)}, more than is read here; it may be broken or made to do harm`);
    const data = bytes.subarray(from, from + size);
    if (method === 0) out.set(path, data);
    else if (method === 8) out.set(path, inflate(data, unpacked, path));
    else throw new ReadError(`“${path}” is packed in a way that is not read here`);
  }
  return out;
}

/** Packed files of at most so many bytes are unpacked at once: even one that lies costs no more than a few milliseconds. */
const SMALL = 16_384;
/** Unpacks; large files in pieces, so that an entry that says it is small and is not is stopped early. */
function inflate(data: Uint8Array, size: number, path: string): Uint8Array {
  const wrong = (): ReadError => new ReadError(`“${path}” in this archive is broken`);
  if (data.length <= SMALL && size <= SMALL * 8) {
    try {
      // one byte more, by which it shows that there is more than was said
      const unpacked = inflateSync(data, { out: new Uint8Array(size + 1) });
      if (unpacked.length === size) return unpacked;
    } catch {
      // broken
    }
    throw wrong();
  }
  const out = new Uint8Array(size);
  let at = 0;
  const stream = new Inflate((chunk) => {
    if (at + chunk.length > size) throw wrong();
    out.set(chunk, at);
    at += chunk.length;
  });
  try {
    for (let i = 0; i < data.length || i === 0; i += 32_768) stream.push(data.subarray(i, i + 32_768), i + 32_768 >= data.length);
  } catch (e) {
    throw e instanceof ReadError ? e : wrong();
  }
  if (at !== size) throw wrong();
  return out;
}

/** A path inside an archive; null for folders and for what would lead out of it. */
function safePath(raw: string): string | null {
  const path = raw.replace(/\\/g, '/').replace(/^(\.\/)+/, '');
  if (!path || path.endsWith('/') || path.startsWith('/') || /^[A-Za-z]:/.test(path) || path.includes('\u0000') || path.split('/').includes('..')) return null;
  return path;
}

/** The days of an archive as MS-DOS writes them: 2 January 1980, the first that a zip can hold and a day, for time zones. */
const DAY = (1 << 5) | 2;
/** "Version needed": 2.0, for DEFLATE (APPNOTE 4.4.3); and that names are in UTF-8 (4.4.4, bit 11). */
const VERSION = 20;
const UTF8_NAME = 0x800;
/** Files that are packed in a way of their own: there is nothing to gain. */
const PACKED_ALREADY = /\.(?:png|jpe?g|gif|webp)$/i;

/** A file of an archive as it will lie in it. */
export interface PackedFile {
  name: Uint8Array;
  flags: number;
  method: number;
  crc: number;
  size: number;
  bytes: Uint8Array;
}
const encoder = new TextEncoder();
/**
 * Makes the files of one archive ready, in their order, by where they lie in it. Pictures, and what packing makes no smaller, are stored.
 * Whoever makes many files need not hold them all as they were.
 */
export function packer(): (path: string, data: Uint8Array) => PackedFile {
  const codes = new Codes();
  return (path, data) => {
    const name = encoder.encode(path);
    const packed = PACKED_ALREADY.test(path) ? data : deflate(data, codes);
    const stored = packed.length >= data.length;
    return {
      name,
      flags: name.length === path.length ? 0 : UTF8_NAME,
      method: stored ? 0 : 8,
      crc: crc32(data),
      size: data.length,
      bytes: stored ? data : packed,
    };
  };
}

/** An archive of files in the order given. Same files, same bytes, on whatever machine. @param files bytes by path; fewer than 65,536 files and 4 GB in all */
export function packArchive(files: Readonly<Record<string, Uint8Array>>): Uint8Array {
  const pack = packer();
  return archiveOf(Object.entries(files).map(([path, data]) => pack(path, data)));
}

/** An archive of files that are packed already, in the order given. */
export function archiveOf(entries: readonly PackedFile[]): Uint8Array {
  const directory = entries.reduce((sum, e) => sum + 46 + e.name.length, 0);
  const body = entries.reduce((sum, e) => sum + 30 + e.name.length + e.bytes.length, 0);
  const out = new Uint8Array(body + directory + 22);
  const view = new DataView(out.buffer);
  let at = 0;
  const two = (value: number): void => {
    view.setUint16(at, value, true);
    at += 2;
  };
  const four = (value: number): void => {
    view.setUint32(at, value, true);
    at += 4;
  };
  const put = (bytes: Uint8Array): void => {
    out.set(bytes, at);
    at += bytes.length;
  };
  /** What the local header and the directory say alike (APPNOTE 4.3.7 and 4.3.12). */
  const common = (e: PackedFile): void => {
    two(VERSION);
    two(e.flags);
    two(e.method);
    two(0);
    two(DAY);
    four(e.crc);
    four(e.bytes.length);
    four(e.size);
    two(e.name.length);
    two(0);
  };
  const places = entries.map((e) => {
    const place = at;
    four(0x04034b50);
    common(e);
    put(e.name);
    put(e.bytes);
    return place;
  });
  entries.forEach((e, i) => {
    four(0x02014b50);
    two(VERSION);
    common(e);
    // no comment, first disk, no attributes
    two(0);
    two(0);
    two(0);
    four(0);
    four(places[i] as number);
    put(e.name);
  });
  four(0x06054b50);
  four(0);
  two(entries.length);
  two(entries.length);
  four(directory);
  four(body);
  two(0);
  return out;
}

/** A path as seen from a file: `../img/a.png` from `items/i.xml` is `img/a.png`. Null where it leads out. */
export function resolvePath(from: string, href: string): string | null {
  let decoded = href.split(/[?#]/)[0] ?? '';
  try {
    decoded = decodeURIComponent(decoded);
  } catch {
    // a percent sign that is no escape
  }
  const parts = from.split('/').slice(0, -1);
  if (decoded.startsWith('/')) parts.length = 0;
  for (const p of decoded.replace(/\\/g, '/').split('/')) {
    if (p === '..') {
      if (!parts.length) return null;
      parts.pop();
    } else if (p && p !== '.') parts.push(p);
  }
  return parts.join('/');
}
