// npm run reader -- generate [HOW MANY] [SEED]     drafts of the generator, with their habits
// npm run reader -- score [DIR …]                   each folder of NAME.txt with NAME.gold.json: a line for each draft that is not right, and the sum
// npm run reader -- score generated [HOW MANY] [SEED]
// npm run reader -- blind DIR …                     the sums alone: for drafts that are to stay unseen
// npm run reader -- learn [DIR …]                   what moving each weight a little would do to the sum
// npm run reader -- corrections DIR …               how many corrections of a simulated person it takes until a draft is exact
import { mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { rolldown } from 'rolldown';
import { root } from './install.mjs';

const corpus = join(root, 'packages/core/corpus');
const { scoreDraft, plain } = await import(pathToFileURL(join(corpus, 'score.mjs')).href);

const out = join(tmpdir(), `zakuska-reader-${process.pid}`);
mkdirSync(out, { recursive: true });
const bundle = await rolldown({
  input: join(root, 'packages/core/src/draft/generate/reader.ts'),
  platform: 'node',
  resolve: { conditionNames: ['source', 'import', 'node'], extensionAlias: { '.js': ['.ts', '.js'] } },
  logLevel: 'silent',
});
await bundle.write({ file: join(out, 'reader.mjs'), format: 'esm' });
const core = await import(pathToFileURL(join(out, 'reader.mjs')).href);

/** The drafts of a folder with their readings. */
function drafts(dir) {
  return readdirSync(dir)
    .filter((f) => f.endsWith('.gold.json'))
    .sort()
    .map((f) => f.replace('.gold.json', ''))
    .map((name) => ({
      name,
      text: readFileSync(join(dir, `${name}.txt`), 'utf8'),
      gold: JSON.parse(readFileSync(join(dir, `${name}.gold.json`), 'utf8')),
    }));
}
const score = (d) => {
  const { set, diagnostics } = core.readDraft(d.text);
  return scoreDraft(d.gold, { items: set.items, diagnostics });
};
function sumOf(all, each = () => {}) {
  const sum = { drafts: 0, perfect: 0, items: 0, exact: 0, silent: 0, alarms: 0 };
  for (const d of all) {
    const s = score(d);
    const right = s.exact === s.gold && s.read === s.gold && !s.silentWrongKey && !s.falseAlarms.length;
    if (!right) each(d, s);
    sum.drafts++;
    sum.perfect += right ? 1 : 0;
    sum.items += s.gold;
    sum.exact += s.exact;
    sum.silent += s.silentWrongKey;
    sum.alarms += s.falseAlarms.length;
  }
  return sum;
}
const told = (s) =>
  `drafts ${s.drafts}, perfect ${s.perfect}; items ${s.items}, exact ${((100 * s.exact) / Math.max(1, s.items)).toFixed(2)} %; silent wrong keys ${s.silent}; false alarms ${s.alarms}`;

function generated(many, seed, clean) {
  const chance = core.chances(seed);
  return Array.from({ length: many }, (_, i) => {
    const g = core.put(core.someHabits(chance, clean), seed * 1000 + i);
    return {
      name: Object.entries(g.habits)
        .map(([k, v]) => `${k}: ${v}`)
        .join(', '),
      text: g.text,
      gold: g.gold,
    };
  });
}

/** The margin's role that a line should have, as far as the right reading tells; null where it does not. */
function rightRoles(text, gold) {
  const bare = (s) =>
    plain(s)
      .toLowerCase()
      .replace(/\[\[\d+\]\]|[^\p{L}\p{N}]/gu, '');
  const parts = gold.items.flatMap((i) => [
    ['question', bare(i.stem)],
    ...(i.options ?? []).map((o) => ['option', bare(o)]),
    ...(i.feedback ? [['feedback', bare(i.feedback)]] : []),
  ]);
  return text.split('\n').map((line) => {
    const words = bare(line.replace(/^\s*(?:\(?\w{1,3}[).:]\s*)/, ''));
    if (words.length < 2) return null;
    const found = parts.find(([, p]) => p && (p === words || (words.length > 6 && (p.startsWith(words) || p.includes(words)))));
    return found ? found[0] : null;
  });
}
function corrections(d, most = 4) {
  const overrides = new Map();
  const right = rightRoles(d.text, d.gold);
  for (let n = 0; n <= most; n++) {
    const { set, diagnostics, roles } = core.readDraft(d.text, { overrides });
    const s = scoreDraft(d.gold, { items: set.items, diagnostics });
    if (s.exact === s.gold && s.read === s.gold) return n;
    const wrong = roles.findIndex(
      (r, i) =>
        !overrides.has(i) &&
        r.role !== 'blank' &&
        (right[i] ? right[i] !== r.role && !(right[i] === 'option' && r.role === 'step') : ['question', 'option'].includes(r.role)),
    );
    if (wrong < 0) return most + 1;
    overrides.set(wrong, right[wrong] ?? 'aside');
  }
  return most + 1;
}

const [command = '', ...args] = process.argv.slice(2);
const folders = (given) =>
  given.length ? given.map((d) => resolve(d)) : [corpus, ...readdirSync(join(corpus, 'tranches')).map((d) => join(corpus, 'tranches', d))];
switch (command) {
  case 'generate':
    for (const d of generated(Number(args[0] ?? 1), Number(args[1] ?? 1), false)) console.log(`=== ${d.name}\n${d.text}`);
    break;
  case 'score':
    if (args[0] === 'generated') {
      for (const clean of [true, false]) {
        const show = clean || args[3] ? 12 : 0;
        let shown = 0;
        const sum = sumOf(generated(Number(args[1] ?? 1000), Number(args[2] ?? 1), clean), (d, s) => {
          if (shown++ < show || s.silentWrongKey)
            console.log(
              `${d.name}\n   ${s.exact}/${s.gold} exact, ${s.read} read, ${s.silentWrongKey} silent; ${s.falseAlarms.slice(0, 4).join(' ')} ${JSON.stringify(s.misses[0] ?? '').slice(0, 240)}`,
            );
        });
        console.log(`${clean ? 'clean' : 'with slips'}: ${told(sum)}`);
      }
      break;
    }
    for (const dir of folders(args)) {
      const sum = sumOf(drafts(dir), (d, s) =>
        console.log(`${d.name}: ${s.exact}/${s.gold} exact, ${s.read} read, ${s.silentWrongKey} silent; ${s.falseAlarms.slice(0, 6).join(' ')}`),
      );
      console.log(`${dir}: ${told(sum)}`);
    }
    break;
  case 'blind':
    for (const dir of folders(args)) console.log(`${dir}: ${told(sumOf(drafts(dir)))}`);
    break;
  case 'corrections':
    for (const dir of folders(args)) {
      const counts = drafts(dir).map((d) => corrections(d));
      const share = (n) => `${((100 * counts.filter((c) => c <= n).length) / counts.length).toFixed(0)} %`;
      console.log(`${dir}: ${counts.length} drafts, exact without a correction ${share(0)}, after one ${share(1)}, two ${share(2)}, three ${share(3)}`);
    }
    break;
  case 'learn': {
    const all = folders(args).flatMap(drafts);
    const worth = () => {
      const s = sumOf(all);
      return s.exact - 3 * s.silent - 0.3 * s.alarms;
    };
    const before = worth();
    console.log(`now: ${before.toFixed(1)} (exact items, less 3 for a silent wrong key and 0.3 for a false alarm)`);
    for (const name of Object.keys(core.W)) {
      const value = core.W[name];
      for (const step of [-0.5, 0.5]) {
        core.W[name] = value + step;
        const gain = worth() - before;
        if (Math.abs(gain) > 1e-9) console.log(`${name} ${value} → ${(value + step).toFixed(2)}: ${gain > 0 ? '+' : ''}${gain.toFixed(1)}`);
      }
      core.W[name] = value;
    }
    break;
  }
  default:
    console.error('npm run reader -- generate | score | blind | learn | corrections; see scripts/reader.mjs');
    process.exit(2);
}
