import { fileURLToPath } from 'node:url';
import { bundled } from './scripts/bundles.mjs';

// ESM mode: node --experimental-vm-modules node_modules/jest/bin/jest.js
const transform = {
  '^.+\\.tsx?$': [
    fileURLToPath(new URL('scripts/jest-transform.mjs', import.meta.url)),
    {
      swcrc: false,
      sourceMaps: 'inline',
      module: { type: 'es6' },
      jsc: {
        target: 'es2022',
        parser: { syntax: 'typescript', tsx: true, decorators: true },
        keepClassNames: true,
        transform: { legacyDecorator: true, decoratorMetadata: true, useDefineForClassFields: false, react: { runtime: 'automatic' } },
      },
    },
  ],
};
// a package's own tests see its files; all others see it as what it gives, in a few files that load at once
const BOTH = ['@zakuska/core', '@zakuska/documents'];
const project = (displayName, rootDir, { files = [], ...more } = {}) => ({
  displayName,
  rootDir,
  testEnvironment: 'node',
  testEnvironmentOptions: { customExportConditions: ['source', 'node', 'node-addons'] },
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform,
  // the same for packages that are CommonJS, as the transform does for our own
  sandboxInjectedGlobals: ['Math', 'Uint8Array', 'Uint8ClampedArray'],
  moduleNameMapper: { ...bundled(files), '^(\\.{1,2}/.*)\\.js$': '$1' },
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  modulePathIgnorePatterns: ['/dist/'],
  ...more,
});

export default {
  // machines are shared: a test is not at fault where others take the time
  testTimeout: 300_000,
  globalSetup: './scripts/bundles.mjs',
  projects: [
    project('core', 'packages/core'),
    project('documents', 'packages/documents', { files: ['@zakuska/core'] }),
    project('cli', 'apps/cli', { files: BOTH }),
    project('server', 'apps/server', { files: BOTH }),
    project('standins', 'apps/standins', { files: BOTH }),
    project('web', 'apps/web', {
      moduleNameMapper: { ...bundled(BOTH), '\\.css(\\?\\w+)?$': '<rootDir>/src/testing/style.ts', '^(\\.{1,2}/.*)\\.js$': '$1' },
    }),
    project('scripts', 'scripts', { testMatch: ['**/*.test.mjs'] }),
  ],
};
