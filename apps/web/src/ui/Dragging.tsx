/**
 * Things that are dragged onto others by the pointer. What the keyboard does instead stands in a menu, so that no line of a table or
 * tree has to be a button as well.
 */
import { Accessibility, PointerSensor } from '@dnd-kit/dom';
import { DragDropProvider, type DragEndEvent } from '@dnd-kit/react';
import { isSortableOperation } from '@dnd-kit/react/sortable';
import type { ComponentProps, ReactNode } from 'react';

/** By the pointer alone, and nothing is said of it: for things that have another way by keyboard. */
export const POINTER_ONLY: Pick<ComponentProps<typeof DragDropProvider>, 'sensors' | 'plugins'> = {
  sensors: [PointerSensor],
  plugins: (usual) => usual.filter((p) => p !== Accessibility),
};

/** What is to be done when a row of a list was let go at another place. */
export const onSorted =
  (onMove: (from: number, to: number) => void) =>
  ({ operation, canceled }: DragEndEvent): void => {
    if (canceled || !isSortableOperation(operation) || !operation.source) return;
    const { initialIndex, index } = operation.source;
    if (initialIndex !== index) onMove(initialIndex, index);
  };

interface Props {
  /** @param what the data of what was dragged; onto that of where it was let go */
  onDrop: (what: unknown, onto: unknown) => void;
  children: ReactNode;
}
export function Dragging({ onDrop, children }: Props) {
  return (
    <DragDropProvider
      {...POINTER_ONLY}
      onDragEnd={({ operation: { source, target }, canceled }) => {
        if (!canceled && source && target) onDrop(source.data, target.data);
      }}
    >
      {children}
    </DragDropProvider>
  );
}
