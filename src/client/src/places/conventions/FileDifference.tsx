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
      <InspectorPart title="What the file changes">
        <DifferenceList changes={read.changes} />
      </InspectorPart>
      <button type="button" className="button-main self-start" disabled={read.changes.length === 0} onClick={onTake}>
        Make it the draft
      </button>
    </Inspector>
  );
}
