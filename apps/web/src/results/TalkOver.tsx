/** What to talk over in class: items from most missed, with what is worth a look; straight to slides, or to a set to be taken once more. */
import { type Analysis, type Deck, type Item, nameOf, type QuizSet, toDiscuss } from '@zakuska/core';
import { useMutation } from '@tanstack/react-query';
import { Presentation, Repeat } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { wordsOf } from '../api/client.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { remarkWords } from './figuresWords.js';
import { orNone, percent } from '../ui/figures.js';
import { useRetake } from './useRetake.js';
import { away } from './worker.js';
import { say } from '../words/say.js';

const SlideShow = lazy(() => import('../show/SlideShow.js'));

interface Props {
  analysis: Analysis;
  /** The set with the keys that count. */
  set: QuizSet;
  source: string;
  labelOf: (item: Item) => string;
}
export function TalkOver({ analysis, set, source, labelOf }: Props) {
  const { view, mayEdit } = useOpenSet();
  const items = analysis.items.toSorted((a, b) => a.figures.difficulty - b.figures.difficulty);
  // whoever has changed nothing sees what the figures say, also when further answers come
  const [said, setSaid] = useState<ReadonlyMap<string, boolean>>(new Map());
  const isChosen = (i: Analysis['items'][number]): boolean => said.get(i.item.id) ?? toDiscuss(i);
  const chosen = items.filter(isChosen).map((i) => i.item);
  const [deck, setDeck] = useState<Deck | null>(null);
  const show = useMutation({
    // numbered as the class met them
    mutationFn: () => away.call((remote) => remote.slides({ ...set, sections: [], items: chosen.map((i) => ({ ...i, label: labelOf(i) })) })),
    onSuccess: setDeck,
    onError: (e) => toast.error(say('The slides could not be made: {words}', { words: wordsOf(e) })),
  });
  const retake = useRetake(set);
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-3 text-sm">
        <span className="text-ink-2">{say('{chosen, plural, one {# item} other {# items}} chosen', { chosen: chosen.length })}</span>
        <Button disabled={!chosen.length || show.isPending} onClick={() => show.mutate()}>
          <Presentation size={16} aria-hidden /> {say('Show them on slides')}
        </Button>
        {mayEdit && (
          <Button disabled={!chosen.length || retake.isPending} onClick={() => retake.mutate(chosen)}>
            <Repeat size={16} aria-hidden /> {say('Make a retake of them')}
          </Button>
        )}
      </div>
      {deck && (
        <Suspense fallback={null}>
          <SlideShow deck={deck} title={set.title} onClose={() => setDeck(null)} />
        </Suspense>
      )}
      <section aria-label={say('Items from most missed')} tabIndex={0} className="max-w-5xl overflow-x-auto">
        <table className="w-full min-w-xl text-sm">
          <thead>
            <tr className="text-left text-[13px] text-ink-2">
              <th className="py-1 pr-3 font-semibold" colSpan={2}>
                {say('Item')}
              </th>
              <th className="py-1 pr-3 font-semibold">{say('Question')}</th>
              <th className="py-1 pr-3 text-right font-semibold whitespace-nowrap">{say('Of the points')}</th>
              <th className="py-1 pr-3 text-right font-semibold">{say('Discrimination')}</th>
            </tr>
          </thead>
          <tbody>
            {items.map((i) => (
              <tr key={i.item.id} className="border-t border-rule-2 align-top">
                <td className="w-8 py-1.5">
                  <input
                    type="checkbox"
                    aria-label={say('Choose item {label}', { label: labelOf(i.item) })}
                    checked={isChosen(i)}
                    onChange={(e) => setSaid(new Map(said).set(i.item.id, e.target.checked))}
                  />
                </td>
                <td className="py-1.5 pr-3 font-bold">{labelOf(i.item)}</td>
                <td className="py-1.5 pr-3">
                  <Link className="link" to={`/sets/${view.id}/results/marking?of=${source}&item=${i.item.id}`}>
                    {nameOf(i.item, 120)}
                  </Link>
                  {remarkWords(i).map((words) => (
                    <p key={words} className="text-[13px] text-amber">
                      {words}
                    </p>
                  ))}
                </td>
                <td className="py-1.5 pr-3 text-right whitespace-nowrap">
                  {percent(i.figures.difficulty)}
                  <span className="block text-[12.5px] text-ink-2">
                    {say('{percent} to {percent2}', { percent: percent(i.figures.interval[0]), percent2: percent(i.figures.interval[1]) })}
                  </span>
                </td>
                <td className="py-1.5 pr-3 text-right">{orNone(i.figures.discrimination)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </>
  );
}
