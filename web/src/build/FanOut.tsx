import '@mantine/core/styles/Overlay.css';
import '@mantine/core/styles/ModalBase.css';
import '@mantine/core/styles/Modal.css';
import { Autocomplete, Button, Checkbox, Group, Modal, NumberInput, TextInput } from '@mantine/core';
import { useState } from 'react';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { useAct } from '../api/useAct';
import { counted } from '../parts/format';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Build.module.css';

type Place = Schema['Place'];

interface FanOutProps {
  places: Schema['BuildPlaces'];
  onRows: (rows: Schema['BuildRow'][]) => void;
}

interface Choice {
  count: number;
  label: string;
}

const keyOf = (place: Place) => `${place.kind} ${place.source} ${place.medium}`;

/** One landing address and campaign over chosen places: one row each, so that each can be told apart later. */
export function FanOut({ places, onRows }: FanOutProps) {
  const { name } = useWorkspace();
  const [open, setOpen] = useState(false);
  const [landing, setLanding] = useState('');
  const [values, setValues] = useState<Record<string, string>>({});
  const [chosen, setChosen] = useState<Record<string, Choice>>({});
  const wanted = places.places.flatMap((place) => {
    const choice = chosen[keyOf(place)];
    return choice ? Array.from({ length: choice.count }, () => ({ ...place, label: choice.label })) : [];
  });
  const spread = useAct(name, () => acts.fanOut(name, { landing, values, places: wanted }));
  const free = places.roles.filter((role) => !['source', 'medium'].includes(role.role));
  const put = (place: Place, choice: Choice | undefined) => {
    const { [keyOf(place)]: _, ...others } = chosen;
    setChosen(choice ? { ...others, [keyOf(place)]: choice } : others);
  };
  return (
    <>
      <Button onClick={() => setOpen(true)}>Fan out …</Button>
      <Modal opened={open} onClose={() => setOpen(false)} title="One landing address over several places" size="lg">
        <TextInput
          label="Landing address"
          data-autofocus
          value={landing}
          onChange={(event) => setLanding(event.currentTarget.value)}
        />
        <Group gap={8} my={8} grow>
          {free.slice(0, 3).map((role) => (
            <Autocomplete
              key={role.role}
              label={role.role}
              data={role.values}
              limit={20}
              value={values[role.role] ?? ''}
              onChange={(value) => setValues({ ...values, [role.role]: value })}
            />
          ))}
        </Group>
        <div className={classes.places}>
          {places.places.map((place) => (
            <OnePlace
              key={keyOf(place)}
              place={place}
              choice={chosen[keyOf(place)]}
              put={(choice) => put(place, choice)}
            />
          ))}
        </div>
        <Button
          mt={10}
          variant="filled"
          disabled={wanted.length === 0}
          onClick={() =>
            spread.mutate(undefined, {
              onSuccess: (answer) => {
                onRows(answer.rows);
                setOpen(false);
              },
            })
          }
        >
          Make {counted(wanted.length, 'row')}
        </Button>
      </Modal>
    </>
  );
}

/** A place that can be chosen. choice: undefined where it is not · put: undefined takes the choice back. */
function OnePlace({
  place,
  choice,
  put,
}: {
  place: Place;
  choice: Choice | undefined;
  put: (choice: Choice | undefined) => void;
}) {
  return (
    <div className={classes.place}>
      <Checkbox
        aria-label={`${place.kind} ${place.source} ${place.medium}`}
        label={place.kind}
        checked={choice !== undefined}
        onChange={(event) => put(event.currentTarget.checked ? { count: 1, label: '' } : undefined)}
      />
      <span>
        {place.source} <span className={classes.faint}>{place.medium}</span>
      </span>
      {choice && (
        <Group gap={4} wrap="nowrap">
          <NumberInput
            aria-label="How many"
            w={60}
            min={1}
            max={50}
            value={choice.count}
            onChange={(value) => put({ ...choice, count: Number(value) || 1 })}
          />
          <TextInput
            aria-label="Told apart by"
            placeholder="told apart by"
            value={choice.label}
            onChange={(event) => put({ ...choice, label: event.currentTarget.value })}
          />
        </Group>
      )}
    </div>
  );
}
