import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { FolderOpen, Plus, Trash2 } from 'lucide-react';
import { type FormEvent, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, call, type SetSummary, wordsOf } from '../api/client.js';
import { Busy, Empty, TopBar } from '../frame/Frame.js';
import { useSession } from '../signin/session.js';
import { useOpenFiles } from '../open/OpenFiles.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { useCommands } from '../ui/commands.js';
import { Bin, useBin } from './Bin.js';

/** As many sets the server gives at a time. */
const PAGE = 200;

/** Where a set stands, in the words of the stage line. */
export function stageOf(s: SetSummary): { path: string; name: string; detail: string } {
  if (s.responses) return { path: 'results', name: 'Results', detail: `${s.responses} responses` };
  if (s.deliveries || s.receipts) return { path: 'deliver', name: 'Deliver', detail: s.deliveries ? 'quiz published' : 'pushed' };
  if (!s.items) return { path: 'draft', name: 'Draft', detail: s.draftLength ? 'nothing taken yet' : 'empty' };
  if (s.checked + s.leftOut < s.items) return { path: 'check', name: 'Check', detail: `${s.checked} of ${s.items} checked` };
  return { path: 'arrange', name: 'Arrange', detail: 'all checked' };
}

export function Sets() {
  const session = useSession();
  const [workspace] = session.workspaces;
  const [asking, setAsking] = useState(false);
  const files = useOpenFiles();
  const commands = useMemo(() => [{ name: 'New set', keys: ['N'], run: () => setAsking(true) }], []);
  useCommands(commands);
  const sets = useInfiniteQuery({
    queryKey: ['sets', workspace?.id],
    enabled: Boolean(workspace),
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam: after }) =>
      call(api.GET('/api/v1/workspaces/{workspace}/sets', { params: { path: { workspace: workspace?.id ?? '' }, query: after ? { after } : {} } })),
    getNextPageParam: (last) => (last.length < PAGE ? undefined : last.at(-1)?.id),
  });
  const all = useMemo(() => sets.data?.pages.flat() ?? [], [sets.data]);
  const bin = useBin(workspace?.id);
  const courses = useMemo(() => {
    const by = new Map<string, SetSummary[]>();
    for (const s of all) by.set(s.course || 'No course', [...(by.get(s.course || 'No course') ?? []), s]);
    return [...by].sort(([a], [b]) => a.localeCompare(b));
  }, [all]);
  return (
    <div className="min-h-screen">
      <TopBar>{workspace?.name}</TopBar>
      <main className="mx-auto max-w-5xl px-4 pb-16 sm:px-6">
        <div className="flex items-center justify-between gap-4 py-5">
          <h1 className="text-2xl font-bold">Sets</h1>
          <span className="flex flex-wrap items-center gap-2">
            <Link to="/bank" className="link mr-2 text-sm">
              Bank: all items
            </Link>
            {workspace?.role !== 'reader' && (
              <>
                <Button onClick={files.pick}>
                  <FolderOpen size={16} aria-hidden /> Open files
                </Button>
                <Button look="primary" onClick={() => setAsking(true)}>
                  <Plus size={16} aria-hidden /> New set
                </Button>
              </>
            )}
          </span>
        </div>
        {sets.isPending && <Busy what="Fetching the sets" />}
        {sets.isError && (
          <p className="note error" role="alert">
            {wordsOf(sets.error)}{' '}
            <Button look="quiet" onClick={() => void sets.refetch()}>
              Try again
            </Button>
          </p>
        )}
        {sets.data && !all.length && (
          <Empty title="No sets yet">
            <p>
              A set holds the questions of one quiz, from the first draft to the results. Start one and paste what you have, or drop files anywhere on this
              page.
            </p>
            <Button look="primary" onClick={() => setAsking(true)}>
              New set
            </Button>
          </Empty>
        )}
        {courses.map(([course, list]) => (
          <section key={course} className="mb-7">
            <h2 className="mb-1.5 font-semibold text-ink-2">{course}</h2>
            <div className="overflow-x-auto border-y border-rule bg-sheet">
              <table className="w-full min-w-160 table-fixed text-left">
                <colgroup>
                  <col />
                  <col className="w-56" />
                  <col className="w-52" />
                  <col className="w-32" />
                  <col className="w-14" />
                </colgroup>
                <thead className="sr-only">
                  <tr>
                    <th>Set</th>
                    <th>Stage</th>
                    <th>Items</th>
                    <th>Changed</th>
                    <th>Bin</th>
                  </tr>
                </thead>
                <tbody>
                  {list.map((s) => {
                    const stage = stageOf(s);
                    return (
                      <tr key={s.id} className="border-rule-2 not-first:border-t hover:bg-beet-soft/50">
                        <td className="px-4 py-2.5">
                          <Link to={`/sets/${s.id}/${stage.path}`} className="text-base font-semibold hover:text-beet hover:underline">
                            {s.title}
                          </Link>
                        </td>
                        <td className="px-4 py-2.5">
                          <span className="font-semibold">{stage.name}</span> <span className="text-[13.5px] text-ink-2">{stage.detail}</span>
                        </td>
                        <td className="px-4 py-2.5 text-[13.5px] whitespace-nowrap text-ink-2">
                          {s.items ? `${s.items} items, ${s.points} points` : 'no items'}
                          {s.withoutKey > 0 && <span className="text-brick"> · {s.withoutKey} no key</span>}
                        </td>
                        <td className="py-2.5 pl-4 py-2.5 text-right text-[13.5px] whitespace-nowrap text-ink-2">
                          {new Date(s.updatedAt).toLocaleDateString(undefined, { day: 'numeric', month: 'short' })}
                        </td>
                        <td className="pr-2 text-right">
                          {workspace?.role === 'owner' && (
                            <button
                              type="button"
                              aria-label={`Put “${s.title}” into the bin`}
                              title="Into the bin"
                              className="grid size-8 cursor-pointer place-items-center rounded text-ink-2 hover:bg-brick-soft hover:text-brick"
                              onClick={() => bin.ask(s)}
                            >
                              <Trash2 size={16} aria-hidden />
                            </button>
                          )}
                        </td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            </div>
          </section>
        ))}
        {sets.hasNextPage && (
          <p className="mb-7">
            <Button disabled={sets.isFetchingNextPage} onClick={() => void sets.fetchNextPage()}>
              Show sets from before
            </Button>
          </p>
        )}
        {workspace && <Bin bin={bin} mayChange={workspace.role === 'owner'} />}
      </main>
      {workspace && (
        <NewSet open={asking} onClose={() => setAsking(false)} workspace={workspace.id} courses={courses.map(([c]) => c).filter((c) => c !== 'No course')} />
      )}
    </div>
  );
}

function NewSet({ open, onClose, workspace, courses }: { open: boolean; onClose: () => void; workspace: string; courses: string[] }) {
  const [title, setTitle] = useState('');
  const [course, setCourse] = useState('');
  const queries = useQueryClient();
  const navigate = useNavigate();
  const create = useMutation({
    mutationFn: () =>
      call(api.POST('/api/v1/workspaces/{workspace}/sets', { params: { path: { workspace } }, body: { title: title.trim() || 'Untitled set', course } })),
    onSuccess: (s) => {
      void queries.invalidateQueries({ queryKey: ['sets'] });
      void navigate(`/sets/${s.id}/draft`);
    },
  });
  const submit = (e: FormEvent): void => {
    e.preventDefault();
    create.mutate();
  };
  return (
    <Modal open={open} onClose={onClose} title="New set">
      <form onSubmit={submit} className="grid gap-3">
        <Field label="Title">
          {(id) => <Input id={id} autoFocus maxLength={300} value={title} onChange={(e) => setTitle(e.target.value)} placeholder="Starters and proofing" />}
        </Field>
        <Field label="Course" hint="Sets of one course stand together. May stay empty." error={create.isError ? wordsOf(create.error) : undefined}>
          {(id) => (
            <>
              <Input id={id} list="courses" maxLength={200} value={course} onChange={(e) => setCourse(e.target.value)} />
              <datalist id="courses">
                {courses.map((c) => (
                  <option key={c}>{c}</option>
                ))}
              </datalist>
            </>
          )}
        </Field>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" disabled={create.isPending}>
            Start the set
          </Button>
        </div>
      </form>
    </Modal>
  );
}
