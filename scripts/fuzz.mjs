// npm run fuzz -- [RUNS]: the readers against a million broken files (or as many as are said), the long form of what npm test does.
import { spawnSync } from 'node:child_process';
import { root } from './install.mjs';

const runs = process.argv[2] ?? '1000000';
const r = spawnSync(
  process.execPath,
  [
    '--experimental-vm-modules',
    '--disable-warning=ExperimentalWarning',
    'node_modules/jest/bin/jest.js',
    '--selectProjects',
    'core',
    '--testPathPatterns',
    'hostile',
    '-t',
    'broken copies',
    '--testTimeout',
    '86400000',
  ],
  { cwd: root, stdio: 'inherit', env: { ...process.env, ZAKUSKA_FUZZ: runs } },
);
process.exit(r.status ?? 1);
