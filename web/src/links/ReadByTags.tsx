import { Table } from '@mantine/core';
import type { Schema } from '../api/client';
import { atMoment } from '../parts/format';
import { Section } from '../parts/Section';
import classes from './LinkEvidence.module.css';

type Read = NonNullable<Schema['LinkDetail']['read']>;

/** What the link was built with, beside what lands and what each tag of the page reads of it. */
export function ReadByTags({ read }: { read: Read }) {
  const wrong = read.rows.filter((row) => !row.same);
  return (
    <Section title="Built, landed, read" aside={`page opened ${atMoment(read.at)}`}>
      <p>
        {wrong.length === 0
          ? 'What was built lands, and is read, as it is.'
          : `Not what was built: ${wrong.map((row) => row.role).join(', ')}.`}
      </p>
      <Table className={classes.read}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th>Role</Table.Th>
            <Table.Th>Built</Table.Th>
            <Table.Th>Lands</Table.Th>
            {read.tags.map((tag) => (
              <Table.Th key={tag.tag}>
                {tag.name}
                {tag.heard ? ' reads' : ' was not heard'}
              </Table.Th>
            ))}
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {read.rows.map((row) => (
            <Table.Tr key={row.role}>
              <Table.Th scope="row">{row.role}</Table.Th>
              <Table.Td>{row.built || '—'}</Table.Td>
              <Value value={row.landed} built={row.built} />
              {read.tags.map((tag) => (
                <Value key={tag.tag} value={row.read[tag.tag]} built={row.built} />
              ))}
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
    </Section>
  );
}

/** undefined: of what it cannot say, nothing is said. */
function Value({ value, built }: { value?: string; built: string }) {
  if (value === undefined) {
    return <Table.Td />;
  }
  return (
    <Table.Td data-differs={value !== built || undefined}>
      {value || 'nothing'}
      {value !== built && <b> ≠</b>}
    </Table.Td>
  );
}
