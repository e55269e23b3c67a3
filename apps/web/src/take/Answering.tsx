/** Answering: one question after the other or all on one page, with the time that is left. Answers are kept on the device at once. */
import type { PracticeView, Response as Answer } from '@zakuska/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { answered } from './answered.js';
import { leftOf, serverNow } from './clock.js';
import type { KeptAttempt } from './kept.js';
import { Languages } from './Languages.js';
import { Looked } from './looked.js';
import { NotYou } from './NotYou.js';
import { Question } from './Question.js';
import { Result } from './Result.js';
import { againWords, type AttemptState, type Clock, errorWords, givenOf, type Keeper, type Outcome, passing, Refused, type Step, untilDone } from './server.js';
import { useSay } from './words/words.js';

/** Milliseconds between two words to the server that the page is there. */
const HERE_EVERY = 20_000;
/** The same while the teacher has paused it: it is to go on for all at once. */
const HERE_PAUSED = 4000;
const KEEP_AFTER = 1200;
/** Milliseconds until what could not be sent is sent again. */
const KEEP_AGAIN = 8000;

interface Props {
  attempt: AttemptState;
  kept: KeptAttempt;
  keeper: Keeper;
  /** Keeps the answers on this device. */
  remember: (kept: KeptAttempt) => void;
  /** Times the usual speed of the voice. */
  speed: number;
  /** Goes on in another language; absent where there is no choice. */
  change?: (language: string, now: KeptAttempt) => Promise<void>;
  /** Makes room for another person at this device; absent where there is nobody to make room for. */
  leave?: (unsent: boolean) => void;
  /** What may be seen by now of what was handed in. */
  again?: () => Promise<Outcome | undefined>;
}

export function Answering({ attempt, kept, keeper, remember, speed, change, leave, again }: Props) {
  const say = useSay();
  const { items } = attempt;
  const [responses, setResponses] = useState<Record<string, Answer>>(() => ({ ...attempt.responses, ...kept.responses }));
  const [progress, setProgress] = useState(attempt.practice);
  const [place, setPlace] = useState(() => (attempt.back ? kept.place : Math.max(kept.place, attempt.place)));
  const [later, setLater] = useState<readonly string[]>(() => kept.later ?? []);
  const [answeredAt, setAnsweredAt] = useState(kept.answeredAt);
  const [outcome, setOutcome] = useState<Outcome | null>(attempt.outcome ?? null);
  const [due, setDue] = useState(attempt.due);
  const [itemDue, setItemDue] = useState(() => (place === attempt.place && attempt.itemDue) || itemEnd(attempt, place));
  const [paused, setPaused] = useState(attempt.paused === true);
  const [said, setSaid] = useState('');
  const [sending, setSending] = useState(false);
  const heading = useRef<HTMLDivElement>(null);
  // answers that the server has are not sent again; those that were given without a connection are
  const first = useRef(Object.entries(kept.responses).every(([id, r]) => JSON.stringify(attempt.responses[id]) === JSON.stringify(r)));
  const [tries, setTries] = useState(0);
  const at = useRef(place);
  at.current = place;
  const latest = useRef(remember);
  latest.current = remember;
  const onOnePage = attempt.pages === 'all';
  const looked = useRef<Looked>(null);
  looked.current ??= new Looked({ ...attempt.times, ...kept.times });
  // on a page with all of them, the time until an answer is the time of its item
  const inSight = onOnePage ? undefined : items[place]?.id;
  const asKept = (): KeptAttempt => {
    if (!onOnePage) looked.current?.was(inSight);
    return { ...kept, responses, place, later: [...later], ...(answeredAt && { answeredAt }), ...(looked.current && { times: looked.current.seconds }) };
  };
  useEffect(() => {
    const seen = (): void => looked.current?.was(document.hidden ? inSight : undefined);
    document.addEventListener('visibilitychange', seen);
    return () => document.removeEventListener('visibilitychange', seen);
  }, [inSight]);
  const heard = (c: Clock | null): void => {
    if (!c) return;
    setDue(c.due);
    if (c.itemDue && c.place === at.current) setItemDue(c.itemDue);
    setPaused(c.paused === true);
  };

  useEffect(() => {
    if (outcome) return;
    latest.current(asKept());
    if (first.current) {
      first.current = false;
      return;
    }
    let retry: ReturnType<typeof setTimeout> | undefined;
    const timer = setTimeout(() => {
      keeper.keep(kept.id, kept.token, givenOf(asKept())).then(
        (c) => {
          heard(c);
          setSaid(say(keeper.keptNote));
        },
        (e: unknown) => {
          setSaid(passing(e) ? say('notSent') : errorWords(e, say));
          if (passing(e)) retry = setTimeout(() => setTries((n) => n + 1), KEEP_AGAIN);
        },
      );
    }, KEEP_AFTER);
    return () => {
      clearTimeout(timer);
      clearTimeout(retry);
    };
    // what else it uses does not change within an attempt, or is the same answers
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [responses, place, outcome, kept, keeper, tries]);

  useEffect(() => {
    if (outcome || !keeper.here) return;
    const { here } = keeper;
    const timer = setInterval(() => void here(kept.id, kept.token, place).then(heard, () => undefined), paused ? HERE_PAUSED : HERE_EVERY);
    return () => clearInterval(timer);
  }, [outcome, keeper, kept.id, kept.token, place, paused]);

  const go = (to: number): void => {
    looked.current?.was(inSight);
    setPlace(to);
    setItemDue(itemEnd(attempt, to));
    scrollTo(0, 0);
    requestAnimationFrame(() => heading.current?.focus({ preventScroll: true }));
  };
  /** Marked questions are of this device: nothing of it is sent. */
  const markLater = (id: string, on: boolean): void => {
    const marked = on ? [...later, id] : later.filter((x) => x !== id);
    setLater(marked);
    latest.current({ ...asKept(), later: marked });
  };
  const answer = (id: string, r: Answer): void => {
    if (onOnePage) looked.current?.was(id);
    setResponses((all) => ({ ...all, [id]: r }));
    setAnsweredAt(new Date(serverNow()).toISOString());
  };
  const submit = async (): Promise<void> => {
    setSending(true);
    setSaid(say('handingIn'));
    try {
      setOutcome(
        await untilDone(
          () => keeper.submit(kept.id, kept.token, givenOf(asKept())),
          (e, n) => setSaid(againWords(say, e, n)),
        ),
      );
      scrollTo(0, 0);
    } catch (e) {
      setSaid(errorWords(e, say));
      const at = e instanceof Refused ? items.findIndex((i) => i.id === e.more.item) : -1;
      if (at >= 0) setPlace(at);
    }
    setSending(false);
  };
  const handIn = useRef(submit);
  handIn.current = submit;
  const timeOver = useCallback(() => void handIn.current(), []);
  const goOn = useRef(go);
  goOn.current = go;
  const itemOver = useCallback(() => goOn.current(at.current + 1), []);
  const step = async (id: string, s: Step): Promise<void> => {
    try {
      const view = await keeper.step?.(kept.id, kept.token, id, s, kept.language);
      if (view) setProgress((all) => ({ ...all, [id]: view }));
      setSaid('');
    } catch (e) {
      setSaid(errorWords(e, say));
    }
  };

  if (outcome) return <Result attempt={attempt} outcome={outcome} leave={leave} again={again} />;
  if (paused)
    return (
      <main className="page">
        <h1 className="top">
          {attempt.title} · {attempt.name}
        </h1>
        <p className="stem" role="alert">
          {say('paused')}
        </p>
      </main>
    );
  const questions = items.filter((i) => i.kind !== 'information');
  const open = questions.filter((i) => !(progress?.[i.id]?.done ?? answered(responses[i.id])));
  const needed = open.filter((i) => i.required);
  const item = items[place];
  const atEnd = onOnePage ? place > 0 : !item;
  const practising = (id: string): { practice?: { view: PracticeView; step: (s: Step) => Promise<void> } } => {
    const view = progress?.[id];
    return view && keeper.step ? { practice: { view, step: (s) => step(id, s) } } : {};
  };
  const shown = (i: (typeof items)[number]) => (
    <Question
      key={i.id}
      item={i}
      number={questions.indexOf(i) + 1}
      of={questions.length}
      language={attempt.language}
      value={responses[i.id]}
      onChange={(r) => answer(i.id, r)}
      speed={speed}
      {...((attempt.back || onOnePage) && { later: { on: later.includes(i.id), mark: (on) => markLater(i.id, on) } })}
      {...practising(i.id)}
    />
  );
  return (
    <>
      <main className="page">
        <div className="top">
          <h1>
            {attempt.title} · {attempt.name}
          </h1>
          {/* without a name nobody would find again what was answered */}
          <NotYou name={attempt.name} unsent leave={attempt.named ? leave : undefined} />
        </div>
        {change && attempt.languages && (
          <Languages
            languages={attempt.languages}
            value={kept.language ?? attempt.languages[0] ?? ''}
            onChoose={(to) => void change(to === attempt.languages?.[0] ? '' : to, asKept()).catch((e: unknown) => setSaid(errorWords(e, say)))}
          />
        )}
        {due && <TimeLeft due={due} over={timeOver} words="timeLeft" />}
        {itemDue && !atEnd && <TimeLeft key={place} due={itemDue} over={itemOver} words="itemTimeLeft" />}
        {!onOnePage && (
          <div className="bar" aria-hidden>
            {items.map((i, n) => (
              <i key={i.id} className={`${open.includes(i) ? '' : 'done'} ${later.includes(i.id) ? 'later' : ''} ${n === place ? 'here' : ''}`} />
            ))}
          </div>
        )}
        <div ref={heading} tabIndex={-1} style={{ outline: 'none' }} className={onOnePage && !atEnd ? 'one-page' : ''}>
          {atEnd ? (
            <>
              <p className="stem">{open.length ? say('unanswered', { n: open.length }) : say('allAnswered')}</p>
              {needed.length > 0 && (
                <p className="error" role="alert">
                  {say('requiredOpen', { n: needed.length })} {attempt.holdsRequired && say('requiredFirst')}
                </p>
              )}
              {attempt.back && (
                <ol className="list overview">
                  {questions.map((q, n) => (
                    <li key={q.id}>
                      <button type="button" onClick={() => (onOnePage ? backTo(q.id, () => setPlace(0)) : go(items.indexOf(q)))}>
                        {say('question', { n: n + 1 })}
                        {q.required && ` (${say('required')})`}
                      </button>
                      <span className={open.includes(q) ? 'state unanswered' : 'state'}>{say(open.includes(q) ? 'noAnswer' : 'isAnswered')}</span>
                      {later.includes(q.id) && (
                        <span className="state partly">
                          <b aria-hidden>? </b>
                          {say('toLookAgain')}
                        </span>
                      )}
                    </li>
                  ))}
                </ol>
              )}
            </>
          ) : onOnePage ? (
            items.map((i) => (
              <section key={i.id} id={`q-${i.id}`}>
                {shown(i)}
              </section>
            ))
          ) : (
            item && shown(item)
          )}
        </div>
      </main>
      <div className="act">
        {(attempt.back || onOnePage) && (
          <button type="button" disabled={place === 0 || sending} onClick={() => go(onOnePage ? 0 : place - 1)}>
            {say('back')}
          </button>
        )}
        <span role="status">{said || say(keeper.note)}</span>
        {atEnd ? (
          <button type="button" className="primary" disabled={sending || (attempt.holdsRequired === true && needed.length > 0)} onClick={() => void submit()}>
            {say('handIn')}
          </button>
        ) : (
          <button type="button" className="primary" onClick={() => go(onOnePage ? items.length : place + 1)}>
            {say('next')}
          </button>
        )}
      </div>
    </>
  );
}

/** When the time ends for an item that is begun now. */
const itemEnd = ({ items, itemTimes }: AttemptState, place: number): string | undefined => {
  const seconds = itemTimes?.[items[place]?.id ?? ''];
  return seconds === undefined ? undefined : new Date(serverNow() + seconds * 1000).toISOString();
};

/** Back to a question of a page that holds all. */
function backTo(id: string, show: () => void): void {
  show();
  requestAnimationFrame(() => document.getElementById(`q-${id}`)?.scrollIntoView({ block: 'start' }));
}

/** The time that is left; the last minute is said aloud to who cannot see it. */
function TimeLeft({ due, over, words }: { due: string; over: () => void; words: 'timeLeft' | 'itemTimeLeft' }) {
  const say = useSay();
  const end = Date.parse(due);
  const [left, setLeft] = useState(() => end - serverNow());
  useEffect(() => {
    setLeft(end - serverNow());
    const timer = setInterval(() => setLeft(end - serverNow()), 500);
    return () => clearInterval(timer);
  }, [end]);
  const done = left <= 0;
  useEffect(() => {
    if (done) over();
  }, [done, over]);
  const soon = left < 60_000;
  // every second for the eye, every ten for the ear, and then only in the last minute
  return (
    <p className={`time ${soon ? 'soon' : ''}`}>
      <span aria-hidden>{done ? say('timeOver') : say(words, { time: leftOf(left) })}</span>
      <span className="unseen" role={soon ? 'alert' : 'timer'}>
        {done ? say('timeOver') : say(words, { time: leftOf(soon ? Math.ceil(left / 10_000) * 10_000 : Math.ceil(left / 60_000) * 60_000) })}
      </span>
    </p>
  );
}
