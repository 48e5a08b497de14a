import { Button } from '@mantine/core';
import { notices } from '../api/notices';

/**
 * Says what was done and offers a deed that takes it back. It stays until that is done or it is closed: nobody is
 * given so many seconds to read it (WCAG 2.2.1).
 */
export function offer(said: string, label: string, takeBack: () => void) {
  const id = notices.show({
    autoClose: false,
    message: (
      <>
        {said}{' '}
        <Button
          onClick={() => {
            takeBack();
            notices.hide(id);
          }}
        >
          {label}
        </Button>
      </>
    ),
  });
}
