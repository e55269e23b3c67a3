/** The sources of a set, kept on the server. */
import { base64Of, type SourceText } from '@zakuska/core';
import { useMutation, useQueries, useQuery, useQueryClient, type UseMutationResult, type UseQueryResult } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { api, call, type Schemas } from '../api/client.js';
import { opener } from '../files/opening.js';
import { say } from '../words/say.js';
import { fixed } from '../ui/figures.js';

export type SourceSummary = Schemas['SourceSummary'];

/**
 * Keeps a file as a source of a set: its words, a transcript's times, and of a PDF the file itself.
 * @throws Error with words for the person where it cannot be read or is too large
 */
export async function keepAsSource(set: string, file: File, limit: number): Promise<SourceSummary> {
  if (file.size > limit)
    throw new Error(say('{name} has {n} MB; files of up to {n2} MB are kept.', { name: file.name, n: fixed(file.size / 1e6, 1), n2: fixed(limit / 1e6, 1) }));
  const bytes = new Uint8Array(await file.arrayBuffer());
  const read = await opener.call((remote) => remote.source(bytes, file.name));
  if ('error' in read) throw new Error(`${file.name}: ${read.error}`);
  const { text, cues, mediaType } = read;
  const pdf = mediaType === 'application/pdf';
  return call(
    api.POST('/api/v1/sets/{set}/sources', {
      params: { path: { set } },
      body: {
        name: file.name.slice(0, 300),
        mediaType,
        text,
        ...(cues.length && { cues }),
        ...(pdf && { data: base64Of(new Uint8Array(await file.arrayBuffer())) }),
      },
    }),
  );
}

export const useSources = (set: string): UseQueryResult<SourceSummary[]> =>
  useQuery({ queryKey: ['sources', set], queryFn: () => call(api.GET('/api/v1/sets/{set}/sources', { params: { path: { set } } })) });

/** The full texts of a set's sources, once all of them are there; null until then. */
export function useSourceTexts(set: string): { any: boolean; texts: readonly SourceText[] | null } {
  const list = useSources(set);
  const full = useQueries({
    queries: (list.data ?? []).map((s) => ({
      queryKey: ['source', s.id],
      staleTime: Number.POSITIVE_INFINITY,
      queryFn: () => call(api.GET('/api/v1/sources/{source}', { params: { path: { source: s.id } } })),
    })),
    combine: (all) => (all.every((q) => q.data) ? all.flatMap((q) => q.data ?? []) : null),
  });
  // the same sources are the same list, so that they are not read again at every change of the set
  const key = list.data && full ? full.map((s) => s.id).join(' ') : null;
  // oxlint-disable-next-line react/exhaustive-deps -- `full` is a new list at every drawing
  const texts = useMemo(() => (key === null || !full ? null : full.map(({ id, name, text, cues }) => ({ id, name, text, cues }))), [key]);
  return { any: !!list.data?.length, texts };
}

/** Which source is shown beside the work, kept in the address: null where none is, '' for the first. */
export function useShownSource(): [string | null, (id: string | null) => void] {
  const [search, setSearch] = useSearchParams();
  const show = useCallback(
    (id: string | null) => setSearch((s) => (id === null ? s.delete('source') : s.set('source', id), s), { replace: true }),
    [setSearch],
  );
  return [search.get('source'), show];
}

/** An action on a set's sources; the list is fetched anew afterwards. */
export function useSourceAction<A, R>(set: string, run: (a: A) => Promise<R>): UseMutationResult<R, Error, A> {
  const queries = useQueryClient();
  return useMutation({ mutationFn: run, onSuccess: () => queries.invalidateQueries({ queryKey: ['sources', set] }) });
}
