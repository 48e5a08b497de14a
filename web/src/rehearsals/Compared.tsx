import { NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { queries } from '../api/queries';
import { atMoment, counted } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';

/** What the last run differs in from an earlier one, step by step. */
export function Compared({ rehearsal }: { rehearsal: string }) {
  const { name } = useWorkspace();
  const runs = useQuery(queries.runs(name, rehearsal)).data?.runs ?? [];
  const [chosen, setChosen] = useState('');
  const [last, ...earlier] = runs;
  const from = earlier.find((one) => String(one.sweep_id) === chosen) ?? earlier[0];
  const compared = useQuery({
    ...queries.comparedRuns(name, rehearsal, from?.sweep_id ?? 0, last?.sweep_id ?? 0),
    enabled: from !== undefined,
  });
  if (!from) {
    return null;
  }
  return (
    <Section title="Beside an earlier run" aside={counted(runs.length, 'run')}>
      <NativeSelect
        aria-label="The earlier run"
        data={earlier.map((one) => ({
          value: String(one.sweep_id),
          label: `${atMoment(one.played_at)}, ${counted(one.signals, 'signal')}${one.failed ? ', a step failed' : ''}`,
        }))}
        value={String(from.sweep_id)}
        onChange={(event) => setChosen(event.currentTarget.value)}
      />
      {compared.data?.steps.length === 0 && <p>Nothing differs.</p>}
      {compared.data?.steps.map((one) => (
        <div key={one.step}>
          <p>
            <b>Step {one.step}</b>: {one.does}
          </p>
          <ul>
            {one.changes.map((change) => (
              <li key={change}>{change}</li>
            ))}
          </ul>
        </div>
      ))}
    </Section>
  );
}
