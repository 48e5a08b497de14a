import { Button, Checkbox, NumberInput, Select, TagsInput, TextInput } from '@mantine/core';
import { Section } from '../parts/Section';
import classes from './Convention.module.css';
import { lean, type Segment } from './document';

type What = 'word' | 'values' | 'role' | 'number' | 'date' | 'text';

const WHATS: { value: What; label: string }[] = [
  { value: 'word', label: 'a fixed word' },
  { value: 'values', label: 'one of these' },
  { value: 'role', label: 'a value of a role' },
  { value: 'number', label: 'a number' },
  { value: 'date', label: 'a date' },
  { value: 'text', label: 'free text' },
];

const FRESH: Record<What, Partial<Segment>> = {
  word: { word: 'word' },
  values: { values: [] },
  role: { role: 'source' },
  number: { number: {} },
  date: { date: { format: 'yyyy-mm' } },
  text: { text: { longest: 30 } },
};

interface SegmentsEditorProps {
  segments: Segment[];
  roles: string[];
  change: (segments: Segment[]) => void;
}

/** The parts of a structured name, in order. */
export function SegmentsEditor({ segments, roles, change }: SegmentsEditorProps) {
  const write = (at: number, segment: Segment) => change(segments.map((one, index) => (index === at ? segment : one)));
  return (
    <Section
      title="Parts of a structured name"
      aside={
        <Button
          onClick={() => change([...segments, { segment: `part ${segments.length + 1}`, text: { longest: 30 } }])}
        >
          Add a part
        </Button>
      }
    >
      {segments.length === 0 && <p className={classes.faint}>None: the value is one name.</p>}
      {segments.map((segment, index) => {
        const what = WHATS.find((one) => segment[one.value] !== undefined)?.value ?? 'text';
        return (
          <div key={index} className={classes.fields} data-segment>
            <TextInput
              label={`Part ${index + 1}`}
              value={segment.segment}
              onChange={(event) => write(index, { ...segment, segment: event.currentTarget.value })}
            />
            <Select
              label="is"
              data={WHATS}
              allowDeselect={false}
              value={what}
              onChange={(value) =>
                write(index, lean({ segment: segment.segment, optional: segment.optional, ...FRESH[value as What] }))
              }
            />
            <Details segment={segment} roles={roles} write={(changes) => write(index, { ...segment, ...changes })} />
            <Checkbox
              mt={24}
              label="may be left out"
              checked={segment.optional ?? false}
              onChange={(event) =>
                write(index, lean({ ...segment, optional: event.currentTarget.checked || undefined }))
              }
            />
            <Button mt={20} onClick={() => change(segments.filter((_, at) => at !== index))}>
              Take out
            </Button>
          </div>
        );
      })}
    </Section>
  );
}

const whole = (value: string | number) => (value === '' ? undefined : Number(value));

function Details({
  segment,
  roles,
  write,
}: {
  segment: Segment;
  roles: string[];
  write: (changes: Partial<Segment>) => void;
}) {
  const { word, values, role, number, date, text } = segment;
  if (word !== undefined) {
    return <TextInput label="namely" value={word} onChange={(event) => write({ word: event.currentTarget.value })} />;
  }
  if (values) {
    return <TagsInput label="namely" value={values} onChange={(list) => write({ values: list })} />;
  }
  if (role !== undefined) {
    return <Select label="namely" data={roles} value={role} onChange={(value) => write({ role: value ?? '' })} />;
  }
  if (number) {
    const put = (changes: Segment['number']) => write({ number: lean({ ...number, ...changes }) });
    return (
      <>
        <NumberInput label="from" value={number.from ?? ''} onChange={(value) => put({ from: whole(value) })} />
        <NumberInput label="to" value={number.to ?? ''} onChange={(value) => put({ to: whole(value) })} />
        <NumberInput label="digits" value={number.digits ?? ''} onChange={(value) => put({ digits: whole(value) })} />
      </>
    );
  }
  if (date) {
    const put = (changes: Partial<typeof date>) => write({ date: lean({ ...date, ...changes }) });
    return (
      <>
        <TextInput
          label="written as"
          description="yyyy, yy, mm, dd"
          value={date.format}
          onChange={(event) => put({ format: event.currentTarget.value })}
        />
        <TextInput
          label="from"
          value={date.from ?? ''}
          onChange={(event) => put({ from: event.currentTarget.value })}
        />
        <TextInput label="to" value={date.to ?? ''} onChange={(event) => put({ to: event.currentTarget.value })} />
      </>
    );
  }
  const put = (changes: Segment['text']) => write({ text: lean({ ...text, ...changes }) });
  return (
    <>
      <NumberInput
        label="shortest"
        value={text?.shortest ?? ''}
        onChange={(value) => put({ shortest: whole(value) })}
      />
      <NumberInput label="longest" value={text?.longest ?? ''} onChange={(value) => put({ longest: whole(value) })} />
      <NumberInput label="words" value={text?.words ?? ''} onChange={(value) => put({ words: whole(value) })} />
      <TextInput
        label="that fits"
        description="a regular expression"
        value={text?.format ?? ''}
        onChange={(event) => put({ format: event.currentTarget.value })}
      />
    </>
  );
}
