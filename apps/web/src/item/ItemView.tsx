/** An item as it reads, with its key. */
import { type Item, letterOf, writtenRange } from '@zakuska/core';
import { memo, type ReactNode } from 'react';
import { Rich } from '../ui/Rich.js';
import { SCORING } from './scoringWords.js';
import { say } from '../words/say.js';

function KeyLine({ mark, children }: { mark: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[26px_minmax(0,1fr)] gap-1.5 py-0.5 font-[650] text-dill">
      <b className="justify-self-start border-b-[3px] border-double border-dill leading-tight">
        {mark}
        {/* the double line says it to the eye */}
        <span className="sr-only">{say(', the key:')}</span>
      </b>
      <div>{children}</div>
    </div>
  );
}

function Key({ item }: { item: Item }) {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return (
        <ul aria-label={say('Options')}>
          {item.options.map((o, i) => {
            const key = item.kind === 'multiple-choice' ? o.credit >= 1 : o.credit > 0;
            const part = o.credit !== 0 && o.credit !== 1 ? ` (${Math.round(o.credit * 100)} %)` : '';
            return (
              <li key={o.id}>
                {key ? (
                  <KeyLine mark={letterOf(i)}>
                    <span className="flex flex-wrap gap-x-1.5">
                      <Rich text={o.content || '…'} />
                      {part}
                    </span>
                  </KeyLine>
                ) : (
                  <div className="grid grid-cols-[26px_minmax(0,1fr)] gap-1.5 py-0.5">
                    <b className="font-[650] text-ink-2">{letterOf(i)}</b>
                    <div className="flex flex-wrap gap-x-1.5">
                      <Rich text={o.content || '…'} />
                      {part}
                    </div>
                  </div>
                )}
                {o.feedback && <Rich className="pl-8 text-[13.5px] text-ink-2 italic" text={o.feedback} />}
              </li>
            );
          })}
        </ul>
      );
    case 'true-false':
      return item.answer === null ? null : <KeyLine mark={item.answer ? 'T' : 'F'}>{item.answer ? say('true') : say('false')}</KeyLine>;
    case 'short-answer':
      return item.answers.length ? (
        <KeyLine mark="ab">{item.answers.map((a) => a.text + (a.credit < 1 ? ` (${Math.round(a.credit * 100)} %)` : '')).join(' / ')}</KeyLine>
      ) : null;
    case 'numeric':
      return item.answers.length ? (
        <KeyLine mark="=">
          {item.answers.map(writtenRange).join(' / ')} {item.unit}
        </KeyLine>
      ) : null;
    case 'cloze':
      return item.wordBank ? <p className="text-ink-2">{say('Words: {wordBank}', { wordBank: item.wordBank.join(', ') })}</p> : null;
    case 'matching':
      return (
        <ul aria-label={say('Pairs')} className="my-1 grid max-w-2xl gap-0.5">
          {item.pairs.map((p, i) => (
            <li key={i} className="grid grid-cols-[minmax(0,1fr)_28px_minmax(0,1fr)] border-b border-rule-2 py-0.5">
              <Rich text={p.left} />
              <span className="text-center text-dill">
                <span aria-hidden>→</span>
                <span className="sr-only">{say('goes with')}</span>
              </span>
              <Rich className="font-[650] text-dill" text={p.right || '…'} />
            </li>
          ))}
          {item.extraRights.map((r) => (
            <li key={r} className="grid grid-cols-[minmax(0,1fr)_28px_minmax(0,1fr)] py-0.5 text-ink-2">
              <span />
              <span className="text-center">
                <span aria-hidden>–</span>
                <span className="sr-only">{say('goes with nothing:')}</span>
              </span>
              <Rich text={r} />
            </li>
          ))}
        </ul>
      );
    case 'ordering':
      return (
        <ol className="my-1 grid gap-0.5">
          {item.sequence.map((s, i) => (
            <li key={i}>
              <KeyLine mark={String(i + 1)}>
                <Rich text={s} />
              </KeyLine>
            </li>
          ))}
        </ol>
      );
    case 'essay':
      return (
        <>
          {item.modelAnswer && (
            <p className="text-ink-2">
              <b>{say('Model answer:')}</b> <Rich text={item.modelAnswer} className="inline" />
            </p>
          )}
          <p className="text-[13.5px] text-ink-2">{say('Marked by a person.')}</p>
        </>
      );
    default:
      return <p className="text-[13.5px] text-ink-2">{say('A text to read. Nothing to answer.')}</p>;
  }
}

export const ItemView = memo(function ItemView({ item }: { item: Item }) {
  const gapText =
    item.kind === 'cloze'
      ? Object.fromEntries(
          item.gaps.map((g) => [
            g.id,
            g.kind === 'choice'
              ? (g.options.find((o) => o.credit >= 1)?.content ?? '')
              : g.kind === 'number'
                ? g.answers.map((a) => a.text ?? writtenRange(a)).join(' / ')
                : g.answers.map((a) => a.text).join(' / '),
          ]),
        )
      : undefined;
  const fb = item.feedback;
  const facts = [
    item.kind !== 'information' && say('{points, plural, one {# point} other {# points}}', { points: item.points }),
    item.bonus && say('bonus'),
    item.required && say('must be answered'),
    item.kind === 'multiple-response' && SCORING[item.scoring],
    item.shuffle && say('shuffled'),
    item.timeLimit && `${item.timeLimit} s`,
    ...(item.tags ?? []),
    ...(item.outcomes ?? []),
  ].filter(Boolean);
  return (
    <>
      <Rich className="mb-1.5 text-[17px]/[1.4] font-[550]" text={item.stem || say('No question text')} {...(gapText && { gapText })} />
      <Key item={item} />
      {item.hints?.map((h, i) => (
        <p key={i} className="mt-1 text-[13.5px] text-ink-2">
          <b>{say('Hint:')}</b> <Rich text={h} className="inline" />
        </p>
      ))}
      {fb && (
        <div className="mt-1.5 text-[13.5px] text-ink-2 italic">
          {fb.correct && <Rich text={say('Right: {correct}', { correct: fb.correct })} />}
          {fb.incorrect && <Rich text={say('Wrong: {incorrect}', { incorrect: fb.incorrect })} />}
          {fb.general && <Rich text={fb.general} />}
        </div>
      )}
      {facts.length > 0 && <p className="mt-1.5 text-[13px] text-ink-2">{facts.join(' · ')}</p>}
    </>
  );
});
