import { Popover } from '@mantine/core';
import type { ReactElement, ReactNode } from 'react';

interface FoldoutPanelProps {
  open: boolean;
  close: () => void;
  side: 'start' | 'end';
  target: ReactElement;
  children: ReactNode;
}

/** Places a panel below its button, keeps the keyboard in it, and gives it back. */
export function FoldoutPanel({ open, close, side, target, children }: FoldoutPanelProps) {
  return (
    <Popover opened={open} onChange={(opened) => opened || close()} position={`bottom-${side}`} trapFocus>
      <Popover.Target>{target}</Popover.Target>
      <Popover.Dropdown>{children}</Popover.Dropdown>
    </Popover>
  );
}
