/** One slide, as large as its place allows: type in points of a slide of 960 by 540, smaller where the words take more room than was thought. */
import type { Deck, ItemSlide, PaperAnswer, PaperBlock, Slide } from '@zakuska/core';
import { runsFromRight, wholeOf } from '@zakuska/core';
import { Check } from 'lucide-react';
import { type CSSProperties, type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import { Blocks } from './Blocks.js';
import { say } from '../words/say.js';

/** A size in points of the slide, as CSS. */
const points = (n: number): string => `calc(${n} * var(--fit) * 100cqw / 960)`;
/** The least that type is made smaller by in one go, and how small it may get. */
const STEP = 0.94;
const LEAST = 0.35;

/** Room that is kept for what comes later. */
const Later = ({ shown, children }: { shown: boolean; children: ReactNode }): ReactNode => (
  <div className={shown ? '' : 'invisible'} aria-hidden={!shown}>
    {children}
  </div>
);

/** A left or right side, or a step, behind its sign. */
const Line = ({ lead, blocks, assets }: { lead: ReactNode; blocks: readonly PaperBlock[]; assets: Deck['assets'] }): ReactNode => (
  <li className="flex gap-[0.5em]">
    <span>{lead}</span>
    <div className="min-w-0">
      <Blocks blocks={blocks} assets={assets} />
    </div>
  </li>
);

function Answer({ answer: a, slide, assets, keyShown }: { answer: PaperAnswer; slide: ItemSlide; assets: Deck['assets']; keyShown: boolean }): ReactNode {
  const columns = { gridTemplateColumns: `repeat(${slide.size.columns}, minmax(0, 1fr))` };
  switch (a.is) {
    case 'options':
    case 'boxes': {
      const rows =
        a.is === 'options'
          ? a.options.map((o) => ({ lead: `${o.letter})`, right: o.right, words: <Blocks blocks={o.blocks} assets={assets} /> }))
          : a.words.map((w) => ({ lead: '', right: w.right, words: w.text }));
      return (
        <ul className="grid gap-x-[1em] gap-y-[0.35em]" style={columns}>
          {rows.map((o, i) => {
            const right = keyShown && o.right;
            return (
              <li key={i} className={`flex gap-[0.5em] rounded-[0.2em] px-[0.3em] py-[0.1em] ${right ? 'bg-dill-soft text-dill' : ''}`}>
                {o.lead && <span className="min-w-[1em] shrink-0">{o.lead}</span>}
                <div className="min-w-0 flex-1">{o.words}</div>
                {/* its room is there before it is */}
                <span className={`shrink-0 self-center ${right ? '' : 'invisible'}`}>
                  <Check size="0.9em" role="img" aria-label={say('key')} aria-hidden={!right} />
                </span>
              </li>
            );
          })}
        </ul>
      );
    }
    case 'bank':
      return <p className="rounded-[0.2em] border border-rule px-[0.5em] py-[0.2em]">{a.words.join('  ·  ')}</p>;
    case 'pairs':
      return (
        <div className="grid grid-cols-2 gap-x-[1.5em]">
          <ol className="grid content-start gap-[0.35em]">
            {a.lefts.map((left, i) => (
              <Line key={i} lead={`${i + 1}.`} blocks={left} assets={assets} />
            ))}
          </ol>
          <ol className="grid content-start gap-[0.35em]">
            {a.rights.map((right) => (
              <Line key={right.letter} lead={`${right.letter}.`} blocks={right.blocks} assets={assets} />
            ))}
          </ol>
        </div>
      );
    case 'steps':
      return (
        <ul className="grid gap-[0.35em]">
          {a.steps.map((step, i) => (
            <Line key={i} lead={<span aria-hidden>•</span>} blocks={step} assets={assets} />
          ))}
        </ul>
      );
    case 'lines':
    case 'blank':
      return null;
  }
}

function ItemBody({ slide, whole, assets }: { slide: ItemSlide; whole: ItemSlide; assets: Deck['assets'] }): ReactNode {
  const keyShown = slide.step !== 'question';
  return (
    <>
      <div className="font-semibold" style={{ fontSize: points(slide.size.question) }}>
        <Blocks blocks={slide.blocks} assets={assets} />
      </div>
      <div className="grid gap-[0.6em]" style={{ fontSize: points(slide.size.answers), marginTop: slide.blocks.length ? points(20) : 0 }}>
        {slide.answers.map((a, i) => (
          <Answer key={i} answer={a} slide={slide} assets={assets} keyShown={keyShown} />
        ))}
        {whole.key.length > 0 && (
          <Later shown={keyShown && slide.key.length > 0}>
            <div className="font-semibold text-dill">
              <Blocks blocks={whole.key} assets={assets} />
            </div>
          </Later>
        )}
        {whole.feedback.length > 0 && (
          <Later shown={slide.feedback.length > 0}>
            <div className="text-ink-2">
              <Blocks blocks={whole.feedback} assets={assets} />
            </div>
          </Later>
        )}
      </div>
    </>
  );
}

function Body({ slide, whole, assets }: { slide: Slide; whole: Slide; assets: Deck['assets'] }): ReactNode {
  if (slide.is === 'item') return <ItemBody slide={slide} whole={whole.is === 'item' ? whole : slide} assets={assets} />;
  const [title, text] = slide.is === 'title' ? [48, 26] : [34, slide.size.answers];
  // a slide of few words has them in its middle
  return (
    <div className={slide.is === 'title' || !slide.blocks.length ? 'grid h-full content-center text-center' : ''}>
      {slide.title && (
        <h2 className="font-bold text-balance" style={{ fontSize: points(title) }}>
          {slide.title}
        </h2>
      )}
      <div style={{ fontSize: points(text), marginTop: points(14) }}>
        <Blocks blocks={slide.blocks} assets={assets} />
      </div>
    </div>
  );
}

/** The slide at a place. @param dark shows an empty one */
export function SlideView({ deck, at, dark = false, label }: { deck: Deck; at: number; dark?: boolean; label: string }) {
  const slide = deck.slides[at] as Slide;
  const last = wholeOf(deck.slides, at);
  const whole = deck.slides[last] as Slide;
  const body = useRef<HTMLDivElement>(null);
  // the steps of one slide share their size
  const [fit, setFit] = useState({ last, by: 1 });
  const by = fit.last === last ? fit.by : 1;
  useLayoutEffect(() => {
    const el = body.current;
    if (el && el.scrollHeight > el.clientHeight + 1 && by > LEAST) setFit({ last, by: by * STEP });
  }, [last, by]);
  return (
    <section
      aria-label={label}
      lang={deck.language}
      dir={runsFromRight(deck.language) ? 'rtl' : 'ltr'}
      className="slide @container relative mx-auto aspect-video w-full overflow-hidden bg-sheet text-ink"
      style={{ '--fit': by } as CSSProperties}
    >
      {!dark && (
        <>
          {slide.is === 'item' && (
            <p className="absolute text-ink-2" style={{ '--fit': 1, top: points(24), insetInlineStart: points(50), fontSize: points(15) } as CSSProperties}>
              {slide.place}
            </p>
          )}
          <div ref={body} className="absolute overflow-hidden" style={{ '--fit': 1, inset: `${points(58)} ${points(50)} ${points(24)}` } as CSSProperties}>
            <div className="h-full" style={{ '--fit': by, lineHeight: 1.3 } as CSSProperties}>
              <Body slide={slide} whole={whole} assets={deck.assets} />
            </div>
          </div>
        </>
      )}
    </section>
  );
}
