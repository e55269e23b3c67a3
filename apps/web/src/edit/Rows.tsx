/** Rows that are put in order by drag or by keyboard: options, pairs, steps, hints. */
import { DragDropProvider } from '@dnd-kit/react';
import { useSortable } from '@dnd-kit/react/sortable';
import { GripVertical, X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { onSorted } from '../ui/Dragging.js';
import { say } from '../words/say.js';

export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const out = list.slice();
  const [one] = out.splice(from, 1);
  if (one !== undefined) out.splice(Math.max(0, Math.min(to, out.length)), 0, one);
  return out;
}

/** Goes from a row to the next one where nothing stands in that yet. @returns whether there was one */
export function toEmptyRow(): boolean {
  const next = document.activeElement?.closest('li')?.nextElementSibling?.querySelector<HTMLElement>('[role=textbox]');
  if (!next || next.textContent?.trim() || next.querySelector('img')) return false;
  next.focus();
  return true;
}

let made = 0;
const newKeys = (count: number): number[] => Array.from({ length: count }, () => made++);
/**
 * Keys of rows whose texts have no ids: a row that is made between others is a new one, and the others stay what they are.
 * @param count how many rows there are, whoever made them
 */
export function useRowKeys(count: number): {
  keys: readonly number[];
  insert: (at: number) => number;
  remove: (at: number) => void;
  move: (from: number, to: number) => void;
} {
  const [known, setKnown] = useState(() => newKeys(count));
  // rows may come and go by undo, or by a colleague
  const keys = known.length === count ? known : [...known.slice(0, count), ...newKeys(count - known.length)];
  if (keys !== known) setKnown(keys);
  return {
    keys,
    insert(at) {
      const [key = 0] = newKeys(1);
      setKnown([...keys.slice(0, at), key, ...keys.slice(at)]);
      return key;
    },
    remove: (at) => setKnown(keys.filter((_, i) => i !== at)),
    move: (from, to) => setKnown(moved(keys, from, to)),
  };
}

export function Rows({ onMove, children }: { onMove: (from: number, to: number) => void; children: ReactNode }) {
  return (
    <DragDropProvider onDragEnd={onSorted(onMove)}>
      <ul className="grid gap-1.5">{children}</ul>
    </DragDropProvider>
  );
}

export function Row({
  id,
  index,
  name,
  onRemove,
  children,
}: {
  id: string;
  index: number;
  name: string;
  onRemove?: (() => void) | undefined;
  children: ReactNode;
}) {
  const { ref, handleRef, isDragging } = useSortable({ id, index });
  return (
    <li ref={ref} className={`flex items-start gap-1.5 rounded ${isDragging ? 'bg-beet-soft' : ''}`}>
      <button
        ref={handleRef}
        type="button"
        aria-label={say('Drag {name}', { name })}
        title={say('Drag, or Alt ↑ ↓ in the text')}
        className="mt-0.5 grid size-7 flex-none cursor-grab touch-none place-items-center rounded text-ink-2 hover:bg-beet-soft hover:text-beet"
      >
        <GripVertical size={16} aria-hidden />
      </button>
      {children}
      {onRemove && (
        <IconButton name={say('Take out {name}', { name })} onClick={onRemove}>
          <X size={15} aria-hidden />
        </IconButton>
      )}
    </li>
  );
}

export const IconButton = ({ name, onClick, on, children }: { name: string; onClick: () => void; on?: boolean; children: ReactNode }) => (
  <button
    type="button"
    aria-label={name}
    title={name}
    aria-pressed={on}
    onClick={onClick}
    className={`mt-0.5 grid size-7 flex-none cursor-pointer place-items-center rounded hover:bg-beet-soft hover:text-beet ${on ? 'text-beet' : 'text-ink-2'}`}
  >
    {children}
  </button>
);
