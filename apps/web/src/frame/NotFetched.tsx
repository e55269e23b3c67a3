/** What could not be fetched, with its reason, and the way to try it again. */
import { wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { say } from '../words/say.js';

export function NotFetched({ query, className = '' }: { query: { error: unknown; refetch: () => unknown }; className?: string }) {
  return (
    <p className={`note error ${className}`} role="alert">
      {wordsOf(query.error)}{' '}
      <Button look="quiet" onClick={() => void query.refetch()}>
        {say('Try again')}
      </Button>
    </p>
  );
}
