/** Office files without the time of day: same content, same bytes. */
import { archiveLimits, openArchive, packArchive } from '@zakuska/core';

const TIMES = /(<dcterms:(?:created|modified)[^<>]*>)[^<]*/g;

/** The parts of a package that was written here: what is packed well is no bomb. @throws ReadError where the bytes are no archive */
export const ownParts = (bytes: Uint8Array): ReturnType<typeof openArchive> => openArchive(bytes, { ...archiveLimits, ratio: 10_000 });

/** The package with fixed times in its properties and in its archive. @throws ReadError where the bytes are no archive */
export function sameBytes(bytes: Uint8Array): Uint8Array {
  const written = ownParts(bytes);
  const decoder = new TextDecoder();
  const encoder = new TextEncoder();
  return packArchive(
    Object.fromEntries(
      [...written].map(([path, data]) => [
        path,
        path === 'docProps/core.xml' ? encoder.encode(decoder.decode(data).replace(TIMES, '$11980-01-02T00:00:00Z')) : data,
      ]),
    ),
  );
}
