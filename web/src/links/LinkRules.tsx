import type { Schema } from '../api/client';
import { Section } from '../parts/Section';
import classes from './OverAll.module.css';

/** Which rules hold for a link, and why. */
export function LinkRules({ rules }: { rules: Schema['LinkRules'] }) {
  const scope = Object.entries(rules.scope)
    .map(([part, value]) => `${part} ${value}`)
    .join(', ');
  const special = rules.roles.filter((role) => role.rules.length > 0);
  return (
    <Section title="Rules for this link" aside={scope}>
      <p>
        {rules.why}{' '}
        {rules.judged &&
          (special.length === 0 ? 'The rules for all links hold.' : 'The rules for all links hold, but:')}
      </p>
      {rules.judged && (
        <table className={classes.rules}>
          <tbody>
            {special.flatMap((role) =>
              role.rules.map((rule, index) => (
                <tr key={`${role.role} ${rule.number}`}>
                  <td>{role.role}</td>
                  <td>
                    {Object.entries(rule.changes)
                      .map(([what, value]) => `${what} ${typeof value === 'object' ? JSON.stringify(value) : value}`)
                      .join(', ')}
                  </td>
                  <td className={classes.faint}>
                    because of {rule.scope}
                    {role.rules.length > 1 && (index === role.rules.length - 1 ? ' (wins)' : ' (overruled)')}
                    {rule.why && `: ${rule.why}`}
                  </td>
                </tr>
              )),
            )}
          </tbody>
        </table>
      )}
      {rules.judged && (
        <details>
          <summary>In words</summary>
          <table className={classes.rules}>
            <tbody>
              {rules.roles.map((role) => (
                <tr key={role.role}>
                  <td>{role.role}</td>
                  <td>{role.sentences.join(' ')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      )}
    </Section>
  );
}
