import { Copy } from '../parts/Copy';
import classes from './People.module.css';

interface OnceProps {
  said: string;
  text: string;
  what: string;
}

/** What is shown once and never again. */
export function Once({ said, text, what }: OnceProps) {
  return (
    <div className={classes.once} role="status">
      <p className={classes.said}>{said}</p>
      <span className={classes.secret}>{text}</span> <Copy text={text} what={what} />
    </div>
  );
}
