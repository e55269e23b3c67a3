/** Tables of answers marked without a set. */
import { Link } from 'react-router';
import { TopBar } from '../frame/Frame.js';
import { MarkTable } from './MarkTable.js';

export default function MarkTablePage() {
  return (
    <div className="grid h-dvh grid-cols-[minmax(0,1fr)] grid-rows-[46px_minmax(0,1fr)]">
      <TopBar>
        <Link to="/" className="hover:text-ink">
          Sets
        </Link>{' '}
        / Mark a table
      </TopBar>
      <main className="overflow-auto border-t border-rule px-4 py-4 sm:px-6">
        <h1 className="sr-only">Mark a table</h1>
        <MarkTable />
      </main>
    </div>
  );
}
