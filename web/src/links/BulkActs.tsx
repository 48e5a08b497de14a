import { Button, Group, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { LinkActWish } from '../api/acts';
import { Foldout } from '../parts/Foldout';
import { counted } from '../parts/format';
import { useWorkspace } from '../session/useWorkspace';
import { SweepThese } from '../shell/SweepThese';
import classes from './LinkEvidence.module.css';
import { useLinkAct } from './useLinkAct';

/** Sort and selection narrow nothing. */
const filtersOf = ({ sort, direction, ...rest }: Record<string, string>) => rest;

/** Acts on all links that the filters leave; each can be undone. */
export function BulkActs({ list, total }: { list: Record<string, string>; total: number }) {
  const { name } = useWorkspace();
  const [text, setText] = useState('');
  const act = useLinkAct(name, list);
  const links = counted(total, 'link');
  return (
    <Foldout side="end" button={<Button disabled={total === 0}>Act on all</Button>}>
      {(close) => {
        const run = (wish: LinkActWish) => {
          act.mutate(wish);
          close();
        };
        return (
          <>
            <p className={classes.hint}>For the {links} that the filters leave; it can be undone.</p>
            <Group gap={6} my={8} align="end">
              <TextInput
                label="Owner or label"
                w={180}
                value={text}
                onChange={(event) => setText(event.currentTarget.value)}
              />
              <Button disabled={!text.trim()} onClick={() => run({ act: 'owner', value: text.trim() })}>
                Give to this owner
              </Button>
              <Button disabled={!text.trim()} onClick={() => run({ act: 'label', value: text.trim() })}>
                Label
              </Button>
              <Button disabled={!text.trim()} onClick={() => run({ act: 'unlabel', value: text.trim() })}>
                Take the label off
              </Button>
            </Group>
            <Group gap={6}>
              <SweepThese wish={{ filters: filtersOf(list) }}>Sweep {links} now</SweepThese>
              {list.shown === 'excluded' ? (
                <Button onClick={() => run({ act: 'include' })}>Sweep {links} again</Button>
              ) : (
                <Button onClick={() => run({ act: 'exclude' })}>Leave {links} out of sweeps</Button>
              )}
              <Button onClick={() => run({ act: 'delete' })}>Delete {links}</Button>
            </Group>
          </>
        );
      }}
    </Foldout>
  );
}
