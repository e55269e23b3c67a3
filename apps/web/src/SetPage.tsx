/** A set with its five stages. Opens it once; the stages share it. */
import { counted, includedItems, type Item, type Operation, sayOperation } from '@zakuska/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { CloudAlert, CloudCheck, CloudUpload } from 'lucide-react';
import { Suspense, useContext, useEffect, useState, useSyncExternalStore } from 'react';
import { Link, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { ApiError, api, call, wordsOf } from './api/client.js';
import { DraftSession } from './set/DraftSession.js';
import { Busy, Empty, PageBoundary, StageLine, TopBar } from './frame/Frame.js';
import { useOpenFiles } from './open/OpenFiles.js';
import { Button } from './ui/Button.js';
import { Modal } from './ui/Modal.js';
import { useCommands } from './ui/commands.js';
import { OpenSetContext, type OpenSet, useOpenSet } from './set/context.js';
import { SetSession } from './set/SetSession.js';

export function SetPage() {
  const { set: id = '' } = useParams();
  const [open, setOpen] = useState<OpenSet | null>(null);
  const view = useQuery({
    queryKey: ['set', id],
    queryFn: () => call(api.GET('/api/v1/sets/{set}', { params: { path: { set: id } } })),
    staleTime: 0,
    refetchOnWindowFocus: false,
  });
  useEffect(() => {
    if (!view.data || open?.view.id === view.data.id) {
      // counts of deliveries and responses change while the set is open
      if (view.data && open && open.view !== view.data) setOpen({ ...open, view: view.data });
      return;
    }
    let current = true;
    void Promise.all([SetSession.open(view.data), DraftSession.open(view.data)]).then(([session, draft]) => {
      if (current && view.data) setOpen({ view: view.data, session, draft, mayEdit: view.data.role !== 'reader' });
    });
    return () => {
      current = false;
    };
  }, [view.data, open]);
  if (view.isError)
    return (
      <>
        <TopBar />
        <Empty title={view.error instanceof ApiError && view.error.status === 404 ? 'This set is not here' : 'The set could not be opened'}>
          <p>{wordsOf(view.error)}</p>
          <Button onClick={() => void view.refetch()}>Try again</Button>
          <Link className="link" to="/">
            To the list of sets
          </Link>
        </Empty>
      </>
    );
  if (!open || open.view.id !== id) return <Busy what="Opening the set" />;
  return (
    <OpenSetContext value={open}>
      <SetFrame />
    </OpenSetContext>
  );
}

function SetFrame() {
  const open = useContext(OpenSetContext);
  const files = useOpenFiles();
  useEffect(() => {
    files.target(open);
    return () => files.target(null);
  }, [files, open]);
  const { view, session, draft, document: doc, save, conflicts, problem } = useOpenSet();
  const draftState = useSyncExternalStore(draft.subscribe, draft.get);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { items } = doc.set;
  const checked = items.filter((i) => doc.reviews[i.id]?.state === 'checked').length;
  const included = includedItems(doc).length;
  const base = `/sets/${view.id}`;
  const stages = [
    { path: `${base}/draft`, name: 'Draft', count: draftState.text.trim() ? (items.length ? `${items.length} taken` : 'nothing taken yet') : 'empty' },
    { path: `${base}/check`, name: 'Check', count: items.length ? `${checked} of ${included} checked` : '–' },
    { path: `${base}/arrange`, name: 'Arrange', count: doc.drawn ? counted(doc.drawn.versions.length, 'version') : items.length ? 'one order' : '–' },
    {
      path: `${base}/deliver`,
      name: 'Deliver',
      count: view.receipts ? counted(view.receipts, 'receipt') : view.deliveries ? `${view.deliveries} published` : '–',
    },
    { path: `${base}/results`, name: 'Results', count: view.responses ? counted(view.responses, 'response') : '–' },
  ];
  const { pathname } = useLocation();
  useCommands([
    ...['Draft', 'Check', 'Arrange', 'Deliver', 'Results'].map((name) => ({
      name: `Go to ${name}`,
      run: () => void navigate(`${base}/${name.toLowerCase()}`),
    })),
    { name: 'Go to Versions', run: () => void navigate(`${base}/arrange/versions`) },
    { name: 'Go to Languages', run: () => void navigate(`${base}/check/languages`) },
    { name: 'Edit the set as text', run: () => void navigate(`${base}/text`) },
    { name: 'The notation: help page', run: () => void navigate('/notation') },
    { name: 'Undo', keys: ['Ctrl Z'], run: () => void session.undo() },
    { name: 'Redo', keys: ['Ctrl Shift Z', 'Ctrl Y'], shown: 'Ctrl Shift Z', run: () => void session.redo() },
  ]);

  useEffect(() => {
    const back = (): void => {
      void session.flush();
      void draft.save();
    };
    const look = (): void => void (document.visibilityState === 'visible' && session.refresh());
    addEventListener('online', back);
    document.addEventListener('visibilitychange', look);
    const every = setInterval(() => void session.refresh(), 15_000);
    return () => {
      removeEventListener('online', back);
      document.removeEventListener('visibilitychange', look);
      clearInterval(every);
      void draft.save();
    };
  }, [session, draft]);
  useEffect(() => {
    document.title = `${doc.set.title} · Zakuska`;
    void queries.invalidateQueries({ queryKey: ['sets'] });
  }, [doc.set.title, queries]);
  const said = problem ?? draftState.problem;
  useEffect(() => {
    if (said) toast.error(said);
  }, [said]);

  const worst = [save, draftState.save].includes('offline')
    ? 'offline'
    : save === 'refused'
      ? 'refused'
      : [save, draftState.save].includes('saving')
        ? 'saving'
        : 'saved';
  return (
    <div className="grid h-dvh grid-cols-1 grid-rows-[46px_58px_minmax(0,1fr)]">
      <TopBar>
        <span className="flex items-center gap-2">
          <span className="truncate">
            {view.path.length > 0 && <span className="hidden sm:inline">{view.path.join(' / ')} / </span>}
            <h1 className="inline font-[650] text-ink">{doc.set.title}</h1>
          </span>
          <Saved state={worst} />
        </span>
      </TopBar>
      <StageLine stages={stages} />
      <PageBoundary of={pathname}>
        <Suspense fallback={<Busy what="Opening" />}>
          <Outlet />
        </Suspense>
      </PageBoundary>
      <Modal
        open={conflicts.length > 0}
        onClose={() => undefined}
        title="Changed by somebody else meanwhile"
        description="Theirs is in the set now. Say for each of your changes whether it goes on top."
      >
        <ul className="grid gap-3">
          {conflicts.map((c) => (
            <li key={c.id} className="note">
              <p>{describe(c.operation, items)}</p>
              <Button look="quiet" onClick={() => session.settle(c, true)}>
                Use mine
              </Button>
              <Button look="quiet" onClick={() => session.settle(c, false)}>
                Keep theirs
              </Button>
            </li>
          ))}
        </ul>
      </Modal>
      <Modal
        open={draftState.theirs !== null}
        onClose={() => undefined}
        title="Somebody else changed this draft"
        description="Your text is kept in this browser. Which one shall stand?"
      >
        <div className="grid gap-3 sm:grid-cols-2">
          <Side name="Yours" text={draftState.text} action="Keep mine" onChoose={() => draft.settle(true)} />
          <Side name="Theirs" text={draftState.theirs?.text ?? ''} action="Take theirs" onChoose={() => draft.settle(false)} />
        </div>
      </Modal>
    </div>
  );
}

function Side({ name, text, action, onChoose }: { name: string; text: string; action: string; onChoose: () => void }) {
  return (
    <section className="grid content-start gap-2">
      <h3 className="font-semibold">
        {name}: {text.split('\n').length} lines
      </h3>
      <pre className="max-h-48 overflow-auto rounded border border-rule bg-paper p-2 font-mono text-xs whitespace-pre-wrap" tabIndex={0}>
        {text.slice(0, 4000)}
      </pre>
      <Button onClick={onChoose}>{action}</Button>
    </section>
  );
}

const SAVED = {
  saved: { Icon: CloudCheck, text: 'saved', look: 'text-ink-2' },
  saving: { Icon: CloudUpload, text: 'saving', look: 'text-ink-2' },
  offline: { Icon: CloudAlert, text: 'kept here, not sent yet', look: 'text-amber font-semibold' },
  refused: { Icon: CloudAlert, text: 'not accepted by the server', look: 'text-brick font-semibold' },
} as const;
function Saved({ state }: { state: keyof typeof SAVED }) {
  const { Icon, text, look } = SAVED[state];
  return (
    <span role="status" className={`inline-flex items-center gap-1 text-[13px] whitespace-nowrap ${look}`}>
      <Icon size={14} aria-hidden /> <span className="max-sm:sr-only">{text}</span>
    </span>
  );
}

/** An operation in words, for a person who has to decide about it: with the words that it would put there. */
const describe = (op: Operation, items: readonly Item[]): string => {
  const stem = op.type === 'change' && typeof op.set['stem'] === 'string' ? `: “${op.set['stem'].slice(0, 120)}”` : '';
  return `Yours: ${sayOperation(op, items)}${stem}`;
};
