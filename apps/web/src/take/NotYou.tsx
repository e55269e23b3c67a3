/** On a shared computer: who sits here now is somebody else. */
import { useState } from 'react';
import { useSay } from './words/words.js';

export function NotYou({ name, unsent, leave }: { name: string; unsent: boolean; leave?: ((unsent: boolean) => void) | undefined }) {
  const say = useSay();
  const [asked, setAsked] = useState(false);
  if (!leave) return null;
  if (!asked)
    return (
      <button type="button" className="quiet" onClick={() => setAsked(true)}>
        {say('notYou', { name })}
      </button>
    );
  return (
    <span className="ask" role="alert">
      {unsent ? say('staysHere', { name }) : say('hasHandedIn', { name })}{' '}
      <button type="button" className="quiet" onClick={() => leave(unsent)}>
        {say('startAnew')}
      </button>
      <button type="button" className="quiet" onClick={() => setAsked(false)}>
        {say('stay')}
      </button>
    </span>
  );
}
