import { useLocalStorage } from '@mantine/hooks';
import { useSession } from '../session/session';

/** Who works at this screen: whoever has signed in, else as a colleague would be named, remembered here. */
export function useAuthor() {
  const [author, setAuthor] = useLocalStorage({ key: 'author', defaultValue: '' });
  const signedIn = useSession()?.person?.name;
  return { author: signedIn ?? author, setAuthor, signedIn: signedIn !== undefined };
}
