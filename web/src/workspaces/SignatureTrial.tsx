import { Button, FileButton, Group, Textarea } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { acts, type SampleRequest } from '../api/acts';
import { counted } from '../parts/format';
import { useWorkspace } from '../session/useWorkspace';
import { nearest, readHar, readRequests, type Signature } from './signature';
import classes from './Workspaces.module.css';

const PAUSE = 250;
const SHOWN = 40;

/** What a signature reads from requests, as it is being written. */
export function SignatureTrial({ signature }: { signature: Signature }) {
  const { name } = useWorkspace();
  const [pasted, setPasted] = useState('');
  const [recorded, setRecorded] = useState<SampleRequest[]>([]);
  const [fault, setFault] = useState('');
  const requests = recorded.length > 0 ? recorded : readRequests(pasted);
  const [asked] = useDebouncedValue(JSON.stringify([signature, nearest(requests, signature)]), PAUSE);
  const trial = useQuery({
    queryKey: [name, 'signature trial', asked],
    queryFn: () => {
      const [written, read] = JSON.parse(asked) as [Record<string, unknown>, SampleRequest[]];
      return acts.trySignature(name, written, read);
    },
    placeholderData: keepPreviousData,
  });
  const take = async (file: File) => {
    try {
      setRecorded(readHar(await file.text()));
      setFault('');
    } catch {
      setFault(`${file.name} is no HAR file.`);
    }
  };
  return (
    <div className={classes.trial} aria-live="polite">
      <Textarea
        label="A request, to try it"
        description="Its address; below an empty line its body. It is read while you write, and not kept."
        autosize
        minRows={3}
        maxRows={10}
        value={recorded.length > 0 ? `${counted(recorded.length, 'request')} of a recording` : pasted}
        disabled={recorded.length > 0}
        onChange={(event) => setPasted(event.currentTarget.value)}
      />
      <Group gap={6} my={6}>
        <FileButton accept=".har,application/json" onChange={(file) => file && take(file)}>
          {(props) => <Button {...props}>Or take a recording (HAR)</Button>}
        </FileButton>
        {recorded.length > 0 && <Button onClick={() => setRecorded([])}>Paste one instead</Button>}
      </Group>
      {fault && <p role="alert">{fault}</p>}
      {trial.data?.problem && <p role="alert">Not a signature yet: {trial.data.problem}</p>}
      {trial.data && !trial.data.problem && requests.length > 0 && (
        <p>
          {counted(trial.data.read.length, 'request')} of this tag
          {trial.data.others > 0 && `, ${trial.data.others} of others`}.
        </p>
      )}
      {trial.data?.read.slice(0, SHOWN).map((one, at) => (
        <div key={at} className={classes.read}>
          <code>{one.address.slice(0, 160)}</code>
          {one.signals.map((signal, index) => (
            <Reading key={index} signal={signal} />
          ))}
        </div>
      ))}
    </div>
  );
}

type Signal = Awaited<ReturnType<typeof acts.trySignature>>['read'][number]['signals'][number];

const KINDS: Record<string, string> = {
  page_view: 'a page view',
  conversion: 'a conversion',
  unreadable: 'cannot be read',
};

function Reading({ signal }: { signal: Signal }) {
  const read = Object.entries({ event: signal.event, account: signal.account, page: signal.page, ...signal.values });
  return (
    <dl>
      <dt>it is</dt>
      <dd>{KINDS[signal.kind] ?? 'neither a page view nor a conversion'}</dd>
      {read
        .filter(([, value]) => value !== null && value !== '')
        .map(([field, value]) => (
          <div key={field}>
            <dt>{field}</dt>
            <dd>{String(value)}</dd>
          </div>
        ))}
    </dl>
  );
}
