/** Requests kept with a set, and the wishes of the workspace. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Wish } from '@zakuska/core';
import { api, call, type Schemas } from '../api/client.js';

export type KeptRequest = Schemas['RequestView'];
type NewRequest = Schemas['RequestBody'];

/** The requests of a set, the last first, with ways to keep one, its reply, or to forget it. */
export function useRequests(set: string) {
  const queries = useQueryClient();
  const key = ['requests', set];
  const changed = { onSuccess: () => queries.invalidateQueries({ queryKey: key }) };
  const path = { set };
  return {
    ...useQuery({ queryKey: key, queryFn: () => call(api.GET('/api/v1/sets/{set}/requests', { params: { path } })) }),
    keep: useMutation({ mutationFn: (body: NewRequest) => call(api.POST('/api/v1/sets/{set}/requests', { params: { path }, body })), ...changed }),
    reply: useMutation({
      mutationFn: (r: { request: string; text: string }) =>
        call(api.PUT('/api/v1/sets/{set}/requests/{request}/reply', { params: { path: { ...path, request: r.request } }, body: { text: r.text } })),
      ...changed,
    }),
    forget: useMutation({
      mutationFn: (request: string) => call(api.DELETE('/api/v1/sets/{set}/requests/{request}', { params: { path: { ...path, request } } })),
      ...changed,
    }),
  };
}

/** The wishes that a workspace keeps by name. */
export function useWishes(workspace: string) {
  const queries = useQueryClient();
  const key = ['wishes', workspace];
  const changed = { onSuccess: () => queries.invalidateQueries({ queryKey: key }) };
  const path = { workspace };
  return {
    ...useQuery({ queryKey: key, queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/wishes', { params: { path } })) }),
    keep: useMutation({
      mutationFn: (w: { name: string; wish: Wish }) => call(api.PUT('/api/v1/workspaces/{workspace}/wishes', { params: { path }, body: w })),
      ...changed,
    }),
    forget: useMutation({
      mutationFn: (wish: string) => call(api.DELETE('/api/v1/workspaces/{workspace}/wishes/{wish}', { params: { path: { ...path, wish } } })),
      ...changed,
    }),
  };
}
