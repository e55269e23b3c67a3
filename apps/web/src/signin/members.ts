import { useQuery } from '@tanstack/react-query';
import { api, call } from '../api/client.js';

/** Who is a member of a workspace, with their roles. */
export const useMembers = (workspace: string) =>
  useQuery({
    queryKey: ['members', workspace],
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/members', { params: { path: { workspace } } })),
  });
