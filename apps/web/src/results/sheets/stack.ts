/** The stack of sheets on the screen: what came, what was read, what somebody said of it. Nothing here knows of the page. */
import { counted } from '@zakuska/core';
import type { SettledPage } from '@zakuska/core/scan';
import type { FieldView, NotView, SheetView } from './reading.js';
import { say } from '../../words/say.js';

/** One picture. */
export interface Entry {
  id: string;
  /** The file, and its page. */
  file: string;
  /** Whose it is: from the code, or as somebody typed. */
  person: string;
  view: SheetView | NotView | { is: 'waiting' };
  /** What somebody said of fields that were doubted, by their place. */
  said: ReadonlyMap<number, readonly string[]>;
}
export interface Stack {
  entries: readonly Entry[];
  /** Doubts in the order in which they were settled: what is taken back first stands last. */
  settled: readonly { entry: string; field: number }[];
}
export const emptyStack: Stack = { entries: [], settled: [] };

export type Step =
  | { is: 'come'; id: string; file: string }
  | { is: 'read'; id: string; view: SheetView | NotView }
  | { is: 'named'; id: string; person: string }
  | { is: 'gone'; id: string }
  | { is: 'said'; entry: string; field: number; given: readonly string[] }
  | { is: 'back' };

/** The stack after a step. */
export function after(stack: Stack, step: Step): Stack {
  const change = (id: string, by: (e: Entry) => Entry): Stack => ({ ...stack, entries: stack.entries.map((e) => (e.id === id ? by(e) : e)) });
  switch (step.is) {
    case 'come':
      return { ...stack, entries: [...stack.entries, { id: step.id, file: step.file, person: '', view: { is: 'waiting' }, said: new Map() }] };
    case 'read':
      return change(step.id, (e) => ({
        ...e,
        view: step.view,
        person: e.person || (step.view.is === 'read' ? step.view.person || personBefore(stack, e, step.view) : ''),
      }));
    case 'named':
      return named(stack, step.id, step.person);
    case 'gone':
      return { entries: stack.entries.filter((e) => e.id !== step.id), settled: stack.settled.filter((s) => s.entry !== step.id) };
    case 'said':
      return {
        ...change(step.entry, (e) => ({ ...e, said: new Map(e.said).set(step.field, step.given) })),
        settled: [...stack.settled, { entry: step.entry, field: step.field }],
      };
    case 'back': {
      const last = stack.settled.at(-1);
      if (!last) return stack;
      const less = change(last.entry, (e) => ({ ...e, said: new Map([...e.said].filter(([n]) => n !== last.field)) }));
      return { ...less, settled: stack.settled.slice(0, -1) };
    }
  }
}

/** Further pages come behind the first: they are that person's, where it has a name already. */
function personBefore(stack: Stack, entry: Entry, view: SheetView): string {
  if (view.page === 1) return '';
  const at = stack.entries.findIndex((e) => e.id === entry.id);
  const first = stack.entries.slice(0, at).findLast((e) => e.view.is === 'read' && e.view.page === 1 && e.view.print === view.print);
  return first?.person ?? '';
}

/** Names a sheet, and with a first page those behind it that are the same person's. */
function named(stack: Stack, id: string, person: string): Stack {
  const at = stack.entries.findIndex((e) => e.id === id);
  const of = stack.entries[at];
  if (!of) return stack;
  const ends = stack.entries.findIndex((e, i) => i > at && e.view.is === 'read' && e.view.page === 1);
  const behind = (e: Entry, i: number): boolean =>
    of.view.is === 'read' && of.view.page === 1 && i > at && (ends < 0 || i < ends) && e.view.is === 'read' && e.view.page > 1 && e.person === of.person;
  return { ...stack, entries: stack.entries.map((e, i) => (e.id === id || behind(e, i) ? { ...e, person } : e)) };
}

/** A field that waits for somebody. */
export interface Doubt {
  entry: Entry;
  field: FieldView;
  at: number;
}
/** All doubts that are open, sheet after sheet. */
export const doubtsOf = (stack: Stack): Doubt[] =>
  stack.entries.flatMap((entry) =>
    entry.view.is === 'read' ? entry.view.fields.flatMap((field, at) => (field.doubt && !entry.said.has(at) ? [{ entry, field, at }] : [])) : [],
  );

/** What is left to do before the stack can be kept, in the order in which it is best done; empty where nothing is. */
export function leftToDo(stack: Stack): string[] {
  const n = (count: number, one: string, many: string): string[] => (count ? [counted(count, one, many)] : []);
  const waiting = stack.entries.filter((e) => e.view.is === 'waiting').length;
  const not = stack.entries.filter((e) => e.view.is === 'not').length;
  const nameless = stack.entries.filter((e) => e.view.is === 'read' && !e.person.trim()).length;
  return [
    ...n(waiting, say('picture to read'), say('pictures to read')),
    ...n(not, say('picture that was not read'), say('pictures that were not read')),
    ...n(doubtsOf(stack).length, say('mark to look at'), say('marks to look at')),
    ...n(nameless, say('sheet without a name'), say('sheets without a name')),
  ];
}

/** The pages, settled. */
export const pagesOf = (stack: Stack): SettledPage[] =>
  stack.entries.flatMap(({ view, person, said }) =>
    view.is === 'read'
      ? [
          {
            print: view.print,
            page: view.page,
            name: person.trim(),
            fields: view.fields.map(({ item, part, given }, at) => ({ item, ...(part !== undefined && { part }), given: said.get(at) ?? given })),
          },
        ]
      : [],
  );
