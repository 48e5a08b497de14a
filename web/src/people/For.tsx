import { Outlet, useOutletContext } from 'react-router';
import { EmptyState } from '../parts/EmptyState';
import { type Role, useMay } from '../session/session';

/** Screens for those who have at least a role; the others are told so. */
export function For({ least }: { least: Role }) {
  const context = useOutletContext();
  return useMay(least) ? (
    <Outlet context={context} />
  ) : (
    <EmptyState
      title={`This is for ${least}s.`}
      hint="Who has which role stands under People; an owner can change yours."
    />
  );
}
