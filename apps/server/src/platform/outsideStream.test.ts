/** Answers that come in pieces: read as they come, ended where they are late, too large, cut, or no longer wanted. */
import { createServer, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { OutsideError, outsideStream } from './outside.js';

let server: Server;
let answer: (r: ServerResponse) => void;
let url: URL;
beforeAll(async () => {
  server = createServer((_q, r) => answer(r));
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  url = new URL(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});
const open = (more: object = {}, over = new AbortController().signal) => outsideStream(url, { allowed: ['127.0.0.1'], within: 300, ...more }, over);
const all = async (pieces: AsyncIterable<Buffer>): Promise<string> => {
  let text = '';
  for await (const p of pieces) text += p.toString();
  return text;
};

test('piece by piece, however slowly, as long as each comes in time', async () => {
  answer = (r) => {
    let n = 0;
    const timer = setInterval(() => {
      r.write(`${n}`);
      if (++n === 5) {
        clearInterval(timer);
        r.end();
      }
    }, 150);
  };
  const { status, pieces } = await open();
  expect(status).toBe(200);
  // 750 ms in all, more than one piece may take
  expect(await all(pieces)).toBe('01234');
});
test('no answer at all, and one that falls silent, are late', async () => {
  answer = () => undefined;
  await expect(open()).rejects.toThrow(OutsideError);
  answer = (r) => void r.write('x');
  const { pieces } = await open();
  await expect(all(pieces)).rejects.toThrow('no answer in time');
});
test('more than it may be is too large; a line that is cut is no end', async () => {
  answer = (r) => void r.end('x'.repeat(1000));
  await expect(open({ most: 100 }).then(({ pieces }) => all(pieces))).rejects.toThrow('too large');
  answer = (r) => {
    r.writeHead(200, { 'content-length': '100' });
    r.write('half', () => setTimeout(() => r.socket?.destroy(), 20));
  };
  await expect(open().then(({ pieces }) => all(pieces))).rejects.toThrow();
});
test('what is no longer wanted ends: before it began, and in the middle', async () => {
  answer = (r) => void r.write('x');
  await expect(open({}, AbortSignal.abort())).rejects.toThrow('stopped');
  const over = new AbortController();
  const { pieces } = await open({ within: 5000 }, over.signal);
  const read = all(pieces);
  setTimeout(() => over.abort(), 50);
  await expect(read).rejects.toThrow();
});
test('a name that leads to a private address is not reached unless it was allowed', async () => {
  const named = new URL(url);
  named.hostname = 'localhost';
  await expect(outsideStream(named, { allowed: [], within: 300 }, new AbortController().signal)).rejects.toMatchObject({ code: 'EPRIVATE' });
});
