/**
 * Fetches a page that a person names. The address is the person's, the network is ours: private, loopback and other
 * special addresses are refused at every step, after name resolution and after every redirect.
 */
import { lookup } from 'node:dns';
import http from 'node:http';
import https from 'node:https';
import type { LookupFunction } from 'node:net';
import { decodePage, decodeText, fromHtml } from '@zakuska/core';
import { Readability } from '@mozilla/readability';
import ipaddr from 'ipaddr.js';
import { parseHTML } from 'linkedom';
import { Problem } from '../platform/problem.js';
import { settings } from '../platform/settings.js';

const TIMEOUT = 15_000;
const MOST_REDIRECTS = 5;

const refused = (why: string): Problem => new Problem(422, 'address-refused', why);

/** Whether an address is one of the public network. Anything else (private, loopback, link-local, shared, mapped into IPv6 …) is not. */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  return ipaddr.process(address).range() === 'unicast';
}

/** Resolves a name and gives only public addresses to the connection, so that a name cannot change its mind in between. */
const guarded: LookupFunction = (host, options, done) => {
  lookup(host, { ...options, all: true }, (error, addresses) => {
    if (error) return done(error, '', 4);
    const allowed = settings().sourceHosts.includes(host.toLowerCase()) ? addresses : addresses.filter((a) => isPublic(a.address));
    const [first] = allowed;
    if (!first) return done(Object.assign(new Error('private address'), { code: 'EPRIVATE' }), '', 4);
    if (options.all) return (done as unknown as (e: null, a: typeof allowed) => void)(null, allowed);
    done(null, first.address, first.family);
  });
};

interface Answer {
  status: number;
  headers: http.IncomingHttpHeaders;
  body: Buffer;
}
function get(url: URL): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const request = (url.protocol === 'https:' ? https : http).get(
      url,
      {
        lookup: guarded,
        timeout: TIMEOUT,
        headers: { accept: 'text/html, text/plain;q=0.8, */*;q=0.1', 'user-agent': 'Zakuska', 'accept-encoding': 'identity' },
      },
      (response) => {
        const pieces: Buffer[] = [];
        let size = 0;
        response.on('data', (piece: Buffer) => {
          size += piece.length;
          if (size > settings().maxUploadBytes) request.destroy(refused('The page is larger than files may be here.'));
          else pieces.push(piece);
        });
        response.on('end', () => resolve({ status: response.statusCode ?? 0, headers: response.headers, body: Buffer.concat(pieces) }));
        response.on('error', reject);
      },
    );
    request.on('timeout', () => request.destroy(refused('The page did not answer in time.')));
    request.on('error', reject);
    setTimeout(() => request.destroy(refused('The page did not answer in time.')), TIMEOUT).unref();
  });
}

/** An address as a person types it, checked; a host that is a bare address is looked at too. */
function checked(address: string): URL {
  let url: URL;
  try {
    url = new URL(/^[a-z][a-z0-9+.-]*:/i.test(address) ? address : `https://${address}`);
  } catch {
    throw refused('This is no web address. It looks like https://example.org/article.');
  }
  if (url.protocol !== 'https:' && url.protocol !== 'http:') throw refused('Only pages of the web are fetched (http and https).');
  if (url.username || url.password) throw refused('An address with a password in it is not fetched.');
  const host = url.hostname.replace(/^\[|\]$/g, '');
  if (ipaddr.isValid(host) && !isPublic(host) && !settings().sourceHosts.includes(host))
    throw refused('This address lies inside a private network and is not fetched.');
  return url;
}

/**
 * The main text of a page.
 * @throws Problem where the address is refused, does not answer, or holds no text
 */
export async function fetchAddress(address: string): Promise<{ name: string; text: string; address: string }> {
  let url = checked(address);
  for (let step = 0; ; step++) {
    let answer: Answer;
    try {
      answer = await get(url);
    } catch (e) {
      if (e instanceof Problem) throw e;
      const { code } = e as NodeJS.ErrnoException;
      if (code === 'EPRIVATE') throw refused('This address lies inside a private network and is not fetched.');
      throw new Problem(
        422,
        'address-unreachable',
        `The page could not be reached (${code ?? 'no answer'}). Check the address, or save the page and open the file.`,
      );
    }
    const { location } = answer.headers;
    if (answer.status >= 300 && answer.status < 400 && location) {
      if (step >= MOST_REDIRECTS) throw refused('The page leads on and on to other addresses.');
      url = checked(new URL(location, url).href);
      continue;
    }
    if (answer.status !== 200) throw new Problem(422, 'address-unreachable', `The page answers with ${answer.status}. Check the address.`);
    return { ...mainText(answer, url), address: url.href };
  }
}

function mainText({ headers, body }: Answer, url: URL): { name: string; text: string } {
  const type = headers['content-type'] ?? '';
  const charset = /charset\s*=\s*"?([\w-]+)/i.exec(type)?.[1]?.toLowerCase();
  const name = decodeURIComponent(url.pathname.split('/').filter(Boolean).pop() ?? url.hostname);
  if (/^text\/plain/i.test(type)) return { name, text: decodeText(body, charset) };
  if (type && !/html|xml/i.test(type)) throw refused(`The address holds ${type.split(';')[0] ?? 'a file'}, no page. Save the file and open it.`);
  const html = decodePage(body, charset);
  const { document } = parseHTML(html);
  const article = new Readability(document as unknown as ConstructorParameters<typeof Readability>[0]).parse();
  const text = fromHtml(article?.content ?? html).text.trim();
  if (!text) throw new Problem(422, 'address-empty', 'The page holds no text that could be found. Copy the text and paste it.');
  return { name: article?.title?.trim() || name, text };
}
