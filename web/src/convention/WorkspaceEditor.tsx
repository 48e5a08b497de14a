import { MultiSelect, TagsInput } from '@mantine/core';
import { linkKindValues } from '../api/schema';
import { Section } from '../parts/Section';
import classes from './Convention.module.css';
import { type ConventionDocument, lean } from './document';
import type { PartProps } from './EditView';

type HostList = 'own_hosts' | 'judged_hosts' | 'relay_hosts' | 'known_hosts' | 'payment_hosts' | 'billed_hosts';

const HOSTS: { list: HostList; label: string; about: string }[] = [
  { list: 'own_hosts', label: 'Own hosts', about: 'pages of the advertiser; *.name is every host below name' },
  { list: 'relay_hosts', label: 'Hosts that pass visitors on', about: 'short links, click counters' },
  { list: 'judged_hosts', label: 'Other hosts whose links are judged', about: '' },
  { list: 'known_hosts', label: 'Other hosts that links may pass over', about: '' },
  { list: 'payment_hosts', label: 'Hosts where visitors pay', about: '' },
  { list: 'billed_hosts', label: 'Hosts that charge for a click', about: 'never requested' },
];

/** What holds for the whole workspace. */
export function WorkspaceEditor({ document, change }: PartProps) {
  const personal = document.personal_data ?? {};
  const write = (changes: Partial<ConventionDocument>) => change({ ...document, ...changes });
  const putPersonal = (changes: ConventionDocument['personal_data']) =>
    write({ personal_data: lean({ ...personal, ...changes }) });
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
            onChange={(kinds) => putPersonal({ kinds })}
          />
          <TagsInput
            label="Parameters that hold a name"
            value={personal.name_fields ?? []}
            onChange={(fields) => putPersonal({ name_fields: fields })}
          />
          <TagsInput
            label="Parameters that hold a telephone number"
            value={personal.phone_fields ?? []}
            onChange={(fields) => putPersonal({ phone_fields: fields })}
          />
        </div>
      </Section>
    </>
  );
}
