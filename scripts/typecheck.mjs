// Checks the types of every package. Exits 1 when one fails.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
let failed = 0;
for (const folder of [
  'packages/core',
  'packages/core/tsconfig.test.json',
  'packages/documents',
  'apps/cli',
  'apps/server',
  'apps/standins',
  'apps/web',
  'e2e',
]) {
  const r = spawnSync(process.execPath, [path.join(root, 'node_modules/typescript7/bin/tsc'), '-p', folder], { cwd: root, encoding: 'utf8' });
  if (r.status !== 0) {
    failed++;
    process.stdout.write(r.stdout + r.stderr);
  }
}
process.exit(failed ? 1 : 0);
