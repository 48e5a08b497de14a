import type { Schema } from '../api/client';
import { count } from '../parts/format';
import { Section } from '../parts/Section';
import classes from './Collect.module.css';

type Change = Schema['SourceChange'];

const ORDER: Change['what'][] = ['changed', 'copied', 'gone', 'new'];

/** What a source holds now and did not before, and the other way round. */
export function Changes({ changes }: { changes: Change[] }) {
  const counts = ORDER.map((what) => [what, changes.filter((one) => one.what === what).length] as const);
  const sorted = [...changes].sort((one, other) => ORDER.indexOf(one.what) - ORDER.indexOf(other.what));
  return (
    <Section
      title="Since this source was last read"
      aside={counts
        .filter(([, many]) => many > 0)
        .map(([what, many]) => `${count(many)} ${what}`)
        .join(', ')}
    >
      <table className={classes.changes}>
        <tbody>
          {sorted.slice(0, 200).map((change) => (
            <tr key={`${change.what} ${change.key}`}>
              <td data-what={change.what}>{change.what}</td>
              <td>
                <b>{change.place}</b>
                <p>{change.sentence}</p>
                <Addresses change={change} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {sorted.length > 200 && (
        <p className={classes.about}>{count(sorted.length - 200)} more are kept with the import.</p>
      )}
    </Section>
  );
}

function Addresses({ change }: { change: Change }) {
  const [before, after] = [change.before, change.after].map((entry) => entry?.address);
  if (before === after) {
    return <code>{after}</code>;
  }
  return (
    <>
      {before && <del>{before}</del>}
      {after && <code>{after}</code>}
    </>
  );
}
