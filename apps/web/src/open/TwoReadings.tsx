/** A table whose keys can be read in two ways: both side by side, for the person to say which is right. */
import type { Difference } from '@zakuska/core';
import { useId } from 'react';
import { say } from '../words/say.js';

/** Differences that are shown; of the others the number is told. */
const SHOWN = 4;

/**
 * Asks which of two readings is right.
 * @param differs the items that they key differently
 * @param how what each reading takes the key for, in words
 * @param answer the reading that was chosen; null until one is
 */
export function TwoReadings({
  differs,
  how,
  answer,
  onAnswer,
}: {
  differs: readonly Difference[];
  how: readonly [string, string];
  answer: 'first' | 'second' | null;
  onAnswer: (a: 'first' | 'second') => void;
}) {
  const name = useId();
  const more = differs.length - SHOWN;
  return (
    <fieldset className="mb-3 border border-amber bg-sheet p-3">
      <legend className="px-1 font-[650] text-amber">{say('The keys of this table can be read in two ways')}</legend>
      <p className="mb-2">
        {say(
          '{differs, plural, one {One question of the first rows has} other {# questions of the first rows have}} another key when the columns are taken otherwise. Which keys are right?',
          { differs: differs.length },
        )}
      </p>
      <div className="grid gap-3 md:grid-cols-2">
        {(['first', 'second'] as const).map((which, i) => (
          <label
            key={which}
            className={`flex cursor-pointer items-start gap-2 rounded border p-2 ${answer === which ? 'border-beet bg-paper' : 'border-rule'}`}
          >
            <input type="radio" name={name} className="mt-1 accent-beet" checked={answer === which} onChange={() => onAnswer(which)} />
            <span className="min-w-0">
              <b>{how[i]}</b>
              <span className="mt-1 block">
                {differs.slice(0, SHOWN).map((d) => (
                  <span key={d.item} className="mb-1 block">
                    <span className="block truncate text-[13px] text-ink-2" title={d.stem}>
                      {d.stem}
                    </span>
                    <span className="block font-[650]">{which === 'first' ? d.first : d.second}</span>
                  </span>
                ))}
              </span>
              {more > 0 && <span className="text-[13px] text-ink-2">{say('and {more} more', { more })}</span>}
            </span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
