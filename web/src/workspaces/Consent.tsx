import { Button, Checkbox, NativeSelect, TagsInput, TextInput } from '@mantine/core';
import { Section } from '../parts/Section';
import classes from './Workspaces.module.css';

type Target = string | { text: string } | { label: string };
interface TagConsent {
  tag: string;
  untouched?: boolean;
  yes?: boolean;
  no?: boolean;
  unless?: string[];
}
interface ConsentDocument {
  yes: Target;
  no?: Target;
  tags: TagConsent[];
}

interface ConsentProps {
  consent: ConsentDocument | undefined;
  variants: string[][];
  /** Collection hosts of one's own. */
  points: string[];
  /** Names of the tags that are described. */
  tags: string[];
  put: (changes: Record<string, unknown>) => void;
}

/** What is clicked for a yes and a no, and what each tag may do then; and pages that are one page in several designs. */
export function Consent({ consent, variants, points, tags, put }: ConsentProps) {
  const said = consent ?? { yes: '', tags: [] };
  const write = (changes: Partial<ConsentDocument>) => {
    const next = { ...said, ...changes };
    put({ consent: plain(next.yes) || next.tags.length > 0 ? lean(next) : undefined });
  };
  const putTag = (tag: string, changes: Partial<TagConsent>) =>
    write({
      tags: [
        ...said.tags.filter((one) => one.tag !== tag),
        { ...(said.tags.find((one) => one.tag === tag) ?? { tag }), ...changes },
      ],
    });
  return (
    <>
      <Section title="Consent">
        <p className={classes.said}>
          Where it is said what is clicked, each page is opened three times, each time as by somebody new: untouched,
          after a yes, and after a no.
        </p>
        <TargetField label="Clicked for a yes" target={said.yes} write={(yes) => write({ yes: yes ?? '' })} />
        <TargetField
          label="Clicked for a no"
          target={said.no}
          write={(no) => write({ no } as Partial<ConsentDocument>)}
        />
        {tags.map((tag) => (
          <TagRules
            key={tag}
            tag={tag}
            said={said.tags.find((other) => other.tag === tag)}
            put={(changes) => putTag(tag, changes)}
          />
        ))}
      </Section>
      <Section
        title="Pages in several designs"
        aside={<Button onClick={() => put({ variants: [...variants, ['', '']] })}>Add a page</Button>}
      >
        <p className={classes.said}>A tag that one design has and another lacks is a finding.</p>
        <Designs variants={variants} put={(changed) => put({ variants: changed })} />
        <TagsInput
          label="Collection hosts of your own"
          description="Only to these may a signal be sent for once, where a person says so on the command line (--deliver): so it is seen what they refuse."
          w={650}
          value={points}
          onChange={(hosts) => put({ collection_points: hosts.length > 0 ? hosts : undefined })}
        />
      </Section>
    </>
  );
}

/** When one tag may send. said: undefined where nobody has said anything of it. */
function TagRules({
  tag,
  said,
  put,
}: {
  tag: string;
  said: TagConsent | undefined;
  put: (changes: Partial<TagConsent>) => void;
}) {
  return (
    <div className={classes.row}>
      <b>{tag}</b>
      <Checkbox
        label="may send before a choice"
        checked={said?.untouched ?? false}
        onChange={(event) => put({ untouched: event.currentTarget.checked })}
      />
      <Checkbox
        label="must send after a yes"
        checked={said?.yes ?? true}
        onChange={(event) => put({ yes: event.currentTarget.checked })}
      />
      <Checkbox
        label="may send after a no"
        checked={said?.no ?? false}
        onChange={(event) => put({ no: event.currentTarget.checked })}
      />
      <TagsInput
        label="Always with these values of its consent field"
        w={260}
        value={said?.unless ?? []}
        onChange={(unless) => put({ unless })}
      />
    </div>
  );
}

/** Pages that are one page in several designs. put: undefined where none is left. */
function Designs({ variants, put }: { variants: string[][]; put: (variants: string[][] | undefined) => void }) {
  return variants.map((pages, index) => (
    <div key={index} className={classes.row}>
      <TagsInput
        label="Its addresses, host and path"
        w={560}
        value={pages.filter(Boolean)}
        onChange={(changed) => put(variants.map((one, at) => (at === index ? changed : one)))}
      />
      <Button
        aria-label={`${pages[0] || 'This page'} has one design`}
        onClick={() => put(variants.length === 1 ? undefined : variants.filter((_, at) => at !== index))}
      >
        Take away
      </Button>
    </div>
  ));
}

const WAYS = { text: 'the text on it', label: 'the label of a field', css: 'a CSS selector' };

interface TargetFieldProps {
  label: string;
  target: Target | undefined;
  write: (target: Target | undefined) => void;
}

function TargetField({ label, target, write }: TargetFieldProps) {
  const way = typeof target === 'object' ? ('text' in target ? 'text' : 'label') : target ? 'css' : 'text';
  const make = (by: string, words: string): Target | undefined =>
    words === '' ? undefined : by === 'css' ? words : ({ [by]: words } as Target);
  return (
    <div className={classes.row}>
      <TextInput
        label={label}
        w={300}
        value={plain(target)}
        onChange={(event) => write(make(way, event.currentTarget.value))}
      />
      <NativeSelect
        label="found by"
        value={way}
        data={Object.entries(WAYS).map(([value, words]) => ({ value, label: words }))}
        onChange={(event) => write(make(event.currentTarget.value, plain(target)))}
      />
    </div>
  );
}

/** The words of a target. */
const plain = (target: Target | undefined) =>
  typeof target === 'object' ? (Object.values(target)[0] as string) : (target ?? '');

/** Without a no that nobody has named. */
const lean = ({ no, ...rest }: ConsentDocument) => (no ? { ...rest, no } : rest);
