import { useMutation, useQueryClient } from '@tanstack/react-query';
import { ProblemError } from './client';
import { notices } from './notices';

/** Does something that changes a workspace: refreshes all that is shown of it, and says in words what went wrong. */
export function useAct<Input, Output>(workspace: string, act: (input: Input) => Promise<Output>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: () => client.invalidateQueries({ queryKey: [workspace] }),
    onError: (error) =>
      notices.show({
        title: error instanceof ProblemError ? error.title : 'That did not work.',
        message: error.message,
        color: 'red',
        autoClose: 10_000,
      }),
  });
}
