/**
 * An independent QTI 3 player: npm @citolab/qti-components (GPL-3.0, development only), in the browser. Right for choice, mapping with
 * bounds, text entry, match and order; its qti-equal knows no tolerance, which is why ranges are written as gte and lte.
 */
import { readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Page } from '@playwright/test';

const BUNDLE = readFileSync(new URL('../node_modules/@citolab/qti-components/cdn/index.js', import.meta.url));

export async function servePlayer(): Promise<{ url: string; server: Server }> {
  const server = createServer((q, r) => {
    if (q.url === '/qti.js') r.setHeader('content-type', 'text/javascript').end(BUNDLE);
    else
      r.setHeader('content-type', 'text/html; charset=utf-8').end(
        '<!doctype html><link rel=icon href=data:,><script type="module" src="/qti.js"></script><body></body>',
      );
  }).listen(0, '127.0.0.1');
  await new Promise((f) => server.once('listening', f));
  return { url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`, server };
}

/**
 * Plays many items in one page, one after another: each in a fresh element, so that nothing of the answer before is left.
 * @returns the SCORE of each
 */
export async function playMany(page: Page, url: string, plays: readonly { xml: string; responses: Record<string, string | string[]> }[]): Promise<number[]> {
  await page.goto(url);
  await page.waitForFunction(() => customElements.get('qti-assessment-item'));
  const out: number[] = [];
  for (let i = 0; i < plays.length; i += 50) {
    out.push(
      ...(await page.evaluate(
        async (part) => {
          interface Player extends Element {
            updateComplete: Promise<unknown>;
            updateResponseVariable(id: string, value: string | string[]): void;
            processResponse(): boolean;
            variables: { type: string; identifier: string; value: string }[];
          }
          const scores: number[] = [];
          for (const { xml, responses } of part) {
            const frame = document.createElement('qti-item');
            const container = document.createElement('item-container') as unknown as Element & { itemXML: string };
            const ready = new Promise<Player>((f, j) => {
              frame.addEventListener('qti-assessment-item-connected', (e) => f((e as CustomEvent<Player>).detail));
              setTimeout(() => j(new Error('the player did not take the item')), 10_000);
            });
            container.itemXML = xml; // before it is attached
            frame.append(container);
            document.body.replaceChildren(frame);
            const item = await ready;
            await item.updateComplete;
            await new Promise((r) => requestAnimationFrame(() => setTimeout(r, 15)));
            for (const [k, v] of Object.entries(responses)) item.updateResponseVariable(k, v);
            item.processResponse();
            await new Promise((r) => setTimeout(r, 5));
            scores.push(Number(item.variables.find((v) => v.identifier === 'SCORE')?.value ?? Number.NaN));
          }
          return scores;
        },
        plays.slice(i, i + 50),
      )),
    );
  }
  return out;
}
