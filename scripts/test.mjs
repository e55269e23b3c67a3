// npm test: installs what is missing, checks types, format and layers, runs unit, server and browser tests.
// The last line says "N passed, N failed"; exit code 1 when anything failed.
//   node scripts/test.mjs [--unit]   without the browser tests
import { spawn } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { build, chromium, install, openpyxl, poppler, postgresql, root, say, xmllint } from './install.mjs';

/** Random runs are fewer here than by command; over many runs they see as much. */
const TIMES = process.env.ZAKUSKA_TIMES ?? '0.06';
const counts = { passed: 0, failed: 0 };
const unitOnly = process.argv.includes('--unit');
const run = (command, args, env = {}) =>
  new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ZAKUSKA_PG_FAST: process.env.CI ? '1' : '', ...env },
    });
    child.once('error', () => resolve(1));
    child.once('exit', (code) => resolve(code ?? 1));
  });
const bin = (name) => path.join(root, 'node_modules/.bin', name);
const readJson = (file) => JSON.parse(fs.readFileSync(file, 'utf8'));
const tally = (name, ok) => {
  counts[ok ? 'passed' : 'failed']++;
  if (!ok) say(`${name} FAILED`);
};

try {
  await install(unitOnly ? [postgresql] : [postgresql, chromium, openpyxl, xmllint, poppler]);
  // beside the build, which keeps one of two cores busy
  const types = run(process.execPath, ['scripts/typecheck.mjs']);
  await build();
  fs.mkdirSync(path.join(root, '.cache'), { recursive: true });

  const script = (...args) => run(process.execPath, args);
  const checks = {
    types,
    'lint and circles': run(bin('oxlint'), ['--deny-warnings', '.']),
    layers: script('scripts/layers.mjs'),
    format: run(bin('biome'), ['format', '.']),
    'patterns in linear time': script('scripts/patterns.mjs'),
    'doc comments of the core': script('scripts/doc-comments.mjs'),
    'tables of docs/formats.md': script('scripts/formats-doc.mjs', '--check'),
  };
  for (const [name, code] of Object.entries(checks)) tally(name, (await code) === 0);

  const unit = path.join(root, '.cache/jest.json');
  fs.rmSync(unit, { force: true });
  const { up } = await import('./pg.mjs');
  up();
  const jest = await run(
    process.execPath,
    [
      '--experimental-vm-modules',
      '--disable-warning=ExperimentalWarning',
      'node_modules/jest/bin/jest.js',
      '--forceExit',
      // two more than cores: tests of the server wait a good deal, for jobs and for what is tried again
      `--maxWorkers=${os.availableParallelism() + 2}`,
      '--silent',
      '--json',
      `--outputFile=${unit}`,
    ],
    { ZAKUSKA_TIMES: TIMES, ...(!unitOnly && { ZAKUSKA_WHOLE: '1' }) },
  );
  if (fs.existsSync(unit)) {
    const r = readJson(unit);
    counts.passed += r.numPassedTests;
    counts.failed += r.numFailedTests + r.numRuntimeErrorTestSuites;
    const files = r.testResults.map((f) => [path.relative(root, f.name), (f.endTime - f.startTime) / 1000]).sort((a, b) => b[1] - a[1]);
    for (const [file, seconds] of files.slice(0, 12)) say(`${seconds.toFixed(0).padStart(5)} s  ${file}`);
  }
  if (jest !== 0 && counts.failed === 0) tally('unit tests', false);

  if (!unitOnly) {
    const report = path.join(root, 'e2e/.out/report.json');
    fs.rmSync(report, { force: true });
    const before = counts.failed;
    const code = await run(bin('playwright'), ['test'], { ZAKUSKA_TIMES: TIMES });
    if (fs.existsSync(report)) {
      const { stats } = readJson(report);
      counts.passed += stats.expected + stats.flaky;
      counts.failed += stats.unexpected;
      say(`${(stats.duration / 1000).toFixed(0).padStart(5)} s  browser tests`);
    }
    if (code !== 0 && counts.failed === before) tally('browser tests', false);
  }
} catch (e) {
  say(e.message);
  counts.failed++;
}
console.log(`${counts.passed} passed, ${counts.failed} failed`);
process.exit(counts.failed ? 1 : 0);
