/** The classes of a workspace, and one of them with its people, as everybody asks for them. */
import { queryOptions } from '@tanstack/react-query';
import { api, call } from './client.js';

export const classesOf = (workspace: string) =>
  queryOptions({
    queryKey: ['classes', workspace],
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/classes', { params: { path: { workspace } } })),
  });

export const fetchClass = (id: string) => call(api.GET('/api/v1/classes/{class}', { params: { path: { class: id } } }));
