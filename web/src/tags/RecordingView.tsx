import { Button, FileButton } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { Failure } from '../parts/Failure';
import { counted } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { Toolbar } from '../parts/Toolbar';
import { Weight, type WeightName } from '../parts/Weight';
import { useWorkspace } from '../shell/Workbench';
import classes from './TagsView.module.css';

/** Pages that a browser of the person's own has opened and saved: judged like those that the sealed browser opens. */
export function RecordingView() {
  const { name } = useWorkspace();
  const judge = useMutation({ mutationFn: (file: File) => acts.judgeRecording(name, file) });
  return (
    <div className={classes.recording}>
      <Toolbar>
        <span>
          A HAR file that your own browser has saved. It is judged and not kept; what is secret in it is left out.
        </span>
        <Toolbar.Rest>
          <FileButton accept=".har,application/json" onChange={(file) => file && judge.mutate(file)}>
            {(props) => (
              <Button {...props} loading={judge.isPending}>
                Choose a file
              </Button>
            )}
          </FileButton>
        </Toolbar.Rest>
      </Toolbar>
      {judge.isPending && <Loading />}
      {judge.isError && <Failure error={judge.error} />}
      {judge.data?.pages.length === 0 && <p role="alert">No page of an own host stands in this file.</p>}
      {judge.data?.notes.map((note) => (
        <p key={note} role="alert">
          {note}
        </p>
      ))}
      {judge.data?.pages.map((page) => (
        <RecordedPage key={page.address} page={page} />
      ))}
    </div>
  );
}

function RecordedPage({ page }: { page: Schema['Recording']['pages'][number] }) {
  return (
    <Section title={page.page} aside={`${counted(page.signals.length, 'signal')} left`}>
      {page.reason && <p role="alert">{page.reason}</p>}
      {page.findings.map((finding) => (
        <div key={`${finding.code} ${finding.message}`}>
          <p>
            <Weight weight={finding.weight as WeightName} /> {finding.message}
          </p>
          <p className={classes.faint}>{finding.action}</p>
        </div>
      ))}
      {!page.reason && page.findings.length === 0 && <p className={classes.faint}>Nothing wrong was found.</p>}
      <table className={classes.signals}>
        <tbody>
          {page.signals.map((signal) => (
            <tr key={`${signal.at} ${signal.request}`}>
              <td>{((signal.at ?? 0) / 1000).toFixed(2)} s</td>
              <td>{signal.tag}</td>
              <td>{signal.event}</td>
              <td>{signal.status === null ? 'answered here' : `answered ${signal.status}`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}
