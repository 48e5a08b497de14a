import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { counted, ofAll, onDay } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { Toolbar } from '../parts/Toolbar';
import { useWorkspace } from '../session/useWorkspace';
import { Split } from '../shell/Split';
import { useListState } from '../shell/useListState';
import { Causes } from './Causes';
import { MixBars } from './MixBars';
import { Period } from './Period';
import { RowsEvidence } from './RowsEvidence';
import classes from './TrafficView.module.css';
import { Unshown } from './Unshown';

/** Traffic is weighed: the channel mix as recorded, as it would be with chosen fixes, and the causes between the two. */
export function TrafficView() {
  const { name, stops, currency } = useWorkspace();
  const { list, set } = useListState();
  const chosen = (list.fixes ?? '').split(',').filter(Boolean).map(Number);
  const traffic = useQuery(queries.traffic(name, chosen.join(','), { from: list.from, to: list.to }));
  const open = useCallback(
    (filter: Record<string, string | null>) => set({ channel: null, cause: null, fix: null, chosen: null, ...filter }),
    [set],
  );
  const filtered = Boolean(list.channel || list.cause || list.fix);

  if (traffic.isError) {
    return <Unshown error={traffic.error} />;
  }
  if (stops.traffic.total === 0) {
    return (
      <EmptyState
        title="No visits yet."
        hint="Import session rows from your analytics: a date, source, medium, landing page and sessions in each row."
      >
        <Button component={Link} to="import" variant="filled">
          Import session rows
        </Button>
      </EmptyState>
    );
  }
  if (!traffic.data) {
    return <Loading />;
  }
  const { period, sessions, recorded, forecast, causes, rules, swept_at } = traffic.data;
  const repairable = [...new Set(causes.flatMap((cause) => cause.fixes))];
  return (
    <Split evidence={filtered ? <RowsEvidence list={list} onClose={() => open({})} /> : undefined}>
      <Toolbar>
        <span>
          {counted(sessions, 'session')}, {onDay(list.from ?? period.from)} to {onDay(list.to ?? period.to)}
        </span>
        <Toolbar.Rest>
          <Period from={list.from} to={list.to} last={period.to} set={set} />
        </Toolbar.Rest>
      </Toolbar>
      <div className={classes.body}>
        {!swept_at && (
          <p className={classes.hint}>No sweep has ended yet: causes that lie in links are found by one.</p>
        )}
        <MixBars
          recorded={recorded}
          forecast={forecast}
          chosen={chosen.length}
          onOpen={(channel) => open({ channel })}
        />
        <Section
          title="Causes"
          aside={
            <Button
              variant="subtle"
              onClick={() => set({ fixes: chosen.length === repairable.length ? null : repairable.join(',') })}
            >
              {chosen.length === repairable.length
                ? 'Choose none'
                : `Choose ${ofAll(repairable.length, repairable.length, 'fix', 'fixes')}`}
            </Button>
          }
        >
          <Causes
            causes={causes}
            chosen={chosen}
            currency={currency}
            onChoose={(fixes) => set({ fixes: fixes.join(',') })}
            onOpen={(cause) => open({ cause })}
          />
        </Section>
        <Rules rules={rules} />
      </div>
    </Split>
  );
}

function Rules({ rules }: { rules: Schema['Traffic']['rules'] }) {
  return (
    <Section title="Channel rules" aside="the first that fits decides">
      <ol className={classes.rules}>
        {rules.map((rule) => (
          <li key={rule.number}>
            {rule.channel}: <span className={classes.hint}>{rule.when}</span>
          </li>
        ))}
      </ol>
    </Section>
  );
}
