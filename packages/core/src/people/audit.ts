/** What may have to be answered for: who came, who was given what role, what went out, what was deleted. */

/** Kinds of events, by what they are about. A new one is a row here, and a call of `wasDone` in the server where it happens. */
export const auditKinds = [
  'signed in',
  'sign-in refused',
  'password changed',
  'address changed',
  'second factor on',
  'second factor off',
  'sessions ended',
  'workspace made',
  'workspace renamed',
  'invited',
  'invitation withdrawn',
  'joined',
  'role changed',
  'member removed',
  'left',
  'sharing changed',
  'link to copies made',
  'quiz published',
  'quiz opened or closed',
  'sent to a service',
  'service connected',
  'service disconnected',
  'file taken',
  'key decided after answers',
  'assistant set up',
  'set put into the bin',
  'set deleted',
  'people erased',
] as const;
/** One of them. */
export type AuditKind = (typeof auditKinds)[number];
