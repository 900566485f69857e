import { Board } from './Board';
import type { Figures, MeasureName } from './measures';

interface LinkBoardProps {
  label: string;
  /** What its only line is called. */
  name: string;
  figures: Figures;
  stations: readonly MeasureName[];
  columns: readonly MeasureName[];
}

/** One line of stations, as tall as it is. */
export const LinkBoard = ({ label, name, figures, stations, columns }: LinkBoardProps) => (
  <div className="flex h-[77px] flex-col border-b border-line">
    <Board
      label={label}
      head=""
      rows={[{ id: 'all', level: 0, name, figures }]}
      stations={stations}
      columns={columns}
    />
  </div>
);
