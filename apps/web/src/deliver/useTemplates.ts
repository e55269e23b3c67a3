import { useQuery, useQueryClient } from '@tanstack/react-query';
import { api, call } from '../api/client.js';
import { useOpenSet } from '../set/context.js';
import type { KeptTemplate } from './deliver.worker.js';

const NONE: readonly KeptTemplate[] = [];

/** The import templates that the workspace keeps. */
export function useTemplates(): { templates: readonly KeptTemplate[]; changed: () => void } {
  const { view } = useOpenSet();
  const queries = useQueryClient();
  const list = useQuery({
    queryKey: ['templates', view.workspaceId],
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/templates', { params: { path: { workspace: view.workspaceId } } })),
  });
  return { templates: list.data ?? NONE, changed: () => void queries.invalidateQueries({ queryKey: ['templates', view.workspaceId] }) };
}
