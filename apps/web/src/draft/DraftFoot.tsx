/** The foot of Draft: how much was read, and the ways on. */
import type { Item } from '@zakuska/core';
import type { ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { Foot } from '../frame/Frame.js';
import { Button } from '../ui/Button.js';
import { say } from '../words/say.js';
import { DoubtCount } from './DoubtCount.js';
import type { Lines } from './useDraftEditor.js';

interface DraftFootProps {
  set: string;
  items: readonly Item[];
  /** How many of them have a key. */
  keyed: number;
  /** How many lines were set aside; undefined while nothing was read. */
  asides: number | undefined;
  doubts: number;
  busy: boolean;
  /** What went wrong, if something did. */
  failed: ReactNode;
  mayEdit: boolean;
  /** Whether all that was typed has been read. */
  current: boolean;
  selected: Lines;
  /** How many fixes are safe to be applied all at once. */
  safe: number;
  /** How many sources the set has. */
  sources: number;
  sourceShown: boolean;
  onSource: (shown: boolean) => void;
  onNextDoubt: () => void;
  onGuide: () => void;
  onShow: (lines: Lines) => void;
  onFixAll: () => void;
  onTake: () => void;
}

export function DraftFoot(p: DraftFootProps) {
  const navigate = useNavigate();
  const { items, keyed, busy, failed, mayEdit, safe, selected } = p;
  const options = items.reduce((n, i) => n + ('options' in i ? i.options.length : 0), 0);
  return (
    <Foot>
      <span role="status" className="min-w-0 flex-1 max-lg:basis-full">
        {failed ||
          (busy
            ? say('Reading …')
            : p.asides === undefined
              ? say('Nothing to read yet')
              : say(
                  '{items, plural, one {# question} other {# questions}} · {options, plural, one {# option} other {# options}} · {keyed, plural, one {# key} other {# keys}} · {asides, plural, one {# line} other {# lines}} set aside',
                  { items: items.length, options, keyed, asides: p.asides },
                ))}
        {!busy && !failed && <DoubtCount count={p.doubts} onNext={p.onNextDoubt} />}
        {!busy && !failed && mayEdit && p.doubts > 0 && (
          <Link className="link ml-3 inline-block" to={`/sets/${p.set}/draft/notation`}>
            {say('Have it put into the notation')}
          </Link>
        )}
      </span>
      <Button look="quiet" aria-pressed={p.sourceShown} onClick={() => p.onSource(!p.sourceShown)}>
        {say('Sources{what}', { what: p.sources ? ` (${p.sources})` : '' })}
      </Button>
      {mayEdit && (
        <Button look="quiet" onClick={() => void navigate(`/sets/${p.set}/draft/${p.sources ? 'source' : 'request'}`)}>
          {say('Draft help')}
        </Button>
      )}
      <Button look="quiet" onClick={p.onGuide}>
        {say('Notation')}
      </Button>
      {mayEdit && selected[1] > selected[0] && (
        <Button onClick={() => p.onShow(selected)}>{say('Show what these {n} lines are', { n: selected[1] - selected[0] + 1 })}</Button>
      )}
      {mayEdit && safe > 0 && <Button onClick={p.onFixAll}>{say('Apply {safe} safe {safe, plural, one {fix} other {fixes}}', { safe })}</Button>}
      {mayEdit && (
        <Button look="primary" keys="Ctrl Enter" disabled={!items.length || !p.current} onClick={p.onTake}>
          {say('Take {items, plural, one {# item} other {# items}} to Check', { items: items.length })}
        </Button>
      )}
    </Foot>
  );
}
