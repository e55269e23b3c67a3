/** One item of a version exchanged by hand: what may come instead, those that break a rule said so. */
import { type Drawn, type Exchange, exchanged, exchangesFor, nameOf, type PoolItem } from '@zakuska/core';
import { useMemo } from 'react';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

interface Props {
  pool: readonly PoolItem[];
  drawn: Drawn;
  at: number;
  id: string;
  onClose: () => void;
  onExchanged: (drawn: Drawn) => void;
}

export function ExchangeDialog({ pool, drawn, at, id, onClose, onExchanged }: Props) {
  const offers = useMemo(() => exchangesFor(pool, drawn, at, id), [pool, drawn, at, id]);
  const item = pool.find((p) => p.item.id === id)?.item;
  const good = offers.filter((o) => !o.breaks.length);
  const bad = offers.filter((o) => o.breaks.length);
  const list = (all: readonly Exchange[]) => (
    <ul className="grid gap-px">
      {all.map((o) => (
        <li key={o.id}>
          <button
            type="button"
            className="min-h-8 w-full cursor-pointer rounded px-2 py-1.5 text-left hover:bg-beet-soft"
            onClick={() => onExchanged(exchanged(drawn, at, id, o.id))}
          >
            {o.name}
            {o.breaks.length > 0 && <small className="block text-amber">{o.breaks.join('; ')}</small>}
          </button>
        </li>
      ))}
    </ul>
  );
  return (
    <Modal
      open
      onClose={onClose}
      title={say('Exchange in version {name}', { name: drawn.versions[at]?.name ?? '' })}
      description={item ? say('“{name}” goes out. What comes in?', { name: nameOf(item, 120) }) : ''}
    >
      <div className="grid max-h-[60vh] gap-3 overflow-auto text-sm" tabIndex={0}>
        {good.length > 0 ? list(good) : <p className="text-ink-2">{say('Nothing of the pool fits without breaking a rule.')}</p>}
        {bad.length > 0 && (
          <details open={good.length === 0}>
            <summary className="min-h-6 cursor-pointer py-0.5 font-semibold">{say('{bad} that break a rule', { bad: bad.length })}</summary>
            {list(bad)}
          </details>
        )}
      </div>
    </Modal>
  );
}
