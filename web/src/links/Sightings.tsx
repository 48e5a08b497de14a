import type { Schema } from '../api/client';
import { counted, money, onDay } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import { ClickByLevel } from './ClickByLevel';
import classes from './LinkEvidence.module.css';

type Sighting = Schema['Sighting'];

/** Where a link stands, who can change it there, and what that place says of it. */
export function Sightings({ sightings }: { sightings: Sighting[] }) {
  const live = sightings.filter((one) => !one.ended);
  return (
    <Section
      title={`Found in ${counted(live.length, 'place')}`}
      aside={live.length < sightings.length ? `${sightings.length - live.length} it has left` : undefined}
    >
      {sightings.map((sighting, index) => (
        <div key={index} className={classes.sighting} data-ended={sighting.ended || undefined}>
          <SightingHead sighting={sighting} />
          {sighting.text && <q className={classes.text}>{sighting.text}</q>}
          {sighting.target && (
            <p>
              The register says: <code>{sighting.target}</code>
            </p>
          )}
          {sighting.click && <ClickByLevel click={sighting.click} />}
        </div>
      ))}
    </Section>
  );
}

function SightingHead({ sighting }: { sighting: Sighting }) {
  const { currency } = useWorkspace();
  const facts = [
    sighting.part,
    sighting.owner ? `${sighting.owner} can change it` : 'nobody is named who can change it',
    sighting.since && `since ${onDay(sighting.since)}`,
    sighting.spend ? money(sighting.spend, currency) : null,
    sighting.clicks === null ? null : counted(sighting.clicks, 'click'),
    sighting.conversions === null ? null : `${counted(sighting.conversions, 'conversion')} claimed`,
    sighting.status,
    sighting.facts?.link,
    sighting.facts?.rel,
    sighting.ended && 'not there any more',
  ];
  return (
    <p className={classes.seen}>
      <span>{sighting.kind}</span> <b>{sighting.place || 'place not named'}</b>{' '}
      <span className={classes.hint}>{facts.filter(Boolean).join(' · ')}</span>
    </p>
  );
}
