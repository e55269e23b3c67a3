/**
 * Things that are dragged onto others by the pointer. What the keyboard does instead stands in a menu, so that no line of a table or
 * tree has to be a button as well.
 */
import { Accessibility, PointerSensor } from '@dnd-kit/dom';
import { DragDropProvider } from '@dnd-kit/react';
import type { ReactNode } from 'react';

interface Props {
  /** @param what the data of what was dragged; onto that of where it was let go */
  onDrop: (what: unknown, onto: unknown) => void;
  children: ReactNode;
}
export function Dragging({ onDrop, children }: Props) {
  return (
    <DragDropProvider
      sensors={[PointerSensor]}
      plugins={(usual) => usual.filter((p) => p !== Accessibility)}
      onDragEnd={({ operation: { source, target }, canceled }) => {
        if (!canceled && source && target) onDrop(source.data, target.data);
      }}
    >
      {children}
    </DragDropProvider>
  );
}
