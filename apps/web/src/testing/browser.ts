import { configure } from '@testing-library/react';

// machines are shared: a test is not at fault where others take the time, and waiting costs nothing where nothing is wrong
configure({ asyncUtilTimeout: 20_000 });

/** What the components of libraries need of a browser that jsdom has not: nothing of it measures or scrolls. */
globalThis.ResizeObserver ??= class {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
} as never;
globalThis.IntersectionObserver ??= class {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
} as never;
Element.prototype.scrollIntoView ??= () => undefined;
Element.prototype.hasPointerCapture ??= () => false;
Element.prototype.setPointerCapture ??= () => undefined;
Element.prototype.releasePointerCapture ??= () => undefined;
const nowhere = { x: 0, y: 0, top: 0, left: 0, right: 0, bottom: 0, width: 0, height: 0, toJSON: () => '' };
Range.prototype.getBoundingClientRect ??= () => nowhere;
Range.prototype.getClientRects ??= () => [] as never;
document.elementFromPoint ??= () => null;
window.matchMedia ??= ((query: string) => ({ matches: false, media: query, addEventListener() {}, removeEventListener() {} })) as never;
Blob.prototype.arrayBuffer ??= function (this: Blob) {
  return new Promise((done, failed) => {
    const reader = new FileReader();
    reader.onload = () => done(reader.result as ArrayBuffer);
    reader.onerror = () => failed(reader.error);
    reader.readAsArrayBuffer(this);
  });
};
