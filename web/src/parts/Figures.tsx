import type { ReactNode } from 'react';
import classes from './Figures.module.css';

interface FiguresProps {
  heads: string[];
  /** A key and the cells of each row, the first of them words, the others figures. */
  rows: { key: string; cells: ReactNode[] }[];
}

/** A plain table of figures that is read whole: words at the left, figures at the right. */
export function Figures({ heads, rows }: FiguresProps) {
  return (
    <table className={classes.figures}>
      <thead>
        <tr>
          {heads.map((head) => (
            <th key={head}>{head}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ key, cells }) => (
          <tr key={key}>
            {cells.map((cell, index) => (
              <td key={heads[index]}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
