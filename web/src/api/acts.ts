import { api, type Schema, unwrap } from './client';

export type FileKind = 'links' | 'ads' | 'messages' | 'register' | 'print' | 'paste' | 'traffic';

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
  /** JSON of field and column. */
  matching?: string;
}

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

export type LevelName = 'account' | 'campaign' | 'group' | 'ad';

/** Everything that changes something on the server. */
export const acts = {
  beginSweep: (workspace: string, body: { visitors: string[]; paused: boolean }) =>
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

  removeImport: async (workspace: string, id: number) => {
    const { error } = await api.DELETE('/api/workspaces/{workspace}/imports/{id}', {
      params: { path: { workspace, id } },
    });
    if (error) {
      throw new Error(error.detail);
    }
  },
};

/** Sends a file as it is: what it holds is the server's business. */
function bytes(file: File) {
  return {
    body: '',
    bodySerializer: () => file,
    headers: { 'Content-Type': 'application/octet-stream' },
  };
}
