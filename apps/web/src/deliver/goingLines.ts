/** What goes, item by item, and what would happen to it there. */
import type { Going } from './deliver.worker.js';
import type { Line } from './GoingOut.js';

/** Items by what would happen to them in a container. */
export function linesOf(pieces: readonly Going[], there: { pieces: readonly { key: string; print: string }[] } | undefined): Line[] {
  const sent = new Map(there?.pieces.map((p) => [p.key, p.print]));
  const byItem = new Map<string, Line>();
  for (const p of pieces) {
    const before = sent.get(p.key);
    const state = before === undefined ? 'new' : before === p.print ? 'same' : 'changed';
    const line = byItem.get(p.item);
    // an item that becomes several is as new as the newest of them
    if (!line) byItem.set(p.item, { item: p.item, name: p.name, state, parts: 1 });
    else byItem.set(p.item, { ...line, parts: line.parts + 1, state: line.state === state ? state : line.state === 'same' ? state : line.state });
  }
  return [...byItem.values()];
}
