import { Button, Group, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { useWorkspace } from '../session/useWorkspace';
import { useLinkAct } from './useLinkAct';

/** The words on one link, and whether it is swept. */
export function Labels({ link }: { link: Schema['Link'] }) {
  const { name } = useWorkspace();
  const act = useLinkAct(name, {});
  const [text, setText] = useState('');
  const ids = [link.id];
  return (
    <Group gap={6} mt={6}>
      {link.labels.map((label) => (
        <Button key={label} title="Take it off" onClick={() => act.mutate({ act: 'unlabel', value: label, ids })}>
          {label} ×
        </Button>
      ))}
      <TextInput
        aria-label="Add a label"
        placeholder="Add a label"
        w={120}
        value={text}
        onChange={(event) => setText(event.currentTarget.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && text.trim()) {
            act.mutate({ act: 'label', value: text.trim(), ids });
            setText('');
          }
        }}
      />
      <Button variant="subtle" onClick={() => act.mutate({ act: link.excluded ? 'include' : 'exclude', ids })}>
        {link.excluded ? 'Sweep it again' : 'Leave it out of sweeps'}
      </Button>
    </Group>
  );
}
