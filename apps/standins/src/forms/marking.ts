/** Entries of a form, and how the form service marks answers to them. */

interface Asked {
  id: string;
  text: string;
  help?: string;
  picture?: string;
  section?: string;
  points?: number;
  required?: boolean;
  feedback?: { right?: string; wrong?: string };
}
export interface Option {
  id: string;
  text: string;
  picture?: string;
  right?: boolean;
}
export type Entry =
  | { kind: 'note'; id: string; text: string; picture?: string; section?: string }
  | (Asked & { kind: 'one' | 'several'; options: Option[]; shuffle?: boolean })
  | (Asked & { kind: 'words'; accepted?: string[] })
  | (Asked & { kind: 'paragraph' })
  | (Asked & { kind: 'grid'; columns: { id: string; text: string }[]; rows: { id: string; text: string; column?: string }[] });
/** A text, the id of an option, ids of options, or row → column. */
export type Answer = string | string[] | Record<string, string>;

const plain = (s: string): string => s.trim().replace(/\s+/g, ' ').toLowerCase();

/** Points of an answer; null where a person marks. */
export function pointsOf(entry: Entry, answer: Answer | undefined): number | null {
  if (entry.kind === 'note') return 0;
  const whole = entry.points ?? 0;
  switch (entry.kind) {
    case 'paragraph':
      return null;
    case 'words':
      if (!entry.accepted?.length) return null;
      return typeof answer === 'string' && answer.trim() && entry.accepted.some((a) => plain(a) === plain(answer)) ? whole : 0;
    case 'one':
      return entry.options.some((o) => o.right && o.id === answer) ? whole : 0;
    case 'several': {
      const chosen = new Set(Array.isArray(answer) ? answer : []);
      return chosen.size && entry.options.every((o) => Boolean(o.right) === chosen.has(o.id)) ? whole : 0;
    }
    case 'grid': {
      const given = typeof answer === 'object' && !Array.isArray(answer) ? answer : {};
      const right = entry.rows.filter((r) => r.column !== undefined && given[r.id] === r.column).length;
      return (whole * right) / entry.rows.length;
    }
  }
}

/** Whether there is something in an answer. */
export const isAnswered = (a: Answer | undefined): boolean =>
  a !== undefined && (typeof a === 'string' ? a.trim() !== '' : Array.isArray(a) ? a.length > 0 : Object.keys(a).length > 0);
export const maximumOf = (entry: Entry): number => (entry.kind === 'note' ? 0 : (entry.points ?? 0));
