import { Button, Select, TagsInput } from '@mantine/core';
import type { Schema } from '../api/client';
import { Section } from '../parts/Section';
import { tagsOf } from './signature';
import classes from './Workspaces.module.css';

type Settings = Schema['Settings'];
type Expected = Settings['expected_tags'][number];

interface ExpectedTagsProps {
  settings: Settings;
  write: (changes: Partial<Settings>) => void;
}

/** The tags that pages must have, with the accounts that are permitted. */
export function ExpectedTags({ settings, write }: ExpectedTagsProps) {
  const described = tagsOf(settings);
  const tags = settings.expected_tags;
  const put = (index: number, tag: Expected) =>
    write({ expected_tags: tags.map((one, at) => (at === index ? tag : one)) });
  const free = described.find((tag) => !tags.some((one) => one.tag === tag)) ?? described[0];
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
          : 'Pages without them, with another account, or on which they stay silent are findings. A page is host and path; a path alone is meant on every host, and a * at the end covers all that begins so.'}
      </p>
      {tags.map((one, index) => (
        <div key={index} className={classes.row}>
          <Select
            label="Tag"
            w={150}
            data={described}
            value={one.tag}
            allowDeselect={false}
            onChange={(tag) => put(index, { ...one, tag: tag ?? one.tag })}
          />
          <TagsInput
            label="Accounts"
            w={190}
            placeholder={accountsOf(one).length === 0 ? 'any' : ''}
            value={accountsOf(one)}
            onChange={(accounts) => put(index, expected(one.tag, accounts, one.pages ?? []))}
          />
          <TagsInput
            label="On pages"
            w={300}
            placeholder={one.pages?.length ? '' : 'all own landing pages'}
            value={one.pages ?? []}
            onChange={(pages) => put(index, expected(one.tag, accountsOf(one), pages))}
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

const accountsOf = (one: Expected) => [...(one.account ? [one.account] : []), ...(one.accounts ?? [])];

/** One account stands as such, several as a list. */
function expected(tag: string, accounts: string[], pages: string[]): Expected {
  const [account] = accounts;
  return {
    tag,
    ...(accounts.length === 1 && account ? { account } : accounts.length > 1 ? { accounts } : {}),
    ...(pages.length ? { pages } : {}),
  };
}
