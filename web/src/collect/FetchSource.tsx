import { Button, Group, NumberInput, Select, Textarea, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { acts } from '../api/acts';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Collect.module.css';
import type { FetchKind } from './sources';

const ABOUT: Record<FetchKind, string> = {
  site: 'Reads the sitemaps of an own host, then follows its links to a depth, as robots.txt permits. It keeps links out, and links between own pages that carry campaign parameters.',
  pages: 'Looks at others’ pages and profiles for links that lead to you.',
  network: 'Asks a network for its live ads, page by page, and compares them with the last time.',
};

/** Collects over the network, in the background. */
export function FetchSource({ kind }: { kind: FetchKind }) {
  const { name } = useWorkspace();
  const imports = useQuery(queries.imports(name));
  const [wish, setWish] = useState<Record<string, string | number>>({});
  const fetch = useAct(name, () => acts.fetchImport(name, { kind, ...wish }));
  const set = (field: string, value: string | number | null) => setWish({ ...wish, [field]: value ?? '' });
  const ready = { site: wish.address, pages: wish.addresses, network: wish.network }[kind];

  return (
    <>
      <p className={classes.about}>{ABOUT[kind]}</p>
      <Group gap={10} align="end" mb={10}>
        {kind === 'site' && <SiteFields host={imports.data?.own_hosts[0]} set={set} />}
        {kind === 'pages' && (
          <>
            <Textarea
              label="Addresses, one a line"
              w={460}
              minRows={3}
              autosize
              maxRows={10}
              onChange={(event) => set('addresses', event.currentTarget.value)}
            />
            <Select
              label="They are"
              w={110}
              data={['page', 'post']}
              defaultValue="page"
              onChange={(value) => set('link_kind', value)}
            />
          </>
        )}
        {kind === 'network' && (
          <>
            <Select
              label="Network"
              w={180}
              data={imports.data?.networks ?? []}
              onChange={(value) => set('network', value)}
            />
            <TextInput
              label="Another key"
              title="Only if the one that is kept has expired"
              type="password"
              autoComplete="off"
              w={190}
              onChange={(event) => set('key', event.currentTarget.value)}
            />
          </>
        )}
        <TextInput label="Who can change it" w={170} onChange={(event) => set('owner', event.currentTarget.value)} />
        <Button variant="filled" disabled={!ready} loading={fetch.isPending} onClick={() => fetch.mutate(undefined)}>
          {{ site: 'Read the site', pages: 'Look at the pages', network: 'Fetch live ads' }[kind]}
        </Button>
      </Group>
    </>
  );
}

/** Where a crawl begins, and how far it goes. host: one of the advertiser's own. */
function SiteFields({
  host,
  set,
}: {
  host: string | undefined;
  set: (field: string, value: string | number | null) => void;
}) {
  return (
    <>
      <TextInput
        label="Begin at"
        w={340}
        placeholder={`http://${host ?? 'www.example'}/`}
        onChange={(event) => set('address', event.currentTarget.value)}
      />
      <NumberInput
        label="Pages at most"
        w={110}
        defaultValue={500}
        min={1}
        max={5000}
        onChange={(value) => set('pages', value)}
      />
      <NumberInput
        label="Links deep"
        w={90}
        defaultValue={4}
        min={0}
        max={10}
        onChange={(value) => set('depth', value)}
      />
    </>
  );
}
