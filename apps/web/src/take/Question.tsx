/** One item as a learner meets it: what to read, where to answer, and in practice how it went. */
import type { LearnerItem, PracticeView, Response as Answer } from '@zakuska/core';
import { type ReactNode, useEffect, useId, useRef, useState } from 'react';
import { Boundary } from '../ui/Boundary.js';
import { readAloud } from './aloud.js';
import { answered } from './answered.js';
import { AnswerInput } from './AnswerInput.js';
import { STATES } from './Result.js';
import { Text } from './Text.js';
import type { Step } from './server.js';
import { useSay } from './words/words.js';

interface Props {
  item: LearnerItem;
  /** Which question it is, and of how many; 0 for what is only to be read. */
  number: number;
  of: number;
  /** The language of the quiz. */
  language: string | undefined;
  value: Answer | undefined;
  onChange: (r: Answer) => void;
  /** Times the usual speed of the voice. */
  speed: number;
  /** Whether the learner wants to come back to it; absent where there is no way back. */
  later?: { on: boolean; mark: (on: boolean) => void };
  /** In practice: how it went so far, and what may be done. */
  practice?: { view: PracticeView; step: (s: Step) => Promise<void> };
}

export function Question({ item, number, of, language, value, onChange, speed, later, practice }: Props) {
  const say = useSay();
  const whole = useRef<HTMLDivElement>(null);
  const asked = useId();
  const lang = item.language ?? language;
  return (
    <div ref={whole} {...(lang && { lang })}>
      <p className="place">
        <span>
          {number
            ? `${say('questionOf', { n: number, of })}, ${say('points', { n: item.points })}${item.required ? `, ${say('required')}` : ''}`
            : say('readThis')}
        </span>
        {later && number > 0 && (
          <button type="button" className="quiet" aria-pressed={later.on} onClick={() => later.mark(!later.on)}>
            {later.on && <b aria-hidden>? </b>}
            {say('later')}
          </button>
        )}
        <Aloud of={whole} language={lang} speed={speed} />
      </p>
      <Boundary
        of={item.id}
        fallback={(_, again) => (
          <p className="error" role="alert">
            {say('cannotShow')}{' '}
            <button type="button" onClick={again}>
              {say('tryAgain')}
            </button>
          </p>
        )}
      >
        {item.instructions && <Text className="passage" text={item.instructions} />}
        {item.passage && <Text className="passage" text={item.passage} />}
        <div id={asked}>
          <Text className="stem" text={item.stem} />
        </div>
        {item.wordBank && (
          <p className="place" data-say>
            {say('wordsToUse', { words: item.wordBank.join(', ') })}
          </p>
        )}
        {/* what there is to answer with is one group, called by the question */}
        {number > 0 ? (
          <fieldset className="reply" aria-labelledby={asked}>
            <AnswerInput key={item.id} item={item} value={value} onChange={onChange} disabled={practice?.view.done ?? false} />
          </fieldset>
        ) : (
          <AnswerInput key={item.id} item={item} value={value} onChange={onChange} />
        )}
        {practice && number > 0 && <Practice {...practice} value={value} />}
      </Boundary>
    </div>
  );
}

function Aloud({ of, language, speed }: { of: { current: HTMLDivElement | null }; language: string | undefined; speed: number }): ReactNode {
  const say = useSay();
  const [stop, setStop] = useState<(() => void) | null>(null);
  const stopping = useRef(stop);
  stopping.current = stop;
  useEffect(() => () => stopping.current?.(), []);
  if (!('speechSynthesis' in window)) return null;
  const start = (): void => {
    if (of.current) {
      const end = readAloud(of.current, language, speed, () => setStop(null));
      setStop(() => end);
    }
  };
  return (
    <button type="button" className="quiet" aria-pressed={stop !== null} onClick={stop ?? start}>
      {stop ? say('stopReading') : say('readAloud')}
    </button>
  );
}

function Practice({ view, step, value }: { view: PracticeView; step: (s: Step) => Promise<void>; value: Answer | undefined }) {
  const say = useSay();
  const [busy, setBusy] = useState(false);
  const does = (s: Step): void => {
    setBusy(true);
    void step(s).finally(() => setBusy(false));
  };
  return (
    <div className="practice">
      {view.hints.map((h) => (
        <div key={h} className="hint">
          <b>{say('hint')}</b>
          <Text text={h} />
        </div>
      ))}
      <div role="status">
        {view.state && view.done && <span className={`state ${view.state}`}>{say(STATES[view.state])}</span>}
        {view.state && !view.done && (
          <>
            <span className={`state ${view.state}`}>{view.state === 'partly' ? say('partly') : say('notYet')}</span>{' '}
            {view.left !== undefined && <span>{say('triesLeft', { n: view.left })}</span>}
          </>
        )}
        {view.answer && <div>{say('rightAnswer', { answer: view.answer })}</div>}
        {view.feedback?.map((f) => (
          <Text key={f} className="passage" text={f} />
        ))}
      </div>
      {!view.done && (
        <div className="steps">
          <button type="button" className="primary" disabled={busy || !answered(value)} onClick={() => value && does({ response: value })}>
            {say('check')}
          </button>
          {view.moreHints && (
            <button type="button" disabled={busy} onClick={() => does({ hint: true })}>
              {say('hint')}
            </button>
          )}
          <button type="button" disabled={busy} onClick={() => does({ giveUp: true })}>
            {say('showAnswer')}
          </button>
        </div>
      )}
    </div>
  );
}
