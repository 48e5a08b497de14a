import { Select } from '@mantine/core';
import type { Schema } from '../api/client';
import { Section } from '../parts/Section';
import classes from './Collect.module.css';

/** What a field is called where its own name says too little. */
const WORDS: Record<string, string> = {
  landing: 'landing address',
  pattern: 'click pattern',
  tail: 'parameters added at the end',
  own: 'placeholders of your own',
  id: 'number of the ad',
  level: 'level of the row',
  found: 'where it was found',
  since: 'live since',
  owner: 'who can change it',
  run: 'print run',
  shows: 'shows words or a code',
};

interface MatchingProps {
  preview: Schema['Preview'];
  onMatch: (columns: Record<string, string>) => void;
}

/** Which column holds what. Suggested from names and contents, decided by a person, and kept for the next file. */
export function Matching({ preview, onMatch }: MatchingProps) {
  const { columns, header, fields } = preview;
  const known = fields.filter((field) => !field.includes('_') || columns[field]);
  return (
    <Section title="Columns" aside="kept for the next file with these columns">
      <div className={classes.matching}>
        {known.map((field) => (
          <Select
            key={field}
            label={WORDS[field] ?? field.replaceAll('_', ' ')}
            placeholder="not in this file"
            clearable
            searchable
            data={[...new Set(header)].filter(Boolean)}
            value={columns[field] ?? null}
            onChange={(column) => onMatch({ ...columns, [field]: column ?? '' })}
          />
        ))}
      </div>
    </Section>
  );
}
