import { inWorker, WorkStopped } from '../platform/inWorker.js';
import { depthOf, mainText } from './mainText.js';

const bytes = (s: string): Uint8Array => new TextEncoder().encode(s);
const article = `<article><h1>On starters</h1>${'<p>A starter is fed with flour and water twice a day until it doubles in four hours, and smells of yoghurt.</p>'.repeat(6)}</article>`;

test('the article of a page, and of one that is nested far too deep at least its words', () => {
  expect(mainText({ body: bytes(`<html><head><title>On starters</title></head><body><nav>Home</nav>${article}</body></html>`) })).toMatchObject({
    title: 'On starters',
  });
  const deep = `${'<div>'.repeat(5000)}Salt is salt.${'</div>'.repeat(5000)}<script>alert(1)</script>`;
  expect(depthOf(deep)).toBe(5000);
  expect(mainText({ body: bytes(deep) }).text).toBe('Salt is salt.');
});

test('what takes too long in a worker is stopped, and what fails there says why', async () => {
  await expect(inWorker('sources/page.worker.js', { body: bytes(article) }, { seconds: 30, megabytes: 256 })).resolves.toMatchObject({
    text: expect.stringContaining('flour and water'),
  });
  await expect(inWorker('sources/page.worker.js', { body: bytes(article) }, { seconds: 0.001, megabytes: 256 })).rejects.toBeInstanceOf(WorkStopped);
  await expect(inWorker('sources/page.worker.js', null, { seconds: 30, megabytes: 256 })).rejects.toThrow(/null/);
});
