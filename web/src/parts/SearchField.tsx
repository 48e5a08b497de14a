import { TextInput } from '@mantine/core';
import { useDebouncedCallback, useHotkeys } from '@mantine/hooks';
import { useRef, useState } from 'react';

interface SearchFieldProps {
  label: string;
  /** What is searched for now, as the address bar has it. */
  value: string;
  /** Told when the typing pauses. */
  search: (text: string) => void;
}

/** A search that the key / leads to and Esc leaves. */
export function SearchField({ label, value, search }: SearchFieldProps) {
  const [text, setText] = useState(value);
  const later = useDebouncedCallback(search, 200);
  const field = useRef<HTMLInputElement>(null);
  useHotkeys([['/', () => field.current?.focus()]]);
  return (
    <TextInput
      ref={field}
      aria-label={label}
      placeholder="Search ( / )"
      w={140}
      value={text}
      onChange={(event) => {
        setText(event.currentTarget.value);
        later(event.currentTarget.value);
      }}
      onKeyDown={(event) => event.key === 'Escape' && event.currentTarget.blur()}
    />
  );
}
