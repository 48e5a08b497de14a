import { useQuery } from '@tanstack/react-query';
import { lazy, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { Fetched } from '../parts/Fetched';
import { Loading } from '../parts/Loading';

const SignInView = lazy(async () => ({ default: (await import('./SignInView')).SignInView }));

/** Shows the application to whoever may see it, and asks everybody else who they are, at the address they came for. */
export function Gate({ children }: { children: ReactNode }) {
  const { pathname } = useLocation();
  const session = useQuery(queries.session());
  if (session.isError && !session.data) {
    return <Failure error={session.error} />;
  }
  if (!session.data) {
    return <Loading />;
  }
  if (session.data.alone || session.data.person || pathname.startsWith('/join/')) {
    return children;
  }
  if (session.data.first_owner_awaited) {
    return (
      <EmptyState
        title="Nobody has an account here yet."
        hint="Where Orvant was started it has printed a link, good once, with which its first owner is made. bin/orvant invite prints another."
      />
    );
  }
  return (
    <Fetched>
      <SignInView />
    </Fetched>
  );
}
