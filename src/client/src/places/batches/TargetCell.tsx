import type { PointerEvent } from 'react';
import { CellEditor } from './CellEditor';
import type { Cell, Place } from './cells';
import type { Target } from './recipe';

interface TargetCellProps {
  target: Target;
  place: Place;
  /** Undefined until the row is loaded, as is the cell. */
  rowNumber: number | undefined;
  cell: Cell | undefined;
  isActive: boolean;
  isChosen: boolean;
  /** It is filled when what is dragged is let go. */
  isFilling: boolean;
  /** The corner that is dragged to fill. */
  hasHandle: boolean;
  /** What is being typed; null while nothing is. */
  editing: string | null;
  known: string[];
  onClick: (shift: boolean) => void;
  onPress: (shift: boolean) => void;
  /** The pointer passes over it with its button held. */
  onPass: () => void;
  onEdit: () => void;
  /** What was typed, and how far to go on from here. */
  onTyped: (text: string, down: number, across: number) => void;
  onCancel: () => void;
  onDrag: (event: PointerEvent) => void;
  onFillToEnd: () => void;
}

/** A value that can be typed for one row alone. */
export function TargetCell(props: TargetCellProps) {
  const { target, place, rowNumber, cell, isActive, isChosen, isFilling, hasHandle, editing, known } = props;
  const { onClick, onPress, onPass, onEdit, onTyped, onCancel, onDrag, onFillToEnd } = props;
  return (
    <span
      role="gridcell"
      data-place={`${place.row} ${place.column}`}
      tabIndex={isActive ? 0 : -1}
      aria-label={`${target.label}, row ${rowNumber ?? ''}: ${cell?.text ?? ''}`}
      aria-selected={isChosen}
      title={cell?.text}
      className={`relative flex h-full min-w-0 cursor-cell items-center pl-2 select-none focus-visible:outline-offset-[-2px] ${place.column === 0 ? 'border-l border-accent' : ''} ${isChosen || isFilling ? 'bg-accent-wash' : ''} ${isFilling ? 'outline-1 -outline-offset-1 outline-accent outline-dashed' : ''}`}
      onClick={(e) => {
        e.stopPropagation();
        onClick(e.shiftKey);
      }}
      onPointerDown={(e) => e.button === 0 && onPress(e.shiftKey)}
      onPointerEnter={(e) => e.buttons === 1 && onPass()}
      onDoubleClick={onEdit}
    >
      {editing !== null ? (
        <CellEditor
          label={`${target.label}, row ${rowNumber ?? ''}`}
          text={editing}
          known={known}
          onDone={onTyped}
          onCancel={onCancel}
        />
      ) : (
        <span
          className={`truncate ${cell?.from === 'typed' ? 'border-b-2 border-accent' : cell?.from === 'convention' ? 'text-quiet' : ''}`}
        >
          {cell?.text}
        </span>
      )}
      {hasHandle && (
        <span
          aria-hidden
          title="Drag down to fill; twice to fill to the end"
          className="absolute -right-1 bottom-0 z-10 size-2.5 cursor-row-resize border border-sheet bg-accent"
          onPointerDown={onDrag}
          onDoubleClick={(e) => {
            e.stopPropagation();
            onFillToEnd();
          }}
        />
      )}
    </span>
  );
}
