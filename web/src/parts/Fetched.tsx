import { Button } from '@mantine/core';
import { Component, type ReactNode, Suspense } from 'react';
import { EmptyState } from './EmptyState';
import { Loading } from './Loading';

interface FetchedProps {
  children: ReactNode;
  /** What stands there until it has come. */
  meanwhile?: ReactNode;
  /** Where it stands: what tripped at one address is tried again at another. */
  at?: string;
}

/** Parts of Orvant that are fetched when they are first needed. Where one does not come or trips, that is said in its place. */
export function Fetched({ children, meanwhile = <Loading />, at = '' }: FetchedProps) {
  return (
    <Tripped at={at}>
      <Suspense fallback={meanwhile}>{children}</Suspense>
    </Tripped>
  );
}

/** Only a class can hear that what it shows has tripped. */
class Tripped extends Component<{ children: ReactNode; at: string }, { reason?: string; at: string }> {
  state: { reason?: string; at: string } = { at: this.props.at };

  static getDerivedStateFromProps({ at }: { at: string }, before: { at: string }) {
    return at === before.at ? null : { at, reason: undefined };
  }

  static getDerivedStateFromError(error: unknown) {
    return { reason: error instanceof Error ? error.message : String(error) };
  }

  render() {
    if (this.state.reason === undefined) {
      return this.props.children;
    }
    return (
      <div role="alert">
        <EmptyState
          title="This part of Orvant could not be shown."
          hint={`The server may be away, or Orvant was renewed since this page was opened. (${this.state.reason.slice(0, 200)})`}
        >
          <Button onClick={() => window.location.reload()}>Load the page again</Button>
        </EmptyState>
      </div>
    );
  }
}
