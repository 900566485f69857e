import type { Schema } from '../../api/client';
import { exact } from '../../parts/format';

type Settings = Schema['RouteSettings'];

/** What a change did, one line for each thing. */
export function changesOf(before: Settings, after: Settings): string[] {
  const lines: string[] = [];
  if (before.leadsTo !== after.leadsTo) lines.push(`from ${before.leadsTo} to ${after.leadsTo}`);
  if (before.paused !== after.paused) lines.push(after.paused ? 'paused' : 'taken up again');
  if (before.endsAt !== after.endsAt) lines.push(after.endsAt ? `ends ${exact(after.endsAt)}` : 'no end any more');
  if (before.fallback !== after.fallback)
    lines.push(after.fallback ? `after its end to ${after.fallback}` : 'no fallback any more');
  return lines;
}
