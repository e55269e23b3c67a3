// npm run mutants: how many small faults, planted one at a time into marking, keys and scoring, the tests of the core notice.
//   node scripts/mutants.mjs [part of a file's name …]   --list prints every mutant that survives (else the first forty)
// All mutants are built into one bundle, each behind a switch; the tests run once for each with that switch on (mutant schemata:
// R. Untch, J. Offutt, M. J. Harrold, "Mutation analysis using mutant schemata", ISSTA 1993). Operators are the usual five of Offutt,
// Rothermel and Zapf (1993) that apply here: relational, logical, arithmetic, unary insertion, and values; and conditions that hold always or never.
import path from 'node:path';
import os from 'node:os';
import fs from 'node:fs';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const core = path.join(root, 'packages/core/src');

/** What is mutated, and the tests that should notice. */
const TARGETS = [
  'mark/mark.ts',
  'mark/answers.ts',
  'mark/offers.ts',
  'item/chosenOptions.ts',
  'item/typedText.ts',
  'item/scoring.ts',
  'item/kinds.ts',
  'language/numbers.ts',
  'take/outcome.ts',
  'stats/scores.ts',
];
const TESTS = [
  'mark/mark.test.ts',
  'mark/rules.test.ts',
  'mark/marking.test.ts',
  'mark/answers.test.ts',
  'mark/offers.test.ts',
  'item/scoring.test.ts',
  'take/outcome.test.ts',
  'stats/scores.test.ts',
  'item/kinds.test.ts',
  'language/numbers.test.ts',
];

const SWAPS = {
  '<': ['<='],
  '<=': ['<'],
  '>': ['>='],
  '>=': ['>'],
  '===': ['!=='],
  '!==': ['==='],
  '&&': ['||'],
  '||': ['&&'],
  '+': ['-'],
  '-': ['+'],
  '*': ['/'],
  '/': ['*'],
};
const CALLS = { __proto__: null, min: 'max', max: 'min', some: 'every', every: 'some' };

/**
 * A source with all of its mutants behind switches.
 * @returns the text, and for each mutant where it stands and what it does
 */
export function withMutants(ts, text, file, first = 0) {
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const mutants = [];
  const at = (node) => `${file}:${source.getLineAndCharacterOfPosition(node.getStart()).line + 1}`;
  const add = (node, what) => {
    mutants.push({ id: first + mutants.length, at: at(node), what });
    return `globalThis.__mutant === ${first + mutants.length - 1}`;
  };
  const isType = (node) =>
    ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node) || ts.isImportDeclaration(node) || ts.isExportDeclaration(node);
  /** The text of a node with the mutants of all that is in it. */
  const print = (node) => {
    if (isType(node)) return text.slice(node.getStart(), node.end);
    let out = '';
    let from = node.getStart();
    node.forEachChild((child) => {
      if (child.getStart() < from) return;
      out += text.slice(from, child.getStart()) + mutated(child);
      from = child.end;
    });
    return out + text.slice(from, node.end);
  };
  const condition = (node) => {
    const plain = mutated(node);
    const always = add(node, `${node.getText()} holds always`);
    const never = add(node, `${node.getText()} holds never`);
    return `(${always} ? true : ${never} ? false : ${plain})`;
  };
  const mutated = (node) => {
    if (ts.isBinaryExpression(node)) {
      const sign = node.operatorToken.getText();
      const [left, right] = [mutated(node.left), mutated(node.right)];
      let plain = `${left} ${sign} ${right}`;
      for (const other of SWAPS[sign] ?? []) plain = `(${add(node, `${node.getText()} with ${other}`)} ? ${left} ${other} ${right} : ${plain})`;
      return plain;
    }
    if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      return `(${add(node, `${node.getText()} without !`)} ? ${mutated(node.operand)} : !${mutated(node.operand)})`;
    if (
      ts.isNumericLiteral(node) &&
      !ts.isPropertyAssignment(node.parent?.parent ?? node) &&
      !ts.isElementAccessExpression(node.parent) &&
      !(ts.isPropertyAssignment(node.parent) && node.parent.name === node)
    )
      return `(${add(node, `${node.text} as ${Number(node.text) + 1}`)} ? ${Number(node.text) + 1} : ${node.text})`;
    if (node.kind === ts.SyntaxKind.TrueKeyword && !ts.isLiteralTypeNode(node.parent)) return `(${add(node, 'true as false')} ? false : true)`;
    if (node.kind === ts.SyntaxKind.FalseKeyword && !ts.isLiteralTypeNode(node.parent)) return `(${add(node, 'false as true')} ? true : false)`;
    if (ts.isConditionalExpression(node)) return `${condition(node.condition)} ? ${mutated(node.whenTrue)} : ${mutated(node.whenFalse)}`;
    if (ts.isIfStatement(node))
      return `if (${condition(node.expression)}) ${mutated(node.thenStatement)}${node.elseStatement ? ` else ${mutated(node.elseStatement)}` : ''}`;
    if (ts.isCallExpression(node) && ts.isPropertyAccessExpression(node.expression) && CALLS[node.expression.name.text]) {
      const args = node.arguments.map(mutated).join(', ');
      const [object, name] = [mutated(node.expression.expression), node.expression.name.text];
      const dot = node.expression.questionDotToken ? '?.' : '.';
      return `(${add(node, `${name} as ${CALLS[name]}`)} ? ${object}${dot}${CALLS[name]}(${args}) : ${object}${dot}${name}(${args}))`;
    }
    return print(node);
  };
  const body = source.statements.map((s) => text.slice(s.getFullStart(), s.getStart()) + mutated(s)).join('');
  return { text: body, mutants };
}

async function build(out, wanted) {
  const { default: ts } = await import('typescript');
  const { rolldown } = await import('rolldown');
  const mutants = [];
  const tests = TESTS.filter((t) => fs.existsSync(path.join(core, t)));
  const bundle = await rolldown({
    input: 'tests',
    platform: 'node',
    treeshake: false,
    resolve: { conditionNames: ['source', 'import', 'default'], extensionAlias: { '.js': ['.ts', '.js'] } },
    plugins: [
      {
        name: 'mutants',
        resolveId: (id) => (id === 'tests' ? '\0tests' : null),
        load(id) {
          if (id === '\0tests') return tests.map((t) => `import ${JSON.stringify(path.join(core, t))};`).join('\n');
          const file = path.relative(core, id);
          // tests find their data beside themselves
          if (tests.includes(file))
            return { code: fs.readFileSync(id, 'utf8').replaceAll('import.meta.url', JSON.stringify(pathToFileURL(id).href)), moduleType: 'ts' };
          if (!TARGETS.includes(file) || (wanted.length && !wanted.some((w) => file.includes(w)))) return null;
          const made = withMutants(ts, fs.readFileSync(id, 'utf8'), file, mutants.length);
          mutants.push(...made.mutants);
          return { code: made.text, moduleType: 'ts' };
        },
      },
    ],
  });
  await bundle.write({ file: out, format: 'es', codeSplitting: false });
  return mutants;
}

/** A small runner of tests: what the tests of the targets use of Jest. */
async function loadTests(bundle) {
  const { expect } = await import('expect');
  const list = [];
  const test = (name, run) => void list.push({ name, run });
  const each = (of) => (rows) => (name, run) => rows.forEach((r) => of(name, () => (Array.isArray(r) ? run(...r) : run(r))));
  const describe = (_, body) => body();
  Object.assign(globalThis, {
    expect,
    test: Object.assign(test, { each: each(test) }),
    it: test,
    describe: Object.assign(describe, { each: each(describe) }),
    beforeEach: () => undefined,
    afterEach: () => undefined,
  });
  await import(pathToFileURL(bundle).href);
  return list;
}

if (!isMainThread && workerData?.bundle) {
  const tests = await loadTests(workerData.bundle);
  const passes = async (t) => {
    try {
      await t.run();
      return true;
    } catch {
      return false;
    }
  };
  const timed = [];
  for (const t of tests) {
    const from = performance.now();
    const ok = await passes(t);
    timed.push({ t, ok, ms: performance.now() - from });
  }
  const broken = timed.filter((x) => !x.ok).map((x) => x.t.name);
  parentPort.postMessage({ ready: timed.length, broken, ms: timed.reduce((s, x) => s + x.ms, 0) });
  const quickFirst = timed.sort((a, b) => a.ms - b.ms).map((x) => x.t);
  parentPort.on('message', async (id) => {
    globalThis.__mutant = id;
    let killed = false;
    for (const t of quickFirst) {
      killed = !(await passes(t));
      if (killed) break;
    }
    globalThis.__mutant = -1;
    parentPort.postMessage({ id, killed });
  });
} else if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const wanted = process.argv.slice(2).filter((a) => !a.startsWith('--'));
  const out = path.join(root, '.cache/mutants.mjs');
  const mutants = await build(out, wanted);
  console.log(`${mutants.length} mutants in ${new Set(mutants.map((m) => m.at.split(':')[0])).size} files`);
  const survived = [];
  const late = [];
  let next = 0;
  let done = 0;
  const lane = () =>
    new Promise((resolve, reject) => {
      let worker;
      let timer;
      let now;
      let limit = 60_000;
      const end = () => {
        clearTimeout(timer);
        void worker.terminate().then(resolve);
      };
      const give = () => {
        now = mutants[next++];
        if (!now) return end();
        timer = setTimeout(() => {
          // it does not end: that is noticed too
          late.push(now);
          done++;
          void worker.terminate().then(open);
        }, limit);
        worker.postMessage(now.id);
      };
      const open = () => {
        worker = new Worker(fileURLToPath(import.meta.url), { workerData: { bundle: out } });
        worker.once('error', reject);
        worker.on('message', (m) => {
          if (m.ready !== undefined) {
            if (!m.ready) return reject(new Error('there are no tests'));
            if (m.broken.length) return reject(new Error(`fails without any mutant: ${m.broken.join('; ')}`));
            limit = Math.max(5_000, m.ms * 5);
            return give();
          }
          clearTimeout(timer);
          if (!m.killed) survived.push(now);
          if (++done % 100 === 0) console.log(`${done} of ${mutants.length} tried, ${survived.length} survive`);
          give();
        });
      };
      open();
    });
  await Promise.all(Array.from({ length: os.availableParallelism() }, lane));
  const byFile = new Map();
  for (const m of mutants) {
    const f = m.at.split(':')[0];
    const row = byFile.get(f) ?? { all: 0, alive: 0 };
    row.all++;
    if (survived.includes(m)) row.alive++;
    byFile.set(f, row);
  }
  const shown = process.argv.includes('--list') ? survived : survived.slice(0, 40);
  for (const m of shown) console.log(`survives: ${m.at}  ${m.what.replace(/\s+/g, ' ').slice(0, 120)}`);
  for (const [file, { all, alive }] of byFile)
    console.log(`${file.padEnd(26)} ${String(all - alive).padStart(4)} of ${String(all).padStart(4)} killed  ${Math.round((100 * (all - alive)) / all)} %`);
  console.log(
    `${Math.round((1000 * (mutants.length - survived.length)) / mutants.length) / 10} % of ${mutants.length} mutants killed (${late.length} by never ending)`,
  );
}
