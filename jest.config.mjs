// ESM mode: node --experimental-vm-modules node_modules/jest/bin/jest.js
const transform = {
  '^.+\\.tsx?$': [
    '@swc/jest',
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
const project = (displayName, rootDir, more = {}) => ({
  displayName,
  rootDir,
  testEnvironment: 'node',
  testEnvironmentOptions: { customExportConditions: ['source', 'node', 'node-addons'] },
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform,
  moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1' },
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  modulePathIgnorePatterns: ['/dist/'],
  ...more,
});

export default {
  // machines are shared: a test is not at fault where others take the time
  testTimeout: 60_000,
  projects: [project('core', 'packages/core'), project('documents', 'packages/documents'), project('cli', 'apps/cli'), project('server', 'apps/server'), project('standins', 'apps/standins'), project('web', 'apps/web', { moduleNameMapper: { '\\.css(\\?\\w+)?$': '<rootDir>/src/testing/style.ts', '^(\\.{1,2}/.*)\\.js$': '$1' } }), project('scripts', 'scripts', { testMatch: ['**/*.test.mjs'] })],
};
