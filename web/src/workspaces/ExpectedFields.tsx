import { Button, TextInput } from '@mantine/core';
import type { Schema } from '../api/client';
import { Section } from '../parts/Section';
import classes from './Workspaces.module.css';

type Settings = Schema['Settings'];
type Field = Settings['expected_fields'][number];

const BLANK: Field = { page: '', field: '', role: 'source' };

interface ExpectedFieldsProps {
  fields: Field[];
  write: (changes: Partial<Settings>) => void;
}

/** Hidden fields of forms that must carry what a visitor came with. */
export function ExpectedFields({ fields, write }: ExpectedFieldsProps) {
  const put = (index: number, changes: Partial<Field>) =>
    write({ expected_fields: fields.map((one, at) => (at === index ? { ...one, ...changes } : one)) });
  return (
    <Section
      title="Fields of forms"
      aside={<Button onClick={() => write({ expected_fields: [...fields, BLANK] })}>Expect a field</Button>}
    >
      <p className={classes.said}>
        A hidden field that must be filled from a role of the link, page by page, such as www.your-site.example/offer.
      </p>
      {fields.map((one, index) => (
        <div key={index} className={classes.row}>
          <TextInput
            label="Page"
            w={340}
            value={one.page}
            onChange={(event) => put(index, { page: event.currentTarget.value })}
          />
          <TextInput
            label="Field"
            w={160}
            value={one.field}
            onChange={(event) => put(index, { field: event.currentTarget.value })}
          />
          <TextInput
            label="Role"
            w={120}
            value={one.role}
            onChange={(event) => put(index, { role: event.currentTarget.value })}
          />
          <Button
            aria-label={`Expect ${one.field || 'this field'} no more`}
            onClick={() => write({ expected_fields: fields.filter((_, at) => at !== index) })}
          >
            Take away
          </Button>
        </div>
      ))}
    </Section>
  );
}
