/** A picture of a set as papers and slides take it. */
import { type Asset, bytesOf } from '@zakuska/core';
import { imageSize } from 'image-size';

const TYPES: Readonly<Record<string, 'png' | 'jpg' | 'gif'>> = { 'image/png': 'png', 'image/jpeg': 'jpg', 'image/gif': 'gif' };

/** A picture with its size in pixels. */
export interface SizedPicture {
  type: 'png' | 'jpg' | 'gif';
  bytes: Uint8Array;
  width: number;
  height: number;
}

/** The picture of an asset; null where there is none, its sort cannot stand on paper, or its bytes are no picture. */
export function pictureOf(asset: Asset | undefined): SizedPicture | null {
  const type = asset && TYPES[asset.mediaType];
  if (!type) return null;
  try {
    const bytes = bytesOf(asset.data);
    const { width, height } = imageSize(bytes);
    return { type, bytes, width, height };
  } catch {
    return null;
  }
}
