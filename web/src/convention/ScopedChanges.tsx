import { NumberInput, Select, TagsInput, TextInput } from '@mantine/core';
import { lean, type RoleRules } from './document';

interface ScopedChangesProps {
  changes: RoleRules;
  write: (changes: RoleRules) => void;
}

const CHOICES = [
  { key: 'required', label: 'Required', data: ['always', 'paid', 'never'] },
  { key: 'case', label: 'Letter case', data: ['lower', 'upper', 'any'] },
  { key: 'tokens', label: 'Tokens', data: ['any', 'none'] },
] as const;

/** What a rule says instead of what the role says; what stays empty stays as it is. */
export function ScopedChanges({ changes, write }: ScopedChangesProps) {
  const put = (more: Partial<Record<keyof RoleRules, unknown>>) => write(lean({ ...changes, ...more }) as RoleRules);
  const beyond = ['segments', 'vocabulary'].filter((key) => key in changes);
  return (
    <>
      {CHOICES.map(({ key, label, data }) => {
        const value = changes[key];
        return (
          <Select
            key={key}
            label={label}
            placeholder={value !== undefined && typeof value !== 'string' ? 'as written' : 'as usual'}
            clearable
            data={[...data]}
            value={typeof value === 'string' ? value : null}
            onChange={(chosen) => put({ [key]: chosen ?? undefined })}
          />
        );
      })}
      <TextInput
        label="Words divided by"
        placeholder="as usual"
        maxLength={1}
        value={changes.separator ?? ''}
        onChange={(event) => put({ separator: event.currentTarget.value })}
      />
      <NumberInput
        label="Longest"
        placeholder="as usual"
        min={1}
        max={2000}
        value={changes.longest ?? ''}
        onChange={(value) => put({ longest: typeof value === 'number' ? value : undefined })}
      />
      <TagsInput
        label="Characters"
        placeholder="as usual"
        value={changes.characters ?? []}
        onChange={(characters) => put({ characters })}
      />
      {beyond.length > 0 && <p>Its {beyond.join(' and ')} stand under “The whole document”.</p>}
    </>
  );
}
