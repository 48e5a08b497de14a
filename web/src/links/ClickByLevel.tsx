import type { Schema } from '../api/client';
import classes from './ClickByLevel.module.css';

type Click = Schema['ClickAddress'];

/** The address that a click opens: each stretch stands over the level that gave it, each token over what filled it. */
export function ClickByLevel({ click }: { click: Click }) {
  const tokens = Object.entries(click.tokens);
  return (
    <div className={classes.click}>
      <code className={classes.before}>{click.before}</code>
      <div className={classes.stretches}>
        {click.stretches.map((stretch, index) => (
          <span key={index} data-level={stretch.level} data-token={stretch.token ?? undefined}>
            <code>{stretch.text}</code>
            <small>{[stretch.level, stretch.token, stretch.sample && 'sample'].filter(Boolean).join(' · ')}</small>
          </span>
        ))}
      </div>
      {tokens.length > 0 && (
        <p className={classes.tokens}>
          {tokens.map(([token, value]) => (
            <span key={token} data-empty={value === '' || undefined}>
              {token} = {value === '' ? 'nothing to fill it' : value}
              {(click.samples ?? []).includes(token) && ' (sample)'}
            </span>
          ))}
        </p>
      )}
      {(click.warnings ?? []).map((warning) => (
        <p key={warning} className={classes.unknown}>
          {warning}
        </p>
      ))}
      {click.unknown.length > 0 && (
        <p className={classes.unknown}>
          {click.network} offers no {click.unknown.join(', ')}.
        </p>
      )}
    </div>
  );
}
