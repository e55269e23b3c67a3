// jsdom with what every browser has and it has not: for tests of components (`@jest-environment ./src/testing/environment.mjs`).
import { TestEnvironment } from 'jest-environment-jsdom';

export default class extends TestEnvironment {
  async setup() {
    await super.setup();
    for (const name of ['TextEncoder', 'TextDecoder', 'structuredClone', 'Uint8Array', 'ArrayBuffer', 'fetch', 'Request', 'Response', 'Headers', 'ReadableStream'])
      this.global[name] ??= globalThis[name];
    // the bytes of an encoder are of the realm of its class
    this.global.Uint8Array = Uint8Array;
  }
}
