/** The blanks of a sentence that say how many items of each kind; options of choices beside the first kind that has some. */
import { type Kind, kinds } from '@zakuska/core';
import { Fragment } from 'react';
import { BLANK } from '../ui/blank.js';
import { inSentence, known, say } from '../words/say.js';

interface Props<K extends Kind> {
  /** All that can be asked for, in their order. */
  all: readonly K[];
  counts: Partial<Readonly<Record<K, number>>>;
  /** At most so many of a kind. */
  most: number;
  options: number;
  /** The fewest and the most options. */
  bounds: readonly [number, number];
  onCount: (kind: K, count: number) => void;
  onOptions: (options: number) => void;
}
export function KindCounts<K extends Kind>({ all, counts, most, options, bounds: [few, many], onCount, onOptions }: Props<K>) {
  const shown = all.filter((k) => (counts[k] ?? 0) > 0);
  const others = all.filter((k) => !shown.includes(k));
  const withOptions = shown.findIndex((k) => k.startsWith('multiple'));
  const count = (k: K, n: number): void => onCount(k, Math.min(most, Math.max(0, Math.round(n) || 0)));
  return (
    <>
      {shown.map((k, i) => (
        <Fragment key={k}>
          <input
            type="number"
            min={0}
            max={most}
            aria-label={say('How many: {name}', { name: known(kinds[k].name) })}
            className={`${BLANK} w-14`}
            value={counts[k] ?? 0}
            onChange={(e) => count(k, e.target.valueAsNumber)}
          />{' '}
          {inSentence(known(kinds[k].name))}
          {i === withOptions && (
            <>
              {say(' with ')}
              <input
                type="number"
                min={few}
                max={many}
                aria-label={say('Options of each')}
                className={`${BLANK} w-12`}
                value={options}
                onChange={(e) => onOptions(Math.min(many, Math.max(few, Math.round(e.target.valueAsNumber) || 4)))}
              />
              {say(' options')}
            </>
          )}
          {i < shown.length - 2 ? ', ' : i === shown.length - 2 ? say(' and ') : ' '}
        </Fragment>
      ))}
      {others.length > 0 && (
        <select aria-label={say('Another kind')} className={`${BLANK} w-20`} value="" onChange={(e) => e.target.value && count(e.target.value as K, 2)}>
          <option value="">{shown.length ? say('and …') : say('what?')}</option>
          {others.map((k) => (
            <option key={k} value={k}>
              {known(kinds[k].name)}
            </option>
          ))}
        </select>
      )}
    </>
  );
}
