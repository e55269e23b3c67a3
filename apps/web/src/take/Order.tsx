/** Pieces that are put in order: by buttons, and dragged once what drags is there. */
import { useRef } from 'react';
import { Sign } from './Sign.js';
import { plainWords, Text } from './Text.js';
import { useLater } from '../ui/useLater.js';
import { dragging } from './parts.js';
import { useSay } from './words/words.js';

interface Props {
  order: readonly string[];
  onMove: (from: number, to: number) => void;
  disabled: boolean;
}
export function Order({ order, onMove, disabled }: Props) {
  const say = useSay();
  const rows = useRef(new Map<string, HTMLElement>());
  const dragged = useLater(dragging, !disabled);
  return (
    <>
      <ol className="order">
        {order.map((p, i) => (
          <li
            key={p}
            ref={(row) => {
              if (row) rows.current.set(p, row);
              else rows.current.delete(p);
            }}
          >
            {!disabled && (
              <span className="grip">
                <Sign of="grip" />
              </span>
            )}
            <Text text={p} />
            <button type="button" aria-label={say('moveUp', { piece: plainWords(p) })} disabled={disabled || i === 0} onClick={() => onMove(i, i - 1)}>
              <Sign of="up" />
            </button>
            <button
              type="button"
              aria-label={say('moveDown', { piece: plainWords(p) })}
              disabled={disabled || i === order.length - 1}
              onClick={() => onMove(i, i + 1)}
            >
              <Sign of="down" />
            </button>
          </li>
        ))}
      </ol>
      {dragged && <dragged.DraggedOrder order={order} rows={rows.current} onMove={onMove} />}
    </>
  );
}
