/** Class lists as people have them: a name a line, a table pasted or as CSV, or the users of a OneRoster export. */
import { counted } from '../language/counted.js';
import Papa from 'papaparse';
import { stripEnd } from '../item/strip.js';
import { saidBy } from './headings.js';

/** Somebody of a class, as read. */
export interface ReadMember {
  name: string;
  /** '' where none is given. */
  mail: string;
  /** What the school calls them; '' where none is given. */
  number: string;
}
/** A class list as read: its people in their order, and what was left out, in words. */
export interface ReadClassList {
  members: ReadMember[];
  notes: string[];
}

/** Bounded: nothing longer is a mail address (RFC 5321, 4.5.3.1). */
const MAIL = /[^\s<>(),;"]{1,64}@[^\s<>(),;"@]{1,255}/;
const isMail = (s: string): boolean => new RegExp(`^${MAIL.source}$`).test(s);
/** The most people that a list may have. */
export const MOST_MEMBERS = 2000;
/** The longest name; longer lines are no names. */
const LONGEST_NAME = 100;

/** "givenName" as "given name": OneRoster writes its headings in one word. */
const spaced = (heading: string): string => heading.replace(/(?<=\p{Ll})(?=\p{Lu})/gu, ' ').toLowerCase();
/** "Brandt, Ada" as "Ada Brandt". */
function turned(name: string): string {
  const [last = '', first = '', ...more] = name.split(',').map((s) => s.trim());
  return first && last && !more.length ? `${first} ${last}` : name;
}
const clean = (s: string): string => stripEnd(s.replace(/\s+/g, ' '), /[\s,;]/).trimStart();

/** What somebody is called of whom there is nothing but a mail. */
const calledBy = (mail: string): string => mail.split('@')[0] ?? '';

/** A line of its own: a number in front, a mail behind or in angle brackets. */
function memberOf(line: string): ReadMember {
  const mail = MAIL.exec(line)?.[0] ?? '';
  const rest = line.replace(mail, ' ').replace(/<\s*>|\(\s*\)/, ' ');
  const name = clean(rest.replace(/^\s*(?:\d{1,4}[.):]?\s+|[-–•*]\s+)/, ''));
  return { name: turned(name) || calledBy(mail), mail, number: '' };
}

type Use = 'first' | 'last' | 'name' | 'mail' | 'number' | 'role' | 'status';
function useOf(heading: string): Use | null {
  const h = spaced(heading);
  // OneRoster 1.1, users.csv: sourcedId, status, role, identifier, givenName, familyName, email
  if (h === 'role' || h === 'roles') return 'role';
  if (h === 'status') return 'status';
  if (h === 'identifier') return 'number';
  if (h === 'username' || h === 'user ids') return null;
  const use = saidBy(h);
  if (use === 'first name') return 'first';
  if (use === 'last name') return 'last';
  if (use === 'name' || use === 'mail') return use;
  return use === 'id' && !/^(?:#|no|nr|n[º°]|row|ip\b.*|sourced id)$/.test(h) ? 'number' : null;
}

/**
 * Reads a class list.
 * @param text lines, or a table with commas, semicolons or tabs, with or without headings
 * @returns whoever could be read; who stands twice is there once, and told
 */
export function readClassList(text: string): ReadClassList {
  const notes: string[] = [];
  const source = text.replace(/^\uFEFF/, '');
  const table = (Papa.parse<string[]>(source, { skipEmptyLines: 'greedy', delimitersToGuess: ['\t', ';', ','] }).data ?? []).map((row) =>
    row.map((c) => c.trim()),
  );
  const uses = (table[0] ?? []).map(useOf);
  const headed = uses.some((u) => u === 'name' || u === 'mail' || u === 'first' || u === 'last');
  const found = headed ? ofTable(table, uses, notes) : ofLines(source, table);
  return { members: once(found, notes), notes };
}

function ofTable(table: readonly string[][], uses: readonly (Use | null)[], notes: string[]): ReadMember[] {
  const cell = (row: readonly string[], use: Use): string => clean(row[uses.indexOf(use)] ?? '');
  let others = 0;
  const out = table.slice(1).flatMap((row): ReadMember[] => {
    const role = cell(row, 'role').toLowerCase();
    if ((role && !/student|learner|pupil/.test(role)) || /^tobedeleted$/i.test(cell(row, 'status'))) {
      others++;
      return [];
    }
    const mail = cell(row, 'mail');
    const name = uses.includes('name') ? turned(cell(row, 'name')) : clean(`${cell(row, 'first')} ${cell(row, 'last')}`);
    return name || mail ? [{ name: name || calledBy(mail), mail: isMail(mail) ? mail : '', number: cell(row, 'number') }] : [];
  });
  if (others) notes.push(`${counted(others, 'row is', 'rows are')} of somebody who is no learner, or of somebody to be deleted: left out.`);
  return out;
}

/** Without headings: a line a person, or cells of which one is a mail, one a number, and the others the name. */
function ofLines(source: string, table: readonly string[][]): ReadMember[] {
  const cells = table.filter((r) => r.filter(Boolean).length > 1);
  // "Brandt, Ada" in each line is a name and no table
  const inCells =
    cells.length > table.length / 2 &&
    cells.some((r) => r.some((c) => isMail(c) || /^\d+$/.test(c)) || r.length > 2 || source.includes('\t') || source.includes(';'));
  if (!inCells)
    return source
      .split(/\r\n?|\n/)
      .filter((l) => /\p{L}/u.test(l))
      .map(memberOf);
  return table.flatMap((row): ReadMember[] => {
    const mail = row.find(isMail) ?? '';
    const number = row.find((c) => /^[A-Z]{0,3}\d{3,}$/i.test(c)) ?? '';
    const words = row.filter((c) => c && c !== mail && c !== number && /\p{L}/u.test(c));
    // first name and last name beside each other
    const name = turned(clean(words.slice(0, 2).join(' ')));
    return name || mail ? [{ name: name || calledBy(mail), mail, number }] : [];
  });
}

function once(found: readonly ReadMember[], notes: string[]): ReadMember[] {
  const seen = new Set<string>();
  const twice = new Set<string>();
  const members: ReadMember[] = [];
  for (const m of found) {
    if (m.name.length > LONGEST_NAME) {
      notes.push(`“${m.name.slice(0, 40)}…” is too long for a name: left out.`);
      continue;
    }
    const key = `${m.name.toLowerCase()} ${m.mail.toLowerCase()} ${m.number}`;
    if (seen.has(key)) {
      twice.add(m.name);
      continue;
    }
    seen.add(key);
    members.push(m);
  }
  if (twice.size) notes.push(`${[...twice].slice(0, 5).join(', ')}${twice.size > 5 ? ' …' : ''}: twice on the list, taken once.`);
  if (members.length > MOST_MEMBERS) {
    notes.push(`A class has at most ${MOST_MEMBERS} people; the last ${members.length - MOST_MEMBERS} are left out.`);
    members.length = MOST_MEMBERS;
  }
  const names = new Map<string, number>();
  for (const m of members) names.set(m.name.toLowerCase(), (names.get(m.name.toLowerCase()) ?? 0) + 1);
  const same = [...names.values()].filter((n) => n > 1).length;
  if (same) notes.push(`${counted(same, 'name belongs', 'names belong')} to more than one person. Codes of their own tell them apart.`);
  return members;
}
