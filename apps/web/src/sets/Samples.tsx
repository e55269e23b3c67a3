/** Sample sets by outcome and level, taken as sets of one's own. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { difficultyThirds } from '@zakuska/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api, call, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { Button } from '../ui/Button.js';
import { Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { known, say } from '../words/say.js';

interface Props {
  workspace: string;
  /** The folder that is shown. */
  folder: string;
  onClose: () => void;
}
const hardness = (d: number): string => known(Object.entries(difficultyThirds).find(([, { to }]) => d < to)?.[0] ?? 'hard');

export function Samples({ workspace, folder, onClose }: Props) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [outcome, setOutcome] = useState('');
  const [level, setLevel] = useState('');
  const samples = useQuery({ queryKey: ['samples'], staleTime: Number.POSITIVE_INFINITY, queryFn: () => call(api.GET('/api/v1/samples')) });
  const take = useMutation({
    mutationFn: (sample: string) =>
      call(api.POST('/api/v1/workspaces/{workspace}/samples/{sample}', { params: { path: { workspace, sample } }, body: { ...(folder && { folder }) } })),
    onSuccess: (s) => {
      for (const key of ['sets', 'folders', 'bank']) void queries.invalidateQueries({ queryKey: [key] });
      void navigate(`/sets/${s.id}/check`);
    },
  });
  const all = samples.data ?? [];
  const found = all.filter((s) => (!outcome || s.outcomes.includes(outcome)) && (!level || s.levels.includes(level as never)));
  const pick = (name: string, value: string, set: (v: string) => void, list: readonly string[], any: string) => (
    <Select aria-label={name} className="w-auto! py-1! text-sm" value={value} onChange={(e) => set(e.target.value)}>
      <option value="">{any}</option>
      {[...new Set(list)].map((v) => (
        <option key={v}>{v}</option>
      ))}
    </Select>
  );
  return (
    <Modal
      wide
      open
      onClose={onClose}
      title={say('Sample sets')}
      description={say('Made up for Saltmarsh Cookery School, to try things with. A copy is yours to change.')}
    >
      <div className="mb-3 flex flex-wrap gap-2">
        {pick(say('Outcome'), outcome, setOutcome, all.flatMap((s) => s.outcomes).toSorted(), say('any outcome'))}
        {pick(
          say('Thinking level'),
          level,
          setLevel,
          all.flatMap((s) => s.levels),
          say('any level'),
        )}
      </div>
      {samples.isPending && <Busy what={say('Fetching')} />}
      {(samples.isError || take.isError) && <p className="note error">{wordsOf(samples.error ?? take.error)}</p>}
      {samples.data && !found.length && <p className="text-ink-2">{say('No sample has both.')}</p>}
      <ul>
        {found.map((s) => (
          <li key={s.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-rule-2 py-2.5">
            <span className="min-w-0 flex-1">
              <b className="font-semibold">{s.title}</b>{' '}
              <span className="text-[13.5px] text-ink-2">
                {say('{items, plural, one {# item} other {# items}}', { items: s.items })},{' '}
                {say('{points, plural, one {# point} other {# points}}', { points: s.points })}, {hardness(s.difficulty)}
              </span>
              <span className="block text-[13.5px] text-ink-2">
                {s.outcomes.join(', ')} · {s.levels.join(', ')}
              </span>
            </span>
            <Button aria-label={say('Take “{title}”', { title: s.title })} disabled={take.isPending} onClick={() => take.mutate(s.id)}>
              {say('Take it')}
            </Button>
          </li>
        ))}
      </ul>
    </Modal>
  );
}
