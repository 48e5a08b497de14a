import { useQuery } from '@tanstack/react-query';
import { queries } from '../api/queries';
import { Facts } from '../parts/Facts';
import { Failure } from '../parts/Failure';
import { onDay } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../shell/Workbench';
import classes from './ConventionView.module.css';
import type { ChannelRule, ConventionDocument, Role } from './document';

/** The naming rules, readable by those who have to keep them. */
export function ConventionView() {
  const { name } = useWorkspace();
  const convention = useQuery(queries.convention(name));
  if (convention.isError) {
    return <Failure error={convention.error} />;
  }
  if (!convention.data) {
    return null;
  }
  const { version, note, since } = convention.data;
  const document = convention.data.document as unknown as ConventionDocument;
  return (
    <div className={classes.view}>
      <header className={classes.head}>
        <h1>{document.name}</h1>
        <p>
          Version {version}, {onDay(since)}: {note}. {document.note}
        </p>
      </header>
      <div className={classes.columns}>
        <div>
          {document.roles.map((role) => (
            <RoleRules key={role.role} role={role} />
          ))}
        </div>
        <div>
          <Channels channels={document.channels} />
          <Pairs document={document} />
          <Hosts document={document} />
          <Dialects document={document} />
        </div>
      </div>
    </div>
  );
}

function RoleRules({ role }: { role: Role }) {
  return (
    <Section title={role.role} aside={<code className={classes.code}>{role.carriers.join(', ')}</code>}>
      <p className={classes.sentence}>
        {role.meaning} {sentence(role)}
      </p>
      {role.vocabulary && (
        <table className={classes.table}>
          <tbody>
            {role.vocabulary.values.map((value) => (
              <tr key={value.value}>
                <td>
                  <code className={classes.code}>{value.value}</code>
                </td>
                <td>{value.meaning}</td>
                <td className={classes.faint}>{value.aliases?.length ? `not: ${value.aliases.join(', ')}` : ''}</td>
                <td className={classes.faint}>{value.owner}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Section>
  );
}

/** The rules of a role as a colleague would say them. */
function sentence(role: Role) {
  const required = { always: 'Every link carries it', paid: 'Paid links carry it', never: 'It may be left out' }[
    role.required ?? 'never'
  ];
  const letters = { lower: 'in lower case', upper: 'in upper case', any: 'in any case' }[role.case ?? 'any'];
  const words = role.free_text ? 'white space is part of it' : `words joined by “${role.separator ?? '-'}”`;
  const values = role.vocabulary?.closed ? 'only these values' : 'any value';
  return `${required}, ${letters}, ${words}; ${values}.`;
}

function Channels({ channels }: { channels: ChannelRule[] }) {
  return (
    <Section title="Channels" aside="the first rule that fits decides">
      <table className={classes.table}>
        <tbody>
          {channels.map((rule, index) => (
            <tr key={index}>
              <td className={classes.faint}>{index + 1}</td>
              <td>
                {rule.channel}
                {rule.paid && <span className={classes.faint}> paid</span>}
              </td>
              <td className={classes.faint}>{rule.when.map(condition).join(', and ')}</td>
            </tr>
          ))}
          <tr>
            <td />
            <td>Unassigned</td>
            <td className={classes.faint}>where no rule fits</td>
          </tr>
        </tbody>
      </table>
    </Section>
  );
}

function condition({ field, is, starts, contains, empty }: ChannelRule['when'][number]) {
  if (empty !== undefined) {
    return `${field} is ${empty ? 'empty' : 'not empty'}`;
  }
  const [verb, values] = is ? ['is', is] : starts ? ['starts with', starts] : ['contains', contains ?? []];
  return `${field} ${verb} ${values.join(' or ')}`;
}

function Pairs({ document }: { document: ConventionDocument }) {
  return (
    <Section title="Permitted together">
      <table className={classes.table}>
        <tbody>
          {(document.pairs ?? []).map((pair) => (
            <tr key={`${pair.source} ${pair.medium}`}>
              <td>
                <code className={classes.code}>{pair.source}</code>
              </td>
              <td>
                <code className={classes.code}>{pair.medium}</code>
              </td>
              <td className={classes.faint}>{pair.kinds?.join(', ') ?? 'every kind of link'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function Hosts({ document }: { document: ConventionDocument }) {
  const hosts = (names: string[] | undefined) => names?.join(', ');
  return (
    <Section title="Hosts">
      <Facts
        facts={[
          ['own', hosts(document.own_hosts)],
          ['pass visitors on', hosts(document.relay_hosts)],
          ['payment', hosts(document.payment_hosts)],
          ['billed, never requested', hosts(document.billed_hosts)],
        ]}
      />
    </Section>
  );
}

function Dialects({ document }: { document: ConventionDocument }) {
  return (
    <Section title="Tokens of the networks">
      <table className={classes.table}>
        <tbody>
          {(document.dialects ?? []).flatMap((dialect) =>
            (dialect.tokens ?? []).map((token) => (
              <tr key={`${dialect.network} ${token.token}`}>
                <td>{dialect.network}</td>
                <td>
                  <code className={classes.code}>
                    {dialect.open}
                    {token.token}
                    {dialect.close}
                  </code>
                </td>
                <td>{token.meaning}</td>
                <td className={classes.faint}>{token.sample && `such as ${token.sample}`}</td>
              </tr>
            )),
          )}
        </tbody>
      </table>
    </Section>
  );
}
