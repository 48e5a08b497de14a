import '@mantine/core/styles/FloatingIndicator.css';
import '@mantine/core/styles/SegmentedControl.css';
import { Button, Group, SegmentedControl, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { acts, type LevelName } from '../api/acts';
import { queries } from '../api/queries';
import { ClickByLevel } from '../links/ClickByLevel';
import { AddressBlock } from '../parts/Address';
import { Copy } from '../parts/Copy';
import { Failure } from '../parts/Failure';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import { useListState } from '../shell/useListState';
import classes from './Collect.module.css';

const LEVELS: LevelName[] = ['account', 'campaign', 'group', 'ad'];
const PARTS = ['landing', 'pattern', 'tail', 'own'] as const;
const LABELS = {
  landing: 'Landing address',
  pattern: 'Click pattern',
  tail: 'Parameters added at the end',
  own: 'Placeholders of your own (name=value; …)',
};

/** Tries a click pattern: what each level sets, what fills the tokens, and the address that results. All of it stands in the address bar. */
export function ClickView() {
  const { name } = useWorkspace();
  const { list, set } = useListState();
  const imports = useQuery(queries.imports(name));
  const network = list.network ?? imports.data?.dialects[0] ?? '';
  const [values, setValues] = useState<Record<string, string>>({});
  const wish = {
    network,
    samples: list.values !== 'none',
    values,
    levels: LEVELS.map((level) => ({
      name: level,
      landing: list[`${level}_landing`] ?? '',
      pattern: list[`${level}_pattern`] ?? '',
      tail: list[`${level}_tail`] ?? '',
      own: pairs(list[`${level}_own`] ?? ''),
    })),
  };
  const click = useQuery({
    queryKey: [name, 'click', wish],
    queryFn: () => acts.resolveClick(name, wish),
    enabled: network !== '',
    placeholderData: (before) => before,
  });
  return (
    <div className={classes.view}>
      <h2>What a click would open</h2>
      <Group gap={10} my={8} align="end">
        <Select
          label="Network"
          w={180}
          data={imports.data?.dialects ?? []}
          value={network}
          onChange={(value) => set({ network: value })}
        />
        <SegmentedControl
          data={[
            { value: 'samples', label: 'Tokens filled with samples' },
            { value: 'none', label: 'Left empty' },
          ]}
          value={list.values ?? 'samples'}
          onChange={(value) => set({ values: value === 'samples' ? null : value })}
        />
        <Button variant="subtle" onClick={() => setValues({})}>
          Forget given values
        </Button>
      </Group>
      <Levels />
      {click.isError && <Failure error={click.error} />}
      {click.data && (
        <>
          <Section title="By level" aside="the lowest level that sets a part wins">
            <ClickByLevel click={click.data} />
          </Section>
          {click.data.parts.length > 0 && (
            <Section title="The address">
              <AddressBlock parts={click.data.parts} />
              <Group mt={6}>
                <Copy text={click.data.address} what="click address" />
              </Group>
            </Section>
          )}
          <Offered network={network} offered={click.data.offered} values={values} onChange={setValues} />
        </>
      )}
    </div>
  );
}

/** What each level sets; it stands in the address bar. */
function Levels() {
  const { list, set } = useListState();
  return (
    <table className={classes.levels}>
      <thead>
        <tr>
          <td />
          {PARTS.map((part) => (
            <th key={part}>{LABELS[part]}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {LEVELS.map((level) => (
          <tr key={level}>
            <th>{level}</th>
            {PARTS.map((part) => (
              <td key={part}>
                <TextInput
                  aria-label={`${LABELS[part]} of the ${level}`}
                  defaultValue={list[`${level}_${part}`] ?? ''}
                  onChange={(event) => set({ [`${level}_${part}`]: event.currentTarget.value })}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The network's tokens. values: what somebody gave for each, by token. */
function Offered({
  network,
  offered,
  values,
  onChange,
}: {
  network: string;
  offered: Awaited<ReturnType<typeof acts.resolveClick>>['offered'];
  values: Record<string, string>;
  onChange: (values: Record<string, string>) => void;
}) {
  return (
    <Section title={`What ${network} can fill in`}>
      <table className={classes.table}>
        <tbody>
          {offered.map((one) => (
            <tr key={one.token}>
              <td className={classes.cells}>{one.token}</td>
              <td>{one.meaning}</td>
              <td>
                {one.landing ? (
                  `landing address, ${one.landing}`
                ) : (
                  <TextInput
                    aria-label={`Value of ${one.token}`}
                    placeholder={one.sample || 'nothing'}
                    value={values[one.token] ?? ''}
                    onChange={(event) => onChange({ ...values, [one.token]: event.currentTarget.value })}
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function pairs(text: string) {
  return Object.fromEntries(
    text
      .split(';')
      .filter((pair) => pair.includes('='))
      .map(
        (pair) =>
          pair
            .split(/=(.*)/s)
            .slice(0, 2)
            .map((part) => part.trim()) as [string, string],
      ),
  );
}
