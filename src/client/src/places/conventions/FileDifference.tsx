import type { Schema } from '../../api/client';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { DifferenceList } from './DifferenceList';

interface FileDifferenceProps {
  name: string;
  read: Schema['FileRead'];
  onTake: () => void;
  onClose: () => void;
}

/** What a file would change, before it becomes the draft. */
export function FileDifference({ name, read, onTake, onClose }: FileDifferenceProps) {
  return (
    <Inspector title={name} onClose={onClose}>
      <InspectorPart title="Changes in this file">
        <DifferenceList changes={read.changes} />
      </InspectorPart>
      <button type="button" className="button-main self-start" disabled={read.changes.length === 0} onClick={onTake}>
        Use as draft
      </button>
    </Inspector>
  );
}
