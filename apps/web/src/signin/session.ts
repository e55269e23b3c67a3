import { mayAs, type MemberRole } from '@zakuska/core';
import { createContext, useContext } from 'react';
import type { SessionView } from '../api/client.js';

export const SessionContext = createContext<SessionView | null>(null);
/** Who is signed in. Only inside the signed-in part of the application. */
export function useSession(): SessionView {
  const s = useContext(SessionContext);
  if (!s) throw new Error('no session here');
  return s;
}
/** Whether who is signed in may do in a workspace what a role is needed for. */
export function useMayIn(workspace: string, needs: MemberRole): boolean {
  return mayAs(useSession().workspaces.find((w) => w.id === workspace)?.role, needs);
}
