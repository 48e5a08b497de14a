import { lazy, useEffect, useState } from 'react';
import { notices } from '../api/notices';
import { Fetched } from './Fetched';

const Notifications = lazy(() => import('./NoticePlace').then(({ NoticePlace }) => ({ default: NoticePlace })));

/** Where notices stand, once there is one. */
export function Notices() {
  const [wanted, setWanted] = useState(false);
  useEffect(() => notices.onFirst(() => setWanted(true)), []);
  return wanted ? (
    <Fetched meanwhile={null}>
      <Notifications />
    </Fetched>
  ) : null;
}
