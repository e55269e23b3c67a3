/** Tables of answers marked without a set; one is made of them where they are to be kept. */
import { mayAs } from '@zakuska/core';
import { useQueryClient } from '@tanstack/react-query';
import type { KeptTable } from '@zakuska/core';
import { Link, useNavigate } from 'react-router';
import { makeSet } from '../api/makeSet.js';
import { TopBar } from '../frame/Frame.js';
import { useWorkspace } from '../signin/workspace.js';
import { keepInResults } from './keepTable.js';
import { MarkTable } from './MarkTable.js';
import { say } from '../words/say.js';

export default function MarkTablePage() {
  const workspace = useWorkspace();
  const queries = useQueryClient();
  const go = useNavigate();
  const keep = async (title: string, kept: KeptTable): Promise<void> => {
    const set = await makeSet(workspace?.id ?? '', title, kept.items);
    const id = await keepInResults(set.id, title, kept);
    await queries.invalidateQueries({ queryKey: ['sets'] });
    await go(`/sets/${set.id}/results?of=${id}`);
  };
  return (
    <div className="grid h-dvh grid-cols-[minmax(0,1fr)] grid-rows-[46px_minmax(0,1fr)]">
      <TopBar>
        <Link to="/" className="hover:text-ink">
          {say('Sets')}
        </Link>{' '}
        {say('/ Mark a table')}
      </TopBar>
      <main className="overflow-auto border-t border-rule px-4 py-4 sm:px-6">
        <h1 className="sr-only">{say('Mark a table')}</h1>
        <MarkTable keep={workspace && mayAs(workspace.role, 'editor') ? { label: say('Keep as a new set'), run: keep } : undefined} />
      </main>
    </div>
  );
}
