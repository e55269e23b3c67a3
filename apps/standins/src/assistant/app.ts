/**
 * A simulated assistant over HTTP: messages in, a stream of text out with counts of tokens at its end. It keeps nothing but the last
 * conversations, in memory, for its page; `PUT /control` sets its seed, its speed, its mistakes, and what is to go wrong next.
 */
import express from 'express';
import { setTimeout as wait } from 'node:timers/promises';
import { escape, pagesOf } from '../pages.js';
import { type Mistakes, replyTo } from './talk.js';

/** The demo's secret. */
export const SECRET = 'whisk-and-ladle';
const MODELS = ['galley-small', 'galley-large'];

/**
 * error: 500; page: an error page; empty: a stream without words; half: cut in the middle; silence: no answer ever; limit: 429;
 * uncounted: no counts of tokens; endless: never says that it is over, and then is.
 */
const TROUBLES = ['error', 'page', 'empty', 'half', 'silence', 'limit', 'uncounted', 'endless'] as const;
export interface Control {
  seed?: string;
  /** Milliseconds for each word. */
  speed?: number;
  mistakes?: Mistakes;
  trouble?: { kind: (typeof TROUBLES)[number]; times?: number }[];
}
/** As it counts them: three words make four tokens. */
const tokensOf = (text: string): number => Math.ceil(((text.match(/\S+/g) ?? []).length * 4) / 3);

const page = pagesOf(
  'Galley Assistant',
  'a simulated assistant',
  'body{background:#f4f1f6;font-family:system-ui,sans-serif}pre{white-space:pre-wrap;font-size:13px}',
);

export function assistantApp(): express.Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(express.json({ limit: '4mb' }));
  let control: Required<Control> = { seed: '1', speed: 8, mistakes: {}, trouble: [] };
  const heard: { text: string; reply: string }[] = [];
  app.get('/health', (_q, r) => void r.json({ ok: true }));
  app.put('/control', (q, r) => {
    const said = q.body as Control;
    if (said.trouble?.some((t) => !TROUBLES.includes(t.kind))) return void r.status(400).json({ detail: `trouble is a list of ${TROUBLES.join(', ')}.` });
    control = { seed: '1', speed: 8, mistakes: {}, ...said, trouble: (said.trouble ?? []).map((t) => ({ times: 1, ...t })) };
    r.json(control);
  });
  app.get('/heard', (_q, r) => void r.json(heard));
  app.get('/', (_q, r) => {
    const list = heard.map(({ text, reply }) => `<section><h2>Asked</h2><pre>${escape(text)}</pre><h2>Replied</h2><pre>${escape(reply)}</pre></section>`);
    r.type('html').send(page('The last conversations', list.join('') || '<p>Nothing has been asked yet.</p>'));
  });
  app.post('/v1/chat', async (q, r) => {
    const due = control.trouble.find((t) => (t.times ?? 1) > 0);
    if (due) due.times = (due.times ?? 1) - 1;
    const kind = due?.kind;
    if (q.headers.authorization !== `Bearer ${SECRET}`) return void r.status(401).json({ error: { message: 'This secret is not known.' } });
    if (kind === 'error') return void r.status(500).json({ error: { message: 'Something went wrong here.' } });
    if (kind === 'limit')
      return void r
        .status(429)
        .setHeader('retry-after', '1')
        .json({ error: { message: 'Too many requests.' } });
    if (kind === 'page') return void r.type('html').send('<h1>Under maintenance</h1>');
    if (kind === 'silence') return;
    const { model, messages, max_tokens: most = 4000 } = q.body as { model?: string; messages?: { role: string; content: string }[]; max_tokens?: number };
    const text = messages?.findLast((m) => m.role === 'user')?.content;
    if (!MODELS.includes(model ?? ''))
      return void r.status(404).json({ error: { message: `There is no model ${model ?? ''}; there are ${MODELS.join(' and ')}.` } });
    if (typeof text !== 'string' || !text.trim()) return void r.status(400).json({ error: { message: 'There is no message.' } });
    const whole = replyTo(text, control.seed, control.mistakes);
    r.type('text/event-stream').setHeader('cache-control', 'no-store');
    const send = (data: object): void => void r.write(`data: ${JSON.stringify(data)}\n\n`);
    const words = kind === 'empty' ? [] : whole.split(/(?<=\S)(?=\s)/);
    let reply = '';
    let cut = false;
    for (const [n, word] of words.entries()) {
      if (r.destroyed) break;
      if (kind === 'half' && n >= words.length / 2) return void r.socket?.destroy();
      if (tokensOf(reply + word) > most) {
        cut = true;
        break;
      }
      reply += word;
      send({ text: word });
      if (control.speed > 0) await wait(control.speed);
    }
    heard.unshift({ text, reply });
    heard.splice(20);
    if (kind === 'empty' || kind === 'endless') return void r.end();
    send({ end: cut ? 'cut' : 'whole', ...(kind !== 'uncounted' && { tokens: { in: tokensOf(text), out: tokensOf(reply) } }) });
    r.end();
  });
  return app;
}
