/** Requests to addresses that people name. The address is theirs, the network is ours: only the public network, and hosts that were allowed, are reached. */
import { lookup } from 'node:dns';
import http from 'node:http';
import https from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import { isPublic } from './publicAddress.js';

/** Resolves a name and gives only addresses that may be reached to the connection, so that a name cannot change its mind in between. */
export const publicLookup =
  (allowed: readonly string[]): LookupFunction =>
  (host, options, done) => {
    lookup(host, { ...options, all: true }, (error, addresses) => {
      if (error) return done(error, '', 4);
      const open = allowed.includes(host.toLowerCase()) ? addresses : addresses.filter((a) => isPublic(a.address));
      const [first] = open;
      if (!first) return done(Object.assign(new Error('private address'), { code: 'EPRIVATE' }), '', 4);
      if (options.all) return (done as unknown as (e: null, a: typeof open) => void)(null, open);
      done(null, first.address, first.family);
    });
  };

/** Whether a host that is a bare address lies in a private network and was not allowed. */
export const isPrivateHost = (url: URL, allowed: readonly string[]): boolean => {
  const host = url.hostname.replace(/^\[|\]$/g, '');
  return isIP(host) > 0 && !isPublic(host) && !allowed.includes(host);
};

export interface OutsideRequest {
  method?: 'GET' | 'POST';
  headers?: Readonly<Record<string, string>>;
  body?: string;
  /** Hosts that may be reached although they lie in a private network. */
  allowed: readonly string[];
  /** Milliseconds within which all of the answer is there. */
  within?: number;
  /** Bytes that an answer may have. */
  most?: number;
}
export interface OutsideAnswer {
  status: number;
  headers: http.IncomingHttpHeaders;
  body: Buffer;
}

/** An answer that is larger than it may be, or that came too late. */
export class OutsideError extends Error {
  constructor(readonly why: 'large' | 'late') {
    super(why === 'large' ? 'The answer is too large.' : 'There was no answer in time.');
  }
}

const begun = (url: URL, { method = 'GET', headers = {}, allowed, within = 15_000 }: OutsideRequest): http.ClientRequest =>
  (url.protocol === 'https:' ? https : http).request(url, {
    method,
    lookup: publicLookup(allowed),
    timeout: within,
    headers: { 'user-agent': 'Zakuska', 'accept-encoding': 'identity', ...headers },
  });

/** One request, without following redirects. @throws OutsideError, or what the connection says */
export function outside(url: URL, asked: OutsideRequest): Promise<OutsideAnswer> {
  const { body, within = 15_000, most = 1_000_000 } = asked;
  return new Promise((resolve, reject) => {
    const request = begun(url, asked);
    request.on('response', (response) => {
      const pieces: Buffer[] = [];
      let size = 0;
      response.on('data', (piece: Buffer) => {
        size += piece.length;
        if (size > most) request.destroy(new OutsideError('large'));
        else pieces.push(piece);
      });
      response.on('end', () => resolve({ status: response.statusCode ?? 0, headers: response.headers, body: Buffer.concat(pieces) }));
      response.on('error', reject);
    });
    const late = (): void => void request.destroy(new OutsideError('late'));
    const timer = setTimeout(late, within);
    request.on('close', () => clearTimeout(timer));
    request.on('timeout', late);
    request.on('error', reject);
    request.end(body);
  });
}

/** An answer that comes in pieces. */
export interface OutsideStream {
  status: number;
  headers: http.IncomingHttpHeaders;
  /** The pieces as they come. @throws OutsideError where one is awaited too long or all are too large, or what the connection says */
  pieces: AsyncIterable<Buffer>;
}

/**
 * One request whose answer is read as it comes, without following redirects.
 * @param asked `within` is how long the answer, and then each further piece of it, may be awaited
 * @param over ends it
 * @throws OutsideError, or what the connection says
 */
export function outsideStream(url: URL, asked: OutsideRequest, over: AbortSignal): Promise<OutsideStream> {
  const { body, within = 15_000, most = 1_000_000 } = asked;
  return new Promise((resolve, reject) => {
    const request = begun(url, asked);
    let timer: NodeJS.Timeout | undefined;
    let late: OutsideError | undefined;
    const isLate = (): void => {
      late = new OutsideError('late');
      request.destroy(late);
    };
    const wait = (): void => {
      clearTimeout(timer);
      timer = setTimeout(isLate, within);
    };
    const stop = (): void => void request.destroy(new Error('stopped'));
    over.addEventListener('abort', stop, { once: true });
    request.on('close', () => {
      clearTimeout(timer);
      over.removeEventListener('abort', stop);
    });
    request.on('timeout', isLate);
    request.on('error', reject);
    request.on('response', (response) => {
      const pieces = async function* (): AsyncGenerator<Buffer> {
        let size = 0;
        try {
          for await (const piece of response) {
            wait();
            size += (piece as Buffer).length;
            if (size > most) throw new OutsideError('large');
            yield piece as Buffer;
          }
        } catch (e) {
          // an answer whose request was ended says no more than that
          throw late ?? e;
        }
        // a line that is cut ends like one that is over
        if (!response.complete) throw new Error('the line was cut');
      };
      resolve({ status: response.statusCode ?? 0, headers: response.headers, pieces: pieces() });
    });
    if (over.aborted) return stop();
    wait();
    request.end(body);
  });
}
