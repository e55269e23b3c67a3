/** Pictures of a file as assets of a set: named by the SHA-256 of their bytes, so that one picture is kept once. */
import { sha256 } from '@noble/hashes/sha2.js';
import type { Asset, QuizSet } from '../item/model.js';

const hex = (bytes: Uint8Array): string => Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('');

/** The media type of a picture by its first bytes; null where it is no picture that a browser shows. SVG is not taken: it can hold scripts. */
export function pictureType(bytes: Uint8Array): string | null {
  const starts = (...b: number[]): boolean => b.every((x, i) => bytes[i] === x);
  if (starts(0x89, 0x50, 0x4e, 0x47)) return 'image/png';
  if (starts(0xff, 0xd8, 0xff)) return 'image/jpeg';
  if (starts(0x47, 0x49, 0x46, 0x38)) return 'image/gif';
  if (starts(0x52, 0x49, 0x46, 0x46) && String.fromCharCode(...bytes.subarray(8, 12)) === 'WEBP') return 'image/webp';
  return null;
}

/** The file extension for a media type of a picture. */
export const extensionOf = (mediaType: string): string =>
  ({ 'image/png': 'png', 'image/jpeg': 'jpg', 'image/gif': 'gif', 'image/webp': 'webp' })[mediaType] ?? 'bin';
/** Bytes of base64 (RFC 4648, 4); throws where it is none. */
export const bytesOf = (base64: string): Uint8Array => Uint8Array.from(atob(base64), (c: string) => c.charCodeAt(0));
/** Bytes in base64, in steps that no call stack minds. */
export function base64Of(bytes: Uint8Array): string {
  let s = '';
  for (let i = 0; i < bytes.length; i += 0x8000) s += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(s);
}

/** Collects the pictures that a set's texts show. */
export class Pictures {
  readonly assets: Record<string, Asset> = {};
  private readonly known = new Map<Uint8Array, string>();
  /** The address of a picture in rich text; null where the bytes are no picture. */
  add(bytes: Uint8Array, name: string): string | null {
    const had = this.known.get(bytes);
    if (had) return had;
    const mediaType = pictureType(bytes);
    if (!mediaType) return null;
    const hash = hex(sha256(bytes));
    this.assets[hash] ??= { mediaType, name, data: base64Of(bytes) };
    this.known.set(bytes, `asset:${hash}`);
    return `asset:${hash}`;
  }
}

/** Rich text whose pictures are inside it, for formats that are one file. A picture that the set has not is left as it is. */
export const assetsAsData = (rich: string, set: { assets?: Record<string, Asset> | undefined }): string =>
  rich.includes('asset:')
    ? rich.replace(/asset:([0-9a-f]{64})/g, (whole, hash: string) => {
        const a = set.assets?.[hash];
        return a ? `data:${a.mediaType};base64,${a.data}` : whole;
      })
    : rich;

/** The hash of the first picture of a rich text that is an asset of its set. */
export const pictureIn = (rich: string): string | undefined => /<img\b[^<>]*\bsrc="asset:([0-9a-f]{64})"/.exec(rich)?.[1];

/** The same with all pictures that stand inside its texts as assets: what is sent names them, and the same picture goes once. */
export function picturesApart(set: QuizSet): QuizSet {
  const { items, sections, assets } = set;
  const text = JSON.stringify({ items, sections });
  if (!text.includes('data:image/')) return set;
  const pictures = new Pictures();
  const apart = text.replace(/data:image\/(?:png|jpeg|gif|webp);base64,([A-Za-z0-9+/]+={0,2})/g, (whole, data: string) => {
    try {
      return pictures.add(bytesOf(data), 'picture') ?? whole;
    } catch {
      return whole; // no base64
    }
  });
  return { ...set, ...(JSON.parse(apart) as Pick<QuizSet, 'items' | 'sections'>), assets: { ...assets, ...pictures.assets } };
}
