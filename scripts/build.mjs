// Builds everything that runs outside the tests: TypeScript to dist with swc, the command line as one file (it starts
// twice as fast so), the web application with Vite.
//   node scripts/build.mjs [core cli server standins web]
import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';
import { rolldown } from 'rolldown';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const folders = { core: 'packages/core', documents: 'packages/documents', server: 'apps/server', standins: 'apps/standins' };
const wanted = process.argv.slice(2);

function run(command, args, cwd) {
  const r = spawnSync(command, args, { cwd, stdio: ['ignore', 'pipe', 'inherit'], encoding: 'utf8' });
  if (r.status !== 0) {
    process.stderr.write(r.stdout ?? '');
    process.exit(r.status ?? 1);
  }
}
const bin = (name) => path.join(root, 'node_modules/.bin', name);

for (const [name, folder] of Object.entries(folders)) {
  if (wanted.length && !wanted.includes(name)) continue;
  const cwd = path.join(root, folder);
  fs.rmSync(path.join(cwd, 'dist'), { recursive: true, force: true });
  run(
    bin('swc'),
    ['src', '-d', 'dist', '--strip-leading-paths', '--config-file', path.join(root, '.swcrc'), '--ignore', '**/*.test.ts', '--ignore', '**/*.d.ts'],
    cwd,
  );
}
if (!wanted.length || wanted.includes('cli')) {
  fs.rmSync(path.join(root, 'apps/cli/dist'), { recursive: true, force: true });
  // what its threads do is a file of its own, which loads at once; bench has them from a third
  for (const name of ['main', 'helper', 'threads']) {
    const bundle = await rolldown({
      input: path.join(root, `apps/cli/src/${name}.ts`),
      platform: 'node',
      // the one finds its WebAssembly beside itself, the other is a program of the machine
      external: ['highs', '@myriaddreamin/typst-ts-node-compiler', '@napi-rs/canvas'],
      resolve: { conditionNames: ['source', 'import', 'node'] },
    });
    await bundle.write({ dir: path.join(root, 'apps/cli/dist'), entryFileNames: `${name}.js`, format: 'esm', sourcemap: true });
  }
}
if (!wanted.length || wanted.includes('web')) {
  run(bin('vite'), ['build', '--logLevel', 'warn'], path.join(root, 'apps/web'));
  await squeeze(path.join(root, 'apps/web/dist/assets'));
}

/** Scripts and styles also as they are sent: made smaller once, not with each request (RFC 7932; quality 9 costs a tenth of the time of 11). */
async function squeeze(folder) {
  const files = fs.readdirSync(folder).filter((f) => /\.(?:js|css|svg|wasm)$/.test(f));
  const one = async (file) => {
    const bytes = await fs.promises.readFile(path.join(folder, file));
    if (bytes.length < 1000) return;
    const small = await promisify(brotliCompress)(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length } });
    await fs.promises.writeFile(path.join(folder, `${file}.br`), small);
  };
  for (let at = 0; at < files.length; at += 8) await Promise.all(files.slice(at, at + 8).map(one));
}
