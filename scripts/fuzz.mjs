// npm run fuzz -- [RUNS] [SEED] [FROM]: all readers against a million broken files (or as many as are said), the long form of what npm test does.
// A file must give items or a clear error, in ten seconds at most; what was read must go into a set file and come back. Needs a build.
// A file follows from the seed and its number: a run that was broken off goes on with FROM, the number that it had reached.
// What does not is kept in .cache/fuzz, each file by its run, and listed at the end.
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import { build, root } from './install.mjs';

const SLOW = 10_000;
const KEPT = path.join(root, '.cache/fuzz');

if (isMainThread) {
  const runs = Number(process.argv[2] ?? 1_000_000);
  const seed = Number(process.argv[3] ?? 20261125);
  const from = Number(process.argv[4] ?? 0);
  await build();
  fs.rmSync(KEPT, { recursive: true, force: true });
  const began = Date.now();
  const told = { runs: 0, items: 0, errors: 0 };
  const finds = [];
  const cores = Math.max(1, Number(process.env.ZAKUSKA_CORES ?? os.availableParallelism()));
  let said = 0;
  const reached = new Map();
  const one = (slice) =>
    new Promise((done, fail) => {
      const worker = new Worker(new URL(import.meta.url), { workerData: { slice: from + slice, of: cores, runs, seed } });
      worker.on('message', (m) => {
        // all below it have been looked at
        reached.set(slice, m.reached);
        for (const k of Object.keys(told)) told[k] += m[k];
        for (const find of m.finds) {
          finds.push(find);
          console.log(`  ${find}`);
        }
        if (told.runs - said < 5000) return;
        said = told.runs;
        console.log(
          `${told.runs.toLocaleString('en')} files, all up to ${Math.min(...reached.values())} of ${runs.toLocaleString('en')}, ${Math.round((Date.now() - began) / 1000)} s, ${finds.length} finds`,
        );
      });
      worker.on('error', fail);
      worker.on('exit', done);
    });
  await Promise.all(Array.from({ length: cores }, (_, slice) => one(slice)));
  console.log(
    `${told.runs.toLocaleString('en')} broken files, seed ${seed}: ${told.items.toLocaleString('en')} gave items, ${told.errors.toLocaleString('en')} a clear error, ${finds.length} neither; ${Math.round((Date.now() - began) / 1000)} s`,
  );
  process.exit(finds.length ? 1 : 0);
}

const { slice, of, runs, seed } = workerData;
const use = (at) => import(path.join(root, 'packages', at));
const { ReadError } = await use('core/dist/index.js');
const { brokenCopy, random } = await use('core/dist/formats/fuzz.js');
const { readSetFile, writeSetFile } = await use('core/dist/item/setFile.js');
const { coreFormats } = await use('core/dist/formats/index.js');
const { allFormats } = await use('documents/dist/index.js');
const { isOfTheFile } = await use('documents/dist/pdf/open.js');

const filesOf = (folder, pattern) =>
  fs
    .readdirSync(path.join(root, 'packages', folder))
    .filter((f) => pattern.test(f) && !/\.gold\.|bank-120/.test(f))
    .map((name) => ({ name, bytes: new Uint8Array(fs.readFileSync(path.join(root, 'packages', folder, name))) }));
const files = [...filesOf('core/corpus/files', /\.(xml|zip|imscc)$/), ...filesOf('documents/corpus/given', /\.(docx|odt|pdf|html|xlsx|csv|tsv)$/)];
const { set } = await coreFormats.read(files.find((f) => /qti-27/.test(f.name)).bytes, 'a.zip');
for (const format of allFormats.writable) files.push(await format.write(set));
// what takes long to read is broken as seldom, by a fixed rule, so that a run draws the same everywhere and a million take about an hour
const SLOW_TO_READ = [
  [/\.(csv|tsv|xlsx|docx|odt|pdf|pptx|html)$/, 1 / 128],
  [/(?<!gift)\.(md|txt)$/, 1 / 32],
];
const LARGE = 6000;
const weightOf = ({ name, bytes }) => SLOW_TO_READ.find(([pattern]) => pattern.test(name))?.[1] ?? (bytes.length > LARGE ? 1 / 8 : 1);
const weights = files.reduce((sum, f) => sum + (f.weight = weightOf(f)), 0);
const drawn = (share) => {
  let at = share * weights;
  return files.find((f) => (at -= f.weight) < 0) ?? files[0];
};

// a promise that nobody waits for would end a program that reads files, but for those that the PDF reader leaves to themselves
let unheard = '';
process.on('unhandledRejection', (e) => {
  if (!isOfTheFile(e)) unheard = `nobody heard: ${e?.stack ?? e}`.split('\n').slice(0, 4).join(' | ');
});

async function outcome(bytes, name) {
  try {
    const read = (await allFormats.read(bytes, name)).set;
    const back = readSetFile(writeSetFile(read)).set;
    if (back.items.length !== read.items.length) return 'what was read does not come back from its set file';
    return read.items.length > 0;
  } catch (e) {
    if (e instanceof ReadError && e.message) return false;
    return String(e?.stack ?? e)
      .split('\n')
      .slice(0, 4)
      .join(' | ');
  }
}

let counts = { runs: 0, items: 0, errors: 0, finds: [] };
for (let n = slice; n < runs; n += of) {
  const rnd = random(seed + n);
  const { name, bytes } = drawn(rnd());
  const broken = brokenCopy(bytes, rnd);
  const began = performance.now();
  const told = await outcome(broken, name);
  const took = performance.now() - began;
  counts.runs++;
  await new Promise(setImmediate);
  const find = typeof told === 'string' ? told : took > SLOW ? `took ${Math.round(took)} ms` : unheard;
  unheard = '';
  if (find) {
    fs.mkdirSync(KEPT, { recursive: true });
    fs.writeFileSync(path.join(KEPT, `${n}-${name}`), broken);
    counts.finds.push(`${n}-${name}: ${find}`);
  } else if (told) counts.items++;
  else counts.errors++;
  if (counts.runs >= 500 || find || n + of >= runs) {
    parentPort.postMessage({ ...counts, reached: n });
    counts = { runs: 0, items: 0, errors: 0, finds: [] };
  }
}
