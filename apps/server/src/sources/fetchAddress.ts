/**
 * Fetches a page that a person names. The address is the person's, the network is ours: private, loopback and other
 * special addresses are refused at every step, after name resolution and after every redirect.
 */
import { decodeText } from '@zakuska/core';
import { inWorker, WorkStopped } from '../platform/inWorker.js';
import { isPrivateHost, outside, type OutsideAnswer, OutsideError } from '../platform/outside.js';
import { Problem } from '../platform/problem.js';
import { settings } from '../platform/settings.js';

const TIMEOUT = 15_000;
const MOST_REDIRECTS = 5;

const refused = (why: string): Problem => new Problem(422, 'address-refused', why);

async function get(url: URL): Promise<OutsideAnswer> {
  const headers = { accept: 'text/html, text/plain;q=0.8, */*;q=0.1' };
  try {
    return await outside(url, { headers, allowed: settings().sourceHosts, within: TIMEOUT, most: settings().maxUploadBytes });
  } catch (e) {
    if (!(e instanceof OutsideError)) throw e;
    throw refused(e.why === 'large' ? 'The page is larger than files may be here.' : 'The page did not answer in time.');
  }
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
  if (isPrivateHost(url, settings().sourceHosts)) throw refused('This address lies inside a private network and is not fetched.');
  return url;
}

/**
 * The main text of a page.
 * @throws Problem where the address is refused, does not answer, or holds no text
 */
export async function fetchAddress(address: string): Promise<{ name: string; text: string; address: string }> {
  let url = checked(address);
  for (let step = 0; ; step++) {
    let answer: OutsideAnswer;
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
    return { ...(await textOf(answer, url)), address: url.href };
  }
}

/** What a page may take until its text is found. */
const PAGE_LIMITS = { seconds: 10, megabytes: 256 };

async function textOf({ headers, body }: OutsideAnswer, url: URL): Promise<{ name: string; text: string }> {
  const type = headers['content-type'] ?? '';
  const charset = /charset\s*=\s*"?([\w-]+)/i.exec(type)?.[1]?.toLowerCase();
  const name = nameOf(url);
  if (/^text\/plain/i.test(type)) return { name, text: decodeText(body, charset) };
  if (type && !/html|xml/i.test(type)) throw refused(`The address holds ${type.split(';')[0] ?? 'a file'}, no page. Save the file and open it.`);
  let page: { title: string; text: string };
  try {
    page = await inWorker('sources/page.worker.js', { body, charset }, PAGE_LIMITS);
  } catch (e) {
    if (e instanceof WorkStopped) throw refused('The page is built so that its text cannot be found in time. Copy the text and paste it.');
    throw e;
  }
  if (!page.text) throw new Problem(422, 'address-empty', 'The page holds no text that could be found. Copy the text and paste it.');
  return { name: page.title || name, text: page.text };
}

function nameOf(url: URL): string {
  const last = url.pathname.split('/').filter(Boolean).pop() ?? url.hostname;
  try {
    return decodeURIComponent(last);
  } catch {
    return last;
  }
}
