/** Somebody's paper: each answer with its points, the key where it was missed, and the way to mark it by hand. */
import {
  byParts,
  gradeOf,
  type Item,
  kinds,
  type Kind,
  paperOf,
  paperText,
  type PartedBy,
  reportPaper,
  type Results,
  type Sitting,
  UNUSUAL,
} from '@zakuska/core';
import { useMutation } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { wordsOf } from '../api/client.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Modal } from '../ui/Modal.js';
import { Rich } from '../ui/Rich.js';
import { saveFile } from '../ui/saveFile.js';
import { number, percent, written } from '../ui/figures.js';
import { takenOff } from './figuresWords.js';
import { reportFile } from './reportFile.js';
import { LOOKS, SIGNS, WORDS } from './states.js';
import { inSentence, known, say } from '../words/say.js';

interface Props {
  /** All people in their order: the papers are leafed through. */
  results: Results;
  at: number;
  source: string;
  /** How far each person's answers depart from what their points suggest; null where nothing is said. */
  caution: readonly (number | null)[];
  /** By how much a score is off by chance alone, in points. */
  error: number | null;
  labelOf: (item: Item) => string;
  onGo: (at: number) => void;
  onClose: () => void;
}
export function PersonSheet({ results, at, source, caution, error, labelOf, onGo, onClose }: Props) {
  const { view, mayEdit } = useOpenSet();
  const { sittings } = results;
  const a = sittings[at];
  const saving = useMutation({
    mutationFn: async (of: Sitting) =>
      saveFile(await reportFile(reportPaper(results, [of], labelOf), results.set), `${results.set.title} ${of.name}.pdf`, 'application/pdf'),
    onError: (e) => toast.error(say('The report was not made: {words}', { words: wordsOf(e) })),
  });
  const go = (by: number): void => {
    if (sittings[at + by]) onGo(at + by);
  };
  if (!a) return null;
  const { lines, points, maximum } = paperOf(results, a);
  const band =
    error !== null && maximum
      ? say('; taken again, two times in three between {number} and {number2}', {
          number: number(Math.max(0, points - error)),
          number2: number(Math.min(maximum, points + error)),
        })
      : '';
  const grade = maximum ? gradeOf(points / maximum, results.grades ?? []) : '';
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={a.name}
      description={say('{written} of {written2} points{what}{more}{what2}{band}', {
        written: written(points),
        written2: written(maximum),
        what: maximum ? `, ${percent(points / maximum)}` : '',
        more: grade && `, ${grade}`,
        what2: a.kept === undefined ? '' : `; ${takenOff(a.kept)}`,
        band,
      })}
      foot={
        <>
          <Button disabled={at === 0} onClick={() => go(-1)}>
            {say('Person before')}
          </Button>
          <Button disabled={at === sittings.length - 1} onClick={() => go(1)}>
            {say('Next person')}
          </Button>
          <span className="flex-1" />
          {mayEdit && (
            <Link className="link text-sm" to={`/people?${new URLSearchParams({ workspace: view.workspaceId, words: a.name })}`}>
              {say('Delete what is kept of them …')}
            </Link>
          )}
          <Button disabled={saving.isPending} onClick={() => saving.mutate(a)}>
            {saving.isPending ? say('Making it …') : say('As PDF')}
          </Button>
          <Button
            onClick={() => copyText(paperText(results, a, labelOf), say('The paper of {name} is in the clipboard, as text for a mail.', { name: a.name }))}
          >
            {say('Copy as text')}
          </Button>
        </>
      }
    >
      {(caution[at] ?? 0) > UNUSUAL && (
        <p className="note mb-3 text-sm" role="note">
          {say(
            'Easier items were missed and harder ones got more often than by others with as many points ({written}). That can be a slip from line to line, something that was not taught, another version, luck, and much else: by itself it says nothing of how the answers came about.',
            { written: written(caution[at] ?? 0) },
          )}
        </p>
      )}
      <Profile results={results} at={at} />
      <ol className="grid gap-3">
        {lines.map(({ item, mark, answer, key }) => {
          const state = mark?.state ?? 'unanswered';
          return (
            <li key={item.id} className="grid grid-cols-[30px_minmax(0,1fr)_auto] gap-x-2 border-b border-rule-2 pb-2 text-sm">
              <b>{labelOf(item)}.</b>
              <div className="min-w-0">
                <Rich text={item.stem} />
                <p className="mt-1 wrap-anywhere whitespace-pre-wrap" dir="auto">
                  {answer.length ? answer.join('\n') : <span className="text-ink-2">{say('No answer.')}</span>}
                </p>
                {key && <p className="text-dill">{say('Right: {key}', { key })}</p>}
                {mark?.comment && <p className="text-ink-2">{mark.comment}</p>}
              </div>
              <div className="text-right whitespace-nowrap">
                <span className={`inline-block min-w-6 rounded px-1 text-center ${LOOKS[state]}`} aria-hidden>
                  {SIGNS[state]}
                </span>
                <span className="sr-only">{WORDS[state]}</span>{' '}
                {state === 'by-hand' ? say('to mark') : say('{written} of {written2}', { written: written(mark?.points ?? 0), written2: written(item.points) })}
                {mayEdit && mark && (
                  <Link
                    className="link block text-[13px]"
                    to={`/sets/${view.id}/results/marking?of=${source}&item=${item.id}&by=one&who=${encodeURIComponent(a.id)}`}
                    aria-label={say('Mark item {label} by hand', { label: labelOf(item) })}
                  >
                    {say('by hand')}
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

const PARTED: Readonly<Record<PartedBy, string>> = { outcome: say('By outcome'), part: say('By part'), kind: say('By kind') };
/** What they reached by outcome, part and kind, beside what all did; nothing where there is one of each. */
function Profile({ results: { set, sittings }, at }: Pick<Props, 'results' | 'at'>) {
  const groups = useMemo(
    () => (['outcome', 'part', 'kind'] as const).map((by) => ({ by, parts: byParts(set, sittings, by) })).filter(({ parts }) => parts.length > 1),
    [set, sittings],
  );
  if (!groups.length) return null;
  return (
    <details className="mb-3 text-sm">
      <summary className="cursor-pointer font-semibold">
        {groups
          .map((g) => PARTED[g.by])
          .join(', ')
          .replace(/, By/g, ', by')}
      </summary>
      <table className="mt-1">
        <thead>
          <tr className="text-left text-[13px] text-ink-2">
            <th className="py-1 pr-6 font-semibold">{say('Of')}</th>
            <th className="py-1 pr-6 font-semibold">{say('Reached')}</th>
            <th className="py-1 pr-6 font-semibold">{say('All together')}</th>
          </tr>
        </thead>
        <tbody>
          {groups.flatMap(({ by, parts }) =>
            parts.map((p) => (
              <tr key={`${by} ${p.name}`} className="border-t border-rule-2">
                <th scope="row" className="py-1 pr-6 text-left font-normal">
                  {p.name === '' ? say('the others') : by === 'kind' ? inSentence(known(kinds[p.name as Kind].name)) : p.name}
                </th>
                <td className={`py-1 pr-6 ${(p.points[at] ?? 0) < p.maximum / 2 ? 'text-brick' : ''}`}>
                  {say('{written} of {written2}', { written: written(p.points[at] ?? 0), written2: written(p.maximum) })}
                </td>
                <td className="py-1 pr-6 text-ink-2">{percent(p.reached)}</td>
              </tr>
            )),
          )}
        </tbody>
      </table>
    </details>
  );
}
