/** The workspace that one is in, of several: chosen once, kept in the browser. A tab stays in its own. */
import { useSyncExternalStore } from 'react';
import type { SessionView } from '../api/client.js';
import { useSession } from './session.js';

export type Workspace = SessionView['workspaces'][number];

const KEY = 'zakuska-workspace';
let chosen: string | null | undefined;
const listeners = new Set<() => void>();
const now = (): string | null => (chosen ??= localStorage.getItem(KEY));

export function chooseWorkspace(id: string): void {
  chosen = id;
  localStorage.setItem(KEY, id);
  for (const l of listeners) l();
}

/** The workspace that one is in; none for who is a member nowhere. */
export function useWorkspace(): Workspace | undefined {
  const { workspaces } = useSession();
  const id = useSyncExternalStore((l) => {
    listeners.add(l);
    return () => listeners.delete(l);
  }, now);
  return workspaces.find((w) => w.id === id) ?? workspaces[0];
}
