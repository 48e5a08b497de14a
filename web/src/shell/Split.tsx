import { useLocalStorage } from '@mantine/hooks';
import { type PointerEvent, type ReactNode, useRef } from 'react';
import classes from './Split.module.css';

interface SplitProps {
  /** The list, at the left. */
  children: ReactNode;
  /** What is beside it; nothing leaves the list the whole width. */
  evidence?: ReactNode;
}

/** A list with its evidence beside it, never over it. The width is remembered; it is set by pointer or by arrow keys. */
export function Split({ children, evidence }: SplitProps) {
  const [stored, setShare] = useLocalStorage({ key: 'evidence-share', defaultValue: 46 });
  const share = typeof stored === 'number' && stored >= 20 && stored <= 75 ? stored : 46;
  const frame = useRef<HTMLDivElement>(null);

  const drag = (event: PointerEvent<HTMLHRElement>) => {
    const box = frame.current?.getBoundingClientRect();
    if (box && event.buttons === 1) {
      setShare(Math.min(Math.max(((box.right - event.clientX) / box.width) * 100, 20), 75));
    }
  };

  return (
    <div ref={frame} className={classes.split} data-open={evidence ? true : undefined}>
      <section className={classes.list} aria-label="List">
        {children}
      </section>
      {evidence && (
        <>
          <hr
            className={classes.edge}
            aria-label="Width of the evidence"
            aria-orientation="vertical"
            aria-valuenow={Math.round(share)}
            tabIndex={0}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={drag}
            onKeyDown={(event) => {
              const by = { ArrowLeft: 2, ArrowRight: -2 }[event.key];
              if (by) {
                event.stopPropagation();
                setShare(Math.min(Math.max(share + by, 20), 75));
              }
            }}
          />
          <section className={classes.evidence} style={{ flexBasis: `${share}%` }} aria-label="Evidence">
            {evidence}
          </section>
        </>
      )}
    </div>
  );
}
