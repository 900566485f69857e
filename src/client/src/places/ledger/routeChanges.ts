import type { Schema } from '../../api/client';
import { count, exact } from '../../parts/format';

type Settings = Schema['RouteSettings'];
type Turn = Schema['TurnText'];

/** What a change did, one line for each thing. */
export function changesOf(before: Settings, after: Settings): string[] {
  const lines: string[] = [];
  if (before.leadsTo !== after.leadsTo) lines.push(`from ${before.leadsTo} to ${after.leadsTo}`);
  if (before.paused !== after.paused) lines.push(after.paused ? 'paused' : 'taken up again');
  if (before.endsAt !== after.endsAt) lines.push(after.endsAt ? `ends ${exact(after.endsAt)}` : 'no end any more');
  if ((before.mostUses ?? null) !== (after.mostUses ?? null))
    lines.push(after.mostUses ? `ends after ${count(after.mostUses)} uses` : 'uses do not end it any more');
  if (before.fallback !== after.fallback)
    lines.push(after.fallback ? `after its end to ${after.fallback}` : 'no fallback any more');
  const turned = (after.turns ?? []).map(turnSays).join('; ');
  if ((before.turns ?? []).map(turnSays).join('; ') !== turned) lines.push(turned || 'no other pages any more');
  if (!!before.permanent !== !!after.permanent)
    lines.push(after.permanent ? 'answers 301, which browsers remember' : 'answers 302 again');
  if (!!before.withoutTags !== !!after.withoutTags)
    lines.push(after.withoutTags ? 'hands no tags on' : 'hands its tags on again');
  if ((before.carries ?? 'nothing') !== (after.carries ?? 'nothing')) lines.push(carrySays[after.carries ?? 'nothing']);
  return lines;
}

/** What becomes of parameters behind a short link, in words. */
export const carrySays = {
  nothing: 'parameters behind it are left behind',
  keepTags: 'parameters behind it go on, and never overwrite the page’s own',
  overwrite: 'parameters behind it go on, and overwrite the page’s own',
} as const;

/** Another page in words. */
export function turnSays(turn: Turn): string {
  const when = [turn.from && `from ${moment(turn.from)}`, turn.until && `until ${moment(turn.until)}`].filter(Boolean);
  return [turn.leadsTo, ...when, turn.device && `on a ${turn.device}`].filter(Boolean).join(' ');
}

/** A local moment as it is read: 2026-12-24 18:00. */
const moment = (text: string) => text.replace('T', ' ').slice(0, 16);
