import { ago, exact } from '../../parts/format';

/** A moment as it is told, with the exact one on hover, and who it was. */
export function When({ at, by, otherwise = '' }: { at: string | null; by?: string; otherwise?: string }) {
  return at === null ? (
    otherwise
  ) : (
    <span title={exact(at)}>
      {ago(at)}
      {by && ` by ${by}`}
    </span>
  );
}
