import classes from './Weight.module.css';

export type WeightName = '' | 'untidy' | 'skews' | 'breaks';

/** What each weight does to the numbers. */
const MEANING: Record<WeightName, string> = {
  breaks: 'breaks: attribution is lost',
  skews: 'skews: attribution is wrong or split',
  untidy: 'untidy: a departure that changes no number',
  '': 'nothing found',
};

/** The lane of a parameter, in small: cut, bent, or uneven. */
const SHAPE: Record<WeightName, string> = {
  breaks: 'M1 7H6M6 3V11M15 7H19',
  skews: 'M1 11H7L13 3H19',
  untidy: 'M1 7Q4 3 7 7T13 7T19 7',
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
