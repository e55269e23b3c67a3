/** The ways to a draft beside typing and pasting, one press apart. */
import { NavLink } from 'react-router';
import { say } from '../words/say.js';

const WAYS = [
  ['source', say('From a source')],
  ['words', say('From a list of words')],
  ['request', say('With an assistant')],
] as const;

export function Ways({ set }: { set: string }) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
      <h2 className="text-xl font-bold">{say('Draft help')}</h2>
      <nav aria-label={say('Ways to a draft')} className="flex flex-1 flex-wrap gap-x-4">
        {WAYS.map(([path, name]) => (
          <NavLink
            key={path}
            to={`/sets/${set}/draft/${path}`}
            className={({ isActive }) =>
              `border-b-2 py-0.5 ${isActive ? 'border-beet font-semibold text-ink' : 'border-transparent text-beet hover:border-rule'}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <NavLink className="link text-sm" end to={`/sets/${set}/draft`}>
        {say('Back to the draft')}
      </NavLink>
    </div>
  );
}
