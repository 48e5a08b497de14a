import { cloneElement, lazy, type ReactElement, type ReactNode, type Ref, useRef, useState } from 'react';
import { Fetched } from './Fetched';

const Panel = lazy(() => import('./FoldoutPanel').then(({ FoldoutPanel }) => ({ default: FoldoutPanel })));

interface FoldoutProps {
  /** What opens and closes it: a button that passes its ref on. */
  button: ReactElement<{ onClick?: () => void; 'aria-expanded'?: boolean; ref?: Ref<HTMLButtonElement> }>;
  /** Which of the button's sides it keeps to. */
  side: 'start' | 'end';
  onOpen?: () => void;
  children: (close: () => void) => ReactNode;
}

/** A panel below a button. What places it is fetched when one is first opened. */
export function Foldout({ button, side, onOpen, children }: FoldoutProps) {
  const [state, setState] = useState<'new' | 'open' | 'closed'>('new');
  const opener = useRef<HTMLButtonElement>(null);
  const open = state === 'open';
  const toggle = () => {
    setState(open ? 'closed' : 'open');
    open || onOpen?.();
  };
  const target = cloneElement(button, { onClick: toggle, 'aria-expanded': open, ref: opener });
  if (state === 'new') {
    return target;
  }
  // Whoever works by keyboard goes on where they were.
  const close = () => {
    setState('closed');
    opener.current?.focus();
  };
  return (
    <Fetched meanwhile={target}>
      <Panel open={open} close={close} side={side} target={target}>
        {children(close)}
      </Panel>
    </Fetched>
  );
}
