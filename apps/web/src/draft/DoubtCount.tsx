/** How many doubts a text has, and the way to the next one; nothing where there is none. */
import { Kbd } from '../ui/Button.js';

export function DoubtCount({ count, onNext }: { count: number; onNext: () => void }) {
  if (!count) return null;
  return (
    <>
      {' · '}
      <button type="button" className="link" onClick={onNext}>
        {count} {count === 1 ? 'doubt' : 'doubts'}
      </button>{' '}
      <Kbd>F8</Kbd>
    </>
  );
}
