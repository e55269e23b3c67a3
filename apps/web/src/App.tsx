import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense, useEffect, useState } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, Outlet, RouterProvider, useLocation } from 'react-router';
import { Toaster } from 'sonner';
import { ApiError, api, call, setCsrf, signedOut, type SessionView } from './api/client.js';
import { Busy, PageBoundary } from './frame/Frame.js';
import { useTheme } from './frame/theme.js';
import { SetPage } from './SetPage.js';
import { stage } from './stages.js';
import { Sets } from './sets/Sets.js';
import { SessionContext } from './signin/session.js';
import { SignIn, SignInForm } from './signin/SignIn.js';
import { Modal } from './ui/Modal.js';
import { OpenFilesProvider } from './open/OpenFiles.js';
import { PaletteProvider } from './ui/Palette.js';
import './ui/app.css';
import { say } from './words/say.js';

const DraftStage = stage('draft');
const DrafterStage = lazy(() => import('./ask/DrafterStage.js'));
const WordsStage = lazy(() => import('./ask/WordsStage.js'));
const RequestStage = lazy(() => import('./ask/RequestStage.js'));
const CompareStage = lazy(() => import('./ask/CompareStage.js'));
const NotationStage = lazy(() => import('./ask/NotationStage.js'));
const ReworkStage = lazy(() => import('./ask/ReworkStage.js'));
const CheckStage = stage('check');
const LanguagesStage = lazy(() => import('./languages/LanguagesStage.js'));
const ArrangeStage = stage('arrange');
const AssistantPage = lazy(() => import('./assistant/AssistantPage.js'));
const BankPage = lazy(() => import('./bank/BankPage.js'));
const VersionsStage = lazy(() => import('./arrange/VersionsStage.js'));
const DeliverStage = stage('deliver');
const TextStage = lazy(() => import('./text/TextStage.js'));
const NotationPage = lazy(() => import('./draft/NotationPage.js'));
const Register = lazy(() => import('./course/Register.js'));
const NearPage = lazy(() => import('./bank/NearPage.js'));
const TakeCopy = lazy(() => import('./sets/TakeCopy.js'));
const AccountPage = lazy(() => import('./accounts/AccountPage.js'));
const AdministrationPage = lazy(() => import('./accounts/AdministrationPage.js'));
const LinkPage = lazy(() => import('./accounts/LinkPage.js'));
const PeoplePage = lazy(() => import('./people/PeoplePage.js'));
const ProgressPage = lazy(() => import('./people/ProgressPage.js'));
const Choose = lazy(() => import('./course/Choose.js'));
const ResultsStage = stage('results');
const MarkingStage = lazy(() => import('./results/marking/MarkingStage.js'));
const MarkTableStage = lazy(() => import('./results/MarkTableStage.js'));
const SheetsStage = lazy(() => import('./results/sheets/SheetsStage.js'));
const MarkTablePage = lazy(() => import('./results/MarkTablePage.js'));

/** Asks who is signed in; a session that ends in the middle of work is renewed in a dialog, and nothing is lost. */
function SignedIn() {
  const queries = useQueryClient();
  const theme = useTheme();
  const { pathname } = useLocation();
  const [ended, setEnded] = useState(false);
  const session = useQuery({
    queryKey: ['session'],
    queryFn: async () => {
      try {
        const s = await call(api.GET('/api/v1/session'));
        setCsrf(s.csrf);
        return s as SessionView | null;
      } catch (e) {
        if (e instanceof ApiError && e.status === 401) return null;
        throw e;
      }
    },
    staleTime: Number.POSITIVE_INFINITY,
    retry: 20,
    retryDelay: 1000,
  });
  useEffect(() => {
    const on = (): void => setEnded(true);
    signedOut.addEventListener('signed-out', on);
    return () => signedOut.removeEventListener('signed-out', on);
  }, []);
  const done = (s: SessionView): void => {
    queries.setQueryData(['session'], s);
    setEnded(false);
    void queries.invalidateQueries();
    dispatchEvent(new Event('online'));
  };
  if (session.isPending) return <Busy what={session.failureCount ? say('The server does not answer yet; trying again') : say('Opening')} />;
  if (!session.data) return <SignIn onDone={done} />;
  return (
    <SessionContext value={session.data}>
      <PaletteProvider>
        <OpenFilesProvider>
          <Suspense fallback={<Busy what={say('Opening')} />}>
            <PageBoundary of={pathname}>
              <Outlet />
            </PageBoundary>
          </Suspense>
        </OpenFilesProvider>
        <Modal
          open={ended}
          onClose={() => setEnded(false)}
          title={say('Your session has ended')}
          description={say('Sign in again to go on. What you did is kept.')}
        >
          <SignInForm onDone={done} email={session.data.email} />
        </Modal>
        <Toaster
          theme={theme}
          position="bottom-center"
          toastOptions={{ style: { fontFamily: 'var(--next)', background: 'var(--sheet)', color: 'var(--ink)', borderColor: 'var(--rule)' } }}
        />
      </PaletteProvider>
    </SessionContext>
  );
}

const router = createBrowserRouter([
  {
    path: '/link/:token',
    element: (
      <Suspense fallback={<Busy what={say('Opening')} />}>
        <LinkPage />
      </Suspense>
    ),
  },
  {
    element: <SignedIn />,
    children: [
      { path: '/', element: <Sets /> },
      {
        path: '/sets/:set',
        element: <SetPage />,
        children: [
          { index: true, element: <Navigate to="draft" replace /> },
          { path: 'draft', element: <DraftStage /> },
          { path: 'draft/source', element: <DrafterStage /> },
          { path: 'draft/words', element: <WordsStage /> },
          { path: 'draft/request', element: <RequestStage /> },
          { path: 'draft/compare', element: <CompareStage /> },
          { path: 'draft/notation', element: <NotationStage /> },
          { path: 'check', element: <CheckStage /> },
          { path: 'check/rework', element: <ReworkStage /> },
          { path: 'check/languages', element: <LanguagesStage /> },
          { path: 'arrange', element: <ArrangeStage /> },
          { path: 'arrange/versions', element: <VersionsStage /> },
          { path: 'deliver', element: <DeliverStage /> },
          { path: 'results', element: <ResultsStage /> },
          { path: 'results/table', element: <MarkTableStage /> },
          { path: 'results/sheets', element: <SheetsStage /> },
          { path: 'results/marking', element: <MarkingStage /> },
          { path: 'text', element: <TextStage /> },
        ],
      },
      { path: '/bank', element: <BankPage /> },
      { path: '/bank/near', element: <NearPage /> },
      { path: '/copy/:token', element: <TakeCopy /> },
      { path: '/course/register', element: <Register /> },
      { path: '/course/:launch', element: <Choose /> },
      { path: '/assistant', element: <AssistantPage /> },
      { path: '/account', element: <AccountPage /> },
      { path: '/administration', element: <AdministrationPage /> },
      { path: '/people', element: <PeoplePage /> },
      { path: '/progress', element: <ProgressPage /> },
      { path: '/notation', element: <NotationPage /> },
      { path: '/table', element: <MarkTablePage /> },
      { path: '*', element: <Navigate to="/" replace /> },
    ],
  },
]);

/** Draws the workbench. */
export const start = (root: HTMLElement): void =>
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider
        client={new QueryClient({ defaultOptions: { queries: { retry: (n, e) => n < 3 && (!(e instanceof ApiError) || e.status === 0 || e.status >= 500) } } })}
      >
        {/* what the address says is shown at once: in a transition a filter just ticked would show as open, and keys would go to the stage that was left */}
        <RouterProvider router={router} useTransitions={false} />
      </QueryClientProvider>
    </StrictMode>,
  );
