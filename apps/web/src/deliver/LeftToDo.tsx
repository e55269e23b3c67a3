/** What is still to be done before anything goes out, with the way there. */
import { type Item, leftToDo, type QuizSet, type SetDocument } from '@zakuska/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { say } from '../words/say.js';

/** So many numbers stand in one line. */
const MOST = 20;

export function LeftToDo({ set, reviews, at }: { set: QuizSet; reviews: SetDocument['reviews']; at: string }) {
  const { items } = set;
  const left = useMemo(() => leftToDo(items, reviews), [items, reviews]);
  const lines: [string, readonly Item[], string][] = [
    [say('{withoutKey, plural, one {# item} other {# items}} without a key', { withoutKey: left.withoutKey.length }), left.withoutKey, 'text-brick'],
    [say('{notChecked, plural, one {# item} other {# items}} not checked yet', { notChecked: left.notChecked.length }), left.notChecked, 'text-amber'],
    [
      say('{pictures, plural, one {# item} other {# items}} with a picture that nobody described', { pictures: left.pictures.length }),
      left.pictures,
      'text-amber',
    ],
  ];
  const shown = lines.filter(([, list]) => list.length);
  if (!shown.length) return null;
  return (
    <section aria-label={say('Before it goes')} className="my-2 rounded-md border border-rule bg-paper px-3 py-2 text-[13.5px]">
      <ul className="grid gap-1">
        {shown.map(([words, list, look]) => (
          <li key={words}>
            <b className={`font-[650] ${look}`}>{words}:</b>{' '}
            {list.slice(0, MOST).map((i, n) => (
              <span key={i.id}>
                {n > 0 && ', '}
                <Link
                  className="link"
                  to={`${at}?item=${encodeURIComponent(i.id)}`}
                  aria-label={say('Item {label} in Check', { label: i.label ?? items.indexOf(i) + 1 })}
                >
                  {i.label ?? items.indexOf(i) + 1}
                </Link>
              </span>
            ))}
            {list.length > MOST && say(' and {n} more', { n: list.length - MOST })}
          </li>
        ))}
      </ul>
    </section>
  );
}
