import { useDebouncedValue } from '@mantine/hooks';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { acts } from '../api/acts';
import { useWorkspace } from '../session/useWorkspace';
import type { ConventionDocument } from './document';

interface Trial {
  document: ConventionDocument;
  visit?: Record<string, string>;
  network?: string;
  pattern?: string;
}

/** What rules that are still being written would do, a moment after the last key. */
export function useTrial(trial: Trial) {
  const { name } = useWorkspace();
  const [settled] = useDebouncedValue(trial, 250);
  return useQuery({
    queryKey: [name, 'trial', settled],
    queryFn: () =>
      acts.tryConvention(name, { ...settled, document: settled.document as unknown as Record<string, unknown> }),
    placeholderData: keepPreviousData,
    gcTime: 0,
  });
}
