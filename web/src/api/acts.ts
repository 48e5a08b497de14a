import { api, unwrap } from './client';

/** Everything that changes something on the server. */
export const acts = {
  beginSweep: (workspace: string) =>
    unwrap(api.POST('/api/workspaces/{workspace}/sweeps', { params: { path: { workspace } } })),

  stopSweep: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/sweeps/{id}/stop', { params: { path: { workspace, id } } })),

  resumeSweep: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/sweeps/{id}/resume', { params: { path: { workspace, id } } })),

  checkFix: (workspace: string, id: number) =>
    unwrap(api.POST('/api/workspaces/{workspace}/fixes/{id}/check', { params: { path: { workspace, id } } })),

  preview: (workspace: string, kind: 'links' | 'traffic', file: File) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/imports/preview', {
        params: { path: { workspace }, query: { kind, filename: file.name } },
        ...bytes(file),
      }),
    ),

  importFile: (workspace: string, kind: 'links' | 'traffic', file: File) =>
    unwrap(
      api.POST('/api/workspaces/{workspace}/imports', {
        params: { path: { workspace }, query: { kind, filename: file.name } },
        ...bytes(file),
      }),
    ),

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
