/** A set with its five stages. Opens it once; the stages share it. */
import { includedItems, mayAs } from '@zakuska/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { CloudAlert, CloudCheck, CloudUpload, Pencil, Users } from 'lucide-react';
import { Suspense, useCallback, useContext, useEffect, useState, useSyncExternalStore } from 'react';
import { Link, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { ApiError, api, call, wordsOf } from './api/client.js';
import { DraftSession } from './set/DraftSession.js';
import { Busy, Empty, PageBoundary, StageLine, TopBar } from './frame/Frame.js';
import { NameDialog } from './frame/NameDialog.js';
import { useOpenFiles } from './open/OpenFiles.js';
import { Button } from './ui/Button.js';
import { useCommands } from './ui/commands.js';
import { Conflicts } from './together/Conflicts.js';
import { OpenSetContext, type OpenSet, useOpenSet } from './set/context.js';
import { SetSession } from './set/SetSession.js';
import { fetchStages } from './stages.js';
import { type PersonHere, type Place, useTogether } from './together/useTogether.js';
import { say } from './words/say.js';

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
      if (current && view.data) setOpen({ view: view.data, session, draft, mayEdit: mayAs(view.data.role, 'editor') });
    });
    return () => {
      current = false;
    };
  }, [view.data, open]);
  if (view.isError)
    return (
      <>
        <TopBar />
        <Empty title={view.error instanceof ApiError && view.error.status === 404 ? say('This set is not here') : say('The set could not be opened')}>
          <p>{wordsOf(view.error)}</p>
          <Button onClick={() => void view.refetch()}>{say('Try again')}</Button>
          <Link className="link" to="/">
            {say('To the list of sets')}
          </Link>
        </Empty>
      </>
    );
  if (!open || open.view.id !== id) return <Busy what={say('Opening the set')} />;
  return (
    <OpenSetContext value={open}>
      <SetFrame />
    </OpenSetContext>
  );
}

function SetFrame() {
  const open = useContext(OpenSetContext);
  const files = useOpenFiles();
  useEffect(fetchStages, []);
  useEffect(() => {
    files.target(open);
    return () => files.target(null);
  }, [files, open]);
  const [naming, setNaming] = useState(false);
  const { view, session, draft, mayEdit, document: doc, save, conflicts, problem } = useOpenSet();
  const draftState = useSyncExternalStore(draft.subscribe, draft.get);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { items } = doc.set;
  const checked = items.filter((i) => doc.reviews[i.id]?.state === 'checked').length;
  const included = includedItems(doc).length;
  const base = `/sets/${view.id}`;
  const stages = [
    {
      path: `${base}/draft`,
      name: say('Draft'),
      count: draftState.text.trim() ? (items.length ? say('{items} taken', { items: items.length }) : say('nothing taken yet')) : say('empty'),
    },
    { path: `${base}/check`, name: say('Check'), count: items.length ? say('{checked} of {included} checked', { checked, included }) : '–' },
    {
      path: `${base}/arrange`,
      name: say('Arrange'),
      count: doc.drawn
        ? say('{versions, plural, one {# version} other {# versions}}', { versions: doc.drawn.versions.length })
        : items.length
          ? say('one order')
          : '–',
    },
    {
      path: `${base}/deliver`,
      name: say('Deliver'),
      count: view.receipts
        ? say('{receipts, plural, one {# receipt} other {# receipts}}', { receipts: view.receipts })
        : view.deliveries
          ? say('{deliveries} published', { deliveries: view.deliveries })
          : '–',
    },
    {
      path: `${base}/results`,
      name: say('Results'),
      count: view.responses ? say('{responses, plural, one {# response} other {# responses}}', { responses: view.responses }) : '–',
    },
  ];
  const { pathname } = useLocation();
  useCommands([
    ...stages.map(({ path, name }) => ({
      name: say('Go to {name}', { name }),
      run: () => void navigate(path),
    })),
    { name: say('Go to Versions'), run: () => void navigate(`${base}/arrange/versions`) },
    { name: say('Go to Languages'), run: () => void navigate(`${base}/check/languages`) },
    ...(mayEdit ? [{ name: say('Rename the set'), run: () => setNaming(true) }] : []),
    { name: say('Edit the set as text'), run: () => void navigate(`${base}/text`) },
    { name: say('The notation: help page'), run: () => void navigate('/notation') },
    { name: say('Undo'), keys: ['Ctrl Z'], run: () => void session.undo() },
    { name: say('Redo'), keys: ['Ctrl Shift Z', 'Ctrl Y'], shown: 'Ctrl Shift Z', run: () => void session.redo() },
  ]);

  const heard = useCallback(
    (now: { version: number; draftVersion: number }): void => {
      session.heard(now.version);
      void draft.heard(now.draftVersion);
    },
    [session, draft],
  );
  const people = useTogether(view.id, placeOf(pathname), heard);
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
    document.title = say('{title} · Zakuska', { title: doc.set.title });
    void queries.invalidateQueries({ queryKey: ['sets'] });
  }, [doc.set.title, queries]);
  const said = problem ?? draftState.problem;
  useEffect(() => {
    // once it is over, nobody is told any more
    if (said) toast.error(said, { id: SAVING });
    else toast.dismiss(SAVING);
  }, [said]);

  const worst = [save, draftState.save].includes('offline')
    ? 'offline'
    : save === 'refused'
      ? 'refused'
      : conflicts.length || draftState.theirs
        ? 'waiting'
        : [save, draftState.save].includes('saving')
          ? 'saving'
          : 'saved';
  return (
    <div className="grid h-dvh grid-cols-1 grid-rows-[46px_auto_auto_minmax(0,1fr)]">
      <TopBar>
        <span className="flex items-center gap-2">
          {/* where it lies gives way before its name does */}
          <span className="flex min-w-0" title={[...view.path, doc.set.title].join(' / ')}>
            {view.path.length > 0 && <span className="hidden min-w-0 truncate whitespace-pre md:block">{view.path.join(' / ')} / </span>}
            {/* who points presses the title; the keyboard and who listens have a button of that name */}
            <h1
              className={`max-w-full font-[650] text-ink max-sm:line-clamp-2 sm:shrink-0 sm:truncate ${mayEdit ? 'cursor-pointer hover:text-beet hover:underline' : ''}`}
              onClick={() => mayEdit && setNaming(true)}
            >
              {doc.set.title}
            </h1>
            {mayEdit && (
              <button
                type="button"
                aria-label={say('Rename the set')}
                title={say('Rename the set')}
                className="grid size-6 shrink-0 cursor-pointer place-items-center rounded text-ink-2 hover:bg-beet-soft hover:text-beet max-sm:sr-only"
                onClick={() => setNaming(true)}
              >
                <Pencil size={13} aria-hidden />
              </button>
            )}
          </span>
          <Saved state={worst} />
          <Here people={people} />
        </span>
      </TopBar>
      {naming && (
        <NameDialog
          title={say('Rename the set')}
          label={say('Title')}
          value={doc.set.title}
          action={say('Rename')}
          onName={async (title) => void session.perform({ type: 'describe', set: { title } })}
          onClose={() => setNaming(false)}
        />
      )}
      <StageLine stages={stages} />
      <Conflicts />
      <PageBoundary of={pathname}>
        <Suspense fallback={<Busy what={say('Opening')} />}>
          <Outlet />
        </Suspense>
      </PageBoundary>
    </div>
  );
}

/** The one message about saving. */
const SAVING = 'saving';
const SAVED = {
  saved: { Icon: CloudCheck, text: say('saved'), look: 'text-ink-2' },
  saving: { Icon: CloudUpload, text: say('saving'), look: 'text-ink-2' },
  offline: { Icon: CloudAlert, text: say('kept here, not sent yet'), look: 'text-amber font-semibold' },
  waiting: { Icon: CloudAlert, text: say('a change of yours waits for you'), look: 'text-amber font-semibold' },
  refused: { Icon: CloudAlert, text: say('not accepted by the server'), look: 'text-brick font-semibold' },
} as const;
/** Who else has the set open: names and where they are; on small screens how many. */
function Here({ people }: { people: readonly PersonHere[] }) {
  if (!people.length) return null;
  const words = people.map((p) => say('{name} in {PLACES}', { name: p.name, PLACES: PLACES[p.place] }));
  return (
    <span className="inline-flex shrink-0 items-center gap-1 text-[13px] text-ink-2 lg:min-w-0 lg:shrink" title={words.join('\n')}>
      <Users size={14} aria-hidden className="shrink-0" />
      <span className="truncate max-lg:sr-only">
        {words.slice(0, 2).join(', ')}
        {words.length > 2 && say(' and {n} more', { n: words.length - 2 })}
      </span>
      <span className="lg:hidden" aria-hidden>
        {people.length}
      </span>
    </span>
  );
}
const PLACES: Record<Place, string> = {
  draft: say('Draft'),
  check: say('Check'),
  arrange: say('Arrange'),
  deliver: say('Deliver'),
  results: say('Results'),
  text: say('the set as text'),
};
const placeOf = (pathname: string): Place => (Object.keys(PLACES) as Place[]).find((p) => pathname.split('/')[3] === p) ?? 'draft';

function Saved({ state }: { state: keyof typeof SAVED }) {
  const { Icon, text, look } = SAVED[state];
  return (
    <span role="status" className={`inline-flex items-center gap-1 text-[13px] whitespace-nowrap ${look}`}>
      <Icon size={14} aria-hidden /> <span className="max-sm:sr-only">{text}</span>
    </span>
  );
}
