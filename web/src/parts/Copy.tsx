import { Button, CopyButton } from '@mantine/core';

interface CopyProps {
  text: string;
  /** What is copied, as in "Copy corrected address". */
  what: string;
}

/** Copies an exact text and says that it did. */
export function Copy({ text, what }: CopyProps) {
  return (
    <CopyButton value={text} timeout={1600}>
      {({ copied, copy }) => (
        <Button onClick={copy} data-copy={what}>
          {copied ? 'Copied' : `Copy ${what}`}
        </Button>
      )}
    </CopyButton>
  );
}
