/** The bin: what a set takes with it is said before, and for thirty days it can be taken back. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, type SetSummary, wordsOf } from '../api/client.js';
import { shortDay } from '../ui/localTime.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

type Binned = Schemas['BinnedView'];

export interface BinState {
  sets: readonly Binned[];
  asked: SetSummary | null;
  ask: (set: SetSummary | null) => void;
  put: (id: string) => void;
  back: (id: string) => void;
  purge: (id: string) => void;
}

/** The bin of a workspace and what is done with it. */
export function useBin(workspace: string | undefined): BinState {
  const queries = useQueryClient();
  const [asked, ask] = useState<SetSummary | null>(null);
  const bin = useQuery({
    queryKey: ['bin', workspace],
    enabled: Boolean(workspace),
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/bin', { params: { path: { workspace: workspace ?? '' } } })),
  });
  const changed = (): void => {
    void queries.invalidateQueries({ queryKey: ['sets'] });
    void queries.invalidateQueries({ queryKey: ['bin'] });
  };
  const onError = (e: unknown): void => void toast.error(wordsOf(e));
  const back = useMutation({
    mutationFn: (binned: string) => call(api.POST('/api/v1/bin/{binned}/back', { params: { path: { binned } } })),
    onSuccess: changed,
    onError,
  });
  const put = useMutation({
    mutationFn: (set: string) => call(api.DELETE('/api/v1/sets/{set}', { params: { path: { set } } })),
    onSuccess: (_, set) => {
      ask(null);
      changed();
      toast(say('The set is in the bin.'), { action: { label: say('Undo'), onClick: () => back.mutate(set) } });
    },
    onError,
  });
  const purge = useMutation({
    mutationFn: (binned: string) => call(api.DELETE('/api/v1/bin/{binned}', { params: { path: { binned } } })),
    onSuccess: changed,
    onError,
  });
  return { sets: bin.data ?? [], asked, ask, put: put.mutate, back: back.mutate, purge: purge.mutate };
}

const answers = (n: number): string => say('{n, plural, one {# response} other {# responses}}', { n });

export function Bin({ bin }: { bin: BinState }) {
  const { asked, ask } = bin;
  const [gone, setGone] = useState<Binned | null>(null);
  return (
    <>
      {bin.sets.length > 0 && (
        <details className="mb-7">
          <summary className="cursor-pointer font-semibold text-ink-2">
            {say('Bin, {sets, plural, one {# set} other {# sets}}', { sets: bin.sets.length })}
          </summary>
          <ul className="mt-1.5 border-y border-rule bg-sheet">
            {bin.sets.map((s) => (
              <li key={s.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-rule-2 px-4 py-2.5 not-first:border-t">
                <span className="min-w-0 flex-1 truncate font-semibold">{s.title}</span>
                <span className="text-[13.5px] text-ink-2">
                  {say('{more}goes for good on {shortDay}', { more: s.responses > 0 && `${answers(s.responses)} · `, shortDay: shortDay(s.goesAt) })}
                </span>
                {s.role === 'owner' && (
                  <span className="flex gap-2">
                    <Button onClick={() => bin.back(s.id)}>{say('Take back')}</Button>
                    <Button look="quiet" onClick={() => setGone(s)}>
                      {say('Delete for good')}
                    </Button>
                  </span>
                )}
              </li>
            ))}
          </ul>
        </details>
      )}
      <Ask
        open={asked !== null}
        title={say('Put “{title}” into the bin?', { title: asked?.title ?? '' })}
        description={
          asked && asked.responses > 0
            ? say('{answers} of learners will be out of sight with it, and its quiz is closed. You can take everything back for 30 days.', {
                answers: answers(asked.responses),
              })
            : say('You can take it back for 30 days.')
        }
        action={say('Into the bin')}
        onDo={() => asked && bin.put(asked.id)}
        onClose={() => ask(null)}
      />
      <Ask
        open={gone !== null}
        title={say('Delete “{title}” for good?', { title: gone?.title ?? '' })}
        description={say('Its items, history, receipts{what} are lost. This cannot be undone.', {
          what: gone?.responses ? say(' and {answers} of learners', { answers: answers(gone.responses) }) : '',
        })}
        action={say('Delete for good')}
        onDo={() => {
          if (gone) bin.purge(gone.id);
          setGone(null);
        }}
        onClose={() => setGone(null)}
      />
    </>
  );
}

interface Question {
  open: boolean;
  title: string;
  description: string;
  /** What the button that does it says. */
  action: string;
  onDo: () => void;
  onClose: () => void;
}
export function Ask({ action, onDo, ...dialog }: Question) {
  return (
    <Modal {...dialog}>
      <div className="flex justify-end gap-2">
        <Button onClick={dialog.onClose}>{say('Cancel')}</Button>
        <Button look="primary" onClick={onDo}>
          {action}
        </Button>
      </div>
    </Modal>
  );
}
