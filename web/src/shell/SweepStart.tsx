import { Button, Checkbox, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { acts } from '../api/acts';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Foldout } from '../parts/Foldout';
import { count, counted, lasting } from '../parts/format';
import { ClickHosts } from './ClickHosts';
import classes from './SweepControl.module.css';

/** Says how far a sweep will reach before it begins, and as whom links are followed. */
export function SweepStart({ name, disabled }: { name: string; disabled: boolean }) {
  const [phone, setPhone] = useState(false);
  const [paused, setPaused] = useState(false);
  const [language, setLanguage] = useState('');
  const visitors = ['desktop', ...(phone ? ['phone'] : []), ...(language.trim() ? [language.trim()] : [])];
  const reach = useQuery({ ...queries.reach(name, visitors.length, paused), placeholderData: (before) => before });
  const begin = useAct(name, () => acts.beginSweep(name, { visitors, paused }));
  const links = reach.data?.links ?? 0;
  return (
    <Foldout
      side="end"
      button={
        <Button variant="filled" disabled={disabled} loading={begin.isPending}>
          Sweep …
        </Button>
      }
    >
      {(close) => (
        <>
          {reach.data && (
            <p className={classes.reach}>
              {counted(links, 'link')}, {counted(reach.data.hosts, 'host')}, about {lasting(reach.data.seconds)},{' '}
              {billedWords(reach.data)}
              {reach.data.excluded > 0 && `, ${count(reach.data.excluded)} left out`}.
            </p>
          )}
          <ClickHosts name={name} hosts={reach.data?.may_charge ?? []} />
          <Checkbox
            label="As a phone too"
            checked={phone}
            onChange={(event) => setPhone(event.currentTarget.checked)}
          />
          <TextInput
            label="In another language too"
            placeholder="de"
            w={160}
            my={6}
            value={language}
            onChange={(event) => setLanguage(event.currentTarget.value)}
          />
          <Checkbox
            label={`Paused ads too (${counted(reach.data?.paused ?? 0, 'link')})`}
            checked={paused}
            onChange={(event) => setPaused(event.currentTarget.checked)}
          />
          <Button
            mt={10}
            variant="filled"
            onClick={() => {
              begin.mutate(undefined);
              close();
            }}
            data-autofocus
          >
            Sweep {counted(links, 'link')}
          </Button>
        </>
      )}
    </Foldout>
  );
}

function billedWords({ billed, may_charge }: { billed: number; may_charge: unknown[] }) {
  if (billed > 0) {
    return `${counted(billed, 'link')} on billed hosts that are never requested`;
  }
  return may_charge.length > 0 ? 'no host said to charge' : 'no billed host';
}
