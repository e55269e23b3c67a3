/** All sets of a workspace: in folders, found by words, opened, and what is done with several at once. */
import { keepPreviousData, useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { mayAs } from '@zakuska/core';
import { FolderOpen, FolderPlus, Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { api, call, type SetSummary, wordsOf } from '../api/client.js';
import { Busy, Empty, Foot, TopBar } from '../frame/Frame.js';
import { WorkspaceMenu } from '../frame/WorkspaceMenu.js';
import { Tour } from '../help/HelpDialog.js';
import { NotFetched } from '../frame/NotFetched.js';
import { useOpenFiles } from '../open/OpenFiles.js';
import { useWorkspace } from '../signin/workspace.js';
import { Button } from '../ui/Button.js';
import { useCommands } from '../ui/commands.js';
import { Dragging } from '../ui/Dragging.js';
import { Input, Select, useTyped } from '../ui/Field.js';
import { operateOn } from '../api/operateOn.js';
import { Ask, Bin, useBin } from './Bin.js';
import { FolderTree, type Place } from './FolderTree.js';
import { MoveDialog } from './MoveDialog.js';
import { NameDialog } from '../frame/NameDialog.js';
import { NewSet } from './NewSet.js';
import { Samples } from './Samples.js';
import { SetTable } from './SetTable.js';
import { ShareDialog } from './ShareDialog.js';
import { type Folder, mayFill, useFolders, within } from './useFolders.js';
import { say } from '../words/say.js';

/** As many sets the server gives at a time. */
const PAGE = 200;
const SORTS = { changed: say('last changed'), opened: say('last opened'), title: say('by title') } as const;
type Sort = keyof typeof SORTS;

/** What was dragged. */
interface Dragged {
  set?: string;
  folder?: string;
}
/** What a dialog is open for. */
type Asking =
  | { for: 'new set' | 'move chosen' | 'samples' }
  | { for: 'new folder'; parent: Folder | undefined }
  | { for: 'rename set' | 'move set' | 'share set'; set: SetSummary }
  | { for: 'rename folder' | 'move folder' | 'share folder' | 'remove folder'; folder: Folder };

export function Sets() {
  const workspace = useWorkspace();
  const [params, setParams] = useSearchParams();
  const place: Place = params.get('folder') ?? '';
  const q = params.get('q') ?? '';
  const said = params.get('sort');
  const sort: Sort = said !== null && said in SORTS ? (said as Sort) : 'changed';
  const show = (name: string, value: string): void => {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    setParams(next, { replace: true });
  };
  const [asking, ask] = useState<Asking>();
  const close = (): void => ask(undefined);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [touring, setTouring] = useState(false);
  const files = useOpenFiles();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const folders = useFolders(workspace?.id);
  const { tree } = folders;
  const here = tree.byId.get(place);
  const mayMake = mayAs(workspace?.role, 'editor');
  const mayMakeHere = mayMake && (!here || mayFill(here));
  const words = useTyped(q, (v) => show('q', v));
  const sets = useInfiniteQuery({
    queryKey: ['sets', workspace?.id, place, q, sort],
    enabled: Boolean(workspace),
    placeholderData: keepPreviousData,
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam: after }) =>
      call(
        api.GET('/api/v1/workspaces/{workspace}/sets', {
          params: { path: { workspace: workspace?.id ?? '' }, query: { sort, ...(q && { q }), ...(place && { folder: place }), ...(after && { after }) } },
        }),
      ),
    getNextPageParam: (last) => (last.length < PAGE ? undefined : last.at(-1)?.id),
  });
  const all = useMemo(() => sets.data?.pages.flat() ?? [], [sets.data]);
  const taken = all.filter((s) => chosen.has(s.id));
  const bin = useBin(workspace?.id);
  const changed = (): void => {
    for (const key of ['sets', 'set', 'folders', 'bank']) void queries.invalidateQueries({ queryKey: [key] });
  };
  const copy = useMutation({
    mutationFn: (s: SetSummary) => call(api.POST('/api/v1/sets/{set}/copy', { params: { path: { set: s.id } }, body: {} })),
    onSuccess: (made) => {
      changed();
      toast(say('“{title}” is there.', { title: made.title }), { action: { label: say('Open it'), onClick: () => void navigate(`/sets/${made.id}/draft`) } });
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  const rename = async (s: SetSummary, title: string): Promise<void> => {
    await operateOn(s.id, () => ({ type: 'describe', set: { title } }));
    changed();
  };
  useCommands([
    ...(mayMake
      ? [
          { name: say('New set'), keys: ['N'], run: () => ask({ for: 'new set' }) },
          { name: say('Sample sets'), run: () => ask({ for: 'samples' }) },
        ]
      : []),
    ...(mayMakeHere ? [{ name: say('New folder'), run: () => ask({ for: 'new folder', parent: here }) }] : []),
    { name: say('Find a set'), keys: ['/'], run: () => document.querySelector<HTMLInputElement>('#find-set')?.focus() },
    ...(here && mayFill(here)
      ? [
          { name: say('Rename the folder “{name}”', { name: here.name }), run: () => ask({ for: 'rename folder', folder: here }) },
          { name: say('Move the folder “{name}”', { name: here.name }), run: () => ask({ for: 'move folder', folder: here }) },
          { name: say('Delete the folder “{name}”', { name: here.name }), run: () => ask({ for: 'remove folder', folder: here }) },
        ]
      : []),
  ]);
  const dropped = (data: Dragged, into: string | null): void => {
    if (data.folder !== undefined && data.folder !== into && tree.byId.get(data.folder)?.parent !== (into ?? undefined))
      folders.move.mutate({ id: data.folder, into });
    if (data.set === undefined) return;
    // one of the chosen takes the others along
    const going = (chosen.has(data.set) ? taken : all.filter((s) => s.id === data.set)).filter(
      (s) => s.folder !== (into ?? undefined) && mayAs(s.role, 'editor'),
    );
    if (going.length) folders.fill.mutate({ sets: going, into });
  };
  const link = 'link cursor-pointer text-sm';
  const dialog = asking && workspace && (
    <>
      {asking.for === 'new set' && <NewSet workspace={workspace.id} tree={tree} folder={mayMakeHere && here ? here.id : ''} onClose={close} />}
      {asking.for === 'samples' && <Samples workspace={workspace.id} folder={mayMakeHere && here ? here.id : ''} onClose={close} />}
      {asking.for === 'new folder' && (
        <NameDialog
          title={asking.parent ? say('New folder in “{name}”', { name: asking.parent.name }) : say('New folder')}
          label={say('Name')}
          action={say('Make the folder')}
          onName={(name) => folders.make.mutateAsync({ name, parent: asking.parent?.id }).then((f) => show('folder', f.id))}
          onClose={close}
        />
      )}
      {asking.for === 'rename set' && (
        <NameDialog
          title={say('Rename the set')}
          label={say('Title')}
          value={asking.set.title}
          action={say('Rename')}
          onName={(t) => rename(asking.set, t)}
          onClose={close}
        />
      )}
      {asking.for === 'rename folder' && (
        <NameDialog
          title={say('Rename the folder')}
          label={say('Name')}
          value={asking.folder.name}
          action={say('Rename')}
          onName={(name) => folders.rename.mutateAsync({ id: asking.folder.id, name })}
          onClose={close}
        />
      )}
      {asking.for === 'move set' && (
        <MoveDialog
          what={`“${asking.set.title}”`}
          tree={tree}
          from={asking.set.folder ?? ''}
          onMove={(into) => folders.fill.mutate({ sets: [asking.set], into })}
          onClose={close}
        />
      )}
      {asking.for === 'move chosen' && (
        <MoveDialog
          what={say('{taken, plural, one {# set} other {# sets}}', { taken: taken.length })}
          tree={tree}
          from={taken.every((s) => s.folder === taken[0]?.folder) ? (taken[0]?.folder ?? '') : '?'}
          onMove={(into) => folders.fill.mutate({ sets: taken, into })}
          onClose={close}
        />
      )}
      {asking.for === 'move folder' && (
        <MoveDialog
          what={say('the folder “{name}”', { name: asking.folder.name })}
          tree={tree}
          from={asking.folder.parent ?? ''}
          without={(id) => within(tree, id, asking.folder.id)}
          onMove={(into) => folders.move.mutate({ id: asking.folder.id, into })}
          onClose={close}
        />
      )}
      {asking.for === 'share set' && (
        <ShareDialog what="set" id={asking.set.id} title={asking.set.title} workspace={workspace.id} may={asking.set.role === 'owner'} onClose={close} />
      )}
      {asking.for === 'share folder' && (
        <ShareDialog
          what="folder"
          id={asking.folder.id}
          title={asking.folder.name}
          workspace={workspace.id}
          may={asking.folder.role === 'owner'}
          onClose={close}
        />
      )}
      <Ask
        open={asking.for === 'remove folder'}
        title={say('Delete the folder “{what}”?', { what: asking.for === 'remove folder' ? asking.folder.name : '' })}
        description={
          asking.for === 'remove folder' && (asking.folder.sets > 0 || asking.folder.children.length > 0)
            ? say('What is in it, {sets, plural, one {# set} other {# sets}}, moves up: {what}. No set is deleted.', {
                sets: asking.folder.sets,
                what: asking.folder.parent ? say('into “{name}”', { name: tree.byId.get(asking.folder.parent)?.name ?? '' }) : say('in no folder'),
              })
            : say('It is empty.')
        }
        action={say('Delete the folder')}
        onDo={() => {
          if (asking.for !== 'remove folder') return;
          folders.remove.mutate(asking.folder.id);
          if (place === asking.folder.id) show('folder', asking.folder.parent ?? '');
          close();
        }}
        onClose={close}
      />
    </>
  );
  if (!workspace)
    return (
      <div className="grid min-h-dvh grid-rows-[46px_minmax(0,1fr)]">
        <TopBar />
        <main>
          <Empty title={say('You are a member of no workspace')}>
            <p className="text-ink-2">{say('Sets lie in workspaces. Ask a colleague for an invitation, or make a workspace of your own.')}</p>
            <Link to="/account" className="link">
              {say('To your account')}
            </Link>
          </Empty>
        </main>
      </div>
    );
  return (
    <Dragging onDrop={(what, onto) => dropped(what as Dragged, (onto as { into: string | null }).into)}>
      <div className="grid min-h-dvh grid-cols-[minmax(0,1fr)] grid-rows-[46px_minmax(0,1fr)_auto]">
        <TopBar>
          <WorkspaceMenu />
        </TopBar>
        <main className="mx-auto grid w-full max-w-6xl grid-cols-[minmax(0,1fr)] content-start gap-x-8 px-4 pb-16 sm:px-6 lg:grid-cols-[230px_minmax(0,1fr)]">
          <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 py-5 lg:col-span-2">
            <h1 className="text-2xl font-bold">{say('Sets')}</h1>
            <span className="flex flex-wrap items-center gap-2">
              <Link to="/bank" className="link mr-2 text-sm">
                {say('Bank: all items')}
              </Link>
              <Link to="/table" className="link mr-2 text-sm">
                {say('Mark a table')}
              </Link>
              {mayMake && (
                <>
                  <Button look="quiet" onClick={() => ask({ for: 'samples' })}>
                    {say('Sample sets')}
                  </Button>
                  <Button onClick={files.pick}>
                    <FolderOpen size={16} aria-hidden /> {say('Open files')}
                  </Button>
                  <Button look="primary" onClick={() => ask({ for: 'new set' })}>
                    <Plus size={16} aria-hidden /> {say('New set')}
                  </Button>
                </>
              )}
            </span>
          </div>
          <nav aria-label={say('Folders')} className="mb-5 grid grid-cols-[minmax(0,1fr)] content-start gap-2 max-lg:max-h-72 max-lg:overflow-auto">
            <FolderTree
              tree={tree}
              place={place}
              onPlace={(p) => {
                show('folder', p);
                setChosen(new Set());
              }}
              onRename={(folder) => ask({ for: 'rename folder', folder })}
              onRemove={(folder) => ask({ for: 'remove folder', folder })}
            />
            {mayMakeHere && (
              <span>
                <Button look="quiet" onClick={() => ask({ for: 'new folder', parent: here })}>
                  <FolderPlus size={15} aria-hidden /> {say('New folder{more}', { more: here && say(' in it') })}
                </Button>
              </span>
            )}
          </nav>
          <section aria-label={here?.name ?? (place === 'none' ? say('Sets in no folder') : say('All sets'))} className="min-w-0">
            <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
              {here && (
                <span className="min-w-0">
                  {here.path.length > 1 && <span className="text-ink-2">{here.path.slice(0, -1).join(' / ')} / </span>}
                  <h2 className="inline text-lg font-bold">{here.name}</h2>
                </span>
              )}
              {here && (
                <span className="flex flex-wrap gap-3">
                  {mayFill(here) && (
                    <>
                      <button type="button" className={link} onClick={() => ask({ for: 'rename folder', folder: here })}>
                        {say('Rename')}
                      </button>
                      <button type="button" className={link} onClick={() => ask({ for: 'move folder', folder: here })}>
                        {say('Move')}
                      </button>
                    </>
                  )}
                  {here.role && (
                    <button type="button" className={link} onClick={() => ask({ for: 'share folder', folder: here })}>
                      {here.role === 'owner' ? say('Share') : say('Who sees it')}
                    </button>
                  )}
                  {mayFill(here) && (
                    <button type="button" className={link} onClick={() => ask({ for: 'remove folder', folder: here })}>
                      {say('Delete')}
                    </button>
                  )}
                </span>
              )}
              <span className="flex-1" />
              <Input id="find-set" type="search" aria-label={say('Find a set')} placeholder={say('Find a set')} className="w-44! py-1! text-sm" {...words} />
              <span className="flex items-center gap-2 text-sm text-ink-2">
                {say('Order')}
                <Select
                  aria-label={say('Order')}
                  className="w-36! py-1! text-sm"
                  value={sort}
                  onChange={(e) => show('sort', e.target.value === 'changed' ? '' : e.target.value)}
                >
                  {Object.entries(SORTS).map(([value, name]) => (
                    <option key={value} value={value}>
                      {name}
                    </option>
                  ))}
                </Select>
              </span>
            </div>
            {sets.isPending && <Busy what={say('Fetching the sets')} />}
            {sets.isError && <NotFetched query={sets} />}
            {sets.data && !all.length && (
              <Empty title={q ? say('No set has these words') : place ? say('No sets here') : say('No sets yet')}>
                {q ? (
                  <Button onClick={() => show('q', '')}>{say('Show all of them')}</Button>
                ) : (
                  <>
                    <p>
                      {place
                        ? say('Start a set here, or drag sets onto the folder from “All sets”.')
                        : say(
                            'A set holds the questions of one quiz, from the first draft to the results. Start one and paste what you have, or drop files anywhere on this page.',
                          )}
                    </p>
                    {mayMakeHere && (
                      <Button look="primary" onClick={() => ask({ for: 'new set' })}>
                        {say('New set')}
                      </Button>
                    )}
                    {!place && (
                      <Button look="quiet" onClick={() => setTouring(true)}>
                        {say('See the way in five steps')}
                      </Button>
                    )}
                    {touring && <Tour onClose={() => setTouring(false)} />}
                  </>
                )}
              </Empty>
            )}
            {all.length > 0 && (
              <div className={sets.isPlaceholderData ? 'opacity-60' : ''}>
                <SetTable
                  sets={all}
                  chosen={chosen}
                  onChosen={setChosen}
                  under={here?.path.length ?? 0}
                  opened={sort === 'opened'}
                  mayMake={mayMake}
                  deeds={{
                    rename: (set) => ask({ for: 'rename set', set }),
                    copy: (s) => copy.mutate(s),
                    move: (set) => ask({ for: 'move set', set }),
                    share: (set) => ask({ for: 'share set', set }),
                    bin: bin.ask,
                  }}
                />
              </div>
            )}
            {sets.hasNextPage && (
              <p className="my-4">
                <Button disabled={sets.isFetchingNextPage} onClick={() => void sets.fetchNextPage()}>
                  {say('Show more sets')}
                </Button>
              </p>
            )}
            <div className="mt-7">{workspace && <Bin bin={bin} />}</div>
          </section>
        </main>
        {taken.length > 0 ? (
          <div className="sticky bottom-0">
            <Foot>
              <b className="text-ink">{say('{taken, plural, one {# set} other {# sets}} chosen', { taken: taken.length })}</b>
              <span className="flex-1" />
              <Button look="quiet" onClick={() => setChosen(new Set())}>
                {say('Choose none')}
              </Button>
              {taken.every((s) => mayAs(s.role, 'editor')) && <Button onClick={() => ask({ for: 'move chosen' })}>{say('Move to a folder')}</Button>}
              <Button look="primary" onClick={() => void navigate(`/bank?${taken.map((s) => `set=${s.id}`).join('&')}`)}>
                {say('See their items together')}
              </Button>
            </Foot>
          </div>
        ) : (
          <span />
        )}
      </div>
      {dialog}
    </Dragging>
  );
}
