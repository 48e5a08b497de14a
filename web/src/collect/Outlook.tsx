import { Button } from '@mantine/core';
import type { Schema } from '../api/client';
import { ClickByLevel } from '../links/ClickByLevel';
import { count, counted } from '../parts/format';
import { Section } from '../parts/Section';
import { ClickHosts } from '../shell/ClickHosts';
import { ApartLinks } from './ApartLinks';
import { Changes } from './Changes';
import classes from './Collect.module.css';
import { Matching } from './Matching';
import { PreviewTable } from './PreviewTable';
import { RejectedRows } from './RejectedRows';

interface OutlookProps {
  /** The name of the workspace. */
  name: string;
  preview: Schema['Preview'];
  noun: string;
  /** Whether the file belongs to no named source, so that there is nothing to compare it with. */
  alone: boolean;
  busy: boolean;
  onMatch: (columns: Record<string, string>) => void;
  onKeep: () => void;
  /** Somebody has said of a host whether it charges: the file is read anew. */
  onDecided: () => void;
}

/** What an import would do, before it does it. */
export function Outlook({ name, preview, noun, alone, busy, onMatch, onKeep, onDecided }: OutlookProps) {
  const changed = preview.changes.length > 0;
  const clicks = preview.sample.filter((row) => row.click);
  return (
    <>
      <Section
        title={`${counted(preview.new, `new ${noun}`)}, ${count(preview.already)} there already, ${count(preview.rejected.length)} rejected`}
        aside={preview.encoding}
      >
        {preview.notes.map((note) => (
          <p key={note} className={classes.about}>
            {note}
          </p>
        ))}
        {alone && (
          <p className={classes.about}>
            The source has no name, so nothing is compared: what is gone or changed since the last export is not told.
          </p>
        )}
        <Button variant="filled" disabled={preview.new === 0 && !changed} loading={busy} onClick={onKeep}>
          {keepWords(preview, noun)}
        </Button>
      </Section>
      <ClickHosts name={name} hosts={preview.may_charge ?? []} onDecided={onDecided} />
      {changed && <Changes changes={preview.changes} />}
      {preview.fields.length > 0 && <Matching preview={preview} onMatch={onMatch} />}
      <RejectedRows rows={preview.rejected} />
      <ApartLinks links={preview.apart} />
      {clicks.length > 0 && (
        <Section title="What a click would open" aside="with sample values">
          {clicks.slice(0, 6).map((row) => (
            <div key={String(row.line)} className={classes.click}>
              <p>{String(row.place ?? '')}</p>
              {row.click && <ClickByLevel click={row.click} />}
            </div>
          ))}
        </Section>
      )}
      <PreviewTable rows={preview.sample} total={preview.rows} />
    </>
  );
}

function keepWords(preview: Schema['Preview'], noun: string) {
  if (preview.new > 0) {
    return `Keep ${counted(preview.new, `new ${noun}`)}`;
  }
  return preview.changes.length > 0 ? `Take over ${counted(preview.changes.length, 'change')}` : 'Nothing new to keep';
}
