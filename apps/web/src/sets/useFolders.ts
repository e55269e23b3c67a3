/** Folders of a workspace as a tree, and what is done with them. */
import { mayAs } from '@zakuska/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { say } from '../words/say.js';

/** A folder with what lies in it. */
export interface Folder {
  id: string;
  name: string;
  parent: string | undefined;
  role: Schemas['FolderView']['role'];
  closed: boolean;
  /** Sets in it and in all below. */
  sets: number;
  /** Names from the top to itself. */
  path: string[];
  children: Folder[];
}
export interface FolderTree {
  top: Folder[];
  byId: ReadonlyMap<string, Folder>;
}

/** The tree of a list of folders that is in the order of names. */
export function treeOf(list: readonly Schemas['FolderView'][]): FolderTree {
  const byId = new Map<string, Folder>(list.map((f) => [f.id, { ...f, parent: f.parent, role: f.role, path: [], children: [] }]));
  const top: Folder[] = [];
  for (const f of byId.values()) (byId.get(f.parent ?? '')?.children ?? top).push(f);
  const settle = (f: Folder, path: string[]): number => {
    f.path = [...path, f.name];
    for (const c of f.children) f.sets += settle(c, f.path);
    return f.sets;
  };
  for (const f of top) settle(f, []);
  return { top, byId };
}
/** Whether a folder is another one or lies in it. */
export function within(tree: FolderTree, id: string | undefined, of: string): boolean {
  for (let f = id; f !== undefined; f = tree.byId.get(f)?.parent) if (f === of) return true;
  return false;
}
/** All folders in the order of the tree. */
export const inOrder = (folders: readonly Folder[]): Folder[] => folders.flatMap((f) => [f, ...inOrder(f.children)]);
/** Whether a person may put something into a folder. */
export const mayFill = (f: Pick<Folder, 'role'>): boolean => mayAs(f.role, 'editor');

export function useFolders(workspace: string | undefined) {
  const queries = useQueryClient();
  const folders = useQuery({
    queryKey: ['folders', workspace],
    enabled: workspace !== undefined,
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/folders', { params: { path: { workspace: workspace ?? '' } } })),
  });
  const tree = useMemo(() => treeOf(folders.data ?? []), [folders.data]);
  const changed = (): void => {
    for (const key of ['folders', 'sets', 'set', 'bank']) void queries.invalidateQueries({ queryKey: [key] });
  };
  const done = { onSuccess: changed, onError: (e: unknown) => void toast.error(wordsOf(e), { duration: 8000 }) };
  const make = useMutation({
    mutationFn: ({ name, parent }: { name: string; parent: string | undefined }) =>
      call(api.POST('/api/v1/workspaces/{workspace}/folders', { params: { path: { workspace: workspace ?? '' } }, body: { name, ...(parent && { parent }) } })),
    onSuccess: changed,
  });
  const rename = useMutation({
    mutationFn: ({ id, name }: { id: string; name: string }) =>
      call(api.PATCH('/api/v1/folders/{folder}', { params: { path: { folder: id } }, body: { name } })),
    onSuccess: changed,
  });
  /** Puts a folder into another; null for the top. */
  const move = useMutation({
    mutationFn: ({ id, into }: { id: string; into: string | null }) =>
      call(api.PATCH('/api/v1/folders/{folder}', { params: { path: { folder: id } }, body: { parent: into } })),
    ...done,
    onSuccess: (_, { id, into }) => {
      const from = tree.byId.get(id)?.parent ?? null;
      changed();
      toast(
        say('“{name}” is in {what} now.', {
          name: tree.byId.get(id)?.name ?? say('The folder'),
          what: into === null ? say('no folder') : `“${tree.byId.get(into)?.name ?? ''}”`,
        }),
        {
          action: { label: say('Undo'), onClick: () => move.mutate({ id, into: from }) },
        },
      );
    },
  });
  const remove = useMutation({
    mutationFn: (id: string) => call(api.DELETE('/api/v1/folders/{folder}', { params: { path: { folder: id } } })),
    ...done,
  });
  /** Puts sets into a folder, one after the other; null for none. */
  const fill = useMutation({
    mutationFn: async ({ sets, into }: { sets: readonly { id: string; folder?: string | undefined }[]; into: string | null }) => {
      for (const s of sets) await call(api.PUT('/api/v1/sets/{set}/folder', { params: { path: { set: s.id } }, body: { folder: into } }));
    },
    ...done,
    onSettled: changed,
    onSuccess: (_, { sets, into }) => {
      const what = say('{sets, plural, one {The set} other {# sets}}', { sets: sets.length });
      toast(
        say('{what} {sets, plural, one {is} other {are}} in {what3} now.', {
          what,
          what3: into === null ? say('no folder') : `“${tree.byId.get(into)?.name ?? ''}”`,
          sets: sets.length,
        }),
        {
          action: {
            label: say('Undo'),
            onClick: () => {
              for (const s of sets) fill.mutate({ sets: [s], into: s.folder ?? null });
            },
          },
        },
      );
    },
  });
  return { tree, loaded: folders.isSuccess, make, rename, move, remove, fill };
}
export type Folders = ReturnType<typeof useFolders>;
