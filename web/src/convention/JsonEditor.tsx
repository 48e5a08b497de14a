import { Textarea } from '@mantine/core';
import { useState } from 'react';
import { Section } from '../parts/Section';
import classes from './Convention.module.css';

interface JsonEditorProps {
  title: string;
  about: string;
  value: unknown;
  change: (value: unknown) => void;
}

/** A part of the document as text. What cannot be read stays as typed, with the reason, and changes nothing. */
export function JsonEditor({ title, about, value, change }: JsonEditorProps) {
  const [text, setText] = useState(() => JSON.stringify(value, null, 2));
  const [fault, setFault] = useState('');
  const type = (typed: string) => {
    setText(typed);
    try {
      const read = JSON.parse(typed);
      if (typeof read !== 'object' || read === null || Array.isArray(read) !== Array.isArray(value)) {
        throw new Error(`a ${Array.isArray(value) ? 'list' : 'object'} is expected`);
      }
      setFault('');
      change(read);
    } catch (error) {
      setFault(`Not taken over yet: ${(error as Error).message}`);
    }
  };
  return (
    <Section title={title}>
      <p className={classes.said}>{about}</p>
      <Textarea
        className={classes.json}
        aria-label={title}
        value={text}
        onChange={(event) => type(event.currentTarget.value)}
        error={fault}
        autosize
        minRows={12}
        maxRows={34}
        spellCheck={false}
      />
    </Section>
  );
}
