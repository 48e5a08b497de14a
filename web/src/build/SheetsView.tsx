import { Button, Group, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Failure } from '../parts/Failure';
import { atMoment, counted } from '../parts/format';
import { offer } from '../parts/offer';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Build.module.css';

/** The build sheets of the workspace, and the templates for work that comes again. */
export function SheetsView() {
  const { name } = useWorkspace();
  const navigate = useNavigate();
  const sheets = useQuery(queries.sheets(name));
  const [title, setTitle] = useState('');
  const begin = useAct(name, (wish: { name: string; rows?: Schema['BuildRow'][] }) => acts.beginSheet(name, wish));
  const open = (sheet: Schema['Sheet']) => navigate(`/w/${name}/links/build/${sheet.id}`);
  if (sheets.isError) {
    return <Failure error={sheets.error} />;
  }
  return (
    <div className={classes.page}>
      <h2>Build sheets</h2>
      <p className={classes.faint}>
        New links are made here, judged by the rules as they are typed. Finished rows become links of the inventory, so
        that the next sweep compares what was published with what was built.
      </p>
      <Group gap={6}>
        <TextInput
          aria-label="Name of the new sheet"
          placeholder="What it is for, such as December letters"
          w={280}
          value={title}
          onChange={(event) => setTitle(event.currentTarget.value)}
        />
        <Button variant="filled" onClick={() => begin.mutate({ name: title }, { onSuccess: open })}>
          Begin a sheet
        </Button>
      </Group>
      <Section title="Sheets">
        <table className={classes.table}>
          <tbody>
            {(sheets.data?.sheets ?? []).map((sheet) => (
              <tr key={sheet.id}>
                <td>
                  <Link to={String(sheet.id)}>{sheet.name}</Link>
                </td>
                <td>{counted(sheet.count, 'row')}</td>
                <td className={classes.faint}>{atMoment(sheet.updated_at)}</td>
                <td>
                  <ThrowAway sheet={sheet} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {sheets.data?.sheets.length === 0 && <p className={classes.faint}>None yet.</p>}
      </Section>
      <Section title="Templates">
        {sheets.data?.templates.length === 0 && (
          <p className={classes.faint}>
            None yet. Keep the rows of a sheet as a template, with what changes each time as ‹a field›.
          </p>
        )}
        {sheets.data?.templates.map((template) => (
          <TemplateForm
            key={template.id}
            template={template}
            onFilled={(rows) => begin.mutate({ name: template.name, rows }, { onSuccess: open })}
          />
        ))}
      </Section>
    </div>
  );
}

function ThrowAway({ sheet }: { sheet: Schema['Sheet'] }) {
  const { name } = useWorkspace();
  const back = useAct(name, () => acts.bringSheetBack(name, sheet.id));
  const away = useAct(name, () => acts.throwSheetAway(name, sheet.id));
  return (
    <Button
      onClick={() =>
        away.mutate(undefined, {
          onSuccess: () => offer(`“${sheet.name}” is thrown away.`, 'Bring it back', () => back.mutate(undefined)),
        })
      }
    >
      Throw away
    </Button>
  );
}

interface TemplateFormProps {
  template: Schema['RowTemplate'];
  onFilled: (rows: Schema['BuildRow'][]) => void;
}

/** The fields of a template, and the rows that come of them. */
export function TemplateForm({ template, onFilled }: TemplateFormProps) {
  const { name } = useWorkspace();
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const fill = useAct(name, () => acts.fillTemplate(name, template.id, answers));
  return (
    <Group gap={6} mb={8} align="end">
      <span>
        {template.name} <span className={classes.faint}>{counted(template.rows.length, 'row')}</span>
      </span>
      {template.fields.map((field) => (
        <TextInput
          key={field}
          label={field}
          value={answers[field] ?? ''}
          onChange={(event) => setAnswers({ ...answers, [field]: event.currentTarget.value })}
        />
      ))}
      <Button onClick={() => fill.mutate(undefined, { onSuccess: (answer) => onFilled(answer.rows) })}>
        Make {counted(template.rows.length, 'row')} of “{template.name}”
      </Button>
    </Group>
  );
}
