/** Tables of answers to a set, marked by it, and kept among its results where that is wished. */
import { useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { useOpenSet } from '../set/context.js';
import { keepInResults } from './keepTable.js';
import { MarkTable } from './MarkTable.js';
import { answersChanged } from './sources.js';
import { say } from '../words/say.js';

export default function MarkTableStage() {
  const { view, document: doc, mayEdit } = useOpenSet();
  const queries = useQueryClient();
  const go = useNavigate();
  return (
    <main className="overflow-auto px-4 py-3 sm:px-6">
      <Link to={`/sets/${view.id}/results`} className="link text-sm">
        {say('Back to Results')}
      </Link>
      <MarkTable
        set={doc.set}
        keep={
          mayEdit
            ? {
                label: say('Keep in Results'),
                run: async (title, kept) => {
                  const id = await keepInResults(view.id, title, kept);
                  await answersChanged(queries, view.id);
                  await go(`/sets/${view.id}/results?of=${id}`);
                },
              }
            : undefined
        }
      />
    </main>
  );
}
