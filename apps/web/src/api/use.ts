/** How the items of a set did where they were answered, as everybody asks for it. */
import { queryOptions } from '@tanstack/react-query';
import { api, call } from './client.js';

export const useOfSet = (set: string) =>
  queryOptions({
    queryKey: ['use', set],
    staleTime: 60_000,
    retry: 1,
    queryFn: async () => {
      const list = await call(api.GET('/api/v1/sets/{set}/use', { params: { path: { set } } }));
      return Object.fromEntries(list.map(({ item, ...u }) => [item, u]));
    },
  });
