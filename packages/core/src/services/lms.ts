/** The course LMS: takes a QTI 2.1 package as a new quiz. */
import { coreFormats } from '../formats/index.js';
import { courseLmsProfile } from '../formats/qti/profile.js';
import { writeQtiPackage } from '../formats/qti/v2/package.js';
import { fileName } from '../formats/format.js';
import { good, jsonOf, type Service } from './service.js';
import { serviceRows } from './table.js';

interface Imported {
  id: string;
  title: string;
  link: string;
  items: { title: string; status: 'arrived' | 'refused'; message?: string }[];
}

/** The learning management system. */
export const lms: Service = {
  ...serviceRows.lms,
  scope: 'quizzes',
  profile: courseLmsProfile,

  async me(call) {
    return jsonOf<{ name: string }>(good(await call('GET', '/api/me'))).name;
  },

  prepare: (set) => writeQtiPackage(set, '2.1', courseLmsProfile).bytes,

  async push(call, job) {
    const bytes = job.prepared ?? new Uint8Array();
    await job.step(`Sending ${Math.ceil(bytes.length / 1024)} kB`);
    const headers = { 'x-file-name': encodeURIComponent(fileName(job.title, '.zip')) };
    const reply = good(await call('POST', '/api/imports', { bytes, type: 'application/zip', headers, key: job.key }));
    await job.step('Reading the import report');
    const { id, title, link, items } = jsonOf<Imported>(reply);
    await job.found({ id, title, link });
    // the report names what stands in the package, in its order
    for (const [n, piece] of job.pieces.entries()) {
      const row = items[n];
      if (row?.status === 'arrived') await job.keep(piece.key, { remote: String(n), print: piece.print }, 'arrived');
      else await job.refused(piece.key, row?.message ?? 'the import report does not name it');
    }
  },

  async fetchBack(call, container) {
    return good(await call('GET', `/api/quizzes/${encodeURIComponent(container)}/package`)).bytes;
  },
  play: (bytes) => coreFormats.play(bytes, 'arrived.zip'),
};
