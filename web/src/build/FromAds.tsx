import { Button, Group, Select } from '@mantine/core';
import { useState } from 'react';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { useAct } from '../api/useAct';
import { Foldout } from '../parts/Foldout';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Build.module.css';

interface FromAdsProps {
  places: Schema['BuildPlaces'];
  onRows: (rows: Schema['BuildRow'][]) => void;
}

const LEVELS = ['campaign', 'group', 'ad'];

/** Rows from the ads that a network knows: one an ad, the names of its campaign, group or itself as values. */
export function FromAds({ places, onRows }: FromAdsProps) {
  const { name } = useWorkspace();
  const [network, setNetwork] = useState<string | null>(null);
  const [names, setNames] = useState<Record<string, string>>({ campaign: 'campaign' });
  const [pair, setPair] = useState<string | null>(null);
  const pairs = new Map(
    places.places
      .filter((place) => place.kind === 'ad')
      .map(({ source, medium }) => [`${source} / ${medium}`, { source, medium }]),
  );
  const make = useAct(name, () =>
    acts.fromAds(name, { network: network ?? '', names, values: pairs.get(pair ?? '') ?? {} }),
  );
  const free = places.roles.filter((role) => !['source', 'medium'].includes(role.role));
  return (
    <Foldout side="start" button={<Button>From ads …</Button>}>
      {(close) => (
        <>
          <p className={classes.faint}>
            One row for each ad in the inventory, with its landing address; names become values.
          </p>
          <Group gap={8} grow>
            <Select
              label="Network"
              data={places.networks.map((one) => one.network)}
              value={network}
              onChange={setNetwork}
              comboboxProps={{ withinPortal: false }}
            />
            <Select
              label="Source and medium"
              data={[...pairs.keys()]}
              clearable
              value={pair}
              onChange={setPair}
              comboboxProps={{ withinPortal: false }}
            />
          </Group>
          <Group gap={8} my={8} grow>
            {free.slice(0, 3).map((role) => (
              <Select
                key={role.role}
                label={`${role.role}: name of the`}
                data={LEVELS}
                clearable
                value={names[role.role] ?? null}
                onChange={(level) => setNames({ ...names, [role.role]: level ?? '' })}
                comboboxProps={{ withinPortal: false }}
              />
            ))}
          </Group>
          <Button
            disabled={!network}
            onClick={() =>
              make.mutate(undefined, {
                onSuccess: (answer) => {
                  close();
                  onRows(answer.rows);
                },
              })
            }
          >
            Make the rows
          </Button>
        </>
      )}
    </Foldout>
  );
}
