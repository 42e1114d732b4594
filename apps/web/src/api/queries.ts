// What the screens know of the server, by name. Keys are the paths that are read.

import type {
  AcrossView,
  ChecksView,
  ComparisonView,
  CrossReferenceView,
  DecisionsView,
  DraftMark,
  SettingsDraftView,
  StartingPointView,
  DictionaryChanges,
  DifferenceOrigin,
  HistoryView,
  IntegrityReport,
  JobView,
  LineView,
  LogbookPage,
  FaultHitView,
  LookUpView,
  TraceListing,
  TraceView,
  ModelListing,
  ModelDraftListing,
  FirstStep,
  MotorArrival,
  OpenSession,
  PersonView,
  PlantView,
  ScriptTokenView,
  MotorView,
  ParameterHistoryView,
  ParameterStep,
  PeersView,
  PositionDetailView,
  ProofReading,
  ProofsView,
  PeerGroup,
  PlantFindingsView,
  RegisterOutline,
  PositionSiteView,
  SiteView,
  DryRunView,
  VocabularyView,
  EarlierSaying,
  SettingTableView,
  ReplaceEstimate,
  ReplaceListModel,
  ReplacementMark,
  ReplacementRecord,
  ReplacementView,
  WiringPhotoView,
  WiringView,
  RegisterPage,
  ScanView,
  RoundView,
  SameMeaningView,
  SessionView,
  ThreeWayView,
  AxisLoadView,
  AxisMachineView,
  ControllerView,
  KeyInSheetView,
  ResetView,
  WritePlanView,
} from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import {
  QueryClient,
  useInfiniteQuery,
  useQuery,
  type InfiniteData,
  type UseQueryResult,
} from '@tanstack/react-query';
import { useEffect } from 'react';
import { get, ProblemError } from './client.ts';

export const queryClient = new QueryClient({
  defaultOptions: {
    // Without a network the service worker answers with what it has: asking is never put off.
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      staleTime: 5_000,
      retry: (count, error) => count < 2 && error instanceof ProblemError && error.problem.status === 0,
    },
  },
});

const useGet = <T>(path: string, options: object = {}): UseQueryResult<T, ProblemError> =>
  useQuery<T, ProblemError>({ queryKey: [path], queryFn: () => get<T>(path), ...options });

export const useSession = () => useGet<SessionView>('session', { staleTime: 60_000, retry: false });
const REGISTER_PART = 200;
/** The positions that a query lets through, a part at a time. */
export const useRegisterPages = (query: string) =>
  useInfiniteQuery<RegisterPage, ProblemError, InfiniteData<RegisterPage>, readonly string[], number>({
    queryKey: ['register', query],
    queryFn: ({ pageParam }) =>
      get<RegisterPage>(`register?${query}${query && '&'}from=${pageParam}&most=${REGISTER_PART}`),
    initialPageParam: 0,
    getNextPageParam: ({ from, positions, total }) =>
      from + positions.length < total ? from + positions.length : undefined,
    placeholderData: (before) => before,
    refetchInterval: 15_000,
  });
export const usePositionSearch = (find: string) =>
  useGet<RegisterPage>(`register?find=${encodeURIComponent(find)}&most=8`, {
    enabled: find.trim() !== '',
    placeholderData: (before: unknown) => before,
  });
export const useOutline = () => useGet<RegisterOutline>('register/outline');
export const usePeerGroups = () => useGet<readonly PeerGroup[]>('peers/groups');
export const useScans = () => useGet<readonly ScanView[]>('scans');
export const useScan = (id: string | undefined) =>
  useGet<ScanView>(`scans/${id ?? ''}`, {
    enabled: id !== undefined,
    refetchInterval: (query: { state: { data?: ScanView } }) =>
      query.state.data?.state === 'running' ? 400 : false,
  });
export const usePosition = (tag: string, enabled = true) =>
  useGet<PositionDetailView>(`positions/${tag}`, { enabled });
export const useSite = () => useGet<SiteView>('site');
/** What the checks find in a set of the position. */
export const useChecks = (tag: string, set = 'newest') =>
  useGet<ChecksView>(`positions/${tag}/checks?set=${encodeURIComponent(set)}`);
export const usePlantFindings = (since: string) =>
  useGet<PlantFindingsView>(`findings?since=${encodeURIComponent(since)}`, { refetchInterval: 30_000 });
export const usePositionSite = (tag: string, enabled = true) =>
  useGet<PositionSiteView>(`positions/${tag}/site`, { enabled });
export const useWiring = (tag: string, revision = '') =>
  useGet<WiringView>(`positions/${tag}/wiring${revision === '' ? '' : `?revision=${revision}`}`);
export const useWiringPhotos = (tag: string) =>
  useGet<readonly WiringPhotoView[]>(`positions/${tag}/wiring/photos`);
export const useDryRunView = (tag: string, set: string, enabled = true) =>
  useGet<DryRunView>(`positions/${tag}/dry-run?set=${encodeURIComponent(set)}`, { enabled });
/** `old` and `fresh` are models by their names. */
export const useCrossReference = (old: string, fresh: string | undefined) =>
  useGet<CrossReferenceView>(`cross-references/${old}/${fresh ?? ''}`, { enabled: fresh !== undefined });
export const useReplacements = (tag: string) => useGet<readonly ReplacementMark[]>(`replacements?tag=${tag}`);
/** Several people say something of it at the same time. */
export const useReplacement = (id: string) =>
  useGet<ReplacementView>(`replacements/${id}`, { refetchInterval: 4_000 });
/** Asked anew with everything that is said or chosen. */
export const useReplacementChecks = ({ id, version, sayings, fresh }: ReplacementView) =>
  useQuery<ChecksView, ProblemError>({
    queryKey: [`replacements/${id}/checks`, version, sayings.length, fresh],
    queryFn: () => get<ChecksView>(`replacements/${id}/checks`),
    placeholderData: (before) => before,
  });
export const useEarlierAnswers = (old: string, fresh: string) =>
  useGet<readonly EarlierSaying[]>(`replace-lists/${old}/answers/${fresh}`);
export const useDrafts = () => useGet<readonly DraftMark[]>('drafts');
export const useDraftsFor = (tag: string) =>
  useGet<readonly DraftMark[]>(`drafts?tag=${encodeURIComponent(tag)}`);
/** Several people type into it at the same time. */
export const useDraft = (id: string) => useGet<SettingsDraftView>(`drafts/${id}`, { refetchInterval: 4_000 });
export const useDraftComparison = (id: string, other: string) =>
  useGet<AcrossView>(`drafts/${id}/comparison?with=${encodeURIComponent(other)}`, { staleTime: 0 });
export const useStartingPoints = () => useGet<readonly StartingPointView[]>('starting-points');
export const useSettingTables = () => useGet<readonly SettingTableView[]>('setting-tables');
export const useReplaceLists = () => useGet<readonly ReplaceListModel[]>('replace-lists');
export const useReplaceEstimates = (model: string, dictionary: string) =>
  useGet<readonly ReplaceEstimate[]>(
    `replace-lists/${model}/estimates?dictionary=${encodeURIComponent(dictionary)}`,
    { enabled: dictionary !== '', staleTime: 60_000 },
  );
/** The sheet as it was closed; it never changes. */
export const useReplacementRecord = (id: string, enabled = true) =>
  useGet<ReplacementRecord>(`replacements/${id}/record`, { staleTime: Infinity, enabled });
export const useVocabulary = () => useGet<VocabularyView>('meanings', { staleTime: Infinity });
export const useHistory = (tag: string) => useGet<HistoryView>(`positions/${tag}/history`);
export const useComparison = (tag: string, query: string) =>
  useGet<ComparisonView>(`positions/${tag}/comparison?${query}`, {
    placeholderData: (before: unknown) => before,
  });
export const useOrigins = (tag: string) =>
  useGet<readonly DifferenceOrigin[]>(`positions/${tag}/difference-origins`);
export const useDecisions = (tag: string) => useGet<DecisionsView>(`positions/${tag}/decisions`);
export const useParameterHistory = (tag: string, code: string) =>
  useGet<readonly ParameterStep[]>(`positions/${tag}/parameters/${encodeURIComponent(code)}/history`);
export const useThreeWays = (tag: string, before: string, now: string) =>
  useGet<ThreeWayView>(`positions/${tag}/three-ways?${new URLSearchParams({ before, now }).toString()}`, {
    placeholderData: (last: unknown) => last,
  });
export const useAcross = (a: AcrossAsked, b: AcrossAsked) => {
  const sets = { ...(a.set && { aSet: a.set }), ...(b.set && { bSet: b.set }) };
  const query = new URLSearchParams({ a: a.tag, b: b.tag, ...sets });
  return useGet<AcrossView>(`across-models?${query.toString()}`, {
    placeholderData: (before: unknown) => before,
  });
};
interface AcrossAsked {
  readonly tag: string;
  readonly set?: string;
}
export const useParameterHistories = (tags: readonly string[], code: string) =>
  useGet<readonly ParameterHistoryView[]>(
    `parameter-history?${new URLSearchParams({ positions: tags.join(','), code }).toString()}`,
    { placeholderData: (last: unknown) => last },
  );
export const useOpenJobs = () => useGet<readonly JobView[]>('jobs', { refetchInterval: 3_000 });
export const useRecentJobs = () =>
  useGet<readonly JobView[]>('jobs?which=recent', { refetchInterval: 5_000 });
export const useWritePlan = (id: string) =>
  useGet<WritePlanView>(`write-plans/${id}`, {
    refetchInterval: (query: { state: { data?: WritePlanView } }) =>
      query.state.data?.state === 'writing' ? 400 : false,
  });
export const useWritePlans = (tag: string) =>
  useGet<readonly WritePlanView[]>(`positions/${tag}/write-plans`);
export const useKeyInSheets = (tag: string) =>
  useGet<readonly KeyInSheetView[]>(`positions/${tag}/key-in-sheets`);
export const useController = (tag: string) =>
  useGet<ControllerView>(`positions/${tag}/controller`, { retry: false });
export const useAxes = (tag: string) => useGet<AxisMachineView>(`positions/${tag}/axes`, { retry: false });
export const useAxisLoad = (id: string) =>
  useGet<AxisLoadView>(`axis-loads/${id}`, {
    refetchInterval: (query: { state: { data?: AxisLoadView } }) =>
      query.state.data?.state === 'loading' ? 500 : false,
  });
export const useReset = (tag: string, choice: string) =>
  useGet<ResetView>(`positions/${tag}/reset?${choice}`, { placeholderData: (before: unknown) => before });
export const useLogbook = (query: string) => useGet<LogbookPage>(`logbook?${query}`);
export const useModels = () => useGet<readonly ModelListing[]>('dictionaries');
export const useDictionaryChanges = (id: string, since: string) =>
  useGet<DictionaryChanges>(`dictionaries/${id}/changes?since=${since}`, { enabled: since !== '' });
export const useLookUp = (find: string, position = '') =>
  useGet<readonly LookUpView[]>(
    `look-up?${new URLSearchParams({ find, ...(position === '' ? {} : { position }) }).toString()}`,
    { enabled: find.trim() !== '', placeholderData: (before: unknown) => before },
  );
export const useFaultLookUp = (find: string, position = '') =>
  useGet<readonly FaultHitView[]>(
    `look-up/faults?${new URLSearchParams({ find, ...(position === '' ? {} : { position }) }).toString()}`,
    { enabled: find.trim() !== '', placeholderData: (before: unknown) => before },
  );
export const useSameMeaning = (dictionary: string, code: string) =>
  useGet<readonly SameMeaningView[]>(
    `look-up/same-meaning?${new URLSearchParams({ dictionary, code }).toString()}`,
    { staleTime: 60_000 },
  );
export const usePeers = (tags: string) =>
  useGet<PeersView>(`peers?positions=${encodeURIComponent(tags)}`, { enabled: tags !== '' });
export const useTraces = (tag: string) =>
  useGet<readonly TraceListing[]>(`positions/${tag}/traces`, {
    // Only what is being recorded changes by itself.
    refetchInterval: ({ state }: { state: { data?: readonly TraceListing[] } }) =>
      state.data?.some((trace) => trace.state === 'recording') ? 3000 : false,
  });
export const useTrace = (id: string) =>
  useGet<TraceView>(`traces/${id}`, {
    enabled: id !== '',
    refetchInterval: ({ state }: { state: { data?: TraceView } }) =>
      state.data?.state === 'recording' ? 1000 : false,
  });
export const useProofList = (tag: string) => useGet<ProofsView>(`positions/${tag}/proofs`);
/** What was read never changes. */
export const useProofReadings = (run: string, evidence: string, enabled: boolean) =>
  useGet<readonly ProofReading[]>(`proofs/${run}/evidence/${evidence}`, { staleTime: Infinity, enabled });
export const useRounds = () => useGet<readonly RoundView[]>('rounds', { refetchInterval: 10_000 });
export const useIntegrity = () => useGet<{ readonly report: IntegrityReport | null }>('integrity');
export const useMotors = () => useGet<readonly MotorView[]>('motors');
export const useArrivals = () => useGet<readonly MotorArrival[]>('motor-arrivals');
export const usePlant = () => useGet<PlantView>('plant');
export const usePeople = (may: boolean) => useGet<readonly PersonView[]>('people', { enabled: may });
export const useOwnSessions = () => useGet<readonly OpenSession[]>('session/all');
export const useScriptTokens = () => useGet<readonly ScriptTokenView[]>('script-tokens');
export const useFirstSteps = () => useGet<readonly FirstStep[]>('first-steps');
export const useModelDrafts = () => useGet<readonly ModelDraftListing[]>('model-drafts');
export const useLines = () => useGet<readonly LineView[]>('lines');
export const useDictionary = (id: string | undefined) =>
  useGet<Dictionary>(`dictionaries/${id ?? ''}`, { enabled: id !== undefined, staleTime: Infinity });

/** What a backup or a write changes: everything told about positions. */
export async function forgetPositions(): Promise<void> {
  const about = /^(register|positions|findings|logbook|jobs|peers)/;
  await queryClient.invalidateQueries({ predicate: ({ queryKey }) => about.test(String(queryKey[0])) });
}

/** One job as it changes, by server-sent events; the job page and the slip share it. */
export function useJob(id: string): UseQueryResult<JobView, ProblemError> {
  const path = `jobs/${id}`;
  useEffect(() => {
    const events = new EventSource(`/api/${path}/events`);
    events.addEventListener('job', (event: MessageEvent<string>) => {
      const job = JSON.parse(event.data) as JobView;
      queryClient.setQueryData([path], job);
      if (job.state === 'queued' || job.state === 'running') return;
      events.close();
      void forgetPositions();
    });
    return () => events.close();
  }, [path]);
  return useGet<JobView>(path);
}
