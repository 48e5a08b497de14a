import { Button, Select, TagsInput } from '@mantine/core';
import classes from './Convention.module.css';
import type { ChannelRule } from './document';

type Condition = ChannelRule['when'][number];

const FIELDS = [
  'source',
  'medium',
  'campaign',
  'content',
  'term',
  'referrer',
  'landing',
  'click',
  'device',
  'host',
] as const;
/** How a condition asks, in words. */
const VERBS = [
  { value: 'is', label: 'is one of' },
  { value: 'starts', label: 'starts with' },
  { value: 'contains', label: 'contains' },
  { value: 'empty', label: 'is empty' },
  { value: 'filled', label: 'is not empty' },
] as const;
type Verb = (typeof VERBS)[number]['value'];

interface ConditionsProps {
  /** Of the rule. */
  number: number;
  when: Condition[];
  write: (when: Condition[]) => void;
}

/** What must hold of a visit, all at once. */
export function Conditions({ number, when, write }: ConditionsProps) {
  const put = (at: number, condition: Condition) => write(when.map((one, index) => (index === at ? condition : one)));
  return (
    <div className={classes.conditions}>
      {when.map((condition, index) => (
        <div key={index} className={classes.channel}>
          <Select
            aria-label={`What condition ${index + 1} of rule ${number} asks`}
            w={106}
            allowDeselect={false}
            data={[...FIELDS]}
            value={condition.field}
            onChange={(field) => put(index, { ...condition, field: field as Condition['field'] })}
          />
          <Select
            aria-label={`How condition ${index + 1} of rule ${number} asks`}
            w={120}
            allowDeselect={false}
            data={[...VERBS]}
            value={verbOf(condition)}
            onChange={(verb) => put(index, asking(condition, verb as Verb))}
          />
          {condition.empty === undefined && (
            <TagsInput
              aria-label={`Values of condition ${index + 1} of rule ${number}`}
              className={classes.values}
              value={valuesOf(condition)}
              onChange={(values) => put(index, { field: condition.field, [verbOf(condition)]: values } as Condition)}
            />
          )}
          <Button
            variant="subtle"
            aria-label={`Take out condition ${index + 1} of rule ${number}`}
            onClick={() => write(when.toSpliced(index, 1))}
          >
            ×
          </Button>
        </div>
      ))}
      <Button variant="subtle" onClick={() => write([...when, { field: 'medium', is: [''] } as Condition])}>
        {when.length === 0 ? 'Holds always: add a condition' : 'And …'}
      </Button>
    </div>
  );
}

const valuesOf = (condition: Condition) =>
  (condition.is ?? condition.starts ?? condition.contains ?? []).filter((value) => value !== '');

function verbOf(condition: Condition): Verb {
  if (condition.empty !== undefined) {
    return condition.empty ? 'empty' : 'filled';
  }
  return condition.starts ? 'starts' : condition.contains ? 'contains' : 'is';
}

/** The same condition, asked otherwise; values that were typed stay. */
function asking(condition: Condition, verb: Verb): Condition {
  const { field } = condition;
  return verb === 'empty' || verb === 'filled'
    ? { field, empty: verb === 'empty' }
    : ({ field, [verb]: valuesOf(condition) } as Condition);
}
