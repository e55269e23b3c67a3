/** The assistant of a workspace, and asking it: what comes back is heard piece by piece. */
import { useQuery, useQueryClient, type UseQueryResult } from '@tanstack/react-query';
import { newId } from '@zakuska/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { follow } from '../api/follow.js';

export const assistantKey = (workspace: string): readonly string[] => ['assistant', workspace];

/** The assistant that may be asked, with what one has left in this month. */
export const useAssistant = (workspace: string): UseQueryResult<Schemas['AssistantView']> =>
  useQuery({
    queryKey: assistantKey(workspace),
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/assistant', { params: { path: { workspace } } })),
  });

export type Asked = Schemas['AskView'];
/** An event: the reply from a place on. */
type Piece = Asked & { at: number };

export interface Asking {
  /** What was asked last from this page; its reply as far as it has come. */
  asked: Asked | null;
  /** It is being sent, or is under way. */
  busy: boolean;
  /** Why nothing was sent. */
  problem: string;
  ask: (what: { purpose: Schemas['AskBody']['purpose']; text: string; request?: string | undefined }) => Promise<void>;
  stop: () => void;
}

/** @param heard gets the reply whenever more of it has come */
export function useAsking(set: string, workspace: string, heard: (reply: string) => void): Asking {
  const queries = useQueryClient();
  const [asked, setAsked] = useState<Asked | null>(null);
  const [sending, setSending] = useState(false);
  const [problem, setProblem] = useState('');
  const hear = useRef(heard);
  useEffect(() => {
    hear.current = heard;
  });
  const id = asked?.state === 'running' ? asked.id : null;
  useEffect(() => {
    if (!id) return;
    let reply = '';
    return follow<Asked>(
      {
        events: `/api/v1/asks/${id}/events`,
        read: (data) => {
          const { at, ...piece } = JSON.parse(data) as Piece;
          return { ...piece, reply: reply.slice(0, at) + piece.reply };
        },
        ask: () => call(api.GET('/api/v1/asks/{ask}', { params: { path: { ask: id } } })),
        isOpen: (a) => a.state === 'running',
      },
      (next) => {
        reply = next.reply;
        setAsked(next);
        hear.current(reply);
        if (next.state !== 'running') for (const key of [assistantKey(workspace), ['requests', set]]) void queries.invalidateQueries({ queryKey: key });
      },
    );
  }, [id, queries, set, workspace]);
  const ask = useCallback<Asking['ask']>(
    async ({ purpose, text, request }) => {
      setSending(true);
      setProblem('');
      try {
        const body = { id: newId(), purpose, text, ...(request !== undefined && { request }) };
        setAsked(await call(api.POST('/api/v1/sets/{set}/asks', { params: { path: { set } }, body })));
      } catch (e) {
        setAsked(null);
        setProblem(wordsOf(e));
      }
      setSending(false);
      void queries.invalidateQueries({ queryKey: assistantKey(workspace) });
    },
    [set, workspace, queries],
  );
  const stop = useCallback((): void => {
    if (id) void call(api.POST('/api/v1/asks/{ask}/stop', { params: { path: { ask: id } } })).catch((e: unknown) => setProblem(wordsOf(e)));
  }, [id]);
  return { asked, busy: sending || id !== null, problem, ask, stop };
}
