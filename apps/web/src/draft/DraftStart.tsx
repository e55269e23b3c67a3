/** What stands above an empty draft: the ways to begin. */
import { Link } from 'react-router';
import { Button } from '../ui/Button.js';
import { say } from '../words/say.js';

const SAMPLE = `Sure! Here are three questions on starters:

1. What feeds the yeast in a sourdough starter?
a) salt
b) sugars from the flour *
c) butter

2. True or False: Salt speeds up fermentation.
Answer: False

3. With 500 g flour and 380 g water the hydration is ____ %. [76]

Let me know if you would like more!
`;

export function DraftStart({ set, onSample, onFiles }: { set: string; onSample: (text: string) => void; onFiles: () => void }) {
  return (
    <div className="flex flex-wrap items-center gap-3 border-b border-rule px-4 py-3">
      <p className="max-w-md">{say('Paste the questions as they are, with greetings, numbers, stars and answer lines. Nothing has to be tidied first.')}</p>
      <Button onClick={() => onSample(SAMPLE)}>{say('Try it with a sample')}</Button>
      <Button onClick={onFiles}>{say('Open files')}</Button>
      <span className="flex flex-wrap gap-x-4 text-sm">
        <span>{say('or draft:')}</span>
        <Link className="link" to={`/sets/${set}/draft/source`}>
          {say('from a source')}
        </Link>
        <Link className="link" to={`/sets/${set}/draft/words`}>
          {say('from a list of words')}
        </Link>
        <Link className="link" to={`/sets/${set}/draft/request`}>
          {say('with an assistant')}
        </Link>
      </span>
    </div>
  );
}
