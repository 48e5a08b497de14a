import { Button, Checkbox, Group, MultiSelect, NumberInput, Select, TagsInput, TextInput } from '@mantine/core';
import { useState } from 'react';
import { linkKindValues } from '../api/schema';
import { Section } from '../parts/Section';
import classes from './Convention.module.css';
import { lean, type Required, type Role } from './document';
import type { PartProps } from './EditView';
import { SegmentsEditor } from './SegmentsEditor';
import { VocabularyGrid } from './VocabularyGrid';

/** The name of a role, by which its form is found: it changes when it has been written, not with each letter. */
function NameField({ name, onRename }: { name: string; onRename: (name: string) => void }) {
  const [text, setText] = useState(name);
  const written = text.trim();
  return (
    <TextInput
      label="Name"
      value={text}
      onChange={(event) => setText(event.currentTarget.value)}
      onBlur={() => (written === '' ? setText(name) : written !== name && onRename(written))}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

/** All rules of one role. */
export function RoleEditor({
  index,
  document,
  change,
  onRename,
}: PartProps & { index: number; onRename: (role: string | null) => void }) {
  const role = document.roles[index] as Role;
  const write = (changes: Partial<Role>) =>
    change({
      ...document,
      roles: document.roles.map((one, at) => (at === index ? lean({ ...one, ...changes }) : one)),
    });
  const remove = () => {
    change({ ...document, roles: document.roles.filter((_, at) => at !== index) });
    onRename(null);
  };
  const channels = [...new Set(document.channels.map((rule) => rule.channel))];
  return (
    <>
      <Section title={role.role} aside={<Button onClick={remove}>Take this role out</Button>}>
        <div className={classes.fields}>
          <NameField
            key={role.role}
            name={role.role}
            onRename={(next) => {
              write({ role: next });
              onRename(next);
            }}
          />
          <TagsInput
            label="Parameters that carry it"
            description="the first is written, all are read"
            value={role.carriers}
            onChange={(carriers) => write({ carriers })}
          />
          <TextInput
            label="What it is for"
            value={role.meaning ?? ''}
            onChange={(event) => write({ meaning: event.currentTarget.value })}
          />
          <TextInput
            label="Owner"
            value={role.owner ?? ''}
            onChange={(event) => write({ owner: event.currentTarget.value })}
          />
          <RequiredFields required={role.required} channels={channels} write={(required) => write({ required })} />
          <ValueFields role={role} write={write} />
        </div>
      </Section>
      <SegmentsEditor
        segments={role.segments ?? []}
        roles={document.roles.map((one) => one.role)}
        change={(segments) => write({ segments })}
      />
      <VocabularyGrid
        role={role.role}
        vocabulary={role.vocabulary ?? { values: [] }}
        change={(vocabulary) =>
          write({ vocabulary: vocabulary.values.length === 0 && !vocabulary.closed ? undefined : vocabulary })
        }
      />
    </>
  );
}

/** What its values look like. */
function ValueFields({ role, write }: { role: Role; write: (changes: Partial<Role>) => void }) {
  return (
    <>
      <Select
        label="Letter case"
        data={[
          { value: 'lower', label: 'lower' },
          { value: 'upper', label: 'UPPER' },
          { value: 'any', label: 'any' },
        ]}
        allowDeselect={false}
        value={role.case ?? 'any'}
        onChange={(value) => write({ case: value as Role['case'] })}
      />
      <TextInput
        label="Sign between words"
        maxLength={1}
        value={role.separator ?? '-'}
        onChange={(event) => write({ separator: event.currentTarget.value })}
      />
      <TagsInput
        label="Permitted characters"
        description="single ones and ranges, such as a-z"
        placeholder={role.characters ? '' : 'any'}
        value={role.characters ?? []}
        onChange={(characters) => write({ characters })}
      />
      <NumberInput
        label="Longest, in characters"
        placeholder="no limit"
        min={1}
        max={2000}
        value={role.longest ?? ''}
        onChange={(value) => write({ longest: value === '' ? undefined : Number(value) })}
      />
      <TokensFields role={role} write={write} />
      <Checkbox
        mt={22}
        label="Free text: blanks belong to it"
        checked={role.free_text ?? false}
        onChange={(event) => write({ free_text: event.currentTarget.checked || undefined })}
      />
    </>
  );
}

type Word = 'always' | 'paid' | 'never' | 'some';

function RequiredFields({
  required,
  channels,
  write,
}: {
  required: Required | undefined;
  channels: string[];
  write: (required: Required) => void;
}) {
  const some = typeof required === 'object' ? required : undefined;
  const word: Word = typeof required === 'object' ? 'some' : (required ?? 'never');
  return (
    <>
      <Select
        label="Required"
        data={[
          { value: 'always', label: 'on every link' },
          { value: 'paid', label: 'on paid links' },
          { value: 'some', label: 'on some links …' },
          { value: 'never', label: 'never' },
        ]}
        allowDeselect={false}
        value={word}
        onChange={(value) => write(value === 'some' ? { kinds: ['ad'] } : (value as Required))}
      />
      {some && (
        <>
          <MultiSelect
            label="… of the kind"
            data={[...linkKindValues]}
            value={some.kinds ?? []}
            onChange={(kinds) => write(lean({ ...some, kinds }))}
          />
          <MultiSelect
            label="… or of the channel"
            data={channels}
            value={some.channels ?? []}
            onChange={(list) => write(lean({ ...some, channels: list }))}
          />
        </>
      )}
    </>
  );
}

function TokensFields({ role, write }: { role: Role; write: (changes: Partial<Role>) => void }) {
  const list = Array.isArray(role.tokens) ? role.tokens : undefined;
  return (
    <Group gap={6} align="end" wrap="nowrap">
      <Select
        label="Tokens of networks"
        flex={1}
        data={[
          { value: 'any', label: 'any' },
          { value: 'none', label: 'none' },
          { value: 'some', label: 'only these …' },
        ]}
        allowDeselect={false}
        value={list ? 'some' : ((role.tokens as string) ?? 'any')}
        onChange={(value) => write({ tokens: value === 'some' ? ['name'] : (value as 'any' | 'none') })}
      />
      {list && <TagsInput aria-label="Tokens" value={list} onChange={(tokens) => write({ tokens })} />}
    </Group>
  );
}
