/** What goes together: chosen from lists, and dragged there once what drags is there. */
import { useRef } from 'react';
import { plainWords, Text } from './Text.js';
import { useLater } from '../ui/useLater.js';
import { dragging } from './parts.js';

interface Props {
  lefts: readonly string[];
  rights: readonly string[];
  /** For each on the left what it goes with; null where nothing yet. */
  pairs: readonly (string | null)[];
  onPair: (left: number, right: string | null) => void;
  disabled: boolean;
}
export function Pairs({ lefts, rights, pairs, onPair, disabled }: Props) {
  const rows = useRef<(HTMLElement | null)[]>([]);
  const dragged = useLater(dragging, !disabled);
  return (
    <>
      <div className="pairs">
        {lefts.map((left, i) => (
          <label key={left} ref={(row) => void (rows.current[i] = row)}>
            <Text text={left} />
            <select value={pairs[i] ?? ''} disabled={disabled} onChange={(e) => onPair(i, e.target.value || null)}>
              <option value="" />
              {rights.map((r) => (
                <option key={r} value={r}>
                  {plainWords(r)}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
      {dragged && <dragged.DraggedPairs rows={rows.current} rights={rights} pairs={pairs} onPair={onPair} />}
    </>
  );
}
