/** Somebody's paper: each answer with its points, the key where it was missed, and the way to mark it by hand. */
import { gradeOf, type Item, paperOf, paperText, type Results } from '@zakuska/core';
import { Link } from 'react-router';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Modal } from '../ui/Modal.js';
import { Rich } from '../ui/Rich.js';
import { percent, written } from './figuresWords.js';
import { LOOKS, SIGNS, WORDS } from './states.js';

interface Props {
  /** All people in their order: the papers are leafed through. */
  results: Results;
  at: number;
  source: string;
  labelOf: (item: Item) => string;
  onGo: (at: number) => void;
  onClose: () => void;
}
export function PersonSheet({ results, at, source, labelOf, onGo, onClose }: Props) {
  const { view, mayEdit } = useOpenSet();
  const { sittings } = results;
  const a = sittings[at];
  const go = (by: number): void => {
    if (sittings[at + by]) onGo(at + by);
  };
  if (!a) return null;
  const { lines, points, maximum } = paperOf(results, a);
  const grade = maximum ? gradeOf(points / maximum, results.grades ?? []) : '';
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={a.name}
      description={`${written(points)} of ${written(maximum)} points${maximum ? `, ${percent(points / maximum)}` : ''}${grade && `, ${grade}`}`}
      foot={
        <>
          <Button disabled={at === 0} onClick={() => go(-1)}>
            Person before
          </Button>
          <Button disabled={at === sittings.length - 1} onClick={() => go(1)}>
            Next person
          </Button>
          <span className="flex-1" />
          <Button onClick={() => copyText(paperText(results, a, labelOf), `The paper of ${a.name} is in the clipboard, as text for a mail.`)}>
            Copy as text
          </Button>
        </>
      }
    >
      <ol className="grid gap-3">
        {lines.map(({ item, mark, answer, key }) => {
          const state = mark?.state ?? 'unanswered';
          return (
            <li key={item.id} className="grid grid-cols-[30px_minmax(0,1fr)_auto] gap-x-2 border-b border-rule-2 pb-2 text-sm">
              <b>{labelOf(item)}.</b>
              <div className="min-w-0">
                <Rich text={item.stem} />
                <p className="mt-1 wrap-anywhere whitespace-pre-wrap" dir="auto">
                  {answer.length ? answer.join('\n') : <span className="text-ink-2">No answer.</span>}
                </p>
                {key && <p className="text-dill">Right: {key}</p>}
                {mark?.comment && <p className="text-ink-2">{mark.comment}</p>}
              </div>
              <div className="text-right whitespace-nowrap">
                <span className={`inline-block min-w-6 rounded px-1 text-center ${LOOKS[state]}`} aria-hidden>
                  {SIGNS[state]}
                </span>
                <span className="sr-only">{WORDS[state]}</span> {state === 'by-hand' ? 'to mark' : `${written(mark?.points ?? 0)} of ${written(item.points)}`}
                {mayEdit && mark && (
                  <Link
                    className="link block text-[13px]"
                    to={`/sets/${view.id}/results/marking?of=${source}&item=${item.id}&by=one&who=${encodeURIComponent(a.id)}`}
                    aria-label={`Mark item ${labelOf(item)} by hand`}
                  >
                    by hand
                  </Link>
                )}
              </div>
            </li>
          );
        })}
      </ol>
    </Modal>
  );
}
