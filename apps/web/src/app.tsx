// Routes. Every screen is loaded when it is first opened.

import { writeDecimalsWith } from '@drive-keep/core/values';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { useSession } from './api/queries.ts';
import { Frame } from './frame/frame.tsx';
import { BrokenPage } from './frame/broken-page.tsx';
import { NotFoundPage } from './frame/not-found-page.tsx';
import { PasswordPage } from './session/password-page.tsx';
import { TrustPage } from './session/trust-page.tsx';
import { SignInPage } from './session/sign-in-page.tsx';
import { ProblemNotice } from './ui/notice.tsx';

const router = createBrowserRouter([
  {
    path: '/',
    Component: Frame,
    HydrateFallback: () => null,
    errorElement: <BrokenPage />,
    children: [
      {
        index: true,
        lazy: async () => ({ Component: (await import('./register/register-page.tsx')).RegisterPage }),
      },
      {
        path: 'positions/:tag',
        lazy: async () => ({ Component: (await import('./position/position-page.tsx')).PositionPage }),
      },
      {
        path: 'site',
        lazy: async () => ({ Component: (await import('./site/site-page.tsx')).SitePage }),
      },
      {
        path: 'positions/:tag/wiring',
        lazy: async () => ({ Component: (await import('./wiring/wiring-page.tsx')).WiringPage }),
      },
      {
        path: 'positions/:tag/traces',
        lazy: async () => ({ Component: (await import('./traces/traces-page.tsx')).TracesPage }),
      },
      {
        path: 'positions/:tag/proofs',
        lazy: async () => ({ Component: (await import('./proving/proofs-page.tsx')).ProofsPage }),
      },
      {
        path: 'proofs/:id',
        lazy: async () => ({ Component: (await import('./proving/proof-page.tsx')).ProofPage }),
      },
      {
        path: 'traces/:id',
        lazy: async () => ({ Component: (await import('./traces/trace-page.tsx')).TracePage }),
      },
      {
        path: 'positions/:tag/identify',
        lazy: async () => ({ Component: (await import('./live/identify-page.tsx')).IdentifyPage }),
      },
      {
        path: 'positions/:tag/now',
        lazy: async () => ({ Component: (await import('./live/live-page.tsx')).LivePage }),
      },
      {
        path: 'positions/:tag/checks',
        lazy: async () => ({ Component: (await import('./checks/checks-page.tsx')).ChecksPage }),
      },
      {
        path: 'positions/:tag/dry-run',
        lazy: async () => ({ Component: (await import('./dry-run/dry-run-page.tsx')).DryRunPage }),
      },
      {
        path: 'positions/:tag/successor',
        lazy: async () => ({ Component: (await import('./replacing/successor-page.tsx')).SuccessorPage }),
      },
      {
        path: 'replace',
        lazy: async () => ({ Component: (await import('./replacing/replace-page.tsx')).ReplacePage }),
      },
      {
        path: 'cross-references/:old/:fresh',
        lazy: async () => ({
          Component: (await import('./replacing/cross-reference-page.tsx')).CrossReferencePage,
        }),
      },
      {
        path: 'setting-tables',
        lazy: async () => ({
          Component: (await import('./replacing/setting-tables-page.tsx')).SettingTablesPage,
        }),
      },
      {
        path: 'drafts',
        lazy: async () => ({ Component: (await import('./drafts/drafts-page.tsx')).DraftsPage }),
      },
      {
        path: 'drafts/:id',
        lazy: async () => ({ Component: (await import('./drafts/draft-page.tsx')).DraftPage }),
      },
      {
        path: 'starting-points/:id',
        lazy: async () => ({
          Component: (await import('./drafts/starting-point-page.tsx')).StartingPointPage,
        }),
      },
      {
        path: 'drafts/:id/dry-run',
        lazy: async () => ({
          Component: (await import('./drafts/draft-dry-run-page.tsx')).DraftDryRunPage,
        }),
      },
      {
        path: 'drafts/:id/compare',
        lazy: async () => ({
          Component: (await import('./drafts/draft-comparison-page.tsx')).DraftComparisonPage,
        }),
      },
      {
        path: 'replacements/:id',
        lazy: async () => ({
          Component: (await import('./replacing/replacement-page.tsx')).ReplacementPage,
        }),
      },
      {
        path: 'replacements/:id/wires',
        lazy: async () => ({ Component: (await import('./replacing/wire-sheet-page.tsx')).WireSheetPage }),
      },
      {
        path: 'positions/:tag/import',
        lazy: async () => ({ Component: (await import('./files/import-page.tsx')).ImportPage }),
      },
      {
        path: 'write-plans/:id',
        lazy: async () => ({ Component: (await import('./writing/write-plan-page.tsx')).WritePlanPage }),
      },
      { path: 'jobs', lazy: async () => ({ Component: (await import('./jobs/jobs-page.tsx')).JobsPage }) },
      { path: 'jobs/:id', lazy: async () => ({ Component: (await import('./jobs/job-page.tsx')).JobPage }) },
      {
        path: 'models',
        lazy: async () => ({ Component: (await import('./models/models-page.tsx')).ModelsPage }),
      },
      {
        path: 'models/:id',
        lazy: async () => ({ Component: (await import('./models/model-page.tsx')).ModelPage }),
      },
      {
        path: 'models/:id/dry-run',
        lazy: async () => ({ Component: (await import('./dry-run/model-dry-run-page.tsx')).ModelDryRunPage }),
      },
      {
        path: 'models/new',
        lazy: async () => ({ Component: (await import('./models/own-model-page.tsx')).OwnModelPage }),
      },
      {
        path: 'models/drafts/:id',
        lazy: async () => ({ Component: (await import('./models/model-draft-page.tsx')).ModelDraftPage }),
      },
      {
        path: 'models/drafts/:id/at-unit',
        lazy: async () => ({ Component: (await import('./models/at-unit-page.tsx')).AtUnitPage }),
      },
      {
        path: 'models/:id/changes',
        lazy: async () => ({ Component: (await import('./models/changes-page.tsx')).ChangesPage }),
      },
      {
        path: 'compare',
        lazy: async () => ({ Component: (await import('./compare/peers-page.tsx')).PeersPage }),
      },
      {
        path: 'compare/behaviour',
        lazy: async () => ({
          Component: (await import('./dry-run/same-behaviour-page.tsx')).SameBehaviourPage,
        }),
      },
      {
        path: 'compare/two',
        lazy: async () => ({ Component: (await import('./compare/two-drives-page.tsx')).TwoDrivesPage }),
      },
      {
        path: 'positions/:tag/parameters/:code',
        lazy: async () => ({ Component: (await import('./position/parameter-page.tsx')).ParameterPage }),
      },
      {
        path: 'calculate/motor',
        lazy: async () => ({
          Component: (await import('./calculate/motor-calculator-page.tsx')).MotorCalculatorPage,
        }),
      },
      {
        path: 'calculate/signal',
        lazy: async () => ({
          Component: (await import('./calculate/signal-calculator-page.tsx')).SignalCalculatorPage,
        }),
      },
      {
        path: 'rounds',
        lazy: async () => ({ Component: (await import('./rounds/rounds-page.tsx')).RoundsPage }),
      },
      {
        path: 'look-up',
        lazy: async () => ({ Component: (await import('./look-up/look-up-page.tsx')).LookUpPage }),
      },
      {
        path: 'positions/new',
        lazy: async () => ({
          Component: (await import('./register/new-position-page.tsx')).NewPositionPage,
        }),
      },
      {
        path: 'positions/:tag/read-off',
        lazy: async () => ({ Component: (await import('./read-off/read-off-page.tsx')).ReadOffPage }),
      },
      {
        path: 'positions/:tag/record',
        lazy: async () => ({ Component: (await import('./register/record-page.tsx')).RecordPage }),
      },
      {
        path: 'positions/:tag/reset',
        lazy: async () => ({ Component: (await import('./writing/reset-page.tsx')).ResetPage }),
      },
      {
        path: 'positions/:tag/set',
        lazy: async () => ({ Component: (await import('./writing/set-page.tsx')).SetPage }),
      },
      {
        path: 'positions/:tag/axes',
        lazy: async () => ({ Component: (await import('./axes/axes-page.tsx')).AxesPage }),
      },
      {
        path: 'axis-loads/:id',
        lazy: async () => ({ Component: (await import('./axes/axis-load-page.tsx')).AxisLoadPage }),
      },
      {
        path: 'key-in/:id',
        lazy: async () => ({ Component: (await import('./key-in/key-in-page.tsx')).KeyInPage }),
      },
      {
        path: 'motors',
        lazy: async () => ({ Component: (await import('./motors/motors-page.tsx')).MotorsPage }),
      },
      {
        path: 'motors/:id',
        lazy: async () => ({ Component: (await import('./motors/motor-page.tsx')).MotorPage }),
      },
      {
        path: 'register/plant-list',
        lazy: async () => ({ Component: (await import('./register/plant-list-page.tsx')).PlantListPage }),
      },
      {
        path: 'register/find-units',
        lazy: async () => ({ Component: (await import('./register/find-units-page.tsx')).FindUnitsPage }),
      },
      {
        path: 'register/labels',
        lazy: async () => ({ Component: (await import('./register/labels-page.tsx')).LabelsPage }),
      },
      {
        path: 'register/places',
        lazy: async () => ({ Component: (await import('./register/places-page.tsx')).PlacesPage }),
      },
      {
        path: 'plant',
        lazy: async () => ({ Component: (await import('./plant/settings-page.tsx')).SettingsPage }),
      },
      {
        path: 'people',
        lazy: async () => ({ Component: (await import('./plant/people-page.tsx')).PeoplePage }),
      },
      {
        path: 'account',
        lazy: async () => ({ Component: (await import('./plant/own-account-page.tsx')).OwnAccountPage }),
      },
      {
        path: 'lines',
        lazy: async () => ({ Component: (await import('./plant/lines-page.tsx')).LinesPage }),
      },
      {
        path: 'logbook',
        lazy: async () => ({ Component: (await import('./logbook/logbook-page.tsx')).LogbookPage }),
      },
      { path: '*', Component: NotFoundPage },
    ],
  },
]);

export function App() {
  const session = useSession();
  writeDecimalsWith(session.data?.decimalMark ?? 'point');
  // Whoever comes to learn how to trust this installation cannot sign in yet.
  if (window.location.pathname === '/trust') return <TrustPage />;
  if (session.data?.mustChangePassword) return <PasswordPage />;
  if (session.data) return <RouterProvider router={router} />;
  if (session.error && session.error.problem.status === 401) return <SignInPage />;
  return session.error ? <ProblemNotice error={session.error} /> : null;
}
