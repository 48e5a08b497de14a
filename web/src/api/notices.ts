import type { NotificationData } from '@mantine/notifications';

/** Called once, when there is something to show. */
let first = () => {};
let shown: Promise<typeof import('@mantine/notifications')> | undefined;

const load = () => {
  shown ??= import('@mantine/notifications');
  first();
  return shown;
};
let last = 0;

/** What is said beside the screen. The part that shows it is fetched with the first of them. */
export const notices = {
  /** @returns the notice's id, by which it can be taken away. */
  show(notice: NotificationData): string {
    last += 1;
    const id = `notice-${last}`;
    load().then((part) => part.notifications.show({ ...notice, id }));
    return id;
  },
  hide(id: string) {
    load().then((part) => part.notifications.hide(id));
  },
  onFirst(callback: () => void) {
    first = callback;
  },
};
