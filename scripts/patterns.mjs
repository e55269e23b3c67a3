// Lists every regular expression of core, documents, server, stand-ins and command line, and has each checked against the strings
// on which it would take longest (npm recheck). Text comes from outside: a pattern may not take more than linear time in its length.
// A pattern that sees short text only says so in the line above it: `// bounded: why`.
// The reader's patterns see lines in a worker of whoever pasted them; there only more than the third power is refused.
// What was found is kept in patterns.tsv, so that only new patterns are checked; --anew checks all.
//   npm run patterns [-- --anew]     exit code 1 when a pattern is refused
import crypto from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { check } from 'recheck';
import ts from 'typescript';
import { root } from './install.mjs';

const FOLDERS = ['packages/core/src', 'packages/documents/src', 'apps/server/src', 'apps/standins/src', 'apps/cli/src'];
const READER = ['packages/core/src/draft/', 'packages/core/src/language/', 'packages/core/src/incoming/', 'packages/core/src/formats/notation/'];
/** The highest power of the length that a pattern of a file may cost. */
const allowed = (file) => (READER.some((folder) => file.startsWith(folder)) ? 3 : 1);
const MILLISECONDS = 1000;

/** Patterns written out in a file. */
function written(file) {
  const source = ts.createSourceFile(file, fs.readFileSync(path.join(root, file), 'utf8'), ts.ScriptTarget.Latest, true);
  const lines = source.text.split('\n');
  const out = [];
  const visit = (node) => {
    if (node.kind === ts.SyntaxKind.RegularExpressionLiteral) {
      const end = node.text.lastIndexOf('/');
      const line = source.getLineAndCharacterOfPosition(node.getStart()).line;
      const bounded = [lines[line - 1], lines[line]].some((l) => l?.includes('// bounded: '));
      if (!bounded) out.push({ file, line: line + 1, source: node.text.slice(1, end), flags: node.text.slice(end + 1) });
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return out;
}

/** Patterns put together while the core is loaded. */
async function composed() {
  const out = new Map();
  const Plain = globalThis.RegExp;
  globalThis.RegExp = new Proxy(Plain, {
    construct(target, args, self) {
      const made = Reflect.construct(target, args, self);
      const where = /packages\/core\/dist\/(\S+?)\.js:/.exec(new Error('where').stack ?? '')?.[1];
      if (where) out.set(`${made}`, { file: `packages/core/src/${where}.ts`, line: 'composed', source: made.source, flags: made.flags });
      return made;
    },
  });
  await import(path.join(root, 'packages/core/dist/index.js'));
  globalThis.RegExp = Plain;
  return [...out.values()];
}

const KEPT = path.join(root, 'scripts/patterns.tsv');
const signOf = ({ source, flags }) => crypto.createHash('sha256').update(`/${source}/${flags}`).digest('base64url').slice(0, 12);
/** Sign of a pattern → the power of the length that it costs at most, or "undecided". */
const kept = new Map(
  process.argv.includes('--anew') || !fs.existsSync(KEPT)
    ? []
    : fs
        .readFileSync(KEPT, 'utf8')
        .split('\n')
        .filter(Boolean)
        .map((line) => line.split('\t')),
);
const files = FOLDERS.flatMap((folder) =>
  fs
    .readdirSync(path.join(root, folder), { recursive: true })
    .filter((f) => /\.tsx?$/.test(f) && !f.endsWith('.test.ts'))
    .map((f) => path.join(folder, f)),
);
const all = [...files.flatMap(written), ...(await composed())];

async function powerOf(pattern) {
  const { status, complexity, attack } = await check(pattern.source, pattern.flags, { timeout: MILLISECONDS });
  if (status === 'unknown') return { power: 'undecided' };
  const power = status === 'safe' ? 1 : complexity.type === 'exponential' ? Number.POSITIVE_INFINITY : complexity.degree;
  return { power: String(power), slowOn: attack?.pattern };
}

const queue = all.filter((p) => !kept.has(signOf(p)));
const checked = queue.length;
const worker = async () => {
  for (let p = queue.shift(); p; p = queue.shift()) {
    const { power, slowOn } = await powerOf(p);
    kept.set(signOf(p), power);
    if (slowOn) p.slowOn = slowOn;
  }
};
await Promise.all([worker(), worker(), worker(), worker()]);
const refused = all.filter((p) => Number(kept.get(signOf(p))) > allowed(p.file));
for (const p of refused)
  console.log(
    `${p.file}:${p.line}  costs power ${kept.get(signOf(p))} of the length, ${allowed(p.file)} is allowed\n  /${p.source.slice(0, 200)}/${p.flags}${p.slowOn ? `\n  slow on ${p.slowOn.slice(0, 120)}` : ''}`,
  );
const signs = [...new Set(all.map(signOf))].sort();
if (!process.env.CI) fs.writeFileSync(KEPT, signs.map((s) => `${s}\t${kept.get(s)}\n`).join(''));
const undecided = all.filter((p) => kept.get(signOf(p)) === 'undecided').length;
console.log(`${all.length} patterns, ${checked} of them new, ${refused.length} refused, ${undecided} not decided within ${MILLISECONDS / 1000} s`);
process.exit(refused.length ? 1 : 0);
