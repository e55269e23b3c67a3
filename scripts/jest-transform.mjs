// TypeScript for Jest, by swc; and what every module looks up again and again is made its own.
// Jest runs each suite in a context of its own, where every look at a global such as Math goes through an interceptor: loops over numbers
// take several times as long. Its option for that (sandboxInjectedGlobals) knows CommonJS only.
import swcJest from '@swc/jest';

/** What no test replaces. */
const NAMES = [
  'Math',
  'Number',
  'String',
  'Array',
  'Object',
  'Set',
  'Map',
  'JSON',
  'Symbol',
  'RegExp',
  'Uint8Array',
  'Int32Array',
  'Float64Array',
  'Float32Array',
  'Uint16Array',
  'Uint32Array',
  'Int16Array',
  'Uint8ClampedArray',
  'Infinity',
  'NaN',
  'WeakMap',
  'Boolean',
  'Error',
];
const declares = (code, name) => new RegExp(`\\b(?:class|const|let|var|function)\\s+${name}\\b|^import\\b[^;]*\\b${name}\\b`, 'm').test(code);

/** The front of a module, on its first line so that lines keep their numbers. */
export const frontOf = (code) => {
  const names = NAMES.filter((n) => new RegExp(`\\b${n}\\b`).test(code) && !declares(code, n));
  return names.length ? `const ${names.map((n) => `${n} = globalThis.${n}`).join(', ')};` : '';
};

export default {
  createTransformer(options) {
    const swc = swcJest.createTransformer(options);
    const fronted = (r) => ({ ...r, code: frontOf(r.code) + r.code });
    return {
      canInstrument: swc.canInstrument,
      process: (...args) => fronted(swc.process(...args)),
      processAsync: async (...args) => fronted(await swc.processAsync(...args)),
      getCacheKey: (...args) => `${swc.getCacheKey(...args)} fronted 2`,
    };
  },
};
