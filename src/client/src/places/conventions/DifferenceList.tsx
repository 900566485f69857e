import type { Schema } from '../../api/client';

const kinds: Record<Schema['ChangeKind'], string> = {
  added: 'new',
  removed: 'gone',
  changed: 'changed',
  moved: 'moved',
};

/** What two conventions differ in, one line each. */
export function DifferenceList({ changes }: { changes: Schema['DocumentChange'][] }) {
  if (changes.length === 0) return <p>No differences.</p>;
  return (
    <ul aria-label="Differences">
      {changes.map((change, i) => (
        <li key={i} className="border-t border-line py-1.5">
          <span className="flex items-baseline justify-between gap-2">
            <span className="font-medium">{change.what}</span>
            <span className="caption shrink-0">{kinds[change.kind]}</span>
          </span>
          <span className="block text-xs break-words">
            {change.property && <span className="text-quiet">{change.property}: </span>}
            {change.before && <del className="decoration-error">{change.before}</del>}
            {change.before && change.after && ' → '}
            {change.after && <ins className="no-underline">{change.after}</ins>}
          </span>
        </li>
      ))}
    </ul>
  );
}
