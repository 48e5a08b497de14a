import { Button, Select, TextInput } from '@mantine/core';
import { linkKindValues } from '../api/schema';
import { Section } from '../parts/Section';
import classes from './Convention.module.css';
import { lean, type ScopedRule } from './document';
import type { PartProps } from './EditView';
import { ScopedChanges } from './ScopedChanges';

/** Rules for links of one kind, account or host. The most specific wins. */
export function ScopesEditor({ document, change }: PartProps) {
  const rules = document.rules ?? [];
  const write = (at: number, rule: ScopedRule) =>
    change({ ...document, rules: rules.map((one, index) => (index === at ? rule : one)) });
  const add = () =>
    change({
      ...document,
      rules: [
        ...rules,
        { scope: { kind: 'ad' }, role: document.roles[0]?.role ?? 'source', changes: { required: 'always' } },
      ],
    });
  return (
    <Section title="Where it is different" aside={<Button onClick={add}>Add a rule</Button>}>
      <p className={classes.said}>
        What is different for links of one kind, account or host. The rule that names more of the three wins; among
        equals the host goes before the account, and the account before the kind.
      </p>
      {rules.map((rule, index) => (
        <div key={index} className={classes.fields}>
          <Select
            label="Kind of link"
            clearable
            data={[...linkKindValues]}
            value={rule.scope.kind ?? null}
            onChange={(kind) => write(index, { ...rule, scope: lean({ ...rule.scope, kind: kind ?? undefined }) })}
          />
          <TextInput
            label="Account"
            value={rule.scope.account ?? ''}
            onChange={(event) =>
              write(index, { ...rule, scope: lean({ ...rule.scope, account: event.currentTarget.value }) })
            }
          />
          <TextInput
            label="Host"
            value={rule.scope.host ?? ''}
            onChange={(event) =>
              write(index, { ...rule, scope: lean({ ...rule.scope, host: event.currentTarget.value }) })
            }
          />
          <Select
            label="Role"
            data={document.roles.map((role) => role.role)}
            allowDeselect={false}
            value={rule.role}
            onChange={(role) => write(index, { ...rule, role: role ?? rule.role })}
          />
          <ScopedChanges changes={rule.changes} write={(changes) => write(index, { ...rule, changes })} />
          <TextInput
            label="Why"
            value={rule.why ?? ''}
            onChange={(event) => write(index, { ...rule, why: event.currentTarget.value })}
          />
          <Button mt={20} onClick={() => change({ ...document, rules: rules.filter((_, at) => at !== index) })}>
            Take out
          </Button>
        </div>
      ))}
    </Section>
  );
}
