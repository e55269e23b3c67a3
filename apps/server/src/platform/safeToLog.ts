/** What a log says of an error: its kind and where it happened, never the values of a statement, a name or a token. */

interface Told {
  type: string;
  message?: string;
  code?: string;
  table?: string;
  constraint?: string;
  stack?: string;
  cause?: Told;
}

const frames = (stack: string | undefined): string =>
  (stack ?? '')
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .slice(0, 12)
    .join('\n');

/** Errors of the database carry the statement with its values in their message, and values in their detail. */
const ofDatabase = (e: Record<string, unknown>): boolean =>
  'severity' in e || 'sqlMessage' in e || 'query' in e || typeof e['sqlState'] === 'string' || 'routine' in e;

/** A statement with its values stands in front of what went wrong in the messages of the query builder. */
const withoutStatement = (message: string): string =>
  /^\s*(?:select|insert|update|delete|with|begin|commit|rollback|savepoint|release|create|alter|drop|listen)\b/i.test(message)
    ? (message.split(' - ').at(-1) ?? '')
    : message;

export function safeToLog(error: unknown, depth = 0): Told {
  if (!(error instanceof Error)) return { type: typeof error };
  const e = error as Error & Record<string, unknown>;
  const text = (name: string): string | undefined => (typeof e[name] === 'string' ? (e[name] as string) : undefined);
  const code = text('code');
  const table = text('table');
  const constraint = text('constraint');
  const cause = depth < 2 && e.cause instanceof Error ? safeToLog(e.cause, depth + 1) : undefined;
  return {
    type: e.constructor.name,
    ...(!ofDatabase(e) && { message: withoutStatement(e.message).slice(0, 300) }),
    ...(code && { code }),
    ...(table && { table }),
    ...(constraint && { constraint }),
    stack: frames(e.stack),
    ...(cause && { cause }),
  };
}
