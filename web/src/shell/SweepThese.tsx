import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { acts, type SweepWish } from '../api/acts';
import { isActive, queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { May } from '../session/May';
import { useWorkspace } from '../session/useWorkspace';

/** Sweeps some of what is there at once: links with the pages on which they land, or rehearsals. */
export function SweepThese({ wish, children }: { wish: SweepWish; children: ReactNode }) {
  const { name } = useWorkspace();
  const sweep = useQuery(queries.workspace(name)).data?.sweep;
  const begin = useAct(name, () => acts.beginSweep(name, wish));
  const busy = isActive(sweep?.state);
  return (
    <May least="editor">
      <Button
        disabled={busy}
        loading={begin.isPending}
        title={busy ? 'Another sweep is under way' : undefined}
        onClick={() => begin.mutate(undefined)}
      >
        {children}
      </Button>
    </May>
  );
}
