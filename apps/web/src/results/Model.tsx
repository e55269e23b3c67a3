/** Difficulty and discrimination of items by a model of ability, for groups that are large enough. */
import { type Analysis, IRT_PEOPLE, type IrtFit, type IrtModel, type Item } from '@zakuska/core';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { Select } from '../ui/Field.js';
import { number, written } from '../ui/figures.js';
import type { Attempt } from './sources.js';
import { away } from './worker.js';
import { listed, say } from '../words/say.js';

const MODELS: Readonly<Record<IrtModel, string>> = {
  '1PL': say('all items tell people apart equally well (1PL)'),
  '2PL': say('each item in its own way (2PL)'),
};

interface Props {
  analysis: Analysis;
  attempts: readonly Attempt[];
  labelOf: (item: Item) => string;
}
export function Model({ analysis, attempts, labelOf }: Props) {
  const n = attempts.length;
  const able = (Object.keys(MODELS) as IrtModel[]).filter((m) => n >= IRT_PEOPLE[m]);
  const [model, setModel] = useState<IrtModel>(able.at(-1) ?? '1PL');
  const fitting = useMutation({
    mutationFn: async (): Promise<{ fit: IrtFit | null; items: Item[] }> => {
      const items = analysis.items.map((i) => i.item);
      const rows = attempts.map((a) => items.map((i) => a.marks[i.id]?.state === 'right'));
      return { fit: await away.call((remote) => remote.model(rows, model)), items };
    },
    onError: (e) => toast.error(say('The model was not fitted: {words}', { words: wordsOf(e) })),
  });
  const { fit, items = [] } = fitting.data ?? {};
  return (
    <section aria-label={say('A model of ability')} className="mt-6 max-w-5xl rounded-lg border border-rule bg-sheet p-4 text-sm">
      <h2 className="mb-1 text-base font-bold">{say('A model of ability')}</h2>
      <p className="text-ink-2">
        {say(
          'How able somebody has to be to get an item right, whoever else took it; abilities of this group have mean 0 and standard deviation 1. An item counts as right or not.',
        )}
      </p>
      {able.length === 0 ? (
        <p className="mt-2">
          {say('With {n} people its figures would not hold: it takes {IRT_PEOPLE}, and {IRT_PEOPLE2} to tell items apart by how sharply they separate.', {
            n,
            IRT_PEOPLE: IRT_PEOPLE['1PL'],
            IRT_PEOPLE2: IRT_PEOPLE['2PL'],
          })}
        </p>
      ) : (
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <Select aria-label={say('Model')} className="w-auto!" value={model} onChange={(e) => setModel(e.target.value as IrtModel)}>
            {able.map((m) => (
              <option key={m} value={m}>
                {MODELS[m]}
              </option>
            ))}
          </Select>
          <Button disabled={fitting.isPending} onClick={() => fitting.mutate()}>
            {fitting.isPending ? say('Fitting …') : say('Fit it')}
          </Button>
          {!able.includes('2PL') && (
            <span className="text-ink-2">{say('Each item in its own way takes {IRT_PEOPLE} people.', { IRT_PEOPLE: IRT_PEOPLE['2PL'] })}</span>
          )}
        </div>
      )}
      {fit === null && <p className="mt-2">{say('It takes at least three items that some got right and some did not.')}</p>}
      {fit && (
        <>
          <table className="mt-3 w-full max-w-2xl">
            <thead>
              <tr className="text-left text-[13px] text-ink-2">
                <th className="py-1 pr-4 font-semibold">{say('Item')}</th>
                <th className="py-1 pr-4 font-semibold">{say('Difficulty')}</th>
                <th className="py-1 pr-4 font-semibold">{say('Discrimination')}</th>
              </tr>
            </thead>
            <tbody>
              {items.map((item, j) => {
                const of = fit.items[j];
                return (
                  <tr key={item.id} className="border-t border-rule-2">
                    <th scope="row" className="py-1 pr-4 text-left font-semibold">
                      {labelOf(item)}
                    </th>
                    {of ? (
                      [of.difficulty, of.discrimination].map((e, k) => (
                        <td key={k === 0 ? 'difficulty' : 'discrimination'} className={`py-1 pr-4 ${k === 1 && e.value < 0.3 ? 'text-amber' : ''}`}>
                          {written(e.value)} <span className="text-ink-2">± {written(e.error)}</span>
                        </td>
                      ))
                    ) : (
                      <td colSpan={2} className="py-1 pr-4 text-ink-2">
                        {say('no figures: everybody or nobody got it right, or it sorts people without exception')}
                      </td>
                    )}
                  </tr>
                );
              })}
            </tbody>
          </table>
          {fit.pairs.length > 0 && (
            <p className="mt-2">
              {say(
                'Go together more than ability explains: {pairs}. One may give the other away, or both hang on the same step: then they count one thing twice.',
                { pairs: fit.pairs.map((p) => `${listed(p.items.map((j) => labelOf(items[j] as Item)))} (${written(p.excess)})`).join(', ') },
              )}
            </p>
          )}
          <p className="mt-2 text-ink-2">
            {say('{MODELS}; log-likelihood {number}; ± one standard error.{more}', {
              MODELS: MODELS[fit.model],
              number: number(fit.logLikelihood, 1),
              more: !fit.settled && say(' It did not come to rest: take these figures with care.'),
            })}
          </p>
        </>
      )}
    </section>
  );
}
