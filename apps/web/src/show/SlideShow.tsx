/** Slides in the room: the whole window, by keyboard, clicker, touch or mouse; the person who speaks has the notes in a window of their own. */
import type { Deck } from '@zakuska/core';
import { ChevronLeft, ChevronRight, Expand, NotebookText, Timer, X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { type ReactNode, useEffect, useReducer, useRef, useState } from 'react';
import { toast } from 'sonner';
import { Button, Kbd } from '../ui/Button.js';
import { chordOf } from '../ui/commands.js';
import { OtherWindow } from './OtherWindow.js';
import { begun, minutes, moved, type Move, showKeys, USUAL_SECONDS } from './showing.js';
import { SlideView } from './SlideView.js';
import { say } from '../words/say.js';

/** Seconds since a moment, told four times a second; 0 where there is none. */
function useSeconds(since: number | null): number {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    if (since === null) return;
    setNow(Date.now());
    const clock = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(clock);
  }, [since]);
  return since === null ? 0 : Math.max(0, (now - since) / 1000);
}

/** What is left of the time for a question. */
function TimeLeft({ left, className = '' }: { left: number; className?: string }): ReactNode {
  const over = left <= 0;
  return (
    <p
      role="timer"
      className={`rounded-md border px-3 font-mono font-bold ${over ? 'border-brick bg-brick-soft text-brick' : 'border-rule bg-sheet'} ${className}`}
    >
      {minutes(Math.ceil(Math.max(0, left)))}
      <span className="sr-only" role="status">
        {over ? say('Time is up') : ''}
      </span>
    </p>
  );
}

export default function SlideShow({ deck, title, onClose }: { deck: Deck; title: string; onClose: () => void }) {
  const { slides } = deck;
  const [state, move] = useReducer((s: typeof begun, m: Move) => moved(s, m, slides), begun);
  const [notes, setNotes] = useState(false);
  const [time, setTime] = useState<{ since: number; of: number } | null>(null);
  const [began] = useState(Date.now);
  const room = useRef<HTMLDivElement>(null);
  const here = slides[state.at];
  const question = here?.is === 'item' ? here.id : null;
  // each question has a time of its own
  useEffect(() => setTime(null), [question]);
  const passed = useSeconds(time?.since ?? null);
  const left = time ? time.of - passed : null;

  const fill = (): void => {
    if (document.fullscreenElement) void document.exitFullscreen();
    else void room.current?.requestFullscreen().catch(() => toast.warning(say('The browser does not let this page fill the screen.')));
  };
  const startOrStop = (): void => setTime(time ? null : { since: Date.now(), of: (question !== null && deck.seconds[question]) || USUAL_SECONDS });
  const onKey = (e: KeyboardEvent | React.KeyboardEvent): void => {
    const chord = chordOf(e);
    // a button that was reached by Tab is pressed by its own keys
    if ((chord === 'Enter' || chord === ' ') && (e.target as Element | null)?.closest?.('button')) return;
    if (/^\d$/.test(chord)) return move({ digit: chord });
    const row = showKeys.find((k) => k.keys.includes(chord));
    if (!row) return;
    e.preventDefault();
    e.stopPropagation();
    if (row.does === 'full') fill();
    else if (row.does === 'window') setNotes(!notes);
    else if (row.does === 'timer') startOrStop();
    else move(row.does);
  };
  const name = (at: number): string => say('Slide {n} of {slides}', { n: at + 1, slides: slides.length });

  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Content
          ref={room}
          aria-describedby={undefined}
          onKeyDown={onKey}
          onOpenAutoFocus={(e) => (e.preventDefault(), room.current?.focus())}
          // the window of the notes is outside, and belongs to it
          onInteractOutside={(e) => e.preventDefault()}
          className="group fixed inset-0 z-50 flex flex-col bg-paper outline-none"
        >
          <Dialog.Title className="sr-only">{say('{title}, as slides', { title })}</Dialog.Title>
          <p className="sr-only" aria-live="polite">
            {state.dark ? say('Nothing is shown') : name(state.at)}
          </p>
          <div
            className="grid min-h-0 flex-1 cursor-pointer place-items-center"
            onClick={(e) => {
              const { left: from, width } = e.currentTarget.getBoundingClientRect();
              move(e.clientX - from < width / 4 ? 'back' : 'next');
            }}
          >
            <div className="max-h-full w-[min(100%,calc((100vh-48px)*16/9))]">
              <SlideView deck={deck} at={state.at} dark={state.dark} label={name(state.at)} />
            </div>
          </div>
          {left !== null && <TimeLeft left={left} className="absolute end-6 top-5 text-[clamp(20px,3vw,44px)]" />}
          {state.typed && <p className="absolute start-6 top-5 rounded-md border border-rule bg-sheet px-3 font-mono text-3xl">{state.typed}</p>}
          <div className="flex h-12 items-center gap-1 border-t border-rule bg-sheet px-2 max-sm:[&>button]:px-2! sm:gap-2 sm:px-4 group-fullscreen:opacity-0 hover:opacity-100! focus-within:opacity-100!">
            <Button onClick={() => move('back')} disabled={state.at === 0} aria-label={say('Back a step')}>
              <ChevronLeft size={16} aria-hidden />
            </Button>
            <Button onClick={() => move('next')} disabled={state.at === slides.length - 1} aria-label={say('On to the next step')}>
              <ChevronRight size={16} aria-hidden />
            </Button>
            <span className="text-sm whitespace-nowrap text-ink-2 max-sm:hidden">{name(state.at)}</span>
            <span className="flex-1" />
            <Button aria-pressed={time !== null} onClick={startOrStop}>
              <Timer size={16} aria-hidden /> <span className="max-md:sr-only">{time ? say('Stop the time') : say('Time')}</span>
            </Button>
            <Button aria-pressed={notes} onClick={() => setNotes(!notes)}>
              <NotebookText size={16} aria-hidden /> <span className="max-md:sr-only">{say('Notes in your own window')}</span>
            </Button>
            <Button onClick={fill}>
              <Expand size={16} aria-hidden /> <span className="max-md:sr-only">{say('Fill the screen')}</span>
            </Button>
            <Dialog.Close asChild>
              <Button aria-label={say('Close')}>
                <X size={16} aria-hidden />
              </Button>
            </Dialog.Close>
          </div>
          {notes && (
            <OtherWindow
              title={say('{title}, notes', { title })}
              onKey={onKey}
              onClose={(blocked) => {
                setNotes(false);
                if (blocked) toast.warning(say('The browser did not open a second window. Allow it for this page, then press again.'));
              }}
            >
              <Speaker deck={deck} at={state.at} dark={state.dark} name={name} began={began} left={left} onMove={move} onTime={startOrStop} />
            </OtherWindow>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What the person who speaks sees: this slide and the next one, the notes, the time. */
function Speaker({
  deck,
  at,
  dark,
  name,
  began,
  left,
  onMove,
  onTime,
}: {
  deck: Deck;
  at: number;
  dark: boolean;
  name: (at: number) => string;
  began: number;
  left: number | null;
  onMove: (m: Move) => void;
  onTime: () => void;
}) {
  const here = deck.slides[at];
  const spoken = useSeconds(began);
  return (
    <div className="grid min-h-screen content-start gap-4 p-4 md:grid-cols-[3fr_2fr]">
      <div className="grid content-start gap-3">
        <div className={`border border-rule ${dark ? 'opacity-40' : ''}`}>
          <SlideView deck={deck} at={at} label={say('In the room: {name}', { name: name(at) })} />
        </div>
        <div className="flex flex-wrap items-center gap-2">
          <Button onClick={() => onMove('back')}>{say('Back')}</Button>
          <Button look="primary" onClick={() => onMove('next')}>
            {say('Next')}
          </Button>
          <Button aria-pressed={dark} onClick={() => onMove('dark')}>
            {dark ? say('Show the slide') : say('Hide the slide')}
          </Button>
          <Button onClick={onTime}>{left === null ? say('Start the time') : say('Stop the time')}</Button>
          {left !== null && <TimeLeft left={left} className="text-xl" />}
          <span className="ms-auto text-ink-2">{say('Since the start: {minutes}', { minutes: minutes(spoken) })}</span>
        </div>
        <h2 className="font-semibold">{say('Notes')}</h2>
        <p className="text-lg whitespace-pre-line">{(here?.is === 'item' && here.notes) || say('There is nothing to say to this slide.')}</p>
      </div>
      <div className="grid content-start gap-3">
        <h2 className="font-semibold">{at + 1 < deck.slides.length ? say('Next') : say('This is the last slide')}</h2>
        {at + 1 < deck.slides.length && (
          <div className="border border-rule">
            <SlideView deck={deck} at={at + 1} label={say('Next: {name}', { name: name(at + 1) })} />
          </div>
        )}
        <h2 className="mt-2 font-semibold">{say('Keys')}</h2>
        <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 text-sm">
          {showKeys.map((k) => (
            <div key={k.does} className="contents">
              <dt>
                <Kbd>{k.shown}</Kbd>
              </dt>
              <dd>{k.words}</dd>
            </div>
          ))}
        </dl>
      </div>
    </div>
  );
}
