/** The frame of every screen: mark, where one is, account; below it the five stages of a set. */
import { useQueryClient } from '@tanstack/react-query';
import { mayAs } from '@zakuska/core';
import { Check, CircleUserRound, Moon, Sun } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { type ReactNode, useMemo } from 'react';
import { Link, NavLink, useNavigate } from 'react-router';
import { api, call } from '../api/client.js';
import { useHelp } from '../help/useHelp.js';
import { useSession } from '../signin/session.js';
import { Boundary } from '../ui/Boundary.js';
import { Button, Kbd } from '../ui/Button.js';
import { useCommands, usePalette } from '../ui/commands.js';
import { setTheme, useTheme } from './theme.js';
import { chooseLanguage } from '../words/language.js';
import { LANGUAGES, type Language, language, say } from '../words/say.js';

export function TopBar({ children }: { children?: ReactNode }) {
  const session = useSession();
  const palette = usePalette();
  const theme = useTheme();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const administers = session.workspaces.some((w) => mayAs(w.role, 'administrator'));
  const commands = useMemo(
    () => [
      { name: say('Go to the list of sets'), run: () => void navigate('/') },
      { name: say('Go to the bank'), run: () => void navigate('/bank') },
      { name: say('Mark a table of answers'), run: () => void navigate('/table') },
      { name: say('Progress of a class'), run: () => void navigate('/progress') },
      { name: say('Find or delete what is kept of a person'), run: () => void navigate('/people') },
      { name: say('Your account'), run: () => void navigate('/account') },
      ...(administers ? [{ name: say('Administration: members and what happened'), run: () => void navigate('/administration') }] : []),
      { name: say('Go to the assistant: what was sent'), run: () => void navigate('/assistant') },
      ...(Object.keys(LANGUAGES) as Language[])
        .filter((l) => l !== language())
        .map((l) => ({ name: `${say('Language of the pages')}: ${LANGUAGES[l]}`, run: () => chooseLanguage(l) })),
      { name: theme === 'dark' ? say('Light theme') : say('Dark theme'), run: () => setTheme(theme === 'dark' ? 'light' : 'dark') },
    ],
    [navigate, theme, administers],
  );
  useCommands(commands);
  const { shown, help, tour } = useHelp();
  const signOut = async (): Promise<void> => {
    await call(api.DELETE('/api/v1/session'));
    queries.clear();
    location.assign('/');
  };
  return (
    <header className="flex h-[46px] items-center gap-2 px-4 sm:gap-3.5 sm:px-6">
      <button type="button" onClick={toContent} className="sr-only rounded bg-sheet px-3 py-1.5 font-semibold text-beet focus:not-sr-only focus:outline-2">
        {say('Skip to the content')}
      </button>
      <Link to="/" className="text-lg font-extrabold tracking-tight text-beet">
        zakuska
      </Link>
      <div className="max-h-10 min-w-0 flex-1 overflow-hidden wrap-break-word text-ink-2 max-sm:text-[13px]/4.5 sm:leading-5">{children}</div>
      <button type="button" onClick={palette.open} className="hidden min-h-7 cursor-pointer items-center gap-1.5 text-ink-2 sm:inline-flex">
        {say('Any action')} <Kbd>Ctrl K</Kbd>
      </button>
      <button
        type="button"
        className="grid size-8 cursor-pointer place-items-center rounded text-ink-2 hover:bg-beet-soft"
        aria-label={theme === 'dark' ? say('Use the light theme') : say('Use the dark theme')}
        onClick={() => setTheme(theme === 'dark' ? 'light' : 'dark')}
      >
        {theme === 'dark' ? <Sun size={17} aria-hidden /> : <Moon size={17} aria-hidden />}
      </button>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="min-h-7 cursor-pointer text-ink-2 hover:text-ink sm:max-w-48 sm:truncate">
          <CircleUserRound size={19} aria-hidden className="sm:hidden" />
          <span className="max-sm:sr-only">{session.name}</span>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" className="z-50 min-w-48 rounded-lg border border-rule bg-sheet p-1.5">
            <DropdownMenu.Label className="px-2 py-1 text-[13px] text-ink-2">{session.email}</DropdownMenu.Label>
            {(
              [
                [say('Your account'), () => void navigate('/account')],
                ...(administers ? [[say('Administration'), () => void navigate('/administration')] as const] : []),
                [say('Help with this page'), help],
                [say('The way in five steps'), tour],
                [say('Assistant'), () => void navigate('/assistant')],
                [say('Progress of a class'), () => void navigate('/progress')],
                [say('What is kept of people'), () => void navigate('/people')],
                [say('Sign out'), () => void signOut()],
              ] as const
            ).map(([name, run]) => (
              <DropdownMenu.Item
                key={name}
                className="cursor-pointer rounded px-2 py-1.5 data-highlighted:bg-beet-soft data-highlighted:text-beet"
                onSelect={run}
              >
                {name}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Separator className="my-1.5 border-t border-rule" />
            <DropdownMenu.RadioGroup aria-label={say('Language of the pages')} value={language()} onValueChange={(l) => chooseLanguage(l as Language)}>
              {Object.entries(LANGUAGES).map(([l, name]) => (
                <DropdownMenu.RadioItem
                  key={l}
                  value={l}
                  lang={l}
                  className="flex cursor-pointer items-center gap-2 rounded px-2 py-1.5 data-highlighted:bg-beet-soft data-highlighted:text-beet"
                >
                  <span className="w-4">
                    <DropdownMenu.ItemIndicator>
                      <Check size={15} aria-hidden />
                    </DropdownMenu.ItemIndicator>
                  </span>
                  {name}
                </DropdownMenu.RadioItem>
              ))}
            </DropdownMenu.RadioGroup>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {shown}
    </header>
  );
}

/** Past what is the same on every page, by keyboard. */
function toContent(): void {
  const main = document.querySelector('main');
  main?.setAttribute('tabindex', '-1');
  main?.focus();
}

export interface Stage {
  path: string;
  name: string;
  count: string;
}
export function StageLine({ stages }: { stages: Stage[] }) {
  return (
    <nav
      aria-label={say('Stages')}
      className="relative flex h-11 items-stretch gap-2.5 overflow-x-auto border-b border-rule px-3 min-[380px]:gap-4 min-[380px]:px-4 sm:h-[58px] sm:gap-6 sm:px-6 lg:gap-8"
    >
      {stages.map((s) => (
        <NavLink
          key={s.path}
          to={s.path}
          className={({ isActive }) =>
            `group -mb-px grid shrink-0 content-center border-b-[3px] lg:min-w-[110px] ${isActive ? 'border-beet text-beet' : 'border-transparent text-ink hover:border-rule'}`
          }
        >
          <b className="text-[15px]/5 font-[650] sm:text-base/5">{s.name}</b>
          <span className="text-[13px] whitespace-nowrap text-ink-2 max-sm:sr-only">{s.count}</span>
        </NavLink>
      ))}
    </nav>
  );
}

/** The line at the bottom of a stage. */
export function Foot({ children }: { children: ReactNode }) {
  return (
    <footer className="flex min-h-10 flex-wrap items-center gap-x-4 gap-y-1 border-t border-rule bg-sheet px-4 py-1 text-[13px] text-ink-2 sm:px-6">
      {children}
    </footer>
  );
}

/** A key and what it does, in the foot of a screen that has the room. */
export function KeyHint({ children }: { children: ReactNode }) {
  return <span className="hidden items-center gap-1 md:flex">{children}</span>;
}

/** What an empty screen says: what goes here, and the one next step. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="mx-auto mt-16 grid max-w-md justify-items-start gap-3 p-4">
      <h2 className="text-xl font-bold">{title}</h2>
      {children}
    </div>
  );
}

/** A page whose drawing failed: what was done is kept, and the rest of the application goes on. */
export function PageBoundary({ of, children }: { of: unknown; children: ReactNode }) {
  return (
    <Boundary
      of={of}
      fallback={(error, again) => (
        <main>
          <Empty title={say('This page could not be shown')}>
            <p>{say('What you did is kept. The reason was: {what}', { what: error instanceof Error ? error.message : say('unknown') })}</p>
            <span className="flex gap-2">
              <Button look="primary" onClick={again}>
                {say('Try again')}
              </Button>
              <Button onClick={() => location.assign('/')}>{say('Go to the list of sets')}</Button>
            </span>
          </Empty>
        </main>
      )}
    >
      {children}
    </Boundary>
  );
}

export function Busy({ what }: { what: string }) {
  return (
    <p role="status" className="p-6 text-ink-2">
      {what} …
    </p>
  );
}
