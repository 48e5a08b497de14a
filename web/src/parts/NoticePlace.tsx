import '@mantine/core/styles/Notification.css';
import '@mantine/notifications/styles.css';
import { Notifications } from '@mantine/notifications';

/** The corner in which notices stand. */
export function NoticePlace() {
  return <Notifications position="bottom-left" />;
}
