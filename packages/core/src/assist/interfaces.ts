/**
 * Assistants over HTTP: how a request is put to one and how what it streams back is understood. Another interface is one more row
 * (`docs/asking.md` says how).
 */

/** What is asked of an assistant. */
export interface AssistantOrder {
  model: string;
  /** What was composed, as one message. */
  text: string;
  /** Tokens that the reply may have. */
  most: number;
}
/** A piece of what comes back. */
export interface AssistantPiece {
  text?: string;
  /** As the assistant counts them. */
  tokens?: { in: number; out: number };
  /** The reply is over: whole, or cut where it had its most tokens. */
  end?: 'whole' | 'cut';
  /** What went wrong there, in its words. */
  problem?: string;
}
/** One way to talk to assistants. */
export interface AssistantInterface {
  id: string;
  name: string;
  /** What is sent, as JSON, to the address that was set. */
  body(order: AssistantOrder): object;
  /** The piece that an event of the stream holds; null for what says nothing of the reply. `data` is the data of one server-sent event. */
  piece(data: string): AssistantPiece | null;
}

type Json = Readonly<Record<string, unknown>>;
const object = (v: unknown): Json => (v !== null && typeof v === 'object' && !Array.isArray(v) ? (v as Json) : {});
const string = (v: unknown): string | undefined => (typeof v === 'string' ? v : undefined);
const count = (v: unknown): number | undefined => (typeof v === 'number' && Number.isFinite(v) && v >= 0 ? Math.round(v) : undefined);

/**
 * Messages in, pieces of text out as server-sent events, counts of tokens at the end. Servers of language models agree on what goes in; what
 * comes out they name in two ways, plainly or inside a list of choices, and both are understood (from memory: no published standard).
 */
const chat: AssistantInterface = {
  id: 'chat',
  name: 'messages in, a stream of text out',
  body: ({ model, text, most }) => ({
    model,
    messages: [{ role: 'user', content: text }],
    max_tokens: most,
    stream: true,
    stream_options: { include_usage: true },
  }),
  piece(data) {
    if (data.trim() === '[DONE]') return null;
    let said: Json;
    try {
      said = object(JSON.parse(data));
    } catch {
      return { problem: 'It sent what is no JSON.' };
    }
    const failed = said['error'];
    if (failed !== undefined) return { problem: string(failed) ?? string(object(failed)['message']) ?? 'It sent an error without words.' };
    const choice = object(Array.isArray(said['choices']) ? said['choices'][0] : undefined);
    const text = string(said['text']) ?? string(object(choice['delta'])['content']) ?? string(choice['text']);
    const used = object(said['usage'] ?? said['tokens']);
    const [tokensIn, tokensOut] = [count(used['in'] ?? used['prompt_tokens']), count(used['out'] ?? used['completion_tokens'])];
    const end = string(said['end']) ?? string(choice['finish_reason']);
    const out: AssistantPiece = {
      ...(text && { text }),
      ...(tokensIn !== undefined && tokensOut !== undefined && { tokens: { in: tokensIn, out: tokensOut } }),
      ...(end !== undefined && { end: /^(?:length|cut|max_tokens)$/.test(end) ? ('cut' as const) : ('whole' as const) }),
    };
    return Object.keys(out).length ? out : null;
  },
};

/** The interfaces that are known, by id. */
export const assistantInterfaces: readonly AssistantInterface[] = [chat];
