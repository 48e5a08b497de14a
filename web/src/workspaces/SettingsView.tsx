import { Button, Group, Textarea, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { type ComponentProps, useState } from 'react';
import { Link } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { JsonEditor } from '../convention/JsonEditor';
import { Failure } from '../parts/Failure';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import { Consent } from './Consent';
import { ExpectedFields } from './ExpectedFields';
import { ExpectedTags } from './ExpectedTags';
import { Goals } from './Goals';
import { hostMapOf, linesOf } from './hostMap';
import { type NetworkDraft, Networks } from './Networks';
import { Pace } from './Pace';
import { Signatures } from './Signatures';
import { type Signature, tagsOf } from './signature';
import { TakeOut } from './TakeOut';
import classes from './Workspaces.module.css';

type Settings = Omit<Schema['Settings'], 'networks'> & { networks: NetworkDraft[] };

/** What belongs to a workspace and is no rule: its name, its money, hosts in one's own network, and what its pages must have. */
export function SettingsView() {
  const { name } = useWorkspace();
  const settings = useQuery(queries.settings(name));
  if (settings.isError) {
    return <Failure error={settings.error} />;
  }
  return settings.data ? <Form key={JSON.stringify(settings.data)} kept={settings.data} /> : <Loading />;
}

function Form({ kept }: { kept: Settings }) {
  const { name } = useWorkspace();
  const [draft, setDraft] = useState(kept);
  const [map, setMap] = useState(linesOf(kept.host_map));
  const write = (changes: Partial<Settings>) => setDraft({ ...draft, ...changes });
  const wanted = { ...draft, host_map: hostMapOf(map) };
  const changed = JSON.stringify(wanted) !== JSON.stringify(kept);
  const save = useAct(name, () => {
    const { picture_bytes, unmatched, ...wish } = wanted;
    return acts.changeWorkspace(name, { ...wish, networks: wish.networks.map(({ has_key, ...rest }) => rest) });
  });
  return (
    <div className={classes.settings}>
      <Section
        title="Settings"
        aside={<Deeds changed={changed} busy={save.isPending} save={() => save.mutate(undefined)} />}
      >
        {save.isError && <Failure error={save.error} />}
        <General draft={draft} write={write} map={map} setMap={setMap} />
      </Section>
      <Pace
        preferences={draft.preferences}
        pictures={kept.picture_bytes}
        write={(preferences) => write({ preferences })}
      />
      <ExpectedTags settings={draft} write={write} />
      <Goals settings={draft} write={write} />
      <Consent
        consent={draft.watching.consent as ComponentProps<typeof Consent>['consent']}
        variants={(draft.watching.variants ?? []) as string[][]}
        points={(draft.watching.collection_points ?? []) as string[]}
        tags={tagsOf(draft)}
        put={(changes) => {
          const changed = Object.entries({ ...draft.watching, ...changes }).filter(([, value]) => value !== undefined);
          write({ watching: Object.fromEntries(changed) });
        }}
      />
      {kept.unmatched.length > 0 && (
        <p role="status" className={classes.said}>
          No page that was seen so far fits {kept.unmatched.join(', ')}: nothing is judged by{' '}
          {kept.unmatched.length === 1 ? 'it' : 'them'} yet.
        </p>
      )}
      <Networks networks={draft.networks} write={write} />
      <ExpectedFields fields={draft.expected_fields} write={write} />
      <Signatures
        signatures={draft.signatures as unknown as Signature[]}
        write={(signatures) => write({ signatures: signatures as unknown as Settings['signatures'] })}
      />
      <JsonEditor
        title="Rehearsals"
        about="Recorded and changed under Rehearsals; here they stand as text, each a document as docs/schemas/rehearsal.schema.json says."
        value={draft.rehearsals}
        change={(rehearsals) => write({ rehearsals: rehearsals as Settings['rehearsals'] })}
      />
    </div>
  );
}

/** Takes everything out, and saves. */
function Deeds({ changed, busy, save }: { changed: boolean; busy: boolean; save: () => void }) {
  const { name } = useWorkspace();
  return (
    <Group gap={8}>
      <TakeOut name={name} />
      <Button variant="filled" disabled={!changed} loading={busy} onClick={save}>
        Save
      </Button>
    </Group>
  );
}

/** Name, money, and hosts in one's own network. map: the lines that somebody has typed of these. */
function General({
  draft,
  write,
  map,
  setMap,
}: {
  draft: Settings;
  write: (changes: Partial<Settings>) => void;
  map: string;
  setMap: (map: string) => void;
}) {
  const { name } = useWorkspace();
  return (
    <div className={classes.form}>
      <TextInput label="Name" value={draft.title} onChange={(event) => write({ title: event.currentTarget.value })} />
      <TextInput
        label="Currency"
        description="Of spend and revenue: three letters."
        w={160}
        value={draft.currency}
        onChange={(event) => write({ currency: event.currentTarget.value.toUpperCase() })}
      />
      <p className={classes.said}>
        Own hosts, hosts that pass visitors on, that charge for clicks, and where visitors pay are part of the rules:{' '}
        <Link to={`/w/${name}/convention/edit?part=workspace`}>Convention, Workspace</Link>.
      </p>
      <Textarea
        label="Hosts in your own network"
        description="One a line: a host and the address and port where it really is; - for one that is to be nowhere. What is not named here is never asked on this machine or in a private network."
        className={classes.json}
        autosize
        minRows={2}
        value={map}
        onChange={(event) => setMap(event.currentTarget.value)}
      />
    </div>
  );
}
