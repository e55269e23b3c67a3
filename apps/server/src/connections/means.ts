/** What services of the core are given from outside of it: workbooks, and addresses of pictures. */
import { timingSafeEqual } from 'node:crypto';
import type { Means } from '@zakuska/core';
import { workbook } from '@zakuska/documents';
import { signed } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';

const MARK = 22;
const markOf = (setId: string, hash: string): string => signed(`picture ${setId} ${hash}`).slice(0, MARK);

/** Whether an address of a picture was given out by this server. */
export const isGivenOut = (setId: string, hash: string, mark: string): boolean =>
  mark.length === MARK && timingSafeEqual(Buffer.from(mark, 'latin1'), Buffer.from(markOf(setId, hash), 'latin1'));

/** For one set: a picture is found by whoever was given its address, and by nobody else. */
export const meansFor = (setId: string): Means => ({
  workbook,
  pictureAddress: (hash) => `${settings().publicUrl}/api/v1/pictures/${setId}/${hash}/${markOf(setId, hash)}`,
});
