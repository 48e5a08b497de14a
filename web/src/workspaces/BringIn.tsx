import { Button, FileButton } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { notices } from '../api/notices';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Failure } from '../parts/Failure';
import { count } from '../parts/format';
import classes from './Workspaces.module.css';

const PARAMETER = 'bringing';

/** Takes in a workspace that this or another Orvant has written as one archive; the worker reads it. */
export function BringIn() {
  const [, setParameters] = useSearchParams();
  const bring = useAct('workspaces', (file: File) => acts.bringInWorkspace(file));
  const take = (file: File | null) =>
    file && bring.mutate(file, { onSuccess: ({ id }) => setParameters({ [PARAMETER]: String(id) }) });
  return (
    <FileButton onChange={take} accept=".zip,application/zip">
      {(props) => (
        <Button {...props} loading={bring.isPending}>
          Bring one in …
        </Button>
      )}
    </FileButton>
  );
}

/** How far the bundle is that the address names. */
export function BringingIn() {
  const [parameters] = useSearchParams();
  const id = Number(parameters.get(PARAMETER));
  return id > 0 ? <Progress id={id} /> : null;
}

function Progress({ id }: { id: number }) {
  const navigate = useNavigate();
  const bringing = useQuery(queries.bundleImport(id));
  const stop = useAct('workspaces', () => acts.stopBringingIn(id));
  const { data } = bringing;
  useEffect(() => {
    if (data?.workspace) {
      data.notes.map((message) => notices.show({ message, autoClose: 20_000 }));
      navigate(`/w/${data.workspace}/links`);
    }
  }, [data, navigate]);
  if (bringing.isError) {
    return <Failure error={bringing.error} />;
  }
  return data ? <Told bringing={data} stop={() => stop.mutate(undefined)} /> : null;
}

function Told({ bringing, stop }: { bringing: Schema['BundleImport']; stop: () => void }) {
  if (bringing.state === 'failed' || bringing.state === 'stopped') {
    return (
      <p role="alert" className={classes.bringing}>
        {bringing.problem
          ? `${bringing.filename} was not brought in; nothing of it is kept. ${bringing.problem}`
          : `${bringing.filename} was not brought in: it was stopped, and nothing of it is kept.`}
      </p>
    );
  }
  return (
    <div role="status" className={classes.bringing}>
      <span>
        {bringing.filename}: {count(bringing.done)} of {bringing.total ? count(bringing.total) : '…'} rows read. The
        workspace appears once it is whole.
      </span>
      <Button size="compact-sm" onClick={stop} disabled={bringing.state === 'stopping'}>
        {bringing.state === 'stopping' ? 'Stopping …' : 'Stop'}
      </Button>
    </div>
  );
}
