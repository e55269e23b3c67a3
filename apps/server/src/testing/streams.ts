/** Event streams of a server that listens, for tests. */
import type { AddressInfo } from 'node:net';
import type { TestServer } from './server.js';

/** Lets a server listen and signs somebody in by fetch: the address of its API, and the cookie. */
export async function reached(server: TestServer, email: string): Promise<{ at: string; cookie: string }> {
  const http = server.app.getHttpServer();
  if (!http.listening) await server.app.listen(0, '127.0.0.1');
  const { port } = http.address() as AddressInfo;
  const at = `http://127.0.0.1:${port}/api/v1`;
  const signed = await fetch(`${at}/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email, password: 'pass word' }),
  });
  const cookie = signed.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
  return { at, cookie };
}

/** What a stream of events brings, until it is what is waited for; then it is closed unless it is to stay `open`. */
export async function until<T>(response: Response, is: (seen: T) => boolean, open = false): Promise<T> {
  const reader = response.body?.getReader();
  let text = '';
  for (;;) {
    const { value, done } = (await reader?.read()) ?? { done: true, value: undefined };
    if (done) throw new Error(`the stream ended: ${text.slice(-300)}`);
    text += new TextDecoder().decode(value as Uint8Array);
    // an event is whole where a blank line ends it
    if (!text.endsWith('\n\n')) continue;
    const data = text.slice(text.lastIndexOf('data: ') + 'data: '.length).trimEnd();
    const seen = JSON.parse(data) as T;
    if (is(seen)) {
      if (open) reader?.releaseLock();
      else await reader?.cancel();
      return seen;
    }
  }
}
