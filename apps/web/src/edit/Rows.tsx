/** Rows that are put in order by drag or by keyboard: options, pairs, steps, hints. */
import { DragDropProvider } from '@dnd-kit/react';
import { useSortable } from '@dnd-kit/react/sortable';
import { GripVertical, X } from 'lucide-react';
import type { ReactNode } from 'react';
import { onSorted } from '../ui/Dragging.js';

export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const out = list.slice();
  const [one] = out.splice(from, 1);
  if (one !== undefined) out.splice(Math.max(0, Math.min(to, out.length)), 0, one);
  return out;
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
        aria-label={`Drag ${name}`}
        title="Drag, or Alt ↑ ↓ in the text"
        className="mt-0.5 grid size-7 flex-none cursor-grab touch-none place-items-center rounded text-ink-2 hover:bg-beet-soft hover:text-beet"
      >
        <GripVertical size={16} aria-hidden />
      </button>
      {children}
      {onRemove && (
        <IconButton name={`Take out ${name}`} onClick={onRemove}>
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
