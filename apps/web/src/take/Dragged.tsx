/**
 * Pieces and pairs that are dragged, by mouse or finger. It stands beside what is shown already and takes hold of its rows, so that
 * nothing is drawn anew when it arrives. The keyboard has its buttons and lists.
 */
import { DragDropProvider, useDraggable, useDroppable } from '@dnd-kit/react';
import { useSortable } from '@dnd-kit/react/sortable';
import { useEffect } from 'react';
import { Dragging, onSorted, POINTER_ONLY } from '../ui/Dragging.js';
import { Sign } from './Sign.js';
import { Text } from './Text.js';

interface OrderProps {
  order: readonly string[];
  rows: ReadonlyMap<string, HTMLElement>;
  onMove: (from: number, to: number) => void;
}
export function DraggedOrder({ order, rows, onMove }: OrderProps) {
  return (
    <DragDropProvider {...POINTER_ONLY} onDragEnd={onSorted(onMove)}>
      {order.map((p, i) => (
        <Piece key={p} id={p} index={i} row={rows.get(p)} />
      ))}
    </DragDropProvider>
  );
}
function Piece({ id, index, row }: { id: string; index: number; row: HTMLElement | undefined }) {
  const grip = row?.querySelector('.grip');
  useSortable({ id, index, ...(row && { element: row }), ...(grip && { handle: grip }) });
  return null;
}

interface PairsProps {
  rows: readonly (HTMLElement | null)[];
  rights: readonly string[];
  pairs: readonly (string | null)[];
  onPair: (left: number, right: string) => void;
}
/** What is dragged, and onto which on the left. */
type Right = { right: string };
type Left = { left: number };

export function DraggedPairs({ rows, rights, pairs, onPair }: PairsProps) {
  return (
    <Dragging onDrop={(what, onto) => onPair((onto as Left).left, (what as Right).right)}>
      {rows.map((row, i) => (
        // rows stay as they are while an item is answered
        // oxlint-disable-next-line react/no-array-index-key
        <Onto key={i} left={i} row={row} />
      ))}
      <ul className="rights" aria-hidden>
        {rights.map((r) => (
          <Chip key={r} right={r} used={pairs.includes(r)} />
        ))}
      </ul>
    </Dragging>
  );
}
function Onto({ left, row }: Left & { row: HTMLElement | null }) {
  const { isDropTarget } = useDroppable({ id: `left ${left}`, data: { left } satisfies Left, ...(row && { element: row }) });
  useEffect(() => void row?.classList.toggle('over', isDropTarget), [row, isDropTarget]);
  return null;
}
function Chip({ right, used }: Right & { used: boolean }) {
  const { ref } = useDraggable({ id: `right ${right}`, data: { right } satisfies Right });
  return (
    <li ref={ref} className={used ? 'used' : ''}>
      <Sign of="grip" size={15} />
      <Text text={right} />
    </li>
  );
}
