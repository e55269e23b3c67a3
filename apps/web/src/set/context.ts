import { createContext, useContext, useSyncExternalStore } from 'react';
import type { Schemas } from '../api/client.js';
import type { DraftSession } from './DraftSession.js';
import type { SetSession, Snapshot } from './SetSession.js';

export interface OpenSet {
  view: Schemas['SetView'];
  session: SetSession;
  draft: DraftSession;
  mayEdit: boolean;
}
export const OpenSetContext = createContext<OpenSet | null>(null);
export function useOpenSet(): OpenSet & Snapshot {
  const open = useContext(OpenSetContext);
  if (!open) throw new Error('no set is open');
  const snapshot = useSyncExternalStore(open.session.subscribe, open.session.get);
  return { ...open, ...snapshot };
}
