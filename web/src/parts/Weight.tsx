import type { components } from '../api/schema';
import classes from './Weight.module.css';

export type WeightName = components['schemas']['Link']['weight'];

/** What each weight does to the numbers. */
const MEANING: Record<WeightName, string> = {
  breaks: 'breaks: attribution is lost',
  skews: 'skews: attribution is wrong or split',
  untidy: 'untidy: a departure that changes no number',
  '': 'nothing found',
};

/** The lane of a parameter, in small: it ends at a bar, bends away, or runs uneven. */
const SHAPE: Record<WeightName, string> = {
  breaks: 'M1 7H9M10 2V12',
  skews: 'M1 12H6L13 2H19',
  untidy: 'M1 7Q3.5 1 7 7T13 7T19 7',
  '': 'M1 7H19',
};

interface WeightProps {
  weight: WeightName;
  /** Whether the word stands beside the shape. @default false */
  word?: boolean;
}

/** The weight of a finding: a shape, a word and a colour, in that order. */
export function Weight({ weight, word = false }: WeightProps) {
  return (
    <span className={classes.weight} data-weight={weight} title={MEANING[weight]}>
      <svg viewBox="0 0 20 14" width="20" height="14" role="img" aria-label={weight || 'nothing found'}>
        <path d={SHAPE[weight]} />
      </svg>
      {word && weight !== '' && <span>{weight}</span>}
    </span>
  );
}
