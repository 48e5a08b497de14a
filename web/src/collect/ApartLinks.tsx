import type { Schema } from '../api/client';
import { counted } from '../parts/format';
import { Section } from '../parts/Section';
import classes from './Collect.module.css';

/** Addresses that were found and are no links to audit. */
export function ApartLinks({ links }: { links: Schema['Apart'][] }) {
  if (links.length === 0) {
    return null;
  }
  return (
    <Section title={`${counted(links.length, 'address', 'addresses')} set apart`}>
      <table className={classes.table}>
        <tbody>
          {links.slice(0, 50).map((link, index) => (
            <tr key={`${index} ${link.address}`}>
              <td>{link.reason}</td>
              <td className={classes.cells}>{link.address}</td>
              <td>{link.text}</td>
              <td>{link.place}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}
