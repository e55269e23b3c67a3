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

/** One request, without following redirects. @throws OutsideError, or what the connection says */
export function outside(url: URL, { method = 'GET', headers = {}, body, allowed, within = 15_000, most = 1_000_000 }: OutsideRequest): Promise<OutsideAnswer> {
  return new Promise((resolve, reject) => {
    const request = (url.protocol === 'https:' ? https : http).request(
      url,
      { method, lookup: publicLookup(allowed), timeout: within, headers: { 'user-agent': 'Zakuska', 'accept-encoding': 'identity', ...headers } },
      (response) => {
        const pieces: Buffer[] = [];
        let size = 0;
        response.on('data', (piece: Buffer) => {
          size += piece.length;
          if (size > most) request.destroy(new OutsideError('large'));
          else pieces.push(piece);
        });
        response.on('end', () => resolve({ status: response.statusCode ?? 0, headers: response.headers, body: Buffer.concat(pieces) }));
        response.on('error', reject);
      },
    );
    const late = (): void => void request.destroy(new OutsideError('late'));
    const timer = setTimeout(late, within);
    request.on('close', () => clearTimeout(timer));
    request.on('timeout', late);
    request.on('error', reject);
    request.end(body);
  });
}
