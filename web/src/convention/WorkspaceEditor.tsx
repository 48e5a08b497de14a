import { MultiSelect, NumberInput, TagsInput } from '@mantine/core';
import { linkKindValues } from '../api/schema';
import { Section } from '../parts/Section';
import classes from './Convention.module.css';
import { type ConventionDocument, lean } from './document';
import type { PartProps } from './EditView';

type HostList =
  | 'own_hosts'
  | 'judged_hosts'
  | 'relay_hosts'
  | 'known_hosts'
  | 'payment_hosts'
  | 'billed_hosts'
  | 'partner_hosts'
  | 'mail_hosts'
  | 'social_hosts'
  | 'search_hosts';

const HOSTS: { list: HostList; label: string; about: string }[] = [
  { list: 'own_hosts', label: 'Own hosts', about: 'pages of the advertiser; *.name is every host below name' },
  { list: 'relay_hosts', label: 'Hosts that pass visitors on', about: 'short links, click counters' },
  { list: 'judged_hosts', label: 'Other hosts whose links are judged', about: '' },
  { list: 'known_hosts', label: 'Other hosts that links may pass over', about: '' },
  { list: 'payment_hosts', label: 'Hosts where visitors pay', about: '' },
  { list: 'partner_hosts', label: 'Hosts of partners', about: 'their pages are to link with parameters' },
  { list: 'mail_hosts', label: 'Where people read their mail', about: 'visits from there came by a message' },
  { list: 'social_hosts', label: 'Social networks', about: '' },
  { list: 'search_hosts', label: 'Search engines', about: '' },
  { list: 'billed_hosts', label: 'Hosts that charge for a click', about: 'never requested' },
];

type Limit = 'clicks' | 'sessions_share' | 'claims' | 'claims_ratio';

const LIMITS: { name: Limit; label: string; usual: number; step: number }[] = [
  { name: 'clicks', label: 'Clicks, below which nothing is said', usual: 50, step: 10 },
  { name: 'sessions_share', label: 'Sessions a click', usual: 0.5, step: 0.05 },
  { name: 'claims', label: 'Claims, below which nothing is said', usual: 10, step: 5 },
  { name: 'claims_ratio', label: 'Claims an order', usual: 1.3, step: 0.1 },
];

/** What holds for the whole workspace. */
export function WorkspaceEditor({ document, change }: PartProps) {
  const limits: Partial<Record<Limit, number>> = document.thresholds ?? {};
  const write = (changes: Partial<ConventionDocument>) => change({ ...document, ...changes });
  return (
    <>
      <Section title="Hosts">
        <div className={classes.fields}>
          {HOSTS.map(({ list, label, about }) => (
            <TagsInput
              key={list}
              className={classes.wide}
              label={label}
              description={about}
              value={document[list] ?? []}
              onChange={(hosts) => write({ [list]: hosts })}
            />
          ))}
        </div>
      </Section>
      <Section title="From when on a difference counts">
        <div className={classes.fields}>
          {LIMITS.map(({ name, label, usual, step }) => (
            <NumberInput
              key={name}
              label={label}
              value={limits[name] ?? usual}
              min={0}
              step={step}
              decimalScale={2}
              onChange={(value) => write({ thresholds: { ...limits, [name]: Number(value) } })}
            />
          ))}
        </div>
      </Section>
      <Section title="What is left alone">
        <div className={classes.fields}>
          <MultiSelect
            label="Kinds of link that need no parameters"
            data={[...linkKindValues]}
            value={document.exempt_kinds ?? []}
            onChange={(kinds) => write({ exempt_kinds: kinds })}
          />
          <TagsInput
            className={classes.wide}
            label="The site's own parameters"
            description="never taken for misspelled ones"
            value={document.own_parameters ?? []}
            onChange={(names) => write({ own_parameters: names })}
          />
        </div>
      </Section>
      <Personal personal={document.personal_data ?? {}} write={write} />
    </>
  );
}

function Personal({
  personal,
  write,
}: {
  personal: NonNullable<ConventionDocument['personal_data']>;
  write: (changes: Partial<ConventionDocument>) => void;
}) {
  const put = (changes: ConventionDocument['personal_data']) =>
    write({ personal_data: lean({ ...personal, ...changes }) });
  return (
    <Section title="Personal data">
      <div className={classes.fields}>
        <MultiSelect
          label="Looked for"
          data={[
            { value: 'mail', label: 'mail addresses' },
            { value: 'phone', label: 'telephone numbers' },
            { value: 'name', label: 'names' },
          ]}
          value={personal.kinds ?? ['mail', 'phone', 'name']}
          onChange={(kinds) => put({ kinds })}
        />
        <TagsInput
          label="Parameters that hold a name"
          value={personal.name_fields ?? []}
          onChange={(fields) => put({ name_fields: fields })}
        />
        <TagsInput
          label="Parameters that hold a telephone number"
          value={personal.phone_fields ?? []}
          onChange={(fields) => put({ phone_fields: fields })}
        />
      </div>
    </Section>
  );
}
