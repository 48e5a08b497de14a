import { useLocalStorage } from '@mantine/hooks';

/** Who works at this screen, as a colleague would be named; remembered here. */
export function useAuthor() {
  const [author, setAuthor] = useLocalStorage({ key: 'author', defaultValue: '' });
  return { author, setAuthor };
}
