import { Button, FileButton, Group } from '@mantine/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type DragEvent, useState } from 'react';
import { Link } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Failure } from '../parts/Failure';
import { atMoment, count, counted } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../shell/Workbench';
import classes from './ImportView.module.css';
import { PreviewTable } from './PreviewTable';
import { RejectedRows } from './RejectedRows';

type Kind = 'links' | 'traffic';

const WORDS = {
  links: {
    title: 'Import links',
    noun: 'link',
    back: 'links',
    about:
      'A table with an address in each row, and where they are known: kind, found (where it stands), owner (who can change it), spend, since (a day), replaces (the address it takes the place of).',
  },
  traffic: {
    title: 'Import session rows',
    noun: 'row',
    back: 'traffic',
    about:
      'A table with a date and sessions in each row, and where they are known: source, medium, campaign, landing page, referrer, conversions, revenue.',
  },
};

/** A file is chosen, looked at, and kept: what is good in it is kept, what is not is listed with the reason. */
export function ImportView({ kind }: { kind: Kind }) {
  const { name } = useWorkspace();
  const words = WORDS[kind];
  const [file, setFile] = useState<File | null>(null);
  const preview = useMutation({ mutationFn: (chosen: File) => acts.preview(name, kind, chosen) });
  const keep = useAct(name, (chosen: File) => acts.importFile(name, kind, chosen));

  const take = (chosen: File | null | undefined) => {
    if (chosen) {
      setFile(chosen);
      keep.reset();
      preview.mutate(chosen);
    }
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    take(event.dataTransfer.files[0]);
  };

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping is a second way; the button is the first
    <div className={classes.view} onDragOver={(event) => event.preventDefault()} onDrop={drop}>
      <h1>{words.title}</h1>
      <p className={classes.about}>{words.about} CSV, TSV or semicolons; any encoding.</p>
      <Group gap={8}>
        <FileButton onChange={take} accept=".csv,.tsv,.txt,text/csv,text/plain">
          {(props) => (
            <Button {...props} variant={file ? 'default' : 'filled'}>
              {file ? 'Choose another file' : 'Choose a file'}
            </Button>
          )}
        </FileButton>
        <span>
          {file ? `${file.name}, ${count(Math.ceil(file.size / 1024))} kB` : 'or drop it anywhere on this page'}
        </span>
        <Button component={Link} to={`/w/${name}/${words.back}`} variant="subtle">
          Back to {words.back}
        </Button>
      </Group>
      {preview.isPending && <p role="status">Reading the file …</p>}
      {preview.isError && <Failure error={preview.error} />}
      {preview.data && file && !keep.data && (
        <Outlook preview={preview.data} noun={words.noun} busy={keep.isPending} onKeep={() => keep.mutate(file)} />
      )}
      {keep.data && <Kept kept={keep.data} noun={words.noun} back={`/w/${name}/${words.back}`} />}
      <Earlier kind={kind} />
    </div>
  );
}

interface OutlookProps {
  preview: Schema['Preview'];
  noun: string;
  busy: boolean;
  onKeep: () => void;
}

/** What an import would do, before it does it. */
function Outlook({ preview, noun, busy, onKeep }: OutlookProps) {
  return (
    <>
      <Section
        title={`${counted(preview.new, `new ${noun}`)}, ${count(preview.already)} there already, ${count(preview.rejected.length)} rejected`}
        aside={preview.encoding}
      >
        <p className={classes.about}>
          Read as:{' '}
          {Object.entries(preview.columns)
            .map(([field, column]) => `${field} from “${column}”`)
            .join(', ')}
          .
        </p>
        {preview.notes.map((note) => (
          <p key={note} className={classes.about}>
            {note}
          </p>
        ))}
        <Button variant="filled" disabled={preview.new === 0} loading={busy} onClick={onKeep}>
          {preview.new === 0 ? 'Nothing new to keep' : `Keep ${counted(preview.new, `new ${noun}`)}`}
        </Button>
      </Section>
      <RejectedRows rows={preview.rejected} />
      <PreviewTable rows={preview.sample} total={preview.rows} />
    </>
  );
}

function Kept({ kept, noun, back }: { kept: Schema['Import']; noun: string; back: string }) {
  const { name } = useWorkspace();
  return (
    <>
      <Section
        title={`${counted(kept.added, noun)} added, ${count(kept.already)} there already, ${count(kept.rejected.length)} rejected`}
      >
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

/** Earlier files of this kind, each of which can be taken back. */
function Earlier({ kind }: { kind: Kind }) {
  const { name } = useWorkspace();
  const imports = useQuery(queries.imports(name));
  const remove = useAct(name, (id: number) => acts.removeImport(name, id));
  const own = imports.data?.imports.filter((one) => one.kind === kind) ?? [];
  if (own.length === 0) {
    return null;
  }
  return (
    <Section title="Earlier files">
      <table className={classes.table}>
        <tbody>
          {own.map((one) => (
            <tr key={one.id}>
              <td>{one.filename}</td>
              <td>{atMoment(one.created_at)}</td>
              <td>{count(one.added)} added</td>
              <td>{count(one.rejected.length)} rejected</td>
              <td>
                <Button
                  variant="subtle"
                  onClick={() => remove.mutate(one.id)}
                  title="Importing the file again brings it back"
                >
                  Take back
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}
