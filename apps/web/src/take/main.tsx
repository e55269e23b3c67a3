/** Learners' pages: enter by code, answer, hand in. Answers are kept on the device; what the page says is in the language of the quiz. */
import { StrictMode, useCallback, useEffect, useMemo, useState } from 'react';
import { createRoot } from 'react-dom/client';
import { Boundary } from '../ui/Boundary.js';
import { Aids, loadReading, putReading, type Reading, show } from './Aids.js';
import { Answering } from './Answering.js';
import { type Beginning, Enter, Start } from './Entering.js';
import { device, keepQuestions, type KeptAttempt, type Launch, launchOf, load, newUuid, putAside, questionsOf, random, store, takeUp } from './kept.js';
import { previewed } from './preview.js';
import { againWords, type AttemptState, errorWords, givenOf, type Outcome, Refused, server, untilDone, type Welcome } from './server.js';
import { en } from './words/en.js';
import { type Page, PageContext, pageLanguage, useSay, wordsIn } from './words/words.js';
import './take.css';

/** Milliseconds between looks whether a quiz has opened. */
const LOOK_AGAIN = 10_000;

/** What a part of the page needs of the whole. */
interface Whole {
  page: Page;
  reading: Reading;
  /** The page shows a quiz of this language. */
  quizIn: (language: string | undefined) => void;
}

function Quiz({ code, launch, page, reading, quizIn }: { code: string; launch: Launch | undefined } & Whole) {
  const say = useSay();
  const [welcome, setWelcome] = useState<Welcome | null>(null);
  const [attempt, setAttempt] = useState<AttemptState | null>(null);
  const [kept, setKept] = useState<KeptAttempt | null>(() => (launch?.fresh ? null : load(code)));
  const [error, setError] = useState('');
  const [busy, setBusy] = useState(false);
  const waits = !attempt && welcome?.phase === 'before';
  useEffect(() => void (attempt && keepQuestions(code, attempt)), [code, attempt]);
  useEffect(() => quizIn(attempt?.language ?? welcome?.language), [attempt, welcome, quizIn]);
  useEffect(() => {
    let here = true;
    const said = (why: string): void => void (here && setError(why));
    const open = async (): Promise<void> => {
      try {
        if (kept) {
          const a = await untilDone(
            () => server.attempt(kept.id, kept.token, kept.language),
            (e, n) => {
              said(againWords(say, e, n));
              // without a connection it goes on with what is here
              if (here && e.status === 0) setAttempt((now) => now ?? questionsOf(code, kept.id));
            },
          );
          if (here) setAttempt(a);
        } else {
          const w = await untilDone(
            () => server.welcome(code, launch?.token),
            (e, n) => said(againWords(say, e, n)),
          );
          if (here) setWelcome(w);
        }
        said('');
      } catch (e) {
        if (e instanceof Refused && e.status === 404 && kept) {
          store(code, null);
          setKept(null);
        } else said(errorWords(e, say));
      }
    };
    void open();
    const timer = waits ? setInterval(() => void open(), LOOK_AGAIN) : undefined;
    return () => {
      here = false;
      clearInterval(timer);
    };
    // what the page says does not ask the server again
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [code, kept, launch, waits]);
  const begin = async ({ who, name, language }: Beginning): Promise<void> => {
    const left = launch || welcome?.learner ? null : takeUp(code, name);
    if (left) return setKept(left);
    const inIt = language || undefined;
    const fresh: KeptAttempt = { id: newUuid(), token: random(24), responses: {}, place: 0, ...(inIt && { language: inIt }) };
    setBusy(true);
    try {
      const a = await untilDone(
        () => server.begin(code, fresh.id, fresh.token, launch ? { launch: launch.token } : who, device(), inIt),
        (e, n) => setError(againWords(say, e, n)),
      );
      // who is known may go on with what was begun, here or on another device
      const before = load(code);
      const now: KeptAttempt = before?.id === a.id ? { ...before, token: fresh.token } : { ...fresh, id: a.id };
      if (now.language !== inIt) await change(language, now);
      else {
        store(code, now);
        setKept(now);
        setAttempt(a);
      }
      setError('');
    } catch (x) {
      setError(errorWords(x, say));
    }
    setBusy(false);
  };
  /** The next person at this device starts clean; what this one has not handed in stays for them. */
  const leave = (unsent: boolean): void => {
    if (kept && attempt && unsent) {
      void server.keep(kept.id, kept.token, givenOf(load(code) ?? kept)).catch(() => undefined);
      putAside(code, attempt.name);
    } else store(code, null);
    setKept(null);
    setAttempt(null);
    setWelcome(null);
    setError('');
  };
  /** The same attempt in another language: the server says what was answered so far in its words. */
  const change = async (to: string, now: KeptAttempt): Promise<void> => {
    await server.keep(now.id, now.token, givenOf(now));
    const a = await server.attempt(now.id, now.token, to || undefined);
    const { language: _, ...rest } = now;
    const next: KeptAttempt = { ...rest, responses: a.responses, ...(to && { language: to }) };
    store(code, next);
    setKept(next);
    setAttempt(a);
  };
  const again = useCallback(
    async (): Promise<Outcome | undefined> => (kept ? (await server.attempt(kept.id, kept.token, kept.language)).outcome : undefined),
    [kept],
  );
  if (attempt && kept)
    return (
      <Answering
        key={`${attempt.id} ${kept.language ?? ''}`}
        attempt={attempt}
        kept={kept}
        keeper={server}
        remember={(k) => store(code, k)}
        speed={reading.speed}
        change={change}
        again={again}
        {...(!launch && !welcome?.learner && { leave })}
      />
    );
  if (welcome) return <Start welcome={welcome} page={page} error={error} busy={busy} begin={(b) => void begin(b)} quizIn={quizIn} />;
  return (
    <main className="page">
      {error ? (
        <>
          <h1>{say('doesNotWork')}</h1>
          <p className="error" role="alert">
            {error}
          </p>
          <p>
            <a href="/t">{say('anotherCode')}</a>
          </p>
        </>
      ) : (
        <p role="status">{say('opening')}</p>
      )}
    </main>
  );
}

/** Where even the page cannot be shown: the answers are on the device, and can be handed in from here. */
function Rescue({ code }: { code: string }) {
  const say = useSay();
  const kept = load(code);
  const [said, setSaid] = useState('');
  const submit = (): void => {
    if (!kept) return;
    setSaid(say('handingIn'));
    untilDone(
      () => server.submit(kept.id, kept.token, givenOf(kept)),
      (e, n) => setSaid(againWords(say, e, n)),
    ).then(
      () => setSaid(say('arrived')),
      (e: unknown) => setSaid(errorWords(e, say)),
    );
  };
  return (
    <main className="page">
      <h1>{say('pageFails')}</h1>
      <p role="status">{said || (kept ? say('answersKept', { n: Object.keys(kept.responses).length }) : say('nothingLost'))}</p>
      <p>
        <button type="button" onClick={() => location.reload()}>
          {say('loadAgain')}
        </button>{' '}
        {kept && (
          <button type="button" className="primary" onClick={submit}>
            {say('handInThese')}
          </button>
        )}
      </p>
    </main>
  );
}

/** What learners will see, inside the teacher's page: nothing is kept, sent or counted. */
function Preview({ reading, quizIn }: Whole) {
  const say = useSay();
  const [shown, setShown] = useState<Awaited<ReturnType<typeof previewed>> | null>(null);
  useEffect(() => void previewed().then(setShown), []);
  useEffect(() => quizIn(shown?.attempt.language), [shown, quizIn]);
  if (!shown) return <p role="status">{say('opening')}</p>;
  return (
    <Answering
      attempt={shown.attempt}
      kept={{ id: '', token: '', responses: {}, place: shown.place }}
      keeper={shown}
      remember={() => undefined}
      speed={reading.speed}
    />
  );
}

const code = decodeURIComponent(location.pathname.split('/')[2] ?? '');
const launch = launchOf(code);
const previews = code === 'preview' && window.parent !== window;

function LearnersPage() {
  const [reading, setReading] = useState(loadReading);
  const [quiz, quizIn] = useState<string>();
  const language = pageLanguage([reading.language, quiz, ...navigator.languages]);
  const [page, setPage] = useState<Page>({ language: 'en', words: en });
  useEffect(() => {
    let here = true;
    // without its words (no connection) the page goes on in the language that it has
    wordsIn(language).then(
      (words) => {
        if (!here) return;
        document.documentElement.lang = language;
        setPage({ language, words });
      },
      () => undefined,
    );
    return () => void (here = false);
  }, [language]);
  const whole = useMemo(() => ({ page, reading, quizIn }), [page, reading]);
  return (
    <PageContext.Provider value={page}>
      <Aids
        reading={reading}
        page={page.language}
        onChange={(r) => {
          putReading(r);
          setReading(r);
        }}
      />
      {previews ? (
        <Preview {...whole} />
      ) : code ? (
        <Boundary fallback={() => <Rescue code={code} />}>
          <Quiz code={code} launch={launch} {...whole} />
        </Boundary>
      ) : (
        <Enter />
      )}
    </PageContext.Provider>
  );
}

/** The theme of the page around a preview; a page of somebody else around a frame is not to be looked at. */
function themeAround(): string | undefined {
  try {
    return window.parent !== window ? parent.document.documentElement.dataset['theme'] : undefined;
  } catch {
    return undefined;
  }
}
document.documentElement.dataset['theme'] = themeAround() ?? (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light');
show(loadReading());
// behind all that the first question needs; a device that keeps nothing goes on without
if (!previews && code) setTimeout(() => void import('./offline.js').then((m) => m.keepPage()).catch(() => undefined), 1500);
createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <LearnersPage />
  </StrictMode>,
);
