// node scripts/bench/qti.mjs SET.json: how long a set takes to a QTI 3 package, alone and with a thread a core (as the command line and the browser do it), its packing by the zip library alone, reading a package of its first thousand, and the whole package once.
// Prints milliseconds as JSON, the best of some runs; part of npm run bench.
import fs from 'node:fs';
import path from 'node:path';
import { unzipSync, zipSync } from 'fflate';
import { root } from '../install.mjs';

const { coreFormats, writeQtiPackage } = await import(path.join(root, 'packages/core/dist/index.js'));
const { threads } = await import(path.join(root, 'apps/cli/dist/threads.js'));
const set = JSON.parse(fs.readFileSync(process.argv[2], 'utf8'));
const best = async (runs, f) => {
  let least = Number.POSITIVE_INFINITY;
  for (let i = 0; i < runs; i++) {
    const t = performance.now();
    await f();
    least = Math.min(least, performance.now() - t);
  }
  return least;
};
const small = writeQtiPackage({ ...set, items: set.items.slice(0, 1000) }, '3.0').bytes;
const read = await best(20, () => coreFormats.read(small, 'a.zip'));
const write = await best(4, () => writeQtiPackage(set, '3.0'));
const helpers = threads();
const share = await best(4, () => coreFormats.byId('qti30').share(set, helpers));
helpers.end();
const large = writeQtiPackage(set, '3.0').bytes;
const files = unzipSync(large);
const zip = await best(2, () => zipSync(files, { level: 6 }));
const whole = await best(1, () => coreFormats.read(large, 'a.zip'));
console.log(JSON.stringify({ write, share, zip, read, whole }));
