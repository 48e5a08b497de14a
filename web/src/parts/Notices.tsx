import { lazy, Suspense, useEffect, useState } from 'react';
import { notices } from './notices';

const Notifications = lazy(() => import('./NoticePlace').then(({ NoticePlace }) => ({ default: NoticePlace })));

/** Where notices stand, once there is one. */
export function Notices() {
  const [wanted, setWanted] = useState(false);
  useEffect(() => notices.onFirst(() => setWanted(true)), []);
  return wanted ? (
    <Suspense fallback={null}>
      <Notifications />
    </Suspense>
  ) : null;
}
