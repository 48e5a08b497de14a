import { NumberInput, Select, TagsInput, TextInput } from '@mantine/core';
import type { Schema } from '../api/client';
import { Section } from '../parts/Section';
import { HostPaces } from './HostPaces';
import classes from './Workspaces.module.css';
import { ZONES } from './zones';

type Preferences = Schema['Preferences'];

interface PaceProps {
  preferences: Preferences;
  /** Bytes that pictures of rehearsals take. */
  pictures: number;
  write: (preferences: Preferences) => void;
}

const NUMBERS = [
  {
    key: 'pause',
    label: 'Pause',
    about: 'Seconds between the beginnings of two requests to one host; of two looks at its pages, in a browser.',
    min: 0,
    max: 60,
    step: 0.5,
  },
  {
    key: 'per_host',
    label: 'At once',
    about: 'Requests to one host at the same time; as many looks at its pages, in browsers.',
    min: 1,
    max: 64,
    step: 1,
  },
  {
    key: 'patience',
    label: 'Patience',
    about: 'Seconds that a busy host may ask to wait, and that a page may take to move on by itself.',
    min: 1,
    max: 120,
    step: 1,
  },
  {
    key: 'keep_days',
    label: 'Days kept',
    about: 'Older pictures and heard signals are thinned at night; the last sweep, findings and proofs stay.',
    min: 1,
    max: 3650,
    step: 1,
  },
] as const;

/** How the sites are asked, as whom, in which zone days begin, and how long what was seen is kept. */
export function Pace({ preferences, pictures, write }: PaceProps) {
  const put = (changes: Partial<Preferences>) => write({ ...preferences, ...changes });
  return (
    <Section title="Pace and keeping" aside={`pictures take ${(pictures / 1_048_576).toFixed(1)} MB`}>
      <div className={classes.row}>
        {NUMBERS.map(({ key, label, about, ...bounds }) => (
          <NumberInput
            key={key}
            label={label}
            title={about}
            w={110}
            {...bounds}
            value={preferences[key] ?? ''}
            onChange={(value) => typeof value === 'number' && put({ [key]: value })}
          />
        ))}
      </div>
      <ul className={classes.why}>
        {NUMBERS.map(({ key, label, about }) => (
          <li key={key}>
            <b>{label}</b>: {about}
          </li>
        ))}
      </ul>
      <HostPaces hosts={preferences.hosts ?? {}} write={(hosts) => put({ hosts })} />
      <div className={classes.form}>
        <TagsInput
          label="Visitors"
          description="As whom links are followed in a sweep that names none: desktop, phone, or the tag of a language such as de. The first counts."
          data={['desktop', 'phone']}
          maxTags={4}
          value={preferences.visitors ?? []}
          onChange={(visitors) => put({ visitors })}
        />
        <TextInput
          label="Contact"
          description="Stands in the name under which Orvant asks sites, so that their keepers know whom to write to."
          placeholder="audits@your-team.example"
          value={preferences.contact ?? ''}
          onChange={(event) => put({ contact: event.currentTarget.value })}
        />
        <Select
          label="Time zone"
          description="In which moments are shown."
          searchable
          allowDeselect={false}
          data={ZONES}
          value={preferences.time_zone ?? ''}
          onChange={(zone) => put({ time_zone: zone ?? '' })}
        />
      </div>
    </Section>
  );
}
