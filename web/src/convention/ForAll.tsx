import { useQuery } from '@tanstack/react-query';
import { queries } from '../api/queries';
import { Facts } from '../parts/Facts';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Convention.module.css';
import type { ChannelRule, ConventionDocument } from './document';

/** What holds for all roles: channels, hosts, tokens. */
export function ForAll() {
  const { name } = useWorkspace();
  const convention = useQuery(queries.convention(name));
  if (!convention.data) {
    return null;
  }
  const document = convention.data.document as unknown as ConventionDocument;
  return (
    <>
      <Channels channels={document.channels} />
      <Hosts document={document} />
      <Dialects document={document} />
    </>
  );
}

function Channels({ channels }: { channels: ChannelRule[] }) {
  return (
    <Section title="Channels" aside="the first rule that fits decides">
      <table className={classes.table}>
        <tbody>
          {channels.map((rule, index) => (
            <tr key={`${rule.channel} ${rule.when.map(condition).join()}`}>
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
                  <code>
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
