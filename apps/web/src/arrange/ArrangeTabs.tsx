/** Order and versions: the two sides of Arrange. */
import { NavLink } from 'react-router';
import { useOpenSet } from '../set/context.js';
import { say } from '../words/say.js';

export function ArrangeTabs() {
  const { view, document: doc } = useOpenSet();
  const base = `/sets/${view.id}/arrange`;
  const versions = doc.drawn?.versions.length ?? 0;
  return (
    <nav aria-label={say('Arrange')} className="flex gap-4 border-b border-rule bg-sheet px-4 text-sm sm:px-6">
      {(
        [
          [say('Order'), base, ''],
          [say('Versions'), `${base}/versions`, versions ? say('{versions, plural, one {# version} other {# versions}}', { versions }) : say('none drawn')],
        ] as const
      ).map(([name, to, note]) => (
        <NavLink
          key={name}
          to={to}
          end
          className={({ isActive }) =>
            `min-h-9 border-b-2 py-1.5 ${isActive ? 'border-beet font-[650] text-beet' : 'border-transparent text-ink-2 hover:text-ink'}`
          }
        >
          {name} {note && <small className="font-normal text-ink-2">{note}</small>}
        </NavLink>
      ))}
    </nav>
  );
}
