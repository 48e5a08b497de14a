import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { acts } from '../api/acts';
import { notices } from '../api/notices';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';

/** Has the whole workspace written as one archive, and fetches it once it is. */
export function TakeOut({ name }: { name: string }) {
  const [asked, setAsked] = useState<number>();
  const prepare = useAct(name, () => acts.prepareBundle(name));
  const file = useQuery({ ...queries.preparedBundle(name), enabled: asked !== undefined });
  const ready = asked !== undefined && file.data?.id === asked ? file.data : undefined;
  useEffect(() => {
    if (ready?.state === 'done') {
      setAsked(undefined);
      window.location.assign(`/api/workspaces/${name}/bundle.zip`);
    }
    if (ready?.state === 'failed') {
      setAsked(undefined);
      notices.show({ title: 'The archive was not written.', message: ready.problem ?? '', color: 'red' });
    }
  }, [ready, name]);
  return (
    <Button
      loading={prepare.isPending || asked !== undefined}
      onClick={() => prepare.mutate(undefined, { onSuccess: ({ id }) => setAsked(id) })}
      title="Rules, settings, links, sightings, trails, traffic, fixes and pictures in one archive, which another Orvant can take in"
    >
      Take everything out
    </Button>
  );
}
