import type { Schema } from '../api/client';
import { Section } from '../parts/Section';
import classes from './TagsView.module.css';

type State = Schema['PageDetail']['states'][number];

/** In the order in which a visitor meets them. */
const STATES = [
  { state: 'untouched', label: 'before any choice' },
  { state: 'yes', label: 'after a yes' },
  { state: 'no', label: 'after a no' },
];

/** What each tag sent in each state of consent, side by side. */
export function ConsentStates({ states }: { states: State[] }) {
  const shown = STATES.flatMap(({ state, label }) => {
    const seen = states.find((one) => one.state === state);
    return seen ? [{ ...seen, label }] : [];
  });
  const tags = [...new Set(states.flatMap((one) => one.signals.map((signal) => signal.tag)))].toSorted();
  return (
    <Section title="Consent" aside="what left in each state">
      <table className={classes.signals}>
        <thead>
          <tr>
            <th>Tag</th>
            {shown.map((one) => (
              <th key={one.state}>{one.label}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {tags.map((tag) => (
            <tr key={tag}>
              <td>{tag}</td>
              {shown.map((one) => (
                <td key={one.state}>{one.reason ?? events(one, tag)}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

const events = (state: State, tag: string) =>
  state.signals
    .filter((signal) => signal.tag === tag)
    .map((signal) => signal.event || '(unreadable)')
    .join(', ') || 'nothing';
