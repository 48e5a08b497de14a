import { useQuery } from '@tanstack/react-query';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { counted } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Collect.module.css';

type SitePage = Schema['SitePage'];

/** The pages that a crawl has read, and what each says of itself. */
export function SitePages({ id }: { id: number }) {
  const { name } = useWorkspace();
  const pages = useQuery(queries.importPages(name, id));
  const rows = pages.data?.pages ?? [];
  return (
    <Section title={`${counted(rows.length, 'page')} read`}>
      <table className={classes.table}>
        <tbody>
          {rows.map((page) => (
            <tr key={page.address}>
              <td className={classes.cells}>{page.address}</td>
              <td>{page.status ?? 'no answer'}</td>
              <td>{page.title ?? page.reason}</td>
              <td>{facts(page)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function facts(page: SitePage) {
  const hidden = page.forms.flatMap((form) => Object.keys(form.hidden));
  const words = [
    counted(page.links, 'link'),
    page.forms.length > 0 && counted(page.forms.length, 'form'),
    hidden.length > 0 && `hidden: ${hidden.join(', ')}`,
    page.scripts.length > 0 && counted(page.scripts.length, 'script'),
    page.canonical && page.canonical !== page.address && `canonical ${page.canonical}`,
    page.noindex && 'noindex',
    page.nofollow && 'nofollow',
    page.referrer_policy && `referrer: ${page.referrer_policy}`,
  ];
  return words.filter(Boolean).join(' · ');
}
