import { Button, FileButton } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { Failure } from '../parts/Failure';
import { Figures } from '../parts/Figures';
import { atMoment, count, counted } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { Toolbar } from '../parts/Toolbar';
import { Weight, type WeightName } from '../parts/Weight';
import { useWorkspace } from '../session/useWorkspace';
import { useListState } from '../shell/useListState';
import classes from './TagsView.module.css';

/** Pages that a browser of the person's own has opened and saved: judged like those that the sealed browser opens. */
export function RecordingView() {
  const { name } = useWorkspace();
  const client = useQueryClient();
  const { list, set } = useListState();
  const judge = useMutation({
    mutationFn: (file: File) => acts.judgeRecording(name, file),
    onSuccess: (found) => {
      client.setQueryData(queries.recording(name, found.recording.id).queryKey, found);
      client.invalidateQueries({ queryKey: queries.recordings(name).queryKey });
      set({ recording: String(found.recording.id) });
    },
  });
  return (
    <div className={classes.recording}>
      <Toolbar>
        <span>
          A HAR file that your own browser has saved. What is found stays here with its link; the file does not, and
          what is secret in it is left out.
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
      {list.recording && <Found id={Number(list.recording)} />}
      <Kept chosen={list.recording} />
    </div>
  );
}

function Found({ id }: { id: number }) {
  const { name } = useWorkspace();
  const found = useQuery(queries.recording(name, id));
  if (found.isError) {
    return <Failure error={found.error} />;
  }
  if (!found.data) {
    return <Loading />;
  }
  const { recording, notes, pages } = found.data;
  return (
    <>
      <h2>{recording.filename || 'A recording'}</h2>
      {pages.length === 0 && <p role="alert">No page of an own host stands in this file.</p>}
      {notes.map((note) => (
        <p key={note} role="alert">
          {note}
        </p>
      ))}
      {pages.map((page, index) => (
        <RecordedPage key={`${index} ${page.address}`} page={page} />
      ))}
    </>
  );
}

/** What was brought before. */
function Kept({ chosen }: { chosen: string | undefined }) {
  const { name } = useWorkspace();
  const kept = useQuery(queries.recordings(name));
  const others = kept.data?.recordings.filter((one) => String(one.id) !== chosen) ?? [];
  if (others.length === 0) {
    return null;
  }
  return (
    <Section title="Brought before">
      <Figures
        heads={['File', 'When', 'By', 'Own pages', 'Findings']}
        rows={others.map((one) => ({
          key: String(one.id),
          cells: [
            <Link key="file" to={`?recording=${one.id}`}>
              {one.filename || 'A recording'}
            </Link>,
            atMoment(one.created_at),
            one.author || '–',
            count(one.pages),
            count(one.findings),
          ],
        }))}
      />
    </Section>
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
