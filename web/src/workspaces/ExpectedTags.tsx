import { Button, Select, TextInput } from '@mantine/core';
import type { Schema } from '../api/client';
import { Section } from '../parts/Section';
import classes from './Workspaces.module.css';

type Settings = Schema['Settings'];

interface ExpectedTagsProps {
  settings: Settings;
  write: (changes: Partial<Settings>) => void;
}

/** The tags that every own landing page must have. */
export function ExpectedTags({ settings, write }: ExpectedTagsProps) {
  const described = settings.signatures.map((one) => String(one.tag));
  const tags = settings.expected_tags;
  const put = (index: number, tag: Settings['expected_tags'][number]) =>
    write({ expected_tags: tags.map((one, at) => (at === index ? tag : one)) });
  const free = described.find((tag) => !tags.some((one) => one.tag === tag));
  return (
    <Section
      title="Expected tags"
      aside={
        <Button disabled={!free} onClick={() => free && write({ expected_tags: [...tags, { tag: free }] })}>
          Expect a tag
        </Button>
      }
    >
      <p className={classes.said}>
        {described.length === 0
          ? 'No tag is described yet: sweep once, then say under Tags, Senders, which of those that were heard is one.'
          : 'Pages without them, with another account, or on which they stay silent are findings.'}
      </p>
      {tags.map((one, index) => (
        <div key={one.tag} className={classes.row}>
          <Select
            label="Tag"
            data={described}
            value={one.tag}
            allowDeselect={false}
            onChange={(tag) => put(index, { ...one, tag: tag ?? one.tag })}
          />
          <TextInput
            label="Account"
            placeholder="any"
            value={one.account ?? ''}
            onChange={(event) =>
              put(index, { tag: one.tag, ...(event.currentTarget.value ? { account: event.currentTarget.value } : {}) })
            }
          />
          <Button
            aria-label={`Expect ${one.tag} no more`}
            onClick={() => write({ expected_tags: tags.filter((_, at) => at !== index) })}
          >
            Take away
          </Button>
        </div>
      ))}
    </Section>
  );
}
