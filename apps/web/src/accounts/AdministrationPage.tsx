/** Who is a member of a workspace with what role, who is invited, and what happened there. */
import { mayAs } from '@zakuska/core';
import { Tabs } from 'radix-ui';
import { useSearchParams } from 'react-router';
import { TopBar } from '../frame/Frame.js';
import { WorkspaceField } from '../frame/WorkspaceField.js';
import { useSession } from '../signin/session.js';
import { useWorkspace } from '../signin/workspace.js';
import { AuditLog } from './AuditLog.js';
import { Members } from './Members.js';
import { State } from './State.js';
import { TheWorkspace } from './TheWorkspace.js';
import { say } from '../words/say.js';

/** Parts of the page. A new one is a row here. */
const PARTS = [
  { id: 'members', name: say('Members'), Part: Members },
  { id: 'log', name: say('What happened'), Part: AuditLog },
  { id: 'state', name: say('How it stands'), Part: State },
  { id: 'workspace', name: say('The workspace'), Part: TheWorkspace },
] as const;

export default function AdministrationPage() {
  const { workspaces } = useSession();
  const current = useWorkspace();
  const [params, setParams] = useSearchParams();
  const mine = workspaces.filter((w) => mayAs(w.role, 'administrator'));
  const workspace = mine.find((w) => w.id === params.get('workspace')) ?? mine.find((w) => w.id === current?.id) ?? mine[0];
  const part = PARTS.find((p) => p.id === params.get('part')) ?? PARTS[0];
  const go = (next: Record<string, string>): void => setParams({ ...(workspace && { workspace: workspace.id }), part: part.id, ...next }, { replace: true });
  return (
    <div className="grid h-dvh grid-rows-[46px_minmax(0,1fr)]">
      <TopBar>
        <h1 className="inline font-[650] text-ink">{say('Administration')}</h1>
        {workspace && <span className="max-sm:hidden"> · {workspace.name}</span>}
      </TopBar>
      <main className="overflow-auto border-t border-rule px-4 pt-4 pb-12 sm:px-6" tabIndex={-1}>
        {workspace ? (
          <div className="mx-auto grid max-w-5xl gap-5">
            <WorkspaceField workspaces={mine} value={workspace.id} onChange={(w) => go({ workspace: w })} />
            <Tabs.Root value={part.id} onValueChange={(id) => go({ part: id })}>
              <Tabs.List aria-label={say('Parts of the administration')} className="mb-5 flex gap-6 overflow-x-auto border-b border-rule">
                {PARTS.map((p) => (
                  <Tabs.Trigger
                    key={p.id}
                    value={p.id}
                    className="-mb-px min-h-9 shrink-0 cursor-pointer border-b-[3px] border-transparent font-[650] hover:border-rule data-[state=active]:border-beet data-[state=active]:text-beet"
                  >
                    {p.name}
                  </Tabs.Trigger>
                ))}
              </Tabs.List>
              {PARTS.map(({ id, Part }) => (
                <Tabs.Content key={id} value={id} className="outline-none">
                  <Part key={workspace.id} workspace={workspace} />
                </Tabs.Content>
              ))}
            </Tabs.Root>
          </div>
        ) : (
          <p className="text-ink-2">{say('You administer no workspace. Owners and administrators see to members here.')}</p>
        )}
      </main>
    </div>
  );
}
