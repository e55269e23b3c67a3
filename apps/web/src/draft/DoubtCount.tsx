/** How many doubts a text has, and the way to the next one; nothing where there is none. */
import { Kbd } from '../ui/Button.js';
import { say } from '../words/say.js';

export function DoubtCount({ count, onNext }: { count: number; onNext: () => void }) {
  if (!count) return null;
  return (
    <>
      {' · '}
      <button type="button" className="link" onClick={onNext}>
        {say('{count, plural, one {# doubt} other {# doubts}}', { count })}
      </button>{' '}
      <Kbd>F8</Kbd>
    </>
  );
}
