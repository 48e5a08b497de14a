import { api, type Schema, unwrap, unwrapWhenReady } from './client';
import type { operations } from './schema';

export type FileKind =
  | 'links'
  | 'ads'
  | 'messages'
  | 'register'
  | 'print'
  | 'paste'
  | 'traffic'
  | 'logs'
  | 'claims'
  | 'orders'
  | 'touches';

/** A file, and what a person says beside it. */
export interface Upload {
  file: File;
  kind: FileKind;
  source?: string;
  network?: string;
  host?: string;
  place?: string;
  owner?: string;
  link_kind?: string;
  dates?: 'day-first' | 'month-first';
  /** JSON of field and column. */
  matching?: string;
}

export type HostMap = Schema['HostMap'];
export type SettingsWish = NonNullable<operations['changeWorkspace']['requestBody']>['content']['application/json'];

/** What is swept: everything, or only what is named. */
export interface SweepWish {
  visitors?: string[];
  paused?: boolean;
  links?: number[];
  filters?: Record<string, string>;
  rehearsals?: string[];
}

/** A request as a browser made it. */
export interface SampleRequest {
  address: string;
  body?: string;
  type?: string;
}

/** One act on the page on which a rehearsal is recorded. */
export type RecorderWish =
  | { step: Record<string, unknown> }
  | { at: { x: number; y: number } }
  | { scroll: number }
  | { replay: Record<string, unknown>[] };

export interface LinkActWish {
  act: Schema['LinkAct']['act'];
  value?: string;
  /** Without them the act is for all links that the filters leave. */
  ids?: number[];
}

export interface ClickWish {
  network: string;
  levels: { name: LevelName; landing?: string; pattern?: string; tail?: string; own?: Record<string, string> }[];
  values?: Record<string, string>;
  samples?: boolean;
}

export interface VersionWish {
  /** The version that it was made from: if another was saved since, the server says so. */
  base: number;
  note?: string;
  author?: string;
}

export type BuildRow = Schema['BuildRow'];

export interface SignpostWish {
  host?: string;
  path?: string;
  target?: string;
  caption?: string;
  pass_on?: string;
  ends?: string | null;
  author?: string;
  note?: string;
  /** Why it is put up although the rules reject its target, or it does not land. */
  why?: string;
}

export type LevelName = 'account' | 'campaign' | 'group' | 'ad';

/** Everything that changes something on the server. */
export const acts = {
  lookAtSite: (body: { address: string; host_map?: HostMap }) => unwrap(api.POST('/api/workspaces/look', { body })),

  makeWorkspace: (body: {
    title: string;
    own_hosts: string[];
    currency?: string;
    time_zone?: string;
    language?: string;
    host_map?: HostMap;
  }) => unwrap(api.POST('/api/workspaces', { body })),

  bringInWorkspace: (file: File) =>
    unwrap(api.POST('/api/bundles', { ...bytes(file), params: { query: { filename: file.name.slice(0, 300) } } })),

  stopBringingIn: (id: number) => unwrap(api.POST('/api/bundles/{id}/stop', { params: { path: { id } } })),

  prepareBundle: (workspace: string) =>
    unwrap(api.POST('/api/workspaces/{workspace}/bundle', { params: { path: { workspace } } })),

  tryConvention: (
    workspace: string,
    body: { document: Record<string, unknown>; visit?: Record<string, string>; network?: string; pattern?: string },
  ) => unwrap(api.POST('/api/workspaces/{workspace}/convention/try', { params: { path: { workspace } }, body })),

  decideClickHost: (workspace: string, body: { host: string; charges: boolean | null }) =>
    unwrap(api.POST('/api/workspaces/{workspace}/click-hosts', { params: { path: { workspace } }, body })),

  trySignature: (workspace: string, signature: Record<string, unknown>, requests: SampleRequest[]) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/signatures/read', {
        params: { path: { workspace } },
        body: { signature, requests },
      }),
    ),

  beginRecording: (workspace: string) =>
    unwrap(api.POST('/api/workspaces/{workspace}/recorders', { params: { path: { workspace } } })),

  actInRecorder: (workspace: string, id: string, body: RecorderWish) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/recorders/{id}/acts', {
        params: { path: { workspace, id } },
        body,
      }),
    ),

  endRecording: (workspace: string, id: string) =>
    unwrap(api.DELETE('/api/workspaces/{workspace}/recorders/{id}', { params: { path: { workspace, id } } })),

  changeWorkspace: (workspace: string, body: SettingsWish) =>
    unwrap(api.PATCH('/api/workspaces/{workspace}', { params: { path: { workspace } }, body })),

  deleteWorkspace: async (workspace: string, title: string) => {
    const { error } = await api.DELETE('/api/workspaces/{workspace}', {
      params: { path: { workspace }, query: { title } },
    });
    if (error) {
      throw new Error(error.detail);
    }
  },

  beginSweep: (workspace: string, body: SweepWish) =>
    unwrap(api.POST('/api/workspaces/{workspace}/sweeps', { params: { path: { workspace } }, body })),

  stopSweep: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/sweeps/{id}/stop', { params: { path: { workspace, id } } })),

  resumeSweep: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/sweeps/{id}/resume', { params: { path: { workspace, id } } })),

  checkFix: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/fixes/{id}/check', { params: { path: { workspace, id } } })),

  preview: (workspace: string, { file, ...said }: Upload) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/imports/preview', {
        params: { path: { workspace }, query: { filename: file.name, ...said } },
        ...bytes(file),
      }),
    ),

  importFile: (workspace: string, { file, ...said }: Upload) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/imports', {
        params: { path: { workspace }, query: { filename: file.name, ...said } },
        ...bytes(file),
      }),
    ),

  fetchImport: (workspace: string, body: { kind: 'site' | 'pages' | 'network'; [option: string]: string | number }) =>
    unwrap(api.POST('/api/workspaces/{workspace}/imports/fetch', { params: { path: { workspace } }, body })),

  stopImport: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/imports/{id}/stop', { params: { path: { workspace, id } } })),

  actOnLinks: (workspace: string, query: Record<string, string>, body: LinkActWish) =>
    unwrap(api.POST('/api/workspaces/{workspace}/links/acts', { params: { path: { workspace }, query }, body })),

  undoAct: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/links/acts/{id}/undo', { params: { path: { workspace, id } } })),

  resolveClick: (workspace: string, body: ClickWish) =>
    unwrap(api.POST('/api/workspaces/{workspace}/click-address', { params: { path: { workspace } }, body })),

  saveConvention: (workspace: string, body: VersionWish & { document: Record<string, unknown> }) =>
    unwrap(api.POST('/api/workspaces/{workspace}/convention', { params: { path: { workspace } }, body })),

  restoreVersion: (workspace: string, version: number, body: VersionWish) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/convention/versions/{version}/restore', {
        params: { path: { workspace, version } },
        body,
      }),
    ),

  previewConvention: (workspace: string, document: Record<string, unknown>) =>
    unwrapWhenReady(
      workspace,
      api.POST('/api/workspaces/{workspace}/convention/preview', {
        params: { path: { workspace } },
        body: { document },
      }),
    ),

  applyProposals: (workspace: string, document: Record<string, unknown>, proposals: Schema['Proposal'][]) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/convention/apply', {
        params: { path: { workspace } },
        body: { document, proposals },
      }),
    ),

  readTable: (workspace: string, of: 'values' | 'pairs', text: string) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/convention/table', {
        params: { path: { workspace }, query: { of } },
        body: text,
        bodySerializer: (body: string) => body,
        headers: { 'Content-Type': 'text/csv' },
      }),
    ),

  proposeValue: (workspace: string, body: { role: string; value: string; reason?: string; author?: string }) =>
    unwrap(api.POST('/api/workspaces/{workspace}/proposed-values', { params: { path: { workspace } }, body })),

  settleProposed: (workspace: string, id: number, state: 'taken' | 'declined' | 'open') =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/proposed-values/{id}', {
        params: { path: { workspace, id } },
        body: { state },
      }),
    ),

  waive: (workspace: string, id: number, body: { reason: string; ends: string; author?: string }) =>
    unwrap(api.POST('/api/workspaces/{workspace}/findings/{id}/waive', { params: { path: { workspace, id } }, body })),

  takeBackWaiver: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/waivers/{id}/take-back', { params: { path: { workspace, id } } })),

  beginSheet: (workspace: string, body: { name: string; rows?: BuildRow[] }) =>
    unwrap(api.POST('/api/workspaces/{workspace}/sheets', { params: { path: { workspace } }, body })),

  keepSheet: (workspace: string, id: number, body: { rows: BuildRow[]; lock: number; name: string }) =>
    unwrap(api.PUT('/api/workspaces/{workspace}/sheets/{id}', { params: { path: { workspace, id } }, body })),

  throwSheetAway: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/sheets/{id}/throw-away', { params: { path: { workspace, id } } })),

  bringSheetBack: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/sheets/{id}/bring-back', { params: { path: { workspace, id } } })),

  judgeRows: (workspace: string, rows: BuildRow[]) =>
    unwrap(api.POST('/api/workspaces/{workspace}/build/judge', { params: { path: { workspace } }, body: { rows } })),

  fanOut: (workspace: string, body: { landing: string; values: Record<string, string>; places: Schema['Place'][] }) =>
    unwrap(api.POST('/api/workspaces/{workspace}/build/fan-out', { params: { path: { workspace } }, body })),

  fromAds: (
    workspace: string,
    body: { network: string; names: Record<string, string>; values?: Record<string, string> },
  ) => unwrap(api.POST('/api/workspaces/{workspace}/build/from-ads', { params: { path: { workspace } }, body })),

  checkLanding: (workspace: string, address: string) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/build/landing', { params: { path: { workspace } }, body: { address } }),
    ),

  releaseSheet: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/sheets/{id}/release', { params: { path: { workspace, id } } })),

  keepTemplate: (workspace: string, body: { name: string; rows: BuildRow[] }) =>
    unwrap(api.POST('/api/workspaces/{workspace}/templates', { params: { path: { workspace } }, body })),

  fillTemplate: (workspace: string, id: number, answers: Record<string, string>) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/templates/{id}/fill', {
        params: { path: { workspace, id } },
        body: { answers },
      }),
    ),

  decideSender: (workspace: string, id: number, body: { decision: string; tag?: string; author?: string }) =>
    unwrap(api.POST('/api/workspaces/{workspace}/senders/{id}', { params: { path: { workspace, id } }, body })),

  putUpSignpost: (workspace: string, body: SignpostWish) =>
    unwrap(api.POST('/api/workspaces/{workspace}/signposts', { params: { path: { workspace } }, body })),

  changeSignpost: (workspace: string, id: number, body: SignpostWish) =>
    unwrap(api.PUT('/api/workspaces/{workspace}/signposts/{id}', { params: { path: { workspace, id } }, body })),

  takeSignpostDown: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/signposts/{id}/take-down', { params: { path: { workspace, id } } })),

  putSignpostUpAgain: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/signposts/{id}/put-up', { params: { path: { workspace, id } } })),

  removeImport: (workspace: string, id: number) =>
    gone(api.DELETE('/api/workspaces/{workspace}/imports/{id}', { params: { path: { workspace, id } } })),

  takeBackSetting: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/settings/take-back/{id}', { params: { path: { workspace, id } } })),

  signIn: (body: { mail: string; password: string; code?: string }) => unwrap(api.POST('/api/session', { body })),

  signOut: () => gone(api.DELETE('/api/session')),

  changeAccount: (body: { name?: string; password?: string; current_password?: string }) =>
    unwrap(api.PATCH('/api/account', { body })),

  endSignIn: (id: number) => gone(api.DELETE('/api/account/sign-ins/{id}', { params: { path: { id } } })),

  beginSecondFactor: (current_password: string) =>
    unwrap(api.POST('/api/account/second-factor', { body: { current_password } })),

  confirmSecondFactor: (code: string) => unwrap(api.POST('/api/account/second-factor/confirm', { body: { code } })),

  turnSecondFactorOff: (body: { current_password: string; code: string }) =>
    unwrap(api.POST('/api/account/second-factor/turn-off', { body })),

  makeFirstOwner: (body: { name: string; mail: string; password: string }) => unwrap(api.POST('/api/owner', { body })),

  acceptInvitation: (token: string, body: { name?: string; mail?: string; password: string; code?: string }) =>
    unwrap(api.POST('/api/invitations/{token}', { params: { path: { token } }, body })),

  askForPassword: (body: { mail: string }) => unwrap(api.POST('/api/password-links', { body })),

  invite: (workspace: string, body: { mail: string; role: string }) =>
    unwrap(api.POST('/api/workspaces/{workspace}/invitations', { params: { path: { workspace } }, body })),

  withdrawInvitation: (workspace: string, id: number) =>
    gone(api.DELETE('/api/workspaces/{workspace}/invitations/{id}', { params: { path: { workspace, id } } })),

  changeMember: (workspace: string, id: number, body: { role: string; heir?: number }) =>
    unwrap(api.PATCH('/api/workspaces/{workspace}/people/{id}', { params: { path: { workspace, id } }, body })),

  removeMember: (workspace: string, id: number, heir?: number) =>
    gone(
      api.DELETE('/api/workspaces/{workspace}/people/{id}', {
        params: { path: { workspace, id }, query: heir ? { heir } : {} },
      }),
    ),

  makePasswordLink: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/people/{id}/password-link', { params: { path: { workspace, id } } })),

  makeKey: (workspace: string, body: { name: string; role: string }) =>
    unwrap(api.POST('/api/workspaces/{workspace}/keys', { params: { path: { workspace } }, body })),

  judgeRecording: (workspace: string, file: File) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/recordings', {
        params: { path: { workspace }, query: { filename: file.name } },
        ...bytes(file),
      }),
    ),

  takeReferrer: (workspace: string, body: { host: string; taken_for: string; version: number }) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/traffic/referrers', {
        params: { path: { workspace } },
        body: body as { host: string; taken_for: 'own'; version: number },
      }),
    ),

  takeBackKey: (workspace: string, id: number) =>
    gone(api.DELETE('/api/workspaces/{workspace}/keys/{id}', { params: { path: { workspace, id } } })),
};

/** For what answers with nothing. */
async function gone(answer: Promise<{ error?: unknown }>) {
  await unwrap(answer.then(({ error }) => (error ? { error } : { data: null })));
}

/** Sends a file as it is: what it holds is the server's business. */
function bytes(file: File) {
  return {
    body: '',
    bodySerializer: () => file,
    headers: { 'Content-Type': 'application/octet-stream' },
  };
}
