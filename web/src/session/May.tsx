import type { ReactNode } from 'react';
import { type Role, useMay } from './session';

interface MayProps {
  least: Role;
  children: ReactNode;
}

/** What only some may do is shown to them alone. */
export function May({ least, children }: MayProps) {
  return useMay(least) ? children : null;
}
