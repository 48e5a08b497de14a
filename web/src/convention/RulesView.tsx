import { Button, Group } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Fragment } from 'react';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { Failure } from '../parts/Failure';
import { counted, onDay } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Convention.module.css';
import { ForAll } from './ForAll';

type Rules = Schema['RulesInWords'];
type RoleRules = Rules['roles'][number];

/** The naming rules in plain words, to be read by those who have to keep them, and printed. */
export function RulesView() {
  const { name } = useWorkspace();
  const rules = useQuery(queries.rules(name));
  if (rules.isError) {
    return <Failure error={rules.error} />;
  }
  if (!rules.data) {
    return <Loading />;
  }
  const { roles, pairs, version, note } = rules.data;
  return (
    <article className={classes.page}>
      <h2>{rules.data.name}</h2>
      <p className={classes.said}>
        Version {version.version} of {onDay(version.since)}
        {version.author && `, by ${version.author}`}
        {version.note && `: ${version.note}`}. {note}
      </p>
      <Group gap={6} className={classes.screen}>
        <Button onClick={() => window.print()}>Print these rules</Button>
        <Button component="a" href={`/api/workspaces/${name}/convention/pairs.csv`} download>
          Permitted pairs as CSV
        </Button>
      </Group>
      <div className={classes.columns}>
        <div>
          {roles.map((role) => (
            <Role key={role.role} role={role} workspace={name} />
          ))}
        </div>
        <div>
          <Pairs pairs={pairs} />
          <Scopes rules={rules.data.rules} />
          <ForAll />
        </div>
      </div>
    </article>
  );
}

function Role({ role, workspace }: { role: RoleRules; workspace: string }) {
  return (
    <Section title={role.role} aside={role.owner && <span className={classes.faint}>{role.owner}</span>}>
      <p className={classes.said}>
        {role.meaning} {role.sentences.join(' ')}
      </p>
      <div className={classes.examples}>
        {role.good.map((one) => (
          <Fragment key={one.text}>
            <code data-good>{one.text}</code>
            <span>right</span>
          </Fragment>
        ))}
        {role.bad.map((one) => (
          <Fragment key={one.text}>
            <code data-bad>{one.text.length > 60 ? `${one.text.slice(0, 60)}…` : one.text}</code>
            <span className={classes.faint}>{one.why}</span>
          </Fragment>
        ))}
      </div>
      {role.values.length > 0 && (
        <details open={role.values.length <= 25}>
          <summary>{counted(role.values.length, 'value')}</summary>
          <a href={`/api/workspaces/${workspace}/convention/vocabularies/${role.role}.csv`} download>
            As CSV
          </a>
          <table className={classes.table}>
            <tbody>
              {role.values.map((value) => (
                <tr key={value.value}>
                  <td>
                    <code>{value.value}</code>
                  </td>
                  <td>{value.meaning}</td>
                  <td className={classes.faint}>{value.aliases.length > 0 && `not: ${value.aliases.join(', ')}`}</td>
                  <td className={classes.faint}>{value.owner}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      )}
    </Section>
  );
}

function Pairs({ pairs }: { pairs: Rules['pairs'] }) {
  return (
    <Section title="Permitted together">
      <table className={classes.table}>
        <thead>
          <tr>
            <th>source</th>
            <th>medium</th>
            <th>on links of the kind</th>
            <th>leads to</th>
          </tr>
        </thead>
        <tbody>
          {pairs.map((pair) => (
            <tr key={`${pair.source} ${pair.medium}`}>
              <td>
                <code>{pair.source}</code>
              </td>
              <td>
                <code>{pair.medium}</code>
              </td>
              <td className={classes.faint}>{pair.kinds || 'any'}</td>
              <td>{pair.channel}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function Scopes({ rules }: { rules: Rules['rules'] }) {
  if (rules.length === 0) {
    return null;
  }
  return (
    <Section title="Where it is different">
      <table className={classes.table}>
        <tbody>
          {rules.map((rule) => (
            <tr key={`${rule.scope} ${rule.role}`}>
              <td>{rule.scope}</td>
              <td>{rule.role}</td>
              <td>
                <code>
                  {Object.entries(rule.changes)
                    .map(([what, value]) => `${what} ${typeof value === 'object' ? JSON.stringify(value) : value}`)
                    .join(', ')}
                </code>
              </td>
              <td className={classes.faint}>{rule.why}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}
