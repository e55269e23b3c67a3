/** The workspace that one is in, in the top line; of several it is the way to another. */
import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import { useSession } from '../signin/session.js';
import { chooseWorkspace, useWorkspace } from '../signin/workspace.js';
import { useCommands } from '../ui/commands.js';
import { say } from '../words/say.js';

export function WorkspaceMenu() {
  const { workspaces } = useSession();
  const workspace = useWorkspace();
  const navigate = useNavigate();
  const others = useMemo(
    () =>
      workspaces
        .filter((w) => w.id !== workspace?.id)
        .map((w) => ({
          name: say('Go to the workspace {name}', { name: w.name }),
          run: () => {
            chooseWorkspace(w.id);
            void navigate('/');
          },
        })),
    [workspaces, workspace?.id, navigate],
  );
  useCommands(others);
  if (workspaces.length < 2) return <>{workspace?.name}</>;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className="inline-flex min-h-7 max-w-full cursor-pointer items-center gap-1 rounded hover:text-ink"
        aria-label={say('Workspace {name}', { name: workspace?.name ?? '' })}
      >
        <span className="truncate">{workspace?.name}</span>
        <ChevronDown size={15} className="shrink-0" aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" className="z-50 max-h-96 min-w-48 overflow-auto rounded-lg border border-rule bg-sheet p-1.5">
          <DropdownMenu.RadioGroup
            value={workspace?.id ?? ''}
            onValueChange={(id) => {
              chooseWorkspace(id);
              void navigate('/');
            }}
          >
            {workspaces.map((w) => (
              <DropdownMenu.RadioItem
                key={w.id}
                value={w.id}
                className="cursor-pointer rounded px-2 py-1.5 data-highlighted:bg-beet-soft data-highlighted:text-beet data-[state=checked]:font-[650]"
              >
                {w.name}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
