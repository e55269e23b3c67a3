/** How many doubts a text has, and the way to the next one; nothing where there is none. */
import { counted } from '@zakuska/core';
import { Kbd } from '../ui/Button.js';

export function DoubtCount({ count, onNext }: { count: number; onNext: () => void }) {
  if (!count) return null;
  return (
    <>
      {' · '}
      <button type="button" className="link" onClick={onNext}>
        {counted(count, 'doubt')}
      </button>{' '}
      <Kbd>F8</Kbd>
    </>
  );
}
