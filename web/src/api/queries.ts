import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, unwrap, unwrapWhenReady } from './client';

/** The first page of a list fills the screen at once; those after it are fetched while a person scrolls. */
const pageSize = (cursor: string) => (cursor ? 500 : 100);

/** Filters and sort of a list, as they stand in the address bar. */
export type ListState = Record<string, string>;

/** Every query. Keys are written here and nowhere else; all below a workspace begin with its name. */
export const queries = {
  workspaces: () => queryOptions({ queryKey: ['workspaces'], queryFn: () => unwrap(api.GET('/api/workspaces')) }),

  session: () =>
    queryOptions({
      queryKey: ['session'],
      queryFn: () => unwrap(api.GET('/api/session')),
      staleTime: 60_000,
    }),

  invitation: (token: string) =>
    queryOptions({
      queryKey: ['invitation', token],
      queryFn: () => unwrap(api.GET('/api/invitations/{token}', { params: { path: { token } } })),
      staleTime: Number.POSITIVE_INFINITY,
    }),

  signIns: () =>
    queryOptions({
      queryKey: ['account', 'sign-ins'],
      queryFn: () => unwrap(api.GET('/api/account/sign-ins')),
    }),

  secondFactor: () =>
    queryOptions({
      queryKey: ['account', 'second-factor'],
      queryFn: () => unwrap(api.GET('/api/account/second-factor')),
    }),

  people: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'people'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/people', { params: { path: { workspace } } })),
    }),

  bundleImport: (id: number) =>
    queryOptions({
      queryKey: ['bundles', id],
      queryFn: () => unwrap(api.GET('/api/bundles/{id}', { params: { path: { id } } })),
      refetchInterval: ({ state }) => (isActive(state.data?.state) ? 500 : false),
    }),

  preparedBundle: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'bundle'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/bundle', { params: { path: { workspace } } })),
      refetchInterval: ({ state }) => (isActive(state.data?.state) ? 500 : false),
    }),

  settings: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'settings'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/settings', { params: { path: { workspace } } })),
    }),

  workspace: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'summary'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}', { params: { path: { workspace } } })),
      refetchInterval: ({ state }) =>
        isActive(state.data?.sweep?.state) || state.data?.explained.pending ? 400 : 5_000,
    }),

  convention: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'convention'],
      queryFn: () =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/convention', {
            params: { path: { workspace }, query: { warm: '1' } },
          }),
        ),
    }),

  rules: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'rules'],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/convention/rules', { params: { path: { workspace } } })),
    }),

  versions: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'versions'],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/convention/versions', { params: { path: { workspace } } })),
    }),

  comparison: (workspace: string, from: number, to: number) =>
    queryOptions({
      queryKey: [workspace, 'comparison', from, to],
      queryFn: () =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/convention/compare', {
            params: { path: { workspace }, query: { from, to } },
          }),
        ),
    }),

  learned: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'learned'],
      queryFn: () =>
        unwrapWhenReady(
          workspace,
          api.POST('/api/workspaces/{workspace}/convention/learn', { params: { path: { workspace } } }),
        ),
      staleTime: 60_000,
    }),

  proposed: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'proposed'],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/proposed-values', { params: { path: { workspace } } })),
    }),

  waivers: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'waivers'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/waivers', { params: { path: { workspace } } })),
    }),

  overAll: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'over-all'],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/findings/over-all', { params: { path: { workspace } } })),
    }),

  sheets: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'sheets'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/sheets', { params: { path: { workspace } } })),
    }),

  /** Read once: while a sheet is open, what stands in it is the screen's. */
  sheet: (workspace: string, id: number) =>
    queryOptions({
      queryKey: ['sheet', workspace, id],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/sheets/{id}', { params: { path: { workspace, id } } })),
      staleTime: Number.POSITIVE_INFINITY,
      gcTime: 0,
    }),

  whereabouts: (workspace: string, id: number) =>
    queryOptions({
      queryKey: [workspace, 'whereabouts', id],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/sheets/{id}/whereabouts', { params: { path: { workspace, id } } })),
    }),

  places: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'places'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/build/places', { params: { path: { workspace } } })),
    }),

  signposts: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'signposts'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/signposts', { params: { path: { workspace } } })),
      refetchInterval: 5_000,
    }),

  signpost: (workspace: string, id: number) =>
    queryOptions({
      queryKey: [workspace, 'signpost', id],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/signposts/{id}', { params: { path: { workspace, id } } })),
      placeholderData: keepPreviousData,
      refetchInterval: 5_000,
    }),

  links: (workspace: string, list: ListState) =>
    infiniteQueryOptions({
      queryKey: [workspace, 'links', list],
      queryFn: ({ pageParam }) =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/links', {
            params: {
              path: { workspace },
              query: { ...list, limit: pageSize(pageParam), ...(pageParam ? { cursor: pageParam } : {}) },
            },
          }),
        ),
      initialPageParam: '',
      getNextPageParam: (page) => page.next_cursor ?? undefined,
      placeholderData: keepPreviousData,
    }),

  facets: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'facets'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/links/facets', { params: { path: { workspace } } })),
    }),

  link: (workspace: string, id: number) =>
    queryOptions({
      queryKey: [workspace, 'link', id],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/links/{id}', { params: { path: { workspace, id } } })),
      placeholderData: keepPreviousData,
    }),

  reach: (workspace: string, visitors: number, paused: boolean) =>
    queryOptions({
      queryKey: [workspace, 'reach', visitors, paused],
      queryFn: () =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/sweeps/reach', {
            params: { path: { workspace }, query: { visitors, paused: paused ? '1' : '' } },
          }),
        ),
    }),

  sweeps: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'sweeps'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/sweeps', { params: { path: { workspace } } })),
    }),

  difference: (workspace: string, id: number, earlier: number | undefined) =>
    queryOptions({
      queryKey: [workspace, 'difference', id, earlier],
      queryFn: () =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/sweeps/{id}/difference', {
            params: { path: { workspace, id }, query: earlier ? { earlier } : {} },
          }),
        ),
    }),

  importPages: (workspace: string, id: number) =>
    queryOptions({
      queryKey: [workspace, 'imports', id, 'pages'],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/imports/{id}/pages', { params: { path: { workspace, id } } })),
    }),

  clickHosts: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'click-hosts'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/click-hosts', { params: { path: { workspace } } })),
    }),

  imports: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'imports'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/imports', { params: { path: { workspace } } })),
      refetchInterval: ({ state }) =>
        state.data?.imports.some((one) => isActive(one.state) || !one.explained) ? 500 : false,
    }),

  pages: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'pages'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/pages', { params: { path: { workspace } } })),
    }),

  page: (workspace: string, page: string) =>
    queryOptions({
      queryKey: [workspace, 'page', page],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/page', { params: { path: { workspace }, query: { page } } })),
      placeholderData: keepPreviousData,
    }),

  history: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'history'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/history', { params: { path: { workspace } } })),
    }),

  unopened: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'pages', 'unopened'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/pages/unopened', { params: { path: { workspace } } })),
    }),

  senders: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'senders'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/senders', { params: { path: { workspace } } })),
    }),

  runs: (workspace: string, name: string) =>
    queryOptions({
      queryKey: [workspace, 'rehearsal', name, 'runs'],
      queryFn: () =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/rehearsals/{name}/runs', { params: { path: { workspace, name } } }),
        ),
    }),

  comparedRuns: (workspace: string, name: string, from: number, to: number) =>
    queryOptions({
      queryKey: [workspace, 'rehearsal', name, 'compared', from, to],
      queryFn: () =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/rehearsals/{name}/comparison', {
            params: { path: { workspace, name }, query: { from, to } },
          }),
        ),
    }),

  exportDifference: (workspace: string, id: number) =>
    queryOptions({
      queryKey: [workspace, 'import', id, 'difference'],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/imports/{id}/difference', { params: { path: { workspace, id } } })),
    }),

  recordings: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'recordings'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/recordings', { params: { path: { workspace } } })),
    }),

  recording: (workspace: string, id: number) =>
    queryOptions({
      queryKey: [workspace, 'recordings', id],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/recordings/{id}', { params: { path: { workspace, id } } })),
    }),

  recorder: (workspace: string, id: string) =>
    queryOptions({
      queryKey: ['recorder', workspace, id],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/recorders/{id}', { params: { path: { workspace, id } } })),
      retry: false,
      staleTime: Number.POSITIVE_INFINITY,
    }),

  rehearsals: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'rehearsals'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/rehearsals', { params: { path: { workspace } } })),
    }),

  rehearsal: (workspace: string, name: string) =>
    queryOptions({
      queryKey: [workspace, 'rehearsal', name],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/rehearsals/{name}', { params: { path: { workspace, name } } })),
      placeholderData: keepPreviousData,
    }),

  traffic: (workspace: string, fixes: string, days: Days = {}) =>
    queryOptions({
      queryKey: [workspace, 'traffic', fixes, days],
      queryFn: () =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/traffic', {
            params: { path: { workspace }, query: said({ fixes, ...days }) },
          }),
        ),
      placeholderData: keepPreviousData,
    }),

  series: (
    workspace: string,
    query: Days & {
      by: 'day' | 'week';
      channel?: string | undefined;
      compare?: string | undefined;
      fix?: string | undefined;
    },
  ) =>
    queryOptions({
      queryKey: [workspace, 'series', query],
      queryFn: () =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/traffic/series', {
            params: { path: { workspace }, query: said(query) },
          }),
        ),
      placeholderData: keepPreviousData,
    }),

  table: (workspace: string, query: Record<string, string> & { down: string; across: string }) =>
    queryOptions({
      queryKey: [workspace, 'table', query],
      queryFn: () =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/traffic/table', { params: { path: { workspace }, query: said(query) } }),
        ),
      placeholderData: keepPreviousData,
    }),

  steps: (workspace: string, query: Record<string, string> & { down: string }) =>
    queryOptions({
      queryKey: [workspace, 'steps', query],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/traffic/steps', { params: { path: { workspace }, query } })),
      placeholderData: keepPreviousData,
    }),
  referrers: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'referrers'],
      queryFn: () =>
        unwrap(api.GET('/api/workspaces/{workspace}/traffic/referrers', { params: { path: { workspace } } })),
    }),

  claims: (workspace: string, days: Days) =>
    queryOptions({
      queryKey: [workspace, 'claims', days],
      queryFn: () =>
        unwrapWhenReady(
          workspace,
          api.GET('/api/workspaces/{workspace}/traffic/claims', { params: { path: { workspace }, query: said(days) } }),
        ),
      placeholderData: keepPreviousData,
    }),

  orders: (workspace: string, query: Days & { q: string | undefined }) =>
    queryOptions({
      queryKey: [workspace, 'orders', query],
      queryFn: () =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/traffic/orders', {
            params: { path: { workspace }, query: said(query) },
          }),
        ),
      placeholderData: keepPreviousData,
    }),

  order: (workspace: string, number: string) =>
    queryOptions({
      queryKey: [workspace, 'order', number],
      queryFn: () =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/traffic/orders/{number}', { params: { path: { workspace, number } } }),
        ),
    }),

  rows: (workspace: string, list: ListState) =>
    infiniteQueryOptions({
      queryKey: [workspace, 'rows', list],
      queryFn: ({ pageParam }) =>
        unwrap(
          api.GET('/api/workspaces/{workspace}/traffic/rows', {
            params: {
              path: { workspace },
              query: { ...list, limit: pageSize(pageParam), ...(pageParam ? { cursor: pageParam } : {}) },
            },
          }),
        ),
      initialPageParam: '',
      getNextPageParam: (page) => page.next_cursor ?? undefined,
      placeholderData: keepPreviousData,
    }),

  fixes: (workspace: string) =>
    queryOptions({
      queryKey: [workspace, 'fixes'],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/fixes', { params: { path: { workspace } } })),
    }),

  fix: (workspace: string, id: number) =>
    queryOptions({
      queryKey: [workspace, 'fix', id],
      queryFn: () => unwrap(api.GET('/api/workspaces/{workspace}/fixes/{id}', { params: { path: { workspace, id } } })),
      placeholderData: keepPreviousData,
    }),
};

/** Whether a sweep is under way. */
export function isActive(state: string | undefined): boolean {
  return state === 'waiting' || state === 'running' || state === 'stopping';
}

/** The first and the last day that is looked at. */
interface Days {
  from?: string | undefined;
  to?: string | undefined;
}

/** What is empty is not asked for. */
function said<T extends object>(query: T) {
  return Object.fromEntries(Object.entries(query).filter(([, value]) => value)) as {
    [K in keyof T]?: Exclude<T[K], undefined>;
  };
}
