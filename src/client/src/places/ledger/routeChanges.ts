import type { Schema } from '../../api/client';
import { count, exact } from '../../parts/format';

type Settings = Schema['RouteSettings'];
type Turn = Schema['RedirectRuleText'];

/** What a change did, one line for each thing. */
export function changesOf(before: Settings, after: Settings): string[] {
  const lines: string[] = [];
  if (before.leadsTo !== after.leadsTo) lines.push(`from ${before.leadsTo} to ${after.leadsTo}`);
  if (before.paused !== after.paused) lines.push(after.paused ? 'paused' : 'resumed');
  if (before.endsAt !== after.endsAt) lines.push(after.endsAt ? `ends ${exact(after.endsAt)}` : 'end removed');
  if ((before.mostUses ?? null) !== (after.mostUses ?? null))
    lines.push(after.mostUses ? `ends after ${count(after.mostUses)} uses` : 'no limit of uses any more');
  if (before.fallback !== after.fallback)
    lines.push(after.fallback ? `after its end opens ${after.fallback}` : 'no page after the end any more');
  const turned = (after.turns ?? []).map(turnSays).join('; ');
  if ((before.turns ?? []).map(turnSays).join('; ') !== turned) lines.push(turned || 'no redirect rules any more');
  if (!!before.permanent !== !!after.permanent)
    lines.push(after.permanent ? 'redirects permanently (301); browsers remember it' : 'redirects with 302 again');
  if (!!before.withoutTags !== !!after.withoutTags)
    lines.push(after.withoutTags ? 'sends no tags' : 'sends its tags again');
  if (!!before.clickIds !== !!after.clickIds)
    lines.push(after.clickIds ? 'gives each click an id' : 'gives clicks no id any more');
  if ((before.carries ?? 'nothing') !== (after.carries ?? 'nothing')) lines.push(carrySays[after.carries ?? 'nothing']);
  return lines;
}

/** What becomes of parameters behind a short link, in words. */
export const carrySays = {
  nothing: 'parameters behind it are dropped',
  keepTags: 'parameters behind it are added; existing ones stay',
  overwrite: 'parameters behind it are added and replace existing ones',
} as const;

/** Another page in words. */
export function turnSays(turn: Turn): string {
  const when = [turn.from && `from ${moment(turn.from)}`, turn.until && `until ${moment(turn.until)}`].filter(Boolean);
  return [turn.leadsTo, ...when, turn.device && `on a ${turn.device}`].filter(Boolean).join(' ');
}

/** A local moment as it is read: 2026-12-24 18:00. */
const moment = (text: string) => text.replace('T', ' ').slice(0, 16);
