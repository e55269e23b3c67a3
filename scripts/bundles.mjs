// The core and the documents as a few files, for the tests of all other packages: loaded as some five hundred modules they cost
// each suite about a second of processor. Made anew before each run of Jest (see jest.config.mjs).
import path from 'node:path';
import fs from 'node:fs';
import { rolldown } from 'rolldown';
import { root } from './install.mjs';
import { frontOf } from './jest-transform.mjs';

const folder = path.join(root, '.cache/bundles');
/** What a package gives under which name, and the file of the bundle. */
const entries = ['core', 'documents'].flatMap((name) => {
  const { exports } = JSON.parse(fs.readFileSync(path.join(root, 'packages', name, 'package.json'), 'utf8'));
  return Object.entries(exports).map(([sub, { source }]) => ({
    from: `@zakuska/${name}${sub.slice(1)}`,
    source: path.join(root, 'packages', name, source),
    file: `${name}${sub.slice(1).replace('/', '-')}`,
  }));
});

/** Jest's `moduleNameMapper` for them. */
export const bundled = (of) =>
  Object.fromEntries(
    entries.filter((e) => of.some((p) => e.from === p || e.from.startsWith(`${p}/`))).map((e) => [`^${e.from}$`, path.join(folder, `${e.file}.mjs`)]),
  );

/** Writes them; Jest calls it once before all tests. */
export default async function write() {
  const bundle = await rolldown({
    input: Object.fromEntries(entries.map((e) => [e.file, e.source])),
    platform: 'node',
    // packages from elsewhere stay what they are: tests replace some of them, and some find files beside themselves
    external: (id) => !/^[./]/.test(id) && !id.startsWith('@zakuska/') && !path.isAbsolute(id),
    resolve: { conditionNames: ['source', 'import', 'node'] },
    plugins: [{ name: 'front', renderChunk: (code) => frontOf(code) + code }],
    logLevel: 'silent',
  });
  fs.rmSync(folder, { recursive: true, force: true });
  await bundle.write({ dir: folder, entryFileNames: '[name].mjs', chunkFileNames: 'shared-[hash].mjs', format: 'esm' });
}
