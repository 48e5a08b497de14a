import { Button, Group } from '@mantine/core';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { count, counted } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import { RejectedRows } from './RejectedRows';

/** What was kept. */
export function Kept({ kept, noun, back }: { kept: Schema['Import']; noun: string; back: string }) {
  const { name } = useWorkspace();
  const title =
    kept.state === 'waiting'
      ? 'The file is large: it is read in the background, see below.'
      : `${counted(kept.added, noun)} added, ${count(kept.already)} there already, ${count(kept.rejected.length)} rejected`;
  return (
    <>
      <Section title={title}>
        <Group gap={8}>
          <Button component={Link} to={back} variant="filled">
            Show them
          </Button>
          {kept.rejected.length > 0 && (
            <Button component="a" href={`/api/workspaces/${name}/imports/${kept.id}/rejected.csv`}>
              Save the rejected rows
            </Button>
          )}
        </Group>
      </Section>
      <RejectedRows rows={kept.rejected} />
    </>
  );
}
