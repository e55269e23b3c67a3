/** Tables of answers to a set, marked by it. */
import { Link } from 'react-router';
import { useOpenSet } from '../set/context.js';
import { MarkTable } from './MarkTable.js';

export default function MarkTableStage() {
  const { view, document: doc } = useOpenSet();
  return (
    <main className="overflow-auto px-4 py-3 sm:px-6">
      <Link to={`/sets/${view.id}/results`} className="link text-sm">
        Back to Results
      </Link>
      <MarkTable set={doc.set} />
    </main>
  );
}
