import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

/** The shapes that the API answers with. */
export type Schema = components['schemas'];
export type Problem = Schema['Problem'];

/** An answer that says what went wrong, in words for a person. */
export class ProblemError extends Error {
  readonly title: string;

  constructor(readonly problem: Problem) {
    super(problem.detail || problem.title);
    this.title = problem.title;
  }
}

/** Whether all that is missing is the code of a second factor. */
export const asksForCode = (error: unknown) => error instanceof ProblemError && error.problem.kind === 'second_factor';

export const api = createClient<paths>({ baseUrl: '/' });

const NO_ANSWER: Problem = {
  type: 'about:blank',
  kind: 'unforeseen',
  title: 'Orvant does not answer.',
  status: 0,
  detail: 'Is it still running? Nothing that you had is lost; try again.',
};

/** Takes the data out of an answer, or throws its problem. */
export async function unwrap<T>(answer: Promise<{ data?: T; error?: unknown }>): Promise<T> {
  const { data, error } = await answer.catch(() => ({ data: undefined, error: NO_ANSWER }));
  if (data === undefined) {
    throw new ProblemError(isProblem(error) ? error : NO_ANSWER);
  }
  return data;
}

const EVERY = 500;
const later = () => new Promise((resolve) => setTimeout(resolve, EVERY));

type Prepared = components['schemas']['PreparedFile'];

/** As unwrap; an answer that the worker has to make first is waited for. */
export async function unwrapWhenReady<T>(
  workspace: string,
  answer: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<Exclude<T, Prepared>> {
  const { response } = await answer.catch(() => ({ response: undefined }));
  const data = await unwrap(answer);
  return (response?.status === 202 ? content(workspace, data as Prepared) : data) as Promise<Exclude<T, Prepared>>;
}

async function content(workspace: string, asked: Prepared): Promise<unknown> {
  const params = { path: { workspace, id: asked.id } };
  let now = asked;
  while (now.state === 'waiting' || now.state === 'running') {
    await later();
    now = await unwrap(api.GET('/api/workspaces/{workspace}/prepared/{id}', { params }));
  }
  return unwrap(api.GET('/api/workspaces/{workspace}/prepared/{id}/content', { params }));
}

function isProblem(error: unknown): error is Problem {
  return typeof error === 'object' && error !== null && 'title' in error && 'detail' in error;
}
