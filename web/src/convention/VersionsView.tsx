import { Button, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Failure } from '../parts/Failure';
import { atMoment, counted } from '../parts/format';
import { Section } from '../parts/Section';
import { Toolbar } from '../parts/Toolbar';
import { useAuthor } from '../parts/useAuthor';
import { May } from '../session/May';
import { useWorkspace } from '../session/useWorkspace';
import { useListState } from '../shell/useListState';
import classes from './Convention.module.css';
import { Differences } from './Differences';

/** Every version with its note and author; two can be compared, an earlier one brought back. */
export function VersionsView() {
  const { name, convention_version } = useWorkspace();
  const { list, set } = useListState();
  const { author } = useAuthor();
  const navigate = useNavigate();
  const versions = useQuery(queries.versions(name));
  const to = Number(list.to ?? convention_version);
  const from = Number(list.from ?? Math.max(to - 1, 1));
  const comparison = useQuery(queries.comparison(name, from, to));
  const restore = useAct(name, (version: number) =>
    acts.restoreVersion(name, version, { base: convention_version, author }),
  );
  if (versions.isError) {
    return <Failure error={versions.error} />;
  }
  const all = versions.data?.versions ?? [];
  const options = all.map((one) => ({ value: String(one.version), label: `Version ${one.version}` }));
  return (
    <div className={classes.page}>
      <Section title="Versions">
        <VersionTable
          versions={all}
          current={convention_version}
          restore={(version) =>
            restore.mutate(version, {
              onSuccess: (saved) => navigate(`?from=${convention_version}&to=${saved.version}`),
            })
          }
        />
      </Section>
      <Section title="Compared" aside={comparison.data && counted(comparison.data.differences.length, 'difference')}>
        <Toolbar>
          <Select
            aria-label="Earlier version"
            data={options}
            value={String(from)}
            onChange={(value) => set({ from: value })}
          />
          <span>with</span>
          <Select
            aria-label="Later version"
            data={options}
            value={String(to)}
            onChange={(value) => set({ to: value })}
          />
        </Toolbar>
        {comparison.data && <Differences differences={comparison.data.differences} />}
      </Section>
    </div>
  );
}

/** current: the number of the version that holds. */
function VersionTable({
  versions,
  current,
  restore,
}: {
  versions: Schema['Version'][];
  current: number;
  restore: (version: number) => void;
}) {
  return (
    <table className={classes.table}>
      <thead>
        <tr>
          <th>version</th>
          <th>saved</th>
          <th>by</th>
          <th>why</th>
          <td />
        </tr>
      </thead>
      <tbody>
        {versions.map((one) => (
          <tr key={one.version}>
            <td>{one.version}</td>
            <td>{atMoment(one.since)}</td>
            <td>{one.author || '–'}</td>
            <td>
              {one.note}
              {one.restores !== null && <span className={classes.faint}> (brings back version {one.restores})</span>}
            </td>
            <td>
              {one.version !== current && (
                <May least="owner">
                  <Button onClick={() => restore(one.version)}>Bring version {one.version} back</Button>
                </May>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
